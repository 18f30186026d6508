import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  chmodSync,
  closeSync,
  linkSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { DiskFolder } from '@/bridge/disk';
import { deploy, makeBackup, readKept, readState, recover, restore, type FileStat, parseTarget } from '@/core';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { Bench, benchDialect, makePack } from '../../../tests/support/game';
import { keepByName } from './secondNames';

/**
 * Originals that are kept by giving them a second name: until a deployment has landed, they are the game's own files.
 */

const OWN = { 'a.png': 'own a', 'twin.png': 'own a', 'c.png': 'own c' };

const bench = async () =>
  new Bench(OWN, {}, { p: await makePack('p.zip', { 'a.png': 'new a', 'twin.png': 'new twin', 'c.png': 'new c' }) });

const named = ({ vault }: Bench) => Object.keys(vault.contents()).filter((of) => of.startsWith('named/'));

describe('a program that had a file open', () => {
  it('writes to it while a deployment is under way: what it wrote is put back, and the deployment says why', async () => {
    const game = await bench();
    const plan = await game.plan([{ pack: 'p' }]);
    const onProgress = ({ phase, done }: { phase: string; done: number }) => {
      const [name] = named(game).filter((of) => new TextDecoder().decode(game.vault.contents()[of]) === 'own c');
      if (phase.startsWith('Writing') && done === 3 && name) game.vault.writeInto(name, 'saved by the game');
    };
    await expect(deploy(plan, game.workshop(), { title: 'Deploy', layers: [], onProgress })).rejects.toMatchObject({
      code: 'taken-back',
    });
    expect(game.contents()).toEqual({
      'program/a.png': 'own a',
      'program/twin.png': 'own a',
      'program/c.png': 'saved by the game',
    });
    expect(named(game)).toEqual([]);
  });

  it('writes to it after a deployment was taken back: nothing that was kept meanwhile changes with it', async () => {
    const game = await bench();
    const stop = new AbortController();
    const onProgress = ({ phase, done }: { phase: string; done: number }) =>
      phase.startsWith('Writing') && done === 1 && stop.abort();
    await expect(
      deploy(await game.plan([{ pack: 'p' }]), game.workshop(), {
        title: 'Deploy',
        layers: [],
        signal: stop.signal,
        onProgress,
      }),
    ).rejects.toMatchObject({ code: 'cancelled' });
    const { files } = await makeBackup(game.workshop(), {
      id: 'before',
      name: 'Before',
      targets: [parseTarget('program/c.png')],
    });
    game.program.writeInto('c.png', 'saved by the game');
    expect(new TextDecoder().decode(await readKept(game.vault, files[0]?.content as never))).toBe('own c');
    // The next deployment keeps what is there now.
    await game.deploy([{ pack: 'p' }]);
    await restore(game.workshop(), { dialectOf: benchDialect });
    expect(game.contents()).toEqual({
      'program/a.png': 'own a',
      'program/twin.png': 'own a',
      'program/c.png': 'saved by the game',
    });
  });
});

it('originals lie under their lasting names on the disk before the journal goes', async () => {
  const game = await bench();
  const calls: string[] = [];
  const heard = <T extends object>(folder: T, of: string): T =>
    new Proxy(folder, {
      get: (inner, name) => {
        const value: unknown = name === 'settle' ? async () => undefined : Reflect.get(inner, name);
        if (typeof value !== 'function') return value;
        return (...args: unknown[]): unknown => {
          calls.push(`${of} ${String(name)} ${typeof args[0] === 'string' ? args[0] : ''}`.trim());
          return Reflect.apply(value, inner, args);
        };
      },
    });
  const plan = await game.plan([{ pack: 'p' }]);
  const workshop = game.workshop();
  await deploy(
    plan,
    { ...workshop, vault: heard(workshop.vault, 'vault'), backup: heard(new MemoryFolder(), 'backup') },
    { title: 'Deploy', layers: [] },
  );
  const closed = calls.findIndex((call) => call.startsWith('vault remove journal'));
  const since = calls.findLastIndex((call) => call.startsWith('vault move'));
  expect(since).toBeGreaterThan(-1);
  expect(calls.slice(since, closed)).toContain('vault settle');
  // The plain copies come afterwards: nobody waits for them with an open journal.
  expect(calls.findIndex((call) => call.startsWith('backup write data/'))).toBeGreaterThan(closed);
});

it('a file that was written to between its reading and its second name is not kept so', async () => {
  const { program, vault } = await bench();
  const seen = (await program.stat('c.png')) as FileStat;
  program.writeInto('c.png', 'own x');
  await expect(
    keepByName(vault, { folder: program, path: 'c.png', stat: seen }, { sha256: 'f'.repeat(64) }),
  ).rejects.toMatchObject({ code: 'changed-since-plan' });
  expect(Object.keys(vault.contents())).toEqual([]);
  expect(
    await keepByName(
      vault,
      { folder: program, path: 'c.png', stat: (await program.stat('c.png')) as FileStat },
      { sha256: 'f'.repeat(64) },
    ),
  ).toBe(`named/ff/${'f'.repeat(64)}`);
});

