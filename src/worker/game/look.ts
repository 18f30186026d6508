import {
  baseName,
  decodeText,
  emptyResolution,
  listFolders,
  nameKey,
  objectPath,
  onlySorted,
  openSettings,
  planDeployment,
  readKept,
  readLedger,
  readState,
  settingsTargets,
  splitTarget,
  switchStates,
  target,
  type DeployedState,
  type Listing,
  type Resolution,
  type SettingsDocument,
  type SettingsFile,
  type TargetPath,
  type WorkOptions,
} from '@/core';
import { memory } from '@/storage/memory';
import { layersOf } from './layers';
import { lookAtLog, outside } from './log';
import type { Picture } from './picture';
import type { Session } from './session';

const EMPTY = emptyResolution();

/** A listing that took longer (milliseconds) is good for as many times as long as it took. */
const LONG = 500;
const SHARE = 20;

/**
 * Every file of the folders. Through a browser that takes a second for some thousands: where it took long, it is good
 * for a while, so that a change which writes nothing to the game need not wait for it.
 *
 * @param anew not even then
 */
async function list({ seen, workshop }: Session, anew: boolean, options: WorkOptions): Promise<Listing> {
  const { listed } = seen;
  if (!anew && listed && listed.took > LONG && Date.now() - listed.at < SHARE * listed.took) return listed.listing;
  const began = Date.now();
  const listing = await listFolders(workshop.folders, options);
  const at = Date.now();
  seen.listed = { listing, at, took: at - began };
  return listing;
}

/**
 * Looks at everything anew, and keeps it as the session's picture.
 *
 * @param options.recent where it takes long, files may be as they were a moment ago
 */
export async function look(session: Session, options: WorkOptions & { recent?: boolean } = {}): Promise<void> {
  const { workshop, game, seen, stack, dialectOf, nameOf } = session;
  // All at once: each may be a question to the app's own server.
  const [state, listing, ledger, snapshots] = await Promise.all([
    readState(workshop.vault),
    list(session, !options.recent, options),
    readLedger(workshop.vault),
    memory.snapshots(game.id),
  ]);
  const log = await lookAtLog(session, listing);
  const { layers, merges } = await layersOf(session, stack, state);
  const { resolution, changed } = seen.resolver.resolve(layers, stack.picks);
  const common = { ...options, state, workshop, listing, dialectOf, nameOf, checksums: seen.checksums };
  const plan = await planDeployment({ ...common, resolution });
  const putBack = await planDeployment({ ...common, resolution: EMPTY });
  const files = ownFilesIn(listing, state);
  const found = await settingsIn(session, files.ownFiles);
  session.picture = {
    layers,
    resolution,
    state,
    plan,
    putBack,
    listing,
    ledger,
    log,
    merges,
    snapshots,
    overlaps: resolution.overlaps,
    switches: switchStates(game.card, claimedBy(resolution, state), (one) =>
      found.settings.get(one.file)?.get(one.path),
    ),
    sorted: await onlySortedIn(session, state, found.settings),
    changed: seen.looked ? [...changed] : [],
    ...files,
    ...found,
  };
  seen.looked = true;
  seen.outside = await outside(session, seen.log);
}

/** The game's files as they were without packs. */
function ownFilesIn(listing: Listing, state: DeployedState): Pick<Picture, 'ownFiles' | 'ownKeys' | 'filesByRoot'> {
  const brought = new Set(
    state.files.filter(({ original }) => original.kind === 'absent').map((one) => nameKey(one.target)),
  );
  const ownFiles: TargetPath[] = [];
  const filesByRoot = new Map<string, number>();
  for (const [root, files] of Object.entries(listing.files)) {
    for (const { path } of files) {
      const full = target(root, path);
      if (!brought.has(nameKey(full))) ownFiles.push(full);
    }
    filesByRoot.set(root, files.length);
  }
  return { ownFiles, ownKeys: new Set(ownFiles.map(nameKey)), filesByRoot };
}

/** The settings files that the player can change, opened as far as they are there. */
async function settingsIn(
  session: Session,
  ownFiles: readonly string[],
): Promise<Pick<Picture, 'settings' | 'settingsFiles' | 'readOnly'>> {
  const mine = session.stack.ownFiles.map((own): SettingsFile => ({
    ...own,
    title: `Of your own: ${baseName(own.target)}`,
    keys: [],
  }));
  const settingsFiles = [...settingsTargets(session.game.card, ownFiles), ...mine];
  const settings = new Map<string, SettingsDocument>();
  const readOnly = new Set<string>();
  for (const { target: of, dialect } of settingsFiles) {
    const text = await session.readTarget(of);
    if (text === undefined) continue;
    const { root, path } = splitTarget(of);
    if ((await session.workshop.folders[root]?.stat(path))?.readOnly === true) readOnly.add(of);
    settings.set(of, openSettings(text, dialect));
  }
  return { settings, settingsFiles, readOnly };
}

/** Targets that packs bring or have brought, or want edits in. */
function claimedBy({ owned, inside, living }: Resolution, state: DeployedState): Set<string> {
  return new Set([
    ...owned.keys(),
    ...inside.keys(),
    ...state.files.filter((file) => !file.living).map((file) => nameKey(file.target)),
    ...[...living].flatMap(([key, { edits }]) => (edits.some(({ kind }) => kind === 'pack') ? [key] : [])),
  ]);
}

/** Settings files with edits that the game has only put into another order since. */
async function onlySortedIn(
  { workshop }: Session,
  state: DeployedState,
  settings: ReadonlyMap<string, SettingsDocument>,
): Promise<TargetPath[]> {
  const found: TargetPath[] = [];
  for (const { target: of, living, from } of state.files) {
    const now = settings.get(of)?.text;
    if (!living || from.kind !== 'kept' || now === undefined) continue;
    // A backup bag brings the originals back, not what was deployed over them.
    if (!(await workshop.vault.stat(objectPath(from.sha256)))) continue;
    if (onlySorted(decodeText(await readKept(workshop.vault, from)).text, now)) found.push(of);
  }
  return found;
}
