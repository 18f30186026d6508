import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, it } from 'vitest';
import { SatchelError, deploy, mindOriginals, openPack, recover, restore, type Folder, type Workshop } from '@/core';
import { benchDialect, makePack, type StackItem } from '../tests/support/game';
import { makeDiskGame, removeDiskGames } from '../tests/support/diskGame';
import { dice, report, same, treeOf } from './trial';

removeDiskGames();
const stack: StackItem[] = [{ pack: 'p' }, { edits: [{ path: ['Graphics', 'Addon'], value: '1' }] }];
const game = async () =>
  makeDiskGame(
    { 'program/a.png': 'own a', 'program/b/c.png': 'own c', 'user/settings.ini': '[Graphics]\nAddon=0\n' },
    { p: await makePack('p.zip', { 'a.png': 'new a', 'b/c.png': 'new c', 'new/deep.png': 'new deep' }) },
  );
type Game = Awaited<ReturnType<typeof game>>;
const contents = ({ at }: Game) => ({
  ...treeOf(at('program')),
  ...Object.fromEntries(Object.entries(treeOf(at('user'))).map(([name, text]) => [`user/${name}`, text])),
});

const filesOf = (tree: Record<string, string>) =>
  Object.fromEntries(Object.entries(tree).filter(([name]) => !name.endsWith('/')));

/** A workshop whose folders fail as it says, at a call of any of their functions. */
function failing({ workshop }: Game, fail: (call: string, bytes: number) => Error | undefined): Workshop {
  const wrap = <T extends Folder>(folder: T, of: string): T =>
    new Proxy(folder, {
      get: (inner, name) => {
        const value: unknown = Reflect.get(inner, name);
        if (typeof value !== 'function' || name === 'breathe') return value;
        return (...values: unknown[]): unknown => {
          const bytes = values[1] instanceof Uint8Array ? values[1].length : 0;
          const error = fail(`${of}.${String(name)}`, bytes);
          if (error)
            return name === 'list'
              ? (async function* () {
                  throw error;
                })()
              : Promise.reject(error);
          return Reflect.apply(
            value,
            inner,
            values.map((one) => real.get(one as object) ?? one),
          );
        };
      },
    });
  const real = new Map<object, object>();
  const wrapped = (folder: Folder, of: string): Folder => {
    const one = wrap(folder, of);
    real.set(one, folder);
    return one;
  };
  return {
    ...workshop,
    folders: Object.fromEntries(Object.entries(workshop.folders).map(([id, folder]) => [id, wrapped(folder, id)])),
    vault: wrapped(workshop.vault, 'vault'),
    ...(workshop.backup ? { backup: wrapped(workshop.backup, 'backup') } : {}),
  };
}

/** Deploys, or puts back, with folders that fail; then starts anew with everything working. @returns what it came to */
async function attempt(
  back: boolean,
  fail: Parameters<typeof failing>[1],
): Promise<{ losses: number; between: number }> {
  const one = await game();
  const own = contents(one);
  if (back) await one.bench.deploy(stack, one.workshop);
  const before = contents(one);
  const workshop = failing(one, fail);
  const plan = await one.bench.plan(back ? [] : stack, one.workshop);
  await deploy(plan, workshop, { title: 'Deploy', layers: [] }).catch((error: unknown) => {
    if (!(error instanceof SatchelError)) throw error;
  });
  await recover(one.workshop);
  const now = contents(one);
  // An empty folder that could not go stays known, and goes after the next deployment.
  const isDone = back
    ? same(filesOf(now), filesOf(own))
    : now['a.png'] === 'new a' &&
      now['new/deep.png'] === 'new deep' &&
      now['user/settings.ini'] === '[Graphics]\nAddon=1\n';
  const between = same(now, before) || isDone ? 0 : 1;
  await mindOriginals(one.workshop);
  await restore(one.workshop, { dialectOf: benchDialect });
  const losses = same(contents(one), own) ? 0 : 1;
  rmSync(one.root, { recursive: true, force: true });
  return { losses, between };
}

