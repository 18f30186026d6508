'use client';

import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Button } from '@/ui/shared/controls';
import { holdDraft, readDrafts, writeDraft, type Draft } from './drafts';
import { useGame } from '@/ui/engine';
import { moment } from './format';
import { Notice } from './Notice';

/** Pause in typing after which what was typed is kept, in milliseconds. */
const PAUSE = 250;
/** How much of a draft is shown, in characters. */
const SHOWN = 160;
/** One for each page that is opened. */
const SESSION = typeof crypto === 'undefined' ? '' : crypto.randomUUID();
let places = 0;

/** The lines of a draft that are not in the text as it stands. */
function newLines(draft: string, text: string): string {
  const there = new Set(text.split('\n'));
  return draft
    .split('\n')
    .filter((line) => !there.has(line))
    .join('\n');
}

/** What is typed in one place, as it stands now. */
interface Typed {
  text: string;
  /** Nothing of it is the player's, or all of it was taken. */
  clean: boolean;
  /** What of a draft is shown: at first the lines that are not in the text. */
  show?(draft: string): string;
}

/** Drafts of earlier sessions of a place, and what throws one away. */
function useOffers(key: string, session: string): [offers: Draft[], drop: (draft: Draft) => void] {
  const [offers, setOffers] = useState<Draft[]>([]);
  useEffect(() => {
    let current = true;
    void readDrafts(key).then((found) => current && setOffers(found.filter((one) => one.session !== session)));
    return () => {
      current = false;
      setOffers([]);
    };
  }, [key, session]);
  const drop = (draft: Draft) => {
    setOffers((all) => all.filter((one) => one !== draft));
    void writeDraft(key, draft.session, undefined);
  };
  return [offers, drop];
}

/** Keeps what is typed, a moment after the last letter and when the place or the page closes; what ends that. */
function useKeeping(key: string, session: string, { text, clean }: Typed): () => void {
  const written = useRef(false);
  // Taken or given up as it is: until it is typed on, there is nothing to keep, for as long as the place stays open.
  const finished = useRef<string>(undefined);
  const latest = useRef({ text, clean });
  useEffect(() => {
    if (text !== finished.current) finished.current = undefined;
    latest.current = { text, clean: clean || text === finished.current };
  });

  useEffect(() => {
    const save = () => {
      const nothing = latest.current.clean;
      if (nothing && !written.current) return;
      written.current = !nothing;
      void writeDraft(key, session, nothing ? undefined : { text, at: Date.now() });
    };
    const timer = setTimeout(save, PAUSE);
    const leave = () => !latest.current.clean && holdDraft(key, session, { text, at: Date.now() });
    addEventListener('pagehide', leave);
    return () => {
      clearTimeout(timer);
      removeEventListener('pagehide', leave);
    };
  }, [key, session, text, clean]);

  // Typed a moment ago, and now elsewhere.
  useEffect(() => {
    return () => {
      const { text: last, clean: wasClean } = latest.current;
      if (!wasClean) void writeDraft(key, session, { text: last, at: Date.now() });
    };
  }, [key, session]);
  return () => {
    finished.current = text;
    latest.current.clean = true;
    written.current = false;
    void writeDraft(key, session, undefined);
  };
}

/** A draft, to go on with or to throw away. */
function Offer(p: { draft: Draft; shown: string; onTake(): void; onDrop(): void }) {
  const { draft, shown, onTake, onDrop } = p;
  return (
    <Notice
      level="note"
      title={`What you typed here on ${moment(draft.at)} was not taken yet.`}
      action={
        <span className="row-of flex-nowrap">
          <Button size="sm" onClick={onTake}>
            Go on with it
          </Button>
          <Button size="sm" variant="outline-secondary" onClick={onDrop}>
            Throw it away
          </Button>
        </span>
      }
    >
      <p className="m-0 path small">{shown.length > SHOWN ? `${shown.slice(0, SHOWN)}…` : shown}</p>
    </Notice>
  );
}

/**
 * Keeps what is typed in one place, and offers it again when the player comes back to it: after going elsewhere, a
 * reload, or a closed page. It is never taken by itself.
 *
 * @param place what is typed, within the game: “text of user/game.ini”
 * @param typed as it stands now
 * @param onTake puts a draft where it was typed
 * @returns the offer, to be shown beside it, and what to call where the place closes when all was taken, or given up
 */
export function useDraft(
  place: string,
  typed: Typed,
  onTake: (text: string) => void,
): { offer: ReactNode; done: () => void } {
  const { id } = useGame();
  const key = `${id} ${place}`;
  // Each time a place is opened is a session of its own: what was typed the time before is offered.
  const [session] = useState(() => `${SESSION} ${++places}`);
  const [offers, drop] = useOffers(key, session);
  const done = useKeeping(key, session, typed);
  const offer = offers.find((one) => one.text !== typed.text);
  if (!offer) return { offer: null, done };
  const take = () => {
    onTake(offer.text);
    drop(offer);
  };
  const shown = (typed.show?.(offer.text) ?? newLines(offer.text, typed.text)).trim();
  return { offer: <Offer draft={offer} shown={shown} onTake={take} onDrop={() => drop(offer)} />, done };
}

/** The same for a form of several fields. */
export function useFormDraft<T extends Record<string, string>>(
  place: string,
  fields: T,
  clean: boolean,
  onTake: (fields: T) => void,
): { offer: ReactNode; done: () => void } {
  const read = (text: string): T => ({ ...fields, ...(JSON.parse(text) as Partial<T>) });
  const show = (text: string) =>
    Object.values(read(text))
      .filter((value) => value !== '')
      .join(', ');
  return useDraft(place, { text: JSON.stringify(fields), clean, show }, (text) => onTake(read(text)));
}
