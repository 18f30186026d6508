'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { STEPS, type StepId } from '@/core';
import { useGame } from '@/ui/engine';

export const STEP_TITLES: Record<StepId, string> = {
  'bring-in': 'Bring in',
  place: 'Place',
  stack: 'Stack',
  settings: 'Settings',
  deploy: 'Deploy',
  check: 'Check',
  ledger: 'Ledger',
};

/** What a step's number counts, for those who hear it instead of seeing where it stands. */
const COUNTED: Record<StepId, string> = {
  'bring-in': 'thing to do',
  place: 'packs to place',
  stack: 'overlaps',
  settings: 'switches off',
  deploy: 'changes waiting',
  check: 'thing to look at',
  ledger: '',
};

/** The steps in the order of work, each with how many things still want attention. */
export function Seam() {
  const { guide } = useGame();
  const path = usePathname();
  return (
    <nav aria-label="Steps">
      <ul className="seam">
        {STEPS.map((step) => {
          const wants = guide.attention[step];
          return (
            <li key={step} className={step === 'ledger' ? 'apart' : undefined}>
              <Link href={`/game/${step}`} aria-current={path === `/game/${step}` ? 'page' : undefined}>
                {STEP_TITLES[step]}
                {wants > 0 && (
                  <span className="knot" title={`${wants} ${COUNTED[step]}`} aria-label={`${wants} ${COUNTED[step]}`}>
                    {wants > 9999 ? '9999+' : wants}
                  </span>
                )}
              </Link>
            </li>
          );
        })}
      </ul>
    </nav>
  );
}
