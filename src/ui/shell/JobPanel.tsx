'use client';

import { Button, ProgressBar } from 'react-bootstrap';
import { useEffect, useState } from 'react';
import { useEngine } from '@/ui/engine';
import { count, size } from '@/ui/shared/format';

/** Work that takes longer than this (milliseconds) is shown. */
const PATIENCE = 250;

/** Work under way: how far it is, and the way to stop it. */
export function JobPanel() {
  const { job, engine } = useEngine();
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
  if (!job || !late) return null;
  const show = job.unit === 'bytes' ? size : count;
  return (
    <div className="veil" role="status" aria-label="Work under way">
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
        {job.total > 0 && `: ${show(job.done)} of ${show(job.total)}`}
      </div>
      <ProgressBar now={job.total > 0 ? (100 * job.done) / job.total : 100} animated={job.total === 0} aria-label={job.phase} />
    </div>
  );
}
