'use client';

import { useEngine } from '@/ui/engine';
import { FailureNotice } from '@/ui/shared/Notice';
import { JobPanel } from './JobPanel';
import { Renewed } from './Renewed';

/** What is shown until there is a picture of the game: large folders take a while to look at. */
export function Opening() {
  const { failure } = useEngine();
  return (
    <div className="home">
      <Renewed />
      {failure ? <FailureNotice failure={failure} /> : <p role="status">Opening the satchel…</p>}
      <JobPanel />
    </div>
  );
}
