import { drawDds, drawPng, playTone, type Motif, type Palette } from './draw';
import { crlf, text, under, type Files } from './filesByPath';
import { HARBOUR_TEXT, drawFolder } from './gullwick';
import { seeded } from './random';
import type { ShelfItem } from './shelfItem';

const TIDE: Palette = [
  [142, 190, 196],
  [148, 92, 52],
  [226, 178, 112],
];

const PAINT: Palette = [
  [196, 222, 232],
  [178, 52, 60],
  [246, 206, 92],
];

const DUSK: Palette = [
  [64, 58, 108],
  [236, 128, 92],
  [255, 214, 130],
];

/** 214 textures under two wrappers: 16 in place of the game's own, 198 new. */
export function weatheredQuay(): Files {
  const more: Files = {};
  const motifs: Motif[] = ['planks', 'stone', 'rope', 'lamp', 'water', 'sail'];
  for (let i = 0; i < 198; i++)
    more[`quay/tides/${motifs[i % 6]}_${String(Math.floor(i / 6)).padStart(2, '0')}.png`] = drawPng(
      `tides/${i}`,
      motifs[i % 6] as Motif,
      TIDE,
      32,
    );
  return under('Weathered Quay 1.2/for the program folder', {
    ...under('assets/textures', { ...under('quay', drawFolder('quay', TIDE, 'weathered')), ...more }),
    'Read me.txt': crlf(
      'WEATHERED QUAY 1.2\n\nSalt, moss and proper timber for every quay.\n\nPut the folder “assets” over the one in your program folder.\nThen open ferries.ini and set\n\n[Graphics]\nAddonTextures=1\n\nor you will see nothing.\n',
    ),
    'screenshots/after.png': drawPng('weathered/after', 'planks', TIDE, 256),
    'screenshots/before.png': drawPng(
      'weathered/before',
      'planks',
      [
        [150, 172, 178],
        [126, 112, 96],
        [176, 164, 140],
      ],
      256,
    ),
  });
}

/** Starts lower down: only `boats`, as its maker had it on the disk. */
export const paintedBoats = (): Files => ({
  ...under('boats', drawFolder('boats', PAINT, 'painted')),
  'readme.md': text('# Painted Boats\n\nRed hulls, yellow trim. Goes with the other boat pictures.\n'),
});

/** Overlaps with Weathered Quay in the three lamps. */
export const eveningHarbour = (): Files =>
  under('EveningHarbour', {
    ...under('textures/sky', drawFolder('sky', DUSK, 'evening')),
    ...under('textures/water', drawFolder('water', DUSK, 'evening')),
    ...under(
      'textures/quay',
      Object.fromEntries(
        Object.entries(drawFolder('quay', DUSK, 'evening')).filter(([path]) => path.startsWith('lamp')),
      ),
    ),
    'preview.png': drawPng('evening/preview', 'sky', DUSK, 256),
  });

export const deepHorns = (): Files => ({
  'Deep Horns/sounds/horn.wav': playTone(92, 0.8),
  'Deep Horns/licence.txt': text('Take it, use it, be kind.\n'),
});

/** How many textures the big pack holds. */
const BIG_PACK_FILES = 6_307;

/** The big pack, for scale: 6,307 block-compressed textures, about 193 MB unpacked. */
export function everyIsland(count = BIG_PACK_FILES): Files {
  const random = seeded(6307);
  const motifs: Motif[] = ['planks', 'water', 'sky', 'boat', 'lamp', 'rope', 'stone', 'sail'];
  const files: Files = {};
  for (let i = 0; i < count; i++) {
    const colour = (): [number, number, number] => [
      Math.floor(random() * 256),
      Math.floor(random() * 256),
      Math.floor(random() * 256),
    ];
    const big = random() < 0.41;
    const island = `island_${String(i % 48).padStart(2, '0')}`;
    files[`Every Island/assets/textures/${island}/${motifs[i % 8]}_${String(i).padStart(4, '0')}.dds`] = drawDds(
      `island/${i}`,
      motifs[i % 8] as Motif,
      [colour(), colour(), colour()],
      big ? { size: 256, form: 'BC1' } : { size: 128, form: 'BC3' },
    );
  }
  files['Every Island/Read me.txt'] = crlf(
    'EVERY ISLAND\n\nTextures for all 48 islands. Needs AddonTextures=1 in ferries.ini.\n',
  );
  return files;
}

const LANTERN: Palette = [
  [52, 60, 74],
  [120, 96, 60],
  [255, 226, 150],
];

/** The same lamps in three sizes, and an optional look that lies over them: one must be chosen. */
export function lanternLights(): Files {
  const lamps = (size: number) =>
    Object.fromEntries(
      ['lamp', 'lamp_tall', 'lamp_wall'].map((name) => [
        `assets/textures/quay/${name}.png`,
        drawPng(`lantern/${name}`, 'lamp', LANTERN, size),
      ]),
    );
  return under('Lantern Lights', {
    ...under('small 64', lamps(64)),
    ...under('medium 128', lamps(128)),
    ...under('large 256', lamps(256)),
    'optional warm glow/assets/textures/quay/lamp_wall.png': drawPng(
      'lantern/warm',
      'lamp',
      [
        [70, 50, 40],
        [150, 100, 60],
        [255, 190, 110],
      ],
      64,
    ),
    'choose one size.txt': crlf('Take ONE of the three sizes. The warm glow goes over any of them.\n'),
  });
}

/**
 * Packed so that its add-on lies straight in the add-on folder, where it would not load; it borrows from a set that is
 * there.
 */
