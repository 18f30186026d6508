import {
  ORIGINAL,
  SatchelError,
  decodeText,
  lineOrigins,
  nameKey,
  type Decision,
  type TargetPath,
  type MergeLayer,
} from '@/core';
import type { MergedLine, StackQuestions } from '../contract';
import { contentAt } from '../game/content';
import { mergeNow } from '../game/mergeNow';
import type { Session } from '../game/session';

/** Puts one file together out of all packs that bring it. */
export async function startMerge(session: Session, target: TargetPath): Promise<string> {
  const providers =
    session.picture.resolution.owned
      .get(nameKey(target))
      ?.providers.filter(({ packId, made }) => packId !== '' && !made) ?? [];
  if (providers.length < 2) throw new SatchelError('cannot-merge', { path: target, why: 'only one pack has it' });
  const before = session.mergeLayers().find((merge) => nameKey(merge.target) === nameKey(target));
  if (before) return before.id;
  const name = target.slice(target.lastIndexOf('/') + 1);
  const note: MergeLayer = {
    kind: 'merge',
    id: crypto.randomUUID(),
    name: `Merged: ${name}`,
    on: true,
    target,
    sources: providers.map(({ layer }) => layer),
    decisions: [],
  };
  const { outcome } = await mergeNow(session, note, session.picture.layers, session.picture.state);
  if (!outcome.ok) throw new SatchelError('cannot-merge', { path: target, why: outcome.why });
  await session.saveStack({ layers: [...session.stack.layers, note] });
  return note.id;
}

const change = (session: Session, id: string, to: (note: MergeLayer) => MergeLayer): Promise<void> =>
  session.saveStack({
    layers: session.stack.layers.map((layer) => (layer.kind === 'merge' && layer.id === id ? to(layer) : layer)),
  });

/** Decides one conflict; without `take` it is open again. */
export const decideConflict = (
  session: Session,
  { merge, at, was, take }: { merge: string; at: string; was: string; take: Decision['take'] | undefined },
): Promise<void> =>
  change(session, merge, (note) => ({
    ...note,
    decisions: [
      ...note.decisions.filter((one) => one.at !== at || one.was !== was),
      ...(take === undefined ? [] : [{ at, was, take }]),
    ],
  }));

/** Leaves all that is still open to one side. */
export async function decideRest(session: Session, id: string, take: 'lower' | 'upper'): Promise<void> {
  const outcome = session.picture.merges.find(({ note }) => note.id === id)?.outcome;
  if (!outcome?.ok) return;
  const open = outcome.merge.conflicts
    .filter(({ taken }) => taken === undefined)
    .map(({ at, was }) => ({ at, was, take }));
  await change(session, id, (note) => ({ ...note, decisions: [...note.decisions, ...open] }));
}

/** Forgets decisions whose conflicts are no longer what they were about. */
export async function forgetStale(session: Session, id: string): Promise<void> {
  const outcome = session.picture.merges.find(({ note }) => note.id === id)?.outcome;
  if (outcome?.ok)
    await change(session, id, (note) => ({
      ...note,
      decisions: note.decisions.filter((one) => !outcome.merge.stale.includes(one)),
    }));
}

/** Lines of a merged file that are shown. */
const MOST_LINES = 20_000;

/** A merged file as it is now, line by line, with what each comes from. What is undecided is the higher pack's. */
export async function mergedLines(session: Session, id: string): Promise<ReturnType<StackQuestions['merged lines']>> {
  const found = session.picture.merges.find(({ note }) => note.id === id);
  if (!found?.outcome.ok) return { lines: [], total: 0 };
  const versions: { from: string; text: string }[] = [];
  for (const from of [ORIGINAL, ...found.sources]) {
    const bytes = await contentAt(session, found.note.target, from);
    if (bytes) versions.push({ from, text: decodeText(bytes).text });
  }
  const lines = lineOrigins(
    found.outcome.merge.text,
    versions.map(({ text }) => text),
  );
  const whoseIs = (from: readonly string[]): MergedLine['whose'] =>
    from.includes(ORIGINAL) ? 'game' : from.length > 0 ? 'packs' : 'player';
  return {
    lines: lines.slice(0, MOST_LINES).map(({ text, from }) => {
      const layers = from.flatMap((version) => versions[version]?.from ?? []);
      const whose = whoseIs(layers);
      return { text, whose, from: whose === 'packs' ? layers : [] };
    }),
    total: lines.length,
  };
}
