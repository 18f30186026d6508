import {
  ADD_ITEM,
  CHOOSE,
  ENDINGS,
  KEYS,
  KINDS,
  LAUNCH,
  NOISE,
  PEOPLE,
  PLAIN,
  PUT_ALL,
  PUT_FOLDER,
  RENAME,
  SECTIONS,
  SET,
  SET_LINES,
  THINGS,
  WRAPPERS,
} from './words';
import type { Files, GameCase, PackCase, WantedSetting } from './case';

/** A seeded source of chance: mulberry32, public domain. The same seed gives the same games on every machine. */
export class Chance {
  constructor(private state: number) {}
  next(): number {
    let t = (this.state = (this.state + 0x6d2b79f5) | 0);
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }
  int(from: number, to: number): number {
    return from + Math.floor(this.next() * (to - from + 1));
  }
  is(share: number): boolean {
    return this.next() < share;
  }
  one<T>(list: readonly T[]): T {
    return list[Math.floor(this.next() * list.length)] as T;
  }
  some<T>(list: readonly T[], count: number): T[] {
    const rest = [...list];
    const taken: T[] = [];
    while (taken.length < count && rest.length > 0)
      taken.push(...rest.splice(Math.floor(this.next() * rest.length), 1));
    return taken;
  }
}

const cap = (word: string): string => (word[0] as string).toUpperCase() + word.slice(1);

interface Family {
  folder: string;
  members: string[];
  make(name: string): Files;
  marker?: string;
}
interface Settings {
  target: string;
  name: string;
  dialect: string;
  values: { path: string[]; value: string }[];
  list?: { path: string[]; value: string };
}

/** What a generated game is made of: everything that packs are made from, with the truth known. */
class World {
  readonly game: Files = {};
  readonly user: Files = {};
  readonly families: Family[] = [];
  readonly plain: { folder: string; ending: string; names: string[] }[] = [];
  readonly words: string[];
  private at = 0;
  settings: Settings | undefined;
  ids: { container: string; inner: string; owned: string[]; foreign: string } | undefined;
  zips: { folder: string; marker: string } | undefined;
  profiles: { folder: string; names: string[] } | undefined;
  archive: { target: string; inner: string[] } | undefined;
  numbered: { target: string; name: string; stem: string; count: number; folder: string } | undefined;
  languages: { folder: string; ending: string } | undefined;
  readonly title: string;
  readonly userTitle: string;
  readonly hasUser: boolean;

  constructor(readonly chance: Chance) {
    this.words = chance.some(THINGS, THINGS.length);
    this.title = `${cap(this.word())} ${cap(this.word())}`;
    this.userTitle = chance.one([`${this.title} data`, 'Documents', `My ${this.title}`, `${this.title} files`]);
    this.hasUser = chance.is(0.55);
    this.game[
      chance.one([`${this.title.replace(' ', '')}.exe`, 'game.exe', `bin/${this.word()}.exe`, `${this.word()}.bin`])
    ] = 90_000;
    const base = chance.one(['', 'data/', 'content/', `${cap(this.word())}_files/`, 'assets/base/']);
    const endings = chance.some(ENDINGS, ENDINGS.length);
    for (const kind of chance.some(PLAIN, chance.int(2, 4)))
      this.addPlain(base + kind, chance.is(0.35) ? chance.one(['png', 'dat', 'ogg']) : (endings.pop() as string));
    for (const kind of chance.some(KINDS, chance.int(1, 3)))
      this.addFamily(base + (chance.is(0.5) ? kind : cap(kind)), endings);
    if (chance.is(0.7)) this.addSettings();
    if (this.hasUser && chance.is(0.35)) this.addIds(endings);
    if (chance.is(0.25)) this.addZips();
    if (this.hasUser && chance.is(0.3)) this.addProfiles();
    if (chance.is(0.25)) this.addArchive(base, endings.pop() ?? 'arc');
    if (chance.is(0.25)) this.addNumbered(base);
    if (chance.is(0.3)) this.addLanguages(base);
    if (chance.is(0.5)) this.game['licence.txt'] = 'All of it is made up.';
    if (this.hasUser) for (let i = 0; i < 2; i++) this.user[`Saves/slot${i}.sav`] = 900;
  }

