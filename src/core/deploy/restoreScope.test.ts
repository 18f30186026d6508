import { describe, expect, it } from 'vitest';
import { liesIn, onlyConcerning, updateEffects, type DeployedState, type Plan, parseTarget } from '@/core';

const at = (path: string) => parseTarget(path);
const step = (target: string, sha256 = '0'.repeat(64)): Plan['steps'][number] => ({
  action: 'restore',
  target: at(target),
  reason: '',
  layer: '',
  size: 1,
  before: undefined,
  after: { kind: 'kept', sha256, size: 1 },
});
const plan = (...steps: Plan['steps']): Plan => ({
  steps,
  unchanged: 0,
  forget: [],
  drifted: [],
  leftAlone: [],
  refused: [{ target: at('game/x'), why: 'no' }],
});
const state = (...files: { target: string; layer: string }[]): DeployedState =>
  ({ format: 1, folders: [], files }) as unknown as DeployedState;

describe('a part of the game that is put back', () => {
  it('a file is itself, whatever its letters’ case; a folder is all in it, and not its neighbour', () => {
    expect(liesIn('game/A/b.png', { what: 'file', at: 'game/a/B.png' })).toBe(true);
    expect(liesIn('game/a/b.png', { what: 'file', at: 'game/a' })).toBe(false);
    expect(liesIn('game/a/b.png', { what: 'folder', at: 'game/a' })).toBe(true);
    expect(liesIn('game/ab/b.png', { what: 'folder', at: 'game/a' })).toBe(false);
  });

  it('nothing else that waits is carried out with it, and what was refused is not of it', () => {
    const whole = plan(step('game/a/one'), step('game/b/two'));
    const around = { state: state(), waiting: whole };
    const found = onlyConcerning(whole, { what: 'folder', at: 'game/a' }, around);
    expect(found.steps.map(({ target }) => target)).toEqual(['game/a/one']);
    expect(found.refused).toEqual([]);
  });

  it('a file alone is put back alone, with what is known of it', () => {
    const whole: Plan = {
      ...plan(step('game/a/one'), step('game/a/one.bak')),
      forget: [at('game/a/one'), at('game/a/two')],
      drifted: [
        { target: at('game/a/ONE'), layer: 'p' },
        { target: at('game/b'), layer: 'p' },
      ] as unknown as Plan['drifted'],
    };
    const found = onlyConcerning(whole, { what: 'file', at: 'game/a/one' }, { state: state(), waiting: plan() });
    expect(found.steps.map(({ target }) => target)).toEqual(['game/a/one']);
    expect(found.forget).toEqual(['game/a/one']);
    expect(found.drifted.map(({ target }) => target)).toEqual(['game/a/ONE']);
  });

  it('a pack is what it edited, too, beside other packs; a file that others alone edited is not of it', () => {
    const files = [
      { target: 'game/both.ini', layer: 'own', living: { edits: [{ layer: 'q' }, { layer: 'p' }] } },
      { target: 'game/theirs.ini', layer: 'own', living: { edits: [{ layer: 'q' }] } },
      { target: 'game/mine.png', layer: 'p' },
    ];
    const whole = plan(step('game/both.ini'), step('game/theirs.ini'), step('game/mine.png'));
    const found = onlyConcerning(
      whole,
      { what: 'pack', layer: 'p' },
      { state: state(...files), waiting: plan(step('game/both.ini'), step('game/theirs.ini'), step('game/mine.png')) },
    );
    expect(found.steps.map(({ target }) => target)).toEqual(['game/both.ini', 'game/mine.png']);
  });

  it('a pack is what it had brought, and merges that come out differently without it', () => {
    const merged = step('game/merged', '1'.repeat(64));
    const whole = plan(step('game/mine'), step('game/other'), merged);
    const waiting = plan(step('game/other'), step('game/merged'));
    const around = { state: state({ target: 'game/mine', layer: 'p' }, { target: 'game/other', layer: 'q' }), waiting };
    const found = onlyConcerning(whole, { what: 'pack', layer: 'p' }, around);
    expect(found.steps.map(({ target }) => target)).toEqual(['game/mine', 'game/merged']);
  });
});

describe('what taking changed files as new originals breaks', () => {
  it('names each layer once with its files, then each merge; the player’s own files break nothing', () => {
    const drifted = ['a', 'b'].map((name) => ({ target: at(`game/${name}`), layer: 'p' }));
    const says = updateEffects({
      drifted: [...drifted, { target: at('game/c'), layer: 'q' }, { target: at('game/d'), layer: 'own' }],
      merges: [
        { name: 'Merged: B', target: at('game/B') },
        { name: 'Merged: z', target: at('game/z') },
      ],
      nameOf: (layer) => layer.toUpperCase(),
    });
    expect(says).toHaveLength(3);
    expect(says[0]).toMatch(/^“P” lies over 2 of these files/);
    expect(says[1]).toMatch(/^“Q” lies over one of these files/);
    expect(says[2]).toMatch(/^“Merged: B” is computed again/);
  });
});
