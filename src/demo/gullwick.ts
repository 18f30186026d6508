import { crc32 } from 'node:zlib';
import { drawPng, playTone, type Motif, type Palette } from './draw';
import { crlf, text, under, type Files } from './filesByPath';

/** The look of the game's own textures: dull on purpose, so that packs are seen. */
const OWN: Palette = [
  [150, 172, 178],
  [126, 112, 96],
  [176, 164, 140],
];

/** The game's texture folders, the motif drawn in each, and the names in it. */
const TEXTURES: Record<string, { motif: Motif; names: string[] }[]> = {
  quay: [
    { motif: 'planks', names: ['planks', 'planks_wet', 'planks_old', 'boardwalk', 'jetty', 'ramp'] },
    { motif: 'lamp', names: ['lamp', 'lamp_tall', 'lamp_wall'] },
    { motif: 'rope', names: ['rope', 'rope_coil', 'mooring_line'] },
    { motif: 'stone', names: ['wall', 'wall_mossy', 'steps', 'bollard'] },
  ],
  boats: [
    { motif: 'boat', names: ['heron', 'puffin', 'tern', 'gannet'] },
    { motif: 'sail', names: ['dinghy', 'pennant', 'awning'] },
  ],
  water: [{ motif: 'water', names: ['calm', 'choppy', 'shallow', 'wake'] }],
  sky: [{ motif: 'sky', names: ['morning', 'noon', 'evening', 'overcast'] }],
};

/** Every texture of a folder, drawn in other colours. */
export function drawFolder(folder: string, palette: Palette, tag: string): Files {
  const files: Files = {};
  for (const { motif, names } of TEXTURES[folder] ?? [])
    for (const name of names) files[`${name}.png`] = drawPng(`${tag}/${folder}/${name}`, motif, palette);
  return files;
}

export const HARBOUR_TEXT = `# Gullwick Ferries, harbour talk
depart: "Cast off!"
arrive: "Make fast!"
fog: "Mind the shoal, skipper."
fare.child: "Half fare"
fare.adult: "Full fare"
`;

const FERRIES_INI = `; Gullwick Ferries, written by the game and by you
[General]
Language=en
Skipper=ada
AddonFolders=parts-locker

[Graphics]
Width=1280
Height=800
WaterDetail=2
; 1 lets the game use textures that are not its own
AddonTextures=0

[Sound]
Horn=1
Volume=70
`;

/** The two folders of Gullwick Ferries before anybody touched them, by root. */
export const gullwickFolders = (): Record<'program' | 'user', Files> => ({ program: programFolder(), user: USER });

const BRASS = [
  [90, 70, 30],
  [201, 162, 62],
  [240, 214, 130],
] as const;

function programFolder(): Files {
  const textures: Files = {};
  for (const folder of Object.keys(TEXTURES))
    Object.assign(textures, under(`assets/textures/${folder}`, drawFolder(folder, OWN, 'own')));
  const contents = Object.entries(textures)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([path, data]) => `${crc32(data).toString(16).padStart(8, '0')} ${path}`)
    .join('\n');
  return {
    ...textures,
    'assets/contents.lst': text(`${contents}\n`),
    'assets/sounds/horn.wav': playTone(146, 0.5),
    'assets/sounds/gulls.wav': playTone(880, 0.3),
    'assets/sounds/engine.wav': playTone(58, 0.6),
    'assets/models/heron.mesh': text('mesh 1\nhull 0 0 0 12 3 4\ncabin 2 0 3 4 2 2\n'),
    'assets/text/harbour.lang': crlf(HARBOUR_TEXT),
    'assets/text/keys.lst': crlf('depart\narrive\nfog\nfare.child\nfare.adult\n'),
    'addons/parts-locker/icon.png': drawPng('own/locker', 'lamp', BRASS, 32),
    'addons/parts-locker/addon.txt': crlf('name = Parts locker\nversion = 1.0\n'),
    'addons/parts-locker/textures/brass.png': drawPng('own/brass', 'stone', BRASS),
    'vessels/heron/fleet.ini': crlf(
      '[hull 0]\nname=White\nfolder=white\n\n[hull 1]\nname=Harbour blue\nfolder=harbour-blue\n',
    ),
    'vessels/heron/paints/white/hull.png': drawPng('own/white', 'boat', [
      [190, 205, 210],
      [236, 236, 230],
      [80, 80, 80],
    ]),
    'vessels/heron/paints/harbour-blue/hull.png': drawPng('own/blue', 'boat', [
      [190, 205, 210],
      [58, 92, 140],
      [230, 220, 190],
    ]),
    'search.order': crlf('look {\n  in "assets"\n  in each "addons"\n}\n'),
    'gullwick.bin': text('Gullwick Ferries 2.4.1, a made-up program for trying things out\n'),
  };
}

const USER: Files = {
  'ferries.ini': crlf(FERRIES_INI),
  'autorun.seen': crlf('bind f\nset camera.wide\n'),
  'start.ini': crlf('[Start]\nLine=-windowed\n'),
  'autorun.cfg': crlf('bind f horn\nset camera.wide 70\n'),
  'skippers/ada/controls.ini': crlf('[Keys]\nHorn=f\nBell=b\n'),
  'skippers/bo/controls.ini': crlf('[Keys]\nHorn=h\nBell=b\n'),
  'skippers/bo/view.xml': crlf(
    '<?xml version="1.0" encoding="utf-8"?>\n<view>\n  <camera field="75" height="1.7"/>\n</view>\n',
  ),
  'skippers/ada/view.xml': crlf(
    '<?xml version="1.0" encoding="utf-8"?>\n<view>\n  <camera field="70" height="1.6"/>\n</view>\n',
  ),
};
