import { gameCardSchema } from '@/core';

/** The game card of Gullwick Ferries. */
export const gullwickCard = gameCardSchema.parse({
  card: 1,
  id: 'gullwick',
  title: 'Gullwick Ferries',
  roots: [
    { id: 'program', title: 'Program folder', markers: ['gullwick.bin', 'assets/contents.lst'] },
    { id: 'user', title: 'User-data folder', markers: ['ferries.ini'] },
  ],
  settings: [
    {
      target: 'user/ferries.ini',
      dialect: 'ini',
      title: 'Game settings',
      keys: [
        {
          path: ['Graphics', 'AddonTextures'],
          type: 'flag',
          meaning: 'Lets the game use textures that are not its own.',
        },
        {
          path: ['Graphics', 'WaterDetail'],
          type: 'number',
          min: 0,
          max: 4,
          default: '2',
          meaning: 'How finely waves are drawn, 0 to 4.',
        },
        {
          path: ['Graphics', 'PreloadTextures'],
          type: 'flag',
          default: '0',
          costs: 'texture memory',
          meaning: 'Reads every texture when the game starts.',
        },
        {
          path: ['General', 'AddonFolders'],
          type: 'text',
          list: ',',
          names: 'program/addons',
          meaning: 'Add-on folders that the game loads, one after the other.',
        },
      ],
    },
    {
      target: 'user/skippers/{profile}/controls.ini',
      dialect: 'ini',
      title: 'Controls of each skipper',
      keys: [{ path: ['Keys', 'Horn'], type: 'text', meaning: 'The key that sounds the horn.' }],
    },
    {
      target: 'user/skippers/{profile}/view.xml',
      dialect: 'xml',
      title: 'View of each skipper',
      keys: [
        {
          path: ['view', 'camera', '@field'],
          type: 'number',
          min: 50,
          max: 100,
          default: '70',
          meaning: 'How wide the skipper sees, in degrees. Below 50 and above 100 the game draws bent masts.',
        },
        {
          path: ['view', 'camera', '@height'],
          type: 'number',
          min: 1,
          max: 3,
          meaning: 'How high the skipper’s eyes are, in metres.',
        },
      ],
    },
    {
      target: 'user/autorun.cfg',
      dialect: 'commands',
      title: 'Commands at the start',
      keys: [
        {
          path: ['set', 'camera.wide'],
          type: 'number',
          min: 50,
          max: 100,
          meaning: 'How wide the camera on the quay sees.',
        },
      ],
    },
    {
      target: 'program/search.order',
      dialect: 'blocks',
      title: 'Where the game looks for files',
      search: { entry: ['look', 'in'], each: 'each', from: 'program' },
      keys: [
        {
          path: ['look', 'in'],
          type: 'text',
          meaning: 'Folders that are looked through, the first that has a file wins.',
        },
      ],
    },
    {
      target: 'program/vessels/heron/fleet.ini',
      dialect: 'ini',
      title: 'Paints of the Heron',
      numbered: { section: 'hull', folder: 'folder', inside: 'program/vessels/heron/paints' },
    },
    {
      target: 'user/start.ini',
      dialect: 'ini',
      title: 'How the game is started',
      keys: [{ path: ['Start', 'Line'], type: 'text', meaning: 'The launch line.' }],
    },
  ],
  profiles: { folder: 'user/skippers' },
  texts: [
    {
      into: 'program/assets/text',
      ending: '.lang',
      dialect: 'language',
      why: 'The game reads every .lang file in this folder. One that is named like the game’s own replaces it whole, and all texts that it does not have go missing.',
    },
  ],
  references: [
    {
      files: ['program/addons/*/scripts/*.txt'],
      pattern: '^\\s*fit (?<name>[\\w-]+)',
      needs: '{search}/textures/{name}.png',
      why: 'A script that fits a part needs its picture, in its own add-on or in another one.',
    },
  ],
  launch: {
    file: 'user/start.ini',
    path: ['Start', 'Line'],
    options: [
      { option: '-windowed', meaning: 'The game runs in a window.' },
      { option: '-nosplash', meaning: 'The game starts without its picture.' },
      { option: '-exec', meaning: 'Carries out a script of commands at the start.', names: 'user' },
    ],
  },
  ownFiles: {
    into: 'user',
    dialect: 'commands',
    ending: '.cfg',
    why: 'Name it in the launch line with -exec, and the game carries out its lines after its own.',
  },
  places: [
    {
      id: 'addons',
      mode: 'own-folder',
      title: 'Add-ons',
      into: 'program/addons',
      marker: 'addon.txt',
      parts: ['textures', 'sounds', 'models', 'scripts'],
      why: 'Each add-on lives in a folder of its own; what lies straight in the add-on folder is not looked at.',
    },
    {
      id: 'maps',
      mode: 'loose',
      title: 'Sea charts',
      files: ['*.isle'],
      into: 'program/assets/charts',
      why: 'The game looks for charts in this folder alone.',
    },
    {
      id: 'bell',
      mode: 'loose',
      title: 'Harbour bell',
      files: ['*bell*.wav'],
      into: 'program/assets/sounds/harbour/bell',
      as: 'ring.wav',
      why: 'The game looks for the bell’s sound under this one name; the folders above it are made.',
    },
  ],
  contents: [
    {
      id: 'parts-locker',
      title: 'Parts locker',
      marker: 'program/addons/parts-locker/addon.txt',
      words: ['parts locker', 'parts-locker'],
    },
  ],
  manifests: [{ file: 'addon.txt', form: 'ini', fields: { title: ['name'], version: ['version'], needs: ['needs'] } }],
  switches: [
    {
      id: 'addon-textures',
      title: 'Add-on textures',
      file: 'user/ferries.ini',
      path: ['Graphics', 'AddonTextures'],
      on: '1',
      off: '0',
      needs: ['program/assets/textures/**'],
      why: 'The game comes with add-on textures switched off: it then draws its own everywhere, even where a pack’s file lies in its place.',
    },
  ],
  log: {
    target: 'user/load.log',
    rules: [
      {
        id: 'addon-loaded',
        pattern: '^\\d+ harbour\\s+\\| add-on textures (?<count>\\d+) loaded',
        level: 'good',
        says: 'The game loaded {count} textures that are not its own.',
      },
      {
        id: 'addon-found',
        pattern: '^\\d+ harbour\\s+\\| add-on textures (?<count>\\d+) found, AddonTextures is (?<value>\\S+)',
        level: 'note',
        says: 'The game found {count} textures that are not its own; the switch is {value}.',
      },
      {
        id: 'own-loaded',
        pattern: '^\\d+ harbour\\s+\\| own textures (?<count>\\d+) of (?<all>\\d+)',
        level: 'note',
        says: 'The game loaded {count} of its own {all} textures.',
      },
      {
        id: 'unreadable',
        pattern: '^\\d+ shoal\\s+\\| cannot read (?<file>.+)$',
        level: 'warning',
        says: 'The game cannot read the texture {file}.',
        about: { kind: 'file', field: 'file', under: 'program' },
      },
      {
        id: 'missing',
        pattern: '^\\d+ shoal\\s+\\| missing (?<file>.+)$',
        level: 'warning',
        says: 'The game misses {file}.',
        about: { kind: 'file', field: 'file', under: 'program' },
      },
      {
        id: 'no-words',
        pattern: '^\\d+ shoal\\s+\\| no words for (?<key>\\S+)$',
        level: 'warning',
        says: 'The game has no words for “{key}”.',
        about: { kind: 'key', field: 'key' },
      },
      {
        id: 'no-paint',
        pattern: '^\\d+ shoal\\s+\\| hull (?<hull>\\d+) has no (?<file>.+)$',
        level: 'warning',
        says: 'Hull {hull} has no {file}.',
        about: { kind: 'file', field: 'file', under: 'program' },
      },
      {
        id: 'no-addon',
        pattern: '^\\d+ shoal\\s+\\| no add-on in (?<folder>.+)$',
        level: 'warning',
        says: 'The list names {folder}, and nothing is there.',
      },
      {
        id: 'wants',
        pattern: '^\\d+ shoal\\s+\\| (?<addon>.+) wants (?<needs>.+), which is not loaded$',
        level: 'warning',
        says: '{addon} wants {needs}, which is not loaded.',
      },
      {
        id: 'addon',
        pattern: '^\\d+ harbour\\s+\\| add-on (?<addon>.+) with (?<count>\\d+) textures$',
        level: 'good',
        says: 'The add-on {addon} is loaded, with {count} textures.',
      },
      { id: 'wreck', pattern: '^\\d+ wreck\\s+\\| (?<what>.+)$', level: 'error', says: 'The game stopped: {what}.' },
    ],
    loaded: { rule: 'addon-loaded', field: 'count' },
    counts: ['program/assets/textures/**/*.{png,dds}'],
  },
  trial: 'gullwick',
});
