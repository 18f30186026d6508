import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import {
  SatchelError,
  deploy,
  mindOriginals,
  openPack,
  recover,
  restore,
  readLedger,
  readState,
  type Edit,
  type Folder,
  type Pack,
} from '@/core';
import { MemoryFolder } from '@/folders/memoryFolder';
import { Bench, benchDialect, makePack, type Contents, type StackItem } from '../../../tests/support/game';
import { FaultyFolder, Faults, type FaultKind } from '../../../tests/support/faulty';

const INI = '; mine\r\n[Graphics]\r\nAddon=0\r\nWide=1280\r\n\r\n[Sound]\r\nHorn=1\r\n';
const switchOn: StackItem = { edits: [{ path: ['Graphics', 'Addon'], value: '1' }] };

const restoreAll = (bench: Bench) => restore(bench.workshop(), { dialectOf: benchDialect });

async function exampleBench(links = true): Promise<Bench> {
  const lower = await makePack('lower.zip', { 'tex/a.png': 'lower a', 'tex/b.png': 'lower b', 'new/c.png': 'lower c' });
  const upper = await makePack('upper.zip', { 'tex/b.png': 'upper b', 'new/d.png': 'upper d' });
  return new Bench(
    { 'tex/a.png': 'own a', 'tex/b.png': 'own b', 'keep.txt': 'own' },
    { 'settings.ini': INI },
    { lower, upper },
    links,
  );
}

/** Every kept content stands under its own SHA-256, checked with Node's own implementation. */
function keptAreGood(vault: MemoryFolder): boolean {
  return Object.entries(vault.contents())
    .filter(([path]) => path.startsWith('objects/'))
    .every(([path, data]) => createHash('sha256').update(data).digest('hex') === path.split('/').at(-1));
}

/** Second names that were neither adopted nor dropped. */
const namesLeft = (bench: Bench): string[] =>
  Object.keys(bench.vault.contents()).filter((path) => path.startsWith('named/'));

/** The plain copies of originals, each checked against the manifest with Node's own SHA-256. */
function backedUp(backup: MemoryFolder): Contents {
  const contents = backup.contents();
  const manifest = new Map(
    new TextDecoder()
      .decode(contents['manifest-sha256.txt'] ?? new Uint8Array())
      .split('\n')
      .filter(Boolean)
      .map((line) => [line.slice(66), line.slice(0, 64)]),
  );
  const copies = Object.entries(contents).filter(([path]) => path.startsWith('data/'));
  for (const [path, data] of copies)
    expect(manifest.get(path), path).toBe(createHash('sha256').update(data).digest('hex'));
  expect([...manifest.keys()].sort()).toEqual(copies.map(([path]) => path).sort());
  return Object.fromEntries(copies.map(([path, data]) => [path.slice('data/'.length), new TextDecoder().decode(data)]));
}

