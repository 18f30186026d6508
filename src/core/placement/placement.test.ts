import { describe, expect, it } from 'vitest';
import {
  cardFromFolder,
  decide,
  leftOutOf,
  moveTo,
  placeFiles,
  proposeAt,
  proposePlacements,
  wholeTarget,
  type PackPath,
  parseTarget,
} from '@/core';
import { CASES, entriesOf, gameOf } from '../../../tests/support/placementCases';
import { outcome } from '../../../tests/support/placementOutcome';

describe('placement cases', () => {
  for (const { name, game, pack, texts, file, answers, expected, confidence, questions = [] } of CASES)
    it(`${game}: ${name}`, () => {
      const { card, files } = gameOf(game);
      const proposal = proposePlacements({
        entries: entriesOf(pack),
        card,
        gameFiles: files,
        name: file ?? 'my-pack.zip',
        texts: new Map(Object.entries(texts ?? {})),
        answers: answers ?? {},
      });
      expect(
        confidence,
        `${proposal.confidence}: ${JSON.stringify(proposal.parts.map(({ reason }) => reason))}`,
      ).toContain(proposal.confidence);
      // Where nothing but the place itself is open, the places are offered: as a question or as choices.
      expect(
        proposal.questions
          .filter((question) => !question.answered && question.id !== 'place')
          .map(({ id }) => id)
          .sort(),
      ).toEqual([...questions].sort());
      if (proposal.confidence !== 'ask') {
        expect(outcome(pack, proposal.placement)).toEqual(expected);
        for (const { reason } of proposal.parts) expect(reason).toMatch(/\.$/);
      } else expect(proposal.choices.length + proposal.questions.length).toBeGreaterThan(0);
    });

  it('covers every way of placing, and asks in some of them', () => {
    expect(CASES.length).toBeGreaterThanOrEqual(60);
    const modes = new Set(
      CASES.flatMap(({ game, pack, texts, file, answers }) => {
        const { card, files } = gameOf(game);
        return proposePlacements({
          entries: entriesOf(pack),
          card,
          gameFiles: files,
          name: file ?? 'my-pack.zip',
          texts: new Map(Object.entries(texts ?? {})),
          answers: answers ?? {},
        }).parts.map(({ mode }) => mode);
      }),
    );
    expect([...modes].sort()).toEqual([
      'converted',
      'edits',
      'inside',
      'loose',
      'over',
      'own-folder',
      'title',
      'zipped',
    ]);
    expect(CASES.filter(({ confidence }) => confidence.includes('ask')).length).toBeGreaterThan(8);
  });

  describe('a settings file of one thing is not that of its neighbour', () => {
    const game = [
      'game/trams/lynx/tram.cfg',
      'game/trams/lynx/body.png',
      'game/trams/heron/tram.cfg',
      'game/trams/heron/body.png',
      'game/options.cfg',
      'game/tram.exe',
    ];
    const card = cardFromFolder(
      'g',
      'Trams',
      game.map((path) => ({ path: path.slice(5), size: 10 })),
    ).card;
    const edited = (paths: string[], files = game, of = card) => {
      const texts = new Map(paths.filter((path) => path.endsWith('.cfg')).map((path) => [path, '[Look]\nBell=2\n']));
      return proposePlacements({
        entries: entriesOf(paths),
        card: of,
        gameFiles: files,
        name: 'p.zip',
        texts,
      }).placement.rules.flatMap((rule) => (rule.as === 'edits' ? [`${rule.from} > ${rule.to}`] : []));
    };
    const one = game.filter((path) => !path.includes('heron'));
    const oneCard = cardFromFolder(
      'g',
      'Trams',
      one.map((path) => ({ path: path.slice(5), size: 10 })),
    ).card;
    it.each([
      ['beside the game’s own', ['trams/otter/tram.cfg', 'trams/otter/body.png'], []],
      ['under a wrapper', ['Otter 2/trams/otter/tram.cfg', 'Otter 2/trams/otter/body.png'], []],
      ['with nothing above it', ['otter/tram.cfg', 'otter/body.png'], []],
      ['and nothing but it', ['otter/tram.cfg'], []],
      [
        'unless it is that very file',
        ['trams/lynx/tram.cfg', 'trams/otter/body.png'],
        ['trams/lynx/tram.cfg > game/trams/lynx/tram.cfg'],
      ],
      ['nor the game’s own, deep inside another thing', ['trams/otter/options.cfg', 'trams/otter/body.png'], []],
      ['the game’s own at the top', ['Fix/options.cfg', 'Fix/readme.txt'], ['Fix/options.cfg > game/options.cfg']],
    ])('%s', (_, paths, expected) => {
      expect(edited(paths)).toEqual(expected);
      expect(edited(paths, one, oneCard)).toEqual(expected);
    });
  });

  it('law: the same proposal in any order of reading', () => {
    for (const { game, pack, texts, file, answers } of CASES) {
      const { card, files } = gameOf(game);
      const input = {
        card,
        name: file ?? 'my-pack.zip',
        texts: new Map(Object.entries(texts ?? {})),
        answers: answers ?? {},
      };
      const one = proposePlacements({ ...input, entries: entriesOf(pack), gameFiles: files });
      const two = proposePlacements({ ...input, entries: entriesOf(pack), gameFiles: [...files].reverse() });
      expect(two).toEqual(one);
    }
  });

  it('law: no file goes anywhere but under one of the game’s roots, and none twice', () => {
    for (const { game, pack, texts, file, answers } of CASES) {
      const { card, files } = gameOf(game);
      const { placement } = proposePlacements({
        entries: entriesOf(pack),
        card,
        gameFiles: files,
        name: file ?? 'my-pack.zip',
        texts: new Map(Object.entries(texts ?? {})),
        answers: answers ?? {},
      });
      const placed = placeFiles(entriesOf(pack), placement);
      const roots = new Set(card.roots.map(({ id }) => id));
      for (const { target } of placed) expect(roots.has(target.slice(0, target.indexOf('/')))).toBe(true);
      expect(new Set(placed.map(({ path }) => path)).size).toBe(placed.length);
      const out = leftOutOf(placement, entriesOf(pack));
      const edits = new Set(placement.rules.flatMap((rule) => (rule.as === 'edits' ? [rule.from] : [])));
      if (!wholeTarget(placement))
        for (const path of pack)
          expect(
            Number(out.has(path as PackPath)) +
              Number(placed.some((one) => one.path === path)) +
              Number(edits.has(path)),
            path,
          ).toBe(1);
    }
  });
});

