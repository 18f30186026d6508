import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checklistOf, noDecisions, plainCard, readSteps, type PackEntry, type PutStep, parseTarget } from '@/core';
import { buildGameTree } from '../names/gameTree';

const GAME = [
  'game/pond.exe',
  'game/Life/frogs/green.frog',
  'game/Life/frogs/brown.frog',
  'game/Life/birds/duck/duck.bird',
  'game/Life/birds/swan/swan.bird',
  'game/Life/birds/coot/coot.bird',
  'game/sounds/splash.wav',
  'game/old.pak',
  'user/photos/one.jpg',
];
const entries = ['Pack/heron/heron.bird', 'Pack/red.frog', 'Pack/splash2.wav', 'Pack/read me.txt'].map((path) => ({
  path,
  size: 5,
})) as unknown as PackEntry[];
const roots = [
  { id: 'game', title: 'Mill Pond' },
  { id: 'user', title: 'My ponds' },
];
const ground = { entries, tree: buildGameTree(['game', 'user'], GAME), roots, title: 'Mill Pond' };
const puts = (text: string, on = ground) =>
  readSteps(text, on)
    .filter((step): step is PutStep => step.kind === 'put')
    .map(
      ({ what, folders, files, how, name }) =>
        `${what.join('+') || 'all'} ${how} ${[...folders, ...files].join('+')}${name ? ` as ${name}` : ''}`,
    );

describe('a player’s folder that is called as the program’s', () => {
  const alike = { ...ground, roots: roots.map((root) => ({ ...root, title: 'Mill Pond' })) };
  it.each([
    ['Copy red.frog to Documents\\Mill Pond.', ['Pack/red.frog into user']],
    ['Copy red.frog to My Documents/Mill Pond', ['Pack/red.frog into user']],
    ['Copy red.frog to Programs\\Mill Pond.', ['Pack/red.frog into game+user']],
  ])('%s', (text, wanted) => {
    expect(puts(text, alike)).toEqual(wanted);
  });
});

