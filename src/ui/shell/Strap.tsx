'use client';

import { usePathname, useRouter } from 'next/navigation';
import { createContext, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { openSteps } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Press } from '@/ui/shared/controls';
import { setOut } from '@/ui/shared/leaving';
import { oneOr, count, many } from '@/ui/shared/format';

/** What the main button does on the page that is open, in place of leading to the next step. */
export interface MainAction {
  label: string;
  ready: boolean;
  run(): void;
}

const Context = createContext<
  { action: MainAction | undefined; set(action: MainAction | undefined): void } | undefined
>(undefined);

export function MainActionProvider({ children }: { children: ReactNode }) {
  const [action, set] = useState<MainAction>();
  return <Context.Provider value={useMemo(() => ({ action, set }), [action])}>{children}</Context.Provider>;
}

/**
 * Gives the strap's button the page's own main action; undefined where the page has none now. It can be pressed when it
 * is ready.
 */
export function useMainAction(label: string | undefined, run: () => void, ready = true): void {
  const context = useContext(Context);
  const set = context?.set;
  // Made anew with every picture; the button always runs the latest.
  const latest = useRef(run);
  useEffect(() => {
    latest.current = run;
  });
  useEffect(() => {
    set?.(label === undefined ? undefined : { label, ready, run: () => latest.current() });
    return () => set?.(undefined);
  }, [label, ready, set]);
}

/** Always in view: what is in the game folder now, what comes next, and the one main action. */
export function Strap() {
  const game = useGame();
  const { busy } = useEngine();
  const context = useContext(Context);
  const router = useRouter();
  const path = usePathname();
  const { guide, deployed } = game;
  const here = path === `/game/${guide.step}`;
  const open = game.packs.reduce((sum, pack) => sum + (pack.on ? openSteps(pack.steps) : 0), 0);
  const own = context?.action;
  const label = own?.label ?? guide.action;
  const go = () => {
    setOut(`/game/${guide.step}`);
    router.push(`/game/${guide.step}`);
  };
  return (
    <footer className="strap" aria-label="In the game folder now">
      <div className="now">
        <Figure
          value={deployed.packs}
          label={`${oneOr(deployed.packs, 'pack in the game', 'packs in the game')}${deployed.covered > 0 ? ` (+${deployed.covered} covered)` : ''}`}
          title={`${many(deployed.files, 'file')} of packs, ${many(deployed.edits, 'settings edit')}${deployed.covered > 0 ? `; of ${many(deployed.covered, 'more pack')} every file lies under another’s` : ''}`}
        />
        <Figure
          value={deployed.originals}
          label={oneOr(deployed.originals, 'original kept', 'originals kept')}
          title="Files of the game that packs or edits stand in for; each has a verified copy"
        />
        <Figure
          value={game.plan.total}
          label={oneOr(game.plan.total, 'change waiting', 'changes waiting')}
          title="What the next deployment would do"
        />
        {open > 0 && (
          <Figure
            value={open}
            label={oneOr(open, 'step open', 'steps open')}
            title="What the read-mes of your packs ask for that waits in Settings or is yours to do; Bring in lists it for each pack"
          />
        )}
      </div>
      <div className="next" role="status" aria-label="What to do next">
        {guide.sentence}
      </div>
      {(own || !here) && (
        <Press className="buckle" disabled={busy || own?.ready === false} onClick={() => (own ? own.run() : go())}>
          {label}
        </Press>
      )}
    </footer>
  );
}

function Figure({ value, label, title }: { value: number; label: string; title: string }) {
  return (
    <div className="figure" title={title}>
      <b>{count(value)}</b>
      <span>{label}</span>
    </div>
  );
}
