'use client';

import { Button } from 'react-bootstrap';
import { useEngine, useGame } from '@/ui/engine';
import { count, many, place } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { useMainAction } from '@/ui/shell/Strap';
import type { SwitchView } from '@/worker/api';
import { KeyTable } from './KeyTable';
import { PasteLines } from './PasteLines';
import { Proposals } from './Proposals';

/** The switches that packs need, and the keys that the game card knows. */
export function Settings() {
  const game = useGame();
  const { act } = useEngine();
  const off = game.switches.filter((one) => !one.on && !one.pending && one.neededBy > 0);
  const turnOn = (one: SwitchView) => void act((engine) => engine.setEdit(one.file, one.path, one.wanted));
  useMainAction(game.guide.step === 'settings' && off.length > 0 ? `Turn on “${off[0]?.title}”` : undefined, () => off[0] && turnOn(off[0]));

  if (game.settings.length === 0)
    return (
      <Notice level="note" title={`No settings files of ${game.title} are known to the app.`}>
        <p>If a pack’s read-me names a setting that must be changed, change it in the game or in its file yourself.</p>
      </Notice>
    );
  return (
    <>
      {game.switches.map((one) => (
        <Switch key={one.id} one={one} onTurnOn={() => turnOn(one)} />
      ))}
      {game.proposals.length > 0 && <Proposals />}
      <PasteLines />
      <KeyTable />
    </>
  );
}

function Switch({ one, onTurnOn }: { one: SwitchView; onTurnOn(): void }) {
  const { act, busy } = useEngine();
  const { roots } = useGame();
  const where = `${one.path.join(' › ')} in ${place(one.file, roots)}`;
  const dropEdit = (label: string) => (
    <Button variant="outline-secondary" size="sm" disabled={busy} onClick={() => void act((engine) => engine.dropEdit(one.file, one.path))}>
      {label}
    </Button>
  );
  if (one.on)
    return (
      <Notice level={one.neededBy > 0 ? 'good' : 'note'} title={`“${one.title}” is on`} action={one.mine ? dropEdit('Take this edit back') : undefined}>
        <p>
          <span className="path">{where}</span> is {one.value}. {one.neededBy > 0 ? `${many(one.neededBy, 'file')} of your packs need it.` : 'No pack needs it now.'}
        </p>
      </Notice>
    );
  if (one.pending)
    return (
      <Notice level="note" title={`“${one.title}” will be on after the next deployment`} action={one.mine ? dropEdit('Take this edit back') : undefined}>
        <p>
          <span className="path">{where}</span> is {one.value ?? 'not there'} now and becomes {one.wanted}. Not one other byte of the file changes.
        </p>
      </Notice>
    );
  return (
    <Notice
      level={one.neededBy > 0 ? 'wrong' : 'note'}
      title={`“${one.title}” is off`}
      action={
        <Button size="sm" disabled={busy} onClick={onTurnOn}>
          Turn it on
        </Button>
      }
    >
      <p>
        {one.neededBy > 0 ? `${count(one.neededBy)} files of your packs will not load without it. ` : 'No pack needs it now. '}
        {one.why}
      </p>
      <p className="small quiet">
        <span className="path">{where}</span> is {one.value ?? 'not there'}; it must be {one.wanted}.
      </p>
    </Notice>
  );
}
