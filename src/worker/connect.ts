import * as Comlink from 'comlink';
import type { EngineApi, Job, Snapshot } from './api';

export type EngineRemote = Comlink.Remote<EngineApi>;

/** Starts the worker. Snapshots and jobs come through the two functions. @param key to the app's own server */
export function connect(onSnapshot: (snapshot: Snapshot) => void, onJob: (job: Job | undefined) => void, key: string): { engine: EngineRemote; started: Promise<void> } {
  const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'satchel' });
  const engine = Comlink.wrap<EngineApi>(worker);
  return { engine, started: engine.start(Comlink.proxy(onSnapshot), Comlink.proxy(onJob), key) };
}
