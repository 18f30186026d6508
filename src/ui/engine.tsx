'use client';

import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import type { Failure } from '@/core';
import type { GameView, Job, Snapshot } from '@/worker/contract';
import { connect, type EngineRemote } from '@/worker/contract/connect';
import { onNewKey, takeKey } from './bridgeKey';

interface EngineState {
  engine: EngineRemote | undefined;
  snapshot: Snapshot | undefined;
  /** Nothing can be changed now: something is under way, or another tab holds the game. */
  busy: boolean;
  failure: Failure | undefined;
  dismiss(): void;
  /**
   * Does something in the worker and shows what went wrong, if anything. Resolves to undefined on failure.
   * `takes` says whether the caller shows that failure itself.
   */
  act<T>(work: (engine: EngineRemote) => Promise<T>, takes?: (failure: Failure) => boolean): Promise<T | undefined>;
  /** The pack that is looked at, the same in every step. */
  chosen: string | undefined;
  choose(layer: string): void;
}

const EngineContext = createContext<EngineState | undefined>(undefined);
/** By itself: it changes ten times a second, and only what shows progress is to be drawn anew. */
const JobContext = createContext<Job | undefined>(undefined);

/** What went wrong, whatever was thrown. */
export const failureOf = (thrown: unknown): Failure =>
  typeof thrown === 'object' && thrown !== null && 'failure' in thrown
    ? (thrown as { failure: Failure }).failure
    : {
        code: 'unexpected',
        says: `Something went wrong that this app did not expect: ${String(thrown)}.`,
        next: 'Reload the page.',
        details: {},
      };

/** Starts the worker once and hands its picture to everything below. */
export function EngineProvider({ children }: { children: ReactNode }) {
  const [engine, setEngine] = useState<EngineRemote>();
  const [snapshot, setSnapshot] = useState<Snapshot>();
  const [job, setJob] = useState<Job>();
  const [failure, setFailure] = useState<Failure>();
  const [chosen, choose] = useState<string>();
  const connected = useRef(false);

  useEffect(() => {
    if (connected.current) return;
    connected.current = true;
    const connection = connect(setSnapshot, setJob, takeKey());
    onNewKey((key) => void connection.engine.setKey(key));
    setEngine(() => connection.engine);
    connection.started.catch((error: unknown) => setFailure(failureOf(error)));
  }, []);

  const act = useCallback(
    async <T,>(
      work: (engine: EngineRemote) => Promise<T>,
      takes?: (failure: Failure) => boolean,
    ): Promise<T | undefined> => {
      if (!engine) return undefined;
      setFailure(undefined);
      try {
        return await work(engine);
      } catch (error) {
        const found = failureOf(error);
        if (!takes?.(found)) setFailure(found);
        return undefined;
      }
    },
    [engine],
  );

  const busy = job !== undefined || snapshot?.readOnly === true;
  const state = useMemo<EngineState>(
    () => ({ engine, snapshot, busy, failure, dismiss: () => setFailure(undefined), act, chosen, choose }),
    [engine, snapshot, busy, failure, act, chosen],
  );
  return (
    <EngineContext.Provider value={state}>
      <JobContext.Provider value={job}>{children}</JobContext.Provider>
    </EngineContext.Provider>
  );
}

export function useEngine(): EngineState {
  const state = useContext(EngineContext);
  if (!state) throw new Error('useEngine outside EngineProvider');
  return state;
}

/** What is under way. */
export const useJob = (): Job | undefined => useContext(JobContext);

/** The open game; only used below the shell, which waits for it. */
export function useGame(): GameView {
  const { snapshot } = useEngine();
  if (!snapshot?.game) throw new Error('useGame without a game');
  return snapshot.game;
}

/** The pack that is looked at: the chosen one, or the latest. */
export function useChosenPack() {
  const { chosen, choose } = useEngine();
  const { packs } = useGame();
  return { pack: packs.find(({ layer }) => layer === chosen) ?? packs.at(-1), choose };
}