it('the same bytes were kept long ago and are damaged by now: a stopped deployment is taken back all the same, and one that lands mends them', async () => {
  const game = await bench();
  await game.deploy([{ pack: 'p' }]);
  await restore(game.workshop(), { dialectOf: benchDialect });
  const [object] = Object.keys(game.vault.contents()).filter(
    (of) => new TextDecoder().decode(game.vault.contents()[of]) === 'own c',
  );
  game.vault.writeInto(object as string, 'damaged');
  const stop = new AbortController();
  const onProgress = ({ phase, done }: { phase: string; done: number }) =>
    phase.startsWith('Writing') && done === 3 && stop.abort();
  await expect(
    deploy(await game.plan([{ pack: 'p' }]), game.workshop(), {
      title: 'Deploy',
      layers: [],
      signal: stop.signal,
      onProgress,
    }),
  ).rejects.toMatchObject({ code: 'cancelled' });
  const own = { 'program/a.png': 'own a', 'program/twin.png': 'own a', 'program/c.png': 'own c' };
  expect(game.contents()).toEqual(own);
  await game.deploy([{ pack: 'p' }]);
  await restore(game.workshop(), { dialectOf: benchDialect });
  expect(game.contents()).toEqual(own);
});

describe.skipIf(process.platform === 'win32')('on a disk', () => {
  const roots: string[] = [];
  afterEach(() => roots.splice(0).forEach((root) => rmSync(root, { recursive: true, force: true })));

  const onDisk = async () => {
    const root = mkdtempSync(path.join(tmpdir(), 'satchel-named-'));
    roots.push(root);
    const at = (name: string) => path.join(root, 'game', name);
    mkdirSync(path.join(root, 'game'));
    for (const [name, text] of Object.entries(OWN)) writeFileSync(at(name), text);
    const memory = await bench();
    const workshop = {
      ...memory.workshop(),
      folders: { program: DiskFolder.open(path.join(root, 'game')), user: memory.user },
      vault: DiskFolder.make(path.join(root, 'backup/satchel')),
      backup: DiskFolder.make(path.join(root, 'backup')),
    };
    return { root, at, memory, workshop };
  };
  const inode = (of: string): number => statSync(of).ino;

  it('the very file is kept and written nowhere else; sha256sum finds every copy good, and restoring gives every byte back', async () => {
    const { root, at, memory, workshop } = await onDisk();
    const before = inode(at('c.png'));
    await memory.deploy([{ pack: 'p' }], workshop);
    const hash = createHash('sha256').update('own c').digest('hex');
    expect(inode(path.join(root, 'backup/satchel/objects', hash.slice(0, 2), hash))).toBe(before);
    // The plain copy is a file of its own: whoever writes to one of the two does not write to the other.
    expect(inode(path.join(root, 'backup/data/program/c.png'))).not.toBe(before);
    expect(readFileSync(at('c.png'), 'utf8')).toBe('new c');
    expect(
      execFileSync('sha256sum', ['-c', 'manifest-sha256.txt'], { cwd: path.join(root, 'backup') }).toString(),
    ).toBe('data/program/a.png: OK\ndata/program/c.png: OK\ndata/program/twin.png: OK\n');
    expect(readdirSync(path.join(root, 'backup/satchel/named'))).toEqual([]);
    // Twins are kept once, and not as the one file that was in the game.
    expect((await readState(workshop.vault)).files.map(({ original }) => original.kind)).toEqual([
      'kept',
      'kept',
      'kept',
    ]);
    await restore(workshop, { dialectOf: benchDialect });
    for (const [name, text] of Object.entries(OWN)) expect(readFileSync(at(name), 'utf8')).toBe(text);
    // What goes back is a copy: the game may write to it.
    expect(inode(at('c.png'))).not.toBe(before);
  });

  it('a file that has another name already is copied: another program may write to it by that', async () => {
    const { root, at, memory, workshop } = await onDisk();
    linkSync(at('c.png'), path.join(root, 'elsewhere'));
    await memory.deploy([{ pack: 'p' }], workshop);
    writeFileSync(path.join(root, 'elsewhere'), 'changed');
    await restore(workshop, { dialectOf: benchDialect });
    expect(readFileSync(at('c.png'), 'utf8')).toBe('own c');
  });

  it('files that the player leaves as they were lose their second names: nothing relies on a file that is still in the game', async () => {
    const { root, at, memory, workshop } = await onDisk();
    const plan = await memory.plan([{ pack: 'p' }], workshop);
    // One is read-only from the beginning, the other when its originals have been kept.
    chmodSync(at('a.png'), 0o444);
    const onProgress = ({ phase, done }: { phase: string; done: number }) =>
      phase.startsWith('Keeping') && done === 3 && chmodSync(at('c.png'), 0o444);
    const entry = await deploy(plan, workshop, {
      title: 'Deploy',
      layers: [],
      onProgress,
      onStuck: async () => 'leave',
    });
    expect(entry.leftOut).toEqual(['program/a.png', 'program/c.png']);
    expect(readdirSync(path.join(root, 'backup/satchel/named'))).toEqual([]);
    expect([statSync(at('a.png')).nlink, statSync(at('c.png')).nlink]).toEqual([1, 1]);
    await restore(workshop, { dialectOf: benchDialect });
    for (const [name, text] of Object.entries(OWN)) expect(readFileSync(at(name), 'utf8')).toBe(text);
  });

  it('a program writes through a handle that it holds open: it is noticed, and what it wrote is put back', async () => {
    const { at, memory, workshop } = await onDisk();
    const handle = openSync(at('c.png'), 'r+');
    const onProgress = ({ phase, done }: { phase: string; done: number }) =>
      phase.startsWith('Writing') && done === 3 && writeSync(handle, 'saved by the game');
    const plan = await memory.plan([{ pack: 'p' }], workshop);
    await expect(deploy(plan, workshop, { title: 'Deploy', layers: [], onProgress })).rejects.toMatchObject({
      code: 'taken-back',
    });
    closeSync(handle);
    expect(readFileSync(at('c.png'), 'utf8')).toBe('saved by the game');
    expect(await recover(workshop)).toBeUndefined();
  });
});
