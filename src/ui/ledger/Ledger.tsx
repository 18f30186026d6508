'use client';

import Link from 'next/link';
import { useMemo, useRef, useState } from 'react';
import { stepActions, type LedgerEntry } from '@/core';
import { PlanFigures } from '@/ui/deploy/PlanFigures';
import { StepRows } from '@/ui/deploy/StepRows';
import { ACTION_WORDS } from '@/ui/deploy/actionWords';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { FirstNamed } from '@/ui/shared/FirstNamed';
import { oneOr, many, moment } from '@/ui/shared/format';
import { saveFile } from '@/ui/shared/saveFile';
import { Notice } from '@/ui/shared/Notice';
import { CompareStates } from './CompareStates';
import { NamedBackups } from './NamedBackups';
import { RestorePart } from './RestorePart';
import { Safety } from './Safety';
import { Tag } from '@/ui/shared/Tag';
import { useAddress } from '@/ui/shared/useAddress';
import { useEscape } from '@/ui/shared/useEscape';
import { useFollow } from '@/ui/shared/useFollow';

/** Deployments that are listed at first. */
const SHOWN = 8;

/** Everything back as it was, and what to keep before: asked once more before it is done. */
function WayBack() {
  const { act, busy } = useEngine();
  const { putBack, title } = useGame();
  const [asking, setAsking] = useState(false);
  useEscape(asking ? () => setAsking(false) : undefined);
  const putAllBack = async () => {
    setAsking(false);
    await act((engine) => engine.change({ do: 'put all back' }));
  };
  const saveCopy = async () => {
    const blob = await act((engine) => engine.change({ do: 'pack folders' }));
    if (blob) saveFile(blob, `${title} folders.zip`);
  };

  return (
    <section className="sheet stackup">
      <div className="row-of">
        <div className="grow">
          <h1>The way back</h1>
          <p className="m-0 quiet">
            {putBack.total === 0
              ? 'The game’s folders hold nothing that came from a pack.'
              : `Puts ${title} back as it was before the first deployment. Your packs and decisions stay here and can be deployed again.`}
          </p>
        </div>
        <Link className="btn btn-outline-primary" href="/game/files">
          What is in the game now
        </Link>
        <Backup />
        <Button variant="outline-secondary" disabled={busy} onClick={() => void saveCopy()}>
          Save a copy of the folders
        </Button>
        <Button
          variant="outline-danger"
          disabled={busy || putBack.total === 0}
          aria-expanded={asking}
          onClick={() => setAsking(!asking)}
        >
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
  );
}

/** Every deployment, and the way back. */
export function Ledger() {
  const { ledger, deployed } = useGame();
  const [all, setAll] = useState(false);
  const { at, open } = useAddress();
  const opened = Number(at('deployment'));
  // A link may lead to one that is not among the latest.
  const from = ledger.findIndex(({ number }) => number === opened);
  return (
    <>
      <WayBack />
      {deployed.files + deployed.edits > 0 && <RestorePart />}
      {ledger.length === 0 ? (
        <Notice level="note" title="Nothing has been deployed yet.">
          <p>Each deployment will stand here with what it did.</p>
        </Notice>
      ) : (
        <ol className="list-unstyled stackup m-0" aria-label="Deployments, latest first" style={{ gap: '0.4rem' }}>
          {(all || from >= SHOWN ? ledger : ledger.slice(0, SHOWN)).map((entry) => (
            <Entry
              key={entry.number}
              entry={entry}
              open={opened === entry.number}
              onToggle={() => open({ deployment: opened === entry.number ? undefined : String(entry.number) })}
            />
          ))}
        </ol>
      )}
      {!all && from < SHOWN && ledger.length > SHOWN && (
        <Button variant="link" size="sm" className="align-self-start p-0" onClick={() => setAll(true)}>
          Show all {ledger.length} deployments
        </Button>
      )}
      {ledger.length > 1 && <CompareStates />}
      <NamedBackups />
      <Safety />
    </>
  );
}

