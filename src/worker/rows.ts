import { LEFT_OUT_SAYS, RuleBook, isUnder, joinPath, leftOutOf, nameKey, readLedgerSteps, targetOf, type Difference, type ImageInfo, type JournalStep, type PlanStep, type TreeRow } from '@/core';
import type { PlaceRow, Row, RowsQuery, StepRow } from './api';
import { overlapTree, relationRows } from './overlaps';
import { presentRows } from './present';
import type { Session } from './session';
import { differences, restorePlan } from './safety';
import { settingRows } from './settings';

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
    case 'restore':
      return stepRows(session, (await restorePlan(session, query.scope)).steps, query.search);
    case 'difference':
      return differenceRows(session, await differences(session, query.from, query.to), query.search);
    case 'settings':
      return settingRows(session, query.file, query.search);
    case 'overlaps':
      return overlapTree(session, query.all).rows(new Set(query.open), query.search);
    case 'present':
      return presentRows(session, query);
    case 'relations':
      return relationRows(session, query.layer, query.relation, query.search);
  }
}

const describe = (image: ImageInfo | undefined): string | undefined => image && `${image.width} × ${image.height}, ${image.format.toUpperCase().replace(/^(DDS|KTX2) /, '')}${image.mipLevels > 1 ? `, ${image.mipLevels} levels` : ''}`;

async function treeRows(session: Session, query: Extract<RowsQuery, { view: 'pack' | 'place' }>): Promise<LazyRow[]> {
  const layer = session.layer(query.layer);
  const { pack, tree, images } = await session.openPack(layer.packId);
  const { placement } = layer;
  const rules = new RuleBook(placement);
  const out = leftOutOf(placement, pack.entries, rules);
  const outCounts = new Map<string, number>();
  if (query.view === 'place')
    for (const path of out.keys()) for (let cut = path.lastIndexOf('/'); cut > 0; cut = path.lastIndexOf('/', cut - 1)) outCounts.set(path.slice(0, cut), (outCounts.get(path.slice(0, cut)) ?? 0) + 1);
  return tree.rows(new Set(query.open), query.search).map((row: TreeRow) => (): PlaceRow => {
    if (row.kind === 'file') {
      const picture = describe(images.get(row.path));
      const why = out.get(row.path as never);
      const goal = why ? undefined : targetOf(row.path, rules);
      if (!goal) return { ...row, picture, goesTo: undefined, leftOut: why && LEFT_OUT_SAYS[why], placed: 0, effect: undefined };
      if (goal.edits) return { ...row, picture, goesTo: goal.target, leftOut: undefined, placed: 1, effect: 'edits' };
      return { ...row, picture, goesTo: goal.inside === undefined ? goal.target : `${goal.target}!/${goal.inside}`, leftOut: undefined, placed: 1, effect: goal.inside !== undefined ? 'inside' : session.picture.ownKeys.has(nameKey(goal.target)) ? 'replaces' : 'new' };
    }
    const placed = row.files - (outCounts.get(row.path) ?? 0);
    return { ...row, picture: undefined, goesTo: placed > 0 ? folderTarget(row.path, rules) : undefined, leftOut: placed === 0 ? 'Nothing in it goes into the game.' : undefined, placed, effect: undefined };
  });
}

/** Where a folder of the pack comes to lie, where one rule holds for it. */
function folderTarget(folder: string, rules: RuleBook): string | undefined {
  const rule = rules.find(`${folder}/x`)?.rule;
  if (!rule || !isUnder(folder, rule.from)) return undefined;
  const rest = folder.slice(rule.from === '' ? 0 : rule.from.length + 1);
  if (rule.as === 'inside') return `${rule.to}!/${joinPath(rule.inner, rest)}`;
  return rule.as === 'files' ? joinPath(rule.to, rest) : undefined;
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

const CHANGE: Record<string, Record<string, StepRow['action']>> = { absent: { pack: 'add', kept: 'add' }, pack: { absent: 'remove' }, kept: { absent: 'remove' } };

function differenceRows(session: Session, found: readonly Difference[], search: string): LazyRow[] {
  const words = nameKey(search).split(/\s+/).filter(Boolean);
  const packs = new Map(session.notes.map(({ id, file }) => [id, file]));
  const says = (content: Difference['before']) => (content.kind === 'absent' ? 'no such file' : content.kind === 'pack' ? `from “${packs.get(content.packId) ?? 'a pack that is not here any more'}”` : `what the app keeps as ${content.sha256.slice(0, 8)}`);
  return found
    .filter(({ target }) => words.every((word) => nameKey(target).includes(word)))
    .map(({ target, before, after }) => (): StepRow => ({ path: target, target, action: CHANGE[before.kind]?.[after.kind] ?? 'replace', reason: `Before: ${says(before)}. Then: ${says(after)}.`, size: after.kind === 'absent' ? 0 : after.size, tag: undefined }));
}
