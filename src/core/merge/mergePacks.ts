import { boundAndCompare } from '../archives/bounds';
import type { Pack, PackEntry, PackFile } from '../archives/pack';
import { SatchelError, throwIfAborted } from '../errors';
import { sameContent } from '../layers/layer';
import { nameKey, type PackPath } from '../paths/paths';
import type { WorkOptions } from '../progress';

/** A file of a pack that is to be merged, under the path that it has in the merged one. */
export interface MergeEntry {
  /** Path in the merged pack. */
  path: string;
  /** The pack's own entry. */
  entry: PackEntry;
}

/** A file that more than one of the packs has. */
interface MergeDuplicate {
  path: string;
  /** Places in the list of packs, the lowest first; the last one's file is taken. */
  sources: number[];
  identical: boolean;
}

export interface MergePlan {
  files: { path: string; source: number; entry: PackEntry }[];
  duplicates: MergeDuplicate[];
}

/**
 * What comes of packs that are unpacked into one folder one after the other, the lowest first: of files with one name
 * the later pack's counts. Names compare as the platform compares them; a file keeps the spelling that came first.
 */
export function planMerge(sources: readonly (readonly MergeEntry[])[]): MergePlan {
  const files = new Map<string, { path: string; source: number; entry: PackEntry }>();
  const duplicates = new Map<string, MergeDuplicate>();
  sources.forEach((entries, source) => {
    for (const { path, entry } of entries) {
      const key = nameKey(path);
      const before = files.get(key);
      if (before && before.source !== source) {
        const same = sameContent(before.entry, entry);
        const known = duplicates.get(key);
        duplicates.set(
          key,
          known
            ? { ...known, sources: [...known.sources, source], identical: known.identical && same }
            : { path: before.path, sources: [before.source, source], identical: same },
        );
      }
      files.set(key, { path: before?.path ?? path, source, entry });
    }
  });
  return { files: [...files.values()], duplicates: [...duplicates.values()] };
}

/**
 * The merged pack, readable like any other; its bytes stay in the packs that it is made of.
 *
 * @throws PackError `too-large`
 */
export function mergedPack({ files }: MergePlan, packs: readonly Pack[], name: string): Pack {
  const entries: PackEntry[] = files.map(({ path, entry }) => ({ ...entry, path: path as PackPath }));
  const byPath = new Map<string, { path: string; source: number; entry: PackEntry }>(
    files.map((file) => [file.path, file]),
  );
  const fileAt = (path: string) => {
    const file = byPath.get(path);
    if (!file) throw new SatchelError('unknown-thing', { what: `file “${path}” in “${name}”` });
    return file;
  };
  const readMany = async function* (paths: Iterable<string>, { signal }: WorkOptions = {}): AsyncGenerator<PackFile> {
    const wanted = packs.map(() => new Map<string, string[]>());
    for (const path of paths) {
      const file = fileAt(path);
      const of = wanted[file.source] as Map<string, string[]>;
      of.set(file.entry.path, [...(of.get(file.entry.path) ?? []), path]);
    }
    for (const [source, from] of wanted.entries()) {
      const pack = packs[source];
      if (!pack || from.size === 0) continue;
      for await (const { path, data } of pack.readMany(from.keys(), signal ? { signal } : {})) {
        throwIfAborted(signal);
        // The bytes belong to the caller: a file that goes to two places is two files.
        for (const [i, target] of (from.get(path) ?? []).entries())
          yield { path: target as PackPath, data: i === 0 ? data : data.slice() };
      }
    }
  };
  return {
    name,
    format: 'folder',
    entries,
    readMany,
    ...(packs.every(({ chunks }) => chunks) && {
      chunks: (path: string) => {
        const { source, entry } = fileAt(path);
        return (packs[source]?.chunks as NonNullable<Pack['chunks']>)(entry.path);
      },
    }),
    notices: boundAndCompare(
      entries,
      entries.reduce((sum, { size }) => sum + size, 0),
      name,
    ),
    read: async (path) => {
      for await (const { data } of readMany([path])) return data;
      throw new SatchelError('unexpected', { why: 'a file gave nothing' });
    },
  };
}