  /** Does one folder hold all files of an ending? */
  alone(ending: string): boolean {
    return (
      new Set(
        [...Object.keys(this.game), ...Object.keys(this.user)]
          .filter((file) => file.endsWith(`.${ending}`))
          .map((file) => file.slice(0, file.lastIndexOf('/'))),
      ).size === 1
    );
  }

  word(): string {
    return this.words[this.at++ % this.words.length] as string;
  }

  private addPlain(folder: string, ending: string): void {
    const names = Array.from({ length: this.chance.int(3, 6) }, () => this.word());
    for (const name of names) this.game[`${folder}/${name}.${ending}`] = 900;
    this.plain.push({ folder, ending, names });
  }

  private addFamily(folder: string, endings: string[]): void {
    const { chance } = this;
    const [a, b] = [
      chance.is(0.3) ? 'dat' : (endings.pop() ?? 'aaa'),
      chance.is(0.4) ? 'png' : (endings.pop() ?? 'bbb'),
    ];
    const form = chance.int(0, 3);
    const marker = chance.is(0.5)
      ? chance.one(['info.json', 'about.txt', 'module.def', 'manifest.xml', 'part.cfg'])
      : undefined;
    const make = (name: string): Files => ({
      ...(marker ? { [marker]: marker.endsWith('.cfg') ? '[look]\ncolour=2\nweight=40\n' : 900 } : {}),
      ...(form === 0 ? { [`${name}.${a}`]: 900, [`${name}.${b}`]: 900 } : {}),
      ...(form === 1 ? { [`body.${a}`]: 900, [`skin.${b}`]: 900 } : {}),
      ...(form === 2 ? { [`shape/main.${a}`]: 900, [`look/front.${b}`]: 900, [`look/side.${b}`]: 900 } : {}),
      ...(form === 3
        ? { [`${this.word()}.${a}`]: 900, [`${this.word()}.${a}`]: 900, [`extra/${this.word()}.${b}`]: 900 }
        : {}),
    });
    const members = Array.from({ length: chance.int(3, 5) }, () => (chance.is(0.3) ? cap(this.word()) : this.word()));
    for (const member of members)
      for (const [file, what] of Object.entries(make(member))) this.game[`${folder}/${member}/${file}`] = what;
    this.families.push({ folder, members, make, ...(marker ? { marker } : {}) });
  }

  private addSettings(): void {
    const { chance } = this;
    const dialect = chance.one(['ini', 'ini', 'json', 'xml', 'commands', 'blocks']);
    const keys = chance.some(KEYS, 5);
    const sections = chance.some(SECTIONS, 2);
    const value = () => chance.one(['0', '1', 'false', 'true', 'off', 'on', '2', '0.5', '80', 'low']);
    const root = this.hasUser && chance.is(0.6) ? 'user' : 'game';
    const name = {
      ini: [`${this.title.split(' ')[0]?.toLowerCase() ?? 'game'}.ini`, 'options.cfg', 'config.ini', 'game.settings'],
      json: ['settings.json', 'options.json'],
      xml: ['options.xml', 'config.xml'],
      commands: ['user.cfg', 'startup.rc', 'prefs.txt'],
      blocks: ['game.conf', 'setup.cfg'],
    }[dialect] ?? ['x.ini'];
    const file = chance.one(name);
    const values = keys.map((key, i) => ({
      path: dialect === 'commands' ? [key] : [sections[i % 2] as string, key],
      value: value(),
    }));
    const list =
      dialect === 'ini' && this.plain[0] && chance.is(0.5)
        ? { path: [sections[0] as string, 'Active'], value: this.plain[0].names.slice(0, 2).join(',') }
        : undefined;
    if (list) values.push(list);
    const bySection = sections.map((section) => [section, values.filter(({ path }) => path[0] === section)] as const);
    const number = (text: string) => (/^(?:[\d.]+|true|false)$/.test(text) ? text : JSON.stringify(text));
    const text =
      dialect === 'ini'
        ? bySection
            .map(
              ([section, some]) =>
                `[${section}]\n${some.map(({ path, value: v }) => `${path[1] as string}=${v}\n`).join('')}`,
            )
            .join('\n')
        : dialect === 'json'
          ? JSON.stringify(
              Object.fromEntries(
                bySection.map(([section, some]) => [
                  section,
                  Object.fromEntries(some.map(({ path, value: v }) => [path[1], JSON.parse(number(v)) as unknown])),
                ]),
              ),
              null,
              2,
            )
          : dialect === 'xml'
            ? `<options>\n${bySection.map(([section, some]) => `  <${section} ${some.map(({ path, value: v }) => `${path[1] as string}="${v}"`).join(' ')}/>\n`).join('')}</options>\n`
            : dialect === 'commands'
              ? values.map(({ path, value: v }) => `${path[0] as string} ${v}\n`).join('')
              : bySection
                  .map(
                    ([section, some]) =>
                      `${section}\n{\n${some.map(({ path, value: v }) => `  ${path[1] as string} ${v}\n`).join('')}}\n`,
                  )
                  .join('');
    (root === 'user' ? this.user : this.game)[file] = text;
    const written =
      dialect === 'xml'
        ? values.map(({ path, value: v }) => ({
            path: ['options', path[0] as string, `@${path[1] as string}`],
            value: v,
          }))
        : values;
    this.settings = { target: `${root}/${file}`, name: file, dialect, values: written, ...(list ? { list } : {}) };
  }

