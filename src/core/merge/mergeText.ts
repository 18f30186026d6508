import { LineNumbers, diffLines, splitLines, type Change } from './lineDiff';

/** A place where both sides changed the same lines in different ways. */
interface TextConflict {
  base: string;
  left: string;
  right: string;
  /** Where it stands in the merged text, counted from 1. There the merged text holds the left side. */
  line: number;
}

export interface TextMerge {
  /** The merged text; where sides conflict, the left one's lines. */
  text: string;
  conflicts: TextConflict[];
}

/** A region of the merge: lines of the base and what they became on both sides. */
interface Region {
  from: 'left' | 'right' | 'conflict';
  base: [start: number, end: number];
  left: [start: number, end: number];
  right: [start: number, end: number];
}

/** A stretch of a merged text: lines that are settled, or a place where the player has to choose. */
export type MergePiece =
  { kind: 'settled'; text: string } | { kind: 'conflict'; base: string; left: string; right: string };

/**
 * Merges two changed versions of a text line by line. Changes of one side are taken; the same change on both sides is
 * taken once; changes that overlap or touch are a conflict. Line ends belong to their lines.
 *
 * @example mergeText('a\nb\nc\n', 'A\nb\nc\n', 'a\nb\nC\n') // { text: 'A\nb\nC\n', conflicts: [] }
 */
export function mergeText(base: string, left: string, right: string): TextMerge {
  const conflicts: TextConflict[] = [];
  const merged: string[] = [];
  let line = 1;
  for (const piece of mergePieces(base, left, right)) {
    const text = piece.kind === 'settled' ? piece.text : piece.left;
    if (piece.kind === 'conflict') conflicts.push({ base: piece.base, left: piece.left, right: piece.right, line });
    merged.push(text);
    line += splitLines(text).length;
  }
  return { text: merged.join(''), conflicts };
}

/** The same merge as a list of pieces, in the order of the text. */
export function mergePieces(base: string, left: string, right: string): MergePiece[] {
  if (left === right || base === right) return [{ kind: 'settled', text: left }];
  if (base === left) return [{ kind: 'settled', text: right }];
  const [baseLines, leftLines, rightLines] = [base, left, right].map(splitLines) as [string[], string[], string[]];
  const numbers = new LineNumbers();
  const [b, l, r] = [numbers.of(baseLines), numbers.of(leftLines), numbers.of(rightLines)];
  const pieces: MergePiece[] = [];
  const slice = (lines: readonly string[], [start, end]: [number, number]) => lines.slice(start, end).join('');
  const settle = (text: string) => {
    if (text !== '') pieces.push({ kind: 'settled', text });
  };
  let at = 0;
  for (const region of combine(diffLines(b, l), diffLines(b, r))) {
    settle(slice(baseLines, [at, region.base[0]]));
    at = region.base[1];
    const [mine, theirs] = [slice(leftLines, region.left), slice(rightLines, region.right)];
    // Both sides may have come to the same text, by the same change or by different ones.
    if (region.from === 'conflict' && mine !== theirs)
      pieces.push({ kind: 'conflict', base: slice(baseLines, region.base), left: mine, right: theirs });
    else settle(region.from === 'right' ? theirs : mine);
  }
  settle(baseLines.slice(at).join(''));
  return pieces;
}

/** One side's changes while the base is walked along: the next one, and how far its lines are shifted by then. */
class Side {
  private at = 0;
  shift = 0;

  constructor(private readonly changes: readonly Change[]) {}

  get next(): Change | undefined {
    return this.changes[this.at];
  }

  /** Takes the next change. */
  pass(change: Change): void {
    this.shift += change.bCount - change.aCount;
    this.at++;
  }
}

const endOf = ({ a, aCount }: Change): number => a + aCount;
const changed = ({ b, bCount }: Change): Region['left'] => [b, b + bCount];
const shifted = (change: Change, by: number): Region['left'] => [change.a + by, endOf(change) + by];

/** Regions that touch on either side are one. */
function addRegion(regions: Region[], region: Region): void {
  const last = regions.at(-1);
  if (last && (region.left[0] <= last.left[1] || region.right[0] <= last.right[1])) {
    if (last.from !== region.from) last.from = 'conflict';
    last.base[1] = region.base[1];
    last.left[1] = region.left[1];
    last.right[1] = region.right[1];
  } else regions.push(region);
}

/** All changes of both sides that reach into each other, one after the other. */
function overlap(left: Side, right: Side, start: number): Region {
  const from = [start + left.shift, start + right.shift] as const;
  let end = start;
  for (;;) {
    const [p, q] = [left.next, right.next];
    const [side, change] = p && p.a <= end ? [left, p] : [right, q];
    if (!change || change.a > end) break;
    end = Math.max(end, endOf(change));
    side.pass(change);
  }
  return {
    from: 'conflict',
    base: [start, end],
    left: [from[0], end + left.shift],
    right: [from[1], end + right.shift],
  };
}

/** Walks both lists of changes along the base; changes that overlap or touch become one region. */
function combine(lefts: readonly Change[], rights: readonly Change[]): Region[] {
  const regions: Region[] = [];
  const [left, right] = [new Side(lefts), new Side(rights)];
  for (let [x, y] = [left.next, right.next]; x || y; [x, y] = [left.next, right.next]) {
    if (x && (!y || endOf(x) < y.a)) {
      const region = { left: changed(x), right: shifted(x, right.shift) };
      addRegion(regions, { from: 'left', base: [x.a, endOf(x)], ...region });
      left.pass(x);
    } else if (y && (!x || endOf(y) < x.a)) {
      const region = { right: changed(y), left: shifted(y, left.shift) };
      addRegion(regions, { from: 'right', base: [y.a, endOf(y)], ...region });
      right.pass(y);
    } else addRegion(regions, overlap(left, right, Math.min(x?.a ?? 0, y?.a ?? 0)));
  }
  return regions;
}
