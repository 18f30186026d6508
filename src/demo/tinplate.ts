import { gameCardSchema } from '@/core';
import { drawPng, playTone } from './draw';
import { crlf, text, zip, type Files } from './filesByPath';

/** The folders of Tinplate, a player program for handheld titles, with Crumbleby Bakery in its shelf. */
export function tinplateFolders(): Record<'player' | 'user', Files> {
  return {
    player: {
      'tinplate.bin': text('Tinplate 0.9, a made-up program for trying things out\n'),
      'tinplate.cfg': crlf('[Start]\nLanguage=en\n'),
      'skins/plain/button.png': drawPng(
        'tinplate/button',
        'lamp',
        [
          [210, 204, 190],
          [96, 104, 110],
          [226, 178, 112],
        ],
        32,
      ),
    },
    user: {
      'shelf/CB-2041.title': text('Crumbleby Bakery, northern edition\n'),
      // One title sealed in one file, as some players keep them.
      'shelf/PW-5120.tub': zip({ 'PW-5120.title': text('Pebble Wharf\n') }),
      'shelf/MG-3300.title': text('Marble Garden\n'),
      'tinplate.ini': crlf(
        '; Tinplate, written by the program and by you\n[Picture]\nScale=2\n\n[Textures]\nLoadPaintbox=0\nPreload=0\n\n[Patches]\nUsePatches=0\n',
      ),
      'titles/CB-2041.ini': crlf('[Title]\nName=Crumbleby Bakery\n\n[Patches]\n'),
      'paintbox/CB-2041/swap/oven.png': drawPng(
        'crumbleby/oven',
        'stone',
        [
          [150, 120, 96],
          [196, 150, 110],
          [236, 196, 140],
        ],
        32,
      ),
      'sounds/ding.wav': playTone(660, 0.2),
    },
  };
}