describe('deploy', () => {
  it('adds, replaces and edits, and tells how many landed', async () => {
    const bench = await exampleBench();
    const plan = await bench.plan([{ pack: 'lower' }, switchOn]);
    expect(plan.steps.map(({ action, target }) => `${action} ${target}`)).toEqual([
      'add program/new/c.png',
      'replace program/tex/a.png',
      'replace program/tex/b.png',
      'edit user/settings.ini',
    ]);
    const entry = await bench.deploy([{ pack: 'lower' }, switchOn]);
    expect(entry).toMatchObject({
      number: 1,
      landed: 4,
      counts: { add: 1, replace: 2, edit: 1, restore: 0, remove: 0 },
    });
    expect(bench.contents()).toEqual({
      'program/keep.txt': 'own',
      'program/tex/a.png': 'lower a',
      'program/tex/b.png': 'lower b',
      'program/new/c.png': 'lower c',
      'user/settings.ini': INI.replace('Addon=0', 'Addon=1'),
    });
  });

  it('has nothing to do the second time', async () => {
    const bench = await exampleBench();
    await bench.deploy([{ pack: 'lower' }, switchOn]);
    const again = await bench.plan([{ pack: 'lower' }, switchOn]);
    expect(again.steps).toEqual([]);
    expect(again.unchanged).toBe(4);
  });

  it('lets what lies below come through when a pack goes', async () => {
    const bench = await exampleBench();
    await bench.deploy([{ pack: 'lower' }, { pack: 'upper' }]);
    expect(bench.contents()['program/tex/b.png']).toBe('upper b');
    await bench.deploy([{ pack: 'lower' }]);
    expect(bench.contents()['program/tex/b.png']).toBe('lower b');
    expect(bench.contents()['program/new/d.png']).toBeUndefined();
    await bench.deploy([]);
    expect(bench.contents()).toEqual({
      'program/keep.txt': 'own',
      'program/tex/a.png': 'own a',
      'program/tex/b.png': 'own b',
      'user/settings.ini': INI,
    });
  });

  it('writes no step for a file that the game has already, byte for byte', async () => {
    const same = await makePack('same.zip', { 'tex/a.png': 'own a', 'tex/b.png': 'other' });
    const bench = new Bench({ 'tex/a.png': 'own a', 'tex/b.png': 'own b' }, {}, { same });
    const plan = await bench.plan([{ pack: 'same' }]);
    expect(plan.steps.map(({ target }) => target)).toEqual(['program/tex/b.png']);
    expect(plan.unchanged).toBe(1);
  });

  it('joins folders and files that differ from the pack only in case or in Unicode form', async () => {
    // Unicode UAX #15: U+00FC and U+0075 U+0308 are canonically equivalent.
    const pack = await makePack('p.zip', {
      'TEX/A.PNG': 'new a',
      'tex/gru\u0308n.png': 'new green',
      'Tex/more.png': 'new',
    });
    const bench = new Bench({ 'tex/a.png': 'own a', 'tex/gr\u00fcn.png': 'own green' }, {}, { p: pack });
    await bench.deploy([{ pack: 'p' }]);
    expect(bench.contents()).toEqual({
      'program/tex/a.png': 'new a',
      'program/tex/gr\u00fcn.png': 'new green',
      'program/tex/more.png': 'new',
    });
  });

  it('stops before writing when a file changed after the plan', async () => {
    const bench = await exampleBench();
    const plan = await bench.plan([{ pack: 'lower' }]);
    await bench.program.write('tex/a.png', new TextEncoder().encode('updated'));
    await expect(deploy(plan, bench.workshop(), { title: 'Deploy', layers: [] })).rejects.toMatchObject({
      code: 'changed-since-plan',
    });
    expect(bench.contents()['program/tex/a.png']).toBe('updated');
    expect(bench.contents()['program/tex/b.png']).toBe('own b');
  });

  it('puts everything back when it is stopped', async () => {
    const bench = await exampleBench();
    const before = bench.contents();
    const plan = await bench.plan([{ pack: 'lower' }, switchOn]);
    const stop = new AbortController();
    const onProgress = ({ phase, done }: { phase: string; done: number }) =>
      phase.startsWith('Writing') && done === 2 && stop.abort();
    await expect(
      deploy(plan, bench.workshop(), { title: 'Deploy', layers: [], signal: stop.signal, onProgress }),
    ).rejects.toMatchObject({ code: 'cancelled' });
    expect(bench.contents()).toEqual(before);
    expect(await recover(bench.workshop())).toBeUndefined();
  });

  it('puts everything back when the pack turns out to be damaged, while other files are still being written', async () => {
    const zip = zipSync({ 'tex/a.png': strToU8('new a'), 'tex/b.png': strToU8('new b') }, { level: 0 });
    zip[Buffer.from(zip).indexOf('new b')] = 0x4e;
    const bench = new Bench(
      { 'tex/a.png': 'own a', 'tex/b.png': 'own b' },
      {},
      { broken: await openPack(new Blob([zip]), 'broken.zip') },
    );
    const before = bench.contents();
    const slow = (folder: Folder): Folder => ({
      list: (under) => folder.list(under),
      stat: (path) => folder.stat(path),
      read: (path) => folder.read(path),
      remove: (path) => folder.remove(path),
      write: async (path, data) => {
        if (path === 'tex/a.png') await new Promise((done) => setTimeout(done, 60));
        await folder.write(path, data);
      },
    });
    await expect(bench.deploy([{ pack: 'broken' }], bench.workshop(slow))).rejects.toMatchObject({
      code: 'taken-back',
    });
    await new Promise((done) => setTimeout(done, 150));
    expect(bench.contents()).toEqual(before);
    expect(await recover(bench.workshop())).toBeUndefined();
  });

  it('keeps a drifted file before putting the original back', async () => {
    const bench = await exampleBench();
    await bench.deploy([{ pack: 'lower' }]);
    await bench.program.write('tex/a.png', new TextEncoder().encode('edited by hand'));
    const plan = await bench.plan([{ pack: 'lower' }]);
    expect(plan.drifted).toMatchObject([{ target: 'program/tex/a.png', how: 'changed', layer: 'layer-lower' }]);
    await restoreAll(bench);
    expect(bench.contents()['program/tex/a.png']).toBe('own a');
    const kept = Object.values(bench.vault.contents()).map((data) => new TextDecoder().decode(data));
    expect(kept).toContain('edited by hand');
  });
});

