import { describe, expect, it } from 'vitest';
import { kitFolders, kitInFolders, noDecisions, importKit, type TargetPath } from '@/core';
import { kitOf } from '../../../tests/support/kits';

describe('kits', () => {
  describe('in folders that are called otherwise here', () => {
    const rule = (to: string) => ({ as: 'files' as const, from: 'game/in the pack', to: to as TargetPath });
    const kitWith = async (to: string) => {
      const opened = await importKit(await kitOf(), 'kit.zip');
      const [pack] = opened.kit.way.layers;
      if (pack?.kind !== 'pack') throw new Error('no pack');
      const placement = {
        rules: [rule(to)],
        leftOut: [],
        made: [{ target: `${to}/made` as TargetPath, text: '', why: '' }],
        decisions: {
          ...noDecisions,
          moves: [{ from: 'game/x', to: `${to}/moved` as TargetPath }],
          answers: { where: [`${to}/there`, 'no place'] },
        },
      };
      const file = `${to}/a.ini` as TargetPath;
      return kitOf({
        stack: {
          layers: [
            { ...pack, placement },
            { kind: 'edits', id: 'e', name: 'E', on: true, file, edits: [{ path: ['game/key'], value: 'game/value' }] },
            { kind: 'merge', id: 'm', name: 'M', on: true, target: file, sources: [], decisions: [] },
          ],
          picks: [
            { scope: 'file', at: file, layer: 'l1' },
            { scope: 'folder', at: to, layer: 'l1' },
            // A kind is no place, even where a folder is called like it.
            { scope: 'kind', at: 'game', layer: 'l1' },
          ],
          ownFiles: [{ target: file, dialect: 'ini' }],
          sets: [{ id: 's', name: 'S', at: 1, files: [{ file, edits: [] }] }],
        },
      });
    };

    it('every place is renamed, and nothing that only looks like one', async () => {
      const { kit } = await importKit(await kitWith('game'), 'kit.zip');
      const wanted = (await importKit(await kitWith('install'), 'kit.zip')).kit;
      const here = { roots: [{ id: 'install', title: 'GAME' }] };
      expect(kitFolders(kit, here)).toMatchObject([{ id: 'game', title: 'Game', here: 'install' }]);
      const moved = kitInFolders(kit, here, new Map([['game', 'install']]));
      expect([moved.way, moved.sets]).toEqual([wanted.way, wanted.sets]);
      expect(() => kitInFolders(kit, here, new Map())).toThrow(/“Game”/);
      expect(() => kitInFolders(kit, here, new Map([['game', 'gone']]))).toThrow(/“Game”/);
    });

    it.each([
      [
        'the same id',
        [
          { id: 'other', title: 'Game' },
          { id: 'game', title: 'X' },
        ],
        'game',
      ],
      [
        'the same title',
        [
          { id: 'x', title: 'X' },
          { id: 'y', title: 'game' },
        ],
        'y',
      ],
      ['the only one that there is', [{ id: 'x', title: 'X' }], 'x'],
      [
        'none of two others',
        [
          { id: 'x', title: 'X' },
          { id: 'y', title: 'Y' },
        ],
        undefined,
      ],
    ])('taken for it: %s', async (_, roots, id) => {
      const { kit } = await importKit(await kitWith('game'), 'kit.zip');
      expect(kitFolders(kit, { roots })[0]?.here).toBe(id);
    });
  });
});
