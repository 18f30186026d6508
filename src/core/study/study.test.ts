import { describe, expect, it } from 'vitest';
import { canBeAnswered, gameCardSchema, learn, loadedPacks, noDecisions, proposePlacements, saidOnCard, sentencesIn, setStanding, statementSchema, studyGame, type PackEntry, type PackPath, type Statement, type TargetPath } from '@/core';
import { idForm } from './ids';
import { logFormOf, readsAsLog } from './logForm';
import { dialectOf } from './settingsText';

const GAME: Record<string, string> = {
  'mill.exe': '', 'gear/oak/oak.gear': '', 'gear/oak/oak.png': '', 'gear/iron/iron.gear': '', 'gear/iron/iron.png': '', 'gear/brass/brass.gear': '', 'gear/brass/brass.png': '',
  'flour/rye.sack': '', 'flour/spelt.sack': '', 'text/en.po': '', 'text/de.po': '', 'text/fr.po': '',
  'mill.cfg': 'speed 3\nlamps 1\nwind "west"\n', 'setup.conf': '[Wheel]\nTurns=2\n', 'notes.txt': 'The mill was built in 1712. It stands by the river.\n', 'gear/list.ini': '[gear 0]\nfolder=oak\n[gear 1]\nfolder=iron\n',
};
const folderOf = (files: Record<string, string>, id = 'game') => ({ id, title: 'Old Mill', files: Object.keys(files).map((path) => ({ path, size: 10 })), read: async (path: string) => (files[path] === '' ? undefined : files[path]) });
const study = (files = GAME, answers: Statement[] = []) => studyGame([folderOf(files)], { answers });
const entriesOf = (...paths: string[]) => paths.map((path) => ({ path: path as PackPath, size: 5 })) as unknown as PackEntry[];

