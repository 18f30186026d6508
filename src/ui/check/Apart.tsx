'use client';

import { useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { oneOr, many } from '@/ui/shared/format';
import type { ApartView } from '@/worker/contract';

const names = (packs: readonly { name: string }[]): string =>
  packs.length === 0 ? 'none' : packs.map(({ name }) => `“${name}”`).join(', ');

/** Where no line tells what is wrong: half of the packs at a time, or one alone. */
export function Suspects() {
  const { packs } = useGame();
  const { act, busy } = useEngine();
  const used = packs.filter(({ on }) => on);
  const [alone, setAlone] = useState('');
  if (used.length === 0) return null;
  const starts = Math.max(1, Math.ceil(Math.log2(used.length)) * 2 + 2);
  return (
    <details className="sheet">
      <summary>No line says what is wrong? Find out by trying…</summary>
      <div className="stackup mt-2">
        <div className="between">
          <span>
            <strong>By halves.</strong> The app puts half of your {many(used.length, 'pack')} in, you start the game and
            say whether it still fails. The culprit, or the pair that only fails together, is found in about {starts}{' '}
            starts or fewer; then all is as it was.
          </span>
          <Button
            size="sm"
            variant="outline-primary"
            disabled={busy || used.length < 2}
            onClick={() => void act((engine) => engine.change({ do: 'halve' }))}
          >
            Find it by halves
          </Button>
        </div>
        <div className="between">
          <span>
            <strong>One alone.</strong> Only one pack and what it says it needs: does it lean on something that happens
            to lie in the folder?
          </span>
          <span className="row-of">
            <Form.Select
              size="sm"
              style={{ width: 'auto' }}
              aria-label="The pack to try alone"
              value={alone}
              onChange={(event) => setAlone(event.target.value)}
            >
              <option value="">Choose a pack</option>
              {used.map(({ layer, name }) => (
                <option key={layer} value={layer}>
                  {name}
                </option>
              ))}
            </Form.Select>
            <Button
              size="sm"
              variant="outline-primary"
              disabled={busy || alone === ''}
              onClick={() => void act((engine) => engine.change({ do: 'try alone', layer: alone }))}
            >
              Try it alone
            </Button>
          </span>
        </div>
      </div>
    </details>
  );
}

/** What is tried now, or what came out. */
function standing({ why, on, starts, step, culprits }: ApartView): string {
  if (why === 'alone') return `Only ${names(on)} ${oneOr(on.length, 'is', 'are')} to be in the game`;
  if (step?.next === 'try') return `Start ${starts + 1}: ${many(on.length, 'pack')} of the suspects`;
  if (step?.next === 'found')
    return `${oneOr(culprits.length, 'It is', 'They only fail together:')} ${names(culprits)}`;
  if (step?.next === 'more') return `More than two of these must be in for it to fail: ${names(culprits)}`;
  if (step?.next === 'none' && step.why === 'works with all')
    return 'With all of them it works: none of them is to blame now';
  return 'It fails without any of them: the packs are not to blame';
}

/** What is in the game for this try, and the button that puts it there. */
function PutIn({ apart: { on, pending, why, step } }: { apart: ApartView }) {
  const { act, busy } = useEngine();
  const { check } = useGame();
  const put = () =>
    void act(async (engine) => {
      await engine.change({ do: 'deploy' });
      if (check.canTry) await engine.change({ do: 'trial run' });
    });
  return (
    <>
      <span>
        In it: {names(on)}. {pending ? 'First put them in.' : 'They are in the game now.'}{' '}
        {why === 'halving' && step?.next === 'try' && `${many(step.left, 'suspect')} left.`}
      </span>
      {pending && (
        <Button size="sm" className="align-self-start" disabled={busy} onClick={() => put()}>
          {check.canTry ? 'Put them in and do a trial run' : 'Put them in'}
        </Button>
      )}
    </>
  );
}

/** The one question: whether it still fails. */
function StillFails() {
  const { act, busy } = useEngine();
  const { check } = useGame();
  return (
    <span className="row-of">
      <span>
        {check.canTry
          ? check.silent
            ? 'The trial run ended without a line.'
            : 'The trial run wrote its log.'
          : 'Start the game now.'}{' '}
        Does it still fail?
      </span>
      <Button
        size="sm"
        disabled={busy}
        onClick={() => void act((engine) => engine.change({ do: 'answer halving', failed: true }))}
      >
        It still fails
      </Button>
      <Button
        size="sm"
        variant="outline-primary"
        disabled={busy}
        onClick={() => void act((engine) => engine.change({ do: 'answer halving', failed: false }))}
      >
        It works
      </Button>
    </span>
  );
}

/** The search under way: what is in now, and the one question. */
export function Apart({ apart }: { apart: ApartView }) {
  const { act, busy } = useEngine();
  const { check } = useGame();
  const { step, culprits, pending, why } = apart;
  const end = (without: string[]) => void act((engine) => engine.change({ do: 'end apart', without }));
  const asking = why === 'alone' || step?.next === 'try';
  return (
    <section className="notice note" aria-label="Finding the culprit">
      <div className="grow stackup" style={{ gap: '0.4rem' }}>
        <strong role="status">{standing(apart)}</strong>
        {asking && <PutIn apart={apart} />}
        {asking && !pending && why === 'halving' && <StillFails />}
        {why === 'alone' && !pending && (
          <span>
            {check.silent
              ? 'The game ended without a line.'
              : 'Look at the findings below: what is named there, the pack does not bring itself.'}
          </span>
        )}
        <span className="row-of">
          {culprits.length > 0 && step?.next === 'found' && (
            <Button size="sm" disabled={busy} onClick={() => end(culprits.slice(-1).map(({ layer }) => layer))}>
              Take “{culprits.at(-1)?.name}” out, and put the others back
            </Button>
          )}
          <Button size="sm" variant="outline-secondary" disabled={busy} onClick={() => end([])}>
            {asking ? 'Stop, and put all packs back' : 'Put all packs back as they were'}
          </Button>
        </span>
      </div>
    </section>
  );
}
