'use client';

import { X } from 'lucide-react';
import { createContext, useContext, useLayoutEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { Button } from '@/ui/shared/controls';
import { useEscape } from '@/ui/shared/useEscape';
import { HELP } from './stepWords';

/** Six sentences: a first pack lies over no other yet. */
const STOPS = HELP.filter(({ step }) => step !== 'stack').map(({ step, title, short }) => ({ step, title, short }));

const Context = createContext<{ begin(): void } | undefined>(undefined);

/** How the tour is begun. */
export function useTour(): { begin(): void } {
  const tour = useContext(Context);
  if (!tour) throw new Error('useTour outside TourProvider');
  return tour;
}

/** Lets everything below begin the tour. */
export function TourProvider({ children }: { children: ReactNode }) {
  const [at, setAt] = useState<number>();
  const opener = useRef<Element>(null);
  const tour = useMemo(
    () => ({
      begin() {
        opener.current = document.activeElement;
        setAt(0);
      },
    }),
    [],
  );
  const go = (next: number | undefined) => {
    setAt(next);
    if (next === undefined && opener.current instanceof HTMLElement) opener.current.focus();
  };
  return (
    <Context.Provider value={tour}>
      {children}
      {at !== undefined && <Stop at={at} onGo={go} />}
    </Context.Provider>
  );
}

/** Where the thing that is spoken of is. */
function useThing(step: string): DOMRect | undefined {
  const [box, setBox] = useState<DOMRect>();
  useLayoutEffect(() => {
    const look = () => setBox(document.querySelector(`.seam a[href="/game/${step}"]`)?.getBoundingClientRect());
    const thing = document.querySelector(`.seam a[href="/game/${step}"]`);
    thing?.classList.add('spoken-of');
    thing?.scrollIntoView({ block: 'nearest' });
    look();
    addEventListener('resize', look);
    addEventListener('scroll', look);
    return () => {
      thing?.classList.remove('spoken-of');
      removeEventListener('resize', look);
      removeEventListener('scroll', look);
    };
  }, [step]);
  return box;
}

/** One sentence at the thing that it speaks of; left at any time. */
function Stop({ at, onGo }: { at: number; onGo(at: number | undefined): void }) {
  const stop = STOPS[at];
  const box = useThing(stop?.step ?? '');
  const leave = () => onGo(undefined);
  useEscape(leave);
  const last = at === STOPS.length - 1;
  if (!stop) return null;
  return (
    <section
      className="tour"
      aria-label={`Tour, ${at + 1} of ${STOPS.length}`}
      style={box && { top: box.bottom + 10, left: `clamp(0.5rem, ${box.left}px, calc(100vw - 22.5rem))` }}
    >
      <div className="between">
        <strong>
          {stop.title}{' '}
          <span className="small quiet">
            {at + 1} of {STOPS.length}
          </span>
        </strong>
        <Button variant="link" className="p-0" aria-label="Leave the tour" onClick={leave}>
          <X size={18} aria-hidden />
        </Button>
      </div>
      <p className="my-2" role="status">
        {stop.short}
      </p>
      <div className="row-of">
        <Button size="sm" autoFocus onClick={() => onGo(last ? undefined : at + 1)}>
          {last ? 'Done' : 'Next'}
        </Button>
        {at > 0 && (
          <Button size="sm" variant="outline-secondary" onClick={() => onGo(at - 1)}>
            Back
          </Button>
        )}
      </div>
    </section>
  );
}
