'use client';

import { useEffect, useRef, useState } from 'react';
import { useGame, useJob } from '@/ui/engine';
import { count, many } from '@/ui/shared/format';
import type { GameView, Job } from '@/worker/contract';

/** How long nothing is said of work that goes on (milliseconds). */
const EVERY = 5000;

/** What came of the latest change, for those who hear it: undefined where nothing came of it. */
function resultOf(before: GameView | undefined, now: GameView): string | undefined {
  if (before === undefined || before.id !== now.id) return undefined;
  return whatLanded(before, now) ?? whatWasDecided(before, now) ?? whatLoaded(before, now);
}

function whatLanded(before: GameView, { ledger: [entry] }: GameView): string | undefined {
  if (entry === undefined || entry.number === before.ledger[0]?.number) return undefined;
  return `${entry.title}: ${many(entry.landed, 'step')} landed.`;
}

function whatWasDecided(before: GameView, now: GameView): string | undefined {
  const step = now.history.steps - before.history.steps;
  if (step < 0) return `Undone: ${before.history.undo ?? 'the last change'}.`;
  // What was done again takes its words out of what could be.
  if (step > 0 && now.history.undo === before.history.redo) return `Done again: ${now.history.undo ?? ''}.`;
  // The oldest step is let go when there are many: their number stays as it is then.
  const another = step > 0 || (step === 0 && now.history.undo !== before.history.undo);
  return another && now.history.undo !== undefined ? `Done: ${now.history.undo}.` : undefined;
}

const whatLoaded = ({ check: { loaded: before } }: GameView, { check: { loaded, counted } }: GameView) =>
  loaded === undefined || loaded === before ? undefined : `${count(loaded)} of ${count(counted)} files loaded.`;

const progressOf = ({ title, phase, done, total }: Job): string =>
  `${title}. ${phase}${total > 0 ? `: ${Math.floor((100 * done) / total)} per cent` : ''}`;

/** Says each result once and politely, and now and then how far long work is. */
export function Aloud() {
  const game = useGame();
  const job = useJob();
  const before = useRef<GameView>(undefined);
  const [said, say] = useState('');
  const [far, setFar] = useState('');
  useEffect(() => {
    const result = resultOf(before.current, game);
    before.current = game;
    if (result !== undefined) say(result);
  }, [game]);
  const latest = useRef(job);
  useEffect(() => {
    latest.current = job;
  });
  const busy = job !== undefined;
  useEffect(() => {
    if (!busy) return undefined;
    const timer = setInterval(() => latest.current && setFar(progressOf(latest.current)), EVERY);
    return () => {
      clearInterval(timer);
      setFar('');
    };
  }, [busy]);
  return (
    <>
      <p className="visually-hidden m-0" role="status" aria-label="What was done">
        {said}
      </p>
      <p className="visually-hidden m-0" role="status" aria-label="How far the work is">
        {far}
      </p>
    </>
  );
}
