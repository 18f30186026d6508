import { createHash } from 'node:crypto';
import { describe, expect, it, vi } from 'vitest';
import { SatchelError, parseTarget, planDeployment, readState, resolveLayers } from '@/core';
import type { Folder } from '../folder';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { Bench, benchDialect, makePack } from '../../../tests/support/game';
import { text } from '../../../tests/support/bytes';
import { Asking, type StuckAnswer } from './asking';
import { checksum } from './checksums';
import { checkDeployed, takeAsOriginals, takeAsOwn } from './drift';
import { targetSchema, type JournalStep } from './model';
import { dropNamed, keepByName, listNamed } from './secondNames';
import { hashInPack, placeOf, takeBack } from './takeBack';
import { writeState } from './vault';

/** What deployments are made of, each by itself; the sums are those of Node's own hash. */

const sumOf = (words: string): string => createHash('sha256').update(words).digest('hex');
const target = (path: string) => parseTarget(path);

describe('questions about files that cannot be written', () => {
  const stuck = (name: string) => ({ target: target(`program/${name}`), why: 'it is running' });

  it('are possible where somebody listens, and answered by taking back where nobody does', async () => {
    expect(new Asking(undefined, undefined).possible).toBe(false);
    expect(await new Asking(undefined, undefined).ask(stuck('a'))).toBe('take back');
    expect(new Asking(async () => 'leave', undefined).possible).toBe(true);
  });

  it('are asked one after the other; an answer for all is asked for once', async () => {
    const asked: string[] = [];
    const answers: StuckAnswer[] = ['again', 'leave', 'leave all'];
    let open = 0;
    const asking = new Asking(async ({ target: of }) => {
      expect(open++).toBe(0);
      asked.push(of);
      await new Promise((done) => setTimeout(done, 2));
      open--;
      return answers.shift() as StuckAnswer;
    }, undefined);
    const all = await Promise.all(['a', 'b', 'c', 'd', 'e'].map((name) => asking.ask(stuck(name))));
    expect(all).toEqual(['again', 'leave', 'leave all', 'leave all', 'leave all']);
    expect(asked).toEqual(['program/a', 'program/b', 'program/c']);
  });

  it('who takes back is asked no more; nor is one who stopped it, or whose answer failed', async () => {
    const ask = vi.fn(async (): Promise<StuckAnswer> => 'take back');
    const asking = new Asking(ask, undefined);
    expect([await asking.ask(stuck('a')), await asking.ask(stuck('b'))]).toEqual(['take back', 'take back']);
    expect(ask).toHaveBeenCalledTimes(1);
    const stopped = new Asking(ask, AbortSignal.abort());
    expect(await stopped.ask(stuck('a'))).toBe('take back');
    expect(ask).toHaveBeenCalledTimes(1);
    const failing = new Asking(
      vi.fn().mockRejectedValueOnce(new Error('gone')).mockResolvedValueOnce('leave'),
      undefined,
    );
    await expect(failing.ask(stuck('a'))).rejects.toThrow('gone');
    expect(await failing.ask(stuck('b'))).toBe('leave');
  });
});

describe('places of files', () => {
  it('are a root and something in it', () => {
    for (const good of ['program/a', 'user/a/b']) expect(targetSchema.safeParse(good).success).toBe(true);
    for (const bad of ['program', 'program/', '/a', '', 'a//'])
      expect(targetSchema.safeParse(bad).success, bad).toBe(bad === 'a//');
    const bench = new Bench({}, {}, {});
    expect(placeOf(bench.workshop(), target('program/in/a'))).toEqual({ folder: bench.program, path: 'in/a' });
    expect(() => placeOf(bench.workshop(), target('elsewhere/a'))).toThrow(/folder “elsewhere”/);
  });
});

describe('checksums of the game’s files', () => {
  it('are read once for each version of a file', async () => {
    const bench = new Bench({ a: 'one' }, {}, {});
    const read = vi.spyOn(bench.program, 'read');
    const workshop = bench.workshop();
    const checksums = new Map<string, number>();
    const stat = await bench.program.stat('a');
    const file = { ...(stat as NonNullable<typeof stat>), target: target('program/a') };
    const input = { workshop, checksums } as never;
    const first = await checksum(file, input);
    const calls = read.mock.calls.length;
    // CRC-32 of “one”, by `printf one | gzip -c | tail -c8 | od -An -tx4 -N4`.
    expect([first, await checksum(file, input), read.mock.calls.length]).toEqual([0x7a6c86f1, 0x7a6c86f1, calls]);
    expect(await checksum({ ...file, modified: 1 }, input)).toBe(first);
    expect(read.mock.calls.length).toBeGreaterThan(calls);
    expect(await checksum(file, { workshop } as never)).toBe(first);
  });
});

