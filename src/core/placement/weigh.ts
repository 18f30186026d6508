import { figure, oneOr } from '../words';
import { featuresOf } from '../names/features';
import { idForm } from '../names/ids';
import { isLanguage } from '../names/languages';
import type { Family } from '../names/families';
import { fitOf, type Fit } from '../names/fit';
import { formOf, type Knowledge } from '../names/knowledge';
import { baseName, extensionOf, nameKey, parentOf, quotedTarget, stemOf } from '../paths/paths';
import type { PackEntry } from '../archives/pack';
import { WEIGHTS, saturate, sign, type Evidence } from './evidence';
import type { GameTree } from '../names/gameTree';
import { relOf, type PackNode } from './packTree';

const files = (count: number): string => oneOr(count, 'One file', `${figure(count)} files`);

const fits = new WeakMap<PackNode, Map<Family, Fit>>();

/** How well a folder of a pack fits a family; remembered for the proposal. */
export function fitFor(node: PackNode, name: string, family: Family, knowledge: Knowledge): Fit {
  const known = fits.get(node) ?? new Map<Family, Fit>();
  fits.set(node, known);
  const before = known.get(family);
  if (before) return before;
  const own = featuresOf(
    name,
    node.folders.map((folder) => ({ rel: relOf(folder, node), fileKeys: folder.fileKeys })),
  );
  const fit = fitOf(own, family, knowledge);
  // One file of each ending is a thing for one of the drawers, no further drawer.
  const made = family.drawers && !hasSeveral(node) ? { ...fit, fit: fit.fit * ONE_IN_A_DRAWER } : fit;
  known.set(family, made);
  return made;
}

/** Drawers are seldom added: what fits as one more counts this share. */
const NEW_DRAWER = 0.6;

/** Loose files that are no more than half of what such things have are hardly a new one: they count this share. */
const HALF = 0.5;
const HALF_A_THING = 0.4;

/** Where only endings are alike, a download with a folder of its own counts so much, and one without counts so much. */
const ALIKE_BY_ENDING = { folder: 0.8, bare: 0.4 } as const;

/** Do the members of a kind share nothing but endings: no file, no folder inside? */
const endingsAlone = ({ core }: Family): boolean => [...core].every((one) => one.startsWith('E:|'));

/** How well what would be the only one of its ending in a drawer fits as a drawer. */
const ONE_IN_A_DRAWER = 0.4;

/** Does a folder hold two files of one ending, straight in it? */
function hasSeveral({ files: straight }: PackNode): boolean {
  const endings = straight.map(({ path }) => extensionOf(path));
  return new Set(endings).size < endings.length;
}

/** What lies where when a folder of a pack is laid over a folder of the game. */
interface Overlap {
  exact: number;
  /** Sum over files of the same path, each counted by how rare its name is in the game. */
  rare: number;
  /** The same for folders of the same name. */
  folders: number;
  /** Files whose first folder is there, or whose ending is at home straight in the folder. */
  inside: number;
  /** Files whose ending is at home in the very folder they land in. */
  home: number;
  total: number;
  /** The folder with most files that both have, as the game spells it. */
  common: string;
}

const places = (tree: GameTree, folder: string): number => tree.foldersByName.get(folder)?.length ?? 1;

/** Lays a folder of a pack over a folder of the game and counts. */
export function overlapOf(node: PackNode, to: string, tree: GameTree): Overlap {
  const base = nameKey(to);
  const made: Overlap = { exact: 0, rare: 0, folders: 0, inside: 0, home: 0, total: node.count, common: '' };
  const seen = new Set<string>();
  let most = 0;
  for (const folder of node.folders) {
    const rel = relOf(folder, node);
    let key = base;
    let depth = 0;
    for (let next; depth < rel.length && tree.folders.has((next = `${key}/${rel[depth] as string}`)); depth++) {
      key = next;
      if (seen.has(key)) continue;
      seen.add(key);
      made.folders += 1 / places(tree, rel[depth] as string);
    }
    const own = depth === rel.length ? tree.files.get(key) : undefined;
    const endings = own && new Set([...own.keys()].map(extensionOf));
    let atHome = 0;
    for (const file of folder.fileKeys) {
      if (own?.has(file)) {
        const others = tree.foldersOfFile.get(file);
        made.exact++;
        made.rare += 1 / (Array.isArray(others) ? others.length : 1);
        atHome++;
      } else if (endings?.has(extensionOf(file))) atHome++;
    }
    made.home += atHome;
    made.inside += depth > 0 ? folder.fileKeys.length : rel.length === 0 ? atHome : 0;
    if (depth > 0 && folder.fileKeys.length > most) {
      most = folder.fileKeys.length;
      made.common = tree.folders.get(key) ?? key;
    }
  }
  return made;
}

