import { describe, expect, it } from 'vitest';
import { proposePlacements, type PackEntry } from '@/core';
import { study } from '../../../tests/support/mill';

const GAME: Record<string, string> = {
  'play.exe': '',
  'sets/base/set.def': 'name base\n',
  'sets/base/tile.dat': '',
  'sets/more/set.def': 'name more\n',
  'sets/more/tile.dat': '',
  'sets.txt': '# in their order\r\nbase\r\nmore\r\n',
  'tiles.lst': 'tile.dat\nset\n',
  'paths.lst': 'sets/base\nsets\\more\n',
  'elsewhere.lst': 'sets/base\nhulls/more\n',
  'notes.txt': 'Nothing here.\n',
  'words.txt': 'alpha\nbeta\n',
  // One word alone is a list only where the file is called so.
  'sets/base/mark.dat': 'more\n',
  'enabled.txt': 'base\n',
};
const CORAL: Record<string, string> = {
  'sets/coral/set.def': 'name coral\n',
  'sets/coral/tile.dat': '',
  'sets.txt': 'base\nmore\ncoral\n',
};

describe('names that no target can have', () => {
  it.each(['odd\\name.ini', 'tab\tname.ini', '.../x.ini'])('%j is passed over', async (name) => {
    const { card } = await study({ 'play.exe': '', [name]: '[a]\nb=1\n', 'play.ini': '[a]\nb=1\n' });
    expect(card.settings.map(({ target }) => target)).toEqual(['game/play.ini']);
  });
});

describe('files that only list names of things in the game', () => {
  it('are settings: names of folders, of files, of files without their endings, and paths; other words are not', async () => {
    const { card } = await study(GAME);
    expect(card.settings.map(({ target, dialect }) => [target, dialect])).toEqual([
      ['game/enabled.txt', 'commands'],
      ['game/paths.lst', 'commands'],
      ['game/sets.txt', 'commands'],
      ['game/tiles.lst', 'commands'],
    ]);
  });

  it.each([undefined, { path: 'sets.txt', text: CORAL['sets.txt'] ?? '' }])(
    'a pack that brings one adds its names, also where nothing else in it could be a read-me',
    async (readMe) => {
      const { card, statements } = await study(GAME);
      const entries = Object.keys(CORAL).map((path) => ({ path, size: 5 })) as unknown as PackEntry[];
      const gameFiles = Object.keys(GAME).map((path) => `game/${path}`);
      const texts = new Map(Object.entries(CORAL));
      const { placement } = proposePlacements({
        card,
        statements,
        entries,
        gameFiles,
        texts,
        readMe,
        name: 'coral.7z',
      });
      expect(placement.rules.find(({ from }) => from === 'sets.txt')).toMatchObject({
        as: 'edits',
        to: 'game/sets.txt',
        edits: [{ path: ['base'] }, { path: ['more'] }, { path: ['coral'], value: '' }],
      });
    },
  );
});
