import { SatchelError, keepMade, type LedgerEntry, type Minded, type Plan, type Recovery, type WorkOptions } from '@/core';
import { newsSchema, type GivenFolder, type News, type RootPlace, type Run, type Workplace } from '@/bridge/wire';
import { BridgeFolder, ask, jsonLines, orFailure } from '@/folders/bridge';
import { memory, type Game } from '@/storage/memory';
import type { DeployWork, Session } from './session';

/** The folder that a game's vault lies beside, for games whose folders the app's own server opens. */
export const mainFolder = (game: Game): GivenFolder | undefined => Object.values(game.given)[0];

const nameOf = (session: Session, id: string): string => session.notes.find((note) => note.id === id)?.file ?? 'a pack';

function workplaceOf(session: Session): Workplace {
  const { game, located } = session;
  const roots: Record<string, RootPlace> = {};
  for (const { id } of game.card.roots) {
    const inside = located.find(({ root }) => root === id)?.inside;
    const folder = game.given[inside?.root ?? id];
    if (!folder) throw new SatchelError('bridge-closed');
    const hidden = located.flatMap((one) => (one.inside?.root === id ? [one.inside.path] : []));
    roots[id] = { folder: folder.id, hidden, ...(inside ? { inside: inside.path } : {}) };
  }
  return { main: mainFolder(game)?.id ?? '', roots, packs: session.notes.map(({ id, file }) => ({ id, name: file })) };
}

const post = (address: string, body: unknown, signal?: AbortSignal): Promise<Response> =>
  ask(address, { method: 'POST', body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' }, ...(signal ? { signal } : {}) });

/** Has the server do it and listens until it is done. @throws SatchelError `left-open` where it stopped answering in the middle of it */
async function run(session: Session, work: Run['work'], { signal, onProgress, onStuck }: DeployWork): Promise<News> {
  const id = crypto.randomUUID();
  try {
    const response = await orFailure(await post('/bridge/run', { ...workplaceOf(session), run: id, work }, signal));
    try {
      for await (const line of jsonLines(response)) {
        const news = newsSchema.parse(line);
        if ('progress' in news) onProgress?.(news.progress);
        else if ('stuck' in news) await post('/bridge/answer', { run: id, answer: (await onStuck?.(news.stuck)) ?? 'take back' });
        else if ('failure' in news) throw new SatchelError(news.failure.code, news.failure.details);
        else return news;
      }
    } catch (error) {
      throw error instanceof SatchelError && error.code !== 'server-gone' ? error : stopped(error);
    }
  } catch (error) {
    // The server hears that nobody listens, and takes everything back.
    throw signal?.aborted ? new SatchelError('cancelled') : error;
  }
  throw stopped();
}

const stopped = (cause?: unknown): SatchelError => new SatchelError('left-open', { why: 'the app’s own server stopped answering' }, { cause });

/** Deploys on the server: archives are sent once, and unpacked, hashed and written there. */
export async function deployOnBridge(session: Session, plan: Plan, { title, layers, ...options }: DeployWork & { title: string; layers: readonly { id: string; name: string }[] }): Promise<LedgerEntry> {
  const vault = session.workshop.vault as BridgeFolder;
  const archives = new Map<string, Archive>();
  for (const id of new Set(plan.steps.flatMap(({ after }) => (after.kind === 'pack' ? [after.packId] : [])))) {
    const [blob, name] = [await memory.archive(id), nameOf(session, id)];
    if (blob && !(await vault.hasPack(id, blob, name))) archives.set(id, { blob, name });
  }
  const { steps, forget } = await keepMade(plan, vault);
  const stopper = new AbortController();
  options.signal?.addEventListener('abort', () => stopper.abort(), { once: true });
  let unsent: unknown;
  // Originals are kept there while packs are still on their way.
  const sending = sendAll(vault, archives, stopper.signal).catch((error: unknown) => {
    unsent = error;
    stopper.abort();
  });
  try {
    const news = await run(session, { do: 'deploy', title, layers: [...layers], plan: { steps, forget }, coming: Array.from(archives, ([id, { blob }]) => ({ id, size: blob.size })) }, { ...options, signal: stopper.signal });
    if ('entry' in news) return news.entry;
    throw new SatchelError('left-open', { why: 'the app’s own server did not say how it ended' });
  } catch (error) {
    throw unsent !== undefined && !options.signal?.aborted ? unsent : error;
  } finally {
    stopper.abort();
    await sending;
  }
}

/** A pack's archive, and what the player calls it. */
interface Archive {
  blob: Blob;
  name: string;
}

async function sendAll(vault: BridgeFolder, archives: ReadonlyMap<string, Archive>, signal: AbortSignal): Promise<void> {
  // What this deployment does not need can wait; where it is stopped, nothing needs to be sent.
  for (const [id, stopper] of ahead) {
    if (archives.has(id)) signal.addEventListener('abort', () => stopper.abort(), { once: true });
    else stopper.abort();
  }
  for (const [id, archive] of archives) await send(vault, id, archive, signal);
}

/** Packs that are sent before they are needed, by id. */
const ahead = new Map<string, AbortController>();
/** One is sent after the other. */
let sending: Promise<void> = Promise.resolve();

function send(vault: BridgeFolder, id: string, { blob, name }: Archive, signal: AbortSignal): Promise<void> {
  const sent = sending.then(async () => {
    signal.throwIfAborted();
    // It may have been sent meanwhile.
    if (!(await vault.hasPack(id, blob, name))) await vault.sendPack(id, blob, signal);
  });
  sending = sent.catch(() => undefined);
  return sent;
}

/** A pack is sent ahead where the disk has room for this many times its size: for itself, its files and the originals. */
const ROOMY = 3;

/** Sends a pack that was just brought in, while the player looks at it. Where that fails, the deployment sends it, and says what is wrong. */
export async function sendAhead(session: Session, id: string): Promise<void> {
  if (!mainFolder(session.game)) return;
  const vault = session.workshop.vault as BridgeFolder;
  const stopper = new AbortController();
  ahead.set(id, stopper);
  try {
    const [blob, name] = [await memory.archive(id), nameOf(session, id)];
    if (!blob || blob.size * ROOMY > (await vault.room()).left) return;
    await send(vault, id, { blob, name }, stopper.signal);
    // The server gets ready for it.
    await vault.hasPack(id, blob, name);
  } catch {
    // It is sent again when it is needed.
  } finally {
    ahead.delete(id);
  }
}

/** Looks after the originals, as long as nothing else is to be done there. */
export async function mindOnBridge(session: Session, options: WorkOptions): Promise<Minded> {
  const news = await run(session, { do: 'mind' }, options);
  if ('minded' in news) return news.minded;
  throw stopped();
}

/** Finishes or takes back what was cut off on the server. */
export async function recoverOnBridge(session: Session): Promise<Recovery | undefined> {
  const news = await run(session, { do: 'recover' }, {});
  return 'recovered' in news ? news.recovery : undefined;
}
