import { describe, expect, it } from 'vitest';
import {
  GameIndex,
  PresentFiles,
  checkDeployed,
  compareBackup,
  deploy,
  listBackups,
  makeBackup,
  mindOriginals,
  readState,
  type Folder,
  type Progress,
  parseTarget,
} from '@/core';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { Bench, makePack } from '../../../tests/support/game';
import { Asking, type StuckAnswer } from './asking';
import { listFolders } from './lookUp';
import { objectPath } from './vault';

const bytes = (text: string) => new TextEncoder().encode(text);
const many = (n: number) => Object.fromEntries(Array.from({ length: n }, (_, i) => [`f/${i}`, `${i}`]));

describe('what is to be replaced', () => {
  const planned = async () => {
    const bench = new Bench({ a: 'game' }, {}, { p: await makePack('p.zip', { a: 'pack' }) });
    return { bench, plan: await bench.plan([{ pack: 'p' }]) };
  };
  const land = ({ bench, plan }: Awaited<ReturnType<typeof planned>>) =>
    deploy(plan, bench.workshop(), { title: 'Deploy', layers: [] });

  it.each<[what: string, change: (bench: Bench) => Promise<void>]>([
    ['another size', (bench) => bench.program.write('a', bytes('longer'))],
    ['the same size, another date', (bench) => bench.program.write('a', bytes('GAME'))],
    [
      'another size under the same date',
      async (bench) => {
        const { modified } = (await bench.program.stat('a'))!;
        await bench.program.write('a', bytes('longer'));
        bench.program.setDate('a', modified);
      },
    ],
    ['nothing', (bench) => bench.program.remove('a')],
  ])('is not kept, and nothing is written, where it has become %s since the plan', async (_, change) => {
    const made = await planned();
    await change(made.bench);
    const before = made.bench.contents();
    await expect(land(made)).rejects.toMatchObject({ code: 'changed-since-plan' });
    expect(made.bench.contents()).toEqual(before);
  });

  it('is kept where it is as it was', async () => {
    const made = await planned();
    await land(made);
    expect(made.bench.contents()).toEqual({ 'program/a': 'pack' });
  });
});

describe('a player who is asked', () => {
  const ask = (answers: StuckAnswer[], signal?: AbortSignal) => {
    const asked: string[] = [];
    const asking = new Asking(async ({ target }) => {
      asked.push(target);
      return answers.shift() ?? 'take back';
    }, signal);
    return { asked, ask: (name: string) => asking.ask({ target: parseTarget(`game/${name}`), why: '' }) };
  };

  it('answers one after the other; an answer for all stands for those that follow', async () => {
    const { asked, ask: of } = ask(['leave', 'leave all', 'again']);
    expect(await Promise.all(['a', 'b', 'c', 'd'].map(of))).toEqual(['leave', 'leave all', 'leave all', 'leave all']);
    expect(asked).toEqual(['game/a', 'game/b']);
  });

  it('is not asked any more when all was stopped', async () => {
    const stop = new AbortController();
    const { asked, ask: of } = ask(['leave', 'leave'], stop.signal);
    expect(await of('a')).toBe('leave');
    stop.abort();
    expect(await of('b')).toBe('take back');
    expect(asked).toEqual(['game/a']);
  });
});

describe('a look at the folders', () => {
  it('tells how far it is, over all folders, and lists links by their names', async () => {
    const linked = (files: number, links: string[]): Folder => {
      const folder = new MemoryFolder(many(files));
      return Object.assign(Object.create(folder) as MemoryFolder, {
        async *list(_under: string | undefined, onLink?: (path: string) => void) {
          links.forEach((path) => onLink?.(path));
          yield* folder.list();
        },
      });
    };
    const told: Progress[] = [];
    const found = await listFolders(
      { game: linked(250, ['z', 'b']), user: linked(60, ['a']) },
      { onProgress: (report) => told.push(report) },
    );
    expect(found.links).toEqual(['game/b', 'game/z', 'user/a']);
    expect([found.files.game?.length, found.files.user?.length]).toEqual([250, 60]);
    expect(told.map(({ phase, done, total, unit }) => [phase, done, total, unit])).toEqual(
      [100, 200, 300].map((done) => ['Looking at the folders', done, 0, 'files']),
    );
  });

  it('knows when a folder is gone with its last file, and how it is spelled when it comes again', () => {
    const stat = (path: string) => ({ path, size: 1, modified: 1 });
    const index = new GameIndex({ files: { game: [stat('Lamps/a'), stat('Lamps/b')] }, links: [] });
    const spelled = () => index.spell(parseTarget('game/lamps/x'));
    const version = () => index.version;
    expect(spelled()).toBe('game/Lamps/x');
    const before = version();
    index.mendFile(parseTarget('game/Lamps/a'), undefined);
    expect(version()).toBeGreaterThan(before);
    expect(spelled()).toBe('game/Lamps/x');
    index.mendFile(parseTarget('game/Lamps/b'), undefined);
    expect(spelled()).toBe('game/lamps/x');
    index.mendFile(parseTarget('game/LAMPS/c'), stat('LAMPS/c'));
    expect(spelled()).toBe('game/LAMPS/x');
    // One that never was there changes nothing.
    const now = version();
    index.mendFile(parseTarget('game/other/z'), undefined);
    expect(version()).toBe(now);
  });

  it('spells a folder as the first of those that differ by capitals alone', () => {
    const stat = (path: string) => ({ path, size: 1, modified: 1 });
    const index = new GameIndex({ files: { game: [stat('A/b/one'), stat('a/B/two')] }, links: [] });
    expect(index.spell(parseTarget('game/a/b/three'))).toBe('game/A/b/three');
  });
});

