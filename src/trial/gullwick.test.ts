import { describe, expect, it } from 'vitest';
import {
  loadedFiles,
  openPack,
  placeFiles,
  planDeployment,
  deploy,
  proposePlacements,
  readLog,
  readState,
  resolveLayers,
  restore,
  type Edit,
  type Layer,
  parseTarget,
  type Workshop,
} from '@/core';
import { gullwickFolders } from '@/demo/gullwick';
import { gullwickCard as card } from '@/demo/gullwickCard';
import { SHELF } from '@/demo/shelf';
import { MemoryFolder } from '../../tests/support/memoryFolder';
import { runGullwick } from './gullwick';

const rules = card.log?.rules ?? [];

/** The whole way without the interface: a real shelf pack, placed, deployed, tried. */
async function gameWith(files: string[], edits: Edit[]) {
  const own = gullwickFolders();
  const folders = { program: new MemoryFolder(own.program), user: new MemoryFolder(own.user) };
  const packs = new Map(
    await Promise.all(
      files.map(
        async (file) =>
          [
            file,
            await openPack(
              new Blob([SHELF.find((item) => item.file === file)?.build() as Uint8Array<ArrayBuffer>]),
              file,
            ),
          ] as const,
      ),
    ),
  );
  const workshop: Workshop = {
    folders,
    vault: new MemoryFolder(),
    now: () => Date.now(),
    openPack: async (id) => packs.get(id) ?? Promise.reject(new Error(id)),
  };
  const gameFiles = Object.entries(own).flatMap(([root, tree]) => Object.keys(tree).map((path) => `${root}/${path}`));
  const proposals = [...packs].map(([id, pack]) => ({
    id,
    pack,
    proposal: proposePlacements({ entries: pack.entries, card, gameFiles }),
  }));
  const layers: Layer[] = proposals.map(({ id, pack, proposal }) => ({
    kind: 'pack',
    id,
    name: id,
    packId: id,
    files: placeFiles(pack.entries, proposal.placement),
  }));
  if (edits.length > 0)
    layers.push({ kind: 'edits', id: 'edits', name: 'Edits', file: parseTarget('user/ferries.ini'), edits });
  const common = { workshop, dialectOf: () => 'ini' as const, nameOf: (id: string) => id };
  const plan = await planDeployment({
    ...common,
    resolution: resolveLayers(layers),
    state: await readState(workshop.vault),
  });
  await deploy(plan, workshop, { title: 'Deploy', layers });
  const tryIt = async () => {
    await runGullwick(folders);
    const text = new TextDecoder().decode(folders.user.contents()['load.log']);
    return { text, loaded: loadedFiles(card, readLog(text, rules)) };
  };
  return { own, folders, proposals, tryIt, putBack: () => restore(workshop, common) };
}

const ON: Edit[] = [{ path: ['Graphics', 'AddonTextures'], value: '1' }];

describe('Gullwick Ferries, tried', () => {
  it('loads 214 textures of Weathered Quay with the switch on, none with it off', async () => {
    expect((await (await gameWith(['weathered-quay-1.2.zip'], ON)).tryIt()).loaded).toBe(214);
    expect((await (await gameWith(['weathered-quay-1.2.zip'], [])).tryIt()).loaded).toBe(0);
  });

  it('places every pack of the shelf surely, and loads what they say', async () => {
    const { proposals, tryIt } = await gameWith(
      ['weathered-quay-1.2.zip', 'painted-boats.zip', 'evening-harbour-2.zip', 'deep-horns.zip'],
      ON,
    );
    expect(proposals.map(({ id, proposal }) => [id, proposal.confidence])).toEqual([
      ['weathered-quay-1.2.zip', 'sure'],
      ['painted-boats.zip', 'sure'],
      ['evening-harbour-2.zip', 'sure'],
      ['deep-horns.zip', 'sure'],
    ]);
    // 214 of the quay, 7 boats, 4 skies, 4 waters; the 3 evening lamps lie over lamps of the quay.
    expect((await tryIt()).loaded).toBe(214 + 7 + 4 + 4);
  });

  it('gives the game back as it was, but for the log that the game wrote itself', async () => {
    const { own, folders, tryIt, putBack } = await gameWith(['weathered-quay-1.2.zip', 'evening-harbour-2.zip'], ON);
    await tryIt();
    await putBack();
    await folders.user.remove('load.log');
    for (const root of ['program', 'user'] as const) {
      const now = folders[root].contents();
      expect(Object.keys(now).sort()).toEqual(Object.keys(own[root]).sort());
      for (const [path, data] of Object.entries(own[root]))
        expect(Buffer.compare(now[path] as Uint8Array, data), path).toBe(0);
    }
  });

  it('names a texture that cannot be read, and one of its own that is gone', async () => {
    const { folders, tryIt } = await gameWith([], []);
    await folders.program.write('assets/textures/quay/planks.png', new TextEncoder().encode('not a picture'));
    await folders.program.remove('assets/textures/sky/noon.png');
    const { text } = await tryIt();
    expect(text).toContain('cannot read assets/textures/quay/planks.png');
    expect(text).toContain('missing assets/textures/sky/noon.png');
  });

  it('has a healthy game of its own', async () => {
    const { text } = await (await gameWith([], [])).tryIt();
    expect(text).toContain('own textures 31 of 31');
    expect(text).not.toMatch(/shoal|wreck/);
  });
});
