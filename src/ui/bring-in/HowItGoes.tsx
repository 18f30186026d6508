'use client';

import Link from 'next/link';
import { useTour } from '@/ui/help/Tour';
import { HELP } from '@/ui/help/stepWords';
import { Button } from '@/ui/shared/controls';

/** What a new player sees where the first pack will be. */
export function HowItGoes({ title }: { title: string }) {
  const { begin } = useTour();
  return (
    <section className="sheet" aria-label="How it goes">
      <h1>Begin with one pack for {title}</h1>
      <p className="quiet">Nothing in the game’s folders changes until you deploy, and everything can be put back.</p>
      <table className="table m-0">
        <tbody>
          {HELP.map(({ step, title: name, short }) => (
            <tr key={step}>
              <th scope="row" style={{ width: '7rem' }}>
                {name}
              </th>
              <td>{short}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="row-of m-0 mt-2">
        <Button size="sm" variant="outline-primary" onClick={begin}>
          Take the tour: six sentences
        </Button>
        <Link href="/game/help">Help for each step</Link>
      </p>
    </section>
  );
}