  private addIds(endings: string[]): void {
    const { chance } = this;
    const letters = chance.one(['AB', 'QRX', 'T', 'KLM']);
    const tail = chance.one(['', '-E', '-W']);
    const id = () => `${letters}-${chance.int(1000, 9999)}${tail}`;
    const owned = [id(), id(), id()];
    const [disc, picture] = [endings.pop() ?? 'img', 'png'];
    const container = chance.one(['library', 'titles', 'replacements']);
    const inner = chance.one(['', 'textures', 'paint']);
    for (const one of owned) this.user[`discs/${one}.${disc}`] = 900;
    for (const one of owned.slice(0, 2)) {
      for (let i = 0; i < 3; i++)
        this.user[
          [container, one, inner, `t${chance.int(10_000, 99_999)}.${picture}`].filter((part) => part !== '').join('/')
        ] = 900;
      this.user[`${container}/${one}/tune.json`] = '{"clock":100,"replace":false}';
    }
    this.ids = { container, inner, owned, foreign: id() };
  }

  private addZips(): void {
    const root = this.hasUser ? this.user : this.game;
    const folder = this.chance.one(['Addons', 'almanacs', 'texture packs', 'Plugins']);
    const marker = this.chance.one(['pack.info', 'manifest.xml', 'contents.txt']);
    for (let i = 0; i < 3; i++)
      root[`${folder}/${cap(this.word())}.zip`] = { zip: [marker, `stuff/${this.word()}.dat`] };
    this.zips = { folder: `${this.hasUser ? 'user' : 'game'}/${folder}`, marker };
  }

  private addProfiles(): void {
    const folder = this.chance.one(['Profiles', 'captains', 'Players']);
    const names = this.chance.some(PEOPLE, this.chance.int(2, 3));
    for (const name of names) {
      this.user[`${folder}/${name}/profile.ini`] = '[Play]\nhints=1\npace=2\n';
      this.user[`${folder}/${name}/journal.dat`] = 900;
    }
    this.profiles = { folder, names };
  }

  private addArchive(base: string, ending: string): void {
    const inner = [
      `pages/${this.word()}.tga`,
      `pages/${this.word()}.tga`,
      `faces/${this.word()}.tga`,
      `faces/${this.word()}.tga`,
      'text/story.txt',
    ];
    const path = `${base}${this.word()}.${ending}`;
    this.game[path] = { zip: inner };
    this.archive = { target: `game/${path}`, inner };
  }

  private addNumbered(base: string): void {
    const stem = this.chance.one(['Station', 'coat ', 'Area.', 'Slot_']);
    const folder = `${base}${this.chance.one(['wireless', 'coats', 'areas'])}`;
    const names = [this.word(), this.word(), this.word()];
    const name = `${this.chance.one(['list', 'stations', 'index'])}.ini`;
    names.forEach((one) => {
      for (let i = 0; i < 2; i++) this.game[`${folder}/${one}/${one}${i}.ogg`] = 900;
    });
    this.game[`${folder}/${name}`] = names
      .map((one, i) => `[${stem}${i}]\ntitle=${cap(one)}\nfolder=${one}\n`)
      .join('\n');
    this.numbered = { target: `game/${folder}/${name}`, name, stem, count: names.length, folder };
  }

