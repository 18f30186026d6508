import {
  extensionOf,
  linesBefore,
  readLongLog,
  readsByForm,
  splitTarget,
  type GameIndex,
  type TargetPath,
} from '@/core';
import type { ReadLog } from './seen';
import type { Session } from './session';

/** Files that are watched for what the game writes; each is a question to the disk. */
const MOST_WATCHED = 10;

const statOf = ({ workshop }: Session, of: TargetPath) => {
  const { root, path } = splitTarget(of);
  return workshop.folders[root]?.stat(path);
};

/** The game's log, read anew only where it has changed: it can have a million lines. */
export async function lookAtLog(session: Session, index: GameIndex): Promise<ReadLog | undefined> {
  const { log } = session.game.card;
  const { seen } = session;
  if (!log) return undefined;
  const at = log.target;
  const stat = await statOf(session, at);
  if (!stat) return (seen.log = undefined);
  if (seen.log?.size === stat.size && seen.log.modified === stat.modified) return seen.log;
  const text = (await session.readTarget(at)) ?? '';
  const plain = readsByForm(log) ? { plain: { endings: await endingsIn(session, index) } } : {};
  const reading = await readLongLog(text, log.rules, { trace: log.trace, ...plain });
  const mark = session.stack.runs.filter(({ at: when }) => when !== stat.modified).at(-1)?.mark;
  const { size, modified } = stat;
  return (seen.log = { reading, text, size, modified, since: await linesBefore(text, mark) });
}

/** The endings of the game's files and of the packs: what ends otherwise in a log is hardly a file. */
export async function endingsIn(session: Session, files: GameIndex): Promise<Set<string>> {
  const found = new Set<string>();
  for (const { path } of files) found.add(extensionOf(path));
  for (const { packId } of session.packLayers())
    for (const { path } of (await session.openPack(packId)).pack.entries) found.add(extensionOf(path));
  return found;
}

/**
 * What the game itself writes, as it is now: its log, and the settings files that were edited.
 *
 * @param read the log as it was when it was read: what was written to it since is new
 */
export async function outside(session: Session, read?: { size: number; modified: number }): Promise<string> {
  const { log } = session.game.card;
  const edited = session.picture.state.files.filter(({ living }) => living).slice(0, MOST_WATCHED);
  const stats = await Promise.all([
    ...(log ? [read ?? statOf(session, log.target)] : []),
    ...edited.map(({ target }) => statOf(session, target)),
  ]);
  return stats.map((stat) => (stat ? `${stat.size} ${stat.modified}` : '')).join('\n');
}
