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
  const why = whyNot(all, sources.length);
  if (why !== undefined) return { ok: false, why };
  const like = decodeText(original ?? (sources.at(-1) as MergeSource).bytes);
  const notices: string[] = [];
  const texts = sources.map(({ name, bytes }) => ({ name, text: inStyleOf(like, decodeText(bytes), name, notices) }));
  const base = original ? like.text : undefined;
  const wellFormed = dialect !== undefined && all.every((bytes) => isWellFormed(decodeText(bytes).text, dialect));
  if (dialect && !wellFormed)
    notices.push('One of the versions cannot be read as what it should be, so it is merged line by line.');

  const merger = new Merger(decisions);
  const pairs = pairsOf(base, texts as [Named, ...Named[]]);
  const { text, way } = merger.merge(pairs, wellFormed ? dialect : undefined, notices);
  const bytes = like.encode(text);
  if (!bytes) return { ok: false, why: 'one version holds characters that the original’s encoding does not have' };
  return { ok: true, merge: { text, bytes, way, conflicts: merger.conflicts, stale: merger.stale(), notices } };
}

/** Why files cannot be merged at all. */
function whyNot(all: readonly Uint8Array[], sources: number): string | undefined {
  if (sources < 2) return 'only one pack has this file now';
  if (all.some((bytes) => bytes.length > LARGEST)) return 'it is larger than 64 MB';
  return all.every(isText) ? undefined : 'it is not a text';
}

/** What is merged with what, and against which text. */
interface Pairs {
  ground: string | undefined;
  first: Named;
  others: readonly Named[];
}

/** Without an original the lowest of three or more is what the others are compared with. */
function pairsOf(base: string | undefined, [first, ...others]: readonly [Named, ...Named[]]): Pairs {
  const [second, ...rest] = others;
  if (base !== undefined || !second || rest.length === 0) return { ground: base, first, others };
  return { ground: first.text, first: second, others: rest };
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

  private reset(): void {
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

  /** Key by key where that can be done, else line by line. */
  merge(pairs: Pairs, dialect: Dialect | undefined, notices: string[]): { text: string; way: MergeWay } {
    if (dialect) {
      const text = this.all(pairs, (...pair) => this.byKeys(...pair, { dialect, notices }));
      if (text !== undefined) return { text, way: 'keys' };
      this.reset();
      notices.push('Its values cannot be put together key by key, so it is merged line by line.');
    }
    return { text: this.all(pairs, (...pair) => this.byLines(...pair)) ?? '', way: 'lines' };
  }

  /** Merges all of them, one after the other. @returns undefined where one cannot be merged in this way */
  private all(
    { ground, first, others }: Pairs,
    pair: (ground: string | undefined, lower: Named, upper: Named) => string | undefined,
  ): string | undefined {
    let merged = first;
    for (const next of others) {
      const text = pair(ground, merged, next);
      if (text === undefined) return undefined;
      merged = { name: `${merged.name} + ${next.name}`, text };
    }
    return merged.text;
  }

  private byLines(ground: string | undefined, lower: Named, upper: Named): string {
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

  private byKeys(
    ground: string | undefined,
    lower: Named,
    upper: Named,
    { dialect, notices }: { dialect: Dialect; notices: string[] },
  ): string | undefined {
    const renumbered = dialects[dialect].numbered
      ? renumberSections(ground ?? '', lower.text, upper.text)
      : { text: upper.text, renamed: [] };
    for (const { from, to } of renumbered.renamed)
      notices.push(
        `[${from}] of “${upper.name}” became [${to}], since “${lower.name}” has a section of that number too.`,
      );
    return mergeKeys({ base: ground, left: lower.text, right: renumbered.text }, dialect, (path, base, left, right) => {
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
