import { newsSchema, type News, type RootPlace, type Run, type Workplace } from '@/bridge/wire';
import { SatchelError, keepMade, type LedgerEntry, type LocatedRoot, type Plan, type PackNote } from '@/core';
import { ask, jsonLines, orFailure } from '@/folders/bridge';
import { BridgeFolder } from '@/folders/bridgeFolder';
import { memory, type Game } from '@/storage/memory';
import type { Carrier, DeployWork, Order } from './carrier';
import { mainFolder } from './mainFolder';

/** A game whose folders the app's own server opens. */
export interface ServedGame {
  game: Game;
  located: readonly LocatedRoot[];
  vault: BridgeFolder;
  /** The packs that are here now. */
  notes(): readonly PackNote[];
}

const nameOf = ({ notes }: ServedGame, id: string): string => notes().find((note) => note.id === id)?.file ?? 'a pack';

function workplaceOf({ game, located, notes }: ServedGame): Workplace {
  const roots: Record<string, RootPlace> = {};
  for (const { id } of game.card.roots) {
    const inside = located.find(({ root }) => root === id)?.inside;
    const folder = game.given[inside?.root ?? id];
    if (!folder) throw new SatchelError('bridge-closed');
    const hidden = located.flatMap((one) => (one.inside?.root === id ? [one.inside.path] : []));
    roots[id] = { folder: folder.id, hidden, ...(inside ? { inside: inside.path } : {}) };
  }
  return { main: mainFolder(game)?.id ?? '', roots, packs: notes().map(({ id, file }) => ({ id, name: file })) };
}

const post = (address: string, body: unknown, signal?: AbortSignal): Promise<Response> =>
  ask(address, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'Content-Type': 'application/json' },
    ...(signal ? { signal } : {}),
  });

/**
 * Has the server do it and listens until it is done.
 *
 * @throws SatchelError `left-open` where it stopped answering in the middle of it
 */
async function run(served: ServedGame, work: Run['work'], { signal, onProgress, onStuck }: DeployWork): Promise<News> {
  const id = crypto.randomUUID();
  try {
    const response = await orFailure(await post('/bridge/run', { ...workplaceOf(served), run: id, work }, signal));
    try {
      for await (const line of jsonLines(response)) {
        const news = newsSchema.parse(line);
        if ('progress' in news) onProgress?.(news.progress);
        else if ('stuck' in news)
          await post('/bridge/answer', { run: id, answer: (await onStuck?.(news.stuck)) ?? 'take back' });
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

const stopped = (cause?: unknown): SatchelError =>
  new SatchelError('left-open', { why: 'the app’s own server stopped answering' }, { cause });

/** Deploys on the server: archives are sent once, and unpacked, hashed and written there. */
async function deployThere(
  served: ServedGame,
  plan: Plan,
  { title, layers }: Order,
  options: DeployWork,
): Promise<LedgerEntry> {
  const { vault } = served;
  const archives = new Map<string, Archive>();
  for (const id of new Set(plan.steps.flatMap(({ after }) => (after.kind === 'pack' ? [after.packId] : [])))) {
    const [blob, name] = [await memory.archive(id), nameOf(served, id)];
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
    const news = await run(
      served,
      {
        do: 'deploy',
        title,
        layers: [...layers],
        plan: { steps, forget },
        coming: Array.from(archives, ([id, { blob }]) => ({ id, size: blob.size })),
      },
      { ...options, signal: stopper.signal },
    );
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

async function sendAll(
  vault: BridgeFolder,
  archives: ReadonlyMap<string, Archive>,
  signal: AbortSignal,
): Promise<void> {
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

/**
 * A pack is sent ahead where the disk has room for this many times its size: for itself, its files and the originals.
 */
const ROOMY = 3;

/**
 * Sends a pack that was just brought in, while the player looks at it. Where that fails, the deployment sends it, and
 * says what is wrong.
 */
async function sendAhead(served: ServedGame, id: string): Promise<void> {
  const { vault } = served;
  const stopper = new AbortController();
  ahead.set(id, stopper);
  try {
    const [blob, name] = [await memory.archive(id), nameOf(served, id)];
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

/** Has the app's own server carry plans out, beside the game's folders. */
export const carriedOutOnServer = (served: ServedGame): Carrier => ({
  deploy: (plan, order, options) => deployThere(served, plan, order, options),
  recover: async () => {
    const news = await run(served, { do: 'recover' }, {});
    return 'recovered' in news ? news.recovery : undefined;
  },
  mind: async (options) => {
    const news = await run(served, { do: 'mind' }, options);
    if ('minded' in news) return news.minded;
    throw stopped();
  },
  sendAhead: (packId) => sendAhead(served, packId),
});
