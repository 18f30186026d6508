import {
  SatchelError,
  isSame,
  readSetUp,
  treeOf,
  writeSetUp,
  type Failure,
  type FoundSetUp,
  type SetUpThere,
  type WrittenSetUp,
} from '@/core';
import { memory, type Game } from '@/storage/memory';
import { decidedIn } from './decided';
import type { Session } from './session';

/** What was decided, as this session wrote it last or found it on the disk. */
type Kept = Pick<Session, 'stack' | 'game' | 'setUps' | 'notes'>;
const kept = new WeakMap<Session, Kept>();

const nowIn = ({ stack, game, setUps, notes }: Session): Kept => ({ stack, game, setUps, notes });

const ownNotes = ({ notes }: Session) => notes.map(({ game: _, ...note }) => note);

/** Writes what was decided beside the originals, where they lie on the disk and it has changed. */
export async function keepOnDisk(session: Session): Promise<void> {
  const { backup } = session.workshop;
  if (!backup || session.elsewhere) return;
  const [now, before] = [nowIn(session), kept.get(session)];
  if (before && (Object.keys(now) as (keyof Kept)[]).every((part) => now[part] === before[part])) return;
  const at = Date.now();
  const { stack, setUps, game } = session;
  const { card, statements } = game;
  const setUp = { at, card, statements, stack, setUps: [...setUps], packs: ownNotes(session) };
  const name = await writeSetUp(backup, setUp, session.latestOnDisk);
  // Another browser has written since: what it decided is not buried under this.
  if (name === undefined) return void compareWithDisk(session, await readSetUp(backup));
  kept.set(session, now);
  session.keptAt = at;
  session.latestOnDisk = name;
  await memory.setMark(game.id, name);
}

/**
 * Looks at what lies on the disk when a game is opened. A browser that knows nothing of the game goes on from it; where
 * both know something else, the player is asked, and nothing is written before that.
 *
 * @returns the game as it is on the disk, where it is to be gone on from; and what is to be told
 */
export async function meetDisk(session: Session): Promise<{ goOn: SetUpThere | undefined; trouble: Failure[] }> {
  const { backup } = session.workshop;
  if (!backup) return { goOn: undefined, trouble: [] };
  const found = await readSetUp(backup);
  const trouble = compareWithDisk(session, found, await memory.mark(session.game.id));
  const { elsewhere } = session;
  const knowsNothing = session.stack.layers.length + session.setUps.length === 0;
  if (found.is !== 'there' || !elsewhere || elsewhere === 'newer' || !knowsNothing) return { goOn: undefined, trouble };
  if ((await memory.mark(session.game.id)) !== undefined || missingRoots(session.game, found.written).length > 0)
    return { goOn: undefined, trouble };
  session.elsewhere = undefined;
  return { goOn: found, trouble };
}

/**
 * Sets a session against what was found on the disk.
 *
 * @param known the file that this browser wrote or took last: what it decided since goes over that one
 */
function compareWithDisk(session: Session, found: FoundSetUp, known?: string): Failure[] {
  if (found.is === 'newer') {
    session.elsewhere = 'newer';
    return [new SatchelError('newer-set-up').failure];
  }
  const { latest, damaged } = found;
  session.latestOnDisk = latest;
  if (found.is === 'there') {
    const isSameHere = isSame(treeOf(decidedIn(session)), treeOf(decidedOf(session, found.written)));
    if (isSameHere && damaged.length === 0) kept.set(session, nowIn(session));
    const isOurs = known === found.name || damaged.some(({ path }) => path === known);
    if (isSameHere || isOurs) session.keptAt = found.written.at;
    else session.elsewhere = found;
  }
  return damaged.map(({ path, why }) => new SatchelError('bad-memory', { what: `${path}: ${why}` }).failure);
}

/** Folders that the set-up on the disk uses, and this game has not been given. */
export const missingRoots = ({ card }: Game, written: WrittenSetUp): string[] =>
  written.card.roots.filter(({ id }) => !card.roots.some((root) => root.id === id)).map(({ title }) => title);

const decidedOf = (session: Session, { card, statements, stack, setUps, packs }: WrittenSetUp) => ({
  stack,
  card,
  statements,
  setUps,
  taken: decidedIn(session).taken,
  notes: packs.map((note) => ({ ...note, game: session.game.id })),
});

/** Takes what lies on the disk. The game is to be opened again with what comes. */
export async function takeFromDisk(session: Session, { written, name }: SetUpThere): Promise<Game> {
  const { game } = session;
  const notes = decidedOf(session, written).notes;
  const known = await memory.packs([]);
  const ours = new Set(known.filter((note) => note.game === game.id).map(({ id }) => id));
  await memory.setPacks([...known, ...notes.filter(({ id }) => !ours.has(id))]);
  await memory.setStack(game.id, written.stack);
  await memory.setSetUps(game.id, written.setUps);
  await memory.setMark(game.id, name);
  return {
    ...game,
    card: { ...written.card, id: game.card.id, roots: game.card.roots },
    statements: written.statements,
  };
}
