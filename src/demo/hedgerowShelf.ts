import { PNG } from 'pngjs';
import { drawPng, type Palette } from './draw';
import { crlf, text, under, zip, type Files } from './filesByPath';
import type { ShelfItem } from './shelfItem';

const ROSE: Palette = [
  [96, 130, 84],
  [196, 84, 104],
  [250, 214, 220],
];

const leaf = (id: string, title: string, more = ''): Uint8Array =>
  text(`{ "id": "${id}", "title": "${title}", "version": "1.2.0"${more} }\n`);

/** What the game opens by itself: it has to stay zipped. */
const rosePorch = (): Files => ({
  'pack.leaf': leaf('rose-porch', 'Rose porch'),
  'rooms/porch.room': crlf('room porch\nwall roses\n'),
  'pictures/roses.png': drawPng('rose/roses', 'stone', ROSE),
  'face.png': drawPng('rose/face', 'lamp', ROSE, 32),
});

/** A download around such a pack: this one has to be unzipped once. */
const teaGarden = (): Files => ({
  'Read me first.txt': crlf('Put tea-garden.zip into your packs folder. Do NOT unzip it.\n'),
  'tea-garden.zip': zip({
    'pack.leaf': leaf('tea-garden', 'Tea garden'),
    'rooms/garden.room': crlf('room garden\nwall hedge\n'),
  }),
});

/** Laid out for another edition: converted on the way in. */
const atticStairs = (): Files =>
  under('Attic Stairs', {
    'bundle/rooms/attic.room': crlf('room attic\nwall plank\n'),
    'bundle/pictures/stairs.png': drawPng('attic/stairs', 'planks', ROSE),
    'bundle/touch/attic.pad': text('pad 1\n'),
    'bundle.png': drawPng('attic/face', 'sail', ROSE, 32),
  });

/** An old pack that changes the core archive from inside. */
const oldKitchen = (): Files =>
  under('Old Kitchen', {
    'core.hha/rooms/kitchen.room': crlf('room kitchen\nwall copper\n'),
    'core.hha/text/en.lang': crlf('welcome: "Mind the kettle"\nporch: "The porch"\n'),
    'how to.txt': crlf('Add these files to core.hha with an archive program.\n'),
  });

/** One picture wider than the edition can read. */
function tallHedges(): Files {
  const strip = new PNG({ width: 4096, height: 16 });
  for (let i = 0; i < strip.data.length; i += 4) strip.data.set([80 + ((i / 4) % 40), 130, 70, 255], i);
  return under('Tall Hedges', {
    'pack.leaf': leaf('tall-hedges', 'Tall hedges', ', "needs": ["Rose porch"]'),
    'pictures/hedge_long.png': new Uint8Array(PNG.sync.write(strip)),
    'rooms/maze.room': crlf('room maze\nwall hedge\n'),
  });
}

const hedgerow = (item: Omit<ShelfItem, 'game'>): ShelfItem => ({ game: 'hedgerow', ...item });

export const HEDGEROW_SHELF: ShelfItem[] = [
  hedgerow({
    file: 'rose-porch.zip',
    title: 'Rose Porch',
    blurb: 'A porch full of roses. Stays zipped.',
    build: () => zip(rosePorch()),
  }),
  hedgerow({
    file: 'tea-garden-download.zip',
    title: 'Tea Garden Download',
    blurb: 'A garden for tea, zipped inside the download.',
    build: () => zip(teaGarden()),
  }),
  hedgerow({
    file: 'attic-stairs.zip',
    title: 'Attic Stairs',
    blurb: 'Made for the Pocket edition.',
    build: () => zip(atticStairs()),
  }),
  hedgerow({
    file: 'old-kitchen.zip',
    title: 'Old Kitchen',
    blurb: 'An old pack: its files go into the core archive.',
    build: () => zip(oldKitchen()),
  }),
  hedgerow({
    file: 'tall-hedges.zip',
    title: 'Tall Hedges',
    blurb: 'Hedges as high as the house, and rather large pictures.',
    build: () => zip(tallHedges()),
  }),
];
