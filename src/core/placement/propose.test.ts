import { describe, expect, it } from 'vitest';
import { placeEdits, proposePlacements } from '@/core';
import { entriesOf, gameOf } from '../../../tests/support/placementCases';
import { outcome } from '../../../tests/support/placementOutcome';

describe('proposals', () => {
  const { card, files } = gameOf('plain');
  const propose = (...paths: string[]) => proposePlacements({ entries: entriesOf(paths), card, gameFiles: files });

  it('says which folders match', () => {
    expect(propose('W/assets/textures/quay/planks.png').parts[0]?.reason).toBe(
      '1 of its files has the name of one of the game’s. Its folders match the game’s own “assets/textures/quay”.',
    );
  });

  it('offers every close place where it asks', () => {
    expect(
      propose('paints/white/hull.png')
        .choices.slice(0, 2)
        .map(({ base }) => base)
        .sort(),
    ).toEqual(['program/vessels/heron', 'program/vessels/tern']);
  });

  it('learns nothing from an empty game, and then keeps nothing out', () => {
    const paths = ['a/one.dat', 'a/two.dat'];
    const proposal = proposePlacements({ entries: entriesOf(paths), card, gameFiles: [] });
    expect(proposal.confidence).toBe('ask');
    expect(outcome(paths, proposal.placement)).toEqual({
      'a/one.dat': 'program/one.dat',
      'a/two.dat': 'program/two.dat',
    });
  });

  it('takes packs of any size: 300,000 files that stay out do not break it', () => {
    const many = Array.from({ length: 300_000 }, (_, i) => `W/screenshots/${i}.png`);
    const { confidence, placement } = proposePlacements({
      entries: entriesOf(['W/assets/textures/quay/planks.png', ...many]),
      card,
      gameFiles: files,
    });
    expect(confidence).toBe('sure');
    expect(placement.leftOut).toHaveLength(300_000);
  });

  it('says which questions have to be answered before anything can be done', () => {
    const { card: ferries, files: own } = gameOf('gullwick');
    const ask = (paths: string[], answers = {}) =>
      proposePlacements({
        entries: entriesOf(paths),
        card: ferries,
        gameFiles: own,
        texts: new Map([['controls.ini', '[Keys]\nHorn=x\n']]),
        answers,
      }).questions.map(({ id, open }) => [id, open]);
    expect(ask(['controls.ini'])).toEqual([['profiles:controls.ini', true]]);
    expect(ask(['controls.ini'], { 'profiles:controls.ini': [] })).toEqual([['profiles:controls.ini', false]]);
    expect(ask(['main/assets/textures/quay/planks.png', 'optional/assets/textures/quay/planks.png'])).toEqual([
      ['optional', false],
    ]);
  });

  it('keeps settings as edits: every value of the pack’s file, the last of equal keys', () => {
    const { card: ferries, files: own } = gameOf('gullwick');
    const { placement } = proposePlacements({
      entries: entriesOf(['ferries.ini']),
      card: ferries,
      gameFiles: own,
      texts: new Map([['ferries.ini', '[Graphics]\nWaterDetail=3\nwaterdetail=4\nAddonTextures=1\n']]),
    });
    expect(placeEdits(placement)).toEqual([
      {
        file: 'user/ferries.ini',
        edits: [
          { path: ['Graphics', 'waterdetail'], value: '4' },
          { path: ['Graphics', 'AddonTextures'], value: '1' },
        ],
      },
    ]);
  });

  it('writes the manifest of a converted pack, with an id that another pack does not get', () => {
    const { card: hall, files: own } = gameOf('hedgerow');
    const convert = (paths: string[], name: string) =>
      proposePlacements({ entries: entriesOf(paths), card: hall, gameFiles: own, name }).placement.made[0]?.text ?? '';
    const one = JSON.parse(convert(['bundle/rooms/porch.room', 'bundle.png'], 'Rose "Porch"-2.1.zip')) as Record<
      string,
      string
    >;
    const two = JSON.parse(convert(['bundle/rooms/shed.room', 'bundle.png'], 'Rose "Porch"-2.1.zip')) as Record<
      string,
      string
    >;
    expect(one).toMatchObject({ title: 'Rose "Porch" 2.1', version: '2.1' });
    expect(one.id).not.toBe(two.id);
  });
});