describe('the player’s decisions', () => {
  const { card, files } = gameOf('plain');
  const paths = ['W/assets/textures/quay/planks.png', 'W/assets/textures/quay/rope.png', 'W/readme.txt'];
  const entries = entriesOf(paths);
  const { placement } = proposePlacements({ entries, card, gameFiles: files });

  it('leaves a file out and takes it in again', () => {
    const out = decide(placement, entries, 'W/assets/textures/quay/rope.png', false);
    expect(Object.keys(outcome(paths, out))).toEqual(['W/assets/textures/quay/planks.png']);
    expect(decide(out, entries, 'W/assets/textures/quay/rope.png', true)).toEqual(placement);
  });

  it('takes in what was left out by default, and whole folders at once', () => {
    const all = decide(placement, entries, 'W', true);
    expect(outcome(paths, all)['W/readme.txt']).toBe('program/readme.txt');
    expect(outcome(paths, decide(all, entries, 'W', false))).toEqual({});
  });

  it('puts what the game knows nothing of where the player says, and leaves only the read-me out', () => {
    const paths = ['horn.tune', 'read me.txt'];
    expect(
      outcome(
        paths,
        proposeAt({ entries: entriesOf(paths), card, gameFiles: files }, '', parseTarget('program/assets/sounds')),
      ),
    ).toEqual({ 'horn.tune': 'program/assets/sounds/horn.tune' });
  });

  it('places anywhere the player says', () => {
    const moved = proposeAt({ entries, card, gameFiles: files }, 'W/assets', parseTarget('program/addons/mine'));
    expect(outcome(paths, moved)).toEqual({
      'W/assets/textures/quay/planks.png': 'program/addons/mine/textures/quay/planks.png',
      'W/assets/textures/quay/rope.png': 'program/addons/mine/textures/quay/rope.png',
    });
  });

  it('moves a folder or one file elsewhere by hand, and back', () => {
    const moved = moveTo(placement, 'W/assets/textures/quay', parseTarget('program/assets/textures/boats'));
    expect(outcome(paths, moved)).toEqual({
      'W/assets/textures/quay/planks.png': 'program/assets/textures/boats/planks.png',
      'W/assets/textures/quay/rope.png': 'program/assets/textures/boats/rope.png',
    });
    const one = moveTo(moved, 'W/assets/textures/quay/rope.png', parseTarget('program/assets'));
    expect(outcome(paths, one)['W/assets/textures/quay/rope.png']).toBe('program/assets/rope.png');
    expect(
      moveTo(moveTo(one, 'W/assets/textures/quay/rope.png', undefined), 'W/assets/textures/quay', undefined),
    ).toEqual(placement);
  });

  it('takes in by moving what only had no place', () => {
    const odd = [
      'assets/textures/quay/planks.png',
      'assets/textures/quay/rope.png',
      'bonus/poster.dat',
      'bonus/readme.txt',
    ];
    const proposal = proposePlacements({ entries: entriesOf(odd), card, gameFiles: files });
    const moved = moveTo(proposal.placement, 'bonus', parseTarget('program/extras'));
    expect(outcome(odd, moved)['bonus/poster.dat']).toBe('program/extras/poster.dat');
    expect(outcome(odd, moved)['bonus/readme.txt']).toBeUndefined();
  });
});
