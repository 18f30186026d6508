import { SatchelError, reasonOf } from '../errors';
import { sha256 } from '../hash';
import type { Layer } from '../layers/layer';
import { nameKey, type TargetPath } from '../paths/paths';
import type { Dialect } from '../settings/dialects';
import { hasOpenConflicts, mergeFile, type Decision, type MergeOutcome } from './mergeFile';

/** A merge as the player wants it: one file out of what several layers make of it. */
export interface MergeNote {
  id: string;
  name: string;
  on: boolean;
  target: TargetPath;
  /** The layers whose files are merged. */
  sources: readonly string[];
  decisions: readonly Decision[];
}

/** A merge as it comes out now. */
export interface ComputedMerge<Note extends MergeNote = MergeNote> {
  note: Note;
  outcome: MergeOutcome;
  /** Set where it can be used: nothing in it is undecided. */
  layer: Extract<Layer, { kind: 'merge' }> | undefined;
  /** The layers whose files are in it now, the lowest first. */
  sources: string[];
  /** What it was computed from: while that is the same, it need not be computed again. */
  inputs: string;
}

/** The bytes that a merge is made of. */
export interface MergeBytes {
  /** The game's own file as it was; undefined where it had none. */
  original: Uint8Array<ArrayBuffer> | undefined;
  /** One file of a pack. @throws SatchelError where it cannot be read */
  read(packId: string, path: string): Promise<Uint8Array>;
  dialect: Dialect | undefined;
}

type Claim = { layer: Extract<Layer, { kind: 'pack' }>; file: Extract<Layer, { kind: 'pack' }>['files'][number] };

/** What the layers that a merge is made of bring to its target now, the lowest first. */
const claimsOf = (note: MergeNote, layers: readonly Layer[]): Claim[] =>
  layers.flatMap((layer) => {
    if (layer.kind !== 'pack' || !note.sources.includes(layer.id)) return [];
    const key = nameKey(note.target);
    const file = layer.files.findLast((one) => one.inside === undefined && nameKey(one.target) === key);
    return file ? [{ layer, file }] : [];
  });

/**
 * Computes a merge out of what its sources hold now.
 *
 * @param layers the layers below it, the lowest first
 * @param before what came out the last time; returned as it is where nothing that it was made of has changed
 */
export async function computeMerge<Note extends MergeNote>(
  note: Note,
  layers: readonly Layer[],
  bytes: MergeBytes,
  before?: ComputedMerge<Note>,
): Promise<ComputedMerge<Note>> {
  const claims = claimsOf(note, layers);
  const inputs = JSON.stringify([
    note.on,
    bytes.original ? await sha256(bytes.original) : '',
    claims.map(({ layer, file }) => [layer.id, layer.packId, file.path, file.size, file.crc32, layer.name]),
  ]);
  if (before?.inputs === inputs) return before;
  const outcome = await outcomeOf(note, claims, bytes);
  const { id, name, target } = note;
  return {
    note,
    outcome,
    inputs,
    sources: claims.map(({ layer }) => layer.id),
    layer:
      note.on && outcome.ok && !hasOpenConflicts(outcome.merge)
        ? { kind: 'merge', id, name, files: [{ target, bytes: outcome.merge.bytes }] }
        : undefined,
  };
}

/**
 * What cannot be read makes the merge stand aside, not the whole stack: a damaged pack is found and told when it is
 * deployed.
 */
async function outcomeOf(
  note: MergeNote,
  claims: readonly Claim[],
  { original, read, dialect }: MergeBytes,
): Promise<MergeOutcome> {
  try {
    const sources = await Promise.all(
      claims.map(async ({ layer, file }) => ({ name: layer.name, bytes: await read(layer.packId, file.path) })),
    );
    return mergeFile(original, sources, dialect, note.decisions);
  } catch (error) {
    if (error instanceof SatchelError) return { ok: false, why: reasonOf(error) };
    throw error;
  }
}
