import { countOf } from '../words';
import type { PackEntry } from '../archives/pack';
import { baseName, isUnder, nameKey, parentOf } from '../paths/paths';
import { ask, type Context } from './context';
import { areVersions, kindsOf } from './halfThings';
import { packFolders } from '../placed/packFolders';

/** Folders of a pack that stand beside each other: take one of them, or any of the optional ones. */
export interface Group {
  parent: string;
  options: string[];
}

export interface Split {
  /** Files that lie in no group. */
  base: readonly PackEntry[];
  /** The folders that were chosen, in the order in which they lie over the base. */
  chosen: { folder: string; entries: PackEntry[] }[];
  unchosen: PackEntry[];
  /** A question about alternatives is still open. */
  open: boolean;
}

const RESOLUTION =
  /(^|[^a-z0-9])(\d{3,4}\s*(px|p|x\d{3,4})?|\d+k|\d+x|x\d+|hd|sd|uhd|low|mid(dle)?|medium|high|ultra|lite|full|half|small|large|big)([^a-z0-9]|$)/i;
const CHOICE =
  /(^|[^a-z])(option|variant|variation|version|edition|style|theme|buttons?|colou?rs?|choose|choice|either|alternate|alt|region|language|type)([^a-z]|$)/i;
const OPTIONAL = /(^|[^a-z])(optional|extras?|bonus|add-?ons?|overlays?|plus|wahlweise|opcional|facultatif)([^a-z]|$)/i;
/** Names that say for whom a part is. */
const FOR_WHOM =
  /^(?:only|just|nur|sólo|solo|seulement) (?:with|if|for|when|mit|für|wenn|con|si|para|avec|pour)\b|\bif you\b|\bfor those\b|\bfalls\b|\bsi (?:tienes|vous)\b|\boptional\b/i;
const SINGLE = /^([a-z]|\d{1,2}|[ivx]{1,4})$/i;

/** Larger packs hold more folders than this beside each other only where they are contents, not choices. */
const MOST_OPTIONS = 12;

/** How deep alternatives are looked for. */
const DEPTH = 5;

/** The folders of a pack near its top, by the folder they lie in. */
function foldersNearTop(entries: readonly PackEntry[]): Map<string, string[]> {
  const seen = new Set<string>();
  const children = new Map<string, string[]>();
  for (const { path } of packFolders(entries)) {
    const names: string[] = [];
    for (let folder = path; folder !== '' && !seen.has(folder); folder = parentOf(folder)) {
      seen.add(folder);
      names.push(folder);
    }
    for (const folder of names) {
      if (folder.split('/').length > DEPTH) continue;
      const parent = parentOf(folder);
      const list = children.get(parent);
      if (list) list.push(folder);
      else children.set(parent, [folder]);
    }
  }
  return children;
}

/** The files under some folders as paths relative to each. */
function shapes(entries: readonly PackEntry[], folders: ReadonlySet<string>): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>([...folders].map((folder) => [folder, new Set()]));
  for (const { path } of entries)
    for (let cut = path.indexOf('/'), depth = 0; cut >= 0 && depth < DEPTH; cut = path.indexOf('/', cut + 1), depth++)
      found.get(path.slice(0, cut))?.add(nameKey(path.slice(cut + 1)));
  return found;
}

function shared(a: Set<string>, b: Set<string>): number {
  const [small, large] = a.size < b.size ? [a, b] : [b, a];
  let count = 0;
  for (const path of small) if (large.has(path)) count++;
  return count;
}

const saysOptional = (path: string): boolean => OPTIONAL.test(baseName(path)) || saysForWhom(path);
/** Does a folder's own name say that it is only for some players? */
export const saysForWhom = (path: string): boolean => FOR_WHOM.test(baseName(path));

/** Is a folder's own name one that says "choose me", rather than a part of the game's tree? */
export const looksLikeChoice = (path: string): boolean => {
  const name = baseName(path);
  return RESOLUTION.test(name) || CHOICE.test(name) || SINGLE.test(name);
};

/**
 * Finds folders that exclude each other: siblings that hold the same files. Folders that the game knows by name at such
 * a place are contents (two vessels with a picture of the same name), and title ids are looked at elsewhere.
 */
