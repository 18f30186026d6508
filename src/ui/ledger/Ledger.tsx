'use client';

import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { stepActions, type LedgerEntry } from '@/core';
import { PlanFigures } from '@/ui/deploy/PlanFigures';
import { StepRows } from '@/ui/deploy/StepRows';
import { ACTION_WORDS } from '@/ui/deploy/words';
import { useEngine, useGame } from '@/ui/engine';
import { many, moment } from '@/ui/shared/format';
import { saveFile } from '@/ui/shared/saveFile';
import { Notice } from '@/ui/shared/Notice';
import { Tag } from '@/ui/shared/Tag';

/** Every deployment, and the way back. */
export function Ledger() {
  const { act, busy } = useEngine();
  const { ledger, putBack, title } = useGame();
  const [asking, setAsking] = useState(false);
  const [opened, setOpened] = useState<number>();
  const putAllBack = async () => {
    setAsking(false);
    await act((engine) => engine.putBack());
  };
  const saveCopy = async () => {
    const blob = await act((engine) => engine.exportFolders());
    if (blob) saveFile(blob, `${title} folders.zip`);
  };

  return (
    <>
      <section className="sheet stackup">
        <div className="row-of">
          <div className="grow">
            <h1>The way back</h1>
            <p className="m-0 quiet">{putBack.total === 0 ? 'The game’s folders hold nothing that came from a pack.' : `Puts ${title} back as it was before the first deployment. Your packs and decisions stay here and can be deployed again.`}</p>
          </div>
          <Button variant="outline-secondary" disabled={busy} onClick={() => void saveCopy()}>
            Save a copy of the folders
          </Button>
          <Button variant="outline-danger" disabled={busy || putBack.total === 0} aria-expanded={asking} onClick={() => setAsking(!asking)}>
            Put everything back…
          </Button>
        </div>
        {asking && putBack.total > 0 && (
          <>
            <PlanFigures plan={putBack} />
            <div className="row-of">
              <Button variant="danger" onClick={() => void putAllBack()}>
                Put everything back now
              </Button>
              <Button variant="outline-secondary" onClick={() => setAsking(false)}>
                Leave it as it is
              </Button>
            </div>
          </>
        )}
      </section>
      {ledger.length === 0 ? (
        <Notice level="note" title="Nothing has been deployed yet.">
          <p>Each deployment will stand here with what it did.</p>
        </Notice>
      ) : (
        <ol className="list-unstyled stackup m-0" aria-label="Deployments, latest first" style={{ gap: '0.4rem' }}>
          {ledger.map((entry) => (
            <Entry key={entry.number} entry={entry} open={opened === entry.number} onToggle={() => setOpened(opened === entry.number ? undefined : entry.number)} />
          ))}
        </ol>
      )}
    </>
  );
}

function Entry({ entry, open, onToggle }: { entry: LedgerEntry; open: boolean; onToggle(): void }) {
  const { packs } = useGame();
  const steps = stepActions.filter((action) => (entry.counts[action] ?? 0) > 0);
  const names = entry.layers.filter(({ id }) => !id.startsWith('edits:'));
  return (
    <li className="sheet stackup">
      <div className="row-of">
        <strong>
          {entry.number}. {entry.title}
        </strong>
        <span className="quiet small">{moment(entry.at)}</span>
        {names.map(({ id, name }) => {
          const pack = packs.find(({ layer }) => layer === id);
          return pack ? <Tag key={id} tag={pack.tag} name={name} /> : <span key={id} className="small quiet">{name}</span>;
        })}
        <span className="grow small">{steps.map((action) => many(entry.counts[action] ?? 0, ACTION_WORDS[action].one, ACTION_WORDS[action].more)).join(', ') || 'nothing to do'}</span>
        <span className="small quiet">
          {many(entry.landed, 'step')} landed in {(entry.milliseconds / 1000).toFixed(1)} s
        </span>
        <Button variant="outline-secondary" size="sm" aria-expanded={open} onClick={onToggle}>
          {open ? 'Hide steps' : 'Show steps'}
        </Button>
      </div>
      {open && (
        <div style={{ height: '18rem' }}>
          <StepRows label={`Steps of deployment ${entry.number}`} query={{ view: 'ledger', number: entry.number, search: '' }} />
        </div>
      )}
    </li>
  );
}
