import { describe, expect, it } from 'vitest';
import { cardFromFolder, explainPortable, gameCardSchema, locateRoots, type TargetPath } from '@/core';
import { gullwickFolders } from '@/demo/gullwick';
import { tinplateCard } from '@/demo/tinplate';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { FOLDER_CONTRACT } from '../../../tests/support/folderContract';
import { SubFolder, WithoutFolder } from '@/folders/sub';

const look = (files: Record<string, string>) => ({
  has: async (target: TargetPath) => target in files,
  read: async (target: TargetPath) => files[target],
});

describe('where a game’s folders really are', () => {
  it('where they were given, without a marker', async () => {
    expect(await locateRoots(tinplateCard, look({ 'player/tinplate.bin': '' }))).toEqual([
      { root: 'player' },
      { root: 'user' },
    ]);
  });
  it('beside the program, with the portable marker', async () => {
    expect((await locateRoots(tinplateCard, look({ 'player/carry.flag': '' })))[1]).toMatchObject({
      root: 'user',
      inside: { root: 'player', path: 'pocket' },
    });
  });
  it('where the program’s own settings say: relative, quoted, with backslashes', async () => {
    for (const [value, path] of [
      ['data', 'data'],
      ['"my data"', 'my data'],
      ['deep\\er\\', 'deep/er'],
      ['./here', 'here'],
    ])
      expect(
        (await locateRoots(tinplateCard, look({ 'player/tinplate.cfg': `[Folders]\nUserData=${value}\n` })))[1],
      ).toMatchObject({ inside: { root: 'player', path } });
  });
  it('outside of what the app was given: named, never followed', async () => {
    for (const value of ['D:\\Tin', '/home/x', '..\\elsewhere']) {
      const [, user] = await locateRoots(
        tinplateCard,
        look({ 'player/tinplate.cfg': `[Folders]\nUserData=${value}\n` }),
      );
      expect(user).toMatchObject({ root: 'user', outside: value });
      expect(user?.inside).toBeUndefined();
    }
  });
  it('the marker counts before the settings, and an empty value is none', async () => {
    expect(
      (
        await locateRoots(
          tinplateCard,
          look({ 'player/carry.flag': '', 'player/tinplate.cfg': '[Folders]\nUserData=data\n' }),
        )
      )[1]?.inside?.path,
    ).toBe('pocket');
    expect((await locateRoots(tinplateCard, look({ 'player/tinplate.cfg': '[Folders]\nUserData=\n' })))[1]).toEqual({
      root: 'user',
    });
  });
  it('explains the switch before it is made', () => {
    expect(explainPortable(tinplateCard, 'user')).toMatchObject({
      marker: 'player/carry.flag',
      moves: expect.stringContaining('look lost'),
    });
    expect(explainPortable(tinplateCard, 'player')).toBeUndefined();
  });
});

describe('a folder inside a folder', () => {
  for (const { name, run } of FOLDER_CONTRACT)
    it(`keeps the contract: ${name}`, () => run(new SubFolder(new MemoryFolder(), 'some/where')));
  it('is not listed a second time with the outer one', async () => {
    const outer = new MemoryFolder({ 'a.txt': '1', 'pocket/b.txt': '2', 'pockets/c.txt': '3' });
    const names = async (folder: { list(): AsyncIterable<{ path: string }> }) => {
      const found: string[] = [];
      for await (const { path } of folder.list()) found.push(path);
      return found.sort();
    };
    expect(await names(new WithoutFolder(outer, ['pocket']))).toEqual(['a.txt', 'pockets/c.txt']);
    expect(await names(new SubFolder(outer, 'pocket'))).toEqual(['b.txt']);
  });
});

describe('a card out of a folder', () => {
  it('finds program, settings and log, says why, and is a card that the app accepts', () => {
    const { program, user } = gullwickFolders();
    const files = [
      ...Object.entries(program),
      ...Object.entries(user).map(([path, data]) => [`userdata/${path}`, data] as const),
    ].map(([path, data]) => ({ path, size: data.length }));
    const { card, settings, reasons, kinds } = cardFromFolder('mine', 'Mine', [
      ...files,
      { path: 'userdata/load.log', size: 5 },
    ]);
    expect(gameCardSchema.parse(card)).toEqual(card);
    expect(card.roots).toMatchObject([{ id: 'game', title: 'Program folder', markers: ['gullwick.bin'] }]);
    expect(settings).toContain('userdata/ferries.ini');
    expect(card.settings.map(({ target }) => target)).toContain('game/userdata/ferries.ini');
    expect(card.log?.target).toBe('game/userdata/load.log');
    expect(kinds[0]).toMatchObject({ folder: 'assets/textures/quay', kind: 'picture' });
    expect(reasons.join(' ')).toContain('userdata');
  });
  it('makes a plain card out of nothing, and of hostile names', () => {
    expect(cardFromFolder('mine', 'Mine', []).card).toMatchObject({
      roots: [{ id: 'game', title: 'Game folder' }],
      settings: [],
    });
    expect(cardFromFolder('mine', 'Mine', [{ path: '__proto__/constructor.ini', size: 3 }]).settings).toEqual([
      '__proto__/constructor.ini',
    ]);
  });
});
