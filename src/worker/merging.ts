import { SatchelError, dialectByName, hasOpenConflicts, mergeFile, nameKey, readBytes, readKept, reasonOf, sha256, splitTarget, type Decision, type DeployedState, type Dialect, type Layer, type MergeOutcome, type TargetPath } from '@/core';
import type { MergeLayer } from '@/storage/memory';
import type { Session } from './session';

/** A merge as it comes out now. */
export interface ComputedMerge {
  note: MergeLayer;
  outcome: MergeOutcome;
  /** Set where it can be used: nothing in it is undecided. */
  layer: Extract<Layer, { kind: 'merge' }> | undefined;
  /** The layers whose files are in it now, the lowest first. */
  sources: string[];
}

/** Outcomes by the stack's note of the merge: computed again only where an input has changed. */
const known = new WeakMap<MergeLayer, { inputs: string; computed: ComputedMerge }>();

/** The form of a file, by the card where it knows it, else by its name. */
export const dialectOf = (session: Session, target: TargetPath): Dialect | undefined => session.dialectOf(target) ?? dialectByName(target);

/** The game's own file as it was before anything touched it; undefined where it had none. */
export async function originalOf(session: Session, target: TargetPath, state: DeployedState): Promise<Uint8Array<ArrayBuffer> | undefined> {
  const record = state.files.find((file) => nameKey(file.target) === nameKey(target));
  if (record) return record.original.kind === 'kept' ? readKept(session.workshop.vault, record.original) : undefined;
  const { root, path } = splitTarget(target);
  const folder = session.workshop.folders[root];
  return folder && (await folder.stat(path)) ? readBytes(folder, path) : undefined;
}

/** Computes a merge out of what its sources hold now. */
export async function computeMerge(session: Session, note: MergeLayer, layers: readonly Layer[], state: DeployedState): Promise<ComputedMerge> {
  const key = nameKey(note.target);
  const claims = layers.flatMap((layer) => {
    const file = layer.kind === 'pack' && note.sources.includes(layer.id) ? layer.files.findLast((one) => one.inside === undefined && nameKey(one.target) === key) : undefined;
    return file && layer.kind === 'pack' ? [{ layer, file }] : [];
  });
  const original = await originalOf(session, note.target, state);
  const inputs = JSON.stringify([note.on, original ? await sha256(original) : '', claims.map(({ layer, file }) => [layer.id, layer.packId, file.path, file.size, file.crc32, layer.name])]);
  const before = known.get(note);
  if (before?.inputs === inputs) return before.computed;
  const outcome = await mergeClaims(session, note, original, claims);
  const usable = note.on && outcome.ok && !hasOpenConflicts(outcome.merge);
  const computed: ComputedMerge = {
    note, outcome, sources: claims.map(({ layer }) => layer.id),
    layer: usable ? { kind: 'merge', id: note.id, name: note.name, files: [{ target: note.target, bytes: outcome.merge.bytes }] } : undefined,
  };
  known.set(note, { inputs, computed });
  return computed;
}

/** What cannot be read makes the merge stand aside, not the whole stack: a damaged pack is found and told when it is deployed. */
async function mergeClaims(session: Session, note: MergeLayer, original: Uint8Array | undefined, claims: readonly { layer: { packId: string; name: string }; file: { path: string } }[]): Promise<MergeOutcome> {
  try {
    const sources = await Promise.all(claims.map(async ({ layer, file }) => ({ name: layer.name, bytes: await (await session.openPack(layer.packId)).pack.read(file.path) })));
    return mergeFile(original, sources, dialectOf(session, note.target), note.decisions);
  } catch (error) {
    if (error instanceof SatchelError) return { ok: false, why: reasonOf(error) };
    throw error;
  }
}

/** Puts one file together out of all packs that bring it. */
export async function startMerge(session: Session, target: TargetPath): Promise<string> {
  const providers = session.picture.resolution.owned.get(nameKey(target))?.providers.filter(({ packId, made }) => packId !== '' && !made) ?? [];
  if (providers.length < 2) throw new SatchelError('cannot-merge', { path: target, why: 'only one pack has it' });
  const before = session.mergeLayers().find((merge) => nameKey(merge.target) === nameKey(target));
  if (before) return before.id;
  const name = target.slice(target.lastIndexOf('/') + 1);
  const note: MergeLayer = { kind: 'merge', id: crypto.randomUUID(), name: `Merged: ${name}`, on: true, target, sources: providers.map(({ layer }) => layer), decisions: [] };
  const { outcome } = await computeMerge(session, note, session.picture.layers, session.picture.state);
  if (!outcome.ok) throw new SatchelError('cannot-merge', { path: target, why: outcome.why });
  await session.saveStack({ layers: [...session.stack.layers, note] });
  return note.id;
}

const change = (session: Session, id: string, to: (note: MergeLayer) => MergeLayer): Promise<void> =>
  session.saveStack({ layers: session.stack.layers.map((layer) => (layer.kind === 'merge' && layer.id === id ? to(layer) : layer)) });

/** Decides one conflict; without `take` it is open again. */
export const decideConflict = (session: Session, id: string, at: string, was: string, take: Decision['take'] | undefined): Promise<void> =>
  change(session, id, (note) => ({ ...note, decisions: [...note.decisions.filter((one) => one.at !== at || one.was !== was), ...(take === undefined ? [] : [{ at, was, take }])] }));

/** Leaves all that is still open to one side. */
export async function decideRest(session: Session, id: string, take: 'lower' | 'upper'): Promise<void> {
  const outcome = session.picture.merges.find(({ note }) => note.id === id)?.outcome;
  if (!outcome?.ok) return;
  const open = outcome.merge.conflicts.filter(({ taken }) => taken === undefined).map(({ at, was }) => ({ at, was, take }));
  await change(session, id, (note) => ({ ...note, decisions: [...note.decisions, ...open] }));
}

/** Forgets decisions whose conflicts are no longer what they were about. */
export async function forgetStale(session: Session, id: string): Promise<void> {
  const outcome = session.picture.merges.find(({ note }) => note.id === id)?.outcome;
  if (outcome?.ok) await change(session, id, (note) => ({ ...note, decisions: note.decisions.filter((one) => !outcome.merge.stale.includes(one)) }));
}
