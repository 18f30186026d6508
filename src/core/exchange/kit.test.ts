import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import Ajv2020 from 'ajv/dist/2020.js';
import { unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import {
  emptyStack,
  gameCardSchema,
  foldersHere,
  kitFolders,
  kitInFolders,
  kitJsonSchema,
  kitWithIds,
  noDecisions,
  importKit,
  packNoteSchema,
  packsHere,
  sha256,
  wayToPlay,
  exportKit,
  type PackForKit,
  type Stack,
  type TargetPath,
  type Written,
} from '@/core';
import { readFiles, runTool, temporaryFolder } from '../../../tests/support/tools';

/* The layout is checked with other makers’ programs: unzip, sha256sum (coreutils), and Ajv for JSON Schema 2020-12. */

const text = (value: string): Uint8Array<ArrayBuffer> => Uint8Array.from(new TextEncoder().encode(value));
const archive = new Blob([zipSync({ 'a/b.txt': text('content') })]);

const edits = (file: TargetPath) => ({ kind: 'edits' as const, id: 'e', name: 'E', on: true, file, edits: [] });

async function kitOf(how: { inside?: boolean; stack?: Partial<Stack>; notes?: Written } = {}): Promise<Blob> {
  const hash = await sha256(archive);
  const note = packNoteSchema.parse({
    id: 'p1',
    game: 'g',
    file: 'lamp.zip',
    size: archive.size,
    sha256: hash,
    added: 1,
    ...how.notes,
  });
  const own = text('mine');
  const stack: Stack = {
    ...emptyStack,
    machineMemory: 77,
    layers: [
      {
        kind: 'pack',
        id: 'l1',
        packId: 'p1',
        name: 'Lamp',
        on: true,
        placement: { rules: [], leftOut: [], made: [], decisions: noDecisions },
        confidence: 'chosen',
        parts: [],
        tag: { monogram: 'La', colour: 1 },
      },
      {
        kind: 'own',
        id: 'own',
        name: 'Your own files',
        on: true,
        files: [{ target: 'game/x' as TargetPath, sha256: await sha256(own), size: own.length }],
      },
    ],
    ...how.stack,
  };
  const packs: PackForKit[] = [{ note, ...(how.inside ? { archive: { blob: archive, sha256: hash, crc32: 1 } } : {}) }];
  const card = gameCardSchema.parse({ card: 1, id: 'g', title: 'Old Quay', roots: [{ id: 'game', title: 'Game' }] });
  const { sets, aside } = stack;
  const at = Date.UTC(2026, 10, 29);
  const ownFiles = new Map([[await sha256(own), own]]);
  return exportKit({
    title: 'Old Quay',
    at,
    card,
    statements: [],
    way: wayToPlay(stack),
    sets,
    aside,
    setUps: [],
    packs,
    own: ownFiles,
  });
}

async function unpacked(kit: Blob): Promise<{ top: string; files: Record<string, Buffer> }> {
  const folder = temporaryFolder();
  writeFileSync(path.join(folder, 'kit.zip'), Buffer.from(await kit.arrayBuffer()));
  runTool('unzip', ['-tq', 'kit.zip'], { cwd: folder });
  runTool('unzip', ['-q', 'kit.zip', '-d', 'out'], { cwd: folder });
  const top = path.join(folder, 'out', 'Old-Quay-kit-2026-11-29');
  return { top, files: readFiles(top) };
}

describe('kits', () => {
  it.each([true, false])(
    'are bags that unzip and sha256sum take, with JSON of the published form; packs inside: %s',
    async (inside) => {
      const { top, files } = await unpacked(await kitOf({ inside }));
      runTool('sha256sum', ['-c', '--strict', '--quiet', 'manifest-sha256.txt'], { cwd: top });
      runTool('sha256sum', ['-c', '--strict', '--quiet', 'tagmanifest-sha256.txt'], { cwd: top });
      expect(files['bagit.txt']?.toString()).toBe('BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n');
      const payload = Object.entries(files).filter(([name]) => name.startsWith('data/'));
      const oxum = `Payload-Oxum: ${payload.reduce((sum, [, { length }]) => sum + length, 0)}.${payload.length}`;
      expect(files['bag-info.txt']?.toString()).toContain(oxum);
      expect(Object.keys(files).includes('data/packs/p1.zip')).toBe(inside);
      const schema: unknown = JSON.parse(readFileSync(path.join(top, 'data/kit.schema.json'), 'utf8'));
      expect(schema).toEqual(JSON.parse(JSON.stringify(kitJsonSchema())));
      const validate = new Ajv2020({ strict: false }).compile(schema as object);
      const kit = JSON.parse(files['data/kit.json']?.toString() ?? '') as Record<string, unknown>;
      expect([validate(kit), validate.errors]).toEqual([true, null]);
      expect(validate({ ...kit, packs: [{ id: 7 }] })).toBe(false);
    },
  );

  it('come back as they went, with packs found by their content whatever they are called', async () => {
    const opened = await importKit(await kitOf({ inside: true }), 'kit.zip');
    const [pack] = opened.kit.packs;
    if (!pack) throw new Error('no pack');
    expect(Buffer.from((await (await opened.archive(pack))?.arrayBuffer()) as ArrayBuffer)).toEqual(
      Buffer.from(await archive.arrayBuffer()),
    );
    expect(Buffer.from(await opened.own(await sha256(text('mine')))).toString()).toBe('mine');
    const mine = packNoteSchema.parse({ ...pack, id: 'here', game: 'other', file: 'called otherwise.zip', added: 5 });
    expect([...packsHere(opened.kit, [mine])]).toEqual([['p1', mine]]);
    const { way } = kitWithIds(opened.kit, new Map([['p1', 'here']]));
    expect(way.layers[0]).toMatchObject({ id: 'l1', packId: 'here' });
  });

  describe('in folders that are called otherwise here', () => {
    const rule = (to: string) => ({ as: 'files' as const, from: 'game/in the pack', to: to as TargetPath });
    const kitWith = async (to: string) => {
      const opened = await importKit(await kitOf(), 'kit.zip');
      const [pack] = opened.kit.way.layers;
      if (pack?.kind !== 'pack') throw new Error('no pack');
      const placement = {
        rules: [rule(to)],
        leftOut: [],
        made: [{ target: `${to}/made` as TargetPath, text: '', why: '' }],
        decisions: {
          ...noDecisions,
          moves: [{ from: 'game/x', to: `${to}/moved` as TargetPath }],
          answers: { where: [`${to}/there`, 'no place'] },
        },
      };
      const file = `${to}/a.ini` as TargetPath;
      return kitOf({
        stack: {
          layers: [
            { ...pack, placement },
            { kind: 'edits', id: 'e', name: 'E', on: true, file, edits: [{ path: ['game/key'], value: 'game/value' }] },
            { kind: 'merge', id: 'm', name: 'M', on: true, target: file, sources: [], decisions: [] },
          ],
          picks: [
            { scope: 'file', at: file, layer: 'l1' },
            { scope: 'folder', at: to, layer: 'l1' },
            // A kind is no place, even where a folder is called like it.
            { scope: 'kind', at: 'game', layer: 'l1' },
          ],
          ownFiles: [{ target: file, dialect: 'ini' }],
          sets: [{ id: 's', name: 'S', at: 1, files: [{ file, edits: [] }] }],
        },
      });
    };

    it('every place is renamed, and nothing that only looks like one', async () => {
      const { kit } = await importKit(await kitWith('game'), 'kit.zip');
      const wanted = (await importKit(await kitWith('install'), 'kit.zip')).kit;
      const here = { roots: [{ id: 'install', title: 'GAME' }] };
      expect(kitFolders(kit, here)).toMatchObject([{ id: 'game', title: 'Game', here: 'install' }]);
      const moved = kitInFolders(kit, here, new Map([['game', 'install']]));
      expect([moved.way, moved.sets]).toEqual([wanted.way, wanted.sets]);
      expect(() => kitInFolders(kit, here, new Map())).toThrow(/“Game”/);
      expect(() => kitInFolders(kit, here, new Map([['game', 'gone']]))).toThrow(/“Game”/);
    });

    it.each([
      [
        'the same id',
        [
          { id: 'other', title: 'Game' },
          { id: 'game', title: 'X' },
        ],
        'game',
      ],
      [
        'the same title',
        [
          { id: 'x', title: 'X' },
          { id: 'y', title: 'game' },
        ],
        'y',
      ],
      ['the only one that there is', [{ id: 'x', title: 'X' }], 'x'],
      [
        'none of two others',
        [
          { id: 'x', title: 'X' },
          { id: 'y', title: 'Y' },
        ],
        undefined,
      ],
    ])('taken for it: %s', async (_, roots, id) => {
      const { kit } = await importKit(await kitWith('game'), 'kit.zip');
      expect(kitFolders(kit, { roots })[0]?.here).toBe(id);
    });
  });

  it('a title of another region is asked about, and the place follows what is chosen', async () => {
    const known = [
      { id: 'AA-1', title: 'Bakery', region: 'North' },
      { id: 'BB-2', title: 'Bakery', region: 'South' },
      { id: 'CC-3', title: 'Garden', region: 'North' },
    ];
    const card = gameCardSchema.parse({
      card: 1,
      id: 'g',
      title: 'Player',
      roots: [{ id: 'game', title: 'Game' }],
      titles: { known, pattern: '[A-Z]{2}-\\d', found: 'game/shelf/{id}.title', into: 'game/box' },
    });
    const opened = await importKit(await kitOf(), 'kit.zip');
    const file = 'game/box/AA-1/swap/a.png' as TargetPath;
    const kit = {
      ...opened.kit,
      card,
      way: { ...opened.kit.way, layers: [{ ...edits(file), file }], ownFiles: [] },
    };
    const here = foldersHere(card, ['game/shelf/BB-2.title', 'game/shelf/CC-3.title']);
    const [root, title] = kitFolders(kit, here);
    expect(root).toMatchObject({ id: 'game', here: 'game' });
    expect(title).toMatchObject({
      id: 'game/box/AA-1',
      title: 'Bakery (AA-1)',
      here: 'game/box/BB-2',
      options: [{ id: 'game/box/BB-2' }, { id: 'game/box/CC-3' }],
    });
    const placed = (chosen: [string, string][]) =>
      kitInFolders(kit, here, new Map([['game', 'game'], ...chosen])).way.layers[0];
    expect(placed([['game/box/AA-1', 'game/box/BB-2']])).toMatchObject({ file: 'game/box/BB-2/swap/a.png' });
    expect(placed([])).toMatchObject({ file });
    // What is none of the answers is none.
    expect(placed([['game/box/AA-1', 'game/../..']])).toMatchObject({ file });
    // The title is here, too: nothing is asked.
    expect(kitFolders(kit, foldersHere(card, ['game/shelf/AA-1.title', 'game/shelf/BB-2.title']))).toHaveLength(1);
  });

  it('tell nothing of the player’s home or machine', async () => {
    const kit = await kitOf({
      notes: {
        page: 'Unpack to C:\\Users\\Ada\\Games',
        origin: 'https://packs.example/lamps?id=7&user=ada',
        version: '1.2',
        remember: 'From ada@mail.example: put it above the rope.',
      },
      stack: { launchLine: '-data /home/ada/quay -wide' },
    });
    const { files } = await unpacked(kit);
    const all = Object.values(files).join('\n');
    expect(all).not.toMatch(/\bada\b/i);
    expect(all).toContain('-data ~/quay -wide');
    const [pack] = (await importKit(kit, 'kit.zip')).kit.packs;
    expect(pack).toMatchObject({
      page: 'Unpack to ~\\Games',
      origin: 'https://packs.example/lamps?id=7',
      version: '1.2',
      remember: 'From (an address): put it above the rope.',
    });
    expect(all).not.toContain('machineMemory":77');
  });

  describe('from a stranger', () => {
    const top = 'Old-Quay-kit-2026-11-29/';
    const changed = async (change: (files: Record<string, Uint8Array>) => void): Promise<Blob> => {
      const files = unzipSync(new Uint8Array(await (await kitOf({ inside: true })).arrayBuffer()));
      change(files);
      return new Blob([zipSync(files, { level: 0 })]);
    };
    it.each<[string, (files: Record<string, Uint8Array>) => void, RegExp]>([
      [
        'a pack that was exchanged',
        (files) => (files[`${top}data/packs/p1.zip`] = text('other')),
        /not what its manifest says/,
      ],
      [
        'decisions that were changed',
        (files) => (files[`${top}data/kit.json`] = text('{}')),
        /not what its manifest says/,
      ],
      ['something more', (files) => (files[`${top}data/run.exe`] = text('x')), /not in its manifest/],
      ['something less', (files) => delete files[`${top}data/kit.json`], /missing/],
      ['something outside', (files) => (files['outside.txt'] = text('x')), /lies outside/],
    ])('%s is refused', async (_, change, why) => {
      await expect(importKit(await changed(change), 'kit.zip')).rejects.toThrow(why);
    });

    it.each([
      'game/../../etc/passwd',
      '../out',
      'game/',
      'game//x',
      'game/CON',
      'game/a\u0000b',
      'C:/x',
      'game/x\\\\y',
    ])('a place that cannot be is refused: %j', async (bad) => {
      const to = bad as TargetPath;
      const rule = { as: 'files' as const, from: '', to };
      const placement = { rules: [], leftOut: [], made: [], decisions: noDecisions };
      const [pack] = (await importKit(await kitOf(), 'kit.zip')).kit.way.layers;
      if (pack?.kind !== 'pack') throw new Error('no pack');
      const layers: Stack['layers'][] = [
        [{ ...pack, placement: { ...placement, rules: [rule] } }],
        [{ ...pack, placement: { ...placement, made: [{ target: to, text: '', why: '' }] } }],
        [{ ...pack, placement: { ...placement, decisions: { ...noDecisions, moves: [{ from: 'a', to }] } } }],
        [{ kind: 'edits', id: 'e', name: 'E', on: true, file: to, edits: [] }],
        [{ kind: 'merge', id: 'm', name: 'M', on: true, target: to, sources: [], decisions: [] }],
      ];
      for (const one of layers)
        await expect(importKit(await kitOf({ stack: { layers: one } }), 'kit.zip')).rejects.toThrow(
          /a place that cannot be/,
        );
      const ownFiles = [{ target: to, dialect: 'ini' as const }];
      await expect(importKit(await kitOf({ stack: { ownFiles } }), 'kit.zip')).rejects.toThrow(
        /a place that cannot be/,
      );
    });

    it('decisions that have not the form, with a manifest that fits them, are refused', async () => {
      for (const wrong of [
        '{}',
        '[]',
        'null',
        '{"format":"tidy satchel kit","version":2}',
        '\u0000',
        '{"way":{"layers":[{}]}}',
      ]) {
        const files = unzipSync(new Uint8Array(await (await kitOf({ inside: true })).arrayBuffer()));
        const put = async (list: string, name: string, data: Uint8Array<ArrayBuffer>) => {
          files[top + name] = data;
          const lines = Buffer.from(files[top + list] ?? []).toString();
          const line = lines.split('\n').find((one) => one.endsWith(`  ${name}`)) ?? 'none';
          return text(lines.replace(line, `${await sha256(data)}  ${name}`));
        };
        const manifest = await put('manifest-sha256.txt', 'data/kit.json', text(wrong));
        files[`${top}tagmanifest-sha256.txt`] = await put('tagmanifest-sha256.txt', 'manifest-sha256.txt', manifest);
        const kit = new Blob([zipSync(files, { level: 0 })]);
        await expect(importKit(kit, 'kit.zip')).rejects.toThrow(/“data\/kit\.json” cannot be read/);
      }
    });
  });
});