const sum = { tries: 0, losses: 0, between: 0 };
const add = ({ losses, between }: { losses: number; between: number }) => {
  sum.tries++;
  sum.losses += losses;
  sum.between += between;
};

it('every call of every folder on a disk fails once, and then for ever', async () => {
  for (const back of [false, true])
    for (const ever of [false, true])
      for (let at = 1; ; at++) {
        let [calls, fired] = [0, false];
        const outcome = await attempt(back, (call) => {
          calls++;
          if (!(ever ? calls >= at : calls === at)) return undefined;
          fired = true;
          return new Error(`fault at ${call}`);
        });
        if (!fired) break;
        add(outcome);
      }
  report({ name: 'each call of a folder on the disk failing once, and for ever', ...sum });
  expect(sum).toMatchObject({ losses: 0, between: 0 });
  expect(sum.tries).toBeGreaterThan(150);
});

it('the disk fills up, at every number of bytes, after the journal was opened too', async () => {
  const full = { tries: 0, losses: 0, between: 0 };
  for (const back of [false, true])
    for (let room = 0; room < 4000; room += 37) {
      let written = 0;
      const outcome = await attempt(back, (call, bytes) => {
        if (!/\.(write|writeChunks|writeAndReadBack|swap|copy)$/.test(call)) return undefined;
        written += bytes;
        return written > room ? new SatchelError('folder-refused', { path: call, why: 'the disk is full' }) : undefined;
      });
      full.tries++;
      full.losses += outcome.losses;
      full.between += outcome.between;
    }
  report({ name: 'the disk filling up at any moment', ...full });
  expect(full).toMatchObject({ losses: 0, between: 0 });
});

it('damaged archives: a documented failure or the very bytes', async () => {
  const roll = dice('archives');
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-damage-'));
  const files = Object.fromEntries(
    Array.from({ length: 20 }, (_, i) => [`f${i}.txt`, `file ${i} `.repeat(50 + i * 7)]),
  );
  for (const [name, text] of Object.entries(files)) writeFileSync(path.join(folder, name), text);
  let [tries, losses] = [0, 0];
  for (const [archive, tool, values] of [
    ['p.zip', 'zip', ['-q', 'p.zip']],
    ['s.zip', 'zip', ['-q', '-0', 's.zip']],
    ['p.7z', '7z', ['a', '-bd', 'p.7z']],
    ['p.tar', 'tar', ['-cf', 'p.tar']],
  ] as const) {
    if (spawnSync(tool, [...values, ...Object.keys(files)], { cwd: folder, stdio: 'ignore' }).status !== 0) continue;
    const whole = readFileSync(path.join(folder, archive));
    for (let i = 0; i < (archive.endsWith('.zip') ? 1000 : 150); i++) {
      const bytes = Buffer.from(whole);
      const kind = roll(3);
      if (kind === 0) bytes[roll(bytes.length)] = roll(256);
      const cut =
        kind === 1
          ? bytes.subarray(0, roll(bytes.length))
          : kind === 2
            ? Buffer.concat([bytes.subarray(0, roll(bytes.length)), bytes.subarray(roll(bytes.length))])
            : bytes;
      tries++;
      try {
        const pack = await openPack(new Blob([cut]), archive);
        for await (const { path: name, data } of pack.readMany(pack.entries.map((entry) => entry.path)))
          // A tar has no checksums over its contents: what it says is all there is.
          if (archive !== 'p.tar' && files[name] !== undefined && Buffer.from(data).toString() !== files[name])
            losses++;
      } catch (error) {
        if (!(error instanceof SatchelError) || error.code === 'unexpected') losses++;
      }
    }
  }
  rmSync(folder, { recursive: true, force: true });
  report({ name: 'damaged archives', tries, losses, between: 0 });
  expect(losses).toBe(0);
});
