import { Zip, ZipDeflate } from 'fflate';
import { SatchelError } from '../errors';
import { baseName, nameKey, type TargetPath } from '../paths/paths';
import { openPack } from './openPack';
import type { PackFile } from './pack';

/** The largest archive that is changed from inside, in bytes once unpacked. */
const MOST = 512 * 1024 ** 2;

/** The most files in it: more would need ZIP64 (PKWARE APPNOTE 4.4.1.4), which this writer does not have. */
const MOST_FILES = 65_534;

/** One date for everything, so that the same contents give the same bytes. */
const DATE = new Date(2000, 0, 1, 12);

export interface ZipAddition {
  inside: string;
  packId: string;
  file: { path: string; size: number };
  /** The content itself, for what lies in no pack. */
  made?: Uint8Array;
}

/**
 * A ZIP with files added and replaced in it; the others keep their place and their bytes.
 *
 * @param base the ZIP as it is; no bytes for a new one
 * @param read gives files of a pack
 * @throws PackError where the base cannot be read; SatchelError `archive-too-large`
 */
export async function zipWith(
  base: Uint8Array<ArrayBuffer>,
  additions: readonly ZipAddition[],
  read: (packId: string, paths: string[]) => Promise<AsyncIterable<PackFile>>,
  target: TargetPath,
): Promise<Uint8Array<ArrayBuffer>> {
  const names = new Map<string, string>();
  const contents = new Map<string, Uint8Array>();
  let total = additions.reduce((sum, { file }) => sum + file.size, 0);
  const bound = () => {
    if (total > MOST) throw new SatchelError('archive-too-large', { path: target });
  };
  bound();
  const put = (name: string, data: Uint8Array) => {
    const key = nameKey(name);
    // A file that replaces one keeps the spelling that the game knows.
    if (!names.has(key)) names.set(key, name);
    contents.set(key, data);
  };
  if (base.length > 0) {
    const archive = await openPack(new Blob([base]), baseName(target));
    total += archive.entries.reduce((sum, { size }) => sum + size, 0);
    bound();
    // In the order of the archive's own list, whatever the order in which it is read.
    for (const { path } of archive.entries) names.set(nameKey(path), path);
    for await (const { path, data } of archive.readMany(archive.entries.map(({ path }) => path))) put(path, data);
  }
  const byPack = new Map<string, Map<string, string[]>>();
  for (const { inside, packId, file, made } of additions) {
    if (made) {
      put(inside, made);
      continue;
    }
    const paths = byPack.get(packId) ?? new Map<string, string[]>();
    byPack.set(packId, paths.set(file.path, [...(paths.get(file.path) ?? []), inside]));
  }
  for (const [packId, paths] of byPack)
    for await (const { path, data } of await read(packId, [...paths.keys()]))
      for (const inside of paths.get(path) ?? []) put(inside, data);
  if (names.size > MOST_FILES) throw new SatchelError('archive-too-large', { path: target });
  return pack(names, contents);
}

/** Packs files one by one: gathered in an object first, a name like `__proto__` would be lost. */
function pack(names: ReadonlyMap<string, string>, contents: ReadonlyMap<string, Uint8Array>): Uint8Array<ArrayBuffer> {
  const pieces: Uint8Array[] = [];
  let failure: Error | undefined;
  const zip = new Zip((error, chunk) => {
    if (error) failure = error;
    else pieces.push(chunk);
  });
  for (const [key, name] of names) {
    const file = new ZipDeflate(name, { level: 6 });
    file.mtime = DATE;
    // Marked as made on Unix (PKWARE APPNOTE 4.4.2): for names marked as MS-DOS, unzip would apply a code page even to
    // UTF-8.
    file.os = 3;
    file.attrs = (0o100644 << 16) >>> 0;
    zip.add(file);
    file.push(contents.get(key) ?? new Uint8Array(0), true);
  }
  zip.end();
  if (failure) throw failure;
  const whole = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
