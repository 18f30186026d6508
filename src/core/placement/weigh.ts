import { figure, oneOr } from '../words';
import { featuresOf } from '../names/features';
import type { Family } from '../names/families';
import { fitOf, type Fit } from '../names/fit';
import { formOf, type Knowledge } from '../names/knowledge';
import { baseName, extensionOf, nameKey, parentOf, quotedTarget } from '../paths/paths';
import { FIT, WEIGHTS, saturate, sign, type Evidence } from './evidence';
import type { GameTree } from '../names/gameTree';
import { overlapOf, places } from './overlap';
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

/** Says that a part would lie where the game has no such folder. */
export const isAstray = ({ says, weight }: Evidence): boolean => weight < 0 && says.endsWith('does not have there.');

/** A part of a pack that would be laid over a folder of the game, or become one. */
interface Laid {
  node: PackNode;
  name: string;
  /** The place, as it is compared; and as the game spells it, where it is there. */
  key: string;
  there: string | undefined;
  /** It is called like the folder that is there. */
  named: boolean;
}

/** Everything but the read-me's word that speaks for or against laying `node` over, or as, the folder `to`. */
export function weighFolder(node: PackNode, name: string, to: string, { tree, knowledge }: Ground): Evidence[] {
  const key = nameKey(to);
  const there = tree.folders.get(key);
  const named = there !== undefined && key.includes('/') && node.path !== '' && nameKey(node.name) === baseName(key);
  const laid: Laid = { node, name, key, there, named };
  const found = there === undefined ? [] : overThere(laid, there, tree);
  const family = knowledge.families.find((one) => one.key === parentOf(key));
  if (family) found.push(...oneMore(laid, family, knowledge));
  const holder = there === undefined ? undefined : knowledge.families.find((one) => one.key === key);
  if (holder) {
    const { evidence, lifted } = moreOfThem(laid, holder, { tree, knowledge });
    found.push(...evidence);
    const astray = found.find(isAstray);
    if (astray && lifted > 0) astray.weight *= 1 - lifted;
  }
  return [...found, ...thrownAway(laid, tree)];
}

interface Ground {
  tree: GameTree;
  knowledge: Knowledge;
}

/** What of it agrees with what is there, and what would lie astray. */
function overThere({ node, key, named }: Laid, there: string, tree: GameTree): Evidence[] {
  const found: Evidence[] = [];
  const { exact, rare, folders, inside, home, total, common } = overlapOf(node, key, tree);
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
  return found;
}

/** It looks like the other folders beside that place. */
function oneMore({ node, name, there, named }: Laid, family: Family, knowledge: Knowledge): Evidence[] {
  const fit = fitFor(node, name, family, knowledge);
  if (fit.fit <= 0) return [];
  const { folder, members, drawers } = family;
  const size = members.size >= 3 ? 1 : members.size === 2 ? 0.85 : 0.6;
  const bare = node.path === '';
  const weight =
    WEIGHTS.family *
    fit.fit *
    (0.45 + 0.55 * fit.special) *
    size *
    (drawers ? NEW_DRAWER : 1) *
    (fit.whole <= FIT.half ? (bare ? HALF_A_THING : 0.7) : 1) *
    (endingsAlone(family) ? (bare ? ALIKE_BY_ENDING.bare : ALIKE_BY_ENDING.folder) : 1);
  const like = fit.marker === undefined ? 'It looks like' : `It has a “${fit.marker}” like`;
  if (there !== undefined)
    return named ? [{ weight: weight / 2, says: `${like} the other folders in ${quotedTarget(folder)}.` }] : [];
  const others = `${oneOr(members.size, 'one folder', `${members.size} folders`)} in ${quotedTarget(folder)}`;
  const hasForm = [...members].some((one) => formOf(baseName(one)) === formOf(name));
  return [
    { weight, says: `${like} the ${others}, so it is one more of them.` },
    ...(hasForm ? [sign('form', 'Its name has the form of the names there.')] : []),
  ];
}

/**
 * It brings more of what lies there: each with a new name, each looking like the others.
 *
 * @returns the share of its files that are no longer astray by that, too
 */
function moreOfThem(
  { node, key }: Laid,
  holder: Family,
  { tree, knowledge }: Ground,
): { evidence: Evidence[]; lifted: number } {
  const best = node.children
    .filter((child) => !tree.folders.has(`${key}/${nameKey(child.name)}`))
    .map((child) => ({ child, fit: fitFor(child, child.name, holder, knowledge) }))
    .filter(({ fit: { fit: one } }) => one > 0.3);
  const share =
    best.reduce((sum, { child, fit: one }) => sum + child.count * one.fit * (0.45 + 0.55 * one.special), 0) /
    node.count;
  const says = `It brings folders like those in ${quotedTarget(holder.folder)}.`;
  return {
    evidence: share > 0 ? [{ weight: WEIGHTS.family * share, says }] : [],
    lifted: best.reduce((sum, { child }) => sum + child.count, 0) / node.count,
  };
}

/** Folders of the pack that the game has, and of which nothing would be left. */
function thrownAway({ node, key, there }: Laid, tree: GameTree): Evidence[] {
  const kept = key.split('/');
  return node.path.split('/').flatMap((above) => {
    const name = nameKey(above);
    if (above === '' || kept.includes(name) || !tree.foldersByName.has(name)) return [];
    if (there === undefined && above === node.name) return [];
    return [
      {
        weight: WEIGHTS.strippedName * (places(tree, name) > 3 ? 0.5 : 1),
        says: `The game has a folder “${above}”, which would be thrown away.`,
      },
    ];
  });
}
