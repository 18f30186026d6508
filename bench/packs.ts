import { openAsBlob, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openPack, proposePlacements, type PackEntry, type PackPath } from '../src/core';
import { gullwickCard } from '@/demo/gullwickCard';
import { middleOfThree, report, timed, timedTool } from './measure';

/** Other forms of archive than ZIP, and placing at scale. */
export async function packLines(zip: string): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-bench-'));
  timedTool('unzip', ['-q', zip, '-d', path.join(folder, 'tree')], folder);
  timedTool('7z', ['a', '-bd', '-mx=1', path.join(folder, 'p.7z'), '.'], path.join(folder, 'tree'));
  timedTool('bsdtar', ['-czf', path.join(folder, 'p.tar.gz'), '.'], path.join(folder, 'tree'));
  const out = (name: string) =>
    timedTool('sh', ['-c', `mkdir ${name} && bsdtar -xf ${name.split('-')[0]} -C ${name}`], folder);
  for (const [name, limit] of [
    ['p.7z', 3],
    ['p.tar.gz', 6],
  ] as const) {
    const blob = await openAsBlob(path.join(folder, name));
    const list = timedTool('bsdtar', ['-tf', name], folder);
    const unpack = out(`${name}-out`);
    // bsdtar -tf starts in milliseconds and reads a 7z's index from the disk; in Node our library needs the archive in
    // memory first. A tar has no index: listing it means unpacking it once, with bsdtar as with us.
    const ours = await timed(async () => void (await openPack(blob, name)));
    report({
      name: `list ${name} of 6,307 files (Node)`,
      ours,
      reference: 'bsdtar -tf',
      theirs: list,
      limit: name === 'p.7z' ? 60 : 8,
    });
    const whole = await timed(async () => {
      const pack = await openPack(blob, name);
      let files = 0;
      for await (const { data } of pack.readMany(pack.entries.map((entry) => entry.path)))
        if (data.length >= 0) files++;
      if (files !== pack.entries.length || files < 6000) throw new Error(`${files} files came out`);
    });
    report({ name: `open and unpack ${name} (Node)`, ours: whole, reference: 'bsdtar -x', theirs: unpack, limit });
  }
  const index = await openAsBlob(zip);
  report({
    name: 'index 6,307 files of a ZIP (Node)',
    ours: await middleOfThree(() => timed(async () => void (await openPack(index, 'p.zip')))),
    reference: 'bsdtar -tf',
    theirs: timedTool('bsdtar', ['-tf', zip], folder),
    limit: 10,
  });

  // 100,000 files of a pack against 100,000 of a game, and half of both: linear work takes twice as long for twice as
  // much. Taken through JSON: names as they come from a folder or an archive, not as ropes of pieces.
  const lists = (n: number) =>
    JSON.parse(
      JSON.stringify({
        gameFiles: Array.from(
          { length: n },
          (_, i) => `program/assets/textures/set${Math.floor(i / 330)}/part${Math.floor(i / 47) % 7}/tex_${i}.png`,
        ),
        entries: Array.from({ length: n }, (_, i): PackEntry => ({
          path: `Big Pack/for you/assets/textures/set${Math.floor(i / 330)}/part${Math.floor(i / 47) % 7}/${i % 2 ? 'tex' : 'new'}_${i}.png` as PackPath,
          size: 1000,
          crc32: i,
        })),
      }),
    ) as { gameFiles: string[]; entries: PackEntry[] };
  const propose = (n: number) =>
    middleOfThree(async () => {
      const { gameFiles, entries } = lists(n);
      return timed(() => {
        const { confidence } = proposePlacements({ entries, gameFiles, card: gullwickCard, name: 'big.zip' });
        if (confidence !== 'sure') throw new Error(`placed ${confidence}`);
      });
    });
  await propose(20_000);
  const half = await propose(50_000);
  const full = await propose(100_000);
  report({
    name: 'place 100,000 files over 100,000 (Node), linear growth',
    ours: full,
    reference: 'twice the time for 50,000',
    theirs: 2 * half,
    limit: 1.6,
  });
  const { gameFiles, entries } = lists(100_000);
  writeFileSync(path.join(folder, 'lists'), [...gameFiles, ...entries.map((entry) => entry.path)].join('\n'));
  // Half a second on the machine of the figures in machine.md, where sorting both lists takes about 0.2 s.
  report({
    name: 'place 100,000 files over 100,000 (Node)',
    ours: full,
    reference: 'LC_ALL=C sort of both lists',
    theirs: timedTool('sh', ['-c', 'LC_ALL=C sort --parallel=1 lists > sorted'], folder),
    limit: 12,
  });
  rmSync(folder, { recursive: true, force: true });
}
