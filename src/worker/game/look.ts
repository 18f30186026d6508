import {
  baseName,
  decodeText,
  deployedByKey,
  emptyResolution,
  objectPath,
  onceFor,
  onlySorted,
  openSettings,
  planDeployment,
  readKept,
  readLedger,
  settingsTargets,
  splitTarget,
  switchStates,
  type DeployedState,
  type GameIndex,
  type Resolution,
  type SettingsDocument,
  type SettingsFile,
  type TargetPath,
} from '@/core';
import { memory } from '@/storage/memory';
import { comingSettings } from './comingSettings';
import { filesNow, type Sharpness } from './filesNow';
import { layersOf } from './stackLayers';
import { lookAtLog, outside } from './log';
import type { Picture } from './picture';
import type { Session } from './session';
import { stateNow } from './stateNow';

const EMPTY = emptyResolution();

/**
 * Looks at everything anew, and keeps it as the session's picture.
 *
 * @param options how sharply
 */
export async function look(session: Session, options: Sharpness = {}): Promise<void> {
  const { workshop, game, seen, stack, dialectOf, nameOf } = session;
  // All at once: each may be a question to the app's own server.
  const [state, ledger, snapshots] = await Promise.all([
    stateNow(session),
    readLedger(workshop.vault),
    memory.snapshots(game.id),
  ]);
  const { layers, merges } = await layersOf(session, stack, state);
  const { resolution, changed } = seen.resolver.resolve(layers, stack.picks);
  const index = await filesNow(session, { state, resolution }, options);
  const log = await lookAtLog(session, index);
  const common = { ...options, state, workshop, index, dialectOf, nameOf, checksums: seen.checksums };
  const plan = await planDeployment({ ...common, resolution });
  // Reasons name layers.
  const names = stack.layers.map(({ id, name }) => `${id} ${name}`).join('\n');
  const from = [state, index.version, game.card, stack.ownFiles, names];
  const putBack = await seen.putBack(from, () => planDeployment({ ...common, resolution: EMPTY }));
  const files = ownFilesIn(index, state);
  const found = await settingsIn(session, files.ownFiles);
  session.picture = {
    layers,
    resolution,
    state,
    plan,
    putBack,
    index,
    ledger,
    log,
    merges,
    snapshots,
    overlaps: resolution.overlaps,
    switches: switchStates(game.card, claimedBy(resolution, state), (one) =>
      found.settings.get(one.file)?.get(one.path),
    ),
    coming: await comingSettings(session, found.settingsFiles, { resolution, plan }),
    sorted: await onlySortedIn(session, state, found.settings),
    changed: seen.looked ? [...changed] : [],
    ...files,
    ...found,
  };
  seen.looked = true;
  seen.outside = await outside(session, seen.log);
}

/** Keys of what packs brought where nothing was. */
const broughtIn = onceFor(
  (state: DeployedState): ReadonlySet<string> =>
    new Set([...deployedByKey(state)].flatMap(([key, { original }]) => (original.kind === 'absent' ? [key] : []))),
);

/** The game's files as they were without packs. */
function ownFilesIn(index: GameIndex, state: DeployedState): Pick<Picture, 'ownFiles' | 'ownKeys'> {
  const packs = broughtIn(state);
  return { ownFiles: index.own(packs), ownKeys: { has: (key) => index.has(key) && !packs.has(key) } };
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
    ...[...deployedByKey(state)].flatMap(([key, { living }]) => (living ? [] : [key])),
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
