import { describe, expect, it } from 'vitest';
import {
  placeFiles,
  proposePlacements,
  studyGame,
  wholeTarget,
  type PackEntry,
  type PackPath,
  type TargetPath,
} from '@/core';

/** Where the files of a pack go in a game that nobody described; how sure; and the pack itself where it stays whole. */
async function placed(
  game: Record<string, readonly string[]>,
  pack: { name: string; files: readonly string[]; says?: string; inside?: ReadonlyMap<string, readonly string[]> },
) {
  const folders = Object.entries(game).map(([id, paths]) => ({
    id,
    title: id === 'game' ? 'Lock Keepers' : 'Lock Keepers (player)',
    files: paths.map((path) => ({ path, size: 100 })),
    read: async () => undefined,
  }));
  const { card, statements } = await studyGame(folders, pack.inside ? { inside: pack.inside } : {});
  const entries = pack.files.map((path): PackEntry => ({ path: path as PackPath, size: 10 }));
  const gameFiles = Object.entries(game).flatMap(([id, paths]) => paths.map((path) => `${id}/${path}` as TargetPath));
  const { says, name, inside } = pack;
  const readMe = says === undefined ? {} : { readMe: { path: 'readme.txt', text: says } };
  const found = proposePlacements({
    entries,
    card,
    statements,
    gameFiles,
    name,
    ...readMe,
    ...(inside ? { inside } : {}),
  });
  return {
    confidence: found.confidence,
    whole: wholeTarget(found.placement),
    to: Object.fromEntries(placeFiles(entries, found.placement).map(({ path, target }) => [path, target])),
  };
}

describe('what belongs together, and what does not', () => {
  it('a file beside one of its name whose kind lies elsewhere is not left in the game’s folder as sure', async () => {
    const game = { game: ['lock.exe', 'lock.ini', 'gates/oak.gate', 'gates/iron.gate', 'gates/brass.gate'] };
    const { to, confidence } = await placed(game, { name: 'Tin.zip', files: ['tin.gate', 'tin.ini'] });
    expect(to['tin.gate']).toBe('game/gates/tin.gate');
    expect([to['tin.ini'], confidence]).not.toEqual(['game/tin.ini', 'sure']);
  });

  it('what a read-me says of one half says nothing of the other', async () => {
    const game = {
      game: ['lock.exe', 'maps/upper.map', 'maps/lower.map', 'tools/gauge.exe'],
      user: ['barges/first.barge', 'barges/second.barge'],
    };
    const files = ['maps/middle.map', 'barges/third.barge'];
    const { to } = await placed(game, { name: 'Middle.zip', files, says: 'Copy maps into the game folder.' });
    expect(to).toEqual({ 'maps/middle.map': 'game/maps/middle.map', 'barges/third.barge': 'user/barges/third.barge' });
  });

  it('one sentence that says to leave it zipped, and where, is no question', async () => {
    const inside = new Map([
      ['game/base.zip', ['gates/oak.png', 'maps/first.map']],
      ['game/more.zip', ['gates/iron.png', 'maps/second.map']],
    ]);
    const game = { game: ['lock.exe', 'base.zip', 'more.zip'] };
    const files = ['gates/tin.png', 'maps/third.map'];
    const says = 'Leave third.zip zipped and put it beside base.zip.';
    expect(await placed(game, { name: 'third.zip', files, says, inside })).toMatchObject({ whole: 'game/third.zip' });
    expect((await placed(game, { name: 'third.zip', files, says, inside })).confidence).not.toBe('ask');
  });

  it('the number in a name is that of a thing that is called by one', async () => {
    const game = {
      game: ['lock.exe', ...['01', '02', '03'].flatMap((n) => [`reach/${n}/reach.json`, `reach/${n}/water.png`])],
    };
    const files = ['reach.json', 'water.png'];
    expect((await placed(game, { name: 'Reach 4.zip', files })).to['water.png']).toBe('game/reach/04/water.png');
    expect((await placed(game, { name: 'Reach 2 anew.zip', files })).to['water.png']).toBe('game/reach/02/water.png');
    // A version is no number of a thing.
    expect((await placed(game, { name: 'Reach 4 v1.2.zip', files })).to['water.png']).toBe('game/reach/04/water.png');
  });
});
