import type { FileStat } from '../folder';
import type { Resolution } from '../layers/layers';
import { splitTarget, type TargetPath } from '../paths/paths';
import { crc32OfFile } from './large';
import type { DeployedFile } from './model';
import type { Actual, PlanInput } from './planInput';
import { placeOf } from './takeBack';

type ActualFile = FileStat & { target: TargetPath };

const checksumKey = ({ target: of, size, modified }: ActualFile): string => `${of}\n${size}\n${modified}`;

/** Asks folders that are far away for all checksums that will be needed, instead of reading file by file. */
export async function fetchChecksums(
  resolution: Resolution,
  deployed: ReadonlyMap<string, DeployedFile>,
  actual: Actual,
  { workshop, checksums }: PlanInput,
): Promise<void> {
  const wanted = new Map<string, ActualFile[]>();
  if (!Object.values(workshop.folders).some(({ digests }) => digests)) return;
  for (const [key, { providers }] of resolution.owned) {
    const now = actual.files.get(key);
    const file = providers.at(-1)?.file;
    if (
      !now ||
      deployed.has(key) ||
      file?.crc32 === undefined ||
      file.size !== now.size ||
      checksums?.has(checksumKey(now))
    )
      continue;
    const { root } = splitTarget(now.target);
    const list = wanted.get(root) ?? [];
    list.push(now);
    wanted.set(root, list);
  }
  for (const [root, files] of wanted) {
    const digests = await workshop.folders[root]?.digests?.(
      'crc32',
      files.map(({ path }) => path),
    );
    digests?.forEach(
      (digest, i) =>
        digest !== undefined && checksums?.set(checksumKey(files[i] as ActualFile), Number.parseInt(digest, 16)),
    );
  }
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
