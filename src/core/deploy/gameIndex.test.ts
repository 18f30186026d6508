import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GameIndex, nameKey, parseTarget, type FileStat } from '@/core';

type Disk = Map<string, FileStat>;
const folderOf = (path: string): string => path.split('/').slice(0, -1).join('/');

const said = ({ path, size, modified }: FileStat): string => `game/${path} ${size} ${modified}`;
/** What a plain look at all of it says, without any index: of names that differ by capitals alone any one. */
const byKeyOf = (disk: Disk): Map<string, string[]> => {
  const found = new Map<string, string[]>();
  for (const file of disk.values()) {
    const key = nameKey(`game/${file.path}`);
    found.set(key, [...(found.get(key) ?? []), said(file)]);
  }
  return found;
};

/** What a folder tells that was looked at before: those in which something is otherwise, and those that are gone. */
function changesBetween(before: Disk, now: Disk) {
  const foldersIn = (disk: Disk) => new Set([...disk.keys()].map(folderOf));
  const inside = (disk: Disk, folder: string) => [...disk.values()].filter(({ path }) => folderOf(path) === folder);
  const all = (files: FileStat[]) => JSON.stringify(files.sort((a, b) => (a.path < b.path ? -1 : 1)));
  return {
    whole: false,
    folders: [...foldersIn(now)]
      .filter((folder) => all(inside(before, folder)) !== all(inside(now, folder)))
      .map((path) => ({ path, files: inside(now, path) })),
    gone: [...foldersIn(before)].filter((folder) => !foldersIn(now).has(folder)),
    links: [],
  };
}

const path: fc.Arbitrary<string> = fc.constantFrom(
  'a.ini',
  'Mods/one/x.png',
  'Mods/one/y.png',
  'mods/one/y.png',
  'Mods/one/Y.png',
  'Mods/two/x.png',
  'maps/deep/in/z.map',
  'b.log',
);
const onePath = path.filter((of) => !/^mods|Y/.test(of));
const plain = fc.record({ path: onePath, size: fc.integer({ min: 0, max: 3 }), gone: fc.boolean() });
const step = fc.record({ path, size: fc.integer({ min: 0, max: 3 }), gone: fc.boolean() });