describe('the study of a game', () => {
  it('states what its folders say, each with evidence', async () => {
    const { card, statements } = await study();
    expect(statementSchema.array().safeParse(statements).success).toBe(true);
    expect(gameCardSchema.safeParse(card).success).toBe(true);
    const ids = statements.map(({ id }) => id);
    expect(ids).toEqual(expect.arrayContaining(['root:game', 'family:game/gear', 'ending:sack', 'settings:game/mill.cfg', 'settings:game/setup.conf', 'numbered:game/gear/list.ini', 'languages:game/text']));
    for (const { says, evidence } of statements) {
      expect(says).toMatch(/\.$/);
      expect(evidence.length).toBeGreaterThan(0);
    }
    // The form is read from the text: the endings say nothing.
    expect(card.settings.map(({ target, dialect }) => `${target} ${dialect}`)).toEqual(expect.arrayContaining(['game/mill.cfg commands', 'game/setup.conf ini', 'game/gear/list.ini ini']));
    expect(card.settings.some(({ target }) => target === 'game/notes.txt')).toBe(false);
    expect(card.settings.find(({ target }) => target === 'game/gear/list.ini')?.numbered).toEqual({ section: 'gear', first: 0, folder: 'folder', inside: 'game/gear' });
  });

  it('law: what a study writes on a card is shown as found, not as told by somebody', async () => {
    const things = Object.fromEntries(['otter', 'stoat', 'heron'].flatMap((name) => [[`units/${name}/unit.cfg`, 'strength 10\n'], [`units/${name}/unit.png`, '']]));
    const people = Object.fromEntries(['oda', 'piet'].flatMap((name) => [[`people/${name}/own.ini`, '[A]\nhints=1\n'], [`people/${name}/last.save`, '']]));
    for (const files of [GAME, { ...GAME, ...things }, { ...GAME, ...people }, { ...GAME, 'mill.log': '10:00:01 info Old Mill\n10:00:02 info ready\n', 'paths.cfg': 'search gear\nsearch flour\nsearch text\n', 'on.ini': '[Gears]\nactive=oak,iron\nnew=brass\n' }]) {
      const { card, statements } = await study(files);
      const sentences = sentencesIn(card);
      const found = new Set(statements.flatMap((one) => saidOnCard(one, sentences)));
      expect(sentences.length).toBeGreaterThan(3);
      expect(sentences.filter((one) => !found.has(one)).map(({ form, values }) => `${form} ${Object.values(values).join(' ')}`)).toEqual([]);
    }
  });

  it('keeps what the player refused or agreed to, also where it is not seen any more', async () => {
    const { statements } = await study();
    const answers = setStanding(setStanding(statements, 'settings:game/mill.cfg', 'refused'), 'family:game/gear', 'confirmed');
    const again = await study(GAME, answers);
    expect(again.statements.find(({ id }) => id === 'settings:game/mill.cfg')?.standing).toBe('refused');
    expect(again.card.settings.some(({ target }) => target === 'game/mill.cfg')).toBe(false);
    const less = await study({ 'mill.exe': '' }, answers);
    expect(less.statements.map(({ id, standing }) => `${id} ${standing}`)).toEqual(expect.arrayContaining(['settings:game/mill.cfg refused', 'family:game/gear confirmed']));
  });

  it('a refused kind is no reason any more', async () => {
    const { card, statements } = await study();
    const gameFiles = Object.keys(GAME).map((path) => `game/${path}`);
    const at = (known: Statement[]) => proposePlacements({ entries: entriesOf('elm/elm.gear', 'elm/elm.png'), card, gameFiles, name: 'elm.zip', statements: known });
    expect(at(statements)).toMatchObject({ confidence: 'sure', placement: { rules: [{ to: 'game/gear' }] } });
    expect(at(setStanding(statements, 'family:game/gear', 'refused')).confidence).toBe('ask');
  });

  it('refused ids are no ids any more, and only what the player’s word changes can be answered', async () => {
    const files = { 'p.exe': '', 'discs/AB-1201.img': '', 'discs/AB-1302.img': '', 'sets/AB-1201/a.png': '', 'sets/AB-1201/b.png': '', 'sets/AB-1302/a.png': '' };
    const { card, statements } = await study(files);
    const gameFiles = Object.keys(files).map((path) => `game/${path}`);
    const questions = (known: Statement[]) => proposePlacements({ entries: entriesOf('AB-9999/a.png', 'AB-9999/c.png'), card, gameFiles, name: 'x.zip', statements: known }).questions.map(({ id }) => id);
    expect(questions(statements)).toContain('title:AB-9999');
    expect(questions(setStanding(statements, 'ids:AA-9999', 'refused'))).not.toContain('title:AB-9999');
    expect(statements.filter(canBeAnswered).map(({ about }) => about.what)).not.toContain('root');
  });

  it('takes a file that is too large to be read for settings by its ending alone', async () => {
    const large = { id: 'game', title: 'Old Mill', files: [{ path: 'long.ini', size: 22_000_000 }, { path: 'long.dat', size: 22_000_000 }, { path: 'huge.ini', size: 50_000_000 }], read: () => Promise.reject(new Error('must not be read')) };
    expect((await studyGame([large])).card.settings.map(({ target }) => target)).toEqual(['game/long.ini']);
  });

  it('can be stopped, and survives folders that cannot be read and names that look like patterns', async () => {
    const stop = new AbortController();
    stop.abort();
    await expect(studyGame([folderOf(GAME)], { signal: stop.signal })).rejects.toThrow();
    const broken = { ...folderOf(GAME), read: () => Promise.reject(new Error('no')) };
    expect((await studyGame([broken])).card.settings).toEqual([]);
    const odd = Object.fromEntries(['[a-z]+/(x+)+.ini', '{profile}/{title}.cfg', '__proto__/constructor.ini', '**/*.ini', `${'deep/'.repeat(60)}x.ini`].map((path) => [path, '[a]\nb=1\n']));
    expect(gameCardSchema.safeParse((await study(odd)).card).success).toBe(true);
  });

  it.each<[string, string | undefined]>([
    ['[A]\nb=1\n', 'ini'], ['b=1\nc=2\n', 'ini'], ['{"a":1}', 'json'], ['<a b="1"/>', 'xml'], ['speed 3\nname "x y"\n', 'commands'], ['a\n{\n  b 1\n}\n', 'blocks'], ['start: "Go"\nquit: "Stop"\n', 'language'], ['volume:0.5\nlang:en\n', 'colons'], ['order:\n  - core\n  - bronze\n', 'yaml'],
    ['A story. It has sentences, and they are long enough to be prose.\n', undefined], ['', undefined], ['\u0000\u0001', undefined], ['oak\niron\nbrass\n', undefined],
  ])('%j is read as %s', (text, dialect) => {
    expect(dialectOf(text)).toBe(dialect);
  });

  it.each([['OR-2201-W', true], ['CB-2041', true], ['00041234', true], ['a1b2c3d4', true], ['folder', false], ['level1', false], ['readme', false], ['v2', false]])('%s looks like an id: %s', (name, is) => {
    expect(idForm(name) !== undefined).toBe(is);
  });
});

