'use client';

import { useRouter } from 'next/navigation';
import { Button } from 'react-bootstrap';
import type { Finding } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { count, many, place } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { useMainAction } from '@/ui/shell/Strap';

/** Start the game, read its log, say what is wrong and offer the cure. */
export function Check() {
  const { act, busy } = useEngine();
  const { check, deployed, guide, title, roots } = useGame();
  const run = () => void act((engine) => engine.trialRun());
  useMainAction(check.canTry && guide.step === 'check' ? (check.fresh ? 'Trial run again' : 'Trial run') : undefined, run);
  const { loaded, counted } = check;

  return (
    <>
      <section className="sheet row-of">
        <div className="grow">
          <h1>{loaded === undefined ? 'Does it load?' : `${count(loaded)} of ${count(counted)} loaded`}</h1>
          <p className="m-0 quiet">
            {!check.canTry
              ? `Start ${title} yourself; the app cannot read its log yet.`
              : check.fresh
                ? 'The number is what the game wrote into its log, against what is deployed.'
                : check.log
                  ? 'The log is from before the latest deployment. Do a trial run to see how it is now.'
                  : 'The trial run starts the built-in stand-in for the game: it loads the folders by the game’s own rules and writes its log.'}
          </p>
        </div>
        {check.canTry && (
          <Button variant={check.fresh ? 'outline-primary' : 'primary'} disabled={busy} onClick={run}>
            Trial run
          </Button>
        )}
      </section>
      {check.findings.map((finding) => (
        <FindingNotice key={finding.id} finding={finding} />
      ))}
      {check.findings.length === 0 && (
        <Notice level="note" title={deployed.packs === 0 ? 'No pack is in the game now, and nothing is wrong.' : 'Nothing wrong is known.'}>
          <p>{check.fresh || !check.canTry ? '' : 'A trial run tells more.'}</p>
        </Notice>
      )}
      {check.log && (
        <section className="sheet stackup fill" aria-label="Log">
          <div className="between">
            <h2>What the game wrote</h2>
            <span className="quiet small">
              <span className="path">{place(check.log.target, roots)}</span>, {many(check.log.lines, 'line')}, {many(check.log.events.length, 'line')} understood
              {!check.fresh && ', from before the latest deployment'}
            </span>
          </div>
          <pre className="log grow" tabIndex={0}>
            {check.log.text}
          </pre>
        </section>
      )}
    </>
  );
}

function FindingNotice({ finding }: { finding: Finding }) {
  const { act, busy } = useEngine();
  const { switches } = useGame();
  const router = useRouter();
  const { fix } = finding;
  const pending = fix?.kind === 'edit' && switches.some((one) => one.pending && one.file === fix.file && one.path.join('\n') === fix.edit.path.join('\n'));
  const apply = async () => {
    if (fix?.kind === 'edit') await act((engine) => engine.setEdit(fix.file, fix.edit.path, fix.edit.value));
    router.push('/game/deploy');
  };
  return (
    <Notice
      level={finding.level}
      title={finding.title}
      action={
        fix && (
          <Button size="sm" variant={finding.level === 'wrong' ? 'primary' : 'outline-primary'} disabled={busy} onClick={() => void apply()}>
            {pending ? 'Look at the plan' : fix.label}
          </Button>
        )
      }
    >
      <p>{pending ? 'Its edit waits in the plan.' : finding.cause}</p>
      <p className="small quiet">{finding.evidence}</p>
    </Notice>
  );
}
