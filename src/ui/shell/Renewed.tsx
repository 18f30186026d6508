'use client';

import { useEffect, useState } from 'react';
import { useEngine, useJob } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { Notice } from '@/ui/shared/Notice';

/** How often the server is asked while the page is in sight (milliseconds). */
const EVERY = 60_000;

/** Does the app's own server say that it is of another build than this page? */
async function isAnother(): Promise<boolean> {
  try {
    const of = encodeURIComponent(process.env.SATCHEL_BUILD ?? '');
    return (await fetch(`/version?of=${of}`, { cache: 'no-store' })).status === 205;
  } catch {
    // That it does not answer is said elsewhere.
    return false;
  }
}

/** Says so where the app was renewed while this page was open. What was typed is kept over the reload. */
export function Renewed() {
  const { snapshot } = useEngine();
  const job = useJob();
  const [renewed, setRenewed] = useState(false);
  const server = snapshot?.server;
  useEffect(() => {
    const ask = () => {
      if (document.visibilityState !== 'visible') return;
      void isAnother().then(setRenewed);
    };
    ask();
    const timer = setInterval(ask, EVERY);
    document.addEventListener('visibilitychange', ask);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', ask);
    };
    // Whenever the server is back it may be another one.
  }, [server]);
  if (!renewed) return null;
  return (
    <Notice
      level="note"
      title="The app was renewed while this page was open."
      action={
        <Button size="sm" disabled={job !== undefined} onClick={() => location.reload()}>
          Load the new page
        </Button>
      }
    >
      <p>This page is still the one from before. What you decided and what you are typing are there afterwards.</p>
    </Notice>
  );
}
