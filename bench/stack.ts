import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Resolver, mergeText, type Layer, type PackPath, type TargetPath } from '../src/core';
import { middleOfThree, report, timed, timedTool } from './measure';

const PACKS = 200;
const FILES = 5000;

/** 200 packs of 5,000 files; neighbours in the stack share some of them, as packs for one game do. */
function bigStack(): Layer[] {
  // Taken through JSON: names as they come from an archive, not as ropes of pieces.
  return JSON.parse(
    JSON.stringify(
      Array.from({ length: PACKS }, (_, p) => ({
        kind: 'pack',
        id: `l${p}`,
        name: `Pack ${p}`,
        packId: `p${p}`,
        files: Array.from({ length: FILES }, (_, i) => {
          const n = (p * 3571 + i) % 700_000;
          const name = `program/assets/textures/set${Math.floor(n / 330)}/part${n % 7}/tex_${n}.png`;
          return { path: name as PackPath, target: name as TargetPath, size: 1000, crc32: p };
        }),
      })),
    ),
  ) as Layer[];
}

/** The overlaps of a huge stack against sort and uniq, moving a pack in it, and merging a long text against git. */
export async function stackLines(): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-bench-'));
  const stack = bigStack();
  writeFileSync(
    path.join(folder, 'all'),
    stack
      .map((layer) => (layer.kind === 'pack' ? layer.files.map(({ target }) => `${target}\n`).join('') : ''))
      .join(''),
  );
  const rounds: { ours: number; theirs: number; move: number }[] = [];
  for (let round = 0; round < 3; round++) {
    const theirs = timedTool('sh', ['-c', 'LC_ALL=C sort all | uniq -cd > found'], folder);
    const resolver = new Resolver();
    let wins = 0;
    const ours = await timed(() => {
      for (const tally of resolver.resolve(stack).resolution.overlaps.values()) wins += tally.wins;
    });
    const doubled = Number(
      spawnSync('wc', ['-l', path.join(folder, 'found')], { encoding: 'utf8' })
        .stdout.trim()
        .split(' ')[0],
    );
    if (wins !== doubled) throw new Error(`${wins} overlaps found, ${doubled} by uniq`);
    // From the bottom to the top and back: each passes over all others.
    const [lowest, ...others] = stack as [Layer, ...Layer[]];
    const move = await middleOfThree(() =>
      timed(() => {
        const { changed } = resolver.resolve([...others, lowest]);
        if ([...changed].length === 0) throw new Error('nothing changed');
        resolver.resolve(stack);
      }),
    );
    rounds.push({ ours, theirs, move: move / 2 });
  }
  const middle = (of: (one: (typeof rounds)[number]) => number) => rounds.map(of).sort((a, b) => a - b)[1] as number;
  report({
    name: 'overlaps of 200 packs of 5,000 files (Node)',
    ours: middle(({ ours }) => ours),
    reference: 'LC_ALL=C sort | uniq -cd',
    theirs: middle(({ theirs }) => theirs),
    limit: 1,
  });
  report({
    name: 'moving one pack in that stack (Node)',
    ours: middle(({ move }) => move),
    reference: 'the 50 ms allowed',
    theirs: 0.05,
    limit: 1,
  });

  const lines = Array.from(
    { length: 20_000 },
    (_, i) => `line.${i}: some text of a usual length, number ${(i * 7919) % 1000}\n`,
  );
  const edited = (every: number, what: string) =>
    lines.map((line, i) => (i % every === 5 ? `${what} ${i}\n` : line)).join('');
  const [base, left, right] = [lines.join(''), edited(97, 'left'), edited(101, 'right')];
  for (const [name, text] of [
    ['base', base],
    ['left', left],
    ['right', right],
  ] as const)
    writeFileSync(path.join(folder, name), text);
  const ours = await middleOfThree(() => timed(() => void mergeText(base, left, right)));
  const theirs = await middleOfThree(() =>
    timed(() => {
      const { status } = spawnSync('git', ['merge-file', '-p', '-q', 'left', 'base', 'right'], {
        cwd: folder,
        maxBuffer: 64 * 1024 * 1024,
      });
      if (status === null || status > 127) throw new Error('git merge-file failed');
    }),
  );
  report({ name: 'merge two edits of 20,000 lines (Node)', ours, reference: 'git merge-file', theirs, limit: 3 });
  rmSync(folder, { recursive: true, force: true });
}