  private addLanguages(base: string): void {
    const ending = this.chance.one(['csv', 'po', 'strings']);
    const folder = `${base}${this.chance.one(['text', 'strings', 'Lang'])}`;
    for (const one of ['en', 'de', 'fr', 'pl']) this.game[`${folder}/${one}.${ending}`] = 900;
    this.languages = { folder, ending };
  }
}

type Made = PackCase | undefined;
type Maker = (world: World) => Made;

const under = (prefix: string, files: Files): Files =>
  Object.fromEntries(Object.entries(files).map(([file, what]) => [prefix === '' ? file : `${prefix}/${file}`, what]));
const keysUnder = (prefix: string, targets: Record<string, string | null>): Record<string, string | null> =>
  Object.fromEntries(
    Object.entries(targets).map(([key, to]) => [
      prefix === '' ? key : key === '**' ? `${prefix}/` : `${prefix}/${key}`,
      to,
    ]),
  );
const fill = (text: string, values: Record<string, string>): string =>
  text.replace(/\{([A-Z])\}/g, (_, key: string) => values[key] ?? '');
const windows = (chance: Chance, folder: string): string => (chance.is(0.3) ? folder.replaceAll('/', '\\') : folder);

/** The pack under wrappers, with a read-me where there is one. */
function wrapped(
  world: World,
  name: string,
  mechanism: string,
  files: Files,
  targets: Record<string, string | null>,
  more: {
    readMe?: string;
    settings?: WantedSetting[];
    outcomes?: Record<string, string | null>[];
    wrap?: boolean;
  } = {},
): PackCase {
  const { chance } = world;
  const depth = more.wrap === false ? 0 : chance.one([0, 0, 1, 1, 2]);
  const prefix = chance.some(WRAPPERS, depth).join('/');
  const noise = () => (chance.is(0.4) ? `${chance.one(NOISE)}\n` : '');
  const readMe =
    more.readMe === undefined
      ? chance.is(0.2)
        ? chance.one(NOISE)
        : undefined
      : `${noise()}${more.readMe}\n${noise()}`;
  const said =
    readMe === undefined
      ? {}
      : { [chance.one(['readme.txt', 'Read me.txt', 'INSTALL.txt', 'how to install.txt'])]: readMe };
  return {
    name,
    files: under(prefix, {
      ...files,
      ...said,
      ...(chance.is(0.15) ? { 'preview.jpg': 900 } : {}),
      ...(chance.is(0.1) ? { 'docs/manual.pdf': 900 } : {}),
    }),
    expect: {
      mechanism,
      ...(more.outcomes
        ? {
            outcomes: more.outcomes.map((one) =>
              keysUnder(prefix, { ...one, 'preview.jpg': '?', 'docs/manual.pdf': '?' }),
            ),
          }
        : { targets: keysUnder(prefix, { ...targets, 'preview.jpg': '?', 'docs/manual.pdf': '?' }) }),
      ...(more.settings ? { settings: more.settings } : {}),
    },
  };
}

