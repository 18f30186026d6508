import { describe, expect, it } from 'vitest';
import { noDecisions, placeMap, type PackPath, type Placement, parseTarget } from '@/core';

const entries = (...paths: string[]) => paths.map((path) => ({ path: path as PackPath, size: 1 }));
const placement = (rules: Placement['rules'], more: Partial<Placement> = {}): Placement => ({
  rules,
  leftOut: [],
  made: [],
  decisions: noDecisions,
  ...more,
});
const to = (path: string) => parseTarget(path);

describe('which folders go where', () => {
  it('draws a line for each pair of folders and counts what stands in for the game’s own', () => {
    const found = placeMap(
      entries('art/boats/a.png', 'art/boats/b.png', 'art/quay/c.png'),
      placement([{ as: 'files', from: 'art', to: to('game/tex') }]),
      new Set(['game/tex/boats/a.png']),
    );
    expect(found.links).toEqual([
      { from: 'art/boats', to: 'game/tex/boats', files: 2, replacing: 1, moved: false, as: 'files' },
      { from: 'art/quay', to: 'game/tex/quay', files: 1, replacing: 0, moved: false, as: 'files' },
    ]);
  });

  it('draws many folders together until they can be overlooked, and loses no file', () => {
    const many = Array.from({ length: 60 }, (_, i) => `art/set${i % 5}/deep${i}/x.png`);
    const { links } = placeMap(
      entries(...many),
      placement([{ as: 'files', from: '', to: to('game/mods/mine') }]),
      new Set(),
    );
    expect(links.length).toBeLessThanOrEqual(14);
    expect(links.reduce((sum, { files }) => sum + files, 0)).toBe(60);
  });

  it('a pack that stays zipped is one line, and what stays out is counted by folder', () => {
    const zipped = placement([{ as: 'whole', from: '', to: to('game/paks/a.zip') }]);
    expect(placeMap(entries('a.png'), zipped, new Set(['game/paks/a.zip'])).links).toEqual([
      { from: '', to: 'game/paks/a.zip', files: 1, replacing: 1, moved: false, as: 'whole' },
    ]);
    const some = placement([{ as: 'files', from: 'art', to: to('game/tex') }], {
      leftOut: [{ path: 'docs/read.txt' as PackPath, why: 'about the pack' as never }],
    });
    expect(placeMap(entries('art/a.png', 'docs/read.txt'), some, new Set()).leftOut).toEqual([
      { from: 'docs', files: 1 },
    ]);
  });
});
