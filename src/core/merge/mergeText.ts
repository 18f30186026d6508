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

/** Walks both lists of changes along the base; changes that overlap or touch become one region. */
function combine(left: readonly Change[], right: readonly Change[]): Region[] {
  const regions: Region[] = [];
  let i = 0;
  let j = 0;
  let shiftLeft = 0;
  let shiftRight = 0;
  const add = (region: Region) => {
    const last = regions.at(-1);
    // Regions that touch on either side are one.
    if (last && (region.left[0] <= last.left[1] || region.right[0] <= last.right[1])) {
      if (last.from !== region.from) last.from = 'conflict';
      last.base[1] = region.base[1];
      last.left[1] = region.left[1];
      last.right[1] = region.right[1];
    } else regions.push(region);
  };
  while (i < left.length || j < right.length) {
    const x = left[i];
    const y = right[j];
    if (x && (!y || x.a + x.aCount < y.a)) {
      add({
        from: 'left',
        base: [x.a, x.a + x.aCount],
        left: [x.b, x.b + x.bCount],
        right: [x.a + shiftRight, x.a + x.aCount + shiftRight],
      });
      shiftLeft += x.bCount - x.aCount;
      i++;
      continue;
    }
    if (y && (!x || y.a + y.aCount < x.a)) {
      add({
        from: 'right',
        base: [y.a, y.a + y.aCount],
        right: [y.b, y.b + y.bCount],
        left: [y.a + shiftLeft, y.a + y.aCount + shiftLeft],
      });
      shiftRight += y.bCount - y.aCount;
      j++;
      continue;
    }
    if (!x || !y) break;
    const start = Math.min(x.a, y.a);
    // All changes of both sides that reach into each other, one after the other.
    const from: [number, number] = [start + shiftLeft, start + shiftRight];
    let end = start;
    for (;;) {
      const [p, q] = [left[i], right[j]];
      if (p && p.a <= end) {
        end = Math.max(end, p.a + p.aCount);
        shiftLeft += p.bCount - p.aCount;
        i++;
      } else if (q && q.a <= end) {
        end = Math.max(end, q.a + q.aCount);
        shiftRight += q.bCount - q.aCount;
        j++;
      } else break;
    }
    add({ from: 'conflict', base: [start, end], left: [from[0], end + shiftLeft], right: [from[1], end + shiftRight] });
  }
  return regions;
}
