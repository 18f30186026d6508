import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { openSettings, plainCard, proposeSettings, type Dialect, type PackEntry, parseTarget } from '@/core';

describe('what a read-me tells to set', () => {
  const files = [
    {
      target: parseTarget('user/ferries.ini'),
      document: openSettings('[Graphics]\nAddonTextures=0\nWaterDetail=2\n[Sound]\nHorn=1\n', 'ini'),
    },
    { target: parseTarget('user/keys.ini'), document: openSettings('[Keys]\nHorn=f\n', 'ini') },
    {
      target: parseTarget('user/view.xml'),
      document: openSettings('<view>\n  <camera field="70"/>\n</view>\n', 'xml'),
    },
  ];
  const card = plainCard('x', 'X');
  const match = (text: string) =>
    proposeSettings({ card, documents: files, readMe: { path: 'readme.txt', text } }).flatMap((one) =>
      one.kind === 'key' ? [[one.file, one.path.join(' › '), one.value, one.now]] : [],
    );

  it('finds the key under its section, or the one key of that name', () => {
    expect(match('[Graphics]\nAddonTextures=1\nWaterDetail=2\n')).toEqual([
      ['user/ferries.ini', 'Graphics › AddonTextures', '1', '0'],
      ['user/ferries.ini', 'Graphics › WaterDetail', '2', '2'],
    ]);
    expect(match('Set this:\n\nwaterdetail = 4\n')).toEqual([['user/ferries.ini', 'Graphics › WaterDetail', '4', '2']]);
    expect(match('<camera field="84"/>')).toEqual([['user/view.xml', 'view › camera › @field', '84', '70']]);
  });

  it('puts a new key into the section that is there', () => {
    expect(match('[Graphics]\nFoam=1\n')).toEqual([['user/ferries.ini', 'Graphics › Foam', '1', undefined]]);
  });

  it('leaves to the player what fits in two places, or in none', () => {
    expect(match('Horn=0\n')).toEqual([]);
    expect(match('[Elsewhere]\nThing=1\n')).toEqual([]);
    expect(match('[Keys]\nHorn=space\n')).toEqual([['user/keys.ini', 'Keys › Horn', 'space', 'f']]);
  });
});

/** What is wanted is what a reader of the sentence would do with the file, written down beside it. */
const asked = (
  text: string,
  files: [target: string, dialect: Dialect, text: string][],
  more: Partial<Parameters<typeof proposeSettings>[0]> = {},
) =>
  proposeSettings({
    card: plainCard('x', 'X'),
    documents: files.map(([target, dialect, content]) => ({
      target: parseTarget(target),
      document: openSettings(content, dialect),
    })),
    readMe: { path: 'readme.txt', text },
    ...more,
  }).map((one) =>
    one.kind === 'key'
      ? `${one.file}: ${one.path.join(' › ')} = ${one.value}`
      : one.kind === 'launch option'
        ? `start ${one.option}`
        : `${one.file}: [${one.section} …] ${one.keys.map(({ key, value }) => `${key}=${value}`).join(' ')}`,
  );

const INI: [string, Dialect, string] = [
  'game/pond.ini',
  'ini',
  '[World]\nReeds=2\nFrogs=no\n[Look]\nReeds=5\nShore=sand\nPaths=base\\,extra\\\n',
];
const JSON_FILE: [string, Dialect, string] = [
  'game/pond.json',
  'json',
  '{"sound":{"bell":"low.ogg","volume":0.5},"ponds":["mill","swan"],"deep":false}',
];
const XML: [string, Dialect, string] = [
  'game/pond.xml',
  'xml',
  '<pond><light on="no" level="3"/><option name="fog" value="0"/></pond>',
];
const BRACES: [string, Dialect, string] = ['game/pond.set', 'blocks', 'pond\n{\n  view\n  {\n    far 400\n  }\n}\n'];
const COLONS: [string, Dialect, string] = ['game/pond.txt', 'colons', 'look:plain\ndepth:2\n'];
const SCRIPT: [string, Dialect, string] = ['game/pond.rc', 'commands', 'set depth 3\nripples 0\n'];

const LAMPS: [string, Dialect, string] = [
  'game/lamps.xml',
  'xml',
  '<lamps><lamp name="red" level="1"/><lamp name="green" level="2"/></lamps>',
];
const CALM: [string, Dialect, string] = ['game/pond.ini', 'ini', '[World]\nFrogs=yes\n'];
const TONGUE: [string, Dialect, string] = ['game/pond.cfg', 'ini', '[Look]\ntongue=en\n'];
const SHOAL: [string, Dialect, string] = [
  'game/shoal.xml',
  'xml',
  '<pond><shoal><fish>carp</fish><fish>tench</fish><fish>perch</fish></shoal></pond>',
];

