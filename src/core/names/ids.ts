import { baseName, nameKey, parentOf, stemOf } from '../paths/paths';
import type { GameTree } from './gameTree';

/** Names of one form that stand for things the player has: a title, a disc, a save. */
export interface IdKind {
  form: string;
  /** Key to spelling of every name of this form that the game has. */
  names: Map<string, string>;
  /** Keys of the names that show what the player owns: they stand somewhere else than in the folder for packs alone. */
  owned: Set<string>;
  /** Keys of the folders in which files bear ids, by the id. */
  files: Map<string, string[]>;
  /** Keys of the folders that hold one folder for each id. */
  containers: string[];
}

/** Shorter names are no ids. */
const SHORTEST = 4;

/** Longer ones neither. */
const LONGEST = 40;

/** At least two digits; most names of a game have none, and this is asked of each. */
function hasDigits(name: string): boolean {
  let digits = 0;
  for (let i = 0; i < name.length && digits < 2; i++) {
    const code = name.charCodeAt(i);
    if (code > 47 && code < 58) digits++;
  }
  return digits > 1;
}

/**
 * The form of a name that could be an id: letters and digits by how many there are. Undefined for ordinary words: an id
 * has at least two digits, and letters or signs beside them, or is a long number.
 *
 * @example idForm('OR-2201-W') // 'AA-9999-A'
 */
export function idForm(name: string): string | undefined {
  if (name.length < SHORTEST || name.length > LONGEST || !hasDigits(name)) return undefined;
  if (/^[0-9a-f]{8,}$/i.test(name) && /[a-f]/i.test(name)) return `hex${name.length}`;
  if (!/^[\p{L}\p{N}][\p{L}\p{N}._-]*$/u.test(name)) return undefined;
  if (/^\d+$/.test(name) ? name.length < 5 : /\p{Ll}{4}/u.test(name)) return undefined;
  return name.replace(/\p{L}/gu, 'A').replace(/\d/g, '9');
}

/** An id without the signs people leave out when they write it: `OR 2201 w`. */
export const bareId = (name: string): string => nameKey(name).replace(/[^\p{L}\p{N}]/gu, '');

/** Finds forms of names that come up as folders, and as files or folders in another place too. */
export function findIds(tree: GameTree): IdKind[] {
  const places = new Map<string, Places>();
  for (const [key, path] of tree.folders) if (key.includes('/')) note(places, baseName(path), parentOf(key), true);
  for (const [folder, files] of tree.files)
    for (const target of files.values()) if (hasDigits(target)) note(places, stemOf(target), folder, false);
  const found = [...places].flatMap(([form, kind]) => kindOf(form, kind) ?? []);
  return found.sort((a, b) => (a.form < b.form ? -1 : 1));
}

/** Names of one form: their spelling, the folders that each lies in, and how many each folder holds as folders. */
interface Places {
  names: Map<string, string>;
  at: Map<string, Set<string>>;
  containers: Map<string, number>;
}

function note(places: Map<string, Places>, name: string, parent: string, folder: boolean): void {
  const form = idForm(name);
  if (form === undefined) return;
  const kind: Places = places.get(form) ?? { names: new Map(), at: new Map(), containers: new Map() };
  places.set(form, kind);
  const key = nameKey(name);
  kind.names.set(key, name);
  kind.at.set(key, (kind.at.get(key) ?? new Set<string>()).add(parent));
  if (folder) kind.containers.set(parent, (kind.containers.get(parent) ?? 0) + 1);
}

/** Undefined where they are no ids: one name in two places can be chance; a long form less so. */
function kindOf(form: string, { names, at, containers }: Places): IdKind | undefined {
  const twice = [...at].filter(([, parents]) => parents.size > 1);
  if (containers.size === 0 || twice.length < 1 || (twice.length < 2 && names.size > 8)) return undefined;
  const elsewhere = [...at].filter(([, parents]) => [...parents].some((parent) => !containers.has(parent)));
  const ordered = [...containers].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
  // A folder that has every one of them, where another has only some, is the list of what there is.
  const [most, next] = ordered;
  const listed = most !== undefined && next !== undefined && most[1] === names.size && next[1] < most[1];
  const owned = new Set((elsewhere.length > 0 && !listed ? elsewhere : [...at]).map(([key]) => key));
  const files = new Map(
    [...at].map(([key, parents]) => [key, [...parents].filter((parent) => !containers.has(parent)).sort()] as const),
  );
  return { form, names, owned, files, containers: ordered.map(([folder]) => folder) };
}