describe('learning', () => {
  const gameFiles = Object.keys(GAME).map((path) => `game/${path}`);
  const placed = (to: string) => ({ rules: [{ as: 'files' as const, from: '', to: to as TargetPath }], leftOut: [], made: [], decisions: noDecisions });
  const ask = async (statements: Statement[], name: string) => {
    const { card } = await study();
    return proposePlacements({ entries: entriesOf(name), card, gameFiles, name: 'x.zip', statements });
  };

  it('takes an answer for packs of that kind: likely after one, sure after two, unlearnt when taken back', async () => {
    expect((await ask([], 'new.song')).confidence).toBe('ask');
    const once = learn([], { entries: entriesOf('a.song'), placement: placed('game/flour'), pack: 'A', gameFiles });
    expect(await ask(once, 'new.song')).toMatchObject({ confidence: 'likely', placement: { rules: [{ to: 'game/flour' }] } });
    // The same pack teaches once.
    expect(learn(once, { entries: entriesOf('a.song'), placement: placed('game/flour'), pack: 'A', gameFiles })).toEqual(once);
    const twice = learn(once, { entries: entriesOf('b.song'), placement: placed('game/flour'), pack: 'B', gameFiles });
    expect((await ask(twice, 'new.song')).confidence).toBe('sure');
    const back = setStanding(twice, twice[0]?.id ?? '', 'refused');
    expect((await ask(back, 'new.song')).confidence).toBe('ask');
    expect(learn(back, { entries: entriesOf('c.song'), placement: placed('game/flour'), pack: 'C', gameFiles })).toEqual(back);
  });

  it('learns nothing from a file for one of many alike, nor from a kind that lies all over the game', () => {
    const told = (to: string, name: string, of = gameFiles) => learn([], { entries: entriesOf(name), placement: placed(to), pack: 'A', gameFiles: of });
    expect(told('game/gear/oak', 'oak.png')).toEqual([]);
    expect(told('game/flour', 'x.png', [...gameFiles, 'game/maps/a.png', 'game/icons/b.png'])).toEqual([]);
    expect(told('game/flour', 'x.song')).toHaveLength(1);
  });

  it('learns nothing from a pack that goes to several places', () => {
    const placement = { ...placed('game/flour'), rules: [{ as: 'file' as const, from: 'a.song', to: 'game/flour/a.song' as TargetPath }, { as: 'file' as const, from: 'b.song', to: 'game/text/b.song' as TargetPath }] };
    expect(learn([], { entries: entriesOf('a.song', 'b.song'), placement, pack: 'A', gameFiles })).toEqual([]);
  });
});

