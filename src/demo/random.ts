/** Seeded random numbers (xorshift32, Marsaglia 2003): the demo is the same every time. */
export function seeded(seed: number): () => number {
  let state = seed | 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2 ** 32;
  };
}

/** A seed out of a name. */
export const seedOf = (name: string): number =>
  [...name].reduce((hash, char) => Math.imul(hash ^ (char.codePointAt(0) ?? 0), 16777619), 0x811c9dc5);
