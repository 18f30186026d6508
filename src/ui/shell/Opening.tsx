'use client';

import { useEngine } from '@/ui/engine';
import { FailureNotice } from '@/ui/shared/Notice';
import { JobPanel } from './JobPanel';
import { Renewed } from './Renewed';

/** What is shown until there is a picture of the game: large folders take a while to look at. */
export function Opening() {
  const { failure } = useEngine();
  return (
    <main className="home">
      <title>Tidy Satchel</title>
      <h1 className="visually-hidden">Tidy Satchel</h1>
      <Renewed />
      {failure ? <FailureNotice failure={failure} /> : <p role="status">Opening the satchel…</p>}
      <JobPanel />
    </main>
  );
}
