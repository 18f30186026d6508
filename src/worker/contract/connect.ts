import * as Comlink from 'comlink';
import type { EngineApi } from './messages';
import type { Job, Snapshot } from './tab';

/** The worker as the page has it. */
export type EngineRemote = Omit<EngineApi, 'start'>;

/** Starts the worker. Snapshots and jobs come through the two functions. @param key to the app's own server */
export function connect(
  onSnapshot: (snapshot: Snapshot) => void,
  onJob: (job: Job | undefined) => void,
  key: string,
): { engine: EngineRemote; started: Promise<void> } {
  const worker = new Worker(new URL('../worker.ts', import.meta.url), { type: 'module', name: 'satchel' });
  // The wrapper's own types cannot say that what comes of a message depends on the message.
  const engine = Comlink.wrap<EngineApi>(worker) as unknown as EngineApi;
  return { engine, started: engine.start(Comlink.proxy(onSnapshot), Comlink.proxy(onJob), key) };
}
