import { makeZip } from 'client-zip';
import { z } from 'zod';
import { openPack } from '../archives/openPack';
import type { Pack } from '../archives/pack';
import { gatherBlob } from '../bytes';
import { SatchelError, reasonOf, throwIfAborted } from '../errors';
import type { Folder } from '../folder';
import { sha256, sha256OfChunks } from '../hash';
import { byPath, nameKey } from '../paths/paths';
import type { WorkOptions } from '../progress';
import { deployedStateSchema, type DeployedFile, type DeployedState, type Kept } from '../deploy/model';
import { LARGE } from '../deploy/large';
import { keep, keepLarge, openKept, readState, writeState } from '../deploy/vault';
import { encodeName, readManifest } from './manifest';

/**
 * The backup bag: a ZIP laid out as BagIt (RFC 8493). The originals lie under `data/` as plain files under their targets, so that
 * `sha256sum -c manifest-sha256.txt` checks them and any unzip gives them back by hand. What the app itself needs to put a game
 * back with it stands in tag files under `satchel/`.
 */

const aboutSchema = z.object({ format: z.literal(1), game: z.string().min(1).max(80), title: z.string().min(1).max(200), at: z.number() });

/** What a bag says of itself, once it has been verified. */
export interface Bag {
  about: z.infer<typeof aboutSchema>;
  state: DeployedState;
  /** Originals in it. */
  originals: number;
  bytes: number;
  /** One kept content, by its hash. */
  read(kept: Kept): Promise<Uint8Array<ArrayBuffer>>;
  /** The same, piece by piece. */
  chunks(kept: Kept): AsyncIterable<Uint8Array>;
}

const STATE = 'satchel/state.json';
const ABOUT = 'satchel/about.json';
const basePath = (hash: string): string => `satchel/bases/${hash}`;

const json = (value: unknown): Uint8Array<ArrayBuffer> => new TextEncoder().encode(`${JSON.stringify(value, null, 2)}\n`);
const originalsOf = (state: DeployedState): { file: DeployedFile; original: Kept }[] => state.files.flatMap((file) => (file.original.kind === 'kept' ? [{ file, original: file.original }] : []));
const basesOf = (state: DeployedState): Kept[] => [...new Map(state.files.flatMap(({ living }) => (living?.base.kind === 'kept' ? [[living.base.sha256, living.base] as const] : []))).values()];

/**
 * Writes everything that puts a game back into one archive: the originals of all that is deployed, and the record of it.
 *
 * @throws SatchelError `bad-memory` where a kept original is not what it was
 */
export async function exportBag(vault: Folder, about: { game: string; title: string; at: number }, { signal, onProgress }: WorkOptions = {}): Promise<Blob> {
  const state = await readState(vault);
  const originals = originalsOf(state).sort((a, b) => byPath(a.file.target, b.file.target));
  const bases = basesOf(state);
  const total = originals.length + bases.length;
  const top = `${about.game.replace(/[^a-z0-9-]+/gi, '-')}-originals-${new Date(about.at).toISOString().slice(0, 10)}`;
  const date = new Date(about.at);
  const manifest = originals.map(({ file, original }) => `${original.sha256}  data/${encodeName(file.target)}\n`).join('');
  const bytes = originals.reduce((sum, { original }) => sum + original.size, 0);
  const tags: [string, Uint8Array<ArrayBuffer>][] = [
    ['bagit.txt', new TextEncoder().encode('BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n')],
    ['bag-info.txt', new TextEncoder().encode(`Bagging-Date: ${date.toISOString().slice(0, 10)}\nPayload-Oxum: ${bytes}.${originals.length}\n`)],
    ['manifest-sha256.txt', new TextEncoder().encode(manifest)],
    [STATE, json(state)],
    [ABOUT, json({ format: 1, ...about })],
  ];
  const tagManifest = [...(await Promise.all(tags.map(async ([name, data]) => `${await sha256(data)}  ${name}\n`))), ...bases.map(({ sha256: hash }) => `${hash}  ${basePath(hash)}\n`)].join('');
  const files = async function* () {
    for (const [name, input] of [...tags, ['tagmanifest-sha256.txt', new TextEncoder().encode(tagManifest)] as const]) yield { name: `${top}/${name}`, input, lastModified: date };
    let done = 0;
    for (const [name, content] of [...originals.map(({ file, original }) => [`data/${file.target}`, original] as const), ...bases.map((base) => [basePath(base.sha256), base] as const)]) {
      throwIfAborted(signal);
      yield { name: `${top}/${name}`, input: await openKept(vault, content), lastModified: date };
      onProgress?.({ phase: 'Packing the originals', done: ++done, total, unit: 'files' });
    }
  };
  return gatherBlob(makeZip(files()), 'application/zip');
}

/**
 * Opens a bag and verifies all of it before anything in it is trusted.
 *
 * @throws PackError where the ZIP itself is not in order, SatchelError `bad-bag` with the reason
 */