/** Says that a part would lie where the game has no such folder. */
export const isAstray = ({ says, weight }: Evidence): boolean => weight < 0 && says.endsWith('does not have there.');

/** Everything but the read-me's word that speaks for or against laying `node` over, or as, the folder `to`. */
export function weighFolder(
  node: PackNode,
  name: string,
  to: string,
  tree: GameTree,
  knowledge: Knowledge,
): Evidence[] {
  const found: Evidence[] = [];
  const key = nameKey(to);
  const there = tree.folders.get(key);
  const named = there !== undefined && key.includes('/') && node.path !== '' && nameKey(node.name) === baseName(key);
  const family = knowledge.families.find((one) => one.key === parentOf(key));
  const fit = family ? fitFor(node, name, family, knowledge) : undefined;
  if (there !== undefined) {
    const { exact, rare, folders, inside, home, total, common } = overlapOf(node, to, tree);
    const agreeing = folders + (named ? 1 / places(tree, baseName(key)) : 0);
    if (exact > 0) {
      const factor = agreeing > 0 ? 1 : exact === 1 ? WEIGHTS.sameName : 0.8;
      const weight = WEIGHTS.samePath * saturate(rare) * (0.4 + (0.6 * exact) / total) * factor;
      found.push({
        weight,
        says: `${figure(exact)} of its files ${oneOr(exact, 'has', 'have')} the name of one of the game’s.`,
      });
    }
    if (agreeing > 0) {
      const share = named ? 1 : inside / total;
      found.push({
        weight: WEIGHTS.sameFolder * saturate(agreeing, 1.2) * share,
        says: `Its folders match the game’s own ${quotedTarget(common || there)}.`,
      });
    }
    if (home > 0 && (agreeing > 0 || exact > 0))
      found.push({ weight: (WEIGHTS.atHome * home) / total, says: 'Its kinds of files are at home there.' });
    const lost = named ? 0 : 1 - inside / total;
    if (lost > 0)
      found.push({
        weight: WEIGHTS.astray * lost,
        says: `${files(Math.round(lost * total))} would lie in folders that the game does not have there.`,
      });
  }
  if (family && fit && fit.fit > 0) {
    const size = family.members.size >= 3 ? 1 : family.members.size === 2 ? 0.85 : 0.6;
    const weight =
      WEIGHTS.family *
      fit.fit *
      (0.45 + 0.55 * fit.special) *
      size *
      (family.drawers ? NEW_DRAWER : 1) *
      (node.path === '' && fit.whole <= HALF ? HALF_A_THING : 1) *
      (endingsAlone(family) ? (node.path === '' ? ALIKE_BY_ENDING.bare : ALIKE_BY_ENDING.folder) : 1);
    const like = fit.marker === undefined ? 'It looks like' : `It has a “${fit.marker}” like`;
    const others = `${oneOr(family.members.size, 'one folder', `${family.members.size} folders`)} in ${quotedTarget(family.folder)}`;
    if (there === undefined) found.push({ weight, says: `${like} the ${others}, so it is one more of them.` });
    else if (named)
      found.push({ weight: weight / 2, says: `${like} the other folders in ${quotedTarget(family.folder)}.` });
    if (there === undefined && [...family.members].some((one) => formOf(baseName(one)) === formOf(name)))
      found.push(sign('form', 'Its name has the form of the names there.'));
  }
  const holder = there === undefined ? undefined : knowledge.families.find((one) => one.key === key);
  if (holder) {
    // It brings more of what lies there: each with a new name, each looking like the others.
    const fresh = node.children.filter((child) => !tree.folders.has(`${key}/${nameKey(child.name)}`));
    const best = fresh
      .map((child) => ({ child, fit: fitFor(child, child.name, holder, knowledge) }))
      .filter(({ fit: { fit: one } }) => one > 0.3);
    const share =
      best.reduce((sum, { child, fit: one }) => sum + child.count * one.fit * (0.45 + 0.55 * one.special), 0) /
      node.count;
    if (share > 0)
      found.push({
        weight: WEIGHTS.family * share,
        says: `It brings folders like those in ${quotedTarget(holder.folder)}.`,
      });
    const lifted = best.reduce((sum, { child }) => sum + child.count, 0) / node.count;
    const astray = found.find(isAstray);
    if (astray && lifted > 0) astray.weight *= 1 - lifted;
  }
  for (const above of node.path.split('/')) {
    if (above === '' || key.split('/').includes(nameKey(above))) continue;
    const known = places(tree, nameKey(above));
    if (tree.foldersByName.has(nameKey(above)) && !(there === undefined && above === node.name))
      found.push({
        weight: WEIGHTS.strippedName * (known > 3 ? 0.5 : 1),
        says: `The game has a folder “${above}”, which would be thrown away.`,
      });
  }
  return found;
}

