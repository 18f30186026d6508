'use client';

import { usePathname, useRouter } from 'next/navigation';
import { useEffect, type ReactNode } from 'react';
import type { Failure, Recovery } from '@/core';
import { TourProvider } from '@/ui/help/Tour';
import { FailureNotice, Notice } from '@/ui/shared/Notice';
import { useEngine, useGame } from '@/ui/engine';
import { arrive, noteLinks } from '@/ui/shared/leaving';
import { listenForEscape } from '@/ui/shared/useEscape';
import { place } from '@/ui/shared/format';
import type { ServerState, Snapshot } from '@/worker/contract';
import { ClosedGame } from './ClosedGame';
import { Aloud } from './Aloud';
import { Elsewhere } from './Elsewhere';
import { Head } from './Head';
import { Heard } from './Heard';
import { JobPanel } from './JobPanel';
import { Opening } from './Opening';
import { Renewed } from './Renewed';
import { Seam } from './Seam';
import { MainActionProvider, Strap } from './Strap';
import { Title } from './Title';
import { keepFocus } from './keptFocus';

const RECOVERED: Record<Recovery['outcome'], (title: string) => string> = {
  finished: (title) => `“${title}” was cut off after everything had landed; it is finished now.`,
  'taken-back': (title) => `“${title}” was cut off half-way; everything was put back as it was.`,
  'never-began': (title) => `${title} was cut off before the first file was written; nothing has changed.`,
};

/** Failures that the notice about the server says already. */
const OF_THE_SERVER: ReadonlySet<string> = new Set(['server-gone', 'bridge-closed']);

/** What is shown is what was seen last; nothing can be looked at or written before the server is back. */
function ServerNotice({ server }: { server: Exclude<ServerState, 'here'> }) {
  return (
    <Notice
      level="wrong"
      title={
        server === 'gone'
          ? 'The app’s own server does not answer.'
          : 'The app was started again, and this page does not know its new key.'
      }
    >
      <p>
        {server === 'gone'
          ? 'It was stopped, or its window was closed. Start it again; this page notices by itself when it is back. What you see is how things stood last, and what you typed stays here.'
          : 'Open the address that it printed, in any tab: this page then goes on by itself. What you see is how things stood last, and what you typed stays here.'}
      </p>
    </Notice>
  );
}

/** A deployment that was cut off before this start, and what became of it. */
function Recovered({ recovery }: { recovery: Recovery }) {
  const { roots } = useGame();
  return (
    <Notice level="note" title={RECOVERED[recovery.outcome](recovery.title)}>
      <p>
        {recovery.steps.toLocaleString('en')} files were looked at. The originals are intact.
        {recovery.setAside.length > 0 &&
          ' Another program had changed these meanwhile; they stay as they are, and the versions from before are kept: '}
        {recovery.setAside.length > 0 && (
          <span className="path">{recovery.setAside.map((one) => place(one, roots)).join(', ')}</span>
        )}
      </p>
    </Notice>
  );
}

/** What there is to say at the top, whatever step is open. */
function AtTheTop({ snapshot }: { snapshot: Snapshot }) {
  const { failure, dismiss } = useEngine();
  const { server, recovery, readOnly, trouble } = snapshot;
  const isNews = ({ code }: Failure) => server === 'here' || !OF_THE_SERVER.has(code);
  return (
    <>
      {readOnly && (
        <Notice level="note" title="This game is open in another tab, so this tab can only look.">
          <p>Close the other tab and this one takes over by itself.</p>
        </Notice>
      )}
      {recovery && <Recovered recovery={recovery} />}
      <Renewed />
      <Elsewhere />
      <Heard />
      {server !== 'here' && <ServerNotice server={server} />}
      {trouble.filter(isNews).map((one) => (
        <FailureNotice key={one.says} failure={one} />
      ))}
      {failure && isNews(failure) && <FailureNotice failure={failure} onDismiss={dismiss} />}
    </>
  );
}

/** The frame around every step: head, steps, the work, and the strap with the main action. */
export function Shell({ children }: { children: ReactNode }) {
  const { snapshot } = useEngine();
  const router = useRouter();
  const homeless = snapshot?.ready === true && !snapshot.game && !snapshot.closed;
  useEffect(() => {
    if (homeless) router.replace('/');
  }, [homeless, router]);

  useEffect(keepFocus, []);
  useEffect(listenForEscape, []);
  useEffect(noteLinks, []);
  const path = usePathname();
  useEffect(arrive, [path]);

  if (snapshot?.ready && snapshot.closed) return <ClosedGame closed={snapshot.closed} />;
  if (!snapshot?.ready || !snapshot.game) return <Opening />;
  return (
    <TourProvider>
      <MainActionProvider>
        <Title />
        <div className="frame">
          <a className="skip" href="#work">
            Skip to the work
          </a>
          <Head />
          <Seam />
          <main className="work" id="work" tabIndex={-1}>
            <AtTheTop snapshot={snapshot} />
            {children}
          </main>
          <Strap />
          <JobPanel />
          <Aloud />
        </div>
      </MainActionProvider>
    </TourProvider>
  );
}
