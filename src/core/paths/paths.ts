import { SatchelError } from '../errors';
import { onceFor } from '../once';
import { nameProblem, type NameProblem } from './names';

declare const packPath: unique symbol;
declare const targetPath: unique symbol;

/** A checked path inside a pack: relative, `/`-separated, no empty, `.` or `..` parts. */
export type PackPath = string & { readonly [packPath]: true };
/** Where a file goes: `<root id>/<path>`. */
export type TargetPath = string & { readonly [targetPath]: true };

export type PathCheck = { ok: true; path: string } | { ok: false; problem: NameProblem };

/**
 * Checks a path that came from outside (an archive, a dropped folder, a request).
 * Backslashes count as separators, one leading `./` is dropped; everything else suspicious is refused, not mended.
 *
 * @example checkPath('a\\b.txt') // { ok: true, path: 'a/b.txt' }
 * @example checkPath('../b.txt') // { ok: false, problem: 'goes up with ..' }
 */
export function checkPath(raw: string): PathCheck {
  const path = raw.replaceAll('\\', '/').replace(/^(\.\/)+/, '');
  if (path.startsWith('/')) return { ok: false, problem: 'absolute' };
  if (/^[a-z]:/i.test(path)) return { ok: false, problem: 'drive letter' };
  for (const name of path.split('/')) {
    const problem = nameProblem(name);
    if (problem) return { ok: false, problem };
  }
  return { ok: true, path };
}

/** Joins a root id and a path inside that root. An empty path stands for the root itself. */
export const target = (root: string, path: string): TargetPath =>
  (path === '' ? root : `${root}/${path}`) as TargetPath;

/** Does a place lie inside the folders of the game? Names that some systems refuse are no matter here. */
export const staysInside = (place: string): place is TargetPath =>
  !/[\u0000-\u001f\\]|^[a-z]:/i.test(place) && place.split('/').every((name) => name !== '' && !/^\.+$/.test(name));

/**
 * A target out of a message of the page, an address or what a game wrote.
 *
 * @throws SatchelError `bad-target` where it leads out of the game's folders
 */
export function parseTarget(text: string): TargetPath {
  if (staysInside(text)) return text;
  throw new SatchelError('bad-target', { path: text.slice(0, 300), why: 'it leads out of the game’s folders' });
}

/** A target with a name in it in the place of a mark like `{title}`. */
export const fillTarget = (of: TargetPath, mark: string, name: string): TargetPath =>
  of.replaceAll(mark, () => name) as TargetPath;

/** Takes a target apart into its root id and the path inside that root. */
export function splitTarget(of: TargetPath): { root: string; path: string } {
  const cut = of.indexOf('/');
  return cut < 0 ? { root: of, path: '' } : { root: of.slice(0, cut), path: of.slice(cut + 1) };
}

/**
 * The form in which names are compared: Unicode NFC (UAX #15), lower case.
 * Two targets with one key are one file on the platforms games run on.
 */
export const nameKey = (path: string): string =>
  BEYOND_ASCII.test(path) ? path.normalize('NFC').toLowerCase() : path.toLowerCase();
/** ASCII is its own composed form: most names need no normalising. */
const BEYOND_ASCII = /[^\u0000-\u007f]/;

/** The folder part of a path, '' at the top. */
export const parentOf = <Path extends string>(path: Path): Path =>
  path.slice(0, Math.max(0, path.lastIndexOf('/'))) as Path;

/** The last part of a path. */
export const baseName = (path: string): string => path.slice(path.lastIndexOf('/') + 1);

/** The extension in lower case without its dot, '' where there is none. */
export function extensionOf(path: string): string {
  const name = baseName(path);
  const dot = name.lastIndexOf('.');
  return dot <= 0 ? '' : name.slice(dot + 1).toLowerCase();
}

/** A file's own name without its ending. */
export function stemOf(path: string): string {
  const name = baseName(path);
  const dot = name.lastIndexOf('.');
  return dot > 0 ? name.slice(0, dot) : name;
}

/** A target as sentences name it: in quotes, without its root; the root's id where it is one. */
export const quotedTarget = (of: string): string => `“${of.includes('/') ? of.slice(of.indexOf('/') + 1) : of}”`;

/** Joins path parts, skipping empty ones. What begins with a target is one. */
export function joinPath(of: TargetPath, ...parts: string[]): TargetPath;
export function joinPath(...parts: string[]): string;
export function joinPath(...parts: string[]): string {
  let joined = '';
  for (const part of parts) if (part !== '') joined = joined === '' ? part : `${joined}/${part}`;
  return joined;
}

/** Is `path` the folder `folder` or inside it? The empty folder holds everything. */
export const isUnder = (path: string, folder: string): boolean =>
  folder === '' || path === folder || path.startsWith(`${folder}/`);

/** Every folder that one of these paths lies in, at any depth; the empty one, which holds everything, is not told. */
export function foldersAbove(paths: Iterable<string>): Set<string> {
  const folders = new Set<string>();
  for (const path of paths)
    for (let up = parentOf(path); up !== '' && !folders.has(up); up = parentOf(up)) folders.add(up);
  return folders;
}

/** Orders paths the same way on every machine: by code unit, never by locale. */
export const byPath = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** The keys of many targets, found once for each list of them: the same list must hold the same targets. */
export const keysOf: (targets: readonly string[]) => ReadonlySet<string> = onceFor(
  (targets: readonly string[]) => new Set(targets.map(nameKey)),
);