describe('edits in living files', () => {
  it('keeps what the game wrote meanwhile, and takes back only its own value', async () => {
    const bench = await exampleBench();
    await bench.deploy([switchOn]);
    const written = INI.replace('Addon=0', 'Addon=1').replace('Horn=1', 'Horn=0').replace('Wide=1280', 'Wide=1920');
    await bench.user.write('settings.ini', new TextEncoder().encode(written));
    await restoreAll(bench);
    expect(bench.contents()['user/settings.ini']).toBe(written.replace('Addon=1', 'Addon=0'));
  });

  it('leaves a value alone that somebody changed since, and says so', async () => {
    const bench = await exampleBench();
    await bench.deploy([switchOn]);
    const written = INI.replace('Addon=0', 'Addon=2');
    await bench.user.write('settings.ini', new TextEncoder().encode(written));
    const plan = await bench.plan([]);
    expect(plan.leftAlone).toEqual([{ target: 'user/settings.ini', path: ['Graphics', 'Addon'] }]);
    await restoreAll(bench);
    expect(bench.contents()['user/settings.ini']).toBe(written);
  });

  it('makes a settings file that was not there, and removes it again', async () => {
    const bench = new Bench({}, {}, {});
    await bench.deploy([switchOn]);
    expect(bench.contents()).toEqual({ 'user/settings.ini': '[Graphics]\nAddon=1\n' });
    await restoreAll(bench);
    expect(bench.contents()).toEqual({});
  });

  it('edits UTF-16 and Windows-1252 files in their own encoding', async () => {
    const utf16 = new Uint8Array([
      0xff,
      0xfe,
      ...[...'[Graphics]\r\nAddon=0\r\n'].flatMap((char) => [char.charCodeAt(0), 0]),
    ]);
    const latin = Uint8Array.from([...'[Graphics]\nName=Gr\u00fcn\nAddon=0\n'].map((char) => char.charCodeAt(0)));
    for (const bytes of [utf16, latin]) {
      const bench = new Bench({}, {}, {});
      await bench.user.write('settings.ini', bytes);
      await bench.deploy([switchOn]);
      const after = bench.user.contents()['settings.ini'] as Uint8Array;
      expect(after.length).toBe(bytes.length);
      expect([...after].filter((byte, i) => byte !== bytes[i])).toEqual([0x31]);
      await restoreAll(bench);
      expect(bench.user.contents()['settings.ini']).toEqual(bytes);
    }
  });
});

// Laws on random games, packs and histories.

const NAMES = ['a.png', 'b.png', 'C.png', 'tex/a.png', 'tex/b.png', 'tex/Deep/x.dds', 'new/y.png', 'empty'];
const contentsArb = fc.dictionary(fc.constantFrom(...NAMES), fc.string({ maxLength: 12 }), { maxKeys: 6 });
const editArb: fc.Arbitrary<Edit> = fc.record({
  path: fc.constantFrom(['Graphics', 'Addon'], ['Graphics', 'New'], ['Other', 'Key'], ['Top']),
  value: fc.constantFrom('0', '1', 'long value'),
});
const iniArb = fc.constantFrom(INI, '', '[Graphics]', 'Top=1\n[Graphics]\nAddon=0', INI.replaceAll('\r\n', '\n'));
const stackArb: fc.Arbitrary<StackItem[]> = fc
  .tuple(fc.subarray(['p', 'q', 'r']), fc.boolean(), fc.array(editArb, { maxLength: 3 }))
  .map(([packs, reversed, edits]) => [
    ...(reversed ? [...packs].reverse() : packs).map((pack) => ({ pack })),
    ...(edits.length > 0 ? [{ edits }] : []),
  ]);