export const brassFittings = (): Files =>
  under('addons', {
    'addon.txt': crlf('name = Brass fittings\nversion = 1.1\nneeds = Parts locker\n'),
    'textures/porthole.png': drawPng('brass/porthole', 'stone', [
      [90, 70, 30],
      [201, 162, 62],
      [240, 214, 130],
    ]),
    'textures/cleat.png': drawPng('brass/cleat', 'rope', [
      [90, 70, 30],
      [201, 162, 62],
      [240, 214, 130],
    ]),
    'scripts/fit.txt': crlf('fit porthole hull\n'),
    'icon.png': drawPng(
      'brass/icon',
      'stone',
      [
        [90, 70, 30],
        [201, 162, 62],
        [240, 214, 130],
      ],
      32,
    ),
  });

/** Two packs that change some of the same texts: most of it fits together, one line does not. */
export const warmWords = (): Files =>
  under('Warm Words', {
    'assets/text/harbour.lang': crlf(
      HARBOUR_TEXT.replace('Mind the shoal, skipper.', 'Go gently, dear skipper.').replace(
        'Half fare',
        'Half fare, and a biscuit',
      ) + 'tea: "The tea hut is open"\n',
    ),
    'read me.txt': crlf('Kinder words at the harbour.\n'),
  });

export const skippersSlang = (): Files =>
  under('Skippers Slang', {
    'assets/text/harbour.lang': crlf(
      HARBOUR_TEXT.replace('Mind the shoal, skipper.', 'Thick as soup. Shoal ahead!').replace(
        'Cast off!',
        'Let her go!',
      ),
    ),
    'read me.txt': crlf('The harbour as skippers say it.\n'),
  });

/** Charts for the game's charts folder, which it does not have yet. */
export const northIsles = (): Files =>
  under('North Isles', {
    'skerry.isle': crlf('isle skerry\n'),
    'holm.isle': crlf('isle holm\n'),
    'stack.isle': crlf('isle stack\n'),
    'about.txt': crlf(
      'Three isles for Gullwick Ferries.\n\nThey lie far out. If the game is slow there, set in ferries.ini:\n\n[Graphics]\nWaterDetail=1\n',
    ),
  });

/** Keys for one skipper or all of them. */
export const skipperKeys = (): Files =>
  under('Skipper keys', {
    'controls.ini': crlf('[Keys]\nHorn=space\nAnchor=n\n'),
    'read me.txt': crlf('Put controls.ini into your skipper’s folder.\n'),
  });

/** Named like the game's own file of texts, with two of its own alone: all others go missing. */
export const docksideTalk = (): Files =>
  under('Dockside Talk', {
    'assets/text/harbour.lang': crlf('tea: "The tea hut is open"\ndepart: "All aboard, my dears!"\n'),
    'read me.txt': crlf('A few more words for the docks.\n'),
  });

/** An add-on without the icon that the game looks for, and a script that wants other capitals. */
export const ropeWorks = (): Files =>
  under('Rope Works/addons/rope-works', {
    'addon.txt': crlf('name = Rope works\nversion = 0.9\n'),
    'textures/Hawser.png': drawPng('rope/hawser', 'rope', [
      [120, 96, 60],
      [196, 160, 96],
      [236, 210, 150],
    ]),
    'scripts/fit.txt': crlf('fit hawser quay\n'),
  });

/** A model that ends the game before it writes a line. */
export const wildGale = (): Files =>
  under('Wild Gale', {
    'assets/models/gale.mesh': text('mesh 9\nsail 0 0 0 9 9 9\n'),
    'assets/textures/sky/gale.png': drawPng('gale/sky', 'sky', [
      [60, 66, 80],
      [96, 104, 120],
      [150, 156, 168],
    ]),
  });

/** A paint for the Heron, and the lines that its maker wants in fleet.ini: the number is left to the player. */
export const stormPaint = (): Files =>
  under('Storm Paint', {
    'vessels/heron/paints/storm-grey/hull.png': drawPng('storm/hull', 'boat', [
      [96, 112, 124],
      [70, 78, 86],
      [200, 206, 210],
    ]),
    'read me.txt': crlf(
      'STORM PAINT\n\nPut these lines at the end of fleet.ini, with the next number in place of N:\n\n[hull N]\nname=Storm grey\nfolder=storm-grey\n',
    ),
  });

/** Everything that does not belong, around a few textures and a settings file. */
export function clearWaters(): Files {
  return under('Clear Waters v1.4', {
    ...under(
      'assets/textures/water',
      drawFolder(
        'water',
        [
          [60, 130, 150],
          [90, 160, 170],
          [220, 240, 236],
        ],
        'clear',
      ),
    ),
    'ferries.ini': crlf('[Graphics]\nWaterDetail=4\nAddonTextures=1\n'),
    'old game program/gullwick.exe': text('An old copy of a program, which no pack needs.\n'),
    'old game program/engine.dll': text('Part of it.\n'),
    'old game program/data.bin': text('Part of it, too.\n'),
    'screenshots/1.png': drawPng(
      'clear/shot',
      'water',
      [
        [60, 130, 150],
        [90, 160, 170],
        [220, 240, 236],
      ],
      128,
    ),
    'Visit us.url': crlf('[InternetShortcut]\nURL=http://127.0.0.1/\n'),
    'Thumbs.db': text('left behind'),
    'settings.ini.txt': crlf('[Graphics]\nWaterDetail=4\n'),
    'READ ME.txt': crlf(
      'CLEAR WATERS version 1.4\n\nNeeds the Parts locker.\nSet this in ferries.ini:\n\n[Graphics]\nWaterDetail=4\n\nStart the game with the option -nosplash if it is slow.\n',
    ),
  });
}

export const gullwick = (item: Omit<ShelfItem, 'game'>): ShelfItem => ({ game: 'gullwick', ...item });
