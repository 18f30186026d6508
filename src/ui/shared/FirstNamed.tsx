'use client';

import { useState, type ReactNode } from 'react';
import { many } from './format';

/** So many things by name; the others are made when they are asked for. */
export function FirstNamed<T>({ all, most, what, children }: Named<T>) {
  const [open, setOpen] = useState(false);
  return (
    <>
      {all.slice(0, most).map(children)}
      {all.length > most && (
        <details onToggle={(event) => setOpen(event.currentTarget.open)}>
          <summary className="small">and {many(all.length - most, `more ${what}`)}</summary>
          {open && <div className="row-of mt-1">{all.slice(most).map(children)}</div>}
        </details>
      )}
    </>
  );
}

interface Named<T> {
  all: readonly T[];
  /** How many are named at once. */
  most: number;
  /** One of them, in a word. */
  what: string;
  children(one: T): ReactNode;
}