async function makeBench(own: Contents, ini: string, packs: Contents[], links = true): Promise<Bench> {
  const opened: Record<string, Pack> = {};
  for (const [i, id] of ['p', 'q', 'r'].entries())
    opened[id] = await makePack(`${id}.zip`, { ...packs[i], [`only-${id}.txt`]: id });
  return new Bench(own, { 'settings.ini': ini }, opened, links);
}

/**
 * What the program folder should hold: the game's files, then each pack over them, in order; names in any case are one.
 */
async function naive(bench: Bench, own: Contents, stack: readonly StackItem[]): Promise<Contents> {
  const result = new Map(Object.entries(own).map(([path, text]) => [path.toLowerCase(), text]));
  for (const item of stack)
    if ('pack' in item)
      for (const { path } of bench.packs[item.pack]?.entries ?? [])
        result.set(path.toLowerCase(), new TextDecoder().decode(await bench.packs[item.pack]?.read(path)));
  return Object.fromEntries([...result].sort(([a], [b]) => (a < b ? -1 : 1)));
}

const programOf = (bench: Bench): Contents =>
  Object.fromEntries(
    Object.entries(bench.contents())
      .filter(([path]) => path.startsWith('program/'))
      .map(([path, text]) => [path.slice(8).toLowerCase(), text] as const)
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  );

describe('laws', () => {
  it('restore(deploy(x)) is x, and every state on the way is what the layers say', async () => {
    await fc.assert(
      fc.asyncProperty(
        contentsArb,
        iniArb,
        fc.tuple(contentsArb, contentsArb, contentsArb),
        fc.array(stackArb, { minLength: 1, maxLength: 4 }),
        fc.boolean(),
        async (own, ini, packs, history, links) => {
          const bench = await makeBench(own, ini, packs, links);
          const before = bench.contents();
          const tree = bench.tree();
          for (const stack of history) {
            await bench.deploy(stack);
            expect(programOf(bench)).toEqual(await naive(bench, own, stack));
            expect((await bench.plan(stack)).steps).toEqual([]);
          }
          await restoreAll(bench);
          expect(bench.contents()).toEqual(before);
          expect(bench.tree()).toEqual(tree);
          expect(await readState(bench.vault)).toEqual({ format: 1, files: [], folders: [] });
          expect(keptAreGood(bench.vault)).toBe(true);
          expect(namesLeft(bench)).toEqual([]);
        },
      ),
      { numRuns: 120 },
    );
  });

  it('a pack taken out equals never having had it', async () => {
    await fc.assert(
      fc.asyncProperty(contentsArb, fc.tuple(contentsArb, contentsArb, contentsArb), async (own, packs) => {
        const [one, two] = [await makeBench(own, INI, packs), await makeBench(own, INI, packs)];
        await one.deploy([{ pack: 'p' }, { pack: 'q' }, { pack: 'r' }]);
        await one.deploy([{ pack: 'p' }, { pack: 'r' }]);
        await two.deploy([{ pack: 'p' }, { pack: 'r' }]);
        expect(programOf(one)).toEqual(programOf(two));
      }),
      { numRuns: 60 },
    );
  });
});

