import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';
import { SatchelError, deploy, mindOriginals, recover, type StuckAnswer } from '@/core';
import { makePack, type StackItem } from '../tests/support/game';
import { makeDiskGame, removeDiskGames } from '../tests/support/diskGame';
import { SEED, dice, report } from './trial';

removeDiskGames();
const DEPLOYMENTS = 1000;

/** The contents of every file below some folders. */
function contentsBelow(folders: readonly string[]): Set<string> {
  const found = new Set<string>();
  const walk = (at: string) => {
    for (const name of readdirSync(at)) {
      const full = path.join(at, name);
      if (statSync(full).isDirectory()) walk(full);
      else found.add(readFileSync(full, 'latin1'));
    }
  };
  folders.forEach(walk);
  return found;
}

it('a program that writes beside deployments and restores loses no version to them', async () => {
  const roll = dice('beside');
  const names = Array.from({ length: 12 }, (_, i) => `program/${i % 3 === 0 ? 'a/' : ''}${i}.txt`);
  const own = Object.fromEntries(
    [...names, 'user/settings.ini'].map((name) => [
      name,
      name.endsWith('.ini') ? '[Graphics]\nAddon=0\n' : `own ${name}\n`,
    ]),
  );
  const files = (pack: string, from: number) =>
    Object.fromEntries(names.slice(from).map((name) => [name.slice('program/'.length), `${pack} ${name}\n`]));
  const packs = {
    p: await makePack('p.zip', { ...files('p', 0), 'new/p.txt': 'new p\n' }),
    q: await makePack('q.zip', files('q', 6)),
  };
  const { bench, workshop, at, root } = makeDiskGame(own, packs);
  const graveyard = at('graveyard');
  mkdirSync(graveyard);
  const edits: StackItem = { edits: [{ path: ['Graphics', 'Addon'], value: '1' }] };
  const stacks: StackItem[][] = [[], [{ pack: 'p' }, edits], [{ pack: 'p' }, { pack: 'q' }], [{ pack: 'q' }, edits]];

  const written: string[] = [];
  const writer = spawn(
    'python3',
    [
      '-u',
      path.resolve('ordeal/writer.py'),
      root,
      graveyard,
      String(SEED),
      ...names,
      'program/new/p.txt',
      'user/settings.ini',
    ],
    { stdio: ['pipe', 'pipe', 'inherit'] },
  );
  let rest = '';
  writer.stdout.on('data', (data: Buffer) => {
    const lines = (rest + data.toString()).split('\n');
    rest = lines.pop() ?? '';
    written.push(...lines.map((line) => `${line}\n`));
  });
  const ended = new Promise((done) => writer.once('exit', done));
  const outcomes = new Map<string, number>();
  const count = (what: string) => outcomes.set(what, (outcomes.get(what) ?? 0) + 1);
  let between = 0;
  const onStuck = async (): Promise<StuckAnswer> =>
    (['leave', 'leave', 'leave all', 'take back'] as const)[roll(4)] ?? 'leave';
  for (let i = 0; i < DEPLOYMENTS; i++) {
    // The writer is another process; it gets its turns while this one waits.
    await new Promise((done) => setTimeout(done, roll(3)));
    try {
      const plan = await bench.plan(stacks[roll(stacks.length)] ?? [], workshop);
      await deploy(plan, workshop, {
        title: 'Deploy',
        layers: [],
        copiesLater: roll(2) === 0,
        ...(roll(3) > 0 ? { onStuck } : {}),
      });
      count('landed');
      if (roll(20) === 0) await mindOriginals(workshop);
    } catch (error) {
      const code = error instanceof SatchelError ? error.code : String(error);
      count(code);
      if (!['taken-back', 'changed-since-plan', 'not-begun', 'folder-missing-file', 'folder-refused'].includes(code))
        between++;
      if (code === 'left-open') await recover(workshop);
    }
  }
  writer.stdin.end();
  await ended;
  const left = contentsBelow([at('program'), at('user'), at('backup'), graveyard]);
  const lost = [...written, ...Object.values(own)].filter((version) => !left.has(version));
  report({
    name: 'a program writing beside deployments and restores',
    tries: DEPLOYMENTS,
    losses: lost.length,
    between,
    note: `${written.length} versions written; ${Array.from(outcomes, ([what, times]) => `${what} ${times}`).join(', ')}`,
  });
  expect(written.length).toBeGreaterThan(500);
  expect(outcomes.get('landed') ?? 0).toBeGreaterThan(50);
  expect(lost).toEqual([]);
  expect(between).toBe(0);
});
