import 'fake-indexeddb/auto';
import { zipSync } from 'fflate';
import { beforeEach, vi } from 'vitest';
import { noHistory } from '@/core';
import { zipRoots } from '@/demo/filesByPath';
import { DEMO_GAMES } from '@/demo/demoGames';
import { SHELF } from '@/demo/shelf';
import { BrowserFolder } from '@/folders/browser';
import { memory } from '@/storage/memory';
import type { Brought, GameView, Job, Snapshot } from '@/worker/contract';
import { Engine } from '@/worker/tab/engine';

export const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
export const blob = (files: Record<string, string>): Blob =>
  new Blob([zipSync(Object.fromEntries(Object.entries(files).map(([path, text]) => [path, bytes(text)])))]);

/** Engines of pages that are open. */
const running = new Set<Engine>();
/** All pages are closed: nothing goes on in them by itself. */
async function closePages(): Promise<void> {
  await Promise.all(Array.from(running, (engine) => engine.end()));
  running.clear();
}

/** The engine as the page has it: the browser's storage and locks are stood in for, everything else is real. */
export class Seat {
  engine = new Engine();
  snapshot: Snapshot | undefined;
  jobs: Job[] = [];

  /** @param key to the app's own server */
  async start(key = ''): Promise<this> {
    running.add(this.engine);
    await this.engine.start(
      (snapshot) => (this.snapshot = snapshot),
      (job) => job && this.jobs.push(job),
      key,
    );
    return this;
  }

  /** Brings in one pack as a file. */
  async bringIn(pack: Blob, name: string): Promise<Brought> {
    return (await this.engine.change({ do: 'bring in', files: [{ name, data: pack }] })).brought[0] as Brought;
  }

  async fromShelf(file: string): Promise<Brought> {
    return (await this.engine.change({ do: 'fetch from shelf', file })).brought[0] as Brought;
  }

  get game(): GameView {
    if (!this.snapshot?.game) throw new Error('no game is open');
    return this.snapshot.game;
  }
}

/** The games' folders as the server hands them out, packed once. */
const GAME_ZIPS = DEMO_GAMES.map(({ card, folders }) => [`${card.id}.zip`, zipRoots(folders())] as const);

/** What the server hands out: drawn when it is first asked for. */
let shelf: Map<string, () => Uint8Array> | undefined;
const once = (build: () => Uint8Array): (() => Uint8Array) => {
  let made: Uint8Array | undefined;
  return () => (made ??= build());
};

let holder: Promise<unknown> | undefined;
/** localForage tries Blobs out with a browser's own means before it keeps one; here they are kept in a map. */
const archives = new Map<string, Blob>();

/** To be called once in a test file: every test then has a browser of its own. */
export const eachInItsBrowser = (): void =>
  beforeEach(async () => {
    await closePages();
    holder = undefined;
    // One tab holds the lock for ever; the next one waits.
    vi.stubGlobal('navigator', {
      locks: {
        request: async (_name: string, work: () => Promise<unknown>) => {
          while (holder) await holder;
          holder = work();
          return holder;
        },
      },
    });
    shelf ??= new Map<string, () => Uint8Array>([
      ['games.json', () => bytes(JSON.stringify(DEMO_GAMES.map(({ card }) => card.id)))],
      ...DEMO_GAMES.map(({ card }) => [`${card.id}.json`, () => bytes(JSON.stringify(card))] as const),
      ...GAME_ZIPS.map(([name, data]) => [name, () => data] as const),
      ...SHELF.filter(({ file }) => file !== 'every-island.zip').map(({ file, build }) => [file, once(build)] as const),
    ]);
    vi.stubGlobal('fetch', async (url: string) => {
      const file = shelf?.get(url.replace('/shelf/', ''))?.();
      return file ? new Response(file as Uint8Array<ArrayBuffer>) : new Response('', { status: 404 });
    });
    vi.spyOn(memory, 'setArchive').mockImplementation(async (id, archive) => archives.set(id, archive));
    vi.spyOn(memory, 'archive').mockImplementation(async (id) => archives.get(id));
    vi.spyOn(memory, 'removeArchive').mockImplementation(async (id) => void archives.delete(id));
    await memory.setGames([]);
  });

/** The demo set up from nothing. */
export async function demo(): Promise<Seat> {
  const seat = await new Seat().start();
  await seat.engine.change({ do: 'open demo' });
  await seat.engine.change({ do: 'reset demo' });
  return seat;
}

/** The same browser after a reload: a new engine over what is kept. */
export async function reloaded(key = '', seat = new Seat()): Promise<Seat> {
  await closePages();
  holder = undefined;
  return seat.start(key);
}

/** The same without a way back: what only it needed is let go with the next decision. */
export async function withoutHistory(game: string): Promise<Seat> {
  await closePages();
  await memory.setHistory(game, noHistory);
  return reloaded();
}

/** Every byte of a demo game's folders. */
export async function folders(id: string): Promise<Record<string, string>> {
  const found: Record<string, string> = {};
  const game = DEMO_GAMES.find(({ card }) => card.id === id);
  for (const root of game?.card.roots ?? []) {
    const folder = await BrowserFolder.open(`${id}-${root.id}`);
    for await (const { path } of folder.list())
      found[`${root.id}/${path}`] = Buffer.from(await folder.readBytes(path)).toString('base64');
  }
  return found;
}

/** Every file of the first demo game as text. */
export async function gullwickTexts(): Promise<Record<string, string>> {
  const all = Object.entries(await folders('gullwick'));
  return Object.fromEntries(all.map(([path, data]) => [path, Buffer.from(data, 'base64').toString('utf8')]));
}
