import { gameCardSchema } from '@/core';
import { drawPng } from './draw';
import { crlf, text, zip, type Files } from './filesByPath';

/** The game folder of Hedgerow Hall, Garden edition. */
export function hedgerowFolders(): Record<'hall', Files> {
  return {
    hall: {
      'hedgerow.bin': text('Hedgerow Hall 3.2, a made-up program for trying things out\n'),
      'garden.edition': text('garden\n'),
      'core.hha': zip({
        'rooms/porch.room': crlf('room porch\nwall hedge\n'),
        'rooms/kitchen.room': crlf('room kitchen\nwall brick\n'),
        'text/en.lang': crlf('welcome: "Mind the roses"\nporch: "The porch"\n'),
        'pictures/hedge.png': drawPng(
          'hedgerow/hedge',
          'stone',
          [
            [90, 130, 80],
            [110, 150, 90],
            [150, 190, 120],
          ],
          32,
        ),
      }),
      'packs/starter.zip': zip({
        'pack.leaf': text('{ "id": "starter", "title": "Starter rooms", "version": "3.2.0" }\n'),
        'rooms/shed.room': crlf('room shed\nwall plank\n'),
      }),
      'helpers.lst': crlf('tidy\nweather\n'),
      'hall.ini': crlf('[Hall]\nPacks=starter\nSeason=spring\n'),
    },
  };
}

export const hedgerowCard = gameCardSchema.parse({
  card: 1,
  id: 'hedgerow',
  title: 'Hedgerow Hall',
  roots: [{ id: 'hall', title: 'Game folder', markers: ['hedgerow.bin'] }],
  places: [
    {
      id: 'packs',
      mode: 'kept-zipped',
      title: 'Packs',
      into: 'hall/packs',
      holds: ['pack.leaf'],
      why: 'The game opens packs by itself; unpacked ones it does not see.',
    },
    {
      id: 'core',
      mode: 'into-archive',
      title: 'Core archive',
      archive: 'hall/core.hha',
      entries: ['rooms/*.room', 'text/*.lang', 'pictures/*.png'],
      why: 'Some old packs change the core archive from inside.',
    },
  ],
  editions: [
    {
      id: 'garden',
      title: 'Garden edition',
      marker: 'hall/garden.edition',
      maxTexture: 2048,
      textureFormats: ['png', 'dds'],
    },
    { id: 'pocket', title: 'Pocket edition', marker: 'hall/pocket.edition', maxTexture: 512, textureFormats: ['png'] },
  ],
  manifests: [
    {
      file: 'pack.leaf',
      form: 'json',
      fields: {
        id: ['id'],
        title: ['title'],
        version: ['version'],
        needs: ['needs'],
        edition: ['edition'],
        resolution: ['resolution'],
      },
    },
  ],
  recipes: [
    {
      id: 'pocket-to-garden',
      title: 'For the Garden edition',
      from: 'the Pocket edition',
      has: ['bundle/**', 'bundle.png'],
      moves: [
        { from: 'bundle', to: '' },
        { from: 'bundle.png', to: 'face.png' },
      ],
      drops: [{ files: 'bundle/touch/**', why: 'Touch layouts; the Garden edition has none.' }],
      manifest: {
        file: 'pack.leaf',
        template: '{ "id": "{id}", "title": "{title}", "version": "{version}", "edition": "garden" }\n',
      },
      place: 'packs',
    },
  ],
  settings: [
    {
      target: 'hall/hall.ini',
      dialect: 'ini',
      title: 'Hall settings',
      keys: [{ path: ['Hall', 'Packs'], type: 'text', meaning: 'The packs that are opened, one after the other.' }],
    },
  ],
  log: {
    target: 'hall/hall.log',
    rules: [
      {
        id: 'welcome',
        pattern: '^hall> welcome$',
        level: 'good',
        says: 'The hall opened its door: everything was loaded.',
      },
      {
        id: 'packs',
        pattern: '^hall> (?<count>\\d+) packs, (?<rooms>\\d+) rooms$',
        level: 'good',
        says: '{count} packs with {rooms} rooms were opened.',
      },
      {
        id: 'pack',
        pattern: '^hall> pack (?<id>\\S+) with (?<rooms>\\d+) rooms$',
        level: 'note',
        says: 'The pack {id} was opened, with {rooms} rooms.',
      },
      {
        id: 'no-pack',
        pattern: '^hall> ! (?<file>packs/.+) is no pack: (?<why>.+)$',
        level: 'warning',
        says: '{file} is no pack: {why}.',
        about: { kind: 'file', field: 'file', under: 'hall' },
      },
      {
        id: 'bad-leaf',
        pattern: '^hall> ! (?<file>packs/.+) has a pack\\.leaf that cannot be read$',
        level: 'warning',
        says: 'The pack.leaf in {file} cannot be read.',
        about: { kind: 'file', field: 'file', under: 'hall' },
      },
      {
        id: 'passed-over',
        pattern: '^hall> ! (?<file>packs/.+) is passed over: (?<other>\\S+) has the id (?<id>.+)$',
        level: 'warning',
        says: '{file} is passed over: {other} has the same id, {id}.',
        about: { kind: 'file', field: 'file', under: 'hall' },
      },
      {
        id: 'needs',
        pattern: '^hall> ! (?<file>packs/.+) needs “(?<need>.+)”, which is not here$',
        level: 'warning',
        says: '{file} needs “{need}”, which is not here.',
        about: { kind: 'file', field: 'file', under: 'hall' },
      },
      { id: 'core', pattern: '^hall> !!? (?<what>core\\.hha .+)$', level: 'error', says: 'The core archive: {what}.' },
    ],
    ends: 'welcome',
  },
  trial: 'hedgerow',
});
