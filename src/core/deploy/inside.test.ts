import { zipSync } from 'fflate';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  deploy,
  openPack,
  planDeployment,
  readState,
  recover,
  resolveLayers,
  restore,
  withWhole,
  type Folder,
  type Layer,
  type Pack,
  parseTarget,
  type Workshop,
} from '@/core';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { Faults, FaultyFolder, type FaultKind } from '../../../tests/support/faulty';

const bytes = (files: Record<string, string>): Uint8Array<ArrayBuffer> =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, value]) => [name, new TextEncoder().encode(value)])));
const CORE = parseTarget('hall/core.hha');
const OWN = { 'rooms/porch.room': 'porch', 'text/en.lang': 'welcome' };

/** A game with an archive of its own, and packs that put files into it, beside it, or go in whole. */
class Hall {
  readonly hall = new MemoryFolder({ 'core.hha': bytes(OWN), 'hall.ini': '[Hall]\nSeason=spring\n' });
  readonly vault = new MemoryFolder();
  private readonly packs = new Map<string, Pack>();
  private clock = 0;

  async add(id: string, files: Record<string, string>): Promise<void> {
    const archive = new Blob([bytes(files)]);
    this.packs.set(id, withWhole(await openPack(archive, `${id}.zip`), archive));
  }

  layer(id: string, how: 'inside' | 'beside' | 'whole'): Layer {
    const pack = this.packs.get(id) as Pack;
    const made =
      how === 'beside'
        ? [{ target: parseTarget(`hall/packs/${id}/pack.leaf`), text: `{ "id": "${id}" }`, why: 'needed' }]
        : [];
    const files =
      how === 'whole'
        ? [{ path: '' as never, size: pack.archive?.size ?? 0, target: parseTarget(`hall/packs/${id}.zip`) }]
        : pack.entries.map((entry) =>
            how === 'inside'
              ? { ...entry, target: CORE, inside: entry.path }
              : { ...entry, target: parseTarget(`hall/packs/${id}/${entry.path}`) },
          );
    return { kind: 'pack', id: `layer-${id}`, name: id, packId: id, files, made };
  }

  workshop(wrap: (folder: Folder) => Folder = (folder) => folder): Workshop {
    return {
      folders: { hall: wrap(this.hall) },
      vault: wrap(this.vault),
      now: () => ++this.clock,
      openPack: async (id) => {
        const pack = this.packs.get(id);
        if (!pack) throw new Error(`no pack ${id}`);
        return pack;
      },
    };
  }

  async deploy(layers: Layer[], workshop = this.workshop()): Promise<number> {
    const plan = await planDeployment({
      workshop,
      resolution: resolveLayers(layers),
      state: await readState(workshop.vault),
      dialectOf: () => 'ini',
      nameOf: (layer) => layer,
    });
    expect(plan.refused).toEqual([]);
    return (await deploy(plan, workshop, { title: 'Deploy', layers })).landed;
  }

  contents(): Record<string, string> {
    return Object.fromEntries(
      Object.entries(this.hall.contents()).map(([path, data]) => [path, Buffer.from(data).toString('base64')]),
    );
  }

  async inside(): Promise<Record<string, string>> {
    const pack = await openPack(await this.hall.read('core.hha'), 'core.zip');
    const found: Record<string, string> = {};
    for (const { path } of pack.entries) found[path] = new TextDecoder().decode(await pack.read(path));
    return found;
  }
}