describe('second names of files that are replaced', () => {
  const vaultWith = async (...names: string[]) => {
    const vault = new MemoryFolder();
    for (const name of names) await vault.write(name, text(name));
    return vault;
  };

  it('are listed in their order, with the hash that each was given for', async () => {
    const vault = await vaultWith('named/cc/ccc-7', 'named/aa/aab', 'objects/xx/x', 'named/aa/aaa');
    expect((await listNamed(vault)).map(({ path, hash }) => [path, hash])).toEqual([
      ['named/aa/aaa', 'aaa'],
      ['named/aa/aab', 'aab'],
      ['named/cc/ccc-7', 'ccc'],
    ]);
  });

  it('go with their folders where a deployment has not landed', async () => {
    const vault = await vaultWith('named/aa/a', 'named/aa/b', 'named/cc/c', 'objects/xx/x');
    await dropNamed(vault);
    expect([Object.keys(vault.contents()), vault.folders().filter((one) => one.startsWith('named/'))]).toEqual([
      ['objects/xx/x'],
      [],
    ]);
    // A folder that cannot take folders away does without.
    const plain = await vaultWith('named/aa/a');
    await dropNamed(Object.assign(Object.create(plain) as MemoryFolder, { removeFolder: undefined }));
    expect(Object.keys(plain.contents())).toEqual([]);
  });

  it('are given only where the file is as it was read, and the vault can move them', async () => {
    const [vault, folder] = [new MemoryFolder(), new MemoryFolder({ a: 'mine' })];
    const stat = (await folder.stat('a')) as NonNullable<Awaited<ReturnType<MemoryFolder['stat']>>>;
    const hash = sumOf('mine');
    const give = (of: Partial<typeof stat>, to: Folder = vault, step?: number) =>
      keepByName(to, { folder, path: 'a', stat: { ...stat, ...of } }, { sha256: hash }, step);
    for (const changed of [{ size: 3 }, { modified: 1 }]) {
      await expect(give(changed)).rejects.toMatchObject({
        code: 'changed-since-plan',
        failure: { details: { path: 'a' } },
      });
      expect(Object.keys(vault.contents())).toEqual([]);
    }
    const still = Object.assign(Object.create(vault) as MemoryFolder, { move: undefined });
    expect(await give({}, still)).toBeUndefined();
    const fresh = new MemoryFolder({ a: 'mine' });
    const at = (await fresh.stat('a')) as typeof stat;
    const name = await keepByName(vault, { folder: fresh, path: 'a', stat: at }, { sha256: hash }, 7);
    expect(name).toBe(`named/${hash.slice(0, 2)}/${hash}-7`);
    expect(Object.keys(vault.contents())).toEqual([name]);
  });
});

describe('a file that is brought back', () => {
  const step = (more: Partial<JournalStep>): JournalStep => ({
    action: 'replace',
    target: target('program/a'),
    layer: 'layer-p',
    before: { kind: 'absent' },
    after: { kind: 'absent' },
    ...more,
  });

  it('goes where there was none, but not one that another program has put there', async () => {
    const bench = new Bench({ a: 'new', b: 'theirs' }, {}, { p: await makePack('p.zip', { a: 'new', b: 'new' }) });
    const after = (path: string) => ({ kind: 'pack', packId: 'p', path, size: 3 }) as const;
    const told: number[] = [];
    const left = await takeBack(
      [step({ after: after('a') }), step({ target: target('program/b'), after: after('b') })],
      bench.workshop(),
      ({ done, total }) => told.push(done, total),
    );
    expect([left, bench.contents()]).toEqual([['program/b'], { 'program/b': 'theirs' }]);
    expect(told).toEqual([1, 2, 2, 2]);
    // Theirs is kept among the vault's contents, too.
    expect(Object.values(bench.vault.contents()).map((one) => Buffer.from(one).toString())).toContain('theirs');
  });

  it('one whose folder takes it but has it not is said', async () => {
    const bench = new Bench({ a: 'new' }, {}, { p: await makePack('p.zip', { a: 'new', o: 'old' }) });
    const deaf = (folder: Folder): Folder =>
      Object.assign(Object.create(folder) as Folder, {
        write: () => Promise.resolve(),
        holds: () => Promise.resolve(undefined),
        writeAndReadBack: () => Promise.resolve(undefined),
      });
    const pack = (path: string) => ({ kind: 'pack', packId: 'p', path, size: 3 }) as const;
    await expect(takeBack([step({ before: pack('o'), after: pack('a') })], bench.workshop(deaf))).rejects.toMatchObject(
      { code: 'not-landed', failure: { details: { path: 'program/a' } } },
    );
  });

  it('has the sum that its pack’s file has', async () => {
    const pack = await makePack('p.zip', { a: 'some words' });
    const openPack = async () => pack;
    expect(await hashInPack({ packId: 'p', path: 'a', size: 10 }, { openPack })).toBe(sumOf('some words'));
  });
});

