'use client';

import { Modal } from 'react-bootstrap';
import { useEffect, useRef, useState } from 'react';
import type { StuckAnswer } from '@/core';
import { Button } from '@/ui/shared/controls';
import type { Job } from '@/worker/contract';
import { useEngine, useJob } from '@/ui/engine';
import { count, place, size, timeLeft } from '@/ui/shared/format';

/** Work that takes longer than this (milliseconds) is shown. */
const PATIENCE = 250;

/** What is said of a file that the deployment waits with, by what keeps it from being written. */
const STUCK = {
  changed: {
    title: 'Another program has changed one file',
    means:
      'It was written to after the plan was made, so it was not touched. You can leave it as that program wrote it, or take everything back and look at a new plan.',
    leave: 'Leave this file as it is now',
  },
  lost: {
    title: 'One original cannot come back',
    means: 'You can leave this file as it is now; all others go back. It stays in the plan.',
    leave: 'Leave this file as it is now',
  },
  refused: {
    title: 'One file cannot be written',
    means:
      'Nothing is lost: everything so far can be taken back. Often the game or its launcher still runs and holds the file.',
    leave: 'Leave this file as it was',
  },
};

/** A file that cannot be written: the deployment waits for what the player says. */
function Stuck({ stuck }: { stuck: NonNullable<Job['stuck']> }) {
  const { engine, snapshot } = useEngine();
  const answer = (choice: StuckAnswer) => void engine?.answerStuck(choice);
  const { title, means, leave } = STUCK[stuck.how ?? 'refused'];
  return (
    <Modal show centered backdrop="static" keyboard={false} aria-labelledby="stuck">
      <Modal.Header>
        <Modal.Title as="h2" id="stuck">
          {title}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body className="stackup">
        <p className="path m-0">{place(stuck.target, snapshot?.game?.roots ?? [])}</p>
        <p className="m-0">{stuck.why}.</p>
        <p className="m-0 quiet">{means}</p>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={() => answer('leave')}>
          {leave}
        </Button>
        <Button variant="outline-secondary" onClick={() => answer('leave all')}>
          Leave all such files
        </Button>
        <Button variant="outline-danger" onClick={() => answer('take back')}>
          Take everything back
        </Button>
        {stuck.how === undefined && (
          <Button autoFocus onClick={() => answer('again')}>
            Try again
          </Button>
        )}
      </Modal.Footer>
    </Modal>
  );
}

/** Work under way: how far it is, and the way to stop it. */
export function JobPanel() {
  const { engine } = useEngine();
  const job = useJob();
  const [late, setLate] = useState(false);
  const busy = job !== undefined;
  useEffect(() => {
    if (!busy) return undefined;
    const timer = setTimeout(() => setLate(true), PATIENCE);
    return () => {
      clearTimeout(timer);
      setLate(false);
    };
  }, [busy]);
  const left = useTimeLeft(job);
  if (job?.stuck) return <Stuck stuck={job.stuck} />;
  if (!job || !late) return null;
  const show = job.unit === 'bytes' ? size : count;
  return (
    // Seen here ten times a second; heard every few seconds from Aloud.
    <div className="veil" role="status" aria-live="off" aria-label="Work under way">
      <div className="between">
        <strong className="cut">{job.title}</strong>
        {job.canCancel && (
          <Button variant="outline-secondary" size="sm" onClick={() => void engine?.cancel()}>
            Stop
          </Button>
        )}
      </div>
      <div className="small quiet mb-1">
        {job.phase}
        {job.total > 0
          ? `: ${show(job.done)} of ${show(job.total)}`
          : job.done > 0 && `: ${show(job.done)}${job.unit === 'files' ? ' files' : ''} so far`}
        {left !== undefined && `, ${left}`}
      </div>
      <Bar job={job} />
    </div>
  );
}

/** How far it is; without an end that is known it only shows that something goes on. */
function Bar({ job: { phase, done, total } }: { job: Job }) {
  const share = total > 0 ? Math.min(100, (100 * done) / total) : undefined;
  return (
    <div className="progress">
      <div
        className={`progress-bar ${share === undefined ? 'progress-bar-striped progress-bar-animated' : ''}`}
        style={{ width: `${share ?? 100}%` }}
        role="progressbar"
        aria-label={phase}
        aria-valuemin={0}
        aria-valuemax={100}
        {...(share === undefined ? {} : { 'aria-valuenow': Math.floor(share) })}
      />
    </div>
  );
}

/** A phase is watched this long (milliseconds) before anything is said about its end. */
const WATCHED = 2000;

/** How long the phase that is under way will take, told only when its own speed so far says so. */
function useTimeLeft(job: Job | undefined): string | undefined {
  const began = useRef<{ phase: string; at: number; done: number }>(undefined);
  const [left, setLeft] = useState<string>();
  useEffect(() => {
    if (!job || job.total === 0) {
      began.current = undefined;
      return setLeft(undefined);
    }
    const now = Date.now();
    if (began.current?.phase !== job.phase || job.done < began.current.done)
      began.current = { phase: job.phase, at: now, done: job.done };
    const { at, done } = began.current;
    if (now - at < WATCHED || job.done <= done) return setLeft(undefined);
    setLeft(timeLeft(((now - at) / (job.done - done)) * (job.total - job.done)));
  }, [job]);
  return left;
}