const MAKERS: Record<string, Maker> = {
  tree(world) {
    const { chance } = world;
    const plain = chance.one(world.plain);
    const taken = chance.some(plain.names, chance.int(1, 3));
    const names = chance.is(0.4) ? [...taken, world.word()] : taken;
    const parts = plain.folder.split('/');
    const cut = chance.int(0, parts.length - 1);
    const files = Object.fromEntries(
      names.map((name) => [`${[...parts.slice(cut), ''].join('/')}${name}.${plain.ending}`, 900]),
    );
    return wrapped(world, `${world.word()} pack.zip`, 'tree', files, {
      '**': ['game', ...parts.slice(0, cut)].join('/') + '/',
    });
  },
  'same names'(world) {
    const plain = world.chance.one(world.plain);
    const files = Object.fromEntries(plain.names.slice(0, 3).map((name) => [`${name}.${plain.ending}`, 900]));
    return wrapped(world, `${world.word()}.zip`, 'same names', files, { '**': `game/${plain.folder}/` });
  },
  'own folder'(world) {
    const family = world.chance.one(world.families);
    const name = world.word();
    return wrapped(world, `${cap(name)} v1.zip`, 'own folder', under(name, family.make(name)), {
      [`${name}/`]: `game/${family.folder}/${name}/`,
    });
  },
  'two of a kind'(world) {
    const family = world.chance.one(world.families);
    const [a, b] = [world.word(), world.word()];
    return wrapped(
      world,
      `${a} and ${b}.zip`,
      'own folder',
      { ...under(a, family.make(a)), ...under(b, family.make(b)) },
      { [`${a}/`]: `game/${family.folder}/${a}/`, [`${b}/`]: `game/${family.folder}/${b}/` },
    );
  },
  'no folder'(world) {
    const family = world.families.find(({ marker }) => marker !== undefined);
    if (!family) return undefined;
    const name = world.word();
    return wrapped(
      world,
      `${name}.zip`,
      'own folder, container',
      family.make(name),
      { '**': `game/${family.folder}/*/` },
      { wrap: false },
    );
  },
  update(world) {
    const family = world.chance.one(world.families);
    const name = world.chance.one(family.members);
    const made = Object.fromEntries(
      Object.keys(world.game)
        .filter((file) => file.startsWith(`${family.folder}/${name}/`))
        .map((file) => [file.slice(family.folder.length + 1), 900]),
    );
    return wrapped(world, `${name} update.zip`, 'own folder, update', made, {
      [`${name}/`]: `game/${family.folder}/${name}/`,
    });
  },
  'single file'(world) {
    const plain = world.chance.one(world.plain.filter(({ ending }) => world.alone(ending)));
    if (!plain) return undefined;
    const name = `${world.word()}.${plain.ending}`;
    return {
      name,
      files: { [name]: 900 },
      expect: { mechanism: 'single file', targets: { [name]: `game/${plain.folder}/${name}` } },
    };
  },
  'several kinds'(world) {
    const alone = world.plain.filter(({ ending }) => world.alone(ending));
    if (alone.length < 2) return undefined;
    const [a, b] = world.chance.some(alone, 2) as [World['plain'][number], World['plain'][number]];
    const [x, y] = [`${world.word()}.${a.ending}`, `${world.word()}.${b.ending}`];
    return wrapped(
      world,
      `${world.word()} set.zip`,
      'several kinds',
      { [x]: 900, [y]: 900 },
      { [x]: `game/${a.folder}/${x}`, [y]: `game/${b.folder}/${y}` },
    );
  },
  'read-me, folder'(world) {
    const { chance } = world;
    const folder = chance.is(0.5) ? chance.one(world.plain).folder : chance.one(world.families).folder;
    const name = world.word();
    const files = under(name, { [`${world.word()}.zzz`]: 900, [`${world.word()}.zzz`]: 900 });
    const said = chance.is(0.5) ? folder : (folder.split('/').at(-1) as string);
    return wrapped(
      world,
      `${world.word()}.zip`,
      'read-me',
      files,
      { [`${name}/`]: `game/${folder}/${name}/` },
      { readMe: fill(chance.one(PUT_FOLDER), { W: name, F: windows(chance, said), G: world.title }) },
    );
  },
  'read-me, all'(world) {
    const { chance } = world;
    const { folder } = chance.one(world.plain);
    const files = { [`${world.word()}.zzz`]: 900, [`${world.word()}.zzz`]: 900 };
    return wrapped(
      world,
      `${world.word()}.zip`,
      'read-me',
      files,
      { '**': `game/${folder}/` },
      { wrap: false, readMe: fill(chance.one(PUT_ALL), { F: windows(chance, folder) }) },
    );
  },
  renamed(world) {
    const { chance } = world;
    const plain = chance.one(world.plain);
    const [old, fresh] = [`${plain.names[0] as string}.${plain.ending}`, `${world.word()}_new.${plain.ending}`];
    return wrapped(
      world,
      `${world.word()}.zip`,
      'renamed',
      { [fresh]: 900 },
      { [fresh]: `game/${plain.folder}/${old}` },
      { readMe: fill(chance.one(RENAME), { W: fresh, N: old, F: windows(chance, plain.folder) }) },
    );
  },
  'settings only'(world) {
    const { settings, chance } = world;
    if (!settings) return undefined;
    const { path, value } = chance.one(settings.values.filter((one) => one.path.at(-1) !== 'Active'));
    const fresh = other(value, chance);
    const key = (path.at(-1) as string).replace(/^@/, '');
    const readMe = fill(settings.dialect === 'ini' && chance.is(0.25) ? chance.one(SET_LINES) : chance.one(SET), {
      D: settings.name,
      K: key,
      V: fresh,
      O: value,
      S: path[0] as string,
    });
    return {
      name: `${world.word()}.zip`,
      files: { 'readme.txt': readMe },
      expect: {
        mechanism: 'settings',
        targets: { 'readme.txt': null },
        settings: [{ file: settings.target, path, value: fresh }],
      },
    };
  },
  'pack and setting'(world) {
    const { settings, chance } = world;
    if (!settings) return undefined;
    const family = chance.one(world.families);
    const name = world.word();
    const { path, value } = chance.one(settings.values.filter((one) => one.path.at(-1) !== 'Active'));
    const fresh = other(value, chance);
    const readMe = `${fill(chance.one(PUT_FOLDER), { W: name, F: family.folder })}\n\n${fill(chance.one(SET), { D: settings.name, K: (path.at(-1) as string).replace(/^@/, ''), V: fresh, O: value })}`;
    return wrapped(
      world,
      `${name}.zip`,
      'own folder and setting',
      under(name, family.make(name)),
      { [`${name}/`]: `game/${family.folder}/${name}/` },
      { readMe, settings: [{ file: settings.target, path, value: fresh }] },
    );
  },
  list(world) {
    const { settings, chance } = world;
    const plain = world.plain[0];
    if (!settings?.list || !plain || !world.alone(plain.ending)) return undefined;
    const name = world.word();
    const file = `${name}.${plain.ending}`;
    return wrapped(
      world,
      `${name}.zip`,
      'list',
      { [file]: 900 },
      { [file]: `game/${plain.folder}/${file}` },
      {
        readMe: `${file} goes into ${plain.folder}.\n${fill(chance.one(ADD_ITEM), { I: name, K: 'Active', D: settings.name })}`,
        settings: [{ file: settings.target, path: settings.list.path, value: `${settings.list.value},${name}` }],
      },
    );
  },
  launch(world) {
    const option = world.chance.one([`-${world.word()}`, `--${world.word()}`, `-${world.word()}=2`]);
    return {
      name: `${world.word()}.zip`,
      files: { 'readme.txt': fill(world.chance.one(LAUNCH), { O: option }) },
      expect: {
        mechanism: 'launch',
        targets: { 'readme.txt': null },
        settings: [{ file: '(launch)', path: [], value: option }],
      },
    };
  },
  numbered(world) {
    const { numbered, chance } = world;
    if (!numbered) return undefined;
    const name = world.word();
    const mark = chance.one(['X', 'N', '##', String(numbered.count), '?']);
    const files = under(name, { [`${name}0.ogg`]: 900, [`${name}1.ogg`]: 900 });
    const readMe = `${fill(chance.one(PUT_FOLDER), { W: name, F: numbered.folder })}\n${chance.one(['Then add to', 'At the end of', 'You also need a new section in'])} ${numbered.name}${chance.one([':', ' (use the next free number):', ' with the next number'])}\n\n[${numbered.stem}${mark}]\ntitle=${cap(name)}\nfolder=${name}\n`;
    return wrapped(
      world,
      `${name}.zip`,
      'numbered section',
      files,
      { [`${name}/`]: `game/${numbered.folder}/${name}/` },
      {
        readMe,
        settings: [
          ['title', cap(name)],
          ['folder', name],
        ].map(([key, value]) => ({
          file: numbered.target,
          path: [`${numbered.stem}${numbered.count}`, key as string],
          value: value as string,
        })),
      },
    );
  },
  'title id'(world) {
    const { ids, chance } = world;
    if (!ids) return undefined;
    const id = ids.owned[2] as string;
    const to = `user/${[ids.container, id, ids.inner].filter((part) => part !== '').join('/')}/`;
    const pictures = { [`t${chance.int(10_000, 99_999)}.png`]: 900, [`t${chance.int(10_000, 99_999)}.png`]: 900 };
    const form = chance.int(0, 2);
    if (form === 0) return wrapped(world, `${world.word()}.zip`, 'title id', under(id, pictures), { [`${id}/`]: to });
    if (form === 1)
      return wrapped(world, `${world.word()} (${id}).zip`, 'title id', pictures, { '**': to }, { wrap: false });
    return wrapped(
      world,
      `${world.word()}.zip`,
      'title id',
      pictures,
      { '**': to },
      { wrap: false, readMe: `For ${chance.is(0.5) ? id : id.replaceAll('-', ' ')}.` },
    );
  },
  'another id'(world) {
    const { ids } = world;
    if (!ids) return undefined;
    const files = under(`${ids.foreign}${ids.inner === '' ? '' : `/${ids.inner}`}`, { 't55555.png': 900 });
    return wrapped(
      world,
      `${world.word()}.zip`,
      'title id, not owned',
      files,
      {},
      { outcomes: ids.owned.slice(0, 2).map((id) => ({ [`${ids.foreign}/`]: `user/${ids.container}/${id}/` })) },
    );
  },
  'kept zipped'(world) {
    const { zips, chance } = world;
    if (!zips) return undefined;
    const name = `${cap(world.word())}.zip`;
    return {
      name,
      files: {
        [zips.marker]: 900,
        [`stuff/${world.word()}.dat`]: 900,
        ...(chance.is(0.5)
          ? {
              'readme.txt': chance.one([
                'Leave it zipped.',
                'Do not unzip! The game reads the zip.',
                'Put the zip as it is where the others are.',
              ]),
            }
          : {}),
      },
      expect: { mechanism: 'kept zipped', targets: { '': `${zips.folder}/${name}` } },
    };
  },
  'zip in a zip'(world) {
    const { zips } = world;
    if (!zips) return undefined;
    const name = `${cap(world.word())}.zip`;
    return wrapped(
      world,
      `${world.word()} download.zip`,
      'archive inside',
      { [name]: 900 },
      { [name]: `${zips.folder}/${name}` },
    );
  },
  'inside an archive'(world) {
    const { archive, chance } = world;
    if (!archive) return undefined;
    const name = archive.target.slice(archive.target.lastIndexOf('/') + 1);
    const path = archive.inner[0] as string;
    if (chance.is(0.5))
      return wrapped(
        world,
        `${world.word()}.zip`,
        'inside an archive',
        { [path]: 900 },
        { '**': `${archive.target}!/` },
        {
          wrap: false,
          readMe: chance.one([
            `Goes inside ${name} (open it with a zip program).`,
            `This belongs inside ${name}, over the old one.`,
            `Put it into the archive ${name} itself.`,
          ]),
        },
      );
    return wrapped(
      world,
      `${world.word()}.zip`,
      'inside an archive',
      under(name, { [path]: 900, [archive.inner[2] as string]: 900 }),
      { [`${name}/`]: `${archive.target}!/` },
    );
  },
  alternatives(world) {
    const { chance } = world;
    const plain = chance.one(world.plain);
    const options = chance.one([
      ['small', 'medium', 'large'],
      ['Option A', 'Option B'],
      ['512', '1024', '2048'],
      ['red', 'green'],
      ['bright', 'dark'],
    ]);
    const taken = plain.names.slice(0, 2);
    const files = Object.assign(
      {},
      ...options.map((option) =>
        under(option, Object.fromEntries(taken.map((name) => [`${name}.${plain.ending}`, 900]))),
      ),
    ) as Files;
    return wrapped(
      world,
      `${world.word()}.zip`,
      'alternatives',
      files,
      {},
      { readMe: chance.one(CHOOSE), outcomes: options.map((option) => ({ [`${option}/`]: `game/${plain.folder}/` })) },
    );
  },
  optional(world) {
    const { chance } = world;
    const plain = chance.one(world.plain);
    const top = plain.folder.split('/').at(-1) as string;
    const file = `${top}/${plain.names[0] as string}.${plain.ending}`;
    const over = chance.one([
      'Optional',
      'Extra (if you like it darker)',
      'only for brave players',
      'stronger version',
    ]);
    const to = `game/${plain.folder.split('/').slice(0, -1).join('/')}${plain.folder.includes('/') ? '/' : ''}`;
    return wrapped(
      world,
      `${world.word()}.zip`,
      'optional',
      { [file]: 900, [`${top}/${plain.names[1] as string}.${plain.ending}`]: 900, [`${over}/${file}`]: 900 },
      {},
      {
        outcomes: [
          { [`${top}/`]: `${to}${top}/` },
          {
            [`${top}/${plain.names[1] as string}.${plain.ending}`]: `${to}${top}/${plain.names[1] as string}.${plain.ending}`,
            [file]: '?',
            [`${over}/`]: to,
          },
        ],
      },
    );
  },
  'two roots'(world) {
    if (!world.hasUser) return undefined;
    const plain = world.chance.one(world.plain);
    const file = `${plain.folder}/${world.word()}.${plain.ending}`;
    return wrapped(
      world,
      `${world.word()}.zip`,
      'two roots',
      { [`${world.title}/${file}`]: 900, [`${world.userTitle}/Saves/slot9.sav`]: 900 },
      { [`${world.title}/`]: 'game/', [`${world.userTitle}/`]: 'user/' },
    );
  },
  profiles(world) {
    const { profiles, chance } = world;
    if (!profiles) return undefined;
    const name = chance.one(profiles.names);
    if (chance.is(0.5))
      return wrapped(
        world,
        `for ${name}.zip`,
        'profiles',
        { [`${name}/journal.dat`]: 900 },
        { [`${name}/`]: `user/${profiles.folder}/${name}/` },
      );
    const readMe = fill(
      chance.one([
        'Every player has to set hints to 0 in profile.ini.',
        'In each profile.ini, change hints from 1 to 0.',
        'Set hints=0 in the profile.ini of all players.',
      ]),
      {},
    );
    return {
      name: 'no hints.zip',
      files: { 'readme.txt': readMe },
      expect: {
        mechanism: 'settings',
        targets: { 'readme.txt': null },
        settings: profiles.names.map((one) => ({
          file: `user/${profiles.folder}/${one}/profile.ini`,
          path: ['Play', 'hints'],
          value: '0',
        })),
      },
    };
  },
  language(world) {
    const { languages, chance } = world;
    if (!languages) return undefined;
    const file = `${chance.one(['es', 'sv', 'cs', 'it', 'pt-BR'])}.${languages.ending}`;
    return wrapped(
      world,
      `${world.word()} translation.zip`,
      'language',
      { [file]: 900 },
      { [file]: `game/${languages.folder}/${file}` },
    );
  },
  'settings file'(world) {
    const { settings } = world;
    if (!settings || settings.dialect !== 'ini') return undefined;
    const { path, value } = settings.values[0] as { path: string[]; value: string };
    const fresh = other(value, world.chance);
    return wrapped(
      world,
      `${world.word()}.zip`,
      'settings file in pack',
      { [settings.name]: `[${path[0] as string}]\n${path[1] as string}=${fresh}\n` },
      { [settings.name]: `edits ${settings.target}` },
      { settings: [{ file: settings.target, path, value: fresh }] },
    );
  },
};

function other(value: string, chance: Chance): string {
  const pairs: Record<string, string> = {
    '0': '1',
    '1': '0',
    false: 'true',
    true: 'false',
    off: 'on',
    on: 'off',
    low: 'high',
  };
  return pairs[value] ?? String(chance.int(3, 99));
}

/** Every way in which packs are made. */
export const MECHANISMS = Object.keys(MAKERS);

/** One game with a few packs, from a seed. */
export function generateGame(seed: number, packs = 4): GameCase {
  const chance = new Chance(seed * 7919 + 17);
  const world = new World(chance);
  const made: PackCase[] = [];
  for (const mechanism of chance.some(MECHANISMS, MECHANISMS.length)) {
    if (made.length >= packs) break;
    const one = MAKERS[mechanism]?.(world);
    if (one) made.push(one);
  }
  return {
    name: `seed-${seed}`,
    roots: [
      { id: 'game', title: world.title, files: world.game },
      ...(world.hasUser ? [{ id: 'user', title: world.userTitle, files: world.user }] : []),
    ],
    packs: made,
  };
}
