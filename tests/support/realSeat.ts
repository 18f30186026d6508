import { vi } from 'vitest';
import { Seat } from './seat';
import { askServer } from './server';

/** A game in a real folder, over the app's server; what is called is asked of the server as the page asks. */
export async function openRealGame(
  game: string,
  backup: string,
): Promise<{ seat: Seat; id: string; ask: ReturnType<typeof askServer> }> {
  vi.stubEnv('SATCHEL_FOLDERS', JSON.stringify({ folders: [game], backup }));
  vi.stubEnv('SATCHEL_SECRET', 'key');
  const ask = askServer('key');
  vi.stubGlobal('fetch', (address: string, options: RequestInit) => ask(address, options));
  const seat = await new Seat().start('key');
  const [given] = (await (await ask('/bridge/folders')).json()) as { id: string }[];
  const id = given?.id ?? '';
  await seat.engine.change({ do: 'add game', title: 'Quay', folder: id });
  return { seat, id, ask };
}
