import {
  decodeText,
  locateRoots,
  readBytes,
  splitTarget,
  type Folder,
  type LocatedRoot,
  type TargetPath,
} from '@/core';
import { SubFolder, WithoutFolder } from '@/folders/sub';
import type { Game } from '@/storage/memory';

/** The game's folders where they really are: a root can lie inside another one. */
export async function locate(
  game: Game,
  given: Record<string, Folder>,
): Promise<{ folders: Record<string, Folder>; located: LocatedRoot[] }> {
  const at = (of: TargetPath) => {
    const { root, path } = splitTarget(of);
    return { folder: given[root], path };
  };
  const located = await locateRoots(game.card, {
    has: async (of) => (await at(of).folder?.stat(at(of).path)) !== undefined,
    read: async (of) => {
      const { folder, path } = at(of);
      return folder && (await folder.stat(path)) ? decodeText(await readBytes(folder, path)).text : undefined;
    },
  });
  const folders = { ...given };
  for (const { root, inside } of located) {
    const outer = inside && given[inside.root];
    if (!outer) continue;
    folders[root] = new SubFolder(outer, inside.path);
    folders[inside.root] = new WithoutFolder(folders[inside.root] ?? outer, [inside.path]);
  }
  return { folders, located };
}
