'use client';

import { useEffect, useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { oneOr, count, many } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { useAddress } from '@/ui/shared/useAddress';
import { saveFile } from '@/ui/shared/saveFile';
import { useMainAction } from '@/ui/shell/Strap';
import { Apart, Suspects } from './Apart';
import { FindingNotice } from './FindingNotice';
import { GivenLogs } from './GivenLogs';
import { Mistakes } from './Mistakes';
import type { Finding } from '@/core';
import type { CheckView } from '@/worker/contract';
import { LogPanel } from './LogPanel';
import { Replaced } from './Replaced';
import { Runs } from './Runs';

/** Findings that are shown at once. */
const SHOWN = 12;

/** The worst first; what was loaded only where there is something to load. */
function headline({ silent, loaded, counted, findings }: CheckView): string {
  if (silent) return 'The game wrote nothing';
  const wrong = findings.filter(({ level }) => level === 'wrong');
  const light = wrong.filter(({ weight }) => weight === 'light');
  const warnings = light.reduce((sum, { seen }) => sum + (seen?.length ?? 1), 0);
  const worst = wrong.length > light.length ? `${many(wrong.length - light.length, 'thing')} to put right` : '';
  const warned = warnings > 0 ? `${many(warnings, 'warning')} without a cure` : '';
  const well = loaded === undefined || counted === 0 ? '' : `${count(loaded)} of ${count(counted)} loaded`;
  return (
    [worst, warned, well].filter(Boolean).join(' · ') || (loaded === undefined ? 'Does it load?' : 'Nothing to load')
  );
}

/** Whether an address means this finding, or one that is folded into it. */
const isMeant = ({ id, seen }: Finding, wanted: string): boolean =>
  id === wanted || (seen?.some((one) => one.id === wanted) ?? false);

/** What to do, or what is shown, in a sentence. */
function underneath({ canTry, log, silent, fresh }: CheckView, title: string): string {
  if (!canTry)
    return log
      ? `Start ${title} yourself, then look at its log here.`
      : `Start ${title} yourself and come back. The app knows no log of it yet: it looks for one then. You can also drop a log below.`;
  if (silent) return 'It ended before it could write its log. Look below for who is to blame.';
  if (fresh) return 'What the game wrote into its log, against what is deployed.';
  return log
    ? 'The log is from before the latest deployment. Do a trial run to see how it is now.'
    : 'The trial run starts the built-in stand-in for the game: it loads the folders by the game’s own rules and writes its log.';
}

/** How it stands, with the way to a new look and to a report of it. */
function CheckHead() {
  const { act, busy } = useEngine();
  const { check, guide, title } = useGame();
  const tried = check.fresh || check.silent;
  const run = () => void act((engine) => engine.change({ do: 'trial run' }));
  const again = tried ? 'Trial run again' : 'Trial run';
  useMainAction(check.canTry && guide.step === 'check' ? again : undefined, run);
  const report = async () => {
    const text = await act((engine) => engine.ask({ ask: 'report' }));
    if (text !== undefined)
      saveFile(new Blob([text], { type: 'text/markdown' }), `${title.replace(/[<>:"/\\|?*]+/g, ' ')} report.md`);
  };
  return (
    <section className="sheet row-of">
      <div className="grow">
        <h1>{headline(check)}</h1>
        <p className="m-0 quiet">{underneath(check, title)}</p>
      </div>
      <Button variant="outline-secondary" disabled={busy} onClick={() => void report()}>
        Save a report
      </Button>
      {check.canTry ? (
        <Button variant={tried ? 'outline-primary' : 'primary'} disabled={busy} onClick={run}>
          Trial run
        </Button>
      ) : (
        <Button
          variant="outline-primary"
          disabled={busy}
          onClick={() => void act((engine) => engine.change({ do: 'look again' }))}
        >
          Read the log again
        </Button>
      )}
    </section>
  );
}

/** The findings, the first few of them at first; the one that the address means has the focus. */
function Findings() {
  const { check, deployed } = useGame();
  const { findings } = check;
  const [all, setAll] = useState(false);
  const wanted = useAddress().at('finding');
  const shown = all || wanted !== undefined ? findings : findings.slice(0, SHOWN);
  const meant = wanted === undefined ? undefined : findings.find((one) => isMeant(one, wanted))?.id;
  useEffect(() => {
    if (meant !== undefined) document.getElementById(meant)?.focus();
  }, [meant]);
  return (
    <>
      {wanted !== undefined && meant === undefined && (
        <Notice level="note" title="What this address leads to is not found any more.">
          <p>It was put right, or set aside.</p>
        </Notice>
      )}
      {shown.map((finding) => (
        <FindingNotice key={finding.id} finding={finding} canSetAside />
      ))}
      {findings.length > shown.length && (
        <Button variant="link" size="sm" className="align-self-start p-0" onClick={() => setAll(true)}>
          Show {count(findings.length - shown.length)} more
        </Button>
      )}
      {findings.length === 0 && (
        <Notice
          level="note"
          title={deployed.packs === 0 ? 'No pack is in the game now, and nothing is wrong.' : 'Nothing wrong is known.'}
        >
          <p>{check.fresh || !check.canTry ? '' : 'A trial run tells more.'}</p>
        </Notice>
      )}
    </>
  );
}

/** Start the game, read its log, say what is wrong and offer the cure. */
export function Check() {
  const { check } = useGame();
  const { apart } = check;

  return (
    <>
      <CheckHead />
      {apart && <Apart apart={apart} />}
      <Findings />
      <Aside />
      <Runs />
      <Replaced />
      {!apart && <Suspects />}
      {check.log && <LogPanel log={check.log} old={!check.fresh} />}
      <GivenLogs />
      <Mistakes />
    </>
  );
}

/** What was set aside as harmless, counted. */
function Aside() {
  const { check } = useGame();
  const { act, busy } = useEngine();
  if (check.aside.length === 0) return null;
  return (
    <details className="sheet">
      <summary>
        {oneOr(
          check.aside.length,
          'One finding is set aside as harmless',
          `${check.aside.length} findings are set aside as harmless`,
        )}
      </summary>
      <ul className="reasons mt-2">
        {check.aside.map(({ id, says, note }) => (
          <li key={id} className="between">
            <span>
              {says} {note !== '' && <span className="small quiet">{note}</span>}
            </span>
            <Button
              size="sm"
              variant="outline-secondary"
              className="py-0"
              disabled={busy}
              aria-label={`Take up ${says} again`}
              onClick={() => void act((engine) => engine.change({ do: 'take up', id }))}
            >
              Take it up again
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