describe('faults at every call', () => {
  const kinds: FaultKind[] = ['once', 'dead', 'torn', 'quota', 'revoked'];
  const full: StackItem[] = [{ pack: 'lower' }, { pack: 'upper' }, switchOn];

  /**
   * A history whose last deployment is disturbed: the first one, a change of the stack, and putting everything back.
   */
  const scenarios: { name: string; first: StackItem[][]; then: StackItem[] }[] = [
    { name: 'the first deployment', first: [], then: full },
    { name: 'a pack taken out of the middle', first: [full], then: [{ pack: 'upper' }, switchOn] },
    { name: 'putting everything back', first: [full], then: [] },
  ];

  for (const scenario of scenarios)
    it.each([
      { links: true, kept: 'second names' },
      { links: false, kept: 'copies' },
    ])(`${scenario.name}, originals kept as $kept: as before or finished, nothing lost`, async ({ links, kept }) => {
      const goal = await exampleBench();
      const own = goal.contents();
      const tree = goal.tree();
      for (const stack of scenario.first) await goal.deploy(stack);
      const before = goal.contents();
      await goal.deploy(scenario.then);
      const after = goal.contents();
      let points = 0;
      for (const kind of kinds)
        for (let k = 1; ; k++) {
          const bench = await exampleBench(links);
          for (const stack of scenario.first) await bench.deploy(stack);
          const plan = await bench.plan(scenario.then);
          const faults = new Faults(k, kind);
          const thrown: unknown = await deploy(
            plan,
            bench.workshop((folder) => new FaultyFolder(folder, faults)),
            { title: 'Deploy', layers: [] },
          ).then(
            () => undefined,
            (error: unknown) => error,
          );
          if (!faults.fired) break;
          points++;
          const note = `${kind} at call ${k}: ${thrown instanceof SatchelError ? thrown.code : String(thrown)}`;
          if (
            thrown !== undefined &&
            thrown instanceof SatchelError &&
            ['taken-back', 'changed-since-plan', 'original-not-kept'].includes(thrown.code)
          )
            expect(bench.contents(), note).toEqual(before);
          // The next start, with everything working again.
          await recover(bench.workshop());
          const now = bench.contents();
          expect([before, after], note).toContainEqual(now);
          expect(await recover(bench.workshop()), note).toBeUndefined();
          await mindOriginals(bench.workshop());
          expect(objectsAreGoodOrTorn(bench.vault, kind), note).toBe(true);
          expect(namesLeft(bench), note).toEqual([]);
          // Nothing is lost: the same layers deploy, and everything goes back to the very beginning.
          await bench.deploy(scenario.then);
          expect(bench.contents(), note).toEqual(after);
          await restoreAll(bench);
          expect(bench.contents(), note).toEqual(own);
          expect(bench.tree(), note).toEqual(tree);
          expect(backedUp(bench.backup), note).toEqual({
            'user/settings.ini': INI,
            'program/tex/a.png': 'own a',
            'program/tex/b.png': 'own b',
          });
        }
      console.log(`faults, ${scenario.name}, ${kept}: ${points} points tried, 0 losses`);
      expect(points).toBeGreaterThan(60);
    });

  /** A torn write may leave a torn copy, but never under a name that a later keep would trust: it is checked again. */
  function objectsAreGoodOrTorn(vault: MemoryFolder, kind: FaultKind): boolean {
    return kind === 'torn' || keptAreGood(vault);
  }

  it('recovery itself can be cut off at every call', async () => {
    const goal = await exampleBench();
    const before = goal.contents();
    await goal.deploy(full);
    const after = goal.contents();
    let points = 0;
    for (let death = 30; death < 76; death += 3)
      for (let k = 1; ; k++) {
        const bench = await exampleBench();
        const plan = await bench.plan(full);
        await deploy(
          plan,
          bench.workshop((folder) => new FaultyFolder(folder, new Faults(death, 'dead'))),
          { title: 'Deploy', layers: [] },
        ).catch(() => undefined);
        const faults = new Faults(k, 'dead');
        await recover(bench.workshop((folder) => new FaultyFolder(folder, faults))).catch(() => undefined);
        if (!faults.fired) break;
        points++;
        await recover(bench.workshop());
        expect([before, after], `death at ${death}, again at ${k}`).toContainEqual(bench.contents());
      }
    console.log(`faults in recovery: ${points} points tried, 0 losses`);
    expect(points).toBeGreaterThan(40);
  });
});

describe('the ledger', () => {
  it('holds a line for each deployment, latest first', async () => {
    const bench = await exampleBench();
    await bench.deploy([{ pack: 'lower' }]);
    await restoreAll(bench);
    expect(
      (await readLedger(bench.vault)).map(({ number, title, landed, layers }) => ({
        number,
        title,
        landed,
        layers: layers.length,
      })),
    ).toEqual([
      { number: 2, title: 'Put everything back', landed: 3, layers: 0 },
      { number: 1, title: 'Deploy', landed: 3, layers: 1 },
    ]);
  });
});
