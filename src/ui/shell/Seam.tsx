'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { STEPS, type StepId } from '@/core';
import { useGame } from '@/ui/engine';
import { many } from '@/ui/shared/format';

export const STEP_TITLES: Record<StepId, string> = {
  'bring-in': 'Bring in',
  place: 'Place',
  stack: 'Stack',
  settings: 'Settings',
  deploy: 'Deploy',
  check: 'Check',
  ledger: 'Ledger',
};

/** What a step's number counts, one and several, for those who hear it instead of seeing where it stands. */
const COUNTED: Record<StepId, [one: string, more: string]> = {
  'bring-in': ['thing to do', 'things to do'],
  place: ['pack to place', 'packs to place'],
  stack: ['overlap', 'overlaps'],
  settings: ['switch off', 'switches off'],
  deploy: ['change waiting', 'changes waiting'],
  check: ['thing to look at', 'things to look at'],
  ledger: ['', ''],
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
          const says = many(wants, ...COUNTED[step]);
          return (
            <li key={step} className={step === 'ledger' ? 'apart' : undefined}>
              <Link href={`/game/${step}`} aria-current={path === `/game/${step}` ? 'page' : undefined}>
                {STEP_TITLES[step]}
                {wants > 0 && (
                  <span className="knot" title={says} aria-label={says}>
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
