import { describe, expect, it } from 'vitest';
import { learn, noDecisions, proposePlacements, setStanding, studyGame, type Statement, parseTarget } from '@/core';
import { GAME, entriesOf, folderOf, study } from '../../../tests/support/mill';

describe('what else a study finds', () => {
  const more = (files: Record<string, string>, options: Parameters<typeof studyGame>[1] = {}) =>
    studyGame([folderOf({ ...GAME, ...files })], options);
  const about = (statements: readonly Statement[], what: Statement['about']['what']) =>
    statements.filter((one) => one.about.what === what);

  it('a portable marker beside the program, and none deeper down', async () => {
    expect(about((await more({ 'portable.txt': '' })).statements, 'portable').map(({ about: one }) => one)).toEqual([
      { what: 'portable', file: 'game/portable.txt' },
    ]);
    expect(about((await more({ 'gear/portable.txt': '', 'portable hole.png': '' })).statements, 'portable')).toEqual(
      [],
    );
  });

  it.each([
    ['look {\n  in "flour"\n  in each "gear"\n}\n', { entry: ['look', 'in'], from: 'game', each: 'each' }],
    ['<look><in>flour</in><in>text</in></look>', { entry: ['look', 'in'], from: 'game' }],
  ])('a search order, in the form in which the file is written: %s', async (text, search) => {
    const { card, statements } = await more({ 'where.set': text });
    expect(card.settings.find(({ target }) => target === 'game/where.set')?.search).toEqual(search);
    expect(about(statements, 'search')).toHaveLength(1);
    // A key that stands twice with values that are no folders is none.
    const other = await more({ 'where.set': text.replaceAll('flour', 'nowhere') });
    expect(other.card.settings.find(({ target }) => target === 'game/where.set')?.search).toBeUndefined();
  });

  it('the game’s own archives, and its largest pictures', async () => {
    const pictures = Object.fromEntries(Array.from({ length: 24 }, (_, i) => [`art/p${i}.png`, '']));
    const { statements } = await studyGame(
      [
        {
          ...folderOf({ ...GAME, ...pictures }),
          files: Object.keys({ ...GAME, ...pictures }).map((path) => ({
            path,
            size: path === 'art/p7.png' ? 5_000_000 : 10,
          })),
        },
      ],
      { inside: new Map([['game/main.box', ['a/b.txt', 'c.txt']]]) },
    );
    expect(about(statements, 'archive').map(({ about: one, says }) => [one, says.includes('main.box')])).toEqual([
      [{ what: 'archive', file: 'game/main.box', files: 2 }, true],
    ]);
    expect(about(statements, 'textures')[0]?.about).toMatchObject({ file: 'game/art/p7.png', bytes: 5_000_000 });
  });

  it('a settings file that a read-me speaks of, whatever it is called, with the line', async () => {
    const many = Object.fromEntries(Array.from({ length: 20 }, (_, i) => [`data/d${i}.dat`, `k${i}=1\nv=2\n`]));
    const packs = [
      { name: 'Fog.zip', readMe: { path: 'readme.txt', text: 'Hello.\nSet v=3 in d7.dat and start the game.' } },
    ];
    const without = await more(many);
    const told = await more(many, { packs });
    expect(without.card.settings.some(({ target }) => target === 'game/data/d7.dat')).toBe(false);
    expect(told.card.settings.some(({ target }) => target === 'game/data/d7.dat')).toBe(true);
    expect(told.statements.find(({ id }) => id === 'settings:game/data/d7.dat')?.evidence[0]?.source).toEqual({
      from: 'read-me',
      pack: 'Fog.zip',
      line: 2,
    });
  });

  it('refuses nothing that was learnt when it studies again', async () => {
    const placement = {
      rules: [{ as: 'files' as const, from: '', to: parseTarget('game/flour') }],
      leftOut: [],
      made: [],
      decisions: noDecisions,
    };
    const learnt = learn([], {
      entries: entriesOf('oats.sack'),
      placement,
      pack: 'Oats',
      gameFiles: Object.keys(GAME).map((path) => `game/${path}`),
      why: 'The game loaded it: “loaded oats.sack”.',
      line: 3,
    });
    expect(learnt[0]?.evidence[0]?.source).toEqual({ from: 'log', line: 3 });
    // The same pack teaches once, whoever says so.
    expect(
      learn(learnt, {
        entries: entriesOf('oats.sack'),
        placement,
        pack: 'Oats',
        gameFiles: Object.keys(GAME).map((path) => `game/${path}`),
        line: 9,
      }),
    ).toEqual(learnt);
    expect((await more({}, { answers: learnt })).statements).toEqual(expect.arrayContaining(learnt));
  });
});

