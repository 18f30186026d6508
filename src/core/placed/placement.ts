import { z } from 'zod';
import type { PackEntry } from '../archives/pack';
import { baseName, isUnder, joinPath, type PackPath, type TargetPath } from '../paths/paths';
import { asPackPath, asTarget } from '../paths/targetSchema';
import type { Edit } from '../settings/edits';
import type { LeftOutReason } from './baggage';

/**
 * One rule of a placement. `files`: what lies under `from` goes under `to`. `file`: the file `from` goes to exactly
 * `to`. `whole`: the archive itself, unopened, goes to `to`. `inside`: what lies under `from` goes into the archive
 * `to`, under `inner`. `edits`: the settings in `from` become edits of the living file `to`.
 */
export type PlaceRule =
  | { as: 'files' | 'file' | 'whole'; from: string; to: TargetPath }
  | { as: 'inside'; from: string; to: TargetPath; inner: string }
  | { as: 'edits'; from: string; to: TargetPath; edits: Edit[] };

/** A file that the app writes itself because the game needs it, for instance a manifest. */
export interface MadeFile {
  target: TargetPath;
  /** Its path inside, where the target is an archive. */
  inside?: string | undefined;
  text: string;
  why: string;
}

/**
 * Where a pack's files go: rules, and the files that they do not hold for. Remembered, and expanded when it is needed.
 */
export interface Placement {
  /** The most specific one holds; of two for the same folder the later one. */
  rules: PlaceRule[];
  leftOut: { path: PackPath; why: LeftOutReason }[];
  made: MadeFile[];
  /** What the player decided: against the proposal, and in answer to its questions. */
  decisions: {
    out: PackPath[];
    in: PackPath[];
    /** Folders or files of the pack put elsewhere by hand. */
    moves: { from: string; to: TargetPath; exact?: true | undefined }[];
    answers: Record<string, string[]>;
  };
}

export const noDecisions: Placement['decisions'] = { out: [], in: [], moves: [], answers: {} };

/** A file of a pack with its target. */
export interface PlacedFile extends PackEntry {
  target: TargetPath;
  /** Set where the target is an archive of the game: the file's path inside it. */
  inside?: string;
}

const targetPath = asTarget(z.string().min(1));
const packPath = asPackPath(z.string());

/** What the app remembers of a placement, checked on the way in. */
export const placementSchema = z.object({
  rules: z.array(
    z.discriminatedUnion('as', [
      z.object({ as: z.enum(['files', 'file', 'whole']), from: z.string(), to: targetPath }),
      z.object({ as: z.literal('inside'), from: z.string(), to: targetPath, inner: z.string() }),
      z.object({
        as: z.literal('edits'),
        from: z.string(),
        to: targetPath,
        edits: z.array(z.object({ path: z.array(z.string()).min(1), value: z.string().optional() })),
      }),
    ]),
  ),
  leftOut: z.array(z.object({ path: packPath, why: z.string().transform((why) => why as LeftOutReason) })),
  made: z.array(z.object({ target: targetPath, inside: z.string().optional(), text: z.string(), why: z.string() })),
  decisions: z.object({
    out: z.array(packPath),
    in: z.array(packPath),
    moves: z.array(
      z.object({
        from: z.string(),
        to: targetPath,
        /** A file gets this very path; else it goes into that folder. */ exact: z.literal(true).optional(),
      }),
    ),
    answers: z.record(z.string(), z.array(z.string())),
  }),
});

/** Finds the rule that holds for a path. Built once for a placement, then cheap for each file. */
export class RuleBook {
  private readonly folders = new Map<string, { rule: PlaceRule; order: number }>();
  private readonly files = new Map<string, { rule: PlaceRule; order: number }>();
  private readonly byFolder = new Map<string, { rule: PlaceRule; order: number } | null>();
  readonly whole: PlaceRule | undefined;

  constructor({ rules, decisions }: Placement) {
    const all = [
      ...rules,
      ...decisions.moves.map(({ from, to, exact }): PlaceRule => ({ as: exact ? 'file' : 'files', from, to })),
    ];
    all.forEach((rule, order) => {
      if (rule.as === 'whole') return;
      (rule.as === 'file' || rule.as === 'edits' ? this.files : this.folders).set(rule.from, { rule, order });
    });
    this.whole = rules.find(({ as }) => as === 'whole');
  }

  /** The rule for a file, and how late it stands: later rules lie over earlier ones where both lead to one target. */
  find(path: string): { rule: PlaceRule; order: number } | undefined {
    if (this.files.size > 0) {
      const exact = this.files.get(path);
      if (exact) return exact;
    }
    return this.folders.get(path) ?? this.findFolder(path.slice(0, Math.max(0, path.lastIndexOf('/'))));
  }

  /** The rule for what lies in a folder; remembered, since neighbours ask the same. */
  private findFolder(folder: string): { rule: PlaceRule; order: number } | undefined {
    const known = this.byFolder.get(folder);
    if (known !== undefined) return known ?? undefined;
    const found =
      this.folders.get(folder) ??
      (folder === '' ? undefined : this.findFolder(folder.slice(0, Math.max(0, folder.lastIndexOf('/')))));
    this.byFolder.set(folder, found ?? null);
    return found;
  }
}

const under = (path: string, folder: string): string =>
  folder === '' ? path : path === folder ? baseName(path) : path.slice(folder.length + 1);

