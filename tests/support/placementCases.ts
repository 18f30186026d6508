import { gameCardSchema, plainCard, target, type GameCard, type PackEntry, type PackPath } from '@/core';
import { gullwickFolders } from '@/demo/gullwick';
import { gullwickCard } from '@/demo/gullwickCard';
import { hedgerowCard, hedgerowFolders } from '@/demo/hedgerow';
import { tinplateCard, tinplateFolders } from '@/demo/tinplate';

/**
 * What goes where: pack, card, folder and what is expected. The expectations are facts of the trade ("common practice"
 * in checks.md), not what the code happens to do: a pack that repeats the game's tree goes over it under any wrappers;
 * one that starts lower down goes one level above the first folder that both have; add-ons want folders of their own;
 * textures want the id of the player's region; some packs stay zipped; settings files are never replaced. `ask` in
 * `confidence`: a question is right and an answer would be a guess.
 */
export interface PlacementCase {
  name: string;
  game: string;
  pack: string[];
  texts?: Record<string, string>;
  file?: string;
  answers?: Record<string, string[]>;
  /** Pack file to target; `archive!/path` inside an archive; '' for the whole archive; '(written)' for a manifest. */
  expected: Record<string, string>;
  confidence: ('sure' | 'likely' | 'ask')[];
  /** Ids of the questions that are asked and not answered. */
  questions?: string[];
}

const plain = gameCardSchema.parse({
  card: 1,
  id: 'g',
  title: 'G',
  roots: [
    { id: 'program', title: 'Program folder' },
    { id: 'user', title: 'User data' },
  ],
  settings: [{ target: 'user/game.ini', dialect: 'ini', title: 'Settings' }],
});
/** A game without a card's knowledge: everything is learnt from its folders. */
const PLAIN = [
  'program/game.bin',
  'program/assets/textures/quay/planks.png',
  'program/assets/textures/quay/rope.png',
  'program/assets/textures/boats/heron.png',
  'program/assets/sounds/horn.wav',
  'program/assets/text/en.lang',
  'program/addons/locker/addon.txt',
  'program/addons/locker/textures/brass.png',
  'program/vessels/heron/paints/white/hull.png',
  'program/vessels/tern/paints/white/hull.png',
  'program/licence.txt',
  'user/game.ini',
  'user/skippers/ada/view.xml',
];

const targetsOf = (folders: Record<string, Record<string, unknown>>): string[] =>
  Object.entries(folders).flatMap(([root, files]) => Object.keys(files).map((path) => target(root, path)));
