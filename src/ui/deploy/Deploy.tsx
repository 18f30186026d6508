'use client';

import Link from 'next/link';
import { useState } from 'react';
import { stepActions, type LedgerEntry, type StepAction } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { oneOr, count, many, place } from '@/ui/shared/format';
import { saveFile } from '@/ui/shared/saveFile';
import { NothingYet } from '@/ui/shared/NothingYet';
import { Notice } from '@/ui/shared/Notice';
import { Search } from '@/ui/shared/Search';
import { useMainAction } from '@/ui/shell/Strap';
import { ChooseBackup } from './ChooseBackup';
import { DriftPanel } from './DriftPanel';
import { PlanFigures } from './PlanFigures';
import { StepGroups } from './StepGroups';
import { StepRows } from './StepRows';
import { ACTION_WORDS } from './actionWords';

/** Files that stay as they are of which so many are named. */
const REFUSED = 20;

/** The plan: what will happen, and what to know before it does. */
function WhatWillHappen({ onDeploy }: { onDeploy(): void }) {
  const { busy } = useEngine();
  const { plan, roots, title, switches, safety } = useGame();
  const off = switches.find((one) => !one.on && !one.pending && one.neededBy > 0);
  return (
    <>
      <section className="sheet stackup">
        <div className="between">
          <h1>This is what will happen</h1>
          <Button disabled={busy} onClick={onDeploy}>
            Deploy
          </Button>
        </div>
        <PlanFigures plan={plan} />
        <p className="m-0 quiet">
          Close {title} first. Before anything is replaced, its original is kept and checked; every file written is read
          back and compared. If anything fails, everything goes back to how it is now.
        </p>
      </section>
      {safety.place === 'browser' && safety.backup === undefined && <ChooseBackup />}
      {off && (
        <Notice
          level="wrong"
          title={`“${off.title}” is still off`}
          action={
            <Link className="btn btn-sm btn-outline-primary" href="/game/settings">
              Look at the switch
            </Link>
          }
        >
          <p>
            {count(off.neededBy)} files of your packs will not load until it is on. You can turn it on now or later.
          </p>
        </Notice>
      )}
      {plan.leftAlone.length > 0 && (
        <Notice
          level="note"
          title={`${many(plan.leftAlone.length, 'setting is', 'settings are')} left as the game or you changed them since`}
        >
          <p className="path">
            {plan.leftAlone.map(({ target, path }) => `${path.join(' › ')} in ${place(target, roots)}`).join('; ')}
          </p>
        </Notice>
      )}
    </>
  );
}

/** What stays as it is, by the reason. */
function Refused() {
  const { plan, roots } = useGame();
  return [...new Set(plan.refused.map(({ why }) => why))].map((why) => {
    const places = plan.refused.filter((one) => one.why === why).map(({ target }) => place(target, roots));
    return (
      <Notice
        key={why}
        level="wrong"
        title={`${oneOr(places.length, `${places[0]} stays`, `${many(places.length, 'file')} stay`)} as ${oneOr(places.length, 'it is', 'they are')}: ${why}.`}
      >
        {places.length > 1 && (
          <p className="path">
            {places.slice(0, REFUSED).join(', ')}
            {places.length > REFUSED && ` and ${count(places.length - REFUSED)} more`}
          </p>
        )}
      </Notice>
    );
  });
}

/** The plan step by step, by pack and folder or file by file, and as a file of its own. */
function Steps() {
  const [action, setAction] = useState<StepAction | 'all'>('all');
  const [search, setSearch] = useState('');
  const [files, setFiles] = useState(false);
  // Who looks for a file wants files.
  const byFile = files || search !== '';
  const look = (one: boolean) => {
    setFiles(one);
    if (!one) setSearch('');
  };
  return (
    <>
      <div className="row-of">
        <div className="picks" role="group" aria-label="How to look at the plan">
          {[false, true].map((one) => (
            <button
              type="button"
              className="pick ps-3"
              key={String(one)}
              aria-pressed={byFile === one}
              onClick={() => look(one)}
            >
              {one ? 'File by file' : 'By pack and folder'}
            </button>
          ))}
        </div>
        {byFile && <ShowOnly action={action} onAction={setAction} />}
        <ElseWhere />
        <Search label="Search in the plan" value={search} onChange={setSearch} />
      </div>
      {byFile ? (
        <div className="fill">
          <StepRows label="Steps of the plan" query={{ view: 'plan', action, search }} />
        </div>
      ) : (
        <StepGroups label="The plan by pack and folder" />
      )}
    </>
  );
}

