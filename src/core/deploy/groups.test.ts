import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseTarget } from '../paths/paths';
import { groupSteps, type Groupable } from './groups';

const step = (target: string, over: Partial<Groupable> = {}): Groupable => ({
  target: parseTarget(target),
  action: 'add',
  layer: 'quay',
  reason: 'It is new.',
  ...over,
});

describe('steps summed up', () => {
  it('say one thing once: by pack, by what is done and why, by folder', () => {
    const steps = [
      step('game/textures/quay/plank.png'),
      step('game/textures/quay/rope.png'),
      step('game/textures/quay/moss.png', { action: 'replace', reason: 'The original is kept.' }),
      step('game/sounds/bell.ogg', { layer: 'bell' }),
    ];
    expect(groupSteps(steps)).toEqual([
      {
        layer: 'quay',
        files: 3,
        sums: [
          { action: 'add', reason: 'It is new.', at: 'game/textures/quay', files: 2 },
          { action: 'replace', reason: 'The original is kept.', at: 'game/textures/quay/moss.png', files: 1 },
        ],
      },
      {
        layer: 'bell',
        files: 1,
        sums: [{ action: 'add', reason: 'It is new.', at: 'game/sounds/bell.ogg', files: 1 }],
      },
    ]);
  });

  it('stand with the most files first, and of as many by their places', () => {
    const of = (folder: string, files: number, reason: string) =>
      Array.from({ length: files }, (_, i) => step(`game/${folder}/${i}.png`, { reason }));
    const steps = [...of('pines', 2, 'a'), ...of('oaks', 2, 'b'), ...of('rocks', 5, 'c'), ...of('moss', 3, 'd')];
    const wanted = ['game/rocks 5', 'game/moss 3', 'game/oaks 2', 'game/pines 2'];
    const told = (some: typeof steps) => groupSteps(some)[0]?.sums.map(({ at, files }) => `${at} ${files}`);
    expect(told(steps)).toEqual(wanted);
    expect(told([...steps].reverse())).toEqual(wanted);
  });

  it('fold many folders into those above them', () => {
    const steps = Array.from({ length: 48 }, (_, i) => [step(`game/isles/${i}/a.png`), step(`game/isles/${i}/b.png`)]);
    expect(groupSteps(steps.flat())[0]?.sums).toEqual([
      { action: 'add', reason: 'It is new.', at: 'game/isles', files: 96 },
    ]);
  });

  it('sum up a plan of any size: a folder of 200,000 files that is folded into the one above it', () => {
    const steps = [
      step('game/a/b/first.png'),
      ...Array.from({ length: 200_000 }, (_, i) => step(`game/a/b/c/${i}.png`)),
      ...Array.from({ length: 8 }, (_, i) => step(`game/isle ${i}/x.png`)),
    ];
    expect(groupSteps(steps)[0]?.sums[0]).toMatchObject({ at: 'game', files: 200_009 });
  });

  it('law: every step is in exactly one line, which holds it and says what is done with it', () => {
    const name = fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f', 'g', 'h');
    const some = fc.record({
      path: fc.array(name, { minLength: 1, maxLength: 5 }),
      action: fc.constantFrom<Groupable['action']>('add', 'replace', 'restore', 'remove', 'edit'),
      layer: name,
      reason: fc.option(name, { nil: undefined }),
    });
    fc.assert(
      fc.property(fc.uniqueArray(some, { selector: ({ path }) => path.join('/'), maxLength: 60 }), (raw) => {
        const steps = raw.map(({ path, ...rest }) => ({ ...rest, target: parseTarget(`game/${path.join('/')}.x`) }));
        const groups = groupSteps(steps);
        for (const { layer, files, sums } of groups) {
          const mine = steps.filter((one) => one.layer === layer);
          expect(files).toBe(mine.length);
          expect(sums.reduce((sum, one) => sum + one.files, 0)).toBe(mine.length);
          for (const { action, reason, at, files: told } of sums) {
            const meant = mine.filter((one) => one.action === action && one.reason === reason);
            const below = meant.filter(({ target }) => target === at || target.startsWith(`${at}/`));
            expect(below.length).toBeGreaterThanOrEqual(told);
          }
        }
        expect(groups.reduce((sum, { files }) => sum + files, 0)).toBe(steps.length);
      }),
    );
  });
});