describe('what else a study finds', () => {
  const more = (files: Record<string, string>, options: Parameters<typeof studyGame>[1] = {}) => studyGame([folderOf({ ...GAME, ...files })], options);
  const about = (statements: readonly Statement[], what: Statement['about']['what']) => statements.filter((one) => one.about.what === what);

  it('a portable marker beside the program, and none deeper down', async () => {
    expect(about((await more({ 'portable.txt': '' })).statements, 'portable').map(({ about: one }) => one)).toEqual([{ what: 'portable', file: 'game/portable.txt' }]);
    expect(about((await more({ 'gear/portable.txt': '', 'portable hole.png': '' })).statements, 'portable')).toEqual([]);
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
    const { statements } = await studyGame([{ ...folderOf({ ...GAME, ...pictures }), files: Object.keys({ ...GAME, ...pictures }).map((path) => ({ path, size: path === 'art/p7.png' ? 5_000_000 : 10 })) }], { inside: new Map([['game/main.box', ['a/b.txt', 'c.txt']]]) });
    expect(about(statements, 'archive').map(({ about: one, says }) => [one, says.includes('main.box')])).toEqual([[{ what: 'archive', file: 'game/main.box', files: 2 }, true]]);
    expect(about(statements, 'textures')[0]?.about).toMatchObject({ file: 'game/art/p7.png', bytes: 5_000_000 });
  });

  it('a settings file that a read-me speaks of, whatever it is called, with the line', async () => {
    const many = Object.fromEntries(Array.from({ length: 20 }, (_, i) => [`data/d${i}.dat`, `k${i}=1\nv=2\n`]));
    const packs = [{ name: 'Fog.zip', readMe: { path: 'readme.txt', text: 'Hello.\nSet v=3 in d7.dat and start the game.' } }];
    const without = await more(many);
    const told = await more(many, { packs });
    expect(without.card.settings.some(({ target }) => target === 'game/data/d7.dat')).toBe(false);
    expect(told.card.settings.some(({ target }) => target === 'game/data/d7.dat')).toBe(true);
    expect(told.statements.find(({ id }) => id === 'settings:game/data/d7.dat')?.evidence[0]?.source).toEqual({ from: 'read-me', pack: 'Fog.zip', line: 2 });
  });

  it('refuses nothing that was learnt when it studies again', async () => {
    const placement = { rules: [{ as: 'files' as const, from: '', to: 'game/flour' as TargetPath }], leftOut: [], made: [], decisions: noDecisions };
    const learnt = learn([], { entries: entriesOf('oats.sack'), placement, pack: 'Oats', gameFiles: Object.keys(GAME).map((path) => `game/${path}`), why: 'The game loaded it: “loaded oats.sack”.', line: 3 });
    expect(learnt[0]?.evidence[0]?.source).toEqual({ from: 'log', line: 3 });
    // The same pack teaches once, whoever says so.
    expect(learn(learnt, { entries: entriesOf('oats.sack'), placement, pack: 'Oats', gameFiles: Object.keys(GAME).map((path) => `game/${path}`), line: 9 })).toEqual(learnt);
    expect((await more({}, { answers: learnt })).statements).toEqual(expect.arrayContaining(learnt));
  });
});

describe('the form of a log', () => {
  // Forms that programs write: ISO 8601 times (RFC 3339), syslog's (RFC 5424 and before), counted seconds and frames, words alone.
  it.each([
    ['[12:00:01] [INFO] started\n[12:00:02] [WARN] no bell\n[12:00:03] [INFO] ready\n', ['time', 'level']],
    ['2026-11-28T10:00:01.250Z warn audio: no device\n2026-11-28T10:00:02.100Z info core: ready\n2026-11-28T10:00:03.100Z info core: go\n', ['time', 'level', 'place']],
    ['INFO: loaded 3\nWARNING: gone\nERROR: bad\n', ['level']],
    ['0.0012 | D | Renderer | up\n0.0100 | W | Audio | none\n1.2000 | I | Core | go\n', ['time', 'level', 'place']],
    ['Renderer: up\nAudio: none\nCore: go\n', ['place']],
  ])('%j', (text, parts) => {
    expect(logFormOf(text)?.parts).toEqual(parts);
  });

  it('has none where lines have nothing in common', () => {
    expect(logFormOf('The mill was built in spring\nIt stands by the river\nNobody knows why\n')).toBeUndefined();
    expect(logFormOf('')).toBeUndefined();
  });

  it.each([
    ['09:00:01 note  Old Mill 1.2\n09:00:02 note  3 gears ready\n', true],
    ['[2026-11-28 09:00:01] started\n  at mill.go\n[2026-11-28 09:00:02] ready\n', true],
    ['0.0012 | D | Renderer | up\n0.0100 | W | Audio | none\n', true],
    ['10 birds\n20 weather\n30 paths\n', false],
    ['[Gears]\nspeed=3\n', false],
    ['09:00 opening\n', false],
    ['1.000 2.000 3.000\n4.000 5.000 6.000\n', false],
  ])('a log by its lines, whatever it is called: %j is %s', (text, is) => {
    expect(readsAsLog(text)).toBe(is);
  });

  it('is found among the files of a game that calls it otherwise', async () => {
    const files = { 'mill.bin': 'x', 'usr/mill.out': '09:00:01 note  Old Mill 1.2\n09:00:02 note  3 gears ready\n', 'usr/mill.settings': '[Gears]\nspeed=3\n' };
    const { card } = await studyGame([{ id: 'game', title: 'Old Mill', files: Object.entries(files).map(([path, text]) => ({ path, size: text.length })), read: async (path) => (files as Record<string, string>)[path] }]);
    expect(card.log?.target).toBe('game/usr/mill.out');
    expect(card.settings.map(({ target }) => target)).toEqual(['game/usr/mill.settings']);
  });
});

