import { z } from 'zod';
import { dialects, type Dialect } from '../settings/dialects';
import { decodeText, type DecodedText } from '../settings/encoding';
import { isWellFormed } from '../settings/openSettings';
import { LineNumbers, diffLines, splitLines } from './lineDiff';
import { mergeKeys } from './mergeKeys';
import { mergePieces } from './mergeText';
import { renumberSections } from './renumber';

/** Larger texts are not merged. */
const LARGEST = 64 * 1024 ** 2;

/** One version of a file that is to be merged, from the lowest layer to the topmost. */
export interface MergeSource {
  /** Whose it is, for the player to read. */
  name: string;
  bytes: Uint8Array;
}

/** A place where two versions want different things. */
export interface MergeConflict {
  /** Where: a key, or the lines after this many others. */
  at: string;
  /** What the versions hold, as one string: a decision holds for as long as this stays the same. */
  was: string;
  /** The original's, undefined where it has nothing there. */
  base: string | undefined;
  sides: [{ name: string; text: string | undefined }, { name: string; text: string | undefined }];
  /** What counts: a decision of the player, or undefined where it is open. */
  taken: Decision['take'] | undefined;
}

/** What the player decided about one conflict. `text` is the player's own. */
export const decisionSchema = z.object({
  at: z.string(),
  was: z.string(),
  take: z.union([z.enum(['lower', 'upper', 'base', 'both']), z.object({ text: z.string() })]),
});
export type Decision = z.infer<typeof decisionSchema>;

/** How a file is put together. */
type MergeWay = 'keys' | 'lines';

export interface FileMerge {
  text: string;
  /** In the original's encoding, or the topmost version's where there is no original. */
  bytes: Uint8Array<ArrayBuffer>;
  way: MergeWay;
  conflicts: MergeConflict[];
  /** Decisions that no conflict asks for any more: what they were about has changed. */
  stale: Decision[];
  /** What the player should know about how it was done. */
  notices: string[];
}

export type MergeOutcome = { ok: true; merge: FileMerge } | { ok: false; why: string };

/** Is this a text? Files with NUL bytes are taken as binary, UTF-16 by its mark aside. */
export function isText(bytes: Uint8Array): boolean {
  const marked = (bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff);
  return marked || !bytes.subarray(0, 1024 * 1024).includes(0);
}

/**
 * Merges what several packs make of one file, from the lowest to the topmost, three-way against the original. Without
 * an original the lowest of three or more is what the others are compared with, and of two what both have in common.
 * Files of a known form are merged by key, all others and those that do not parse line by line. Pure.
 *
 * @param original the game's own file, undefined where it has none
 */
export function mergeFile(
  original: Uint8Array | undefined,
  sources: readonly MergeSource[],
  dialect: Dialect | undefined,
  decisions: readonly Decision[] = [],
): MergeOutcome {
  const all = [...(original ? [original] : []), ...sources.map(({ bytes }) => bytes)];
  if (sources.length < 2) return { ok: false, why: 'only one pack has this file now' };
  if (all.some((bytes) => bytes.length > LARGEST)) return { ok: false, why: 'it is larger than 64 MB' };
  if (!all.every(isText)) return { ok: false, why: 'it is not a text' };
  const like = decodeText(original ?? (sources.at(-1) as MergeSource).bytes);
  const notices: string[] = [];
  const texts = sources.map(({ name, bytes }) => ({ name, text: inStyleOf(like, decodeText(bytes), name, notices) }));
  const base = original ? like.text : undefined;

  const wellFormed = dialect !== undefined && all.every((bytes) => isWellFormed(decodeText(bytes).text, dialect));
  if (dialect && !wellFormed)
    notices.push('One of the versions cannot be read as what it should be, so it is merged line by line.');
  const merger = new Merger(decisions);
  let [first, ...others] = texts as [Named, ...Named[]];
  const ground = base ?? (texts.length > 2 ? first.text : undefined);
  if (base === undefined && others.length > 1) [first, ...others] = others as [Named, ...Named[]];
  let way: MergeWay = wellFormed ? 'keys' : 'lines';
  const run = (by: MergeWay): string | undefined => {
    let merged: Named | undefined = first;
    for (const next of others) {
      const text: string | undefined =
        by === 'keys' && dialect
          ? merger.byKeys(ground, merged, next, dialect, notices)
          : merger.byLines(ground, merged, next);
      if (text === undefined) return undefined;
      merged = { name: `${merged.name} + ${next.name}`, text };
    }
    return merged.text;
  };
  let text = run(way);
  if (text === undefined) {
    way = 'lines';
    merger.reset();
    notices.push('Its values cannot be put together key by key, so it is merged line by line.');
    text = run('lines') ?? '';
  }
  const bytes = like.encode(text);
  if (!bytes) return { ok: false, why: 'one version holds characters that the original’s encoding does not have' };
  return { ok: true, merge: { text, bytes, way, conflicts: merger.conflicts, stale: merger.stale(), notices } };
}

