import { describe, expect, it } from 'vitest';
import { SatchelError, computeMerge, type Layer, type PackPath, parseTarget } from '@/core';

const TARGET = parseTarget('game/lang.ini');
const layer = (id: string): Layer => ({
  kind: 'pack',
  id,
  name: id,
  packId: id,
  files: [{ path: 'lang.ini' as PackPath, target: TARGET, size: 10, crc32: 1 }],
});
const note = { id: 'm', name: 'Merged', on: true, target: TARGET, sources: ['a', 'b'], decisions: [] };
const texts: Record<string, string> = { a: '[t]\nhi=ahoy\nbye=bye\n', b: '[t]\nhi=hi\nbye=fare well\n' };
const bytes = (text: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(text);
const from = (reads: string[] = []) => ({
  original: bytes('[t]\nhi=hi\nbye=bye\n'),
  dialect: 'ini' as const,
  read: async (packId: string) => {
    reads.push(packId);
    return bytes(texts[packId] ?? '');
  },
});
const stack = [layer('a'), layer('b'), layer('c')];

describe('a merge out of what its sources hold now', () => {
  it('takes its own sources alone, in the order of the stack', async () => {
    const computed = await computeMerge(note, stack, from());
    expect(computed.sources).toEqual(['a', 'b']);
    const [file] = computed.layer?.files ?? [];
    expect(new TextDecoder().decode(file?.bytes)).toBe('[t]\nhi=ahoy\nbye=fare well\n');
  });

  it('is not computed again while nothing that it is made of has changed', async () => {
    const reads: string[] = [];
    const first = await computeMerge(note, stack, from(reads));
    expect(await computeMerge(note, stack, from(reads), first)).toBe(first);
    expect(reads).toEqual(['a', 'b']);
    expect(await computeMerge({ ...note, on: false }, stack, from(reads), first)).not.toBe(first);
  });

  it('stands aside where a source cannot be read, and is not used while it is off', async () => {
    const read = async () => {
      throw new SatchelError('damaged', { name: 'a', path: 'lang.ini', why: 'it is cut off' });
    };
    const broken = await computeMerge(note, stack, { ...from(), read });
    expect([broken.outcome.ok, broken.layer]).toEqual([false, undefined]);
    expect((await computeMerge({ ...note, on: false }, stack, from())).layer).toBeUndefined();
  });
});