describe('what a log says was loaded', () => {
  const files = [{ target: 'game/gear/oak/oak.gear' }, { target: 'game/gear/elm/elm.gear', layer: 'elm' }, { target: 'game/gear/ash/skin.png', layer: 'ash' }, { target: 'game/gear/fir/skin.png', layer: 'fir' }];
  it('is the pack whose file a line of success names, where no other can be meant', () => {
    const text = 'start\nloading gear\\elm\\elm.gear\nloaded skin.png\nloaded ash/skin.png (4 KB)\nfailed to load fir/skin.png\n';
    expect([...loadedPacks(text, files)].map(([layer, { line }]) => [layer, line])).toEqual([['elm', 2], ['ash', 4]]);
  });
  it('is nothing where the line is trouble, or names the game’s own', () => {
    expect([...loadedPacks('could not read elm.gear\nmissing: elm.gear\nloaded oak.gear\n', files)]).toEqual([]);
  });
});

describe('a file that the log misses', () => {
  const files = [...Object.keys(GAME).map((path) => `game/${path}`), 'game/sound/a/wind.snd', 'game/sound/b/rain.snd'];
  const place = async (missed: { path: string; line: number }[]) => {
    const { card } = await study();
    return proposePlacements({ entries: entriesOf('storm.snd'), card, gameFiles: files, name: 'Storm.zip', missed });
  };
  it('is the strongest sign of where it goes, and without it the same pack is asked about', async () => {
    expect((await place([])).confidence).toBe('ask');
    const { confidence, placement, parts } = await place([{ path: 'sound\\b\\storm.snd', line: 12 }]);
    expect([confidence, placement.rules]).toEqual(['sure', [{ as: 'files', from: '', to: 'game/sound/b' }]]);
    expect(parts[0]?.evidence?.[0]?.says).toContain('Line 12 of the game’s log');
    // A name without a folder says no place, and one of another file nothing.
    for (const path of ['storm.snd', 'sound/b/fog.snd']) expect((await place([{ path, line: 1 }])).confidence).toBe('ask');
  });
});

describe('kinds of folders', () => {
  const placed = async (files: string[], pack: string[], name: string) => {
    const { card } = await study(Object.fromEntries(files.map((file) => [file, ''])));
    const { confidence, placement, questions } = proposePlacements({ entries: entriesOf(...pack), card, gameFiles: files.map((file) => `game/${file}`), name });
    return { confidence, to: placement.rules.map(({ to }) => to as string), questions };
  };

  it('a folder of folders of things is a drawer: one more thing goes into it, not beside it', async () => {
    const engines = ['Bess', 'Puck'].flatMap((one) => ['loco', 'shp', 'pic'].map((ending) => `Rolling/Engines/${one}/${one.toLowerCase()}.${ending}`));
    const coaches = ['Red', 'Blue'].flatMap((one) => ['coach', 'shp'].map((ending) => `Rolling/Coaches/${one}/${one.toLowerCase()}.${ending}`));
    const { confidence, to } = await placed([...engines, ...coaches], ['Tess/tess.loco', 'Tess/tess.shp', 'Tess/tess.pic', 'Tess/sound/tess.wav'], 'Tess_engine.zip');
    expect(confidence).not.toBe('ask');
    expect(to).toEqual(['game/Rolling/Engines']);
  });

  it('a lone file goes into one of the drawers, and is none itself', async () => {
    const drawers = ['chairs/stool.obj', 'chairs/bench.obj', 'lamps/oil.obj', 'lamps/wick.obj'].map((file) => `things/${file}`);
    const { to, confidence } = await placed(drawers, ['candle.obj'], 'candle.zip');
    expect([confidence, to.includes('game/things/candle')]).toEqual(['ask', false]);
  });

  it('nothing lies over one of those whose names say nothing without being asked, however much is alike', async () => {
    const saves = (player: string, count: number) => Array.from({ length: count }, (_, i) => `players/${player}/part${i}.sav`);
    const { confidence, questions } = await placed([...saves('a3f09c12', 8), ...saves('77be01d4', 2), 'game.exe'], saves('', 8).map((file) => file.slice('players//'.length)), 'finished.zip');
    expect(confidence).toBe('ask');
    expect(JSON.stringify(questions)).toContain('a3f09c12');
  });
});

