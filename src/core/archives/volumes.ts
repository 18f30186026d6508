import { kindOf } from '../media/kinds';
import { byPath } from '../paths/paths';
import type { ArchivePart } from './unpacker';

/** A file's place in a set of volumes. */
export interface Volume {
  /** The same for all files of one set. */
  set: string;
  /** Counted from 1; the last part of a split ZIP is `x.zip` itself. */
  number: number;
  /** How the parts belong together: bytes in a row, or volumes that each have headers of their own. */
  kind: 'bytes' | 'rar' | 'rar-old' | 'zip';
}

/**
 * Recognises a volume by its name: `x.7z.001`, `x.zip.001`, `x.part1.rar`, `x.r00` beside `x.rar`, `x.z01` beside
 * `x.zip`. Common practice.
 */
export function volumeOf(name: string): Volume | undefined {
  const bytes = /^(.+)\.(\d{3})$/.exec(name);
  if (bytes) return { set: (bytes[1] as string).toLowerCase(), number: Number(bytes[2]), kind: 'bytes' };
  const rar = /^(.+)\.part(\d+)\.rar$/i.exec(name);
  if (rar) return { set: (rar[1] as string).toLowerCase(), number: Number(rar[2]), kind: 'rar' };
  const old = /^(.+)\.r(\d\d)$/i.exec(name);
  if (old) return { set: (old[1] as string).toLowerCase(), number: Number(old[2]) + 2, kind: 'rar-old' };
  const zip = /^(.+)\.z(\d\d)$/i.exec(name);
  if (zip) return { set: (zip[1] as string).toLowerCase(), number: Number(zip[2]), kind: 'zip' };
  return undefined;
}

/** An ending behind a name that is an archive's already: the program that fetches it has not renamed it yet. */
const STILL = /^(.+)\.([a-z]\w{1,15})$/i;

/** The name that a half-finished download will have; undefined for a finished one. */
export function comingName(name: string): string | undefined {
  const [, whole = ''] = STILL.exec(name) ?? [];
  return !isArchiveName(name) && isArchiveName(whole) ? whole : undefined;
}

const isArchiveName = (name: string): boolean => kindOf(name) === 'archive' || volumeOf(name) !== undefined;

/** Can a file of this name be a pack, or become one? Only archives are: a downloads folder holds much else. */
export const isDownload = (name: string): boolean => isArchiveName(name) || comingName(name) !== undefined;

/** A download to be opened: one file, or all volumes of a set in their order. */
export interface Download<T extends { name: string } = ArchivePart> {
  /** What the player would call it: the first volume's name without its number. */
  name: string;
  parts: T[];
}

/** Sorts files that came together into downloads: volumes of one set become one. */
export function groupDownloads<T extends { name: string }>(files: readonly T[]): Download<T>[] {
  const sets = new Map<string, { number: number; part: T }[]>();
  const firsts = new Map(files.map((part) => [part.name.toLowerCase(), part]));
  const used = new Set<T>();
  for (const part of files) {
    const volume = volumeOf(part.name);
    if (!volume) continue;
    const key = `${volume.kind}:${volume.set}`;
    const set = sets.get(key) ?? [];
    sets.set(key, set);
    set.push({ number: volume.number, part });
    used.add(part);
    // `x.rar` is the first of the old form, `x.zip` the last of its form.
    const main = firsts.get(
      volume.kind === 'rar-old' ? `${volume.set}.rar` : volume.kind === 'zip' ? `${volume.set}.zip` : '',
    );
    if (main && !used.has(main)) {
      set.push({ number: volume.kind === 'zip' ? Number.MAX_SAFE_INTEGER : 1, part: main });
      used.add(main);
    }
  }
  const joined = [...sets.values()].map((set): Download<T> => {
    const parts = set.sort((a, b) => a.number - b.number || byPath(a.part.name, b.part.name)).map(({ part }) => part);
    return { name: (parts[0] as T).name, parts };
  });
  return [...files.filter((part) => !used.has(part)).map((part) => ({ name: part.name, parts: [part] })), ...joined];
}

/** What a part of a set is called, by its number; as many digits as another part of it has. */
function nameOfPart({ kind, set }: Volume, number: number, like: string): string {
  const digits = (width: number, of = number) => String(of).padStart(width, '0');
  switch (kind) {
    case 'bytes':
      return `${set}.${digits(3)}`;
    case 'rar':
      return `${set}.part${digits(/part(\d+)/i.exec(like)?.[1]?.length ?? 1)}.rar`;
    case 'rar-old':
      return number === 1 ? `${set}.rar` : `${set}.r${digits(2, number - 2)}`;
    case 'zip':
      return `${set}.z${digits(2)}`;
  }
}

/**
 * Names the part that is missing from a set, judged by numbers alone: undefined where none is, or where only the
 * archive
 * itself can tell (its end is missing).
 */
export function missingPart(parts: readonly { name: string }[]): string | undefined {
  const volumes = parts.map(({ name }) => volumeOf(name));
  const known = volumes.find((volume) => volume !== undefined);
  if (!known) return undefined;
  const numbers = new Set(volumes.flatMap((volume) => (volume ? [volume.number] : [])));
  const isMain = (extension: string) => parts.some(({ name }) => name.toLowerCase() === `${known.set}.${extension}`);
  if (known.kind === 'rar-old') numbers.add(isMain('rar') ? 1 : 0);
  const highest = Math.max(...numbers);
  for (let number = 1; number <= highest; number++) {
    if (numbers.has(number)) continue;
    return nameOfPart(known, number, parts[0]?.name ?? '');
  }
  return known.kind === 'zip' && !isMain('zip') ? `${known.set}.zip` : undefined;
}
