import { onceFor } from '../once';
import { kindOf } from '../media/kinds';
import { baseName, extensionOf, nameKey, parentOf, stemOf } from '../paths/paths';
import { findFamilies, type Family } from './families';
import { FEATURE_DEPTH, addFeatures, type Features } from './features';
import type { GameTree } from './gameTree';
import { findIds, type IdKind } from './ids';

/** What names and places of a game's files teach, without opening one. */
export interface Knowledge {
  families: Family[];
  /** The family of a member folder, by key. */
  familyOf: Map<string, Family>;
  /** Ending to the folders that hold such files, with how many. */
  homes: Map<string, Map<string, number>>;
  /** How many files of each ending there are. */
  endings: Map<string, number>;
  ids: IdKind[];
  /** The part before a dot to the folders in which folders of such names lie. */
  variants: Map<string, Set<string>>;
  /** In how many places of the game folders have each feature. */
  everywhere: Map<string, number>;
}

/** What a game's folders teach; kept for as long as the tree is. The work grows linearly with the game. */
export const knowledgeOf = onceFor((tree: GameTree): Knowledge => study(tree));

/** What was studied, without the folders of which the player says that they hold no kind of thing. */
export function withoutFolders(knowledge: Knowledge, refused: ReadonlySet<string>): Knowledge {
  if (refused.size === 0) return knowledge;
  const families = knowledge.families.filter(({ key }) => !refused.has(key));
  const homes = new Map(
    [...knowledge.homes].map(
      ([ending, folders]) => [ending, new Map([...folders].filter(([folder]) => !refused.has(folder)))] as const,
    ),
  );
  const ids = knowledge.ids.filter(({ containers }) => !containers.some((folder) => refused.has(folder)));
  return {
    ...knowledge,
    families,
    homes,
    ids,
    familyOf: new Map([...knowledge.familyOf].filter(([, family]) => families.includes(family))),
  };
}

/**
 * What was studied, with endings that the game has under another number: `slot.st1` is of the kind of `slot.st0`, as
 * far as that number is no part of a name that anybody's tools know (`mp3`).
 *
 * @param wanted endings of files that come
 */
export function withNumberedEndings(knowledge: Knowledge, wanted: ReadonlySet<string>): Knowledge {
  const isNumbered = (ending: string) => /\d$/.test(ending) && kindOf(`x.${ending}`) === 'other';
  const numbered = [...wanted].filter((ending) => isNumbered(ending) && !knowledge.homes.has(ending));
  if (numbered.length === 0) return knowledge;
  const byForm = new Map<string, string[]>();
  for (const ending of knowledge.homes.keys())
    if (isNumbered(ending)) byForm.set(formOf(ending), [...(byForm.get(formOf(ending)) ?? []), ending].slice(0, 2));
  const fresh = numbered.flatMap((ending) => {
    const [like, other] = byForm.get(formOf(ending)) ?? [];
    return like === undefined || other !== undefined ? [] : [[ending, like] as const];
  });
  if (fresh.length === 0) return knowledge;
  const homes = new Map(knowledge.homes);
  const endings = new Map(knowledge.endings);
  for (const [ending, like] of fresh) {
    homes.set(ending, homes.get(like) as Map<string, number>);
    endings.set(ending, endings.get(like) as number);
  }
  return { ...knowledge, homes, endings };
}

function study(tree: GameTree): Knowledge {
  const homes = new Map<string, Map<string, number>>();
  const endings = new Map<string, number>();
  const members = new Map<string, Features>();
  for (const [folder, files] of tree.files) {
    const here = new Map<string, number>();
    for (const file of files.keys()) {
      const ending = extensionOf(file);
      here.set(ending, (here.get(ending) ?? 0) + 1);
    }
    for (const [ending, count] of here) {
      endings.set(ending, (endings.get(ending) ?? 0) + count);
      const places = homes.get(ending) ?? new Map<string, number>();
      if (places.size === 0) homes.set(ending, places);
      places.set(folder, count);
    }
    const own = new Set(here.keys());
    const rel: string[] = [];
    for (let at = folder, depth = 0; depth < FEATURE_DEPTH && parentOf(at) !== ''; depth++, at = parentOf(at)) {
      const features: Features = members.get(at) ?? new Map<string, number>();
      if (features.size === 0) members.set(at, features);
      addFeatures(features, rel, baseName(at), { files: files.keys(), endings: own });
      rel.unshift(baseName(at));
    }
  }
  const everywhere = new Map<string, number>();
  for (const features of members.values())
    for (const feature of features.keys()) everywhere.set(feature, (everywhere.get(feature) ?? 0) + 1);
  const families = findFamilies(members, tree);
  const familyOf = new Map(
    families.flatMap((family) => [...family.members].map((member) => [member, family] as const)),
  );
  return { families, familyOf, homes, endings, ids: findIds(tree), everywhere, variants: findVariants(tree) };
}

/** What stands before the dot in a folder's name: `coat` of `coat.red`. Versions and hidden folders have none. */
export const variantOf = (name: string): string | undefined => /^(\p{L}[\p{L}\p{N} _-]*)\.\p{L}/u.exec(name)?.[1];

function findVariants(tree: GameTree): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>();
  for (const key of tree.folders.keys()) {
    const prefix = variantOf(baseName(key));
    if (prefix !== undefined && key.includes('/'))
      found.set(prefix, (found.get(prefix) ?? new Set()).add(parentOf(key)));
  }
  // Where only the plain one is there, further ones belong beside it.
  for (const [prefix, parents] of found)
    for (const key of tree.foldersByName.get(prefix) ?? []) parents.add(parentOf(key));
  return found;
}

/** A checksum as a name: which of its signs are letters is chance. */
const HASH = /^(?=.*\d)[0-9a-f]{6,}$/;

/** Do two names have one form: the same letters, digits and signs in the same order? */
export const formOf = (name: string): string =>
  HASH.test(stemOf(nameKey(name)))
    ? 'hash'
    : nameKey(name)
        .replace(/\.[^.]+$/, '')
        .replace(/\d+/g, '9')
        .replace(/\p{L}+/gu, 'a');
