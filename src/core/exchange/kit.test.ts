import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import Ajv2020 from 'ajv/dist/2020.js';
import { describe, expect, it } from 'vitest';
import {
  gameCardSchema,
  foldersHere,
  kitFolders,
  kitInFolders,
  kitJsonSchema,
  kitWithIds,
  importKit,
  packNoteSchema,
  packsHere,
  sha256,
  type TargetPath,
} from '@/core';
import { readFiles, runTool, temporaryFolder } from '../../../tests/support/tools';
import { archive, edits, kitOf } from '../../../tests/support/kits';
import { text } from '../../../tests/support/bytes';

/* The layout is checked with other makers’ programs: unzip, sha256sum (coreutils), and Ajv for JSON Schema 2020-12. */

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
});