export const tinplateCard = gameCardSchema.parse({
  card: 1,
  id: 'tinplate',
  title: 'Crumbleby Bakery in Tinplate',
  roots: [
    { id: 'player', title: 'Program folder', markers: ['tinplate.bin'] },
    {
      id: 'user',
      title: 'User-data folder',
      markers: ['tinplate.ini'],
      elsewhere: [
        {
          marker: 'player/carry.flag',
          at: 'player/pocket',
          why: 'A “carry.flag” lies beside the program, so everything is kept in the folder “pocket” there.',
          moves:
            'Settings, saves and textures in the old user-data folder stay where they are and look lost until they are copied into “pocket”.',
        },
        {
          setting: { file: 'player/tinplate.cfg', dialect: 'ini', path: ['Folders', 'UserData'] },
          why: 'The program’s own settings name another user-data folder.',
        },
      ],
    },
  ],
  titles: {
    known: [
      { id: 'CB-2041', title: 'Crumbleby Bakery', region: 'North' },
      { id: 'CB-7041', title: 'Crumbleby Bakery', region: 'South' },
      { id: 'CB-9041', title: 'Crumbleby Bakery', region: 'Overseas' },
      { id: 'MG-3300', title: 'Marble Garden', region: 'North' },
      { id: 'PW-5120', title: 'Pebble Wharf', region: 'North' },
    ],
    pattern: '[A-Z]{2}-\\d{4}',
    found: 'user/shelf/{id}.title',
    sealed: {
      file: 'user/shelf/{id}.tub',
      opens: 'user/shelf',
      why: 'Tinplate runs a sealed title as it is and never looks into its paintbox; once it is unpacked, it does.',
    },
    into: 'user/paintbox',
    inner: 'swap',
  },
  settings: [
    {
      target: 'user/tinplate.ini',
      dialect: 'ini',
      title: 'Settings for all titles',
      keys: [
        { path: ['Textures', 'LoadPaintbox'], type: 'flag', meaning: 'Loads textures from the paintbox folder.' },
        {
          path: ['Textures', 'Preload'],
          type: 'flag',
          costs: 'texture memory',
          meaning: 'Reads all textures into memory when a title starts.',
        },
        { path: ['Patches', 'UsePatches'], type: 'flag', meaning: 'The master switch for code patches.' },
        {
          path: ['Picture', 'Scale'],
          type: 'number',
          min: 1,
          max: 6,
          default: '1',
          meaning: 'How many times larger the picture is drawn.',
        },
      ],
    },
    {
      target: 'user/titles/{title}.ini',
      dialect: 'ini',
      title: 'Settings for one title',
      over: 'user/tinplate.ini',
      keys: [
        { path: ['Patches', 'UseList'], type: 'flag', meaning: 'Uses this title’s list of code patches.' },
        {
          path: ['Picture', 'Scale'],
          type: 'number',
          min: 1,
          max: 6,
          meaning: 'How many times larger this title’s picture is drawn.',
        },
        {
          path: ['Textures', 'Preload'],
          type: 'flag',
          costs: 'texture memory',
          meaning: 'Reads all of this title’s textures when it starts.',
        },
      ],
    },
    { target: 'user/titles/{title}.codes', dialect: 'codes', title: 'Code patches' },
  ],
  switches: [
    {
      id: 'paintbox',
      title: 'Load the paintbox',
      file: 'user/tinplate.ini',
      path: ['Textures', 'LoadPaintbox'],
      on: '1',
      off: '0',
      needs: ['user/paintbox/**'],
      why: 'Tinplate does not look into the paintbox folder until it is told to, whatever lies in it.',
    },
    {
      id: 'patches',
      title: 'Code patches',
      file: 'user/tinplate.ini',
      path: ['Patches', 'UsePatches'],
      on: '1',
      off: '0',
      needs: ['user/titles/*.codes'],
      why: 'Without this master switch no list of code patches does anything.',
    },
    {
      id: 'patch-list',
      title: 'Patches of Crumbleby Bakery',
      after: 'patches',
      file: 'user/titles/CB-2041.ini',
      path: ['Patches', 'UseList'],
      on: '1',
      off: '0',
      needs: ['user/titles/CB-2041.codes'],
      why: 'The title’s own list of patches has a switch of its own.',
    },
  ],
  manifests: [
    {
      file: 'paint.json',
      form: 'json',
      fields: { title: ['name'], version: ['version'], resolution: ['resolution'], needs: ['base'], for: ['title-id'] },
    },
  ],
  log: {
    target: 'user/tinplate.log',
    rules: [
      {
        id: 'painted',
        pattern: '^\\(\\d+\\) ok (?<count>\\d+) pictures painted over, LoadPaintbox is (?<value>\\S+)$',
        level: 'good',
        says: 'Tinplate painted over {count} pictures; LoadPaintbox is {value}.',
      },
      {
        id: 'patches',
        pattern: '^\\(\\d+\\) ok (?<id>\\S+): (?<count>\\d+) of (?<all>\\d+) patches in use$',
        level: 'good',
        says: '{count} of {all} patches of {id} are in use.',
      },
      {
        id: 'no-patches',
        pattern: '^\\(\\d+\\) hm (?<id>\\S+): 0 of (?<all>\\d+) patches in use$',
        level: 'warning',
        says: 'None of the {all} patches of {id} is in use: a switch is off.',
      },
      {
        id: 'sealed',
        pattern: '^\\(\\d+\\) hm (?<id>\\S+) is sealed, its paintbox stays shut$',
        level: 'warning',
        says: '{id} is sealed in one file, so Tinplate did not look into its paintbox.',
      },
      {
        id: 'unpaintable',
        pattern: '^\\(\\d+\\) no cannot paint (?<file>.+)$',
        level: 'warning',
        says: 'Tinplate cannot read {file}.',
        about: { kind: 'file', field: 'file', under: 'user' },
      },
    ],
    loaded: { rule: 'painted', field: 'count' },
    counts: ['user/paintbox/**/*.{png,dds}'],
  },
  trial: 'tinplate',
});