describe('kinds of folders', () => {
  const placed = async (files: string[], pack: string[], name: string) => {
    const { card } = await study(Object.fromEntries(files.map((file) => [file, ''])));
    const { confidence, placement, questions } = proposePlacements({
      entries: entriesOf(...pack),
      card,
      gameFiles: files.map((file) => `game/${file}`),
      name,
    });
    return { confidence, to: placement.rules.map(({ to }) => to as string), questions };
  };

  it('a folder of folders of things is a drawer: one more thing goes into it, not beside it', async () => {
    const engines = ['Bess', 'Puck'].flatMap((one) =>
      ['loco', 'shp', 'pic'].map((ending) => `Rolling/Engines/${one}/${one.toLowerCase()}.${ending}`),
    );
    const coaches = ['Red', 'Blue'].flatMap((one) =>
      ['coach', 'shp'].map((ending) => `Rolling/Coaches/${one}/${one.toLowerCase()}.${ending}`),
    );
    const { confidence, to } = await placed(
      [...engines, ...coaches],
      ['Tess/tess.loco', 'Tess/tess.shp', 'Tess/tess.pic', 'Tess/sound/tess.wav'],
      'Tess_engine.zip',
    );
    expect(confidence).not.toBe('ask');
    expect(to).toEqual(['game/Rolling/Engines']);
  });

  it('a lone file goes into one of the drawers, and is none itself', async () => {
    const drawers = ['chairs/stool.obj', 'chairs/bench.obj', 'lamps/oil.obj', 'lamps/wick.obj'].map(
      (file) => `things/${file}`,
    );
    const { to, confidence } = await placed(drawers, ['candle.obj'], 'candle.zip');
    expect([confidence, to.includes('game/things/candle')]).toEqual(['ask', false]);
  });

  it('nothing lies over one of those whose names say nothing without being asked, however much is alike', async () => {
    const saves = (player: string, count: number) =>
      Array.from({ length: count }, (_, i) => `players/${player}/part${i}.sav`);
    const { confidence, questions } = await placed(
      [...saves('a3f09c12', 8), ...saves('77be01d4', 2), 'game.exe'],
      saves('', 8).map((file) => file.slice('players//'.length)),
      'finished.zip',
    );
    expect(confidence).toBe('ask');
    expect(JSON.stringify(questions)).toContain('a3f09c12');
  });
});

describe('the game’s own texts', () => {
  const place = async (files: Record<string, string>, name: string, paths: string[], refuse?: string) => {
    const found = await studyGame([folderOf(files)]);
    const statements = refuse === undefined ? found.statements : setStanding(found.statements, refuse, 'refused');
    const { confidence, placement } = proposePlacements({
      entries: entriesOf(...paths),
      card: found.card,
      gameFiles: Object.keys(files).map((path) => `game/${path}`),
      name,
      statements,
    });
    return { statements, confidence, to: placement.rules.map(({ to }) => to as string) };
  };
  const shelf = {
    'p.exe': '',
    'covers/AB-1201.jpg': '',
    'covers/AB-1302.jpg': '',
    'sets/AB-1201/hd/a1.png': '',
    'sets/AB-1201/hd/b2.png': '',
  };

  it.each([
    [
      'attributes',
      'library.xml',
      '<library>\n <game id="AB-1302" name="Tin Boat"/>\n <game id="AB-1201" name="Mushroom Post"/>\n</library>\n',
    ],
    ['a table', 'titles.csv', 'id,title\nAB-1302,Tin Boat\nAB-1201,Mushroom Post\n'],
    [
      'records of several lines',
      'titles.json',
      '[\n {\n  "id": "AB-1302",\n  "name": "Tin Boat"\n },\n {\n  "id": "AB-1201",\n  "name": "Mushroom Post"\n }\n]\n',
    ],
    ['keys', 'titles.ini', '[titles]\nAB-1302 = Tin Boat\nAB-1201 = Mushroom Post\n'],
  ])('say what ids are called, in %s: a pack that is named like one goes to that id', async (_, file, text) => {
    const { statements, to, confidence } = await place({ ...shelf, [file]: text }, 'Tin Boat textures.zip', [
      'x9.png',
      'y8.png',
    ]);
    expect(statements.find(({ about }) => about.what === 'ids')).toMatchObject({
      about: { called: { 'AB-1302': 'Tin Boat', 'AB-1201': 'Mushroom Post' } },
    });
    expect([to, confidence]).toEqual([['game/sets/AB-1302/hd'], 'sure']);
  });

  it('without them, nothing says whose pictures these are: it is asked, whatever lies there', async () => {
    expect((await place(shelf, 'Tin Boat textures.zip', ['x9.png', 'y8.png'])).confidence).toBe('ask');
  });

  it.each([
    ['Make a folder for each of your packs in this folder.', true],
    ['Put your mods here.', false],
    ['Jeder Mod bekommt in diesem Ordner einen eigenen Unterordner.', true],
    ['Coloca aquí tus paquetes.', false],
  ])('a note says that a folder is for packs: “%s”', async (text, own) => {
    const files = { 'p.exe': '', 'data/a.bin': '', 'added/readme.txt': text };
    const { statements, to } = await place(files, 'Lamps.zip', ['Lamps/one.lmp', 'Lamps/two.lmp']);
    expect(statements.find(({ about }) => about.what === 'for packs')).toMatchObject({
      about: { folder: 'game/added', own },
      evidence: [{ source: { from: 'file', target: 'game/added/readme.txt' } }],
    });
    expect(to).toEqual([own ? 'game/added' : expect.stringMatching(/^game\/added/)]);
    expect(
      (await place(files, 'Lamps.zip', ['Lamps/one.lmp', 'Lamps/two.lmp'], 'for packs:game/added')).confidence,
    ).toBe('ask');
  });

  it('a note about something else says nothing', async () => {
    const { statements } = await place(
      { 'p.exe': '', 'data/readme.txt': 'The river was drawn here in spring. All rights reserved.\n' },
      'x.zip',
      ['a.bin'],
    );
    expect(statements.some(({ about }) => about.what === 'for packs')).toBe(false);
  });
});
