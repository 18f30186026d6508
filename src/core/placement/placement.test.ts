import { describe, expect, it } from 'vitest';
import { decide, gameCardSchema, leftOutOf, placeFiles, proposeAt, proposePlacements, type PackEntry, type PackPath, type TargetPath } from '@/core';

const card = gameCardSchema.parse({
  card: 1, id: 'g', title: 'G',
  roots: [{ id: 'program', title: 'Program folder' }, { id: 'user', title: 'User data' }],
  settings: [{ target: 'user/game.ini', dialect: 'ini', title: 'Settings' }],
});

/** A game made up for these cases. */
const GAME = [
  'program/game.bin', 'program/assets/textures/quay/planks.png', 'program/assets/textures/quay/rope.png', 'program/assets/textures/boats/heron.png', 'program/assets/sounds/horn.wav',
  'program/assets/text/en.lang', 'program/addons/locker/addon.txt', 'program/addons/locker/textures/brass.png', 'program/vessels/heron/paints/white/hull.png', 'program/vessels/tern/paints/white/hull.png',
  'user/game.ini', 'user/skippers/ada/view.xml',
];

const entries = (...paths: string[]): PackEntry[] => paths.map((path, i) => ({ path: path as PackPath, size: 10 + i }));
const propose = (...paths: string[]) => proposePlacements({ entries: entries(...paths), card, gameFiles: GAME });
const mapping = (paths: string[], placement = propose(...paths).placement) => Object.fromEntries(placeFiles(entries(...paths), placement).map(({ path, target }) => [path, target]));

/**
 * What goes where. Common practice: a pack that repeats the game's tree goes over it under any wrappers; one that starts
 * lower down goes one level above the first folder that both have. `ask`: a question is expected, not an answer.
 */
const CASES: { name: string; pack: string[]; expected: Record<string, string>; confidence: ('sure' | 'likely' | 'ask')[] }[] = [
  { name: 'the game’s tree as it is', pack: ['assets/textures/quay/planks.png'], expected: { 'assets/textures/quay/planks.png': 'program/assets/textures/quay/planks.png' }, confidence: ['sure'] },
  { name: 'one wrapper', pack: ['My Pack/assets/textures/quay/planks.png'], expected: { 'My Pack/assets/textures/quay/planks.png': 'program/assets/textures/quay/planks.png' }, confidence: ['sure'] },
  { name: 'three wrappers', pack: ['a/b/c/assets/textures/quay/new.png'], expected: { 'a/b/c/assets/textures/quay/new.png': 'program/assets/textures/quay/new.png' }, confidence: ['sure'] },
  { name: 'starts at textures', pack: ['textures/quay/planks.png', 'textures/boats/heron.png'], expected: { 'textures/quay/planks.png': 'program/assets/textures/quay/planks.png', 'textures/boats/heron.png': 'program/assets/textures/boats/heron.png' }, confidence: ['sure'] },
  { name: 'starts at quay', pack: ['quay/planks.png', 'quay/extra.png'], expected: { 'quay/planks.png': 'program/assets/textures/quay/planks.png', 'quay/extra.png': 'program/assets/textures/quay/extra.png' }, confidence: ['sure'] },
  { name: 'starts lower under a wrapper', pack: ['Boats HD/boats/heron.png'], expected: { 'Boats HD/boats/heron.png': 'program/assets/textures/boats/heron.png' }, confidence: ['sure'] },
  { name: 'other case', pack: ['ASSETS/Textures/QUAY/Planks.PNG'], expected: { 'ASSETS/Textures/QUAY/Planks.PNG': 'program/ASSETS/Textures/QUAY/Planks.PNG' }, confidence: ['sure'] },
  { name: 'a new folder in a known one', pack: ['W/assets/textures/pier/new.png'], expected: { 'W/assets/textures/pier/new.png': 'program/assets/textures/pier/new.png' }, confidence: ['sure', 'likely'] },
  { name: 'loose files with the game’s names', pack: ['planks.png', 'rope.png'], expected: { 'planks.png': 'program/assets/textures/quay/planks.png', 'rope.png': 'program/assets/textures/quay/rope.png' }, confidence: ['sure', 'likely'] },
  { name: 'a sound alone in its folder', pack: ['Horn/sounds/horn.wav'], expected: { 'Horn/sounds/horn.wav': 'program/assets/sounds/horn.wav' }, confidence: ['sure'] },
  { name: 'textures that match deep down, not by the common name', pack: ['textures/brass.png'], expected: { 'textures/brass.png': 'program/addons/locker/textures/brass.png' }, confidence: ['sure', 'likely'] },
  { name: 'into the user-data folder', pack: ['skippers/ada/view.xml'], expected: { 'skippers/ada/view.xml': 'user/skippers/ada/view.xml' }, confidence: ['sure'] },
  { name: 'two vessels that look alike', pack: ['paints/white/hull.png'], expected: {}, confidence: ['ask'] },
  { name: 'one of them is named', pack: ['tern/paints/white/hull.png'], expected: { 'tern/paints/white/hull.png': 'program/vessels/tern/paints/white/hull.png' }, confidence: ['sure'] },
  { name: 'nothing in common', pack: ['whatever/thing.dat'], expected: {}, confidence: ['ask'] },
  { name: 'read-me, links, pictures of the result, system files', pack: ['P/assets/textures/quay/planks.png', 'P/README.txt', 'P/Visit us.url', 'P/screenshots/after.png', 'P/preview.png', '__MACOSX/P/._x', 'P/assets/.DS_Store', 'P/licence.md'], expected: { 'P/assets/textures/quay/planks.png': 'program/assets/textures/quay/planks.png' }, confidence: ['sure'] },
  { name: 'a read-me inside a game folder', pack: ['assets/textures/quay/planks.png', 'assets/textures/quay/readme.txt'], expected: { 'assets/textures/quay/planks.png': 'program/assets/textures/quay/planks.png' }, confidence: ['sure'] },
  { name: 'an unknown folder beside the game’s', pack: ['assets/textures/quay/planks.png', 'assets/textures/quay/rope.png', 'bonus/poster.dat'], expected: { 'assets/textures/quay/planks.png': 'program/assets/textures/quay/planks.png', 'assets/textures/quay/rope.png': 'program/assets/textures/quay/rope.png' }, confidence: ['sure'] },
];