/** The originals out of the browser, and back into one that knows nothing of them. */
function Backup() {
  const { act, busy } = useEngine();
  const { deployed } = useGame();
  const [taken, setTaken] = useState<string>();
  const input = useRef<HTMLInputElement>(null);
  const save = async () => {
    const made = await act((engine) => engine.change({ do: 'export bag' }));
    if (made) saveFile(made.blob, made.name);
  };
  const take = async (file: File | undefined) => {
    const found = file && (await act((engine) => engine.change({ do: 'import bag', file })));
    if (found)
      setTaken(
        `${many(found.originals, 'original')} of ${found.title} ${oneOr(found.originals, 'is', 'are')} here again.`,
      );
  };
  if (taken !== undefined)
    return (
      <span className="small" role="status">
        {taken}
      </span>
    );
  if (deployed.files + deployed.edits > 0)
    return (
      <Button
        variant="outline-secondary"
        disabled={busy}
        title="Clearing the browser’s data would lose the originals: a copy outside of it is safe from that."
        onClick={() => void save()}
      >
        Save the originals
      </Button>
    );
  return (
    <>
      <Button variant="outline-secondary" disabled={busy} onClick={() => input.current?.click()}>
        Take a backup in…
      </Button>
      <input
        type="file"
        accept=".zip"
        hidden
        aria-label="A backup of the originals"
        ref={input}
        onChange={(event) => void take(event.target.files?.[0])}
      />
    </>
  );
}

/** Packs of a deployment that are named at once. */
const NAMED = 12;

/** Which deployment, when, and of which packs. */
function EntryHead({ entry }: { entry: LedgerEntry }) {
  const { packs } = useGame();
  const tags = useMemo(() => new Map(packs.map(({ layer, tag }) => [layer, tag])), [packs]);
  const names = entry.layers.filter(({ kind }) => kind !== 'edits');
  return (
    <>
      <strong>
        {entry.number}. {entry.title}
      </strong>
      <span className="quiet small">{moment(entry.at)}</span>
      <FirstNamed all={names} most={NAMED} what="pack">
        {({ id, name }) => {
          const tag = tags.get(id);
          return tag ? (
            <Tag key={id} tag={tag} name={name} />
          ) : (
            <span key={id} className="small quiet">
              {name}
            </span>
          );
        }}
      </FirstNamed>
    </>
  );
}

/** Packs of an earlier state that were taken away since. */
function NotHere({ names }: { names: readonly string[] }) {
  return (
    <Notice
      level="wrong"
      title={`${names.map((name) => `“${name}”`).join(', ')} ${oneOr(names.length, 'is', 'are')} not here any more.`}
    >
      <p>
        Everything else is as it was then. Bring {oneOr(names.length, 'it', 'them')} in again, then look at the plan.
      </p>
    </Notice>
  );
}

function Entry({ entry, open, onToggle }: { entry: LedgerEntry; open: boolean; onToggle(): void }) {
  const { states, ledger, plan } = useGame();
  const { act, busy } = useEngine();
  const follow = useFollow();
  const goBack = async () => {
    const go = follow('/game/deploy');
    const gone = await act((engine) => engine.change({ do: 'go back', number: entry.number }));
    if (gone?.length === 0) go();
    else if (gone) setGone(gone);
  };
  const [gone, setGone] = useState<string[]>([]);
  const steps = stepActions.filter((action) => (entry.counts[action] ?? 0) > 0);
  return (
    <li className="sheet stackup">
      <div className="row-of">
        <EntryHead entry={entry} />
        <span className="grow small">
          {steps
            .map((action) => many(entry.counts[action] ?? 0, ACTION_WORDS[action].one, ACTION_WORDS[action].more))
            .join(', ') || 'nothing to do'}
        </span>
        <span className="small quiet">
          {many(entry.landed, 'step')} landed in {(entry.milliseconds / 1000).toFixed(1)} s
        </span>
        {states.includes(entry.number) && (entry !== ledger[0] || plan.total > 0) && (
          <Button
            variant="outline-primary"
            size="sm"
            disabled={busy}
            title="The stack becomes what it was then. You see the plan first; nothing is written before you deploy it."
            onClick={() => void goBack()}
          >
            Go back to this
          </Button>
        )}
        <Button variant="outline-secondary" size="sm" aria-expanded={open} onClick={onToggle}>
          {open ? 'Hide steps' : 'Show steps'}
        </Button>
      </div>
      {gone.length > 0 && <NotHere names={gone} />}
      {open && (
        <div style={{ height: '18rem' }}>
          <StepRows
            label={`Steps of deployment ${entry.number}`}
            query={{ view: 'ledger', number: entry.number, search: '' }}
          />
        </div>
      )}
    </li>
  );
}