describe('archives changed from inside', () => {
  it('law: what is inside is a plain map of the layers over the original, in any history, and restoring gives every byte back', async () => {
    const names = fc.constantFrom('rooms/porch.room', 'rooms/new.room', 'text/en.lang', 'x');
    const files = fc.dictionary(names, fc.constantFrom('one', 'two', 'three'), { minKeys: 1 });
    await fc.assert(
      fc.asyncProperty(
        files,
        files,
        fc.array(fc.subarray(['a', 'b']), { minLength: 1, maxLength: 4 }),
        async (a, b, history) => {
          const hall = new Hall();
          await hall.add('a', a);
          await hall.add('b', b);
          const before = hall.contents();
          for (const stack of history) {
            await hall.deploy(stack.map((id) => hall.layer(id, 'inside')));
            const expected: Record<string, string> = { ...OWN };
            for (const id of stack) Object.assign(expected, id === 'a' ? a : b);
            expect(await hall.inside()).toEqual(expected);
            // The same again is nothing to do.
            expect(await hall.deploy(stack.map((id) => hall.layer(id, 'inside')))).toBe(0);
          }
          await restore(hall.workshop(), { dialectOf: () => 'ini' });
          expect(hall.contents()).toEqual(before);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('is noted for the pack whose file comes last in it', async () => {
    const hall = new Hall();
    await hall.add('a', { 'rooms/attic.room': 'attic', x: 'last' });
    await hall.add('b', { 'rooms/porch.room': 'roses' });
    await hall.deploy([hall.layer('a', 'inside'), hall.layer('b', 'inside')]);
    expect((await readState(hall.vault)).files.map(({ target, layer }) => [target, layer])).toEqual([
      [CORE, 'layer-a'],
    ]);
  });

  it('goes in whole, beside and inside at once, and out again in any order', async () => {
    const hall = new Hall();
    await hall.add('a', { 'rooms/porch.room': 'roses' });
    await hall.add('b', { 'rooms/shed.room': 'shed' });
    await hall.add('c', { 'pack.leaf': 'c' });
    const before = hall.contents();
    await hall.deploy([hall.layer('a', 'inside'), hall.layer('b', 'beside'), hall.layer('c', 'whole')]);
    expect(Object.keys(hall.contents()).sort()).toEqual([
      'core.hha',
      'hall.ini',
      'packs/b/pack.leaf',
      'packs/b/rooms/shed.room',
      'packs/c.zip',
    ]);
    await hall.deploy([hall.layer('b', 'beside')]);
    expect(hall.contents()['core.hha']).toBe(before['core.hha']);
    await hall.deploy([]);
    expect(hall.contents()).toEqual(before);
  });

  it('refuses an archive that is none, says why, and touches nothing', async () => {
    const hall = new Hall();
    await hall.hall.write('core.hha', new TextEncoder().encode('not a ZIP'));
    await hall.add('a', { x: 'x' });
    const workshop = hall.workshop();
    const plan = await planDeployment({
      workshop,
      resolution: resolveLayers([hall.layer('a', 'inside')]),
      state: await readState(workshop.vault),
      dialectOf: () => 'ini',
      nameOf: (layer) => layer,
    });
    expect(plan.steps).toEqual([]);
    expect(plan.refused).toMatchObject([{ target: CORE, why: expect.stringContaining('not an archive') }]);
  });

  it('a fault at every call: afterwards it is as before or as planned, and the original is never lost', async () => {
    let points = 0;
    for (const kind of ['once', 'dead', 'torn'] satisfies FaultKind[])
      for (let at = 1; ; at++) {
        const hall = new Hall();
        await hall.add('a', { 'rooms/porch.room': 'roses', y: 'new' });
        await hall.add('c', { 'pack.leaf': 'c' });
        const before = hall.contents();
        const layers = [hall.layer('a', 'inside'), hall.layer('c', 'whole')];
        const faults = new Faults(at, kind);
        const failed = await hall
          .deploy(
            layers,
            hall.workshop((folder) => new FaultyFolder(folder, faults)),
          )
          .then(
            () => false,
            () => true,
          );
        if (!faults.fired) break;
        points++;
        await recover(hall.workshop());
        const after = hall.contents();
        if (JSON.stringify(after) !== JSON.stringify(before)) {
          expect(await hall.inside()).toEqual({ ...OWN, 'rooms/porch.room': 'roses', y: 'new' });
          await restore(hall.workshop(), { dialectOf: () => 'ini' });
        }
        expect(hall.contents(), `${kind} ${at} ${failed}`).toEqual(before);
      }
    console.log(`faults while archives are changed: ${points} points tried, 0 losses`);
    expect(points).toBeGreaterThan(60);
  });
});