export function findGroups(
  entries: readonly PackEntry[],
  { tree, card, knowledge }: Context,
): { exclusive: Group[]; optional: string[] } {
  const children = foldersNearTop(entries);
  const isId = card.titles ? new RegExp(`^(${card.titles.pattern})$`, 'i') : undefined;
  const unknown = (folder: string) =>
    !isId?.test(baseName(folder)) && !tree.foldersByName.has(nameKey(baseName(folder)));
  const finder = new GroupFinder(
    tree,
    insideOf(entries, children, unknown),
    markersOf(card, knowledge),
    kindsOf(knowledge),
  );
  const byDepth = [...children].sort(([a], [b]) => a.split('/').length - b.split('/').length || (a < b ? -1 : 1));
  for (const [parent, folders] of byDepth) finder.look(parent, folders, folders.filter(unknown));
  return { exclusive: finder.exclusive, optional: finder.optional };
}

/** What lies in the folders that could be alternatives or optional, and in those beside the latter. */
function insideOf(
  entries: readonly PackEntry[],
  children: ReadonlyMap<string, string[]>,
  unknown: (folder: string) => boolean,
): Map<string, Set<string>> {
  const all = [...children.values()];
  const candidates = all
    .map((folders) => folders.filter((folder) => unknown(folder) && !saysOptional(folder)))
    .filter(({ length }) => length > 1 && length <= MOST_OPTIONS);
  const frees = all.flat().filter((folder) => unknown(folder) && saysOptional(folder));
  const beside = frees.flatMap((folder) => children.get(parentOf(folder)) ?? []);
  const wanted = new Set([...candidates.flat(), ...frees, ...beside]);
  return wanted.size === 0 ? new Map<string, Set<string>>() : shapes(entries, wanted);
}

