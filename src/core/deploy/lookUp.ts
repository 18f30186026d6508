import { throwIfAborted } from '../errors';
import { readBytes, type FileStat, type Folder } from '../folder';
import { byPath, nameKey, parentOf, target, type TargetPath } from '../paths/paths';
import type { WorkOptions } from '../progress';
import type { GameIndex, Listing } from './gameIndex';
import { hashOfFile } from './large';
import type { DeployedFile, KeptOrAbsent, Workshop } from './model';
import type { Actual } from './planInput';
import { placeOf } from './takeBack';
import { readKept } from './vault';

/** Files between two words about how far a listing is. */
const TELL = 100;

/** Lists them all. Nobody knows how many there will be, so progress tells no total. */
export async function listFolders(
  folders: Readonly<Record<string, Folder>>,
  { signal, onProgress }: WorkOptions = {},
): Promise<Listing> {
  const listing: Record<string, FileStat[]> = {};
  const links: TargetPath[] = [];
  let done = 0;
  const tell = () => onProgress?.({ phase: 'Looking at the folders', done, total: 0, unit: 'files' });
  for (const [root, folder] of Object.entries(folders)) {
    const before = done;
    const onLooked = (looked: number) => {
      done = before + looked;
      tell();
    };
    const told = await folder.changes?.(undefined, { anew: true, onLooked, signal });
    if (told) {
      listing[root] = told.folders.flatMap(({ files }) => files);
      for (const link of told.links) links.push(target(root, link));
      continue;
    }
    const files: FileStat[] = [];
    for await (const stat of folder.list(undefined, (path) => links.push(target(root, path)))) {
      throwIfAborted(signal);
      files.push(stat);
      if (++done % TELL === 0) tell();
    }
    listing[root] = files;
  }
  return { files: listing, links: links.sort(byPath) };
}

/** The folders as a plan sees them. */
export const lookUp = (index: GameIndex): Actual => ({
  files: index,
  drifted: new Set(),
  links: index.links,
  spell: (wanted) => index.spell(wanted),
});

/** The link that a target is, or lies behind. */
export function linkOf(of: TargetPath, { links }: Actual): TargetPath | undefined {
  if (links.size === 0) return undefined;
  for (let up: string = of; up !== ''; up = parentOf(up)) {
    const link = links.get(nameKey(up));
    if (link !== undefined) return link;
  }
  return undefined;
}

export const hashOfTarget = (workshop: Workshop, of: TargetPath): Promise<string | undefined> => {
  const { folder, path } = placeOf(workshop, of);
  return hashOfFile(folder, path);
};

/** Did somebody else change a deployed file? Size and date first; where they differ, the hash decides. */
export async function hasDrifted(
  record: DeployedFile,
  now: FileStat & { target: TargetPath },
  workshop: Workshop,
): Promise<boolean> {
  if (now.size === record.size && now.modified === record.modified) return false;
  return now.size !== record.size || (await hashOfTarget(workshop, now.target)) !== record.sha256;
}

export const bytesOf = async (workshop: Workshop, content: KeptOrAbsent): Promise<Uint8Array<ArrayBuffer>> =>
  content.kind === 'absent' ? new Uint8Array(0) : readKept(workshop.vault, content);

export const readBytesOf = (workshop: Workshop, of: TargetPath): Promise<Uint8Array<ArrayBuffer>> => {
  const { folder, path } = placeOf(workshop, of);
  return readBytes(folder, path);
};
