import { describe, expect, it } from 'vitest';
import { openSettings, type Dialect } from '@/core';
import { buildGameTree } from '../names/gameTree';
import { namedThings } from './namedThings';

const TREE = buildGameTree(
  ['game'],
  [
    'game/birds/wren/song.ogg',
    'game/birds/finch/song.ogg',
    'game/nests/wren/twig.png',
    'game/seeds/oats.seed',
    'game/seeds/hemp.seed',
    'game/seeds/hemp.png',
    'game/ponds/mere/water.dds',
    'game/lone.lamp',
  ],
);
const named = (text: string, dialect: Dialect) =>
  namedThings(openSettings(text, dialect), TREE).map(
    ({ path, folder, isList }) => `${path.join(' › ')} ${isList ? 'lists' : 'names'} ${folder}`,
  );

describe('settings that name things of the game', () => {
  it.each<[what: string, text: string, dialect: Dialect, wanted: string[]]>([
    ['items with a sign between', '[a]\nAll=wren, finch\n', 'ini', ['a › All lists game/birds']],
    ['brackets', 'all = ["wren", "finch"]\n', 'ini', ['all lists game/birds']],
    ['items by number', '{"all": ["oats", "hemp"], "x": [1, 2]}', 'json', ['all lists game/seeds']],
    ['items of YAML', 'all:\n  - wren\n  - finch\n', 'yaml', ['all lists game/birds']],
    ['elements, the first of which bears no number', '<a><b>oats</b><b>hemp</b></a>', 'xml', ['a lists game/seeds']],
    ['names in a block', 'a = {\n  all = { "wren", "finch" },\n}\n', 'blocks', ['a › all lists game/birds']],
    ['one of several files', 'seed oats\nwind 2\n', 'commands', ['seed names game/seeds']],
    // Two folders have a thing of the name, and of the other there is only one: nobody can tell that it is a choice.
    ['one that lies in two folders', 'bird wren\nwind 2\n', 'commands', []],
    ['the only thing in its folder', 'pond mere\nwind 2\n', 'commands', []],
    ['a file straight in the root', 'lamp lone\nwind 2\n', 'commands', []],
    ['one of which nothing is known', '[a]\nAll=wren,rook\n', 'ini', []],
    ['a key of each section', '[n1]\nSeed=oats\n[n2]\nSeed=hemp\n', 'ini', []],
  ])('%s', (_, text, dialect, wanted) => {
    expect(named(text, dialect)).toEqual(wanted);
  });
});
