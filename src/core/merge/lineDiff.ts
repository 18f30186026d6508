/** One difference between two lists of lines: `aCount` lines at `a` became `bCount` lines at `b`. */
export interface Change {
  a: number;
  aCount: number;
  b: number;
  bCount: number;
}

/**
 * A search that goes further than the square root of the text's length, and this many steps, takes the best way found
 * so far: hostile texts must not take quadratic time.
 */
const MANY_STEPS = 256;

/** Splits into lines, each with its line end; only the last may be without one. */
export function splitLines(text: string): string[] {
  const lines: string[] = [];
  let start = 0;
  for (let end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n', start)) {
    lines.push(text.slice(start, end + 1));
    start = end + 1;
  }
  if (start < text.length) lines.push(text.slice(start));
  return lines;
}

/** Numbers lines, so that equal lines get equal numbers: comparing is then one operation. */
export class LineNumbers {
  private readonly known = new Map<string, number>();

  of(lines: readonly string[]): Int32Array {
    return Int32Array.from(lines, (line) => {
      const found = this.known.get(line);
      if (found !== undefined) return found;
      this.known.set(line, this.known.size);
      return this.known.size - 1;
    });
  }
}

/**
 * The differences between two lists of numbered lines, in order. Source: E. W. Myers, "An O(ND) Difference Algorithm
 * and Its Variations" (1986), linear-space refinement; changes slide down as far as they can, as POSIX `diff` output
 * usually shows them.
 */
export function diffLines(a: Int32Array, b: Int32Array): Change[] {
  const removed = new Uint8Array(a.length);
  const added = new Uint8Array(b.length);
  compare(a, 0, a.length, b, 0, b.length, removed, added);
  slide(a, removed, added);
  slide(b, added, removed);
  const changes: Change[] = [];
  let i = 0;
  let j = 0;
  while (i < a.length || j < b.length) {
    if (!removed[i] && !added[j] && i < a.length && j < b.length) {
      i++;
      j++;
      continue;
    }
    const [startA, startB] = [i, j];
    while (i < a.length && removed[i]) i++;
    while (j < b.length && added[j]) j++;
    // Both cannot stand still: what is neither removed nor added pairs up.
    if (i === startA && j === startB) throw new Error('lines do not pair up');
    changes.push({ a: startA, aCount: i - startA, b: startB, bCount: j - startB });
  }
  return changes;
}

function compare(
  a: Int32Array,
  aFrom: number,
  aTo: number,
  b: Int32Array,
  bFrom: number,
  bTo: number,
  removed: Uint8Array,
  added: Uint8Array,
): void {
  // Halves are looked at one after the other from a list of our own: recursion could be as deep as the text is long.
  const waiting: [number, number, number, number][] = [[aFrom, aTo, bFrom, bTo]];
  for (let part = waiting.pop(); part; part = waiting.pop()) {
    let [a0, a1, b0, b1] = part;
    while (a0 < a1 && b0 < b1 && a[a0] === b[b0]) {
      a0++;
      b0++;
    }
    while (a0 < a1 && b0 < b1 && a[a1 - 1] === b[b1 - 1]) {
      a1--;
      b1--;
    }
    if (a0 === a1) added.fill(1, b0, b1);
    else if (b0 === b1) removed.fill(1, a0, a1);
    else {
      const [x, y] = middle(a, a0, a1, b, b0, b1);
      if ((x === a0 && y === b0) || (x === a1 && y === b1)) {
        // No way was found in time: all of it is taken as changed.
        removed.fill(1, a0, a1);
        added.fill(1, b0, b1);
      } else waiting.push([x, a1, y, b1], [a0, x, b0, y]);
    }
  }
}

