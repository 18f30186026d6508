import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SatchelError, deploy, readState, restore, type FileStat, type Folder, type StuckAnswer } from '@/core';
import { Bench, benchDialect, makePack, type StackItem } from '../../../tests/support/game';

/** A folder in which another program holds some files. */
class LockedFolder implements Folder {
  constructor(
    private readonly inner: Folder,
    private readonly locked: ReadonlySet<string>,
  ) {}
  list(under?: string): AsyncIterable<FileStat> {
    return this.inner.list(under);
  }
  stat = (path: string) => this.inner.stat(path);
  read = (path: string) => this.inner.read(path);
  hasFolder = async (path: string) => (await this.inner.hasFolder?.(path)) ?? true;
  removeFolder = async (path: string) => (await this.inner.removeFolder?.(path)) ?? true;
  private refuse(path: string): void {
    if (this.locked.has(path)) throw new SatchelError('folder-refused', { path, why: 'another program uses it' });
  }
  async write(path: string, data: Blob | Uint8Array): Promise<void> {
    this.refuse(path);
    return this.inner.write(path, data);
  }
  async remove(path: string): Promise<void> {
    this.refuse(path);
    return this.inner.remove(path);
  }
}

const FILES = ['a', 'b', 'sub/c', 'new/d', 'new/deep/e'];
const stack: StackItem[] = [{ pack: 'p' }];
const makeBench = async () => new Bench({ a: 'own a', b: 'own b', 'sub/c': 'own c', other: 'own' }, {}, { p: await makePack('p.zip', Object.fromEntries(FILES.map((path) => [path, `pack ${path}`]))) });

describe('a file that cannot be written', () => {
  const attempt = async (bench: Bench, locked: Set<string>, answer: (target: string) => StuckAnswer, wanted = stack) => {
    const asked: string[] = [];
    const workshop = bench.workshop((folder) => (folder === bench.program ? new LockedFolder(folder, locked) : folder));
    const entry = await deploy(await bench.plan(wanted), workshop, {
      title: 'Deploy', layers: bench.layers(wanted),
      onStuck: async ({ target, why }) => {
        expect(why).toContain('another program uses it');
        asked.push(target);
        return answer(target);
      },
    });
    return { entry, asked };
  };

  it('is tried again when the player says so', async () => {
    const bench = await makeBench();
    const locked = new Set(['b']);
    const { entry, asked } = await attempt(bench, locked, () => (locked.clear(), 'again'));
    expect(asked).toEqual(['program/b']);
    expect(entry).toMatchObject({ landed: 5 });
    expect(entry.leftOut).toBeUndefined();
    expect(bench.contents()['program/b']).toBe('pack b');
  });

  it('makes everything go back when the player says so', async () => {
    const bench = await makeBench();
    const before = bench.contents();
    await expect(attempt(bench, new Set(['b']), () => 'take back')).rejects.toMatchObject({ code: 'taken-back', message: expect.stringContaining('another program uses it') as string });
    expect(bench.contents()).toEqual(before);
    expect(bench.tree()).toEqual(['program/sub']);
  });

  it('asks once for “leave all”', async () => {
    const bench = await makeBench();
    const { entry, asked } = await attempt(bench, new Set(['a', 'b', 'new/d']), () => 'leave all');
    expect(asked).toHaveLength(1);
    expect(entry.leftOut).toEqual(['program/a', 'program/b', 'program/new/d']);
    expect(entry).toMatchObject({ landed: 2, counts: { add: 1, replace: 1 } });
  });

  it('law: what is left out stays as it was and stays to be done; the rest lands; all of it goes back', async () => {
    await fc.assert(
      fc.asyncProperty(fc.subarray(FILES), fc.subarray(FILES), async (lockedFirst, lockedThen) => {
        const bench = await makeBench();
        const before = bench.contents();
        const tree = bench.tree();
        await attempt(bench, new Set(lockedFirst), () => 'leave');
        for (const path of FILES) expect(bench.contents()[`program/${path}`], path).toBe(lockedFirst.includes(path) ? before[`program/${path}`] : `pack ${path}`);
        expect((await bench.plan(stack)).steps.map(({ target }) => target)).toEqual(lockedFirst.map((path) => `program/${path}`).sort());
        expect((await readState(bench.vault)).files.map(({ target }) => target)).toEqual(FILES.filter((path) => !lockedFirst.includes(path)).map((path) => `program/${path}`).sort());
        // Taking it out again, with other files locked.
        await attempt(bench, new Set(lockedThen), () => 'leave', []);
        for (const path of FILES) if (lockedThen.includes(path) && !lockedFirst.includes(path)) expect(bench.contents()[`program/${path}`], path).toBe(`pack ${path}`);
        await restore(bench.workshop(), { dialectOf: benchDialect });
        expect(bench.contents()).toEqual(before);
        expect(bench.tree()).toEqual(tree);
      }),
      { numRuns: 60 },
    );
  });
});

describe('room', () => {
  it('refuses what does not fit before anything is written', async () => {
    const bench = await makeBench();
    const before = bench.contents();
    // Packs' files are 47 bytes, originals twice 15: in the vault and in the backup folder.
    bench.program.left = bench.vault.left = bench.backup.left = 76;
    await expect(bench.deploy(stack)).rejects.toMatchObject({ code: 'no-room-to-deploy' });
    expect(bench.contents()).toEqual(before);
    expect(Object.keys(bench.vault.contents())).toEqual([]);
    bench.program.left = bench.vault.left = bench.backup.left = 77;
    expect((await bench.deploy(stack)).landed).toBe(5);
  });
});

describe('the backup folder', () => {
  it('keeps the first original when a game update brings another one, and lists only what lies there', async () => {
    const bench = await makeBench();
    await bench.deploy(stack);
    await restore(bench.workshop(), { dialectOf: benchDialect });
    await bench.program.write('a', new TextEncoder().encode('updated a'));
    await bench.deploy(stack);
    const text = (path: string) => new TextDecoder().decode(bench.backup.contents()[path]);
    expect(text('data/program/a')).toBe('updated a');
    const earlier = Object.keys(bench.backup.contents()).filter((path) => path.startsWith('earlier/'));
    expect(earlier.map((path) => path.split('/').slice(2).join('/'))).toEqual(['program/a']);
    expect(text(earlier[0] as string)).toBe('own a');
  });
});
