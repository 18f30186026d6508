import {
  decodeText,
  fittingRules,
  foldByCause,
  leftOutOf,
  ofLastStart,
  readLongLog,
  readsByForm,
  traceMessages,
  type LogMessage,
  type LogReading,
  type LogRule,
  type WorkOptions,
} from '@/core';
import type { GivenLog, LogView } from '../contract';
import { presentGame } from '../game/futureFiles';
import { endingsIn } from '../game/log';
import type { Picture } from '../game/picture';
import type { Session } from '../game/session';
import { hiddenTexts } from './beforeStart';

/** Characters of a log, and messages, that are sent to be shown. */
const SHOWN = { characters: 60_000, messages: 2000 };

/** Left-out files that are looked through for what a log misses. */
const MOST_LEFT_OUT = 5000;

export async function traceInput(session: Session, rules: readonly LogRule[]) {
  const files = presentGame(session);
  const leftOut: { layer: string; path: string }[] = [];
  for (const layer of session.packLayers()) {
    if (!layer.on) continue;
    const { pack } = await session.openPack(layer.packId);
    for (const [path, why] of leftOutOf(layer.placement, pack.entries))
      if (why !== 'stays inside the archive' && leftOut.length < MOST_LEFT_OUT) leftOut.push({ layer: layer.id, path });
  }
  return {
    card: session.game.card,
    rules,
    files,
    leftOut,
    originals: await hiddenTexts(session, files),
    nameOf: session.nameOf,
  };
}

const isTrouble = ({ level }: LogMessage): boolean => level === 'warning' || level === 'error';

/** @param before so many lines are of earlier starts: what came since stands first */
export const logView = (target: string, reading: LogReading, text: string, before = 0): LogView => ({
  target,
  lines: reading.lines,
  before,
  text: text.slice(0, SHOWN.characters),
  byForm: reading.byForm,
  messages: [...reading.messages]
    .sort(
      (a, b) =>
        Number(b.last > before) - Number(a.last > before) ||
        (reading.byForm ? Number(isTrouble(b)) - Number(isTrouble(a)) : 0) ||
        a.first - b.first,
    )
    .slice(0, SHOWN.messages),
  unknown: reading.unknown,
  unknownLines: reading.unknownLines,
});

/** What the game's log says of its last start. */
export const lastStart = ({ log }: Picture): LogReading | undefined => log && ofLastStart(log.reading, log.since);

export const rulesOf = (session: Session): readonly LogRule[] => session.game.card.log?.rules ?? [];

/**
 * Reads a log that was dropped or pasted: with the rules of this game, or of another game that knows more of it, or
 * general ones.
 */
export async function readGiven(
  session: Session,
  others: readonly { title: string; rules: readonly LogRule[]; trace?: string | undefined }[],
  { name, log }: { name: string; log: Blob | string },
  options: WorkOptions,
): Promise<GivenLog> {
  const text = typeof log === 'string' ? log : decodeText(new Uint8Array(await log.arrayBuffer())).text;
  const { card } = session.game;
  const own = { title: card.title, rules: card.log?.rules ?? [], trace: card.log?.trace };
  const set = fittingRules(text, [own, ...others.filter(({ title }) => title !== card.title)]) ?? {
    title: '',
    rules: [],
    trace: undefined,
  };
  const reading = await readLongLog(text, set.rules, {
    ...options,
    trace: set.trace,
    ...(readsByForm(set) ? { plain: { endings: await endingsIn(session, session.picture.index) } } : {}),
  });
  return {
    name,
    rulesOf: set.title,
    log: logView(name, reading, text),
    findings: foldByCause(traceMessages(reading.messages, await traceInput(session, set.rules))).slice(0, 200),
  };
}
