import type { FileStat, Folder } from '../folder';
import type { Resolution } from '../layers/layers';
import { splitTarget, type TargetPath } from '../paths/paths';
import type { PlacedFile } from '../placed/placement';
import { crc32OfFile } from './large';
import type { DeployedFile } from './model';
import type { Actual, PlanInput } from './planInput';
import { placeOf } from './takeBack';

type ActualFile = FileStat & { target: TargetPath };

const checksumKey = ({ target: of, size, modified }: ActualFile): string => `${of}\n${size}\n${modified}`;

/** As large as a pack's file of which the checksum is known. */
const couldBeSame = ({ size }: ActualFile, file: PlacedFile | undefined): boolean =>
  file?.crc32 !== undefined && file.size === size;

/** Asks folders that are far away for all checksums that will be needed, instead of reading file by file. */
export async function fetchChecksums(
  resolution: Resolution,
  deployed: ReadonlyMap<string, DeployedFile>,
  actual: Actual,
  { workshop, checksums }: PlanInput,
): Promise<void> {
  const { folders } = workshop;
  if (!checksums || !Object.values(folders).some(({ digests }) => digests)) return;
  const wanted = new Map<string, ActualFile[]>();
  for (const [key, { providers }] of resolution.owned) {
    const now = actual.files.get(key);
    if (!now || deployed.has(key) || !couldBeSame(now, providers.at(-1)?.file)) continue;
    if (checksums.has(checksumKey(now))) continue;
    const { root } = splitTarget(now.target);
    const list = wanted.get(root);
    if (list) list.push(now);
    else wanted.set(root, [now]);
  }
  for (const [root, files] of wanted)
    for (const [i, sum] of (await sumsIn(folders[root], files)).entries())
      if (sum !== undefined) checksums.set(checksumKey(files[i] as ActualFile), sum);
}

/** The checksums that a folder can tell of some of its files. */
async function sumsIn(folder: Folder | undefined, files: readonly ActualFile[]): Promise<(number | undefined)[]> {
  const paths = files.map(({ path }) => path);
  const digests = (await folder?.digests?.('crc32', paths)) ?? [];
  return digests.map((digest) => (digest === undefined ? undefined : Number.parseInt(digest, 16)));
}

/** CRC-32 of a file of the game. */
export async function checksum(file: ActualFile, { workshop, checksums }: PlanInput): Promise<number | undefined> {
  const key = checksumKey(file);
  const known = checksums?.get(key);
  if (known !== undefined) return known;
  const { folder, path } = placeOf(workshop, file.target);
  const found = await crc32OfFile(folder, path);
  if (found !== undefined) checksums?.set(key, found);
  return found;
}