/** Where a rule puts a file that it holds for. */
function apply(rule: PlaceRule, path: string): { target: TargetPath; inside?: string } {
  // A folder moved by hand onto a file's own path puts that one file into the folder.
  if (rule.as === 'files') return { target: joinPath(rule.to, under(path, rule.from)) };
  // A single file gets the very path that its rule names.
  if (rule.as === 'inside')
    return { target: rule.to, inside: path === rule.from ? rule.inner : joinPath(rule.inner, under(path, rule.from)) };
  return { target: rule.to };
}

/** The target of one file, whatever was decided about it; undefined where no rule holds for it. */
export function targetOf(
  path: string,
  rules: RuleBook,
): { target: TargetPath; inside?: string; edits?: true } | undefined {
  if (rules.whole) return undefined;
  const found = rules.find(path);
  return found && { ...apply(found.rule, path), ...(found.rule.as === 'edits' ? { edits: true } : {}) };
}

/** Why each file that is left out is left out, the player's decisions included. */
export function leftOutOf(
  placement: Placement,
  entries: readonly PackEntry[],
  rules = new RuleBook(placement),
): Map<PackPath, LeftOutReason> {
  const { leftOut, decisions } = placement;
  if (rules.whole) return new Map(entries.map(({ path }) => [path, 'stays inside the archive']));
  const moved = (path: string) => decisions.moves.some(({ from }) => isUnder(path, from));
  // Putting a folder somewhere by hand says that it belongs there; what only speaks to the reader stays out all the
  // same.
  const out = new Map(
    leftOut
      .filter(({ path, why }) => !(decisions.moves.length > 0 && MENDED_BY_MOVING.has(why) && moved(path)))
      .map(({ path, why }) => [path, why]),
  );
  for (const path of decisions.out) out.set(path, 'your choice');
  for (const path of decisions.in) out.delete(path);
  // A file without a rule has no target, whatever was decided before the rules changed.
  for (const { path } of entries) if (!out.has(path) && !rules.find(path)) out.set(path, 'outside the placed folder');
  return out;
}

const MENDED_BY_MOVING: ReadonlySet<LeftOutReason> = new Set([
  'outside the placed folder',
  'no such folder in the game',
  'another choice',
  'no place known for it',
]);

/**
 * Every file that goes into the game as a file of its own or into an archive of the game, with its target. Of two that
 * lead to one target the later rule's file comes later, so that optional parts lie over the base. Found once for a
 * placement, which is never changed but replaced.
 */
export function placeFiles(entries: readonly PackEntry[], placement: Placement): readonly PlacedFile[] {
  const known = placedFiles.get(placement);
  if (known?.entries === entries) return known.files;
  const files = findPlaces(entries, placement);
  placedFiles.set(placement, { entries, files });
  return files;
}

const placedFiles = new WeakMap<Placement, { entries: readonly PackEntry[]; files: readonly PlacedFile[] }>();

function findPlaces(entries: readonly PackEntry[], placement: Placement): PlacedFile[] {
  const rules = new RuleBook(placement);
  if (rules.whole) return [];
  const out = leftOutOf(placement, entries, rules);
  const placed: { file: PlacedFile; order: number }[] = [];
  for (const entry of entries) {
    if (out.has(entry.path)) continue;
    const found = rules.find(entry.path);
    if (!found || found.rule.as === 'edits') continue;
    placed.push({ file: { ...entry, ...apply(found.rule, entry.path) }, order: found.order });
  }
  if (placement.rules.length > 1 || placement.decisions.moves.length > 0) placed.sort((a, b) => a.order - b.order);
  return placed.map(({ file }) => file);
}

/** The edits that a pack brings to living files. */
export function placeEdits(placement: Placement): { file: TargetPath; edits: Edit[] }[] {
  const out = new Set<string>(placement.decisions.out);
  return placement.rules.flatMap((rule) =>
    rule.as === 'edits' && !out.has(rule.from) ? [{ file: rule.to, edits: rule.edits }] : [],
  );
}

/** Where the archive itself goes, unopened; undefined for packs that are opened. */
export const wholeTarget = (placement: Placement): TargetPath | undefined =>
  placement.rules.find(({ as }) => as === 'whole')?.to;

/** The placement with one file, or all files of one folder of the pack, left out or taken in. */
export function decide(
  placement: Placement,
  entries: readonly PackEntry[],
  pathOrFolder: string,
  takeIn: boolean,
): Placement {
  const touched = new Set(entries.filter(({ path }) => isUnder(path, pathOrFolder)).map(({ path }) => path));
  const out = new Set(placement.decisions.out.filter((path) => !touched.has(path)));
  const taken = new Set(placement.decisions.in.filter((path) => !touched.has(path)));
  const byDefault = new Set(placement.leftOut.map(({ path }) => path));
  for (const path of touched) {
    if (takeIn && byDefault.has(path)) taken.add(path);
    if (!takeIn && !byDefault.has(path)) out.add(path);
  }
  return { ...placement, decisions: { ...placement.decisions, out: [...out], in: [...taken] } };
}

/**
 * The placement with one folder or file of the pack put under another folder of the game, or a file to an exact path;
 * without `to` it goes back.
 */
export function moveTo(placement: Placement, from: string, to: TargetPath | undefined, exact?: 'exact'): Placement {
  const moves = placement.decisions.moves.filter((move) => move.from !== from);
  return {
    ...placement,
    decisions: {
      ...placement.decisions,
      moves: to === undefined ? moves : [...moves, { from, to, ...(exact ? { exact: true as const } : {}) }],
    },
  };
}
