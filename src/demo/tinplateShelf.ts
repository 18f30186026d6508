import { drawPng, type Motif, type Palette } from './draw';
import { crlf, text, under, zip, type Files } from './filesByPath';
import type { ShelfItem } from './shelfItem';

const SUGAR: Palette = [
  [250, 220, 226],
  [226, 140, 160],
  [255, 246, 236],
];
const RYE: Palette = [
  [120, 84, 56],
  [170, 124, 80],
  [226, 196, 150],
];
const NAMES: [string, Motif][] = [
  ['bun', 'stone'],
  ['oven', 'planks'],
  ['counter', 'planks'],
  ['window', 'sky'],
  ['sign', 'sail'],
  ['lamp', 'lamp'],
];

const textures = (tag: string, palette: Palette, size: number): Files =>
  Object.fromEntries(NAMES.map(([name, motif]) => [`${name}.png`, drawPng(`${tag}/${name}`, motif, palette, size)]));

/** Named after the southern edition's id; the player has the northern one. */
const sugarBuns = (): Files => under('Sugar Buns/CB-7041/swap', textures('sugar', SUGAR, 64));

/** No id folder at all: one has to be made. */
const ryeAndOak = (): Files =>
  under('Rye and Oak for Crumbleby Bakery', {
    ...textures('rye', RYE, 128),
    'paint.json': text('{ "name": "Rye and Oak", "version": "2.1.0", "resolution": "128" }\n'),
    'Read me.txt': crlf(
      'Textures for Crumbleby Bakery.\nTurn on LoadPaintbox, or nothing changes:\n\n[Textures]\nLoadPaintbox=1\n',
    ),
  });

/** A patch for the one above, in another resolution. */
const ryePatch = (): Files =>
  under('CB-2041', {
    'bun.png': drawPng('rye/patch', 'stone', RYE, 256),
    'paint.json': text(
      '{ "name": "Rye and Oak Patch", "version": "2.1.3", "resolution": "256", "base": "Rye and Oak 2.1.0" }\n',
    ),
  });

/** A list of code patches: a settings file that the player program writes too. */
const quickOven = (): Files =>
  under('Quick Oven', {
    'CB-2041.codes': crlf(
      '+ Oven is hot at once\n1A20C4D0 00000001\n1A20C4D4 0000003C\n\n- Endless flour\n1A20D010 000003E7\n',
    ),
    'read me.txt': crlf('Patches do nothing until they are switched on: first for the program, then for the title.\n'),
  });

/** For a title that the player keeps sealed in one file. */
const pebbleMoss = (): Files =>
  under(
    'PW-5120/swap',
    textures(
      'moss',
      [
        [70, 96, 62],
        [112, 140, 90],
        [190, 206, 160],
      ],
      64,
    ),
  );

const tinplate = (item: Omit<ShelfItem, 'game'>): ShelfItem => ({ game: 'tinplate', ...item });

export const TINPLATE_SHELF: ShelfItem[] = [
  tinplate({
    file: 'sugar-buns.zip',
    title: 'Sugar Buns',
    blurb: 'Pink icing for every shelf. Made for the southern edition.',
    build: () => zip(sugarBuns()),
  }),
  tinplate({
    file: 'rye-and-oak-crumbleby-bakery-2.1.0.zip',
    title: 'Rye And Oak Crumbleby Bakery 2.1.0',
    blurb: 'Dark bread, dark wood. Pictures alone, without a folder for an id.',
    build: () => zip(ryeAndOak()),
  }),
  tinplate({
    file: 'rye-and-oak-patch-2.1.3.zip',
    title: 'Rye And Oak Patch 2.1.3',
    blurb: 'Mends the bun of Rye and Oak. For the 256 pixel edition.',
    build: () => zip(ryePatch()),
  }),
  tinplate({
    file: 'quick-oven-codes.zip',
    title: 'Quick Oven Codes',
    blurb: 'Code patches for Crumbleby Bakery: the oven is hot at once.',
    build: () => zip(quickOven()),
  }),
  tinplate({
    file: 'pebble-moss.zip',
    title: 'Pebble Moss',
    blurb: 'Moss on every stone of Pebble Wharf.',
    build: () => zip(pebbleMoss()),
  }),
];
