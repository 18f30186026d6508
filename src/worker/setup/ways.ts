import {
  SatchelError,
  nameKey,
  otherIn,
  playedAs,
  resolveLayers,
  wayToPlay,
  whatChanged,
  type Resolution,
  type SetUp,
  type Stack,
  type WayToPlay,
} from '@/core';
import { memory } from '@/storage/memory';
import type { WayRef, WaysCompared } from '../contract';
import { decidedIn } from '../game/decided';
import { layersOf } from '../game/stackLayers';
import { LISTED } from '../game/planView';
import type { Session } from '../game/session';

export function setUpOf(session: Session, id: string): SetUp {
  const found = session.setUps.find((one) => one.id === id);
  if (!found) throw new SatchelError('unknown-thing', { what: 'set-up of that name' });
  return found;
}

/** A way to play, wherever it is kept. */
export async function wayOf(session: Session, of: WayRef): Promise<WayToPlay> {
  if (of === 'now') return wayToPlay(session.stack);
  if ('setUp' in of) return setUpOf(session, of.setUp).stack;
  const then = await memory.snapshot(session.game.id, of.deployment, []);
  if (!then) throw new SatchelError('unknown-thing', { what: `state after deployment ${of.deployment}` });
  return wayToPlay(then);
}

/** The stack that plays a way, with the packs that are at hand. */
export const stackOf = (session: Session, way: WayToPlay): ReturnType<typeof playedAs> =>
  playedAs(session.stack, way, (packId) => session.note(packId) !== undefined);

export async function compareWays(session: Session, a: WayRef, b: WayRef): Promise<WaysCompared> {
  const [from, to] = [await stackFor(session, a), await stackFor(session, b)];
  const [was, is] = [await resolutionOf(session, from), await resolutionOf(session, to)];
  const { files, keys } = otherIn(was, is);
  const name = (id: string | undefined) =>
    id === undefined ? undefined : ([...to.layers, ...from.layers].find((one) => one.id === id)?.name ?? 'A pack');
  const now = decidedIn(session);
  return {
    says: whatChanged({ ...now, stack: from }, { ...now, stack: to }),
    files: {
      total: files.length,
      some: files.slice(0, LISTED).map((one) => ({
        target: one.target,
        a: name(one.a),
        b: name(one.b),
        own: session.picture.ownKeys.has(nameKey(one.target)),
      })),
    },
    keys: {
      total: keys.length,
      some: keys.slice(0, LISTED).map(({ target, path, ...wished }) => ({
        file: target,
        path: path.join(' › '),
        a: wished.a,
        b: wished.b,
      })),
    },
  };
}

const stackFor = async (session: Session, of: WayRef): Promise<Stack> =>
  of === 'now' ? session.stack : stackOf(session, await wayOf(session, of)).stack;

async function resolutionOf(session: Session, stack: Stack): Promise<Resolution> {
  const { layers } = await layersOf(session, stack, session.picture.state);
  return resolveLayers(layers, stack.picks);
}
