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
  compare(a, b, removed, added);
  new Sliding(a, removed, added).run();
  new Sliding(b, added, removed).run();
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

function compare(a: Int32Array, b: Int32Array, removed: Uint8Array, added: Uint8Array): void {
  // Halves are looked at one after the other from a list of our own: recursion could be as deep as the text is long.
  const waiting: [number, number, number, number][] = [[0, a.length, 0, b.length]];
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
      const [x, y] = middle({ a, a0, a1, b, b0, b1 });
      if ((x === a0 && y === b0) || (x === a1 && y === b1)) {
        // No way was found in time: all of it is taken as changed.
        removed.fill(1, a0, a1);
        added.fill(1, b0, b1);
      } else waiting.push([x, a1, y, b1], [a0, x, b0, y]);
    }
  }
}

/** Lines `a0` to `a1` of one list against lines `b0` to `b1` of the other. */
interface Part {
  a: Int32Array;
  a0: number;
  a1: number;
  b: Int32Array;
  b0: number;
  b1: number;
}

type Point = [x: number, y: number];

/** How far the ways from one end have come, by their diagonals. */
class Ways {
  private readonly reached: Int32Array;

  constructor(private readonly most: number) {
    this.reached = new Int32Array(2 * most + 3).fill(-1);
    this.reached[most + 2] = 0;
  }

  /** Where the next step on a diagonal begins. */
  begin(k: number, d: number): number {
    const { reached } = this;
    const at = this.most + 1 + k;
    const [lower, upper] = [reached[at - 1] as number, reached[at + 1] as number];
    return k === -d || (k !== d && lower < upper) ? upper : lower + 1;
  }

  set(k: number, x: number): void {
    this.reached[this.most + 1 + k] = x;
  }

  /** Has the way on a diagonal, which is one of `d` steps at most, come so far that a way of `x` meets it at `n`? */
  meets(k: number, d: number, x: number, n: number): boolean {
    if (k < -d || k > d) return false;
    const reached = this.reached[this.most + 1 + k] as number;
    return reached >= 0 && x + reached >= n;
  }
}

/** A point on a shortest way from one corner to the other, found from both ends at once. */
function middle(part: Part): Point {
  const n = part.a1 - part.a0;
  const m = part.b1 - part.b0;
  const most = Math.min(Math.ceil((n + m) / 2) + 1, Math.max(MANY_STEPS, Math.ceil(Math.sqrt(n + m))));
  const search = { forward: new Ways(most), backward: new Ways(most), best: [part.a0, part.b0] as Point, bestSum: -1 };
  for (let d = 0; d < most; d++) {
    const met = stepForward(part, search, d) ?? stepBackward(part, search, d);
    if (met) return met;
  }
  return search.best;
}

interface Search {
  forward: Ways;
  backward: Ways;
  /** The point that is furthest from the beginning, and how far. */
  best: Point;
  bestSum: number;
}

/** One step more on each way from the beginning. @returns where one meets a way from the end */
function stepForward({ a, a0, a1, b, b0, b1 }: Part, search: Search, d: number): Point | undefined {
  const [n, m] = [a1 - a0, b1 - b0];
  const delta = n - m;
  const odd = (delta & 1) !== 0;
  const { forward, backward } = search;
  for (let k = -d; k <= d; k += 2) {
    let x = forward.begin(k, d);
    let y = x - k;
    if (x > n || y > m || y < 0) {
      forward.set(k, x > n ? n + 1 : x);
      continue;
    }
    const start = x;
    while (x < n && y < m && a[a0 + x] === b[b0 + y]) {
      x++;
      y++;
    }
    forward.set(k, x);
    if (x + y > search.bestSum) {
      search.bestSum = x + y;
      search.best = [a0 + x, b0 + y];
    }
    if (odd && backward.meets(delta - k, d - 1, x, n))
      return start === x ? [a0 + x, b0 + y] : [a0 + start, b0 + start - k];
  }
  return undefined;
}

/** One step more on each way from the end. @returns where one meets a way from the beginning */
function stepBackward({ a, a0, a1, b, b0, b1 }: Part, { forward, backward }: Search, d: number): Point | undefined {
  const [n, m] = [a1 - a0, b1 - b0];
  const delta = n - m;
  const odd = (delta & 1) !== 0;
  for (let k = -d; k <= d; k += 2) {
    let x = backward.begin(k, d);
    let y = x - k;
    if (x > n || y > m || y < 0) {
      backward.set(k, x > n ? n + 1 : x);
      continue;
    }
    while (x < n && y < m && a[a1 - 1 - x] === b[b1 - 1 - y]) {
      x++;
      y++;
    }
    backward.set(k, x);
    if (!odd && forward.meets(delta - k, d, x, n)) return [a1 - x, b1 - y];
  }
  return undefined;
}

/**
 * Moves each run of marked lines down while the line above it equals its last line's successor: the usual way to show a
 * change.
 */
class Sliding {
  /** The run that is moved, and where its place is on the other side. */
  private start = 0;
  private end = 0;
  private partner = 0;

  constructor(
    private readonly lines: Int32Array,
    private readonly marked: Uint8Array,
    private readonly other: Uint8Array,
  ) {}

  run(): void {
    let i = 0;
    while (i < this.lines.length) {
      if (!this.marked[i]) {
        // The other side's run that stands at this place is passed, and the line that pairs with this one.
        this.partnerOn();
        i++;
        continue;
      }
      this.start = i;
      this.end = i;
      this.endOn();
      this.settle();
      i = this.end;
    }
  }

  /** Up as far as it goes, joining runs, then down; a place that meets a run of the other side is preferred. */
  private settle(): void {
    for (;;) {
      const size = this.end - this.start;
      this.up();
      const meets = this.down();
      if (this.end - this.start !== size) continue;
      while (meets >= 0 && meets < this.end) this.back();
      return;
    }
  }

  private up(): void {
    const { lines, marked } = this;
    while (this.start > 0 && lines[this.start - 1] === lines[this.end - 1]) {
      marked[--this.start] = 1;
      marked[--this.end] = 0;
      while (this.start > 0 && marked[this.start - 1]) this.start--;
      this.partnerBack();
    }
  }

  /** @returns the last end at which a run of the other side stands; less than 0 where none does */
  private down(): number {
    const { lines, marked, other } = this;
    let meets = other[this.partner] ? this.end : -1;
    while (this.end < lines.length && lines[this.start] === lines[this.end]) {
      marked[this.start++] = 0;
      marked[this.end++] = 1;
      this.endOn();
      this.partnerOn();
      if (this.partner < other.length && other[this.partner]) meets = this.end;
    }
    return meets;
  }

  private back(): void {
    this.marked[--this.start] = 1;
    this.marked[--this.end] = 0;
    this.partnerBack();
  }

  private endOn(): void {
    while (this.end < this.lines.length && this.marked[this.end]) this.end++;
  }

  private partnerOn(): void {
    while (this.partner < this.other.length && this.other[this.partner]) this.partner++;
    this.partner++;
  }

  private partnerBack(): void {
    do this.partner--;
    while (this.partner > 0 && this.other[this.partner - 1]);
  }
}
