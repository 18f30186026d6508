import { createHash } from 'node:crypto';
import {
  createReadStream,
  createWriteStream,
  mkdirSync,
  mkdtempSync,
  openAsBlob,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { afterEach, describe, expect, it } from 'vitest';
import {
  LARGE,
  checkDeployed,
  compareBackup,
  deploy,
  makeBackup,
  noDecisions,
  openPack,
  placeFiles,
  planDeployment,
  readState,
  recover,
  resolveLayers,
  restore,
  takeAsOwn,
  type Folder,
  type Pack,
  parseTarget,
  type Workshop,
} from '@/core';
import { DiskFolder } from '@/bridge/disk';
import { has, runTool } from '../../../tests/support/tools';

/** Files that go through memory in pieces: packed by zip, compared with what lies on the disk by Node's own hash. */

const MB = 1024 * 1024;
const roots: string[] = [];
afterEach(() => roots.splice(0).forEach((root) => rmSync(root, { recursive: true, force: true })));

/** Bytes that hardly pack, others each time. */
function noise(size: number, seed: number): Buffer {
  const bytes = Buffer.alloc(size);
  let state = seed;
  for (let i = 0; i + 4 <= size; i += 4)
    bytes.writeUInt32LE((state = Math.imul(state ^ (state >>> 15), 2246822519) + i) >>> 0, i);
  return bytes;
}

const sha = (of: string): string => createHash('sha256').update(readFileSync(of)).digest('hex');

function makeArchive(level: '-0' | '-1'): { root: string; archive: string; files: Record<string, Buffer> } {
  const root = mkdtempSync(path.join(tmpdir(), 'satchel-large-'));
  roots.push(root);
  const files = { 'small.bin': noise(1000, 5), 'large.bin': noise(18 * MB, 7), 'other.bin': noise(17 * MB + 3, 9) };
  for (const [name, bytes] of Object.entries(files)) writeFileSync(path.join(root, name), bytes);
  runTool('zip', ['-q', level, 'pack.zip', ...Object.keys(files)], { cwd: root });
  return { root, archive: path.join(root, 'pack.zip'), files };
}

/** Node itself reads no file above 2 GiB at once: nobody may try. */
async function notWhole<T>(of: string, size: number, read: () => Promise<T>): Promise<T> {
  if (size > LARGE) throw new Error(`${of} is read whole`);
  return read();
}

/** A folder that gives large files in pieces only, and no file a second name, so that copies are made. */
function inPieces(folder: DiskFolder): DiskFolder {
  const size = async (of: string) => (await folder.stat(of))?.size ?? 0;
  const ours: Partial<DiskFolder> = {
    link: async () => undefined,
    read: async (of) => notWhole(of, await size(of), () => folder.read(of)),
    readBytes: async (of) => notWhole(of, await size(of), () => folder.readBytes(of)),
  };
  return Object.assign(Object.create(folder) as DiskFolder, ours);
}

/** The app is ended when all is written and the journal does not say so yet. */
async function cutOff(work: () => Promise<unknown>, vault: Folder): Promise<void> {
  const { write } = vault;
  vault.write = async (at, data) => {
    if (at.startsWith('journal.landed')) throw new Error('the power went');
    await write.call(vault, at, data);
  };
  await expect(work()).rejects.toMatchObject({ code: 'left-open' });
  vault.write = write;
}

async function onDisk(root: string, archive: string) {
  const game = path.join(root, 'game');
  mkdirSync(game);
  const opened: Pack = await openPack(await openAsBlob(archive), 'pack.zip');
  const sizes = new Map<string, number>(opened.entries.map((entry) => [entry.path, entry.size]));
  const pack: Pack = { ...opened, read: async (of) => notWhole(of, sizes.get(of) ?? 0, () => opened.read(of)) };
  const vault = inPieces(DiskFolder.make(path.join(root, 'vault')));
  const workshop: Workshop = {
    folders: { game: inPieces(DiskFolder.open(game)) },
    vault,
    backup: inPieces(DiskFolder.make(path.join(root, 'backup'))),
    now: () => 1,
    openPack: async () => pack,
  };
  const layer = {
    kind: 'pack' as const,
    id: 'p',
    name: 'p',
    packId: 'p',
    files: placeFiles(pack.entries, {
      rules: [{ as: 'files', from: '', to: parseTarget('game') }],
      leftOut: [],
      made: [],
      decisions: noDecisions,
    }),
  };
  const plan = async (layers: [] | [typeof layer] = [layer]) =>
    planDeployment({
      workshop,
      resolution: resolveLayers(layers),
      state: await readState(workshop.vault),
      dialectOf: () => undefined,
      nameOf: (id) => id,
    });
  return { game, workshop, plan };
}

describe.skipIf(!has('zip'))('large files (skipped where zip is missing)', () => {
  it.each(['-0', '-1'] as const)(
    'packed with zip %s: deployed over large originals, kept, copied and put back, every byte',
    async (level) => {
      const { root, archive, files } = makeArchive(level);
      const { game, workshop, plan } = await onDisk(root, archive);
      const own = noise(20 * MB + 1, 3);
      writeFileSync(path.join(game, 'large.bin'), own);
      const entry = await deploy(await plan(), workshop, { title: 'Deploy', layers: [] });
      expect(entry.landed).toBe(3);
      for (const [name, bytes] of Object.entries(files))
        expect(readFileSync(path.join(game, name)).equals(bytes), name).toBe(true);
      const { files: state } = await readState(workshop.vault);
      expect(state.map(({ target, sha256 }) => [target, sha256])).toEqual(
        ['large.bin', 'other.bin', 'small.bin'].map((name) => [`game/${name}`, sha(path.join(game, name))]),
      );
      expect(readFileSync(path.join(root, 'backup/data/game/large.bin')).equals(own)).toBe(true);
      expect((await plan()).steps).toEqual([]);
      await restore(workshop, { dialectOf: () => undefined });
      expect(readFileSync(path.join(game, 'large.bin')).equals(own)).toBe(true);
    },
  );

  it('cut off when all was written: taken back, what came out of a pack and what somebody else wrote meanwhile included', async () => {
    const { root, archive, files } = makeArchive('-1');
    const { game, workshop, plan } = await onDisk(root, archive);
    const [own, foreign] = [noise(20 * MB + 1, 3), noise(19 * MB, 11)];
    const deployAll = async (layers?: []) => deploy(await plan(layers), workshop, { title: 'Deploy', layers: [] });
    writeFileSync(path.join(game, 'large.bin'), own);

    await cutOff(() => deployAll(), workshop.vault);
    writeFileSync(path.join(game, 'other.bin'), foreign);
    expect(await recover(workshop)).toMatchObject({ outcome: 'taken-back', setAside: ['game/other.bin'] });
    // What another program wrote stays, and is kept all the same.
    expect(readdirSync(game)).toEqual(['large.bin', 'other.bin']);
    expect(readFileSync(path.join(game, 'large.bin')).equals(own)).toBe(true);
    expect(readFileSync(path.join(game, 'other.bin')).equals(foreign)).toBe(true);
    const hash = createHash('sha256').update(foreign).digest('hex');
    expect(sha(path.join(root, 'vault/objects', hash.slice(0, 2), hash))).toBe(hash);

    rmSync(path.join(game, 'other.bin'));
    await deployAll();
    await cutOff(() => deployAll([]), workshop.vault);
    expect(readFileSync(path.join(game, 'large.bin')).equals(own)).toBe(true);
    expect(await recover(workshop)).toMatchObject({ outcome: 'taken-back', setAside: [] });
    for (const [name, bytes] of Object.entries(files))
      expect(readFileSync(path.join(game, name)).equals(bytes), name).toBe(true);
  });

  it('kept by the player, as a layer of their own and under a name', async () => {
    const { root, archive } = makeArchive('-1');
    const { game, workshop, plan } = await onDisk(root, archive);
    await deploy(await plan(), workshop, { title: 'Deploy', layers: [] });
    const own = noise(21 * MB, 13);
    writeFileSync(path.join(game, 'large.bin'), own);
    const hash = createHash('sha256').update(own).digest('hex');
    const targets = [parseTarget('game/large.bin')];
    expect(await checkDeployed(workshop)).toEqual({ files: 3, drifted: targets });
    expect((await plan()).steps.map(({ target }) => target)).toEqual(targets);
    const backup = await makeBackup(workshop, { id: 'b', name: 'before', targets });
    expect(await takeAsOwn(workshop, targets, 'own')).toEqual([{ target: targets[0], sha256: hash, size: own.length }]);
    expect(sha(path.join(root, 'vault/objects', hash.slice(0, 2), hash))).toBe(hash);
    expect(await compareBackup(workshop, backup)).toMatchObject([{ now: 'same' }]);
    writeFileSync(path.join(game, 'large.bin'), noise(21 * MB, 17));
    expect(await compareBackup(workshop, backup)).toMatchObject([{ now: 'changed' }]);
  });

  it.each(['-0', '-1'] as const)(
    'packed with zip %s and damaged: refused with the reason, and everything is as before',
    async (level) => {
      const { root, archive } = makeArchive(level);
      const damaged = path.join(root, 'damaged.zip');
      await pipeline(createReadStream(archive), createWriteStream(damaged));
      const bytes = readFileSync(damaged);
      // In the middle of the first large file.
      bytes[9 * MB] = (bytes[9 * MB] as number) ^ 0x40;
      writeFileSync(damaged, bytes);
      const { game, workshop, plan } = await onDisk(root, damaged);
      const own = noise(20 * MB + 1, 3);
      writeFileSync(path.join(game, 'large.bin'), own);
      await expect(deploy(await plan(), workshop, { title: 'Deploy', layers: [] })).rejects.toMatchObject({
        code: 'taken-back',
        message: expect.stringContaining('large.bin'),
      });
      expect(readFileSync(path.join(game, 'large.bin')).equals(own)).toBe(true);
    },
  );

  it('an original that is damaged in the vault and in its copy is not put back over what is there', async () => {
    const { root, archive, files } = makeArchive('-0');
    const { game, workshop, plan } = await onDisk(root, archive);
    writeFileSync(path.join(game, 'large.bin'), noise(20 * MB, 3));
    await deploy(await plan(), workshop, { title: 'Deploy', layers: [] });
    const original = (await readState(workshop.vault)).files.find(
      ({ target }) => target === 'game/large.bin',
    )?.original;
    if (original?.kind !== 'kept') throw new Error('no original was kept');
    const kept = path.join(root, 'vault/objects', original.sha256.slice(0, 2), original.sha256);
    for (const file of [kept, path.join(root, 'backup/data/game/large.bin')]) {
      const bytes = readFileSync(file);
      bytes[12 * MB] = (bytes[12 * MB] as number) ^ 1;
      writeFileSync(file, bytes);
    }
    await expect(restore(workshop, { dialectOf: () => undefined })).rejects.toMatchObject({ code: 'taken-back' });
    expect(readFileSync(path.join(game, 'large.bin')).equals(files['large.bin'] as Buffer)).toBe(true);
  });
});
