import { z } from 'zod';
import { SatchelError, openPack, type Folder, type WorkOptions } from '@/core';
import { BrowserFolder } from '@/folders/browser';
import type { Game } from '@/storage/memory';

/** Gets one file of the demo from this app's own server. */
export async function fetchDemo(file: string, signal?: AbortSignal): Promise<Response> {
  const response = await fetch(`/shelf/${file}`, signal ? { signal } : {});
  if (!response.ok) throw new SatchelError('unknown-thing', { what: `download “${file}” on the shelf` });
  return response;
}

/** The ids of the demo's games, the first one to be opened first. */
export async function demoGames(): Promise<string[]> {
  return z.array(z.string()).parse(await (await fetchDemo('games.json')).json());
}

/** Fills a demo game's folders from its archive. */
export async function seedDemo(game: Game, options: WorkOptions): Promise<void> {
  const file = `${game.card.id}.zip`;
  const pack = await openPack(await (await fetchDemo(file)).blob(), file);
  const folders = new Map<string, Folder>();
  for (const { id } of game.card.roots) folders.set(id, await BrowserFolder.open(`${game.id}-${id}`));
  let done = 0;
  for await (const { path, data } of pack.readMany(pack.entries.map((entry) => entry.path))) {
    const cut = path.indexOf('/');
    await folders.get(path.slice(0, cut))?.write(path.slice(cut + 1), data);
    options.onProgress?.({
      phase: 'Setting up the demo game',
      done: ++done,
      total: pack.entries.length,
      unit: 'files',
    });
  }
}