/** Files by which add-ons, or things of a kind, are known. */
const markersOf = (card: Context['card'], knowledge: Context['knowledge']): string[] => [
  ...card.places.flatMap((place) => (place.mode === 'own-folder' && place.marker ? [nameKey(place.marker)] : [])),
  ...knowledge.families.flatMap(({ core }) =>
    [...core].filter((one) => one.startsWith('F:') && !/[*#]/.test(one)).map((one) => one.slice(2)),
  ),
];

/** Looks through the folders of a pack from the top down. */
class GroupFinder {
  readonly exclusive: Group[] = [];
  readonly optional: string[] = [];
  private readonly taken: string[] = [];

  constructor(
    private readonly tree: Context['tree'],
    private readonly known: Map<string, Set<string>>,
    private readonly markers: readonly string[],
    private readonly kinds: readonly string[][],
  ) {}

  /** @param names those of the folders that neither the game nor a title has */
  look(parent: string, folders: readonly string[], names: readonly string[]): void {
    if (this.taken.some((folder) => isUnder(parent, folder) && parent !== '')) return;
    for (const folder of names.filter(saysOptional)) {
      if (!this.isOver(folder, folders)) continue;
      this.optional.push(folder);
      this.taken.push(folder);
    }
    const firm = names.filter((folder) => !saysOptional(folder)).sort();
    if (firm.length < 2 || firm.length > MOST_OPTIONS) return;
    for (const options of join(firm, this.known)) {
      if (!this.excludeEachOther(options)) continue;
      this.exclusive.push({ parent, options });
      this.taken.push(...options);
    }
  }

  /** What is optional lies over something: it shares files with what stands beside it, or with what that holds. */
  private isOver(folder: string, folders: readonly string[]): boolean {
    const beside = folders.filter((other) => other !== folder && !saysOptional(other));
    if (beside.length === 0) return false;
    return (
      startsLikeTheGame(this.inside(folder), this.tree) ||
      beside.some((other) => shared(this.inside(folder), this.inside(other)) > 0)
    );
  }

  /**
   * Same files alone can be chance in contents (two houses with a `door.png`); then the parts must be whole mods by
   * themselves. Add-ons that happen to hold files of the same names are not alternatives.
   */
  private excludeEachOther(group: readonly string[]): boolean {
    if (group.filter(looksLikeChoice).length >= group.length - 1) return true;
    if (
      areVersions(
        group.map((folder) => this.inside(folder)),
        this.kinds,
      )
    )
      return true;
    const isAddOn = (files: Set<string>) => this.markers.some((marker) => files.has(marker));
    return group.every((folder) => startsLikeTheGame(this.inside(folder), this.tree) && !isAddOn(this.inside(folder)));
  }

  private inside(folder: string): Set<string> {
    return this.known.get(folder) ?? new Set<string>();
  }
}

/** Folders beside each other that hold files of the same names, whatever they are called. */
export function alikeSiblings(entries: readonly PackEntry[]): Group[] {
  return [...foldersNearTop(entries)].flatMap(([parent, folders]) => {
    if (folders.length < 2 || folders.length > MOST_OPTIONS) return [];
    return join([...folders].sort(), shapes(entries, new Set(folders))).map((options) => ({ parent, options }));
  });
}

/** Siblings that share at least half of the smaller one's files fall into one group. */
function join(folders: string[], known: Map<string, Set<string>>): string[][] {
  const groups: string[][] = [];
  for (const folder of folders) {
    const own = known.get(folder) as Set<string>;
    const fits = groups.find((group) =>
      group.some((other) => {
        const theirs = known.get(other) as Set<string>;
        return shared(own, theirs) * 2 >= Math.min(own.size, theirs.size);
      }),
    );
    if (fits) fits.push(folder);
    else groups.push([folder]);
  }
  return groups.filter((group) => group.length > 1);
}

function startsLikeTheGame(inside: Set<string>, tree: Context['tree']): boolean {
  for (const path of inside)
    if (path.includes('/') && tree.foldersByName.has(path.slice(0, path.indexOf('/')))) return true;
  return false;
}

/** Names with numbers stand in the order of the numbers. */
const byNumber = (a: string, b: string): number => {
  const [x, y] = [a, b].map((name) => Number(/\d+/.exec(baseName(name))?.[0] ?? Number.NaN));
  return x !== undefined && y !== undefined && x !== y && !Number.isNaN(x) && !Number.isNaN(y) ? x - y : a < b ? -1 : 1;
};

/** Asks which of the alternatives and optional parts are wanted, and takes the pack apart accordingly. */
export const splitAlternatives = (entries: readonly PackEntry[], context: Context): Split =>
  splitAt(entries, findGroups(entries, context), context);

/** The same for parts that were found in another way. */
export function splitAt(
  entries: readonly PackEntry[],
  { exclusive, optional }: { exclusive: Group[]; optional: string[] },
  context: Context,
): Split {
  if (exclusive.length === 0 && optional.length === 0) return { base: entries, chosen: [], unchosen: [], open: false };
  const wanted: string[] = [];
  let open = false;
  const count = (folder: string) => entries.filter(({ path }) => isUnder(path, folder)).length;
  for (const { parent, options } of exclusive) {
    const answer = ask(
      context,
      {
        id: `alternatives:${parent}`,
        kind: 'one',
        title: `Which of these ${options.length} do you want?`,
        why: `${parent === '' ? 'The pack' : `“${parent}”`} holds the same files ${options.length} times over; only one of them can be in the game.`,
        options: [...options]
          .sort(byNumber)
          .map((folder) => ({ id: folder, label: baseName(folder), says: countOf(count(folder), 'file') })),
        suggested: [],
      },
      false,
    );
    if (answer.length === 0) open = true;
    wanted.push(...answer);
  }
  if (optional.length > 0) {
    const answer = ask(
      context,
      {
        id: 'optional',
        kind: 'any',
        title: 'Optional parts',
        why: 'The pack brings parts that can be laid over the rest. They stay out until you take them in.',
        options: optional.map((folder) => ({
          id: folder,
          label: baseName(folder),
          says: countOf(count(folder), 'file'),
        })),
        suggested: [],
      },
      true,
    );
    wanted.push(...answer);
  }
  const all = [...exclusive.flatMap(({ options }) => options), ...optional];
  const base: PackEntry[] = [];
  const split: Split = { base, chosen: wanted.map((folder) => ({ folder, entries: [] })), unchosen: [], open };
  for (const entry of entries) {
    const folder = all.find((one) => isUnder(entry.path, one));
    if (folder === undefined) base.push(entry);
    else (split.chosen.find((one) => one.folder === folder)?.entries ?? split.unchosen).push(entry);
  }
  return split;
}