interface Named {
  name: string;
  text: string;
}

/** Merges pair by pair, gathering conflicts and using up decisions. */
class Merger {
  conflicts: MergeConflict[] = [];
  private used = new Set<Decision>();

  constructor(private readonly decisions: readonly Decision[]) {}

  reset(): void {
    this.conflicts = [];
    this.used.clear();
  }

  stale(): Decision[] {
    return this.decisions.filter((one) => !this.used.has(one));
  }

  /** Notes a conflict. @returns what counts there; undefined takes the upper side, until it is decided */
  private meet(
    at: string,
    base: string | undefined,
    lower: MergeConflict['sides'][0],
    upper: MergeConflict['sides'][1],
  ): Decision['take'] | undefined {
    const was = JSON.stringify([base ?? null, lower.text ?? null, upper.text ?? null]);
    const decision = this.decisions.find((one) => one.at === at && one.was === was);
    if (decision) this.used.add(decision);
    this.conflicts.push({ at, was, base, sides: [lower, upper], taken: decision?.take });
    return decision?.take;
  }

  byLines(ground: string | undefined, lower: Named, upper: Named): string {
    const base = ground ?? common(lower.text, upper.text);
    let met = 0;
    return mergePieces(base, lower.text, upper.text)
      .map((piece) => {
        if (piece.kind === 'settled') return piece.text;
        const take = this.meet(
          `lines ${++met}`,
          piece.base,
          { name: lower.name, text: piece.left },
          { name: upper.name, text: piece.right },
        );
        if (typeof take === 'object') return take.text;
        return take === 'lower'
          ? piece.left
          : take === 'base'
            ? piece.base
            : take === 'both'
              ? piece.left + piece.right
              : piece.right;
      })
      .join('');
  }

  byKeys(
    ground: string | undefined,
    lower: Named,
    upper: Named,
    dialect: Dialect,
    notices: string[],
  ): string | undefined {
    const renumbered = dialects[dialect].numbered
      ? renumberSections(ground ?? '', lower.text, upper.text)
      : { text: upper.text, renamed: [] };
    for (const { from, to } of renumbered.renamed)
      notices.push(
        `[${from}] of “${upper.name}” became [${to}], since “${lower.name}” has a section of that number too.`,
      );
    return mergeKeys(ground, lower.text, renumbered.text, dialect, (path, base, left, right) => {
      const take = this.meet(
        path.join(' › '),
        base,
        { name: lower.name, text: left },
        { name: upper.name, text: right },
      );
      if (typeof take === 'object') return take.text;
      return take === 'lower' ? left : take === 'base' ? base : right;
    });
  }
}

/** The lines that two texts have in common, in order: what stands in for an original that there is not. */
function common(a: string, b: string): string {
  const [left, right] = [splitLines(a), splitLines(b)];
  const numbers = new LineNumbers();
  const kept: string[] = [];
  let at = 0;
  for (const change of diffLines(numbers.of(left), numbers.of(right))) {
    for (; at < change.a; at++) kept.push(left[at] as string);
    at = change.a + change.aCount;
  }
  for (; at < left.length; at++) kept.push(left[at] as string);
  return kept.join('');
}

/** A version with the byte order mark and the line ends of the text that it is compared with. */
function inStyleOf(like: DecodedText, version: DecodedText, name: string, notices: string[]): string {
  let text = version.text.replace(/^\ufeff/, '');
  const ends = new Set(like.text.match(/\r\n|\n|\r/g) ?? []);
  const [only] = ends;
  if (ends.size === 1 && only !== undefined) {
    const styled = text.replace(/\r\n|\n|\r/g, only);
    if (styled !== text) notices.push(`“${name}” has other line ends; those of the original are kept.`);
    text = styled;
  }
  if (version.encoding !== like.encoding)
    notices.push(
      `“${name}” is written in another encoding (${version.encoding}); that of the original is kept (${like.encoding}).`,
    );
  return like.text.startsWith('\ufeff') ? `\ufeff${text}` : text;
}

export const hasOpenConflicts = ({ conflicts }: FileMerge): boolean =>
  conflicts.some(({ taken }) => taken === undefined);

/** The same merge, with the open conflicts left to one side: what a test or a hurried player takes. */
export const decideAll = ({ conflicts }: FileMerge, take: 'lower' | 'upper'): Decision[] =>
  conflicts.map(({ at, was, taken }) => ({ at, was, take: taken ?? take }));
