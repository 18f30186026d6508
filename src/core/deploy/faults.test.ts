import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { SatchelError, deploy, mindOriginals, recover } from '@/core';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { type Contents, type StackItem } from '../../../tests/support/game';
import { FaultyFolder, Faults, type FaultKind } from '../../../tests/support/faulty';
import { INI, switchOn, restoreAll, exampleBench, keptAreGood, namesLeft } from '../../../tests/support/deployBench';

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

/** Every call is disturbed; while mutations are tried, every seventh. */
const STEP = process.env.MUTANTS_NEAR === undefined ? 1 : 7;

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
        for (let k = 1; ; k += STEP) {
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
      expect(points * STEP).toBeGreaterThan(60);
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
      for (let k = 1; ; k += STEP) {
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
    expect(points * STEP).toBeGreaterThan(40);
  });
});
