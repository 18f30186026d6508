'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Notice } from '@/ui/shared/Notice';

/** How often a game's log and settings are looked at while the page is in sight, in milliseconds. */
const OFTEN = 3000;

/** After the real game ran: what came of it, without a button. Nothing is written by it. */
export function Heard() {
  const { engine, snapshot } = useEngine();
  const [closed, setClosed] = useState(0);
  const where = usePathname();
  const heard = snapshot?.heard;
  const own = snapshot?.game !== undefined && !snapshot.game.demo;
  useEffect(() => {
    if (!engine || !own) return;
    const look = (back: boolean) => {
      // What goes wrong with the server or the folder is said by what looks at those.
      if (document.visibilityState === 'visible') void engine.lookOutside(back).catch(() => undefined);
    };
    const timer = setInterval(() => look(false), OFTEN);
    const come = () => look(true);
    document.addEventListener('visibilitychange', come);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', come);
    };
  }, [engine, own]);
  if (!heard || heard.at === closed) return null;
  return (
    <Notice level={heard.level} title={heard.says} onDismiss={() => setClosed(heard.at)}>
      {where !== '/game/check' && (
        <p>
          <Link href="/game/check">See what the log says</Link>
        </p>
      )}
    </Notice>
  );
}
