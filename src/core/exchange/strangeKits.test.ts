import { unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { noDecisions, importKit, sha256, type Stack, type TargetPath } from '@/core';
import { kitOf } from '../../../tests/support/kits';
import { text } from '../../../tests/support/bytes';

describe('kits', () => {
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
