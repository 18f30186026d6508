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

/**
 * Keeps what is typed in one place, and offers it again when the player comes back to it: after going elsewhere, a
 * reload, or a closed page. It is never taken by itself.
 *
 * @param place what is typed, within the game: “text of user/game.ini”
 * @param text as it stands now
 * @param clean nothing of it is the player's, or all of it was taken
 * @param onTake puts a draft where it was typed
 * @param show what of a draft is shown
 * @returns the offer, to be shown beside it, and what to call where the place closes when all was taken, or given up
 */
export function useDraft(
  place: string,
  text: string,
  clean: boolean,
  onTake: (text: string) => void,
  show: (draft: string) => string = (draft) => newLines(draft, text),
): { offer: ReactNode; done: () => void } {
  const { id } = useGame();
  const key = `${id} ${place}`;
  // Each time a place is opened is a session of its own: what was typed the time before is offered.
  const session = useRef(`${SESSION} ${++places}`);
  const [offers, setOffers] = useState<Draft[]>([]);
  const written = useRef(false);
  // Taken or given up as it is: until it is typed on, there is nothing to keep, for as long as the place stays open.
  const finished = useRef<string>(undefined);
  const latest = useRef({ text, clean });
  useEffect(() => {
    if (text !== finished.current) finished.current = undefined;
    latest.current = { text, clean: clean || text === finished.current };
  });

  useEffect(() => {
    let current = true;
    const mine = session.current;
    void readDrafts(key).then((found) => current && setOffers(found.filter((one) => one.session !== mine)));
    return () => {
      current = false;
      setOffers([]);
    };
  }, [key]);

  useEffect(() => {
    const save = () => {
      const nothing = latest.current.clean;
      if (nothing && !written.current) return;
      written.current = !nothing;
      void writeDraft(key, session.current, nothing ? undefined : { text, at: Date.now() });
    };
    const timer = setTimeout(save, PAUSE);
    const leave = () => !latest.current.clean && holdDraft(key, session.current, { text, at: Date.now() });
    addEventListener('pagehide', leave);
    return () => {
      clearTimeout(timer);
      removeEventListener('pagehide', leave);
    };
  }, [key, text, clean]);

  // Typed a moment ago, and now elsewhere.
  useEffect(() => {
    const mine = session.current;
    return () => {
      const { text: last, clean: wasClean } = latest.current;
      if (!wasClean) void writeDraft(key, mine, { text: last, at: Date.now() });
    };
  }, [key]);

  const drop = (draft: Draft) => {
    setOffers((all) => all.filter((one) => one !== draft));
    void writeDraft(key, draft.session, undefined);
  };
  const [offer] = offers.filter((one) => one.text !== text);
  const done = () => {
    finished.current = text;
    latest.current.clean = true;
    written.current = false;
    void writeDraft(key, session.current, undefined);
  };
  if (!offer) return { offer: null, done };
  const shown = show(offer.text).trim();
  const notice = (
    <Notice
      level="note"
      title={`What you typed here on ${moment(offer.at)} was not taken yet.`}
      action={
        <span className="row-of flex-nowrap">
          <Button
            size="sm"
            onClick={() => {
              onTake(offer.text);
              drop(offer);
            }}
          >
            Go on with it
          </Button>
          <Button size="sm" variant="outline-secondary" onClick={() => drop(offer)}>
            Throw it away
          </Button>
        </span>
      }
    >
      <p className="m-0 path small">{shown.length > SHOWN ? `${shown.slice(0, SHOWN)}…` : shown}</p>
    </Notice>
  );
  return { offer: notice, done };
}

/** The same for a form of several fields. */
export function useFormDraft<T extends Record<string, string>>(
  place: string,
  fields: T,
  clean: boolean,
  onTake: (fields: T) => void,
): { offer: ReactNode; done: () => void } {
  const read = (text: string): T => ({ ...fields, ...(JSON.parse(text) as Partial<T>) });
  return useDraft(
    place,
    JSON.stringify(fields),
    clean,
    (text) => onTake(read(text)),
    (text) =>
      Object.values(read(text))
        .filter((value) => value !== '')
        .join(', '),
  );
}
