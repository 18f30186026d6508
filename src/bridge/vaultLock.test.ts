import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { buildSync } from 'esbuild';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { lockVault } from './vaultLock';

/*
 * The lock between processes, held against other processes that really run, are killed, or bear a number that was given
 * anew.
 */

const roots: string[] = [];
const others: ChildProcess[] = [];
afterEach(() => {
  others.splice(0).forEach((one) => one.kill('SIGKILL'));
  roots.splice(0).forEach((root) => rmSync(root, { recursive: true, force: true }));
});
function vaultDir(): string {
  const root = mkdtempSync(path.join(tmpdir(), 'satchel-lock-'));
  roots.push(root);
  return root;
}

/** The lock as the app is built: another process would take seconds to read its sources. */
const LOCK = path.resolve('.satchel/lock', `${process.pid}.mjs`);
beforeAll(() => {
  buildSync({
    entryPoints: ['src/bridge/vaultLock.ts'],
    outfile: LOCK,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    alias: { '@': path.resolve('src') },
  });
});
afterAll(() => rmSync(LOCK, { force: true }));

/** Another process that takes a vault, until it is written to. @returns what it said: `held`, or why it was refused */
async function taker(vault: string): Promise<{ said: string; process: ChildProcess }> {
  const script = `
    import { lockVault } from ${JSON.stringify(LOCK)};
    lockVault(${JSON.stringify(vault)}).then(
      (release) => { console.log('held'); process.stdin.once('data', () => release().then(() => process.exit(0))); },
      (error) => { console.log(error.code ?? String(error)); process.exit(0); },
    );`;
  const file = path.join(vault, `taker-${others.length}.mjs`);
  writeFileSync(file, script);
  const one = spawn(process.execPath, [file], { stdio: ['pipe', 'pipe', 'inherit'] });
  others.push(one);
  const said = await new Promise<string>((done) =>
    one.stdout?.once('data', (data: Buffer) => done(data.toString().trim())),
  );
  return { said, process: one };
}

/** A lock as a process leaves it that can do nothing any more. */
function leaveLock(vault: string, pid: number, ageInSeconds: number): void {
  mkdirSync(path.join(vault, 'running.lock'));
  writeFileSync(path.join(vault, 'running.json'), JSON.stringify({ pid, token: 'old' }));
  const at = Date.now() / 1000 - ageInSeconds;
  utimesSync(path.join(vault, 'running.lock'), at, at);
}

describe('the lock of a vault', () => {
  it('is refused while another process holds it, and free when that has given it back', async () => {
    const vault = vaultDir();
    const { said, process: other } = await taker(vault);
    expect(said).toBe('held');
    await expect(lockVault(vault)).rejects.toMatchObject({ code: 'vault-locked' });
    const ended = new Promise((done) => other.once('exit', done));
    other.stdin?.write('end');
    await ended;
    await (
      await lockVault(vault)
    )();
    expect(existsSync(path.join(vault, 'running.lock'))).toBe(false);
  });

  it('opens at once when its holder was killed', async () => {
    const vault = vaultDir();
    const { process: other } = await taker(vault);
    const ended = new Promise((done) => other.once('exit', done));
    other.kill('SIGKILL');
    await ended;
    await (
      await lockVault(vault)
    )();
  });

  it('a number that now belongs to another program blocks nobody for long, and a fresh one is minded', async () => {
    const vault = vaultDir();
    // The process that started this one is alive, and knows nothing of the lock.
    leaveLock(vault, process.ppid, 5);
    await expect(lockVault(vault)).rejects.toMatchObject({ code: 'vault-locked' });
    rmSync(path.join(vault, 'running.lock'), { recursive: true });
    leaveLock(vault, process.ppid, 20);
    await (
      await lockVault(vault)
    )();
  });

  it('one that was taken over is given back like any other, and renewed while it is held', async () => {
    const vault = vaultDir();
    // Linux gives no process a number above 2^22 (proc(5), pid_max).
    leaveLock(vault, 2 ** 22 + 1, 1);
    const release = await lockVault(vault);
    const before = statSync(path.join(vault, 'running.lock')).mtimeMs;
    const renewed = () => expect(statSync(path.join(vault, 'running.lock')).mtimeMs).toBeGreaterThan(before);
    await vi.waitFor(renewed, { interval: 200, timeout: 60_000 });
    await release();
    for (let i = 0; i < 3; i++) await (await lockVault(vault))();
    expect(readdirSync(vault)).toEqual([]);
  });

  it.each(['', 'nonsense', '{"pid":-1}'])('what its holder left as a name (%j) is no reason to fail', async (left) => {
    const vault = vaultDir();
    leaveLock(vault, 1, 20);
    writeFileSync(path.join(vault, 'running.json'), left);
    await (
      await lockVault(vault)
    )();
  });

  it('of four that find it left behind at the same time one gets it, five times over', async () => {
    for (let round = 0; round < 5; round++) {
      const vault = vaultDir();
      leaveLock(vault, 2 ** 22 + 1, 20);
      const said = await Promise.all([0, 1, 2, 3].map(async () => (await taker(vault)).said));
      expect(
        said.filter((one) => one === 'held'),
        said.join(),
      ).toHaveLength(1);
      others.splice(0).forEach((one) => one.kill('SIGKILL'));
    }
  });
});