/** Only steps that do this. */
function ShowOnly({ action, onAction }: { action: StepAction | 'all'; onAction(action: StepAction | 'all'): void }) {
  const { plan } = useGame();
  return (
    <div className="picks" role="group" aria-label="Show only">
      {(['all', ...stepActions] as const)
        .filter((one) => one === 'all' || plan.counts[one] > 0)
        .map((one) => (
          <button
            type="button"
            className="pick ps-3"
            key={one}
            aria-pressed={action === one}
            onClick={() => onAction(one)}
          >
            {one === 'all' ? `All ${count(plan.total)}` : `${ACTION_WORDS[one].verb} ${count(plan.counts[one])}`}
          </button>
        ))}
    </div>
  );
}

/** The plan for elsewhere: to be done by hand, or to be read by other programs. */
function ElseWhere() {
  const { act, busy } = useEngine();
  const { title } = useGame();
  const savePlan = async (form: 'csv' | 'json') => {
    const text = await act((engine) => engine.ask({ ask: 'plan as text', form }));
    if (text !== undefined)
      saveFile(new Blob([text], { type: form === 'csv' ? 'text/csv' : 'application/json' }), `${title} plan.${form}`);
  };
  const byHand = async () => {
    for (const { name, blob } of (await act((engine) => engine.change({ do: 'pack by hand' }))) ?? [])
      saveFile(blob, name);
  };
  return (
    <span className="ms-auto row-of">
      <Button
        size="sm"
        variant="outline-secondary"
        disabled={busy}
        title="Two ZIPs: one to unpack over the game’s folders, one that takes it back. For folders that no program may touch."
        onClick={() => void byHand()}
      >
        Do it by hand…
      </Button>
      <Button size="sm" variant="outline-secondary" onClick={() => void savePlan('csv')}>
        Save as CSV
      </Button>
      <Button size="sm" variant="outline-secondary" onClick={() => void savePlan('json')}>
        as JSON
      </Button>
    </span>
  );
}

/** Nothing to deploy: what comes first is somewhere else. */
function NothingWaits() {
  const { packs, guide } = useGame();
  const { step, action, sentence } = guide;
  if (packs.length === 0) return <NothingYet what="Nothing is waiting to be deployed." />;
  return <NothingYet what={`Nothing is waiting to be deployed. ${sentence}`} href={`/game/${step}`} action={action} />;
}

/** The plan, step by step, and carrying it out. */
export function Deploy() {
  const { act } = useEngine();
  const { plan, ledger, guide } = useGame();
  const [result, setResult] = useState<LedgerEntry>();
  const deploy = async () => {
    setResult(undefined);
    // The browser may clear what a site keeps when the disk is full, unless it was asked not to.
    void navigator.storage?.persist?.();
    setResult(await act((engine) => engine.change({ do: 'deploy' })));
  };
  useMainAction(
    plan.total > 0 && guide.step === 'deploy' ? `Deploy ${many(plan.total, 'change')}` : undefined,
    () => void deploy(),
  );
  const latest = result ?? (plan.total === 0 ? ledger[0] : undefined);
  if (plan.total + plan.drifted.total + plan.refused.length === 0 && !latest) return <NothingWaits />;

  return (
    <>
      {latest && (plan.total === 0 || latest.leftOut) && (
        <>
          {plan.total === 0 && <h1>What landed</h1>}
          <Landed entry={latest} />
          {plan.total === 0 && (
            <StepGroups key={latest.number} label="What landed, by pack and folder" number={latest.number} />
          )}
        </>
      )}
      {plan.total > 0 && <WhatWillHappen onDeploy={() => void deploy()} />}
      {plan.drifted.total > 0 && <DriftPanel />}
      <Refused />
      {plan.total > 0 && <Steps />}
    </>
  );
}

/** The outcome of the latest deployment. */
function Landed({ entry }: { entry: LedgerEntry }) {
  const steps = Object.values(entry.counts).reduce((sum, one) => sum + one, 0);
  const seconds = entry.milliseconds / 1000;
  const { roots } = useGame();
  const left = entry.leftOut ?? [];
  return (
    <Notice
      level={left.length === 0 ? 'good' : 'wrong'}
      title={`${count(entry.landed)} of ${count(steps + left.length)} landed`}
    >
      <p>
        “{entry.title}” took {seconds < 10 ? seconds.toFixed(1) : Math.round(seconds)} seconds. Every file written was
        read back and is as it should be.{' '}
        {left.length === 0
          ? 'Nothing is waiting now.'
          : `${many(left.length, 'file was left as it was, since it', 'files were left as they were, since they')} could not be written: ${left
              .slice(0, 3)
              .map((one) => place(one, roots))
              .join(', ')}${left.length > 3 ? ' and more' : ''}. The plan still holds what is missing.`}
      </p>
    </Notice>
  );
}