describe('what was deployed and is otherwise now', () => {
  async function deployed() {
    const bench = new Bench({ a: 'own' }, {}, { p: await makePack('p.zip', { a: 'new', b: 'new b', c: 'new c' }) });
    await bench.deploy([{ pack: 'p' }]);
    return bench;
  }
  const files = async (bench: Bench) =>
    Object.fromEntries((await readState(bench.vault)).files.map((file) => [file.target, file]));

  it('is found by its bytes, though its date says nothing, and every later plan sees it', async () => {
    const bench = await deployed();
    const before = await bench.program.stat('b');
    bench.program.writeInto('b', 'NEW b');
    bench.program.setDate('b', before?.modified ?? 0);
    await bench.program.remove('c');
    const told: unknown[] = [];
    const found = await checkDeployed(bench.workshop(), { onProgress: (progress) => told.push(progress) });
    expect(found).toEqual({ files: 3, drifted: ['program/b', 'program/c'] });
    expect(told).toEqual([{ phase: 'Reading what is deployed', done: 3, total: 3, unit: 'files' }]);
    expect((await bench.plan([{ pack: 'p' }])).drifted.map(({ target: of, how }) => [of, how])).toEqual([
      ['program/b', 'changed'],
      ['program/c', 'deleted'],
    ]);
    await expect(checkDeployed(bench.workshop(), { signal: AbortSignal.abort() })).rejects.toMatchObject({
      code: 'cancelled',
    });
  });

  it('by sums that a folder far away tells', async () => {
    const bench = await deployed();
    const asked: unknown[] = [];
    const far = (folder: Folder): Folder =>
      folder === bench.program
        ? Object.assign(Object.create(folder) as Folder, {
            digests: (kind: string, paths: string[]) => {
              asked.push([kind, [...paths].sort()]);
              return Promise.resolve(
                paths.map((path) => (path === 'a' ? sumOf('new') : path === 'b' ? 'x' : undefined)),
              );
            },
          })
        : folder;
    expect(await checkDeployed(bench.workshop(far))).toEqual({ files: 3, drifted: ['program/b', 'program/c'] });
    expect(asked).toEqual([['sha256', ['a', 'b', 'c']]]);
  });

  it('can be taken as the game’s own, or as the player’s; what is gone stays as it was noted', async () => {
    const bench = await deployed();
    bench.program.writeInto('a', 'mine now');
    await bench.program.remove('c');
    const before = await files(bench);
    const own = await takeAsOwn(bench.workshop(), [target('program/a'), target('program/c')], 'my own');
    expect(own).toEqual([{ target: 'program/a', sha256: sumOf('mine now'), size: 8 }]);
    const now = await files(bench);
    expect(now['program/a']).toMatchObject({
      layer: 'my own',
      sha256: sumOf('mine now'),
      original: before['program/a']?.original,
    });
    expect([now['program/b'], now['program/c']]).toEqual([before['program/b'], before['program/c']]);
    await takeAsOriginals(bench.workshop(), []);
    await takeAsOriginals(
      bench.workshop(),
      [target('PROGRAM/A'), target('program/b')].map((one) => one),
    );
    expect(Object.keys(await files(bench))).toEqual(['program/c']);
  });
});

describe('plans are told in order', () => {
  it('what drifted, what is forgotten and what is refused, whatever came first', async () => {
    const names = ['e', 'b', 'd', 'a', 'c'];
    const bench = new Bench({}, {}, { p: await makePack('p.zip', Object.fromEntries(names.map((one) => [one, one]))) });
    await bench.deploy([{ pack: 'p' }]);
    const state = await readState(bench.vault);
    await writeState(bench.vault, { ...state, files: [...state.files].reverse() });
    for (const name of names) await bench.program.remove(name);
    const plan = await bench.plan([]);
    const sorted = [...names].sort().map((one) => `program/${one}`);
    expect(plan.drifted.map((one) => one.target)).toEqual(sorted);
    expect(plan.forget).toEqual(sorted);
  });

  it('a failure that is not about one file is no refusal', async () => {
    const bench = new Bench({ a: 'one' }, {}, { p: await makePack('p.zip', { a: 'two' }) });
    const stack = [{ pack: 'p' }];
    const failing = (error: Error) => ({
      ...bench.workshop(),
      folders: {
        user: bench.user,
        program: Object.assign(Object.create(bench.program) as Folder, {
          read: () => Promise.reject(error),
          readBytes: () => Promise.reject(error),
          statAndHash: () => Promise.reject(error),
        }),
      },
    });
    const plan = (error: Error) =>
      planDeployment({
        workshop: failing(error),
        resolution: resolveLayers(bench.layers(stack)),
        state: { format: 1, folders: [], files: [] },
        dialectOf: benchDialect,
        nameOf: (layer) => layer,
      });
    const refused = new SatchelError('folder-refused', { path: 'a', why: 'it is running' });
    expect((await plan(refused)).refused).toEqual([
      { target: 'program/a', why: expect.stringContaining('it is running') as string },
    ]);
    for (const other of [new SatchelError('cancelled'), new Error('folder-refused')])
      await expect(plan(other)).rejects.toBe(other);
  });
});
