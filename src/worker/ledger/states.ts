import {
  SatchelError,
  playedAs,
  readLedgerSteps,
  reverseDifferences,
  squashSteps,
  wayToPlay,
  type Difference,
} from '@/core';
import { memory, type SetAside } from '@/storage/memory';
import type { Session } from '../game/session';

/** What differs between the states after two deployments; 0 is before the first one. */
export async function differences(session: Session, from: number, to: number): Promise<Difference[]> {
  const [low, high] = [Math.min(from, to), Math.max(from, to)];
  const numbers = session.picture.ledger
    .map(({ number }) => number)
    .filter((number) => number > low && number <= high)
    .sort((a, b) => a - b);
  const found = squashSteps(
    await Promise.all(numbers.map((number) => readLedgerSteps(session.workshop.vault, number))),
  );
  return from <= to ? found : reverseDifferences(found);
}

/**
 * Takes the stack as it was at an earlier deployment; nothing is written before the player deploys it.
 *
 * @returns names of packs that are not here any more
 */
export async function goBack(session: Session, number: number, aside: SetAside[]): Promise<string[]> {
  const then = await memory.snapshot(session.game.id, number, aside);
  if (!then) throw new SatchelError('unknown-thing', { what: `state after deployment ${number}` });
  const { stack, gone } = playedAs(session.stack, wayToPlay(then), (packId) => session.note(packId) !== undefined);
  await session.replaceStack(stack);
  return gone.map(({ name }) => name);
}
