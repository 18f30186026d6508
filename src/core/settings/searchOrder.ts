import { isUnder, nameKey } from '../paths/paths';
import type { SettingsDocument } from './document';
import type { Edit } from './edits';

/** How a game says where it looks for files. */
export interface SearchCard {
  /** Where an entry stands, for instance `look › in`; it can stand many times. */
  entry: readonly string[];
  /** The word before a folder that stands for every folder inside it. */
  each?: string | undefined;
}

/** One line of the search order. */
export interface SearchEntry {
  path: string[];
  folder: string;
  /** It stands for every folder inside `folder`, each a container of its own. */
  each: boolean;
  /** As it is written. */
  value: string;
}

const bare = (name: string): string => name.replace(/#\d+$/, '');
const unquote = (word: string): string => (word.startsWith('"') ? word.slice(1, -1).replace(/\\(["\\])/g, '$1') : word);

/** The lines of a search order, in order. */
export function searchEntries(document: SettingsDocument, card: SearchCard): SearchEntry[] {
  const wanted = card.entry.join('\n');
  return document.entries().flatMap(({ path, value }): SearchEntry[] => {
    if (path.map(bare).join('\n') !== wanted) return [];
    const each = card.each !== undefined && value.startsWith(`${card.each} `);
    return [
      {
        path,
        value,
        each,
        folder: unquote(each ? value.slice((card.each?.length ?? 0) + 1).trim() : value).replace(/\/+$/, ''),
      },
    ];
  });
}

/**
 * The folders that are really looked through, the first one first. `files` are relative to the folder that the order
 * speaks of.
 */
export function searchContainers(
  entries: readonly SearchEntry[],
  files: readonly string[],
): { folder: string; entry: SearchEntry; files: number }[] {
  const inner = new Map<string, Map<string, { folder: string; files: number }>>();
  const counts = new Map<string, number>();
  for (const { each, folder } of entries) if (each) inner.set(nameKey(folder), new Map());
  for (const file of files) {
    const names = file.split('/');
    for (let depth = 1; depth < names.length; depth++) {
      const folder = names.slice(0, depth).join('/');
      counts.set(nameKey(folder), (counts.get(nameKey(folder)) ?? 0) + 1);
      const all = depth + 1 < names.length ? inner.get(nameKey(folder)) : undefined;
      if (!all) continue;
      const child = names.slice(0, depth + 1).join('/');
      const known = all.get(nameKey(child)) ?? { folder: child, files: 0 };
      known.files++;
      all.set(nameKey(child), known);
    }
  }
  return entries.flatMap((entry) =>
    entry.each
      ? [...(inner.get(nameKey(entry.folder)) ?? new Map<string, { folder: string; files: number }>()).values()]
          .sort((a, b) => (nameKey(a.folder) < nameKey(b.folder) ? -1 : 1))
          .map((one) => ({ ...one, entry }))
      : [{ folder: entry.folder, entry, files: counts.get(nameKey(entry.folder)) ?? 0 }],
  );
}

/** Where a file is found: every container that has it, the one that wins first. */
export function findInSearch(
  containers: readonly { folder: string }[],
  files: readonly string[],
  wanted: string,
): { folder: string; file: string }[] {
  const key = nameKey(wanted);
  const found: { folder: string; file: string }[] = [];
  for (const { folder } of containers)
    for (const file of files)
      if (isUnder(nameKey(file), nameKey(folder)) && nameKey(file).slice(nameKey(folder).length + 1) === key)
        found.push({ folder, file });
  return found;
}

/** Edits that put a line at another place of the order: the values change places, the lines stay. */
export function moveSearchEntry(entries: readonly SearchEntry[], from: number, to: number): Edit[] {
  const values = entries.map(({ value }) => value);
  const [moved] = values.splice(from, 1);
  if (moved === undefined) return [];
  values.splice(to, 0, moved);
  return entries.flatMap(({ path, value }, i) => (values[i] === value ? [] : [{ path, value: values[i] as string }]));
}

/** The edit that adds a folder at the end of the order. */
export function addSearchFolder(
  entries: readonly SearchEntry[],
  card: SearchCard,
  folder: string,
  each: boolean,
): Edit {
  const path = [...card.entry];
  const last = path.pop() ?? '';
  return {
    path: [...path, entries.length === 0 ? last : `${last}#${entries.length + 1}`],
    value: each && card.each !== undefined ? `${card.each} "${folder.replace(/["\\]/g, '\\$&')}"` : folder,
  };
}
