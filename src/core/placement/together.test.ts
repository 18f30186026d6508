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
    offers: found.questions.flatMap(({ options }) =>
      options.map(({ label }) => label.replace('Lock Keepers/', 'game/')),
    ),
    whole: wholeTarget(found.placement),
    to: Object.fromEntries(placeFiles(entries, found.placement).map(({ path, target }) => [path, target])),
  };
}

/** Ships, each of a file that says what it is, and of a sail. */
const SHIPS = ['sea.exe', ...['sloop', 'brig'].flatMap((ship) => [`ships/${ship}/ship.def`, `ships/${ship}/sail.dds`])];

describe('half of what the things of a kind have', () => {
  const versions = ['bright/sail.dds', 'dark/sail.dds'];

  it('in several folders is one part in several versions, and no further things', async () => {
    const { to, confidence, offers } = await placed({ game: SHIPS }, { name: 'Red sail.zip', files: versions });
    expect({ to, confidence }).toEqual({ to: {}, confidence: 'ask' });
    expect(offers).toEqual(['bright', 'dark']);
  });

  it('in one folder goes over the one that is spoken of', async () => {
    const pack = { name: 'Red sail.zip', files: ['bright/sail.dds'], says: 'For the sloop.' };
    expect((await placed({ game: SHIPS }, pack)).to).toEqual({ 'bright/sail.dds': 'game/ships/sloop/sail.dds' });
  });

  it('is asked about where nothing says for which it is, and never laid over one by itself', async () => {
    const { confidence, to } = await placed({ game: SHIPS }, { name: 'Red sail.zip', files: ['bright/sail.dds'] });
    expect(confidence).toBe('ask');
    expect(to).toEqual({ 'bright/sail.dds': 'game/ships/bright/sail.dds' });
  });

  it('is more than half of two: such a folder is one more thing, whoever is spoken of', async () => {
    const of = (ship: string) => ['ship.def', 'sail.dds', 'mast.dds'].map((file) => `ships/${ship}/${file}`);
    const game = { game: ['sea.exe', ...of('sloop'), ...of('brig')] };
    const files = ['cog', 'yawl'].flatMap((ship) => [`${ship}/ship.def`, `${ship}/sail.dds`]);
    expect((await placed(game, { name: 'Two.zip', files })).offers).not.toContain('cog');
    const pack = { name: 'One.zip', files: ['cog/ship.def', 'cog/sail.dds'], says: 'As quick as the sloop.' };
    expect(Object.values((await placed(game, pack)).to)).not.toContain('game/ships/sloop/sail.dds');
  });

  it('with the other half is one more thing, each of several', async () => {
    const files = ['cog', 'yawl'].flatMap((ship) => [`${ship}/ship.def`, `${ship}/sail.dds`]);
    const { to, offers } = await placed({ game: SHIPS }, { name: 'Two ships.zip', files });
    expect(to).toEqual(Object.fromEntries(files.map((path) => [path, `game/ships/${path}`])));
    expect(offers).toEqual([]);
  });
});

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

  it('an ending that differs only in its number is of one kind, but not one that anybody knows', async () => {
    const game = { game: ['lock.exe', 'saves/first.st0', 'saves/second.st0', 'tunes/a.mp3', 'tunes/b.mp3'] };
    expect((await placed(game, { name: 'third.st1', files: ['third.st1'] })).to['third.st1']).toBe(
      'game/saves/third.st1',
    );
    const other = await placed(game, { name: 'film.mp4', files: ['film.mp4'] });
    expect([other.to['film.mp4'], other.confidence]).not.toEqual(['game/tunes/film.mp4', 'sure']);
  });

  it('a page is one of the languages that lie together, and no read-me', async () => {
    const game = { game: ['lock.exe', 'help/en.html', 'help/fr.html'] };
    expect((await placed(game, { name: 'es.zip', files: ['es.html'] })).to).toEqual({ 'es.html': 'game/help/es.html' });
    expect(
      (await placed(game, { name: 'es.zip', files: ['visit us.html', 'es.html'] })).to['visit us.html'],
    ).toBeUndefined();
  });

  it('a name without what the others have in brackets is asked about, with the names that the game has', async () => {
    const names = ['Heron Reach (North)', 'Heron Reach (South)', 'Otter Pool (North)'];
    const game = {
      game: [
        'lock.exe',
        ...names.map((name) => `reaches/${name}.rch`),
        'notes/Heron Reach (North).nte',
        'notes/Otter Pool (North).nte',
      ],
    };
    const asked = await placed(game, { name: 'Heron Reach.zip', files: ['Heron Reach.nte'] });
    expect(asked.confidence).toBe('ask');
    expect(asked.offers).toEqual(
      expect.arrayContaining(['game/notes/Heron Reach (North).nte', 'game/notes/Heron Reach (South).nte']),
    );
    const one = await placed(game, { name: 'Otter.zip', files: ['Otter Pool.nte'] });
    expect(one.to['Otter Pool.nte']).toBe('game/notes/Otter Pool (North).nte');
  });

  it('what others of a kind have, and the one that is named has not, may go there', async () => {
    const game = {
      game: [
        'lock.exe',
        ...['oak', 'iron', 'brass'].flatMap((gate) => [`gates/${gate}/gate.mesh`, `gates/${gate}/gate.png`]),
        'gates/oak/creak.ogg',
        'gates/iron/creak.ogg',
      ],
    };
    const { offers, to } = await placed(game, { name: 'brass creak.zip', files: ['creak.ogg'] });
    expect([to['creak.ogg'], ...offers]).toContain('game/gates/brass/creak.ogg');
  });

  it.each<[says: string, file: string, place: string]>([
    ['Next to first in maps.', 'second/a.map', 'game/maps/second/a.map'],
    ['Into the songs folder in your documents, please.', 'tune.ogg', 'user/songs/tune.ogg'],
    ['Into the songs folder of the game folder.', 'tune.ogg', 'game/songs/tune.ogg'],
    ['Make a folder extra beside maps and put second into it.', 'second/b.dat', 'game/extra/second/b.dat'],
  ])('%s', async (says, file, place) => {
    const game = {
      game: ['lock.exe', 'maps/first/a.map', 'maps/first/b.map', 'songs/own.ogg'],
      user: ['songs/mine.ogg', 'songs/other.ogg'],
    };
    expect((await placed(game, { name: 'Download.zip', files: [file], says })).to[file]).toBe(place);
  });

  it('of two folders of a name the one in the place of which the read-me speaks', async () => {
    const [many, one] = [['songs/a.ogg', 'songs/b.ogg', 'songs/c.ogg'], ['songs/own.ogg']];
    const put = async (game: Record<string, string[]>, where: string) =>
      (
        await placed(game, {
          name: 'Download.zip',
          files: ['tune.ogg'],
          says: `Copy it into the songs folder ${where}.`,
        })
      ).to;
    // Where more of its kind lie says the other one.
    expect(await put({ game: ['lock.exe', ...many], user: one }, 'of your documents')).toEqual({
      'tune.ogg': 'user/songs/tune.ogg',
    });
    expect(await put({ game: ['lock.exe', ...one], user: many }, 'where the game folder is')).toEqual({
      'tune.ogg': 'game/songs/tune.ogg',
    });
  });

  it('a word that is a value comes in no place', async () => {
    const game = {
      game: [
        'lock.exe',
        'lock.ini',
        ...['oak', 'iron'].flatMap((gate) => [`gates/${gate}/gate.mesh`, `gates/${gate}/gate.png`]),
      ],
    };
    const says = 'To be seen first it is named as First in lock.ini, in place of oak. Most may stay as it is.';
    const { to } = await placed(game, { name: 'Tin.rar', files: ['tin/gate.mesh', 'tin/gate.png'], says });
    expect(to['tin/gate.mesh']).toBe('game/gates/tin/gate.mesh');
  });

  it('the download itself is put among others as it is where a read-me says so', async () => {
    const game = { game: ['lock.exe', 'extras/reeds.zip', 'extras/swans.zip'] };
    for (const says of [
      'Copy otters.zip as it is to extras.',
      'Copy otters.zip to extras.',
      'Put otters.zip into extras, as it is.',
    ])
      expect(await placed(game, { name: 'otters.zip', files: ['otter.png', 'a.txt'], says }), says).toMatchObject({
        whole: 'game/extras/otters.zip',
      });
    const says = 'Unzip otters.zip and copy the contents of otters.zip to extras.';
    expect((await placed(game, { name: 'otters.zip', files: ['otter.png', 'a.txt'], says })).whole).toBeUndefined();
  });

  it('the only thing of its kind is not laid over by one that is called otherwise', async () => {
    const game = { game: ['lock.exe', 'boats/skiff/boat.toml', 'boats/skiff/boat.obj', 'boats/HOW TO.txt'] };
    const files = ['punt/boat.toml', 'punt/boat.obj'];
    const other = await placed(game, { name: 'Download.zip', files });
    expect(other.to['punt/boat.toml']).toBe('game/boats/punt/boat.toml');
    expect(other.confidence).not.toBe('sure');
    // Named, it is meant.
    const named = await placed(game, {
      name: 'Skiff in green.zip',
      files: files.map((path) => path.replace('punt/', '')),
    });
    expect(named.to['boat.toml']).toBe('game/boats/skiff/boat.toml');
  });
});