/** A point on a shortest way from one corner to the other, found from both ends at once. */
function middle(a: Int32Array, a0: number, a1: number, b: Int32Array, b0: number, b1: number): [x: number, y: number] {
  const n = a1 - a0;
  const m = b1 - b0;
  const delta = n - m;
  const odd = (delta & 1) !== 0;
  const most = Math.min(Math.ceil((n + m) / 2) + 1, Math.max(MANY_STEPS, Math.ceil(Math.sqrt(n + m))));
  const size = 2 * most + 3;
  const forward = new Int32Array(size).fill(-1);
  const backward = new Int32Array(size).fill(-1);
  const mid = most + 1;
  forward[mid + 1] = 0;
  backward[mid + 1] = 0;
  let best: [number, number] = [a0, b0];
  let bestSum = -1;
  for (let d = 0; d < most; d++) {
    for (let k = -d; k <= d; k += 2) {
      let x =
        k === -d || (k !== d && (forward[mid + k - 1] as number) < (forward[mid + k + 1] as number))
          ? (forward[mid + k + 1] as number)
          : (forward[mid + k - 1] as number) + 1;
      let y = x - k;
      if (x > n || y > m || y < 0) {
        forward[mid + k] = x > n ? n + 1 : x;
        continue;
      }
      const start = x;
      while (x < n && y < m && a[a0 + x] === b[b0 + y]) {
        x++;
        y++;
      }
      forward[mid + k] = x;
      if (x + y > bestSum) {
        bestSum = x + y;
        best = [a0 + x, b0 + y];
      }
      const back = delta - k;
      if (
        odd &&
        back >= -(d - 1) &&
        back <= d - 1 &&
        (backward[mid + back] as number) >= 0 &&
        x + (backward[mid + back] as number) >= n
      )
        return start === x ? [a0 + x, b0 + y] : [a0 + start, b0 + start - k];
    }
    for (let k = -d; k <= d; k += 2) {
      let x =
        k === -d || (k !== d && (backward[mid + k - 1] as number) < (backward[mid + k + 1] as number))
          ? (backward[mid + k + 1] as number)
          : (backward[mid + k - 1] as number) + 1;
      let y = x - k;
      if (x > n || y > m || y < 0) {
        backward[mid + k] = x > n ? n + 1 : x;
        continue;
      }
      while (x < n && y < m && a[a1 - 1 - x] === b[b1 - 1 - y]) {
        x++;
        y++;
      }
      backward[mid + k] = x;
      const front = delta - k;
      if (
        !odd &&
        front >= -d &&
        front <= d &&
        (forward[mid + front] as number) >= 0 &&
        x + (forward[mid + front] as number) >= n
      )
        return [a1 - x, b1 - y];
    }
  }
  return best;
}

/**
 * Moves each run of marked lines down while the line above it equals its last line's successor: the usual way to show a
 * change.
 */
function slide(lines: Int32Array, marked: Uint8Array, other: Uint8Array): void {
  let partner = 0;
  let i = 0;
  while (i < lines.length) {
    if (!marked[i]) {
      // The other side's run that stands at this place is passed, and the line that pairs with this one.
      while (partner < other.length && other[partner]) partner++;
      partner++;
      i++;
      continue;
    }
    let start = i;
    let end = i;
    while (end < lines.length && marked[end]) end++;
    // Up as far as it goes, joining runs, then down; a place that meets a run of the other side is preferred.
    for (;;) {
      const size = end - start;
      while (start > 0 && lines[start - 1] === lines[end - 1]) {
        marked[--start] = 1;
        marked[--end] = 0;
        while (start > 0 && marked[start - 1]) start--;
        do partner--;
        while (partner > 0 && other[partner - 1]);
      }
      let meets = other[partner] ? end : -1;
      while (end < lines.length && lines[start] === lines[end]) {
        marked[start++] = 0;
        marked[end++] = 1;
        while (end < lines.length && marked[end]) end++;
        while (partner < other.length && other[partner]) partner++;
        partner++;
        if (partner < other.length && other[partner]) meets = end;
      }
      if (end - start !== size) continue;
      while (meets >= 0 && meets < end) {
        marked[--start] = 1;
        marked[--end] = 0;
        do partner--;
        while (partner > 0 && other[partner - 1]);
      }
      break;
    }
    i = end;
  }
}
