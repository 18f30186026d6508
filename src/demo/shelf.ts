import { drawDds, drawPng, playTone, type Motif, type Palette } from './draw';
import { crlf, text, under, zip, type Files } from './files';
import { drawFolder } from './gullwick';
import { seeded } from './random';

/** One download on the stand-in shelf. */
export interface ShelfItem {
  file: string;
  title: string;
  /** What its page would say, in one or two sentences. */
  blurb: string;
  build(): Uint8Array;
}

const TIDE: Palette = [[142, 190, 196], [148, 92, 52], [226, 178, 112]];
const PAINT: Palette = [[196, 222, 232], [178, 52, 60], [246, 206, 92]];
const DUSK: Palette = [[64, 58, 108], [236, 128, 92], [255, 214, 130]];

/** 214 textures under two wrappers: 16 in place of the game's own, 198 new. */
function weatheredQuay(): Files {
  const more: Files = {};
  const motifs: Motif[] = ['planks', 'stone', 'rope', 'lamp', 'water', 'sail'];
  for (let i = 0; i < 198; i++) more[`quay/tides/${motifs[i % 6]}_${String(Math.floor(i / 6)).padStart(2, '0')}.png`] = drawPng(`tides/${i}`, motifs[i % 6] as Motif, TIDE, 32);
  return under('Weathered Quay 1.2/for the program folder', {
    ...under('assets/textures', { ...under('quay', drawFolder('quay', TIDE, 'weathered')), ...more }),
    'Read me.txt': crlf(
      'WEATHERED QUAY 1.2\n\nSalt, moss and proper timber for every quay.\n\nPut the folder “assets” over the one in your program folder.\nThen open ferries.ini and set\n\n[Graphics]\nAddonTextures=1\n\nor you will see nothing.\n',
    ),
    'screenshots/after.png': drawPng('weathered/after', 'planks', TIDE, 256),
    'screenshots/before.png': drawPng('weathered/before', 'planks', [[150, 172, 178], [126, 112, 96], [176, 164, 140]], 256),
  });
}

/** Starts lower down: only `boats`, as its maker had it on the disk. */
const paintedBoats = (): Files => ({ ...under('boats', drawFolder('boats', PAINT, 'painted')), 'readme.md': text('# Painted Boats\n\nRed hulls, yellow trim. Goes with the other boat pictures.\n') });

/** Overlaps with Weathered Quay in the three lamps. */
const eveningHarbour = (): Files =>
  under('EveningHarbour', {
    ...under('textures/sky', drawFolder('sky', DUSK, 'evening')),
    ...under('textures/water', drawFolder('water', DUSK, 'evening')),
    ...under('textures/quay', Object.fromEntries(Object.entries(drawFolder('quay', DUSK, 'evening')).filter(([path]) => path.startsWith('lamp')))),
    'preview.png': drawPng('evening/preview', 'sky', DUSK, 256),
  });

const deepHorns = (): Files => ({ 'Deep Horns/sounds/horn.wav': playTone(92, 0.8), 'Deep Horns/licence.txt': text('Take it, use it, be kind.\n') });

/** How many textures the big pack holds. */
export const BIG_PACK_FILES = 6_307;

/** The big pack, for scale: 6,307 block-compressed textures, about 193 MB unpacked. */
export function everyIsland(count = BIG_PACK_FILES): Files {
  const random = seeded(6307);
  const motifs: Motif[] = ['planks', 'water', 'sky', 'boat', 'lamp', 'rope', 'stone', 'sail'];
  const files: Files = {};
  for (let i = 0; i < count; i++) {
    const colour = (): [number, number, number] => [Math.floor(random() * 256), Math.floor(random() * 256), Math.floor(random() * 256)];
    const big = random() < 0.41;
    const island = `island_${String(i % 48).padStart(2, '0')}`;
    files[`Every Island/assets/textures/${island}/${motifs[i % 8]}_${String(i).padStart(4, '0')}.dds`] = drawDds(`island/${i}`, motifs[i % 8] as Motif, [colour(), colour(), colour()], big ? 256 : 128, big ? 'BC1' : 'BC3');
  }
  files['Every Island/Read me.txt'] = crlf('EVERY ISLAND\n\nTextures for all 48 islands. Needs AddonTextures=1 in ferries.ini.\n');
  return files;
}

/** What stands on the shelf for Gullwick Ferries. */
export const SHELF: ShelfItem[] = [
  { file: 'weathered-quay-1.2.zip', title: 'Weathered Quay 1.2', blurb: '214 textures: salt, moss and proper timber for every quay.', build: () => zip(weatheredQuay()) },
  { file: 'painted-boats.zip', title: 'Painted Boats', blurb: 'Red hulls and yellow trim for the whole fleet.', build: () => zip(paintedBoats()) },
  { file: 'evening-harbour-2.zip', title: 'Evening Harbour 2', blurb: 'Dusk over the islands: sky, water, and the lamps on the quay.', build: () => zip(eveningHarbour()) },
  { file: 'deep-horns.zip', title: 'Deep Horns', blurb: 'A horn that is heard across the sound.', build: () => zip(deepHorns()) },
  { file: 'every-island.zip', title: 'Every Island', blurb: '6,307 textures for all 48 islands. Large.', build: () => zip(everyIsland(), 1) },
  { file: 'soggy-download.zip', title: 'Soggy Download', blurb: 'A download that stopped half-way. Try what happens.', build: () => zip(paintedBoats()).slice(0, 9_000) },
];
