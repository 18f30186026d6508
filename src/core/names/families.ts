import { baseName, extensionOf, parentOf } from '../paths/paths';
import type { Features } from './features';
import type { GameTree } from './gameTree';
import { idForm } from './ids';
import { isLanguage } from './languages';

/** Folders beside each other that look alike: each is one of many things of a kind. */
export interface Family {
  /** Key and spelling of the folder they lie in. */
  key: string;
  folder: string;
  /** Keys of the member folders. */
  members: Set<string>;
  /** How many members have each feature. */
  counts: Map<string, number>;
  /** Features that most members share. */
  core: Set<string>;
  /** Each member is no thing but a drawer of many: files of the same endings, and no name that comes up in another. */
  drawers: boolean;
  /** The form of name that all members have, where it is that of an id: a word names none of them. */
  idForm?: string;
}

/** Names of folders for what players add, in small letters. */
export const ADDITIONS: ReadonlySet<string> = new Set([
  'mods',
  'mod',
  'addons',
  'add-ons',
  'addon',
  'custom',
  'user',
  'usermods',
  'community',
  'downloads',
  'plugins',
  'extras',
  'override',
  'overrides',
  'packs',
]);

/** Of folders with more children than this, the first are looked at. */
const MOST_MEMBERS = 2000;

/** From so many on, folders that look alike are things, whatever they are called. */
const MANY_ALIKE = 6;

/** The share of members that must have a feature for it to belong to the kind. */
const SHARED = 0.6;

interface Beside {
  members: ReadonlyMap<string, Features>;
  tree: GameTree;
  byParent: ReadonlyMap<string, readonly string[]>;
  /** Names of things that were found. */
  things: ReadonlySet<string>;
}

/** The kind that folders beside each other are of, where they are of one. @param all the folders in the folder `key` */
function familyIn(key: string, all: readonly string[], beside: Beside): Family[] {
  const { members, tree, byParent } = beside;
  const folder = tree.folders.get(key);
  // What lies in the folder of one id are its parts.
  if (folder === undefined || idForm(baseName(folder)) !== undefined) return [];
  const hasOwnFiles = tree.files.has(key) && !ADDITIONS.has(baseName(key));
  if (all.length === 1 && key.includes('/') && !hasOwnFiles) return familyOfOne(key, folder, all, beside);
  // A folder for what players add, with folders of it, is none of the things beside it.
  const children = all
    .filter((child) => !ADDITIONS.has(baseName(child)) || !byParent.has(child))
    .slice(0, MOST_MEMBERS);
  if (children.length === 0) return [];
  // What the folders beside each other have in common; files and endings make a kind, folders alone do not.
  const counts = countFeatures(children, members);
  const thrice = [...counts].filter(([feature, count]) => feature.startsWith('F:') && count >= 3);
  const marked = thrice.some(([, count]) => count >= children.length * MARKED);
  if (!marked && children.length < MANY_ALIKE && arePartsOfThings(children, beside)) return [];
  // The folders at the top of a root are its parts; only a file of one name in three of them makes a kind.
  if (!key.includes('/') && thrice.length === 0) return [];
  const kind = kindAmong(counts, children.length);
  const alike = children.filter((child) => [...(members.get(child)?.keys() ?? [])].some((one) => kind.has(one)));
  return alike.length < 2 ? [] : familyOfAlike(key, folder, alike, beside);
}

function familyOfAlike(key: string, folder: string, alike: readonly string[], { members, tree }: Beside): Family[] {
  const own = countFeatures(alike, members);
  const core = new Set(
    [...own].filter(([, count]) => count >= 2 && count >= alike.length * SHARED).map(([one]) => one),
  );
  // That two folders hold files of an ending somewhere inside makes no kind.
  if (alike.length === 2 && [...core].every((one) => one.startsWith('G:') || one.startsWith('D:'))) return [];
  return [{ key, folder, members: new Set(alike), counts: own, core, drawers: areDrawers(alike, core, tree) }];
}

/** A folder that holds nothing but one folder may be there for more of them. */
function familyOfOne(key: string, folder: string, all: readonly string[], { members, tree }: Beside): Family[] {
  const counts = countFeatures(all, members);
  const timesNamed = (of: string) => tree.foldersByName.get(baseName(of))?.length ?? 0;
  // One that many things have inside is there for more of its kind, too; so is one for what players add, unless what
  // lies in it is a folder that the game has elsewhere.
  const isForMore = timesNamed(key) > 1 || (ADDITIONS.has(baseName(key)) && all.every((one) => timesNamed(one) === 1));
  if (!isForMore && ![...counts.keys()].some((one) => one.startsWith('F:'))) return [];
  return [{ key, folder, members: new Set(all), counts, core: new Set(counts.keys()), drawers: false }];
}

