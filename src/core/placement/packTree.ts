import type { PackEntry } from '../archives/pack';
import type { Family } from '../names/families';
import { baseName, nameKey, parentOf } from '../paths/paths';
import { packFolders, type PackFolder } from '../placed/packFolders';

/** A folder of a pack with what lies in it. */
export interface PackNode {
  path: string;
  name: string;
  depth: number;
  children: PackNode[];
  /** Files straight in it. */
  files: readonly PackEntry[];
  /** It and all folders below it that hold files. */
  folders: PackFolder[];
  /** Files in it, all the way down. */
  count: number;
}

/** The folders of some entries as a tree; its top is the pack itself. */
export function packTree(entries: readonly PackEntry[]): PackNode {
  const nodes = new Map<string, PackNode>();
  const make = (path: string): PackNode => {
    const known = nodes.get(path);
    if (known) return known;
    const depth = path === '' ? 0 : path.split('/').length;
    const node: PackNode = { path, name: baseName(path), depth, children: [], files: [], folders: [], count: 0 };
    nodes.set(path, node);
    if (path !== '') make(parentOf(path)).children.push(node);
    return node;
  };
  const top = make('');
  for (const folder of packFolders(entries)) {
    make(folder.path).files = folder.files;
    for (let path = folder.path; ; path = parentOf(path)) {
      const node = make(path);
      node.folders.push(folder);
      node.count += folder.files.length;
      if (path === '') break;
    }
  }
  for (const node of nodes.values()) node.children.sort((a, b) => (a.path < b.path ? -1 : 1));
  return top;
}

/**
 * The name that a folder would have among things alike, where each of them is called like a file in it: `red/red.hull`.
 *
 * @returns undefined where no file says one, or several say different ones
 */
export function namedByFile(node: PackNode, { core }: Pick<Family, 'core'>): string | undefined {
  const forms = [...core].filter((one) => /^F:[^*]*\*[^*]*$/.test(one)).map((one) => formOf(one.slice(2)));
  const said = node.files.flatMap(({ path }) => forms.flatMap((form) => form.exec(baseName(path))?.[1] ?? []));
  const [one, ...others] = new Map(said.map((name) => [nameKey(name), name])).values();
  return others.length === 0 ? one : undefined;
}

/** Names of files of this form: `*` is the folder's own name, `#` a number. */
const formOf = (masked: string): RegExp =>
  new RegExp(
    `^${masked
      .replace(/[.+?^${}()|[\]\\]/g, '\\$&')
      .replace('*', '(.+)')
      .replaceAll('#', '\\d+')}$`,
    'iu',
  );

/** A folder's own folders, without what lies above it: keys from it down. */
export const relOf = (folder: PackFolder, node: PackNode): string[] => folder.keys.slice(node.depth);
