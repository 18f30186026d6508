import { describe, expect, it } from 'vitest';
import { emptyStack, gameCardSchema, readSetUp, writeSetUp, type TargetPath, type WrittenSetUp } from '@/core';
import { MemoryFolder } from '../../../tests/support/memoryFolder';

const card = gameCardSchema.parse({ card: 1, id: 'g', title: 'Game', roots: [{ id: 'game', title: 'Game folder' }] });
const setUp = (mark: string): Omit<WrittenSetUp, 'format' | 'version'> => ({
  at: 5,
  card,
  statements: [],
  stack: { ...emptyStack, launchLine: mark },
  setUps: [],
  packs: [],
});
/** Writes as somebody who knows all that is there. */
const write = async (folder: MemoryFolder, one: ReturnType<typeof setUp>): Promise<string | undefined> => {
  const found = await readSetUp(folder);
  return writeSetUp(folder, one, 'latest' in found ? found.latest : undefined);
};
const names = async (folder: MemoryFolder): Promise<string[]> => {
  const found: string[] = [];
  for await (const { path } of folder.list()) found.push(path);
  return found.sort();
};

describe('what was decided, on the disk', () => {
  it('is read back as it was written, the latest first, and the last ten are kept', async () => {
    const folder = new MemoryFolder();
    expect(await readSetUp(folder)).toEqual({ is: 'nothing', damaged: [] });
    for (let i = 1; i <= 13; i++) await write(folder, setUp(`mark ${i}`));
    expect((await names(folder)).map((name) => name.slice(0, 15))).toEqual(
      Array.from({ length: 10 }, (_, i) => `set-up/${String(i + 4).padStart(8, '0')}`),
    );
    expect(await readSetUp(folder)).toMatchObject({ is: 'there', damaged: [], written: setUp('mark 13') });
  });

  it.each([
    ['cut off', '{"format":"tidy satchel set-up","version":1,"at":'],
    ['something else', '{"layers":"nonsense"}'],
    ['empty', ''],
    ['not text', '\u0000\u0001'],
    [
      'a stack that is none',
      JSON.stringify({ format: 'tidy satchel set-up', version: 1, ...setUp('x'), stack: { layers: [{}] } }),
    ],
  ])('one that cannot be read is named and left; the one before it counts: %s', async (_, text) => {
    const folder = new MemoryFolder();
    await write(folder, setUp('good'));
    await folder.write('set-up/00000002.0123abcd.json', new TextEncoder().encode(text));
    expect(await readSetUp(folder)).toMatchObject({
      is: 'there',
      written: { stack: { launchLine: 'good' } },
      damaged: [{ path: 'set-up/00000002.0123abcd.json' }],
    });
    await write(folder, setUp('next'));
    expect(await readSetUp(folder)).toMatchObject({ written: { stack: { launchLine: 'next' } }, damaged: [] });
    expect(await names(folder)).toHaveLength(3);
  });

  it('one that names a place that cannot be is as good as damaged', async () => {
    const folder = new MemoryFolder();
    await write(folder, setUp('good'));
    const ownFiles = [{ target: 'game/../../x' as TargetPath, dialect: 'ini' as const }];
    await write(folder, { ...setUp('bad'), stack: { ...emptyStack, ownFiles } });
    expect(await readSetUp(folder)).toMatchObject({
      written: { stack: { launchLine: 'good' } },
      damaged: [{ path: expect.stringMatching(/^set-up\/00000002\./) }],
    });
  });

  it('one of a newer version is told, and not taken for damaged', async () => {
    const folder = new MemoryFolder();
    await write(folder, setUp('good'));
    const newer = { format: 'tidy satchel set-up', version: 2, all: 'otherwise' };
    await folder.write('set-up/00000002.0123abcd.json', new TextEncoder().encode(JSON.stringify(newer)));
    expect(await readSetUp(folder)).toEqual({ is: 'newer' });
  });

  it('where somebody else has written since, nothing is written', async () => {
    const folder = new MemoryFolder();
    const first = await writeSetUp(folder, setUp('first'), undefined);
    const second = await writeSetUp(folder, setUp('second'), first);
    const before = await names(folder);
    for (const latest of [undefined, first, 'set-up/00000009.0123abcd.json'])
      expect(await writeSetUp(folder, setUp('late'), latest)).toBeUndefined();
    expect(await names(folder)).toEqual(before);
    expect(await readSetUp(folder)).toMatchObject({ name: second, latest: second });
  });

  it('where all is damaged that is told, and writing goes on', async () => {
    const folder = new MemoryFolder();
    await folder.write('set-up/00000007.0123abcd.json', new Uint8Array([1]));
    expect(await readSetUp(folder)).toMatchObject({
      is: 'nothing',
      damaged: [{ path: 'set-up/00000007.0123abcd.json' }],
    });
    expect(await write(folder, setUp('next'))).toMatch(/^set-up\/00000008\./);
  });

  it('other files in the folder are nobody’s business', async () => {
    const folder = new MemoryFolder();
    for (const path of ['set-up/notes.txt', 'set-up/1.json', 'set-up/deep/00000009.0123abcd.json', 'data/a'])
      await folder.write(path, new Uint8Array([1]));
    for (let i = 0; i < 12; i++) await write(folder, setUp('x'));
    expect((await names(folder)).length).toBe(14);
  });
});
