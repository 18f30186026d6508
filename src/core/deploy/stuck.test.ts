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
const makeBench = async () =>
  new Bench(
    { a: 'own a', b: 'own b', 'sub/c': 'own c', other: 'own' },
    {},
    { p: await makePack('p.zip', Object.fromEntries(FILES.map((path) => [path, `pack ${path}`]))) },
  );

describe('a file that cannot be written', () => {
  const attempt = async (
    bench: Bench,
    locked: Set<string>,
    answer: (target: string) => StuckAnswer,
    wanted = stack,
  ) => {
    const asked: string[] = [];
    const workshop = bench.workshop((folder) => (folder === bench.program ? new LockedFolder(folder, locked) : folder));
    const entry = await deploy(await bench.plan(wanted), workshop, {
      title: 'Deploy',
      layers: bench.layers(wanted),
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
    await expect(attempt(bench, new Set(['b']), () => 'take back')).rejects.toMatchObject({
      code: 'taken-back',
      message: expect.stringContaining('another program uses it') as string,
    });
    expect(bench.contents()).toEqual(before);
    expect(bench.tree()).toEqual(['program/sub']);
  });

  it('asks once for “take everything back”, however many files wait', async () => {
    const bench = await makeBench();
    const before = bench.contents();
    let asked = 0;
    const workshop = bench.workshop((folder) =>
      folder === bench.program ? new LockedFolder(folder, new Set(FILES)) : folder,
    );
    const onStuck = async (): Promise<StuckAnswer> => (asked++, 'take back');
    await expect(
      deploy(await bench.plan(stack), workshop, { title: 'Deploy', layers: [], onStuck }),
    ).rejects.toMatchObject({ code: 'taken-back' });
    expect(asked).toBe(1);
    expect(bench.contents()).toEqual(before);
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
        for (const path of FILES)
          expect(bench.contents()[`program/${path}`], path).toBe(
            lockedFirst.includes(path) ? before[`program/${path}`] : `pack ${path}`,
          );
        expect((await bench.plan(stack)).steps.map(({ target }) => target)).toEqual(
          lockedFirst.map((path) => `program/${path}`).sort(),
        );
        expect((await readState(bench.vault)).files.map(({ target }) => target)).toEqual(
          FILES.filter((path) => !lockedFirst.includes(path))
            .map((path) => `program/${path}`)
            .sort(),
        );
        // Taking it out again, with other files locked.
        await attempt(bench, new Set(lockedThen), () => 'leave', []);
        for (const path of FILES)
          if (lockedThen.includes(path) && !lockedFirst.includes(path))
            expect(bench.contents()[`program/${path}`], path).toBe(`pack ${path}`);
        await restore(bench.workshop(), { dialectOf: benchDialect });
        expect(bench.contents()).toEqual(before);
        expect(bench.tree()).toEqual(tree);
      }),
      { numRuns: 60 },
    );
  });
});

describe('a file that may not be read', () => {
  /** The folder as this user has it: some files may be seen and not be read. */
  const closed = (folder: Folder, names: ReadonlySet<string>): Folder => {
    const read = async (path: string): Promise<Blob> => {
      if (names.has(path)) throw new SatchelError('folder-refused', { path, why: 'this user may not read it' });
      return folder.read(path);
    };
    return {
      list: (under) => folder.list(under),
      stat: (path) => folder.stat(path),
      read,
      write: (path, data) => folder.write(path, data),
      remove: (path) => folder.remove(path),
    };
  };

  it('is asked about, stays as it is, and all others land', async () => {
    const bench = await makeBench();
    const before = bench.contents();
    const workshop = bench.workshop((folder) => (folder === bench.program ? closed(folder, new Set(['b'])) : folder));
    const asked: string[] = [];
    const entry = await deploy(await bench.plan(stack, workshop), workshop, {
      title: 'Deploy',
      layers: [],
      onStuck: async ({ target }) => (asked.push(target), 'leave'),
    });
    expect(asked).toEqual(['program/b']);
    expect(entry).toMatchObject({ landed: 4, leftOut: ['program/b'] });
    expect(bench.contents()).toEqual({
      ...before,
      ...Object.fromEntries(FILES.filter((path) => path !== 'b').map((path) => [`program/${path}`, `pack ${path}`])),
    });
    await restore(bench.workshop(), { dialectOf: benchDialect });
    expect(bench.contents()).toEqual(before);
  });

  it('of the size that a pack wants it to have is left out of the plan, with the reason, and keeps no other out', async () => {
    const bench = new Bench(
      { a: 'own a', b: 'pack B' },
      {},
      { p: await makePack('p.zip', { a: 'pack a', b: 'pack b' }) },
    );
    const plan = await bench.plan(
      stack,
      bench.workshop((folder) => (folder === bench.program ? closed(folder, new Set(['b'])) : folder)),
    );
    expect(plan.steps.map(({ target }) => target)).toEqual(['program/a']);
    expect(plan.refused).toMatchObject([
      { target: 'program/b', why: expect.stringContaining('this user may not read it') as string },
    ]);
  });
});

describe('an original that is damaged', () => {
  const damage = (bench: Bench, text: string) => {
    for (const folder of [bench.vault, bench.backup])
      for (const [path, data] of Object.entries(folder.contents()))
        if (new TextDecoder().decode(data) === text) folder.writeInto(path, 'rot');
  };

  it('is named, may be left out, and all others go back; it stays to be done', async () => {
    const bench = await makeBench();
    const before = bench.contents();
    await bench.deploy(stack);
    damage(bench, 'own b');
    const asked: unknown[] = [];
    const entry = await restore(bench.workshop(), {
      dialectOf: benchDialect,
      onStuck: async (stuck) => (asked.push(stuck), 'leave'),
    });
    expect(asked).toMatchObject([
      { target: 'program/b', how: 'lost', why: expect.stringContaining('damaged') as string },
    ]);
    expect(entry.leftOut).toEqual(['program/b']);
    expect(bench.contents()).toEqual({ ...before, 'program/b': 'pack b' });
    expect((await readState(bench.vault)).files.map(({ target }) => target)).toEqual(['program/b']);
  });

  it('comes out of its plain copy where that is good', async () => {
    const bench = await makeBench();
    const before = bench.contents();
    await bench.deploy(stack);
    for (const [path, data] of Object.entries(bench.vault.contents()))
      if (new TextDecoder().decode(data) === 'own b') bench.vault.writeInto(path, 'rot');
    await restore(bench.workshop(), { dialectOf: benchDialect });
    expect(bench.contents()).toEqual(before);
  });

  it('under settings keeps nothing else from being planned', async () => {
    const bench = new Bench(
      { a: 'own a' },
      { 'settings.ini': '[Graphics]\nAddon=0\n' },
      { p: await makePack('p.zip', { a: 'pack a' }) },
    );
    const both: StackItem[] = [...stack, { edits: [{ path: ['Graphics', 'Addon'], value: '1' }] }];
    await bench.deploy(both);
    damage(bench, '[Graphics]\nAddon=0\n');
    const plan = await bench.plan([]);
    expect(plan.steps.map(({ target }) => target)).toEqual(['program/a']);
    expect(plan.refused.map(({ target }) => target)).toEqual(['user/settings.ini']);
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
