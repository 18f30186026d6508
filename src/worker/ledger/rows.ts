import { holdsAll, nameKey, readLedgerSteps, searchWords, type Difference } from '@/core';
import type { QueryOf, StepRow } from '../contract';
import type { Session } from '../game/session';
import { stepRows, type LazyRow } from '../game/stepRows';
import { restorePlan } from './restorePart';
import { differences } from './states';

const CHANGE: Record<string, Record<string, StepRow['action']>> = {
  absent: { pack: 'add', kept: 'add' },
  pack: { absent: 'remove' },
  kept: { absent: 'remove' },
};

export const ledgerRows = async (session: Session, { number, search }: QueryOf<'ledger'>): Promise<LazyRow[]> =>
  stepRows(session, await readLedgerSteps(session.workshop.vault, number), search);

export const restoreRows = async (session: Session, { scope, search }: QueryOf<'restore'>): Promise<LazyRow[]> =>
  stepRows(session, (await restorePlan(session, scope)).steps, search);

export async function differenceRows(
  session: Session,
  { from, to, search }: QueryOf<'difference'>,
): Promise<LazyRow[]> {
  const found = await differences(session, from, to);
  const words = searchWords(search);
  const packs = new Map(session.notes.map(({ id, file }) => [id, file]));
  const says = (content: Difference['before']) =>
    content.kind === 'absent'
      ? 'no such file'
      : content.kind === 'pack'
        ? `from “${packs.get(content.packId) ?? 'a pack that is not here any more'}”`
        : `what the app keeps as ${content.sha256.slice(0, 8)}`;
  return found
    .filter(({ target }) => holdsAll(nameKey(target), words))
    .map(({ target, before, after }) => (): StepRow => ({
      path: target,
      target,
      action: CHANGE[before.kind]?.[after.kind] ?? 'replace',
      reason: `Before: ${says(before)}. Then: ${says(after)}.`,
      size: after.kind === 'absent' ? 0 : after.size,
      tag: undefined,
    }));
}
