import type { GivenFolder } from '@/bridge/wire';
import type { Game } from '@/storage/memory';

/** Does a folder lie inside one that the game has, or around it? */
export async function isNested(
  game: Game,
  given: GivenFolder | undefined,
  handle: FileSystemDirectoryHandle | undefined,
): Promise<boolean> {
  const within = (inner: string, outer: string) =>
    inner === outer || inner.startsWith(`${outer}/`) || inner.startsWith(`${outer}\\`);
  if (given) return Object.values(game.given).some(({ path }) => within(given.path, path) || within(path, given.path));
  for (const other of Object.values(game.handles))
    if (handle && ((await other.resolve(handle)) !== null || (await handle.resolve(other)) !== null)) return true;
  return false;
}
