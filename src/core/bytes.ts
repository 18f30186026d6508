/** Are these the same bytes? Compares four at a time where both lie so that it can be done. */
export function sameBytes(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  let from = 0;
  if (a.byteOffset % 4 === 0 && b.byteOffset % 4 === 0) {
    const words = a.length >> 2;
    const [one, two] = [new Int32Array(a.buffer, a.byteOffset, words), new Int32Array(b.buffer, b.byteOffset, words)];
    for (let i = 0; i < words; i++) if (one[i] !== two[i]) return false;
    from = words * 4;
  }
  for (let i = from; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
