'use client';

import { usePathname } from 'next/navigation';
import { useGame } from '@/ui/engine';
import { STEP_TITLES } from './Seam';

const OTHER_TITLES: Record<string, string> = {
  card: 'How it works',
  'set-ups': 'Set-ups',
  files: 'What is in the game now',
  storage: 'What takes how much room',
  help: 'Help',
};

/** The window's title: where one is, in which game. */
export function Title() {
  const { title } = useGame();
  const at = usePathname().split('/').at(-1) ?? '';
  const view = { ...OTHER_TITLES, ...STEP_TITLES }[at];
  return <title>{`${view === undefined ? '' : `${view} · `}${title} · Tidy Satchel`}</title>;
}
