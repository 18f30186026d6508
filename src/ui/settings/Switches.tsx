'use client';

import type { ReactNode } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { FirstNamed } from '@/ui/shared/FirstNamed';
import { oneOr, count, many, place } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { Tag } from '@/ui/shared/Tag';
import type { PackView, SwitchView } from '@/worker/contract';

/** Every switch of the game: one that is off and needed is the loudest thing on the page. */
export function Switches() {
  const { switches } = useGame();
  const needed = switches.filter((one) => one.neededBy > 0 || one.mine);
  const idle = switches.filter((one) => !needed.includes(one));
  return (
    <>
      {needed.map((one) => (
        <Switch key={one.id} one={one} />
      ))}
      {idle.length > 0 && (
        <p className="small quiet m-0">
          {idle.map(({ title, on }) => `“${title}” is ${on ? 'on' : 'off'}`).join(', ')}; no pack needs{' '}
          {oneOr(idle.length, 'it', 'them')} now.
        </p>
      )}
    </>
  );
}

/** Packs that are named at once; the others are there when they are asked for. */
const NAMED = 8;

/** The packs that need a switch. */
function Needers({ packs }: { packs: readonly PackView[] }) {
  const named = ({ layer, name, tag }: PackView) => (
    <span key={layer} className="row-of" style={{ gap: '0.3rem' }}>
      <Tag tag={tag} name={name} /> {name}
    </span>
  );
  return (
    <div className="row-of small" role="group" aria-label="Packs that need it">
      <FirstNamed all={packs} most={NAMED} what="pack">
        {named}
      </FirstNamed>
    </div>
  );
}

/** Takes the player's own edit of a switch back. */
function DropEdit({ one: { file, path } }: { one: SwitchView }) {
  const { act, busy } = useEngine();
  return (
    <Button
      variant="outline-secondary"
      size="sm"
      disabled={busy}
      onClick={() => void act((engine) => engine.change({ do: 'drop edit', file, path }))}
    >
      Take this edit back
    </Button>
  );
}

/** The switch without which this one does nothing, where there is one. */
function useMaster({ after }: SwitchView): { title: string; off: boolean; waits: boolean } | undefined {
  const { switches } = useGame();
  const master = switches.find(({ id }) => id === after);
  return master && { title: master.title, off: !master.on, waits: !master.on && !master.pending };
}

function SwitchOn({ one, where, needers }: SwitchProps) {
  const master = useMaster(one);
  return (
    <Notice
      level={master?.off ? 'note' : 'good'}
      title={`“${one.title}” is on${master?.off ? `, but does nothing while “${master.title}” is off` : ''}`}
      action={one.mine && <DropEdit one={one} />}
    >
      <p>
        <span className="path">{where}</span> is {one.value}.{' '}
        {one.neededBy > 0
          ? `${many(one.neededBy, 'file')} of your packs ${oneOr(one.neededBy, 'needs', 'need')} it.`
          : 'No pack needs it now.'}
      </p>
      {needers}
    </Notice>
  );
}

function SwitchPending({ one, where }: Omit<SwitchProps, 'needers'>) {
  return (
    <Notice
      level="note"
      title={`“${one.title}” will be on after the next deployment`}
      action={one.mine && <DropEdit one={one} />}
    >
      <p>
        <span className="path">{where}</span> is {one.value ?? 'not there'} now and becomes {one.wanted}. Not one other
        byte of the file changes.
      </p>
    </Notice>
  );
}

function SwitchOff({ one, where, needers }: SwitchProps) {
  const { act, busy } = useEngine();
  const master = useMaster(one);
  return (
    <Notice
      level={one.neededBy > 0 ? 'wrong' : 'note'}
      title={`“${one.title}” is off`}
      action={
        <Button
          size="sm"
          disabled={busy}
          onClick={() => void act((engine) => engine.change({ do: 'turn on', switch: one.id }))}
        >
          {master?.waits ? 'Turn both on' : 'Turn it on'}
        </Button>
      }
    >
      <p>
        {one.neededBy > 0
          ? `${count(one.neededBy)} ${oneOr(one.neededBy, 'file', 'files')} of your packs will not load without it. `
          : 'No pack needs it now. '}
        {one.why}
        {master?.waits && ` It does nothing until “${master.title}” is on, too.`}
      </p>
      <p className="small quiet">
        <span className="path">{where}</span> is {one.value ?? 'not there'}; it must be {one.wanted}.
      </p>
      {needers}
    </Notice>
  );
}

interface SwitchProps {
  one: SwitchView;
  where: string;
  needers: ReactNode;
}

function Switch({ one }: { one: SwitchView }) {
  const { roots, packs } = useGame();
  const where = `${one.path.join(' › ')} in ${place(one.file, roots)}`;
  const needers = packs.filter(({ layer }) => one.packs.includes(layer));
  const tags = needers.length > 0 && <Needers packs={needers} />;
  if (one.on) return <SwitchOn one={one} where={where} needers={tags} />;
  if (one.pending) return <SwitchPending one={one} where={where} />;
  return <SwitchOff one={one} where={where} needers={tags} />;
}