describe('what a sentence asks for', () => {
  it.each<[string, [string, Dialect, string][], string[]]>([
    ['In pond.ini, change Frogs from no to yes.', [INI], ['game/pond.ini: World › Frogs = yes']],
    ['Frogs has to be yes, not no (pond.ini).', [INI], ['game/pond.ini: World › Frogs = yes']],
    ['Turn on Frogs in pond.ini.', [INI], ['game/pond.ini: World › Frogs = yes']],
    ['pond.ini, section [Look]: Reeds=9', [INI], ['game/pond.ini: Look › Reeds = 9']],
    ['In pond.ini set Reeds to 9.', [INI], []],
    ['Set Depth=9 in some file.', [INI], []],
    ['Add ,music\\ to the end of Paths in pond.ini.', [INI], ['game/pond.ini: Look › Paths = base\\,extra\\,music\\']],
    ['Open pond.json: "ponds" has to name "goose" as well.', [JSON_FILE], ['game/pond.json: ponds › 2 = goose']],
    ['In pond.json write 0.8 for volume.', [JSON_FILE], ['game/pond.json: sound › volume = 0.8']],
    [
      'pond.json: the bell should be "high.ogg" instead of low.ogg.',
      [JSON_FILE],
      ['game/pond.json: sound › bell = high.ogg'],
    ],
    [
      'In pond.xml the light gets on="yes" and level="5".',
      [XML],
      ['game/pond.xml: pond › light › @level = 5', 'game/pond.xml: pond › light › @on = yes'],
    ],
    ['The option fog in pond.xml must be 1.', [XML], ['game/pond.xml: pond › option › @value = 1']],
    ['Open pond.set and raise far from 400 to 900.', [BRACES], ['game/pond.set: pond › view › far = 900']],
    [
      'The line ripples 0 in pond.rc becomes ripples 1, and depth is set to 7.',
      [SCRIPT],
      ['game/pond.rc: ripples = 1', 'game/pond.rc: set › depth = 7'],
    ],
    ['In der pond.rc ripples von 0 auf 1 ändern.', [SCRIPT], ['game/pond.rc: ripples = 1']],
    ['Abre pond.rc y cambia ripples de 0 a 1.', [SCRIPT], ['game/pond.rc: ripples = 1']],
    ['Ouvrez pond.rc et mettez ripples à 1.', [SCRIPT], ['game/pond.rc: ripples = 1']],
    [
      'Then set look:rippled and depth:3 in pond.txt.',
      [COLONS],
      ['game/pond.txt: depth = 3', 'game/pond.txt: look = rippled'],
    ],
    ['Have a look: rippled is how pond.txt has it.', [COLONS], []],
    ['Frogs = yes (pond.ini, World)', [INI], ['game/pond.ini: World › Frogs = yes']],
    ['In lamps.xml change the level of green from 2 to 5.', [LAMPS], ['game/lamps.xml: lamps › lamp#2 › @level = 5']],
    ['Set tongue to it in pond.cfg.', [TONGUE], ['game/pond.cfg: Look › tongue = it']],
    ['In pond.cfg tongue auf de stellen.', [TONGUE], ['game/pond.cfg: Look › tongue = de']],
    ['Turn the Frogs off in pond.ini.', [CALM], ['game/pond.ini: World › Frogs = no']],
    ['Schalte die Frogs in pond.ini aus.', [CALM], ['game/pond.ini: World › Frogs = no']],
    ['Desactive Frogs en pond.ini.', [CALM], ['game/pond.ini: World › Frogs = no']],
    ['Cambie tongue = es en pond.cfg.', [TONGUE], ['game/pond.cfg: Look › tongue = es']],
    ['In pond.cfg the tongue is to be found under Look.', [TONGUE], []],
    ['Add <fish>pike</fish> to shoal in shoal.xml.', [SHOAL], ['game/shoal.xml: pond › shoal › fish#4 = pike']],
    [
      'Add "pike" and "bream" to the end of shoal in shoal.xml.',
      [SHOAL],
      ['game/shoal.xml: pond › shoal › fish#4 = pike', 'game/shoal.xml: pond › shoal › fish#5 = bream'],
    ],
    ['The shoal in shoal.xml is said to hold <fish>pike</fish>.', [SHOAL], []],
    ['Find the line\nFrogs=no\nand replace it with\nFrogs=yes\n', [INI], ['game/pond.ini: World › Frogs = yes']],
    ['Start the game with -calm and +pond mill.', [INI], ['start +pond mill', 'start -calm']],
    ['The frogs are nice and the shore has sand.', [INI], []],
  ])('%s', (text, files, wanted) => {
    expect(asked(text, files).sort()).toEqual(wanted.sort());
  });

  it('gives a numbered section to the file that has such sections, whatever stands for the number', () => {
    const file: [string, Dialect, string] = ['game/coats.ini', 'ini', '[coat.0]\ntitle=Plain\n[coat.1]\ntitle=City\n'];
    for (const mark of ['X', 'XX', 'N', '##', '?', '2'])
      expect(asked(`Add this, with the next number:\n\n[coat.${mark}]\ntitle=Heath\n`, [file])).toEqual([
        'game/coats.ini: [coat. …] title=Heath',
      ]);
    expect(asked('[hat.X]\ntitle=Heath\n', [file])).toEqual([]);
  });

  it('offers a value for each profile where each is meant, for one where one is named, and for none where that is not said', () => {
    const files: [string, Dialect, string][] = ['Oda', 'Piet'].map((name) => [
      `user/people/${name}/own.ini`,
      'ini',
      '[A]\nhints=1\n',
    ]);
    expect(asked('Each player sets hints to 0 in own.ini.', files)).toHaveLength(2);
    expect(asked('For Piet: set hints to 0 in own.ini.', files)).toEqual(['user/people/Piet/own.ini: A › hints = 0']);
    expect(asked('Set hints to 0 in own.ini.', files)).toEqual([]);
  });

  it('reads nothing from a text that is contents of the pack', () => {
    const entries = [{ path: 'Oda/journal.txt', size: 9 }] as unknown as NonNullable<
      Parameters<typeof proposeSettings>[0]['entries']
    >;
    const placement = {
      rules: [{ as: 'files' as const, from: 'Oda', to: parseTarget('user/people/Oda') }],
      leftOut: [],
      made: [],
      decisions: { out: [], in: [], moves: [], answers: {} },
    };
    expect(
      asked('Frogs=yes', [INI], { readMe: { path: 'Oda/journal.txt', text: 'Frogs=yes' }, entries, placement }),
    ).toEqual([]);
  });

  it('law: any text at all gives an answer, bounded, and only for keys that are there or sections that are', () => {
    fc.assert(
      fc.property(
        fc.string({ maxLength: 400 }),
        fc.constantFrom(...[INI, JSON_FILE, XML, BRACES, SCRIPT]),
        (text, file) => {
          const [target, dialect, content] = file;
          const document = openSettings(content, dialect);
          const found = proposeSettings({
            card: plainCard('x', 'X'),
            documents: [{ target: parseTarget(target), document }],
            readMe: { path: 'r.txt', text },
          });
          expect(found.length).toBeLessThanOrEqual(200);
          for (const one of found)
            if (one.kind === 'key')
              expect(
                document.get(one.path) !== undefined || /^\d+$/.test(one.path.at(-1) ?? '') || dialect === 'ini',
              ).toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('a read-me of any length', () => {
  const commands = 'set fog 3\nload heron\nload tern\n';

  it('asks a settings file for all of its entries a few times, not with every sentence', () => {
    const document = openSettings(commands, 'commands');
    let asked = 0;
    const watched = { ...document, entries: () => (asked++, document.entries()) };
    const text = `${'The birds sing all day. '.repeat(400)}\n\ngame.cfg needs a line "load otter".\n`;
    const found = proposeSettings({
      card: plainCard('pond', 'Pond'),
      documents: [{ target: parseTarget('game/game.cfg'), document: watched }],
      readMe: { path: 'read me.txt', text },
    });
    expect(found).toMatchObject([{ path: ['load', 'otter'], value: '' }]);
    expect(asked).toBeLessThan(20);
  });

  it('tries once whether a file has empty lists, and looks once whether a pack is nothing but texts', () => {
    const lists = Array.from({ length: 500 }, (_, i) => `"list ${i}": []`).join(', ');
    const document = openSettings(`{ ${lists}, "mods": [], "fog": 1 }`, 'json');
    let [tried, looked] = [0, 0];
    const watched = { ...document, set: (...to: Parameters<typeof document.set>) => (tried++, document.set(...to)) };
    const entries = Array.from({ length: 300 }, (_, i) => ({
      size: 1,
      get path() {
        looked++;
        return `help ${i}.html`;
      },
    })) as unknown as PackEntry[];
    const found = proposeSettings({
      card: plainCard('pond', 'Pond'),
      documents: [{ target: parseTarget('game/game.json'), document: watched }],
      readMe: { path: 'read me.txt', text: `${'It has fog here. '.repeat(400)}\n\nAdd "otter" to mods. fog is 0.\n` },
      entries,
    });
    expect(found).toMatchObject([
      { path: ['mods', '0'], value: 'otter' },
      { path: ['fog'], value: '0' },
    ]);
    expect(tried).toBe(1);
    expect(looked).toBeLessThan(20 * entries.length);
  });

  it('reads a list that never ends, and one that ends late', () => {
    const document = openSettings('{ "mods": ["base"] }', 'json');
    const asked = (text: string) =>
      proposeSettings({
        card: plainCard('pond', 'Pond'),
        documents: [{ target: parseTarget('game/game.json'), document }],
        readMe: { path: 'read me.txt', text },
      });
    expect(asked(`"mods": [${'a'.repeat(5000)}`)).toEqual([]);
    expect(asked(`"mods": ["base", "${'a'.repeat(300)}"]`)).toMatchObject([{ path: ['mods', '1'] }]);
    // One that leaves out what is there is another list, or another version of it.
    expect(asked('For example "mods": ["heron"].')).toEqual([]);
  });

  it('takes one command without a value for no list of them', () => {
    expect(
      proposeSettings({
        card: plainCard('pond', 'Pond'),
        documents: [
          { target: parseTarget('game/game.cfg'), document: openSettings('set fog 3\nset music\n', 'commands') },
        ],
        readMe: { path: 'read me.txt', text: 'game.cfg needs a line "set horn".' },
      }),
    ).toEqual([]);
  });
});
