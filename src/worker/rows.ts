import { LEFT_OUT_SAYS, isUnder, joinPath, leftOutOf, nameKey, readLedgerSteps, targetOf, type JournalStep, type PlanStep, type TreeRow } from '@/core';
import type { PlaceRow, Row, RowsQuery, StepRow } from './api';
import type { Session } from './session';

/** Rows are found as a list and made only for the part that is shown. */
type LazyRow = () => Row;

/** The rows that a query asks for, in order. */
export async function findRows(session: Session, query: RowsQuery): Promise<LazyRow[]> {
  switch (query.view) {
    case 'pack':
    case 'place':
      return treeRows(session, query);
    case 'plan': {
      const steps = session.picture.plan.steps.filter(({ action }) => query.action === 'all' || action === query.action);
      return stepRows(session, steps, query.search);
    }
    case 'ledger':
      return stepRows(session, await readLedgerSteps(session.workshop.vault, query.number), query.search);
  }
}

async function treeRows(session: Session, query: Extract<RowsQuery, { view: 'pack' | 'place' }>): Promise<LazyRow[]> {
  const layer = session.layer(query.layer);
  const { pack, tree } = await session.openPack(layer.packId);
  const { placement } = layer;
  const out = leftOutOf(placement, pack.entries);
  const outCounts = new Map<string, number>();
  if (query.view === 'place')
    for (const path of out.keys()) for (let cut = path.lastIndexOf('/'); cut > 0; cut = path.lastIndexOf('/', cut - 1)) outCounts.set(path.slice(0, cut), (outCounts.get(path.slice(0, cut)) ?? 0) + 1);
  return tree.rows(new Set(query.open), query.search).map((row: TreeRow) => (): PlaceRow => {
    if (row.kind === 'file') {
      const why = out.get(row.path as never);
      if (why) return { ...row, goesTo: undefined, leftOut: LEFT_OUT_SAYS[why], placed: 0, effect: undefined };
      const goesTo = targetOf(row.path as never, placement);
      return { ...row, goesTo, leftOut: undefined, placed: 1, effect: session.picture.ownKeys.has(nameKey(goesTo)) ? 'replaces' : 'new' };
    }
    const placed = row.files - (outCounts.get(row.path) ?? 0);
    const inside = isUnder(row.path, placement.strip);
    const goesTo = placed > 0 && inside ? (row.path === placement.strip ? placement.base : joinPath(placement.base, row.path.slice(placement.strip === '' ? 0 : placement.strip.length + 1))) : undefined;
    return { ...row, goesTo, leftOut: placed === 0 ? 'Nothing in it goes into the game.' : undefined, placed, effect: undefined };
  });
}

function stepRows(session: Session, steps: readonly (PlanStep | JournalStep)[], search: string): LazyRow[] {
  const words = nameKey(search).split(/\s+/).filter(Boolean);
  const tags = new Map(session.packLayers().map((layer) => [layer.id, layer.tag]));
  return steps
    .filter(({ target }) => words.every((word) => nameKey(target).includes(word)))
    .map((step) => (): StepRow => ({
      path: step.target, action: step.action, target: step.target, tag: tags.get(step.layer),
      reason: 'reason' in step ? step.reason : session.nameOf(step.layer),
      size: 'size' in step ? step.size : step.after.kind === 'absent' ? 0 : step.after.size,
    }));
}
