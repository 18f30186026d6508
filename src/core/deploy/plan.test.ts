import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  SatchelError,
  planDeployment,
  resolveLayers,
  type DeployedState,
  type Folder,
  type Plan,
  parseTarget,
} from '@/core';
import { Bench, SETTINGS, benchDialect, makePack, type Contents } from '../../../tests/support/game';

const nothing: DeployedState = { format: 1, folders: [], files: [] };
const planOf = (bench: Bench, stack: Parameters<Bench['layers']>[0], folders?: Record<string, Folder>): Promise<Plan> =>
  planDeployment({
    workshop: { ...bench.workshop(), ...(folders ? { folders } : {}) },
    resolution: resolveLayers(bench.layers(stack)),
    state: nothing,
    dialectOf: benchDialect,
    nameOf: (layer) => layer,
  });

/** The same folder, listed the other way round. */
const backwards = (folder: Folder): Folder => ({
  stat: (path) => folder.stat(path),
  read: (path) => folder.read(path),
  write: (path, data) => folder.write(path, data),
  remove: (path) => folder.remove(path),
  async *list(under) {
    const all = [];
    for await (const stat of folder.list(under)) all.push(stat);
    yield* all.reverse();
  },
});

const names = fc.constantFrom('a', 'b/c', 'b/d', 'e/f/g', 'h');
const contents = fc.dictionary(names, fc.constantFrom('one', 'two', 'three'), { maxKeys: 5 });

describe('plans', () => {
  it('law: for a fresh game, steps are exactly the files that are missing or differ, in order of their names', async () => {
    await fc.assert(
      fc.asyncProperty(
        contents,
        contents.filter((files) => Object.keys(files).length > 0),
        async (game, files) => {
          const bench = new Bench(game, {}, { p: await makePack('p.zip', files) });
          const plan = await planOf(bench, [{ pack: 'p' }]);
          const naive = Object.keys(files)
            .filter((path) => game[path] !== files[path])
            .sort()
            .map((path) => `${path in game ? 'replace' : 'add'} program/${path}`);
          expect(plan.steps.map(({ action, target }) => `${action} ${target}`)).toEqual(naive);
          expect(plan.unchanged).toBe(Object.keys(files).length - naive.length);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('law: the same plan, whatever the order in which folders list their files', async () => {
    await fc.assert(
      fc.asyncProperty(
        contents,
        contents.filter((files) => Object.keys(files).length > 0),
        async (game, files) => {
          const bench = new Bench(game, { 'settings.ini': '[a]\nx=1\n' }, { p: await makePack('p.zip', files) });
          const stack = [{ pack: 'p' }, { edits: [{ path: ['a', 'x'], value: '2' }] }];
          const turned = await planOf(bench, stack, { program: backwards(bench.program), user: backwards(bench.user) });
          expect(turned).toEqual(await planOf(bench, stack));
        },
      ),
      { numRuns: 100 },
    );
  });

  it('writes nothing, ever', async () => {
    const bench = new Bench(
      { a: 'old' },
      { 'settings.ini': '[a]\nx=1\n' },
      { p: await makePack('p.zip', { a: 'new', b: 'more' }) },
    );
    const refuse = (folder: Folder): Folder => ({
      list: (under) => folder.list(under),
      stat: (path) => folder.stat(path),
      read: (path) => folder.read(path),
      write: () => Promise.reject(new Error('a plan wrote')),
      remove: () => Promise.reject(new Error('a plan removed')),
    });
    const workshop = bench.workshop(refuse);
    const plan = await planDeployment({
      workshop,
      resolution: resolveLayers(bench.layers([{ pack: 'p' }, { edits: [{ path: ['a', 'x'], value: '2' }] }])),
      state: nothing,
      dialectOf: benchDialect,
      nameOf: (layer) => layer,
    });
    expect(plan.steps).toHaveLength(3);
  });

  it('says why, in a sentence, for every step', async () => {
    const bench = new Bench(
      { a: 'old' },
      { 'settings.ini': '[a]\nx=1\n' },
      { p: await makePack('p.zip', { a: 'new', b: 'more' }) },
    );
    const { steps } = await planOf(bench, [
      { pack: 'p' },
      {
        edits: [
          { path: ['a', 'x'], value: '2' },
          { path: ['a', 'y'], value: '3' },
        ],
      },
    ]);
    expect(steps.map(({ reason }) => reason)).toEqual([
      '“layer-p” replaces the game’s own file, which is kept first.',
      '“layer-p” brings it; the game has no such file.',
      'a › x: 1 becomes 2; a › y is new: 3. The rest of the file stays as it is.',
    ]);
  });

  it('refuses an edit in a file whose form nobody knows, and one that the encoding cannot hold', async () => {
    const latin: Contents = { 'settings.ini': '[a]\nx=1\n' };
    const bench = new Bench({}, latin, {});
    const edits = bench.layers([{ edits: [{ path: ['a', 'x'], value: '→' }] }]);
    await bench.user.write('settings.ini', Uint8Array.from([...new TextEncoder().encode('[a]\nx='), 0xe4, 0x0a]));
    const plan = await planDeployment({
      workshop: bench.workshop(),
      resolution: resolveLayers([
        ...edits,
        {
          kind: 'edits',
          id: 'odd',
          name: 'odd',
          file: parseTarget('user/odd.bin'),
          edits: [{ path: ['k'], value: 'v' }],
        },
      ]),
      state: nothing,
      dialectOf: benchDialect,
      nameOf: (layer) => layer,
    });
    expect(plan.steps).toEqual([]);
    expect(plan.refused).toEqual([
      { target: 'user/odd.bin', why: 'the form of this file is not known' },
      { target: SETTINGS, why: 'a value holds characters that this file’s encoding does not have' },
    ]);
  });

  it('stops when asked, with its own code', async () => {
    const bench = new Bench({ a: 'old' }, {}, { p: await makePack('p.zip', { a: 'new' }) });
    const stopped = planDeployment({
      workshop: bench.workshop(),
      resolution: resolveLayers(bench.layers([{ pack: 'p' }])),
      state: nothing,
      dialectOf: benchDialect,
      nameOf: (layer) => layer,
      signal: AbortSignal.abort(),
    });
    await expect(stopped).rejects.toThrow(SatchelError);
    await expect(stopped).rejects.toMatchObject({ code: 'cancelled' });
  });
});