describe('what is deployed, read again', () => {
  it('tells how many files were read, to the last', async () => {
    const files = many(450);
    const bench = new Bench({}, {}, { p: await makePack('p.zip', files) });
    await bench.deploy([{ pack: 'p' }]);
    const told: Progress[] = [];
    await checkDeployed(bench.workshop(), { onProgress: (report) => told.push(report) });
    expect(told).toEqual(
      [200, 400, 450].map((done) => ({ phase: 'Reading what is deployed', done, total: 450, unit: 'files' })),
    );
  });
});

describe('a backup compared', () => {
  it('tells another text of the same size and one of another size from what is the same', async () => {
    const bench = new Bench({ a: 'one', b: 'two', c: 'three', d: 'four' }, {}, {});
    const targets = ['a', 'b', 'c', 'd'].map((name) => parseTarget(`program/${name}`));
    const backup = await makeBackup(bench.workshop(), { id: 'first', name: 'First', targets });
    await bench.program.write('b', bytes('TWO'));
    await bench.program.write('c', bytes('thirteen'));
    await bench.program.remove('d');
    expect((await compareBackup(bench.workshop(), backup)).map(({ target, now }) => `${target} ${now}`)).toEqual([
      'program/a same',
      'program/b changed',
      'program/c changed',
      'program/d gone',
    ]);
  });

  it.each(['../first', 'a b', 'first/', '', 'first.json'])('%j can be no name of its file', async (id) => {
    const bench = new Bench({ a: 'one' }, {}, {});
    await expect(
      makeBackup(bench.workshop(), { id, name: 'First', targets: [parseTarget('program/a')] }),
    ).rejects.toThrow();
    expect(await listBackups(bench.vault)).toEqual([]);
  });
});

describe('an original that a program wrote over in the vault', () => {
  it('without a good copy: what it wrote goes back into the game, for that file and no other', async () => {
    const bench = new Bench(
      { a: 'own', b: 'own', c: 'mine' },
      {},
      {
        p: await makePack('p.zip', { a: 'pack', b: 'pack', c: 'pack', d: 'pack' }),
      },
    );
    const without = { ...bench.workshop() };
    delete (without as { backup?: Folder }).backup;
    await bench.deploy([{ pack: 'p' }], without);
    const before = await readState(bench.vault);
    const kept = before.files.find(({ target }) => target === 'program/c')?.original;
    if (kept?.kind !== 'kept') throw new Error('the original was not kept');
    await bench.vault.write(objectPath(kept.sha256), bytes('late'));
    const found = await mindOriginals({ ...without, now: () => Date.now() + 200_000_000 });
    expect(found.mishaps.map(({ target, what }) => `${target} ${what}`)).toEqual(['program/c late']);
    const { files } = await readState(bench.vault);
    for (const { target, original } of files) {
      const was = before.files.find((one) => one.target === target)?.original;
      if (target === 'program/c') expect(original).not.toEqual(was);
      else expect(original, target).toEqual(was);
    }
  });
});

describe('the files there are', () => {
  it('have their date where there is one: a deleted one has none', () => {
    const listing = { files: { game: [{ path: 'a', size: 1, modified: 7 }] }, links: [] };
    const gone = { target: parseTarget('game/b'), layer: '', how: 'deleted', now: undefined } as const;
    const deployed = { size: 1, modified: 3 };
    const present = new PresentFiles(new GameIndex(listing), { format: 1, folders: [], files: [] }, [
      { ...gone, deployed },
    ]);
    const rows = present.rows('all', new Set(['game']), '').map((row) => row());
    expect(rows.map((row) => ('modified' in row ? [row.path, row.modified] : []))).toEqual([
      ['game', undefined],
      ['game/a', 7],
      ['game/b', undefined],
    ]);
  });
});
