import {
  GameIndex,
  deployedByKey,
  listFolders,
  splitTarget,
  type DeployedState,
  type Folder,
  type Resolution,
  type TargetPath,
  type WorkOptions,
} from '@/core';
import type { Looked } from './seen';
import type { Session } from './session';

/** What took longer (milliseconds) is good for as many times as long as it took. */
const LONG = 500;
const SHARE = 20;
/** So many files are asked for by name whenever anything changes: that costs next to nothing. */
const FEW = 2000;

export interface Wanted {
  state: DeployedState;
  resolution: Resolution;
}

/** How sharply it is looked. */
export interface Sharpness extends WorkOptions {
  /** Where it takes long, files may be as they were a moment ago. */
  recent?: boolean;
  /** Nothing that is known counts. */
  anew?: boolean;
}

const isGood = (looked: Looked | undefined): boolean =>
  looked !== undefined && looked.took > LONG && Date.now() - looked.at < SHARE * looked.took;

async function timed(work: () => Promise<void>): Promise<Looked> {
  const began = Date.now();
  await work();
  return { at: Date.now(), took: Date.now() - began };
}

/**
 * The files of the game's folders, as they are now. A folder that can tell what has changed is asked for that, and for
 * the files that are deployed or that packs bring, by name; any other one is listed. Through a browser that takes a
 * second for some thousands: where it took long, it is good for a while, so that a change which writes nothing to the
 * game need not wait for it.
 */
export async function filesNow(session: Session, wanted: Wanted, how: Sharpness): Promise<GameIndex> {
  const { seen, workshop } = session;
  const index = (seen.index ??= new GameIndex({ files: {}, links: [] }));
  const told = new Set<string>();
  const silent: Record<string, Folder> = {};
  // On disks that do not date their folders all of them are looked into.
  const isRecent = how.recent === true && isGood(seen.heard);
  const heard = await timed(async () => {
    for (const [root, folder] of Object.entries(workshop.folders)) {
      const isKnown = isRecent && seen.since.has(root);
      if (isKnown || (await hearChanges(session, root, how))) told.add(root);
      else silent[root] = folder;
    }
  });
  if (!isRecent) seen.heard = heard;
  if (Object.keys(silent).length > 0 && !(how.recent === true && isGood(seen.listed)))
    seen.listed = await timed(async () => index.replace(await listFolders(silent, how)));
  const { state, resolution } = wanted;
  const many = state.files.length + resolution.owned.size > FEW;
  if (told.size > 0 && !(many && how.recent === true && isGood(seen.asked)))
    seen.asked = await timed(() => askByName(namesIn(wanted, index, told), index, workshop.folders));
  return index;
}

/** Takes in what a folder says that has changed. @returns whether it can tell that */
async function hearChanges(
  { seen, workshop }: Session,
  root: string,
  { anew = false, signal, onProgress }: Sharpness,
): Promise<boolean> {
  const onLooked = (done: number) => onProgress?.({ phase: 'Looking at the folders', done, total: 0, unit: 'files' });
  const since = anew ? undefined : seen.since.get(root);
  const changes = await workshop.folders[root]?.changes?.(since, { anew, signal, onLooked });
  if (!changes) return false;
  seen.index?.mend(root, changes);
  seen.since.set(root, changes.now);
  return true;
}

/** What is deployed, and what packs bring, as far as it is there: names that come and go are told. */
function namesIn({ state, resolution }: Wanted, index: GameIndex, roots: ReadonlySet<string>): TargetPath[] {
  const keys = new Set(deployedByKey(state).keys());
  for (const some of [resolution.owned, resolution.inside, resolution.living])
    for (const key of some.keys()) keys.add(key);
  return [...keys].flatMap((key) => {
    const file = index.get(key);
    return file && roots.has(splitTarget(file.target).root) ? [file.target] : [];
  });
}

async function askByName(
  names: readonly TargetPath[],
  index: GameIndex,
  folders: Readonly<Record<string, Folder>>,
): Promise<void> {
  const byRoot = new Map<string, { of: TargetPath; path: string }[]>();
  for (const of of names) {
    const { root, path } = splitTarget(of);
    const others = byRoot.get(root);
    if (others) others.push({ of, path });
    else byRoot.set(root, [{ of, path }]);
  }
  for (const [root, asked] of byRoot) {
    const stats = await folders[root]?.stats?.(asked.map(({ path }) => path));
    if (stats) asked.forEach(({ of }, i) => index.mendFile(of, stats[i]));
  }
}
