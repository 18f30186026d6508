import { makeZip } from 'client-zip';
import type { z } from 'zod';
import { openPack } from '../archives/openPack';
import type { Pack } from '../archives/pack';
import { gatherBlob } from '../bytes';
import { encodeName, readManifest } from '../deploy/hashManifest';
import { contentsOf, isLarge } from '../archives/contents';
import { SatchelError, reasonOf, throwIfAborted } from '../errors';
import { sha256, sha256OfChunks } from '../hash';
import type { WorkOptions } from '../progress';

/*
 * A ZIP laid out as BagIt (RFC 8493): what is carried lies under `data/`, with its SHA-256 in the manifest, so that
 * `sha256sum -c manifest-sha256.txt` checks it; what the app itself needs may stand beside it in tag files.
 */

/** One file of a bag that is being written. */
export interface BagFile {
  /** Inside the bag: `data/…` for what is carried. */
  path: string;
  sha256: string;
  /** Bytes. */
  size: number;
  open(): Promise<Blob | Uint8Array<ArrayBuffer>> | Blob | Uint8Array<ArrayBuffer>;
}

const textFile = async (path: string, text: string): Promise<BagFile> => {
  const bytes = new TextEncoder().encode(text);
  return { path, sha256: await sha256(bytes), size: bytes.length, open: () => bytes };
};

/** A file of JSON for a bag. */
export const jsonFile = (path: string, value: unknown): Promise<BagFile> =>
  textFile(path, `${JSON.stringify(value, null, 2)}\n`);

const manifestOf = (files: readonly BagFile[]): string =>
  files.map(({ path, sha256: hash }) => `${hash}  ${encodeName(path)}\n`).join('');

/** Writes a bag. */
export async function writeBag(
  {
    top,
    at,
    phase,
    payload,
    tags,
  }: { top: string; at: number; phase: string; payload: readonly BagFile[]; tags: readonly BagFile[] },
  { signal, onProgress }: WorkOptions = {},
): Promise<Blob> {
  const date = new Date(at);
  const bytes = payload.reduce((sum, { size }) => sum + size, 0);
  const oxum = `Payload-Oxum: ${bytes}.${payload.length}`;
  const own = [
    await textFile('bagit.txt', 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n'),
    await textFile('bag-info.txt', `Bagging-Date: ${date.toISOString().slice(0, 10)}\n${oxum}\n`),
    await textFile('manifest-sha256.txt', manifestOf(payload)),
  ];
  const tagManifest = await textFile('tagmanifest-sha256.txt', manifestOf([...own, ...tags]));
  const all = [...own, tagManifest, ...tags, ...payload];
  const files = async function* () {
    for (const [i, { path, open }] of all.entries()) {
      throwIfAborted(signal);
      yield { name: `${top}/${path}`, input: await open(), lastModified: date };
      onProgress?.({ phase, done: i + 1, total: all.length, unit: 'files' });
    }
  };
  return gatherBlob(makeZip(files()), 'application/zip');
}

/** A bag whose every file is what its manifests say. */
export interface OpenBag {
  pack: Pack;
  /** What stands before every path in the archive. */
  top: string;
  /** What is carried, and the tag files, with their SHA-256, by their paths without `top`. */
  payload: ReadonlyMap<string, string>;
  tags: ReadonlyMap<string, string>;
  /** A file as text. */
  text(path: string): Promise<string>;
  /** What is thrown where something about it is wrong. */
  bad(why: string): SatchelError;
}

/**
 * Opens a bag and verifies all of it before anything in it is trusted.
 *
 * @throws PackError where the ZIP itself is not in order, SatchelError `bad-bag` with the reason
 */
export async function openBag(file: Blob, name: string, { signal, onProgress }: WorkOptions = {}): Promise<OpenBag> {
  const bad = (why: string) => new SatchelError('bad-bag', { name, why });
  const pack = await openPack(file, name, { ...(signal ? { signal } : {}) });
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
  if (!/^BagIt-Version: (0\.97|1\.\d+)\r?\nTag-File-Character-Encoding: UTF-8\s*$/.test(await text('bagit.txt')))
    throw bad('its bagit.txt is not one that this app can read');
  const payload = readManifest(await text('manifest-sha256.txt'), bad);
  const tags = readManifest(await text('tagmanifest-sha256.txt'), bad);
  const bag: OpenBag = { pack, top, payload, tags, text, bad };
  checkNames(bag);
  await verify(bag, { ...(signal ? { signal } : {}), ...(onProgress ? { onProgress } : {}) });
  return bag;
}

/** Is everything that is in it named, and everything that is named in it? */
function checkNames({ pack, top, payload, tags, bad }: OpenBag): void {
  for (const path of payload.keys())
    if (!path.startsWith('data/')) throw bad(`its manifest names “${path}”, which is no payload`);
  const inside = new Set(pack.entries.map(({ path }) => path.slice(top.length)));
  for (const short of inside)
    if (short.startsWith('data/') ? !payload.has(short) : !tags.has(short) && short !== 'tagmanifest-sha256.txt')
      throw bad(`“${short}” is in it and not in its manifest`);
  for (const path of [...payload.keys(), ...tags.keys()]) if (!inside.has(path)) throw bad(`“${path}” is missing`);
}

async function verify({ pack, top, payload, tags, bad }: OpenBag, { signal, onProgress }: WorkOptions): Promise<void> {
  const wanted = new Map([...payload, ...tags]);
  let done = 0;
  const check = (path: string, hash: string) => {
    const short = path.slice(top.length);
    if (hash !== wanted.get(short)) throw bad(`“${short}” is not what its manifest says`);
    done++;
    onProgress?.({ phase: 'Checking the backup', done, total: wanted.size, unit: 'files' });
  };
  const all = new Set([...wanted.keys()].map((one) => top + one));
  const files = pack.entries.filter(({ path }) => all.has(path));
  for await (const file of contentsOf(pack, files, isLarge, signal))
    check(file.path, await ('data' in file ? sha256(file.data) : sha256OfChunks(file.pieces())));
  if (done !== wanted.size) throw bad('not all of it could be read');
}

/** A large file of a bag, piece by piece. */
export function piecesIn(pack: Pack, path: string): AsyncIterable<Uint8Array> {
  if (!pack.chunks) throw new SatchelError('unexpected', { why: 'a bag that is no ZIP' });
  return pack.chunks(path);
}

/** JSON out of a bag, as far as it has the form. */
export function readTag<T>(text: string, schema: z.ZodType<T>, name: string, bad: (why: string) => SatchelError): T {
  try {
    return schema.parse(JSON.parse(text));
  } catch (error) {
    throw bad(`“${name}” cannot be read (${reasonOf(error).slice(0, 120)})`);
  }
}
