import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { LARGE, byHand, type Pack } from '@/core';
import { Bench, makePack, noLargeBytes, type Contents } from '../../../tests/support/game';
import { has, readFiles, runTool, temporaryFolder } from '../../../tests/support/tools';

const OPTIONS = {
  titles: { program: 'Program', user: 'User' },
  game: 'Gullwick Ferries',
  at: Date.UTC(2026, 10, 25, 12),
};

/** What unzip makes of an archive over files, the text at its top left out. */
async function unzipOver(archive: Blob, files: Contents): Promise<Contents> {
  const folder = temporaryFolder();
  writeFileSync(path.join(folder, 'a.zip'), new Uint8Array(await archive.arrayBuffer()));
  runTool('unzip', ['-tq', 'a.zip'], { cwd: folder });
  runTool('unzip', ['-q', 'a.zip', '-d', 'out'], { cwd: folder });
  const found = Object.entries(readFiles(path.join(folder, 'out'))).filter(([name]) => name !== 'READ ME FIRST.txt');
  return {
    ...files,
    ...Object.fromEntries(
      found.map(([name, data]) => [name.replace(/^(Program|User)/, (root) => root.toLowerCase()), data.toString()]),
    ),
  };
}

describe.skipIf(!has('unzip'))('a deployment by hand (skipped where unzip is missing)', () => {
  it('unpacked over the game it is the deployment, and the other takes it back; large files are never held', async () => {
    const [own, ours] = ['own '.repeat(5_000_000), 'new '.repeat(4_500_000)];
    const opened = await makePack('p.zip', { 'a.bin': ours, 'b.png': 'new b', 'sub/c.png': 'new c' });
    const refuse = async function* (path: string): AsyncGenerator<never> {
      throw new Error(`${path} is read whole`);
    };
    const readMany: Pack['readMany'] = (paths, options) => {
      const all = [...paths];
      const large = opened.entries.find((entry) => entry.size > LARGE && all.includes(entry.path));
      return large ? refuse(large.path) : opened.readMany(all, options);
    };
    const bench = new Bench({ 'a.bin': own, 'b.png': 'own b', 'keep.txt': 'k' }, {}, { p: { ...opened, readMany } });
    const before = bench.contents();
    const zips = await byHand(await bench.plan([{ pack: 'p' }]), bench.workshop(noLargeBytes), OPTIONS);
    expect(bench.contents()).toEqual(before);
    // Folders in memory take whole files only.
    bench.packs.p = opened;
    await bench.deploy([{ pack: 'p' }]);
    const after = bench.contents();
    expect(await unzipOver(zips.deploy, before)).toEqual(after);
    const { 'program/sub/c.png': added, ...rest } = await unzipOver(zips.restore, after);
    expect(added).toBe('new c');
    expect(rest).toEqual(before);
    // Put back by hand, too: what was replaced lies in the vault now.
    const back = await byHand(await bench.plan([]), bench.workshop(noLargeBytes), OPTIONS);
    expect(await unzipOver(back.deploy, {})).toEqual({ 'program/a.bin': own, 'program/b.png': 'own b' });
  });
});