describe('steps of a read-me', () => {
  it.each([
    ['Put the heron folder into Life/birds.', ['Pack/heron into game/Life/birds']],
    ['Drag heron into …\\Life\\birds', ['Pack/heron into game/Life/birds']],
    ['Make a folder "toads" in Life and put red.frog in it.', ['Pack/red.frog into game/Life/toads']],
    ['Create a folder called toads in Life and copy red.frog there.', ['Pack/red.frog into game/Life/toads']],
    ['red.frog belongs with the other frogs.', ['Pack/red.frog beside game/Life/frogs']],
    ['heron goes next to duck and swan.', ['Pack/heron beside game/Life/birds']],
    // It is another file that names it: nothing is renamed.
    [
      'red.frog goes next to green.frog, and pond.json should name it under best.',
      ['Pack/red.frog beside game/Life/frogs/green.frog'],
    ],
    ['red.frog goes into frogs. You should name it best.frog.', ['Pack/red.frog into game/Life/frogs']],
    ['Works from Life/frogs, so old.pak stays as it is.', ['all into game/Life/frogs']],
    // Files without folders: what joins them is no folder either.
    ['r1 and r2 join the other frogs.', ['all beside game/Life/frogs']],
    ['Copy everything into the frogs folder.', ['all into game/Life/frogs']],
    ['Der Ordner heron kommt in den Ordner birds.', ['Pack/heron into game/Life/birds']],
    ['La carpeta heron va dentro de birds.', ['Pack/heron inside game/Life/birds']],
    ['Placez le dossier heron dans birds.', ['Pack/heron into game/Life/birds']],
    [
      'Rename splash2.wav to splash.wav and put it into sounds.',
      ['Pack/splash2.wav into game/sounds/splash.wav as splash.wav'],
    ],
    ['Put heron into the nonsense folder.', []],
    ['The birds sing as ducks do.', []],
    ['Extract the archive into the game folder.', ['all into game']],
    ['Set volume=3 in pond.exe and enjoy.', []],
  ])('%s', (text, wanted) => {
    expect(puts(text)).toEqual(wanted);
  });

  it.each([
    ['Put heron into moor. Make it if there is none.', ['Pack/heron into game/moor']],
    ['Birds are looked for in the folder moor.\nMake it if you have none.', ['all into game/moor']],
    ['Put heron into moor.', []],
    // A settings file that is said to name something is no place.
    ['The road to heron goes with the other two, and is the third that ponds.toml names.', []],
  ])('a folder that is to be made: %s', (text, wanted) => {
    const tree = buildGameTree(['game', 'user'], [...GAME, 'game/ponds.toml']);
    expect(puts(text, { ...ground, tree })).toEqual(wanted);
  });

  it.each([
    // One of the pack's files is called like what the sentence speaks of.
    ['The bird goes with duck and swan.', ['Pack/heron beside game/Life/birds']],
    ['The folder heron belongs where duck and swan do.', ['Pack/heron into game/Life/birds']],
    ['The bird goes with duck.', ['Pack/heron beside game/Life/birds']],
  ])('%s', (text, wanted) => {
    const life = GAME.map((path) => path.replace(/\/\w+\.bird$/, '/bird.ini'));
    const pack = ['Pack/heron/bird.ini', 'Pack/read me.txt'].map((path) => ({
      path,
      size: 5,
    })) as unknown as PackEntry[];
    expect(puts(text, { ...ground, entries: pack, tree: buildGameTree(['game', 'user'], life) })).toEqual(wanted);
  });

  it('says no where the read-me says no, and keeps zips where it says so', () => {
    expect(readSteps('Do not put anything into old.pak.', ground)).toMatchObject([
      { kind: 'do not', files: ['game/old.pak'] },
    ]);
    for (const text of ['Do not unzip it.', 'Leave it zipped!', 'It stays packed.', 'Nicht entpacken.'])
      expect(readSteps(text, ground), text).toMatchObject([{ kind: 'keep zipped' }]);
    expect(readSteps('Choose one of them.', ground)).toMatchObject([{ kind: 'choose one' }]);
  });

  it.each<[text: string, wanted: string[]]>([
    ['Keep the file as it is.', ['keep zipped']],
    ['Leave heron.zip as it is.', ['keep zipped']],
    ['Most of the birds may stay as they are.', []],
    ['Leave Fog as it is.', []],
    ['Copy pond.zip to sounds.', ['keep zipped', 'put']],
    ['Copy the contents of pond.zip to sounds.', ['put']],
    ['Unzip pond.zip into sounds.', ['put']],
    // A place alone, and a sentence that only begins with one.
    ['Into the sounds folder, please.', ['put']],
    ['In the sounds folder.', ['put']],
    ['In sounds you find the splash that I made for it.', []],
  ])('%s', (text, wanted) => {
    const steps = readSteps(text, { ...ground, download: 'pond.zip' });
    expect(steps.map(({ kind }) => kind)).toEqual(wanted);
  });

  it('knows instructions that would harm, and never makes anything else of them', () => {
    expect(readSteps('Delete everything in Life/frogs.', ground)).toMatchObject([{ kind: 'by hand', what: 'harmful' }]);
    expect(readSteps('Replace the program with mine.', ground)).toMatchObject([{ kind: 'by hand', what: 'harmful' }]);
  });

  it('paths that lead out are no places', () => {
    expect(puts('Put heron into ../../Windows/System32.')).toEqual([]);
    expect(puts('Put heron into C:\\Windows.')).toEqual([]);
  });

  it.each([
    ['without line ends', 'put heron into birds '.repeat(500_000)],
    ['of ten million letters', 'x'.repeat(10_000_000)],
    ['binary', Array.from({ length: 50_000 }, (_, i) => String.fromCharCode(i % 65_536)).join('')],
    ['of brackets', '['.repeat(200_000)],
    ['of quotes', '“'.repeat(200_000)],
  ])('is bounded: %s', (_name, text) => {
    expect(readSteps(text, ground).length).toBeLessThan(20_000);
  });

  it('law: any text gives steps whose lines are lines of it, and whose things are there', () => {
    const paths = new Set<string>(
      entries.flatMap(({ path }) => [path, ...path.split('/').map((_, i, names) => names.slice(0, i + 1).join('/'))]),
    );
    fc.assert(
      fc.property(
        fc.array(
          fc.constantFrom(
            'put',
            'the',
            'heron',
            'into',
            'birds',
            'frogs',
            '.',
            'not',
            'all',
            '\n',
            'red.frog',
            'Life/birds',
            'with',
            'rename',
            'to',
            'x',
            '"',
            '\\',
          ),
          { maxLength: 40 },
        ),
        (words) => {
          const text = words.join(' ');
          for (const step of readSteps(text, ground)) {
            expect(step.line).toBeLessThanOrEqual(text.split('\n').length);
            if (step.kind === 'put') for (const what of step.what) expect(paths.has(what), what).toBe(true);
          }
        },
      ),
      { numRuns: 500 },
    );
  });

  it('says of each step what the app makes of it', () => {
    const placement = {
      rules: [{ as: 'files' as const, from: 'Pack/heron', to: parseTarget('game/Life/birds/heron') }],
      leftOut: [],
      made: [],
      decisions: noDecisions,
    };
    const text =
      'Put heron into birds.\nPut red.frog into frogs.\nBack up your files.\nSet Depth=3.\nDelete everything in Life.';
    const items = checklistOf({
      entries,
      card: { ...plainCard('x', 'X'), roots: [{ id: 'game', title: 'Mill Pond', markers: [], elsewhere: [] }] },
      gameFiles: GAME,
      readMe: { path: 'r.txt', text },
      placement,
      proposals: [{ kind: 'launch option', option: '-calm', line: 4 }],
    });
    expect(items.map(({ line, state }) => `${line} ${state}`)).toEqual([
      '1 placed',
      '2 yours',
      '3 placed',
      '4 settings',
      '5 yours',
    ]);
    expect(items.at(-1)?.says).toMatch(/never does this/);
  });

  it('says of a name that is to come into a list whether it is a line or stands in a block', () => {
    const target = parseTarget('game/pond.cfg');
    const says = (dialect: 'blocks' | 'commands') =>
      checklistOf({
        entries,
        card: { ...plainCard('x', 'X'), settings: [{ target, title: 'Pond', dialect, keys: [] }] },
        gameFiles: GAME,
        readMe: { path: 'r.txt', text: 'Add heron to birds in pond.cfg.' },
        placement: { rules: [], leftOut: [], made: [], decisions: noDecisions },
        proposals: [{ kind: 'key', file: target, path: ['birds', 'heron'], value: '', line: 1 }],
      })[0]?.says;
    expect(says('blocks')).toBe('“heron” in “birds”: waits in Settings.');
    expect(says('commands')).toBe('The line “birds heron”: waits in Settings.');
  });
});
