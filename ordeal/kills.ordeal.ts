import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, it } from 'vitest';
import { dice, report, same, treeOf } from './trial';

const KILLS = Number(process.env.ORDEAL_KILLS ?? '40');
const script = path.resolve('ordeal/deployer.ts');

/** Starts the program; kills it so many milliseconds after it began, where a number is given. @returns how it ended */
function start(
  root: string,
  what: string,
  killAfter?: number,
  ...more: string[]
): Promise<'done' | 'killed' | 'failed'> {
  const child = spawn(process.execPath, ['--import', 'tsx', script, root, what, ...more], {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, TSX_TSCONFIG_PATH: path.resolve('tsconfig.json') },
  });
  let said = '';
  let wrong = '';
  child.stderr.on('data', (data: Buffer) => (wrong += data.toString()));
  child.stdout.on('data', (data: Buffer) => {
    const before = said;
    said += data.toString();
    if (killAfter !== undefined && !before.includes('ready') && said.includes('ready'))
      setTimeout(() => child.kill('SIGKILL'), killAfter);
  });
  return new Promise((done) =>
    child.once('exit', (code) => {
      if (code === 0) return done('done');
      if (code !== null && !wrong.includes('vault-locked')) console.log(wrong);
      done(code === null ? 'killed' : 'failed');
    }),
  );
}

it('kills at random moments, of deployments, restores and recoveries: as before or as after, in every file and folder', async () => {
  const roll = dice('kills');
  const root = mkdtempSync(path.join(tmpdir(), 'satchel-kills-'));
  try {
    for (const folder of ['program', 'user']) mkdirSync(path.join(root, folder));
    for (let i = 0; i < 40; i++) {
      mkdirSync(path.join(root, `program/maps/${i % 6}`), { recursive: true });
      writeFileSync(path.join(root, `program/maps/${i % 6}/${i}.map`), `own ${i}`);
    }
    mkdirSync(path.join(root, 'program/empty'));
    writeFileSync(path.join(root, 'user/settings.ini'), '[Graphics]\nAddon=0\n');
    const game = () => ({
      ...treeOf(path.join(root, 'program')),
      ...Object.fromEntries(
        Object.entries(treeOf(path.join(root, 'user'))).map(([name, text]) => [`user/${name}`, text]),
      ),
    });
    const own = game();
    expect(await start(root, 'deploy')).toBe('done');
    const packed = game();
    expect(await start(root, 'back')).toBe('done');
    expect(same(game(), own)).toBe(true);
    let [killed, between, recoveries] = [0, 0, 0];
    for (let i = 0; i < KILLS; i++) {
      const what = i % 2 === 0 ? 'deploy' : 'back';
      if ((await start(root, what, roll(140))) === 'killed') killed++;
      // Recovery is killed, too, now and then.
      if (roll(3) === 0 && (await start(root, 'recover', roll(60))) === 'killed') recoveries++;
      if ((await start(root, 'recover')) !== 'done') between++;
      const now = game();
      if (!same(now, own) && !same(now, packed)) {
        between++;
        console.log(
          'neither before nor after',
          what,
          Object.keys(now).filter((name) => now[name] !== own[name] && now[name] !== packed[name]),
        );
      }
    }
    expect(await start(root, 'back')).toBe('done');
    const losses = same(game(), own) ? 0 : 1;
    report({
      name: 'kills of deployments, restores and recoveries',
      tries: KILLS,
      losses,
      between,
      note: `${killed} killed in the middle, ${recoveries} recoveries killed`,
    });
    expect([losses, between]).toEqual([0, 0]);
    expect(killed).toBeGreaterThan(KILLS / 4);
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
});

it('two programs that work on one game at the same time: one works, the other is refused, nothing is half', async () => {
  const root = mkdtempSync(path.join(tmpdir(), 'satchel-two-'));
  try {
    for (const folder of ['program/maps/0', 'user']) mkdirSync(path.join(root, folder), { recursive: true });
    writeFileSync(path.join(root, 'program/maps/0/0.map'), 'own');
    writeFileSync(path.join(root, 'user/settings.ini'), '[Graphics]\nAddon=0\n');
    const own = treeOf(path.join(root, 'program'));
    await start(root, 'deploy');
    const packed = treeOf(path.join(root, 'program'));
    let between = 0;
    const rounds = 8;
    for (let i = 0; i < rounds; i++) {
      const ended = await Promise.all(['back', 'deploy', 'back'].map((what) => start(root, what, undefined, '--once')));
      const now = treeOf(path.join(root, 'program'));
      if (!ended.includes('done') || (!same(now, own) && !same(now, packed))) between++;
    }
    await start(root, 'back');
    const losses = same(treeOf(path.join(root, 'program')), own) ? 0 : 1;
    report({ name: 'three programs on one game at once', tries: rounds, losses, between });
    expect([losses, between]).toEqual([0, 0]);
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
});
