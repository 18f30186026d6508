/** One start of the game with only some of the suspects in it. */
export interface HalvingAnswer {
  on: string[];
  failed: boolean;
}

/** What comes next when a culprit is looked for by halves. */
export type HalvingStep =
  /** Start the game with these in it, and say whether it still fails. */
  | { next: 'try'; on: string[]; left: number }
  /** These make it fail: one alone, or two that only fail together. */
  | { next: 'found'; culprits: string[] }
  /** With all of them it does not fail, or even without any of them it does. */
  | { next: 'none'; why: 'works with all' | 'fails without any' }
  /** It takes more than two together. */
  | { next: 'more'; among: string[] };

class Ask extends Error {
  constructor(
    readonly on: string[],
    readonly left: number,
  ) {
    super('this start is not known yet');
  }
}

/**
 * Finds out what makes a game fail, out of what was answered so far. A single culprit among n suspects is found in at
 * most 2·log2(n)+2 starts, and so is, in about twice as many, a pair that only fails together.
 *
 * @param suspects in a fixed order; the same answers always give the same next step
 */
export function halve(suspects: readonly string[], answers: readonly HalvingAnswer[]): HalvingStep {
  const known = new Map(answers.map(({ on, failed }) => [[...on].sort().join('\n'), failed]));
  const fails = (on: readonly string[], left: number): boolean => {
    const inOrder = suspects.filter((one) => on.includes(one));
    const answer = known.get([...inOrder].sort().join('\n'));
    if (answer === undefined) throw new Ask(inOrder, left);
    return answer;
  };
  try {
    // That it fails with all of them is why the player is here.
    if (known.get([...suspects].sort().join('\n')) === false) return { next: 'none', why: 'works with all' };
    if (suspects.length === 0) return { next: 'none', why: 'fails without any' };
    const found = search(suspects, [], fails);
    if (found.length === 1 && suspects.length === 1 && fails([], 1)) return { next: 'none', why: 'fails without any' };
    return found.length <= 2 ? { next: 'found', culprits: found } : { next: 'more', among: found };
  } catch (asked) {
    if (asked instanceof Ask) return { next: 'try', on: asked.on, left: asked.left };
    throw asked;
  }
}

const halves = (of: readonly string[]): [string[], string[]] => [
  of.slice(0, Math.ceil(of.length / 2)),
  of.slice(Math.ceil(of.length / 2)),
];

/** Among these the smallest set that makes it fail while `held` is in. They are known to fail all together. */
function search(
  among: readonly string[],
  held: readonly string[],
  fails: (on: readonly string[], left: number) => boolean,
): string[] {
  if (among.length === 1) return [...among];
  const [a, b] = halves(among);
  if (fails([...held, ...a], among.length)) return search(a, held, fails);
  if (fails([...held, ...b], among.length)) return search(b, held, fails);
  // Neither half alone: one of each, with the other half held in.
  const left = search(a, [...held, ...b], fails);
  if (left.length > 1) return among.length > 2 ? [...among] : left;
  const right = search(b, [...held, ...left], fails);
  return [...left, ...right];
}
