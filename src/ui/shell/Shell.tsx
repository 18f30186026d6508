'use client';

import { useRouter } from 'next/navigation';
import { useEffect, type ReactNode } from 'react';
import type { Recovery } from '@/core';
import { FailureNotice, Notice } from '@/ui/shared/Notice';
import { useEngine } from '@/ui/engine';
import { AllowFolder } from './AllowFolder';
import { Head } from './Head';
import { JobPanel } from './JobPanel';
import { Opening } from './Opening';
import { Seam } from './Seam';
import { MainActionProvider, Strap } from './Strap';

const RECOVERED: Record<Recovery['outcome'], (title: string) => string> = {
  finished: (title) => `“${title}” was cut off after everything had landed; it is finished now.`,
  'taken-back': (title) => `“${title}” was cut off half-way; everything was put back as it was.`,
  'never-began': (title) => `${title} was cut off before the first file was written; nothing has changed.`,
};

/** The frame around every step: head, steps, the work, and the strap with the main action. */
export function Shell({ children }: { children: ReactNode }) {
  const { snapshot, failure, dismiss } = useEngine();
  const router = useRouter();
  const homeless = snapshot?.ready === true && !snapshot.game;
  useEffect(() => {
    if (homeless) router.replace('/');
  }, [homeless, router]);

  if (!snapshot?.ready || !snapshot.game)
    return <Opening />;
  const { game, recovery, readOnly, trouble } = snapshot;
  return (
    <MainActionProvider>
      <div className="frame">
        <Head />
        <Seam />
        <main className="work" id="work">
          {readOnly && (
            <Notice level="note" title="This game is open in another tab, so this tab can only look.">
              <p>Close the other tab and this one takes over by itself.</p>
            </Notice>
          )}
          {recovery && (
            <Notice level="note" title={RECOVERED[recovery.outcome](recovery.title)}>
              <p>
                {recovery.steps.toLocaleString('en')} files were looked at. The originals are intact.
                {recovery.setAside.length > 0 && ` ${recovery.setAside.length} files had been changed by another program meanwhile; their bytes are kept.`}
              </p>
            </Notice>
          )}
          {trouble.map((one) => (
            <FailureNotice key={one.says} failure={one} />
          ))}
          {failure && <FailureNotice failure={failure} onDismiss={dismiss} />}
          {game.needsPermission ? <AllowFolder /> : children}
        </main>
        <Strap />
        <JobPanel />
      </div>
    </MainActionProvider>
  );
}