/** Files of one name and other endings, where the game has such pairs: what belongs together lies together. */
export function weighTwins(file: string, to: string, beside: readonly PackEntry[], tree: GameTree): Evidence[] {
  const stem = nameKey(stemOf(file));
  const others = beside
    .filter(({ path }) => path !== file && nameKey(stemOf(path)) === stem)
    .map(({ path }) => extensionOf(path));
  if (others.length === 0) return [];
  const names = tree.files.get(nameKey(parentOf(to)));
  if (!names || names.size > MOST_PAIRED) return [];
  const ending = extensionOf(file);
  const ofEnding = [...names.keys()].filter((name) => extensionOf(name) === ending);
  const pairs = others.some((other) => ofEnding.filter((name) => names.has(`${stemOf(name)}.${other}`)).length >= 2);
  return pairs ? [{ weight: WEIGHTS.twins, says: `Files there come in pairs like “${stemOf(file)}”.` }] : [];
}
/** In fuller folders no pairs are looked for. */
const MOST_PAIRED = 2000;

/** What speaks for a single file in a folder of the game. */
export function weighFile(file: string, to: string, tree: GameTree, { homes, endings }: Knowledge): Evidence[] {
  const found: Evidence[] = [];
  const folder = nameKey(parentOf(to));
  const name = nameKey(baseName(file));
  const ending = extensionOf(file);
  const own = tree.files.get(folder);
  const same = own?.has(nameKey(baseName(to))) ?? false;
  if (same) {
    const others = tree.foldersOfFile.get(nameKey(baseName(to)));
    const rare = 1 / (Array.isArray(others) ? others.length : 1);
    found.push({
      weight: WEIGHTS.samePath * saturate(rare) * WEIGHTS.sameName,
      says: `A file of this name is in ${quotedTarget(parentOf(to))}.`,
    });
  }
  const here = homes.get(ending)?.get(folder) ?? 0;
  const all = endings.get(ending) ?? 0;
  if (here > 0 && ending !== '') {
    const weight = WEIGHTS.ending * (here / all) * (here > 1 ? 1 : 0.6);
    found.push({
      weight,
      says:
        here === all && all > 1
          ? `All ${all} .${ending} files of the game lie there.`
          : `${here} of ${all} .${ending} files of the game lie there.`,
    });
    if (
      here > 1 &&
      [...(own?.keys() ?? [])].some(
        (one) => one !== name && extensionOf(one) === ending && formOf(one) === formOf(name),
      )
    )
      found.push(sign('form', 'Its name has the form of the names there.'));
  }
  const number = withoutNumber(name);
  if (
    !same &&
    number !== undefined &&
    [...(own?.keys() ?? [])].filter((one) => withoutNumber(one) === number).length >= 2
  )
    found.push(sign('series', 'It is the next of files there that differ only in their number.'));
  const id = idForm(stemOf(name));
  if (
    !same &&
    id !== undefined &&
    [...(own?.keys() ?? [])].filter((one) => extensionOf(one) === ending && idForm(stemOf(one)) === id).length >= 2
  )
    found.push({ weight: WEIGHTS.idsHere, says: 'Files there bear ids of this form.' });
  if (
    !same &&
    isLanguage(name) &&
    [...(own?.keys() ?? [])].filter((one) => extensionOf(one) === ending && isLanguage(one)).length >= 2
  )
    found.push({ weight: WEIGHTS.language, says: 'Languages lie there, and its name is one.' });
  return found;
}

/** `patch#.pak` for `patch3.pak`; undefined where no letters stand before the number. */
const withoutNumber = (name: string): string | undefined =>
  /\p{L}{2}[ _.-]?\d{1,4}$/u.test(stemOf(name)) ? name.replace(/\d{1,4}(?=\.[^.]*$|$)/, '#') : undefined;