describe('placements', () => {
  for (const { name, pack, expected, confidence } of CASES)
    it(name, () => {
      const proposal = propose(...pack);
      expect(confidence).toContain(proposal.confidence);
      if (proposal.confidence !== 'ask') expect(mapping(pack)).toEqual(expected);
      expect(proposal.choices.length).toBeGreaterThan(0);
      expect(proposal.choices[0]?.reason).toMatch(/\.$/);
    });

  it('says which folders match', () => {
    expect(propose('W/assets/textures/quay/planks.png').choices[0]?.reason).toBe('Its folders match the game’s own “assets/textures/quay”, and 1 of its files has the name of one of the game’s.');
  });

  it('never replaces a settings file that the game writes', () => {
    const paths = ['game.ini', 'skippers/ada/view.xml'];
    const { placement } = propose(...paths);
    expect(leftOutOf(placement, entries(...paths)).get('game.ini' as PackPath)).toBe('settings the game writes itself');
  });

  it('offers every close place where it asks', () => {
    const proposal = propose('paints/white/hull.png');
    expect(proposal.choices.slice(0, 2).map(({ base }) => base).sort()).toEqual(['program/vessels/heron', 'program/vessels/tern']);
  });

  it('learns nothing from an empty game, and then keeps nothing out', () => {
    const paths = ['a/one.dat', 'a/two.dat'];
    const proposal = proposePlacements({ entries: entries(...paths), card, gameFiles: [] });
    expect(proposal.confidence).toBe('ask');
    expect(mapping(paths, proposal.placement)).toEqual({ 'a/one.dat': 'program/one.dat', 'a/two.dat': 'program/two.dat' });
  });

  it('gives the same proposal in any order of reading', () => {
    const paths = ['W/assets/textures/quay/planks.png', 'W/assets/textures/boats/heron.png', 'W/readme.txt'];
    const one = proposePlacements({ entries: entries(...paths), card, gameFiles: GAME });
    const two = proposePlacements({ entries: entries(...paths), card, gameFiles: [...GAME].reverse() });
    expect(two).toEqual(one);
  });
});

describe('the player’s decisions', () => {
  const paths = ['W/assets/textures/quay/planks.png', 'W/assets/textures/quay/rope.png', 'W/readme.txt'];
  const { placement } = propose(...paths);

  it('leaves a file out and takes it in again', () => {
    const out = decide(placement, entries(...paths), 'W/assets/textures/quay/rope.png', false);
    expect(Object.keys(mapping(paths, out))).toEqual(['W/assets/textures/quay/planks.png']);
    expect(decide(out, entries(...paths), 'W/assets/textures/quay/rope.png', true)).toEqual(placement);
  });

  it('takes in what was left out by default, and whole folders at once', () => {
    const all = decide(placement, entries(...paths), 'W', true);
    expect(mapping(paths, all)['W/readme.txt']).toBe('program/readme.txt');
    expect(mapping(paths, decide(all, entries(...paths), 'W', false))).toEqual({});
  });

  it('places anywhere the player says', () => {
    const moved = proposeAt({ entries: entries(...paths), card, gameFiles: GAME }, 'W/assets', 'program/addons/mine' as TargetPath);
    expect(mapping(paths, moved)).toEqual({ 'W/assets/textures/quay/planks.png': 'program/addons/mine/textures/quay/planks.png', 'W/assets/textures/quay/rope.png': 'program/addons/mine/textures/quay/rope.png' });
  });
});