describe('the index of the game’s files', () => {
  it('law: mended with what is told, it says what a look at everything says', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.array(step, { maxLength: 6 }), fc.constantFrom('folders', 'names', 'whole', 'list'))),
        (rounds) => {
          let disk: Disk = new Map();
          const index = new GameIndex({ files: { game: [] }, links: [] });
          let clock = 0;
          for (const [steps, way] of rounds) {
            const now = new Map(disk);
            clock++;
            for (const { path: of, size, gone } of steps)
              if (gone) now.delete(of);
              else now.set(of, { path: of, size, modified: clock });
            if (way === 'folders') index.mend('game', changesBetween(disk, now));
            else if (way === 'whole') index.mend('game', { ...changesBetween(new Map(), now), whole: true });
            else if (way === 'list') index.replace({ files: { game: [...now.values()] }, links: [] });
            else for (const { path: of } of steps) index.mendFile(parseTarget(`game/${of}`), now.get(of));
            disk = now;
            const listed = byKeyOf(disk);
            expect([...index].map(({ target }) => nameKey(target)).sort()).toEqual([...listed.keys()].sort());
            for (const file of index) expect(listed.get(nameKey(file.target))).toContain(said(file));
            expect(index.filesByRoot.get('game')).toBe(disk.size);
            const folders = ['Mods', 'mods'].filter((name) =>
              [...disk.keys()].some((one) => one.startsWith(`${name}/`)),
            );
            const spelled = index.spell(parseTarget('game/MODS/one/new.png'));
            if (folders.length === 0) expect(spelled).toBe('game/MODS/one/new.png');
            else expect(folders.map((name) => `game/${name}/one/new.png`)).toContain(spelled);
          }
        },
      ),
      { numRuns: 300 },
    );
  });

  it('law: the game’s own files are all but the packs’, and the same list while none of them comes or goes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.array(plain, { maxLength: 4 }), fc.uniqueArray(onePath, { maxLength: 3 }))),
        (rounds) => {
          const disk: Disk = new Map();
          const index = new GameIndex({ files: { game: [] }, links: [] });
          let last = { list: index.own(new Set()), says: '[]' };
          for (const [steps, packs] of rounds) {
            for (const { path: of, size, gone } of steps) {
              if (gone) disk.delete(of);
              else disk.set(of, { path: of, size, modified: 1 });
              index.mendFile(parseTarget(`game/${of}`), disk.get(of));
            }
            const brought = new Set(packs.map((of) => nameKey(`game/${of}`)));
            const list = index.own(brought);
            const expected = [...disk.keys()].filter((of) => !packs.includes(of)).map((of) => `game/${of}`);
            expect([...list].sort()).toEqual(expected.sort());
            const says = JSON.stringify([...list].sort());
            // The same list is another one's: what is made of it must hold for this one, too.
            if (list === last.list) expect(says).toBe(last.says);
            last = { list, says };
          }
        },
      ),
      { numRuns: 500 },
    );
  });

  it('keeps the list of the game’s own files where a pack’s come, are written anew and go', () => {
    const index = new GameIndex({ files: { game: [{ path: 'own.ini', size: 1, modified: 1 }] }, links: [] });
    const list = index.own(new Set());
    const pack = parseTarget('game/mods/lamp.png');
    index.mendFile(pack, { path: 'mods/lamp.png', size: 2, modified: 2 });
    expect(index.own(new Set([nameKey(pack)]))).toBe(list);
    index.mendFile(pack, { path: 'mods/lamp.png', size: 3, modified: 3 });
    expect(index.own(new Set([nameKey(pack)]))).toBe(list);
    index.mendFile(parseTarget('game/own.ini'), { path: 'own.ini', size: 5, modified: 5 });
    expect(index.own(new Set([nameKey(pack)]))).toBe(list);
    index.mendFile(pack, undefined);
    index.own(new Set([nameKey(pack)]));
    index.mendFile(parseTarget('game/new.ini'), { path: 'new.ini', size: 1, modified: 6 });
    expect(index.own(new Set())).toEqual(['game/own.ini', 'game/new.ini']);
  });

  it('takes a name that only changes its capitals for another one', () => {
    const index = new GameIndex({ files: { game: [{ path: 'Mods/A.png', size: 1, modified: 1 }] }, links: [] });
    index.mend('game', {
      whole: false,
      folders: [{ path: 'mods', files: [{ path: 'mods/a.png', size: 1, modified: 1 }] }],
      gone: ['Mods'],
      links: ['mods/away'],
    });
    expect([...index].map(({ target }) => target)).toEqual(['game/mods/a.png']);
    expect(index.spell(parseTarget('game/MODS/b.png'))).toBe('game/mods/b.png');
    expect(index.links.get('game/mods/away')).toBe('game/mods/away');
    expect(index.filesByRoot.get('game')).toBe(1);
  });

  it('of two names that differ by capitals alone the other one shows where the first goes', () => {
    const stat = (path: string, size: number): FileStat => ({ path, size, modified: 1 });
    const index = new GameIndex({ files: { game: [stat('Mods/a', 1), stat('mods/a', 2)] }, links: [] });
    expect([[...index].map(({ size }) => size), index.filesByRoot.get('game')]).toEqual([[1], 2]);
    const { version } = index;
    index.replace({ files: { game: [stat('Mods/a', 1), stat('mods/a', 2)] }, links: [] });
    expect(index.version).toBe(version);
    index.mend('game', { whole: false, folders: [{ path: 'Mods', files: [] }], gone: [], links: [] });
    expect([...index].map(({ target, size }) => `${target} ${size}`)).toEqual(['game/mods/a 2']);
    index.mend('game', { whole: false, folders: [], gone: ['mods'], links: [] });
    expect([index.size, index.filesByRoot.get('game')]).toEqual([0, 0]);
  });

  it('leaves the other folders as they are where one is listed', () => {
    const index = new GameIndex({
      files: { game: [{ path: 'a', size: 1, modified: 1 }], user: [{ path: 'b', size: 1, modified: 1 }] },
      links: [parseTarget('game/away'), parseTarget('user/far')],
    });
    index.replace({ files: { user: [{ path: 'c', size: 1, modified: 1 }] }, links: [parseTarget('user/near')] });
    expect([...index].map(({ target }) => target)).toEqual(['game/a', 'user/c']);
    expect([...index.links.values()].sort()).toEqual(['game/away', 'user/near']);
  });
});