export async function importBag(file: Blob, name: string, { signal, onProgress }: WorkOptions = {}): Promise<Bag> {
  const bad = (why: string) => new SatchelError('bad-bag', { name, why });
  const pack = await openPack(file, name, { largeFiles: true, ...(signal ? { signal } : {}) });
  const declaration = pack.entries.find(({ path }) => /^([^/]+\/)?bagit\.txt$/.test(path));
  if (!declaration) throw bad('it holds no bagit.txt, so it is no backup of this kind');
  const top = declaration.path.slice(0, -'bagit.txt'.length);
  const inside = new Map(pack.entries.map(({ path, size }) => [path as string, size]));
  const stray = pack.entries.find(({ path }) => !path.startsWith(top));
  if (stray) throw bad(`“${stray.path}” lies outside of it`);
  const text = async (path: string): Promise<string> => {
    if (!inside.has(top + path)) throw bad(`“${path}” is missing`);
    return new TextDecoder().decode(await pack.read(top + path));
  };
  if (!/^BagIt-Version: (0\.97|1\.\d+)\r?\nTag-File-Character-Encoding: UTF-8\s*$/.test(await text('bagit.txt'))) throw bad('its bagit.txt is not one that this app can read');
  const payload = readManifest(await text('manifest-sha256.txt'), bad);
  const tags = readManifest(await text('tagmanifest-sha256.txt'), bad);
  for (const path of payload.keys()) if (!path.startsWith('data/')) throw bad(`its manifest names “${path}”, which is no payload`);
  for (const path of inside.keys()) {
    const short = path.slice(top.length);
    if (short.startsWith('data/') ? !payload.has(short) : !tags.has(short) && short !== 'tagmanifest-sha256.txt') throw bad(`“${short}” is in it and not in its manifest`);
  }
  const wanted = new Map([...payload, ...tags]);
  for (const path of wanted.keys()) if (!inside.has(top + path)) throw bad(`“${path}” is missing`);
  await verify(pack, top, wanted, bad, { ...(signal ? { signal } : {}), ...(onProgress ? { onProgress } : {}) });

  const state = readTag(await text(STATE), deployedStateSchema, STATE, bad);
  const about = readTag(await text(ABOUT), aboutSchema, ABOUT, bad);
  const places = new Map<string, string>();
  const originals = originalsOf(state);
  for (const { file: record, original } of originals) {
    const path = `data/${record.target}`;
    if (payload.get(path) !== original.sha256) throw bad(`the original of “${record.target}” is not the one that was kept`);
    places.set(original.sha256, top + path);
  }
  for (const { sha256: hash } of basesOf(state)) {
    if (tags.get(basePath(hash)) !== hash) throw bad('the text under a settings edit is missing');
    places.set(hash, top + basePath(hash));
  }
  const twice = new Set<string>();
  for (const { target } of state.files) if (twice.size === twice.add(nameKey(target)).size) throw bad(`its record names “${target}” twice`);
  return {
    about, state, originals: originals.length, bytes: originals.reduce((sum, { original }) => sum + original.size, 0),
    read: (kept) => pack.read(places.get(kept.sha256) ?? ''),
    chunks: (kept) => piecesIn(pack, places.get(kept.sha256) ?? ''),
  };
}

async function verify(pack: Pack, top: string, wanted: ReadonlyMap<string, string>, bad: (why: string) => SatchelError, { signal, onProgress }: WorkOptions): Promise<void> {
  let done = 0;
  const check = (path: string, hash: string) => {
    const short = path.slice(top.length);
    if (hash !== wanted.get(short)) throw bad(`“${short}” is not what its manifest says`);
    done++;
    onProgress?.({ phase: 'Checking the backup', done, total: wanted.size, unit: 'files' });
  };
  const sizes = new Map(pack.entries.map(({ path, size }) => [path as string, size]));
  const paths = [...wanted.keys()].map((one) => top + one);
  const isLarge = (path: string) => (sizes.get(path) ?? 0) > LARGE;
  for await (const { path, data } of pack.readMany(paths.filter((path) => !isLarge(path)), signal ? { signal } : {})) {
    throwIfAborted(signal);
    check(path, await sha256(data));
  }
  for (const path of paths.filter(isLarge)) {
    throwIfAborted(signal);
    check(path, await sha256OfChunks(piecesIn(pack, path)));
  }
  if (done !== wanted.size) throw bad('not all of it could be read');
}

/** A large file of a ZIP. */
function piecesIn(pack: Pack, path: string): AsyncIterable<Uint8Array> {
  if (!pack.chunks) throw new SatchelError('unexpected', { why: 'a bag that is no ZIP' });
  return pack.chunks(path);
}

function readTag<T>(text: string, schema: z.ZodType<T>, name: string, bad: (why: string) => SatchelError): T {
  try {
    return schema.parse(JSON.parse(text));
  } catch (error) {
    throw bad(`“${name}” cannot be read (${reasonOf(error).slice(0, 120)})`);
  }
}

/**
 * Takes a verified bag into a vault that knows of nothing deployed: afterwards the game can be put back, or packs be deployed anew.
 *
 * @throws SatchelError `bag-not-needed` where the vault has a record of its own
 */
export async function unpackBag(bag: Bag, vault: Folder, { signal, onProgress }: WorkOptions = {}): Promise<void> {
  if ((await readState(vault)).files.length > 0) throw new SatchelError('bag-not-needed');
  const contents = [...originalsOf(bag.state).map(({ original }) => original), ...basesOf(bag.state)];
  let done = 0;
  for (const content of contents) {
    throwIfAborted(signal);
    if (content.size > LARGE) await keepLarge(vault, bag.chunks(content), content);
    else await keep(vault, await bag.read(content), content.sha256);
    onProgress?.({ phase: 'Keeping the originals', done: ++done, total: contents.length, unit: 'files' });
  }
  // The packs are not in the bag: what they brought is known by its hash, and kept before it is touched.
  await writeState(vault, { ...bag.state, files: bag.state.files.map((file) => (file.from.kind === 'pack' ? { ...file, from: { kind: 'kept', sha256: file.sha256, size: file.size } } : file)) });
}