const games: Record<string, { card: GameCard; files: string[] }> = {
  plain: { card: plain, files: PLAIN },
  'no card': { card: plainCard('mine', 'Mine'), files: PLAIN.map((path) => path.replace(/^\w+\//, 'game/')) },
  gullwick: { card: gullwickCard, files: targetsOf(gullwickFolders()) },
  tinplate: { card: tinplateCard, files: targetsOf(tinplateFolders()) },
  hedgerow: { card: hedgerowCard, files: targetsOf(hedgerowFolders()) },
};
/** The same program with both regions of one title. */
games['tinplate, two regions'] = {
  card: tinplateCard,
  files: [...(games.tinplate as { files: string[] }).files, 'user/shelf/CB-7041.title'],
};
export const GAMES = Object.keys(games);
export const gameOf = (name: string): { card: GameCard; files: string[] } => games[name] ?? { card: plain, files: [] };

export const entriesOf = (paths: readonly string[]): PackEntry[] =>
  paths.map((path, i) => ({ path: path as PackPath, size: 10 + i }));

const quay = (...names: string[]) => names.map((name) => `assets/textures/quay/${name}.png`);
const under = (folder: string, paths: string[]) => paths.map((path) => `${folder}/${path}`);
const pairs = (from: string[], to: string[]): Record<string, string> =>
  Object.fromEntries(from.map((path, i) => [path, to[i] as string]));
const sure: PlacementCase['confidence'] = ['sure'];
const sureOrLikely: PlacementCase['confidence'] = ['sure', 'likely'];
const ask: PlacementCase['confidence'] = ['ask'];

/** 1. Over the game's tree, at any depth. */
const OVER: PlacementCase[] = [
  {
    name: 'the game’s tree as it is',
    game: 'plain',
    pack: quay('planks'),
    expected: pairs(quay('planks'), ['program/assets/textures/quay/planks.png']),
    confidence: sure,
  },
  {
    name: 'one wrapper',
    game: 'plain',
    pack: under('My Pack', quay('planks')),
    expected: pairs(under('My Pack', quay('planks')), ['program/assets/textures/quay/planks.png']),
    confidence: sure,
  },
  {
    name: 'three wrappers',
    game: 'plain',
    pack: under('a/b/c', quay('new')),
    expected: pairs(under('a/b/c', quay('new')), ['program/assets/textures/quay/new.png']),
    confidence: sure,
  },
  {
    name: 'a wrapper named after the program folder',
    game: 'plain',
    pack: under('Program folder', quay('planks', 'rope')),
    expected: pairs(under('Program folder', quay('planks', 'rope')), [
      'program/assets/textures/quay/planks.png',
      'program/assets/textures/quay/rope.png',
    ]),
    confidence: sure,
  },
  {
    name: 'starts at textures',
    game: 'plain',
    pack: ['textures/quay/planks.png', 'textures/boats/heron.png'],
    expected: {
      'textures/quay/planks.png': 'program/assets/textures/quay/planks.png',
      'textures/boats/heron.png': 'program/assets/textures/boats/heron.png',
    },
    confidence: sure,
  },
  {
    name: 'starts at quay',
    game: 'plain',
    pack: ['quay/planks.png', 'quay/extra.png'],
    expected: {
      'quay/planks.png': 'program/assets/textures/quay/planks.png',
      'quay/extra.png': 'program/assets/textures/quay/extra.png',
    },
    confidence: sure,
  },
  {
    name: 'starts lower under a wrapper',
    game: 'plain',
    pack: ['Boats HD/boats/heron.png'],
    expected: { 'Boats HD/boats/heron.png': 'program/assets/textures/boats/heron.png' },
    confidence: sure,
  },
  {
    name: 'other case',
    game: 'plain',
    pack: ['ASSETS/Textures/QUAY/Planks.PNG'],
    expected: { 'ASSETS/Textures/QUAY/Planks.PNG': 'program/ASSETS/Textures/QUAY/Planks.PNG' },
    confidence: sure,
  },
  {
    name: 'a new folder in a known one',
    game: 'plain',
    pack: ['W/assets/textures/pier/new.png'],
    expected: { 'W/assets/textures/pier/new.png': 'program/assets/textures/pier/new.png' },
    confidence: sureOrLikely,
  },
  {
    name: 'loose files with the game’s names',
    game: 'plain',
    pack: ['planks.png', 'rope.png'],
    expected: {
      'planks.png': 'program/assets/textures/quay/planks.png',
      'rope.png': 'program/assets/textures/quay/rope.png',
    },
    confidence: sureOrLikely,
  },
  {
    name: 'a sound alone in its folder',
    game: 'plain',
    pack: ['Horn/sounds/horn.wav'],
    expected: { 'Horn/sounds/horn.wav': 'program/assets/sounds/horn.wav' },
    confidence: sure,
  },
  {
    name: 'textures that match deep down, not by the common name',
    game: 'plain',
    pack: ['textures/brass.png'],
    expected: { 'textures/brass.png': 'program/addons/locker/textures/brass.png' },
    confidence: sureOrLikely,
  },
  {
    name: 'into the user-data folder',
    game: 'plain',
    pack: ['skippers/ada/view.xml'],
    expected: { 'skippers/ada/view.xml': 'user/skippers/ada/view.xml' },
    confidence: sure,
  },
  {
    name: 'two vessels that look alike',
    game: 'plain',
    pack: ['paints/white/hull.png'],
    expected: {},
    confidence: ask,
  },
  {
    name: 'one of them is named',
    game: 'plain',
    pack: ['tern/paints/white/hull.png'],
    expected: { 'tern/paints/white/hull.png': 'program/vessels/tern/paints/white/hull.png' },
    confidence: sure,
  },
  {
    name: 'both vessels, each under its name, are no alternatives',
    game: 'plain',
    pack: ['heron/paints/red/hull.png', 'tern/paints/red/hull.png'],
    expected: {
      'heron/paints/red/hull.png': 'program/vessels/heron/paints/red/hull.png',
      'tern/paints/red/hull.png': 'program/vessels/tern/paints/red/hull.png',
    },
    confidence: sureOrLikely,
  },
  { name: 'nothing in common', game: 'plain', pack: ['whatever/thing.dat'], expected: {}, confidence: ask },
  {
    name: 'an unknown folder beside the game’s',
    game: 'plain',
    pack: [...quay('planks', 'rope'), 'bonus/poster.dat'],
    expected: pairs(quay('planks', 'rope'), [
      'program/assets/textures/quay/planks.png',
      'program/assets/textures/quay/rope.png',
    ]),
    confidence: sure,
  },
  {
    name: 'no card at all: learnt from the folder',
    game: 'no card',
    pack: under('X', quay('planks')),
    expected: pairs(under('X', quay('planks')), ['game/assets/textures/quay/planks.png']),
    confidence: sure,
  },
  {
    name: 'no card, starts lower down',
    game: 'no card',
    pack: ['boats/heron.png', 'boats/gull.png'],
    expected: {
      'boats/heron.png': 'game/assets/textures/boats/heron.png',
      'boats/gull.png': 'game/assets/textures/boats/gull.png',
    },
    confidence: sure,
  },
  { name: 'no card, nothing in common', game: 'no card', pack: ['zig/zag.dat'], expected: {}, confidence: ask },
];

/** 2. A folder of its own. */
const OWN_FOLDER: PlacementCase[] = [
  {
    name: 'an add-on with its marker, bare',
    game: 'gullwick',
    file: 'brass-lamps.zip',
    pack: ['addon.txt', 'textures/lamp.png'],
    expected: {
      'addon.txt': 'program/addons/brass-lamps/addon.txt',
      'textures/lamp.png': 'program/addons/brass-lamps/textures/lamp.png',
    },
    confidence: sure,
  },
  {
    name: 'an add-on in its folder',
    game: 'gullwick',
    pack: ['Brass Lamps/addon.txt', 'Brass Lamps/textures/lamp.png'],
    expected: {
      'Brass Lamps/addon.txt': 'program/addons/Brass Lamps/addon.txt',
      'Brass Lamps/textures/lamp.png': 'program/addons/Brass Lamps/textures/lamp.png',
    },
    confidence: sure,
  },
  {
    name: 'an add-on under wrappers',
    game: 'gullwick',
    pack: ['Download/v2/brass/addon.txt', 'Download/v2/brass/textures/lamp.png'],
    expected: {
      'Download/v2/brass/addon.txt': 'program/addons/brass/addon.txt',
      'Download/v2/brass/textures/lamp.png': 'program/addons/brass/textures/lamp.png',
    },
    confidence: sure,
  },
  {
    name: 'two add-ons in one download',
    game: 'gullwick',
    pack: ['Set/brass/addon.txt', 'Set/brass/textures/a.png', 'Set/copper/addon.txt', 'Set/copper/textures/a.png'],
    expected: {
      'Set/brass/addon.txt': 'program/addons/brass/addon.txt',
      'Set/brass/textures/a.png': 'program/addons/brass/textures/a.png',
      'Set/copper/addon.txt': 'program/addons/copper/addon.txt',
      'Set/copper/textures/a.png': 'program/addons/copper/textures/a.png',
    },
    confidence: sure,
  },
  {
    name: 'the game’s add-on folder with the add-on in it',
    game: 'gullwick',
    pack: ['addons/brass/addon.txt', 'addons/brass/textures/lamp.png'],
    expected: {
      'addons/brass/addon.txt': 'program/addons/brass/addon.txt',
      'addons/brass/textures/lamp.png': 'program/addons/brass/textures/lamp.png',
    },
    confidence: sure,
  },
  {
    name: 'straight in the add-on folder, with its marker',
    game: 'gullwick',
    file: 'lamps.zip',
    pack: ['W/addons/addon.txt', 'W/addons/textures/lamp.png'],
    expected: {
      'W/addons/addon.txt': 'program/addons/lamps/addon.txt',
      'W/addons/textures/lamp.png': 'program/addons/lamps/textures/lamp.png',
    },
    confidence: sureOrLikely,
  },
  {
    name: 'straight in the add-on folder, without a marker',
    game: 'gullwick',
    file: 'lamps.zip',
    pack: ['addons/textures/lamp.png', 'addons/scripts/lamp.txt'],
    expected: {
      'addons/textures/lamp.png': 'program/addons/lamps/textures/lamp.png',
      'addons/scripts/lamp.txt': 'program/addons/lamps/scripts/lamp.txt',
    },
    confidence: sureOrLikely,
  },
  {
    name: 'what an add-on holds, and nothing that the game has',
    game: 'gullwick',
    file: 'Night Crew 2.zip',
    pack: ['scripts/crew.txt', 'scripts/watch.txt'],
    expected: {
      'scripts/crew.txt': 'program/addons/night-crew-2/scripts/crew.txt',
      'scripts/watch.txt': 'program/addons/night-crew-2/scripts/watch.txt',
    },
    confidence: ['likely'],
  },
  {
    name: 'a read-me beside the add-on',
    game: 'gullwick',
    pack: ['Read me.txt', 'brass/addon.txt', 'brass/textures/lamp.png'],
    expected: {
      'brass/addon.txt': 'program/addons/brass/addon.txt',
      'brass/textures/lamp.png': 'program/addons/brass/textures/lamp.png',
    },
    confidence: sure,
  },
];

/** 3. By title id. */
const TITLES: PlacementCase[] = [
  {
    name: 'right id, right depth',
    game: 'tinplate',
    pack: ['CB-2041/swap/bun.png', 'CB-2041/swap/oven/door.png'],
    expected: {
      'CB-2041/swap/bun.png': 'user/paintbox/CB-2041/swap/bun.png',
      'CB-2041/swap/oven/door.png': 'user/paintbox/CB-2041/swap/oven/door.png',
    },
    confidence: sure,
  },
  {
    name: 'right id under wrappers',
    game: 'tinplate',
    pack: ['Pack/put in paintbox/CB-2041/swap/bun.png'],
    expected: { 'Pack/put in paintbox/CB-2041/swap/bun.png': 'user/paintbox/CB-2041/swap/bun.png' },
    confidence: sure,
  },
  {
    name: 'right id in other case',
    game: 'tinplate',
    pack: ['cb-2041/swap/bun.png'],
    expected: { 'cb-2041/swap/bun.png': 'user/paintbox/CB-2041/swap/bun.png' },
    confidence: sure,
  },
  {
    name: 'right id, the inner folder missing',
    game: 'tinplate',
    pack: ['CB-2041/bun.png', 'CB-2041/oven/door.png'],
    expected: {
      'CB-2041/bun.png': 'user/paintbox/CB-2041/swap/bun.png',
      'CB-2041/oven/door.png': 'user/paintbox/CB-2041/swap/oven/door.png',
    },
    confidence: sure,
  },
  {
    name: 'right id, the inner folder twice',
    game: 'tinplate',
    pack: ['CB-2041/swap/swap/bun.png'],
    expected: { 'CB-2041/swap/swap/bun.png': 'user/paintbox/CB-2041/swap/bun.png' },
    confidence: sure,
  },
  {
    name: 'the wrong region is asked about',
    game: 'tinplate',
    pack: ['CB-7041/swap/bun.png'],
    expected: {},
    confidence: ask,
    questions: ['title:CB-7041'],
  },
  {
    name: 'the wrong region, answered: the right id',
    game: 'tinplate',
    pack: ['CB-7041/swap/bun.png'],
    answers: { 'title:CB-7041': ['CB-2041'] },
    expected: { 'CB-7041/swap/bun.png': 'user/paintbox/CB-2041/swap/bun.png' },
    confidence: sure,
  },
  {
    name: 'the wrong region, left as it is on purpose',
    game: 'tinplate',
    pack: ['CB-7041/swap/bun.png'],
    answers: { 'title:CB-7041': ['CB-7041'] },
    expected: { 'CB-7041/swap/bun.png': 'user/paintbox/CB-7041/swap/bun.png' },
    confidence: sure,
  },
  {
    name: 'all regions in one pack: the player’s own',
    game: 'tinplate',
    pack: ['P/CB-2041/swap/bun.png', 'P/CB-7041/swap/bun.png', 'P/CB-9041/swap/bun.png'],
    expected: { 'P/CB-2041/swap/bun.png': 'user/paintbox/CB-2041/swap/bun.png' },
    confidence: sure,
  },
  {
    name: 'both regions owned: both',
    game: 'tinplate, two regions',
    pack: ['CB-2041/swap/bun.png', 'CB-7041/swap/bun.png'],
    expected: {
      'CB-2041/swap/bun.png': 'user/paintbox/CB-2041/swap/bun.png',
      'CB-7041/swap/bun.png': 'user/paintbox/CB-7041/swap/bun.png',
    },
    confidence: sure,
  },
  {
    name: 'an id that nobody knows is asked about',
    game: 'tinplate',
    pack: ['ZZ-0001/swap/x.png'],
    expected: {},
    confidence: ask,
    questions: ['title:ZZ-0001'],
  },
  {
    name: 'no id, the title in the name',
    game: 'tinplate',
    file: 'Crumbleby Bakery HD.zip',
    pack: ['swap/bun.png', 'swap/cake.png'],
    expected: {
      'swap/bun.png': 'user/paintbox/CB-2041/swap/bun.png',
      'swap/cake.png': 'user/paintbox/CB-2041/swap/cake.png',
    },
    confidence: sureOrLikely,
  },
  {
    name: 'no id, pictures alone, the title in the name',
    game: 'tinplate',
    file: 'crumbleby_bakery_textures.7z',
    pack: ['hd/bun.png', 'hd/cakes/cake.png', 'Read me.txt'],
    expected: {
      'hd/bun.png': 'user/paintbox/CB-2041/swap/bun.png',
      'hd/cakes/cake.png': 'user/paintbox/CB-2041/swap/cakes/cake.png',
    },
    confidence: sureOrLikely,
  },
  {
    name: 'no id and no name: which title is asked',
    game: 'tinplate',
    file: 'textures.zip',
    pack: ['bun.png', 'cake.png'],
    expected: {},
    confidence: ask,
    questions: ['title'],
  },
  {
    name: 'no id, answered',
    game: 'tinplate',
    file: 'textures.zip',
    pack: ['bun.png', 'cake.png'],
    answers: { title: ['MG-3300'] },
    expected: { 'bun.png': 'user/paintbox/MG-3300/swap/bun.png', 'cake.png': 'user/paintbox/MG-3300/swap/cake.png' },
    confidence: sureOrLikely,
  },
];

/** 4. Kept zipped, 5. into an archive, 11. converted. */
const ARCHIVES: PlacementCase[] = [
  {
    name: 'stays zipped: its manifest lies at the top',
    game: 'hedgerow',
    file: 'Rose Porch-1.2.zip',
    pack: ['pack.leaf', 'rooms/porch.room', 'face.png'],
    expected: { '': 'hall/packs/rose-porch-1.2.zip' },
    confidence: sure,
  },
  {
    name: 'one folder too deep for an archive that stays closed: packed anew',
    game: 'hedgerow',
    file: 'x.zip',
    pack: ['Rose Porch/pack.leaf', 'Rose Porch/rooms/porch.room'],
    expected: {
      'Rose Porch/pack.leaf': 'hall/packs/rose-porch.zip!/pack.leaf',
      'Rose Porch/rooms/porch.room': 'hall/packs/rose-porch.zip!/rooms/porch.room',
    },
    confidence: sure,
  },
  {
    name: 'a download that wraps an archive must be unzipped once',
    game: 'hedgerow',
    pack: ['Read me.txt', 'rose-porch.zip'],
    expected: { 'rose-porch.zip': 'hall/packs/rose-porch.zip' },
    confidence: sure,
  },
  {
    name: 'a download that wraps two archives',
    game: 'hedgerow',
    pack: ['both/a.zip', 'both/b.zip', 'both/preview.png'],
    expected: { 'both/a.zip': 'hall/packs/a.zip', 'both/b.zip': 'hall/packs/b.zip' },
    confidence: sureOrLikely,
  },
  {
    name: 'into the core archive, by its name',
    game: 'hedgerow',
    pack: ['core.hha/rooms/porch.room', 'core.hha/text/en.lang'],
    expected: {
      'core.hha/rooms/porch.room': 'hall/core.hha!/rooms/porch.room',
      'core.hha/text/en.lang': 'hall/core.hha!/text/en.lang',
    },
    confidence: sure,
  },
  {
    name: 'into the core archive, by its bare name under a wrapper',
    game: 'hedgerow',
    pack: ['Old Porch/core/rooms/porch.room', 'Old Porch/how to install.txt'],
    expected: { 'Old Porch/core/rooms/porch.room': 'hall/core.hha!/rooms/porch.room' },
    confidence: sure,
  },
  {
    name: 'into the core archive, by what is inside it',
    game: 'hedgerow',
    pack: ['Porch/rooms/porch.room', 'Porch/rooms/attic.room'],
    expected: {
      'Porch/rooms/porch.room': 'hall/core.hha!/rooms/porch.room',
      'Porch/rooms/attic.room': 'hall/core.hha!/rooms/attic.room',
    },
    confidence: ['likely'],
  },
  {
    name: 'another edition’s layout is converted',
    game: 'hedgerow',
    file: 'rose-porch.zip',
    pack: ['bundle/rooms/porch.room', 'bundle/touch/porch.pad', 'bundle.png'],
    expected: {
      'bundle/rooms/porch.room': 'hall/packs/rose-porch.zip!/rooms/porch.room',
      'bundle.png': 'hall/packs/rose-porch.zip!/face.png',
      '(written)': 'hall/packs/rose-porch.zip!/pack.leaf',
    },
    confidence: sure,
  },
  {
    name: 'another edition’s layout under a wrapper',
    game: 'hedgerow',
    file: 'rose-porch.zip',
    pack: ['Rose/bundle/rooms/porch.room', 'Rose/bundle.png', 'Rose/Read me.txt'],
    expected: {
      'Rose/bundle/rooms/porch.room': 'hall/packs/rose-porch.zip!/rooms/porch.room',
      'Rose/bundle.png': 'hall/packs/rose-porch.zip!/face.png',
      '(written)': 'hall/packs/rose-porch.zip!/pack.leaf',
    },
    confidence: sure,
  },
  { name: 'nothing of the hall’s', game: 'hedgerow', pack: ['odd/one.dat'], expected: {}, confidence: ask },
];

/** 6. Loose files by kind, 7. settings, 9. baggage. */
const LOOSE: PlacementCase[] = [
  {
    name: 'a chart',
    game: 'gullwick',
    pack: ['north-isle.isle'],
    expected: { 'north-isle.isle': 'program/assets/charts/north-isle.isle' },
    confidence: sure,
  },
  {
    name: 'charts under a wrapper, with a read-me',
    game: 'gullwick',
    pack: ['Isles/north.isle', 'Isles/south.isle', 'Isles/readme.txt'],
    expected: {
      'Isles/north.isle': 'program/assets/charts/north.isle',
      'Isles/south.isle': 'program/assets/charts/south.isle',
    },
    confidence: sure,
  },
  {
    name: 'a sound with a fixed name, its folders made',
    game: 'gullwick',
    pack: ['my-bell.wav'],
    expected: { 'my-bell.wav': 'program/assets/sounds/harbour/bell/ring.wav' },
    confidence: sure,
  },
  {
    name: 'two sounds cannot both have the one name',
    game: 'gullwick',
    pack: ['bell-a.wav', 'bell-b.wav'],
    expected: {},
    confidence: ask,
  },
  {
    name: 'a livery for one vessel',
    game: 'gullwick',
    pack: ['vessels/heron/paints/storm/hull.png'],
    expected: { 'vessels/heron/paints/storm/hull.png': 'program/vessels/heron/paints/storm/hull.png' },
    confidence: sureOrLikely,
  },
  {
    name: 'textures with a chart beside them',
    game: 'gullwick',
    pack: [...quay('planks', 'rope'), 'north.isle'],
    expected: {
      ...pairs(quay('planks', 'rope'), [
        'program/assets/textures/quay/planks.png',
        'program/assets/textures/quay/rope.png',
      ]),
      'north.isle': 'program/assets/charts/north.isle',
    },
    confidence: sure,
  },
  {
    name: 'a settings file becomes edits',
    game: 'gullwick',
    pack: ['ferries.ini', ...quay('planks')],
    texts: { 'ferries.ini': '[Graphics]\r\nWaterDetail=4\r\n' },
    expected: {
      'ferries.ini': 'edits of user/ferries.ini',
      ...pairs(quay('planks'), ['program/assets/textures/quay/planks.png']),
    },
    confidence: sure,
  },
  {
    name: 'a settings file under any wrapper',
    game: 'gullwick',
    pack: ['Tweaks/for your user folder/ferries.ini'],
    texts: { 'Tweaks/for your user folder/ferries.ini': '[Sound]\nHorn=0\n' },
    expected: { 'Tweaks/for your user folder/ferries.ini': 'edits of user/ferries.ini' },
    confidence: sure,
  },
  {
    name: 'a settings file that could not be read stays out',
    game: 'plain',
    pack: ['game.ini', 'skippers/ada/view.xml'],
    expected: { 'skippers/ada/view.xml': 'user/skippers/ada/view.xml' },
    confidence: sure,
  },
  {
    name: 'settings of a profile: which is asked',
    game: 'gullwick',
    pack: ['controls.ini'],
    texts: { 'controls.ini': '[Keys]\nHorn=x\n' },
    expected: {},
    confidence: ask,
    questions: ['profiles:controls.ini'],
  },
  {
    name: 'settings of a profile, named by its folder',
    game: 'gullwick',
    pack: ['skippers/bo/controls.ini'],
    texts: { 'skippers/bo/controls.ini': '[Keys]\nHorn=x\n' },
    expected: { 'skippers/bo/controls.ini': 'edits of user/skippers/bo/controls.ini' },
    confidence: sure,
  },
  {
    name: 'settings of all profiles, answered',
    game: 'gullwick',
    pack: ['controls.ini'],
    texts: { 'controls.ini': '[Keys]\nHorn=x\n' },
    answers: { 'profiles:controls.ini': ['ada', 'bo'] },
    expected: { 'controls.ini': 'edits of user/skippers/ada/controls.ini + edits of user/skippers/bo/controls.ini' },
    confidence: sure,
  },
  {
    name: 'read-me, links, pictures of the result, system files',
    game: 'plain',
    pack: [
      'P/assets/textures/quay/planks.png',
      'P/README.txt',
      'P/Visit us.url',
      'P/screenshots/after.png',
      'P/preview.png',
      '__MACOSX/P/._x',
      'P/assets/.DS_Store',
      'P/licence.md',
    ],
    expected: { 'P/assets/textures/quay/planks.png': 'program/assets/textures/quay/planks.png' },
    confidence: sure,
  },
  {
    name: 'a read-me inside a game folder',
    game: 'plain',
    pack: [...quay('planks'), 'assets/textures/quay/readme.txt'],
    expected: pairs(quay('planks'), ['program/assets/textures/quay/planks.png']),
    confidence: sure,
  },
  {
    name: 'a text that the game itself has under that name is meant',
    game: 'plain',
    pack: [...quay('planks', 'rope'), 'licence.txt'],
    expected: {
      ...pairs(quay('planks', 'rope'), [
        'program/assets/textures/quay/planks.png',
        'program/assets/textures/quay/rope.png',
      ]),
      'licence.txt': 'program/licence.txt',
    },
    confidence: sure,
  },
  {
    name: 'an old copy of the program',
    game: 'plain',
    pack: [
      ...under('P', quay('planks')),
      'P/old program/start.exe',
      'P/old program/core.dll',
      'P/old program/data/things.bin',
      'P/install.bat',
    ],
    expected: pairs(under('P', quay('planks')), ['program/assets/textures/quay/planks.png']),
    confidence: sure,
  },
];

/** 8. Alternatives inside one download. */
const sizes = (size: string) => [
  `P/${size}/assets/textures/quay/planks.png`,
  `P/${size}/assets/textures/quay/rope.png`,
];
const ALTERNATIVES: PlacementCase[] = [
  {
    name: 'three resolutions: which is asked',
    game: 'plain',
    pack: [...sizes('512'), ...sizes('1024'), ...sizes('2048')],
    expected: {},
    confidence: ask,
    questions: ['alternatives:P'],
  },
  {
    name: 'three resolutions, answered',
    game: 'plain',
    pack: [...sizes('512'), ...sizes('1024'), ...sizes('2048')],
    answers: { 'alternatives:P': ['P/1024'] },
    expected: pairs(sizes('1024'), [
      'program/assets/textures/quay/planks.png',
      'program/assets/textures/quay/rope.png',
    ]),
    confidence: sure,
  },
  {
    name: 'button styles beside common files',
    game: 'plain',
    pack: [
      ...under('P', quay('planks', 'rope')),
      'P/style round/assets/textures/boats/heron.png',
      'P/style square/assets/textures/boats/heron.png',
    ],
    answers: { 'alternatives:P': ['P/style square'] },
    expected: {
      ...pairs(under('P', quay('planks', 'rope')), [
        'program/assets/textures/quay/planks.png',
        'program/assets/textures/quay/rope.png',
      ]),
      'P/style square/assets/textures/boats/heron.png': 'program/assets/textures/boats/heron.png',
    },
    confidence: sure,
  },
  {
    name: 'option A and option B',
    game: 'plain',
    pack: ['Option A/quay/planks.png', 'Option B/quay/planks.png'],
    expected: {},
    confidence: ask,
    questions: ['alternatives:'],
  },
  {
    name: 'an optional part stays out until it is taken in',
    game: 'plain',
    pack: [...under('P/main', quay('planks', 'rope')), 'P/optional wet look/assets/textures/quay/planks.png'],
    expected: pairs(under('P/main', quay('planks', 'rope')), [
      'program/assets/textures/quay/planks.png',
      'program/assets/textures/quay/rope.png',
    ]),
    confidence: sure,
    questions: ['optional'],
  },
  {
    name: 'an optional part taken in lies over the base',
    game: 'plain',
    pack: [...under('P/main', quay('planks', 'rope')), 'P/optional wet look/assets/textures/quay/planks.png'],
    answers: { optional: ['P/optional wet look'] },
    expected: {
      ...pairs(under('P/main', quay('planks', 'rope')), [
        'program/assets/textures/quay/planks.png',
        'program/assets/textures/quay/rope.png',
      ]),
      'P/optional wet look/assets/textures/quay/planks.png': 'program/assets/textures/quay/planks.png',
    },
    confidence: sure,
  },
  {
    name: 'resolutions around title ids',
    game: 'tinplate',
    pack: ['1x/CB-2041/swap/bun.png', '2x/CB-2041/swap/bun.png'],
    answers: { 'alternatives:': ['2x'] },
    expected: { '2x/CB-2041/swap/bun.png': 'user/paintbox/CB-2041/swap/bun.png' },
    confidence: sure,
  },
  {
    name: 'parts that share nothing go in together',
    game: 'plain',
    pack: ['01 Quay/assets/textures/quay/planks.png', '02 Boats/assets/textures/boats/heron.png'],
    expected: {
      '01 Quay/assets/textures/quay/planks.png': 'program/assets/textures/quay/planks.png',
      '02 Boats/assets/textures/boats/heron.png': 'program/assets/textures/boats/heron.png',
    },
    confidence: sureOrLikely,
  },
];

export const CASES: PlacementCase[] = [...OVER, ...OWN_FOLDER, ...TITLES, ...ARCHIVES, ...LOOSE, ...ALTERNATIVES];
