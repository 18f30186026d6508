import { foldersInEach, type GameTree } from '../names/gameTree';
import type { Knowledge } from '../names/knowledge';
import { baseName, extensionOf, nameKey, parentOf } from '../paths/paths';
import type { PackNode } from './packTree';

/** A thing of a kind has a few files of several sorts; a folder of many is rather a drawer. */
const MOST_OF_A_THING = 12;
const MOST_LOOKED_AT = 6;

/**
 * Folders of the game that hold nothing but files of the names that a folder of a pack has, several and of several
 * endings, and that lie alone in theirs: the only ones of their kind so far, of which the pack's may be one more.
 *
 * @returns their keys
 */
export function loneThings(node: PackNode, tree: GameTree, { familyOf }: Knowledge): string[] {
  const own = new Set(node.files.slice(0, 4 * MOST_OF_A_THING).map(({ path }) => nameKey(baseName(path))));
  const where = [...own].map((name) => tree.foldersOfFile.get(name)).find((folders) => folders !== undefined);
  return (where === undefined ? [] : typeof where === 'string' ? [where] : where.slice(0, MOST_LOOKED_AT)).filter(
    (folder) => {
      const names = [...(tree.files.get(folder)?.keys() ?? [])];
      return (
        names.length <= MOST_OF_A_THING &&
        new Set(names.map(extensionOf)).size > 1 &&
        names.every((name) => own.has(name)) &&
        parentOf(folder).includes('/') &&
        !familyOf.has(folder) &&
        foldersInEach(tree).get(parentOf(folder)) === 1
      );
    },
  );
}