/**
 * Names that come up elsewhere too are parts of things (textures, models), not things; many that look alike, and three
 * that all have a file of one name, are things all the same.
 */
function arePartsOfThings(children: readonly string[], { tree, things }: Beside): boolean {
  const parts = children.map(baseName).filter((name) => {
    const isElsewhere = (tree.foldersByName.get(name)?.length ?? 1) > 1;
    return isElsewhere && idForm(name) === undefined && !isLanguage(name) && !things.has(name);
  });
  return parts.length * 2 >= children.length;
}

/** The features that make a kind; of many kinds beside each other, those with a file of one name are one of them. */
function kindAmong(counts: ReadonlyMap<string, number>, members: number): Set<string> {
  const common = [...counts].filter(([feature, count]) => count >= 2 && !feature.startsWith('D:'));
  const kind = common.filter(([, count]) => count >= members * SHARED);
  const found = kind.length > 0 ? kind : common.filter(([feature]) => feature.startsWith('F:'));
  return new Set(found.map(([feature]) => feature));
}

/** Of folders beside each other so many have a file of one name: they are things, whatever else is called like them. */
const MARKED = 0.75;

export function findFamilies(members: ReadonlyMap<string, Features>, tree: GameTree): Family[] {
  const byParent = new Map<string, string[]>();
  for (const member of members.keys()) {
    const siblings = byParent.get(parentOf(member));
    if (siblings) siblings.push(member);
    else byParent.set(parentOf(member), [member]);
  }
  const families: Family[] = [];
  for (const [key, all] of byParent)
    families.push(...familyIn(key, all, { members, tree, byParent, things: new Set() }));
  // Folders called after things belong to those, each: the names come up twice, and are no names of parts.
  const things = new Set(
    families.flatMap(({ members: some, core }) =>
      some.size > 1 && [...core].some((one) => one.startsWith('F:')) ? [...some].map(baseName) : [],
    ),
  );
  const found = new Set(families.map(({ key }) => key));
  for (const [key, all] of byParent)
    if (!found.has(key) && all.filter((child) => things.has(baseName(child))).length >= 2)
      families.push(...familyIn(key, all, { members, tree, byParent, things }));
  const inMany = new Set(families.filter((family) => family.members.size > 1).flatMap((family) => [...family.members]));
  // Folders without a file of their own that hold such folders, in turn, are drawers of those.
  const holders = new Set(families.flatMap(({ key, members: some }) => (some.size > 1 ? [key] : [])));
  for (const family of families)
    if (
      ![...family.core].some((one) => one.startsWith('F:')) &&
      [...family.members].filter((member) => holders.has(member)).length * 2 > family.members.size
    )
      family.drawers = true;
  for (const family of families) {
    const forms = new Set([...family.members].map((member) => idForm(baseName(member))));
    const [form] = forms;
    if (forms.size === 1 && form !== undefined) family.idForm = form;
  }
  // What lies alone inside one of many alike is a part of it.
  return families
    .filter(({ key, members: some }) => some.size > 1 || !inMany.has(key) || ADDITIONS.has(baseName(key)))
    .sort((a, b) => (a.key < b.key ? -1 : 1));
}

/** Do folders hold several files of each ending that they share, under names of their own? */
function areDrawers(members: readonly string[], core: ReadonlySet<string>, tree: GameTree): boolean {
  const endings = [...core].filter((one) => one.startsWith('E:|')).map((one) => one.slice(3));
  if (endings.length === 0 || [...core].some((one) => !one.startsWith('E:|'))) return false;
  const straight = members.map((member) => [...(tree.files.get(member)?.keys() ?? [])].map(extensionOf));
  return endings.every((ending) => {
    const counts = straight.map((some) => some.filter((one) => one === ending).length).filter((count) => count > 0);
    return counts.filter((count) => count >= 2).length > counts.length / 2;
  });
}

function countFeatures(folders: readonly string[], members: ReadonlyMap<string, Features>): Map<string, number> {
  const counts = new Map<string, number>();
  for (const folder of folders)
    for (const feature of members.get(folder)?.keys() ?? []) counts.set(feature, (counts.get(feature) ?? 0) + 1);
  return counts;
}
