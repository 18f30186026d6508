import { describe, expect, it } from 'vitest';
import { guide, type GuideFacts } from '@/core';

const start: GuideFacts = {
  packs: 0,
  shelf: false,
  unplaced: 0,
  overlaps: 0,
  undecided: 0,
  switchesOff: 0,
  unlisted: 0,
  asked: 0,
  askedOff: 0,
  lostEdits: 0,
  changes: 0,
  deployedPacks: 0,
  putBack: false,
  checked: 'not yet',
  trial: true,
};

describe('what comes next', () => {
  it.each<[string, Partial<GuideFacts>, string]>([
    ['nothing here yet', {}, 'bring-in'],
    ['a pack whose place is unclear', { packs: 1, unplaced: 1, switchesOff: 1, changes: 5 }, 'place'],
    ['a folder that the game’s list does not name', { packs: 1, unlisted: 1, changes: 5 }, 'settings'],
    ['settings that read-mes ask for do not stand in the way', { packs: 1, asked: 2, changes: 3 }, 'deploy'],
    ['an edit that the game threw out', { packs: 1, lostEdits: 1, changes: 1, deployedPacks: 1 }, 'settings'],
    ['a merge with something to decide', { packs: 2, undecided: 1, switchesOff: 1, changes: 5 }, 'stack'],
    ['a switch that is off', { packs: 1, switchesOff: 1, changes: 5 }, 'settings'],
    ['changes waiting', { packs: 1, changes: 5 }, 'deploy'],
    ['deployed, not tried', { packs: 1, deployedPacks: 1 }, 'check'],
    ['tried, something wrong', { packs: 1, deployedPacks: 1, checked: 'something wrong' }, 'check'],
    ['the last pack taken out, its files still there', { changes: 5, deployedPacks: 1 }, 'deploy'],
    ['everything put back', { packs: 1, changes: 5, switchesOff: 1, putBack: true }, 'deploy'],
    ['a switch that a read-me asks for', { packs: 1, asked: 1, askedOff: 1, changes: 3 }, 'settings'],
    ['a game that the player starts', { packs: 1, deployedPacks: 1, trial: false }, 'check'],
  ])('%s', (_name, facts, step) => {
    const next = guide({ ...start, ...facts });
    expect(next.step).toBe(step);
    expect(next.sentence).toMatch(/[.]$/);
  });

  it('promises no trial run where there is none', () => {
    for (const checked of ['not yet', 'all well', 'something wrong'] as const)
      expect(guide({ ...start, packs: 1, deployedPacks: 1, checked, trial: false }).sentence).not.toMatch(/trial/i);
  });

  it('counts what wants attention in each step', () => {
    expect(
      guide({ ...start, packs: 2, unplaced: 1, overlaps: 3, switchesOff: 1, changes: 7, deployedPacks: 1 }).attention,
    ).toEqual({ 'bring-in': 0, place: 1, stack: 3, settings: 1, deploy: 7, check: 1, ledger: 0 });
  });
});
