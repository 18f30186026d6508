import { SatchelError, listFolders, type FileStat, type WorkOptions } from '@/core';
import type { GivenFolder } from '@/bridge/wire';
import { givenFolders } from '@/folders/bridge';
import { BridgeFolder } from '@/folders/bridgeFolder';
import { PickedFolder, type PickedHandle } from '@/folders/picked';
import { textIn } from './insideArchives';

/** A folder that the player gave, and every file in it. */
export interface FolderAt {
  given: GivenFolder | undefined;
  handle: FileSystemDirectoryHandle | undefined;
  name: string;
  files: readonly FileStat[];
  read(path: string): Promise<string | undefined>;
}

/** @param where a folder that the player picked, or the id of one that the app was started with */
export async function folderAt(where: FileSystemDirectoryHandle | string, options: WorkOptions): Promise<FolderAt> {
  const given =
    typeof where === 'string' ? (await givenFolders()).folders.find((folder) => folder.id === where) : undefined;
  if (typeof where === 'string' && !given) throw new SatchelError('bridge-closed');
  const handle = typeof where === 'string' ? undefined : where;
  const folder = given ? new BridgeFolder(given.id, 'game') : new PickedFolder(handle as PickedHandle);
  const { files } = await listFolders({ folder }, options);
  return {
    given,
    handle,
    name: given?.name ?? handle?.name ?? '',
    files: files.folder ?? [],
    read: (path) => textIn(folder, path),
  };
}
