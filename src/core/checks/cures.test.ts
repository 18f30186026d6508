import { describe, expect, it } from 'vitest';
import { parseTarget } from '@/core';
import { curesOf } from './cures';
import type { Trouble } from './trouble';

const at = parseTarget;
const names = { shown: (target: string) => target, nameOf: (layer: string) => layer };
const base = { id: 'x', level: 'wrong' as const, layer: 'Glow Boats' };
/** Where each file goes, as a player would move it by hand. */
const moves = (trouble: Trouble): string[] =>
  curesOf(trouble, names).flatMap((cure) =>
    cure.kind === 'move' ? cure.moves.map(({ from, to }) => `${from} > ${to}`) : [],
  );

describe('what can be done: each file ends up where the game looks for it', () => {
  it.each<[string, Trouble, string[]]>([
    [
      'straight in the folder of packs',
      { ...base, kind: 'straight-in', into: at('game/mods'), files: [at('game/mods/a.png')], why: '' },
      ['game/mods/a.png > game/mods/glow-boats/a.png'],
    ],
    [
      'an add-on a level too deep',
      {
        ...base,
        kind: 'add-on too deep',
        folder: 'glow',
        at: at('game/mods/glow'),
        inner: at('game/mods/glow/glow'),
        wanted: at('game/mods/glow/mod.txt'),
        has: at('game/mods/glow/glow/mod.txt'),
        files: [at('game/mods/glow/glow/mod.txt'), at('game/mods/glow/glow/in/a.png')],
        why: '',
      },
      [
        'game/mods/glow/glow/mod.txt > game/mods/glow/mod.txt',
        'game/mods/glow/glow/in/a.png > game/mods/glow/in/a.png',
      ],
    ],
    [
      'pictures beside the folder that is read',
      {
        ...base,
        kind: 'too high',
        here: at('game/titles/OTTR'),
        inner: at('game/titles/OTTR/load'),
        name: 'load',
        files: [{ target: at('game/titles/OTTR/in/a.png'), rest: 'OTTR/in/a.png' }],
      },
      ['game/titles/OTTR/in/a.png > game/titles/OTTR/load/in/a.png'],
    ],
    [
      'the folder that is read, twice',
      {
        ...base,
        kind: 'too deep',
        inner: at('game/titles/OTTR/load'),
        twice: at('game/titles/OTTR/load/load'),
        files: [at('game/titles/OTTR/load/load/a.png')],
      },
      ['game/titles/OTTR/load/load/a.png > game/titles/OTTR/load/a.png'],
    ],
    [
      'the folder of an id inside another one',
      {
        ...base,
        kind: 'id inside',
        folder: 'pack',
        nested: 'OTTR',
        here: at('game/titles/pack'),
        into: at('game/titles'),
        files: [at('game/titles/pack/OTTR/a.png')],
      },
      ['game/titles/pack/OTTR/a.png > game/titles/OTTR/a.png'],
    ],
    [
      'a folder with another id',
      {
        ...base,
        kind: 'wrong id',
        folder: 'OTTX',
        here: at('game/titles/OTTX'),
        base: at('game/titles/OTTX/load'),
        files: [at('game/titles/OTTX/load/a.png')],
        region: undefined,
        own: [{ id: 'OTTR', title: 'Otter' }],
        right: { id: 'OTTR', goal: at('game/titles/OTTR/load') },
      },
      ['game/titles/OTTX/load/a.png > game/titles/OTTR/load/a.png'],
    ],
    [
      'a text that hides the game’s own',
      { ...base, kind: 'hides texts', target: at('game/text/en.lang'), lost: ['a'], why: '' },
      ['game/text/en.lang > game/text/glow-boats-en.lang'],
    ],
  ])('%s', (_, trouble, expected) => expect(moves(trouble)).toEqual(expected));

  it('the value that gets its way first, each other one once, and none where a key would go', () => {
    const wants = ['1', '2', undefined, '1', '3'].map((value, i) => ({ by: `p${i}`, value }));
    const cures = curesOf({ ...base, kind: 'fought over', file: at('game/a.ini'), path: ['k'], wants }, names);
    expect(cures.map((cure) => cure.kind === 'edit' && cure.edit.value)).toEqual(['3', '1', '2']);
  });

  it('no move of more files than can be shown', () => {
    const files = Array.from({ length: 2001 }, (_, i) => at(`game/mods/${i}.png`));
    expect(curesOf({ ...base, kind: 'straight-in', into: at('game/mods'), files, why: '' }, names)).toEqual([]);
  });
});
