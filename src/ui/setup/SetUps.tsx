'use client';

import { useEffect, useState } from 'react';
import { PlanFigures } from '@/ui/deploy/PlanFigures';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many, moment } from '@/ui/shared/format';
import { NameForm } from '@/ui/shared/NameForm';
import { Notice } from '@/ui/shared/Notice';
import { useFollow } from '@/ui/shared/useFollow';
import type { PlanView, SetUpView, WayRef } from '@/worker/contract';
import { CompareWays } from './CompareWays';
import { KitSheet } from './KitSheet';

/** Ways to play, each under its name: kept, compared, and taken again. */
export function SetUps() {
  const { engine, snapshot } = useEngine();
  const [setUps, setSetUps] = useState<SetUpView[]>();
  const revision = snapshot?.revision;
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'set-ups' }).then((found) => current && setSetUps(found));
    return () => {
      current = false;
    };
  }, [engine, revision]);
  if (!setUps) return null;
  return (
    <>
      <Keep />
      {setUps.length === 0 ? (
        <Notice level="note" title="No set-up is kept yet.">
          <p>Keep how things are now before you try something: one click brings all of it back.</p>
        </Notice>
      ) : (
        <section className="sheet stackup" aria-label="Your set-ups">
          {setUps.map((one) => (
            <Row key={one.id} setUp={one} />
          ))}
        </section>
      )}
      {setUps.length > 0 && <CompareWays setUps={setUps} />}
      <KitSheet />
    </>
  );
}

/** Keeps how things are decided now, or were at a deployment. */
function Keep() {
  const [of, setOf] = useState('now');
  const way: WayRef = of === 'now' ? 'now' : { deployment: Number(of) };
  return (
    <section className="sheet stackup" aria-label="Keep a set-up">
      <div>
        <h1>Set-ups</h1>
        <p className="m-0 quiet">
          A set-up is a way to play: which packs are in, where they go, their order, what is merged and chosen, and your
          settings. Keeping one or taking one writes nothing to the game before you deploy.
        </p>
      </div>
      <NameForm
        label="Name of the set-up"
        placeholder="The way I play alone"
        button="Keep it under this name"
        between={<WhichState value={of} onChange={setOf} />}
        onName={(engine, name) => engine.change({ do: 'keep set-up', name, of: way })}
      />
    </section>
  );
}

function WhichState({ value, onChange }: { value: string; onChange(value: string): void }) {
  const { ledger, states, packs } = useGame();
  return (
    <Form.Select
      size="sm"
      className="w-auto"
      aria-label="Which state"
      value={value}
      onChange={(event) => onChange(event.target.value)}
    >
      <option value="now">as it is now, {many(packs.filter(({ on }) => on).length, 'pack')} in use</option>
      {ledger
        .filter(({ number }) => states.includes(number))
        .map(({ number, title, at }) => (
          <option key={number} value={number}>
            as after {number}. {title}, {moment(at)}
          </option>
        ))}
    </Form.Select>
  );
}

function Row({ setUp }: { setUp: SetUpView }) {
  const { engine, act, busy } = useEngine();
  const [plan, setPlan] = useState<PlanView>();
  const [renaming, setRenaming] = useState(false);
  const [gone, setGone] = useState<string[]>([]);
  const { id, name, current } = setUp;
  const look = async () => setPlan(plan ? undefined : await engine?.ask({ ask: 'plan of way', of: { setUp: id } }));
  return (
    <div className="slab flex-wrap" role="group" aria-label={`Set-up ${name}`}>
      <Called setUp={setUp} renaming={renaming} onDone={() => setRenaming(false)} />
      <Button size="sm" disabled={busy || current} aria-expanded={plan !== undefined} onClick={() => void look()}>
        {plan ? 'Hide what it would do' : 'Show what it would do'}
      </Button>
      <Button size="sm" variant="outline-secondary" onClick={() => setRenaming(!renaming)}>
        {renaming ? 'Leave the name' : 'Rename'}
      </Button>
      <Button
        size="sm"
        variant="outline-secondary"
        disabled={busy}
        onClick={() =>
          void act((one) => one.change({ do: 'keep set-up', name: `${name.slice(0, 70)}, copy`, of: { setUp: id } }))
        }
      >
        Copy
      </Button>
      <Button
        size="sm"
        variant="outline-danger"
        disabled={busy}
        onClick={() => void act((one) => one.change({ do: 'remove set-up', id }))}
      >
        Remove
      </Button>
      {gone.length > 0 && (
        <p className="m-0 w-100" role="status">
          Taken, but for packs that are not at hand any more: {gone.join(', ')}. Bring them in again.
        </p>
      )}
      {plan && !current && <WhatItDoes setUp={setUp} plan={plan} onGone={setGone} />}
    </div>
  );
}

/** What a set-up is called, or the name that it is given now. */
function Called({
  setUp: { id, name, at, packs, current },
  renaming,
  onDone,
}: {
  setUp: SetUpView;
  renaming: boolean;
  onDone(): void;
}) {
  return (
    <div className="grow">
      {renaming ? (
        <NameForm
          label={`Another name for ${name}`}
          button="Call it so"
          initial={name}
          onName={(one, other) => one.change({ do: 'rename set-up', id, name: other })}
          onDone={onDone}
        />
      ) : (
        <>
          <strong>{name}</strong>{' '}
          <span className="small quiet">
            {many(packs, 'pack')} in use, kept {moment(at)}
            {current ? ', as it is now' : ''}
          </span>
        </>
      )}
    </div>
  );
}

/** The plan of a set-up, and taking it. */
function WhatItDoes({
  setUp: { id, name },
  plan,
  onGone,
}: {
  setUp: SetUpView;
  plan: PlanView;
  onGone(names: string[]): void;
}) {
  const { act, busy } = useEngine();
  const follow = useFollow();
  const take = async () => {
    const follows = follow('/game/deploy');
    const missing = await act((one) => one.change({ do: 'take set-up', id }));
    if (missing?.length === 0) follows();
    else if (missing) onGone(missing);
  };
  return (
    <div className="w-100 stackup">
      <PlanFigures plan={plan} />
      <div className="row-of">
        <Button disabled={busy} onClick={() => void take()}>
          Take “{name}” and look at the plan
        </Button>
        <span className="small quiet">
          {plan.total === 0
            ? 'The game’s folders are as this set-up wants them.'
            : 'One deployment makes it so. How things are now can be brought back with Undo.'}
        </span>
      </div>
    </div>
  );
}