describe('the game’s own texts', () => {
  const place = async (files: Record<string, string>, name: string, paths: string[], refuse?: string) => {
    const found = await studyGame([folderOf(files)]);
    const statements = refuse === undefined ? found.statements : setStanding(found.statements, refuse, 'refused');
    const { confidence, placement } = proposePlacements({ entries: entriesOf(...paths), card: found.card, gameFiles: Object.keys(files).map((path) => `game/${path}`), name, statements });
    return { statements, confidence, to: placement.rules.map(({ to }) => to as string) };
  };
  const shelf = { 'p.exe': '', 'covers/AB-1201.jpg': '', 'covers/AB-1302.jpg': '', 'sets/AB-1201/hd/a1.png': '', 'sets/AB-1201/hd/b2.png': '' };

  it.each([
    ['attributes', 'library.xml', '<library>\n <game id="AB-1302" name="Tin Boat"/>\n <game id="AB-1201" name="Mushroom Post"/>\n</library>\n'],
    ['a table', 'titles.csv', 'id,title\nAB-1302,Tin Boat\nAB-1201,Mushroom Post\n'],
    ['records of several lines', 'titles.json', '[\n {\n  "id": "AB-1302",\n  "name": "Tin Boat"\n },\n {\n  "id": "AB-1201",\n  "name": "Mushroom Post"\n }\n]\n'],
    ['keys', 'titles.ini', '[titles]\nAB-1302 = Tin Boat\nAB-1201 = Mushroom Post\n'],
  ])('say what ids are called, in %s: a pack that is named like one goes to that id', async (_, file, text) => {
    const { statements, to, confidence } = await place({ ...shelf, [file]: text }, 'Tin Boat textures.zip', ['x9.png', 'y8.png']);
    expect(statements.find(({ about }) => about.what === 'ids')).toMatchObject({ about: { called: { 'AB-1302': 'Tin Boat', 'AB-1201': 'Mushroom Post' } } });
    expect([to, confidence]).toEqual([['game/sets/AB-1302/hd'], 'sure']);
  });

  it('without them, nothing says whose pictures these are: it is asked, whatever lies there', async () => {
    expect((await place(shelf, 'Tin Boat textures.zip', ['x9.png', 'y8.png'])).confidence).toBe('ask');
  });

  it.each([
    ['Make a folder for each of your packs in this folder.', true], ['Put your mods here.', false], ['Jeder Mod bekommt in diesem Ordner einen eigenen Unterordner.', true], ['Coloca aquí tus paquetes.', false],
  ])('a note says that a folder is for packs: “%s”', async (text, own) => {
    const files = { 'p.exe': '', 'data/a.bin': '', 'added/readme.txt': text };
    const { statements, to } = await place(files, 'Lamps.zip', ['Lamps/one.lmp', 'Lamps/two.lmp']);
    expect(statements.find(({ about }) => about.what === 'for packs')).toMatchObject({ about: { folder: 'game/added', own }, evidence: [{ source: { from: 'file', target: 'game/added/readme.txt' } }] });
    expect(to).toEqual([own ? 'game/added' : expect.stringMatching(/^game\/added/)]);
    expect((await place(files, 'Lamps.zip', ['Lamps/one.lmp', 'Lamps/two.lmp'], 'for packs:game/added')).confidence).toBe('ask');
  });

  it('a note about something else says nothing', async () => {
    const { statements } = await place({ 'p.exe': '', 'data/readme.txt': 'The river was drawn here in spring. All rights reserved.\n' }, 'x.zip', ['a.bin']);
    expect(statements.some(({ about }) => about.what === 'for packs')).toBe(false);
  });
});
