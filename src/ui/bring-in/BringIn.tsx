'use client';

import Link from 'next/link';
import { useRef, useState } from 'react';
import type { ArchivePart, Failure } from '@/core';
import { useChosenPack, useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { oneOr, count, many } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { PackPicker } from '@/ui/shared/PackPicker';
import { useMainAction } from '@/ui/shell/Strap';
import type { Brought, Intake } from '@/worker/contract';
import type { EngineRemote } from '@/worker/contract/connect';
import { Download } from './Download';
import { DropPlace } from './DropPlace';
import { FromDownloads } from './FromDownloads';
import { HowItGoes } from './HowItGoes';
import { PasswordForm } from './PasswordForm';
import { Shelf } from './Shelf';
import { Waiting } from './Waiting';

type Bring = (engine: EngineRemote, password?: string) => Promise<Intake>;

type Run = (bring: Bring, password?: string, names?: string[]) => Promise<void>;
type Earlier = { layer: string; earlier: NonNullable<Brought['earlier']> };

/** What a download that comes in asks first, and what came of the latest. */
interface Asked {
  locked?: { bring: Bring; failure: Failure };
  copying?: { failure: Failure; names: string[] };
  earlier?: Earlier;
  came?: Intake;
}

/** Brings in what is given, chooses what came last, and keeps what came of it and what it asks. */
function useBringing(): { run: Run; asked: Asked; settle(what: keyof Asked): void } {
  const { act } = useEngine();
  const { choose } = useChosenPack();
  const [asked, setAsked] = useState<Asked>({});
  const settle = (what: keyof Asked) => setAsked((before) => ({ ...before, [what]: undefined }));
  const run: Run = async (bring, password, names = []) => {
    setAsked({});
    const intake = await act(
      (engine) => bring(engine, password),
      (failure) => {
        if (failure.code === 'needs-copy') {
          setAsked({ copying: { failure, names } });
          return true;
        }
        if (failure.code !== 'encrypted' && failure.code !== 'wrong-password') return false;
        setAsked({ locked: { bring, failure } });
        return true;
      },
    );
    if (!intake) return;
    const came = intake.brought.length + intake.refused.length > 1 ? intake : undefined;
    const last = intake.brought.at(-1);
    setAsked({ came, earlier: last?.earlier && { layer: last.layer, earlier: last.earlier } });
    if (last) choose(last.layer);
  };
  return { run, asked, settle };
}

/** Bring in a pack and look into it. */
export function BringIn() {
  const game = useGame();
  const input = useRef<HTMLInputElement>(null);
  useMainAction(game.guide.step === 'bring-in' ? 'Choose a download' : undefined, () => input.current?.click());
  const { run, asked, settle } = useBringing();
  const { locked, copying, earlier, came } = asked;

  return (
    <div className="columns fill">
      <div className="stackup">
        <DropPlace
          input={input}
          onFiles={(files: ArchivePart[]) =>
            void run((engine, password) => engine.change({ do: 'bring in', files, password }))
          }
        />
        <Waiting />
        {!game.demo && (
          <FromDownloads
            asking={copying}
            onAnswer={() => settle('copying')}
            onTake={(names, copy) =>
              void run(
                (engine, password) => engine.change({ do: 'take downloads', names, password, copy }),
                undefined,
                names,
              )
            }
          />
        )}
        {game.demo && (
          <Shelf
            onTake={(file) => void run((engine, password) => engine.change({ do: 'fetch from shelf', file, password }))}
          />
        )}
      </div>
      <div className="stackup">
        {locked && (
          <PasswordForm
            failure={locked.failure}
            onPassword={(password) => void run(locked.bring, password)}
            onGiveUp={() => settle('locked')}
          />
        )}
        {came && <WhatCame came={came} onDismiss={() => settle('came')} />}
        {earlier && <EarlierOne of={earlier} onDone={() => settle('earlier')} />}
        <ChosenPack onRun={(bring) => void run(bring)} />
      </div>
    </div>
  );
}

/** Where another version of the pack is here already: the new one can take its place. */
function EarlierOne({ of: { layer, earlier }, onDone }: { of: Earlier; onDone(): void }) {
  const { act, busy } = useEngine();
  const replace = async () => {
    await act((engine) => engine.change({ do: 'replace release', layer, earlier: earlier.layer }));
    onDone();
  };
  return (
    <Notice
      level="note"
      title={`This looks like ${earlier.newer ? 'a newer' : 'another'} version of “${earlier.name}”${earlier.versions ? ` (${earlier.versions})` : ''}.`}
      onDismiss={onDone}
      action={
        <Button size="sm" disabled={busy} onClick={() => void replace()}>
          Put it in its place
        </Button>
      }
    >
      <p>Your decisions about the earlier one are kept: its place, what you left out, its answers.</p>
    </Notice>
  );
}

/** The pack that is looked into; where there is none yet, how it all goes. */
function ChosenPack({ onRun }: { onRun(bring: Bring): void }) {
  const { title } = useGame();
  const { pack } = useChosenPack();
  if (!pack) return <HowItGoes title={title} />;
  const { layer } = pack;
  return (
    <>
      <PackPicker />
      <Download
        pack={pack}
        key={layer}
        onOpenInside={(path) => onRun((engine) => engine.change({ do: 'open inside', layer, path }))}
      />
    </>
  );
}

/** What came of each that came in: those whose place is to be said first. */
function WhatCameOf({ brought }: { brought: Intake['brought'] }) {
  const { packs } = useGame();
  const here = brought.flatMap(({ layer }) => packs.find((pack) => pack.layer === layer) ?? []);
  const asks = here.filter(({ placement }) => placement.confidence === 'ask');
  if (here.length === 0) return null;
  return (
    <>
      {asks.length > 0 && (
        <p>
          The place of {oneOr(asks.length, 'one of them', `${count(asks.length)} of them`)} is to be said, in{' '}
          <Link href="/game/place">Place</Link>.
        </p>
      )}
      <details className="small">
        <summary>What came of each</summary>
        <ul className="m-0 ps-3 scrolls" tabIndex={0} aria-label="What came of each">
          {[...asks, ...here.filter((pack) => !asks.includes(pack))].map(({ layer, name, placement }) => (
            <li key={layer}>
              <strong>{name}</strong>:{' '}
              {placement.confidence === 'ask'
                ? 'its place is to be said'
                : `${many(placement.placed, 'file')} ${oneOr(placement.placed, 'goes', 'go')} into the game${placement.edits > 0 ? `, ${many(placement.edits, 'value')} of settings` : ''}`}
              {placement.leftOut > 0 && `, ${many(placement.leftOut, 'file')} left out`}
            </li>
          ))}
        </ul>
      </details>
    </>
  );
}

/** Of many downloads: how many came in, and each that did not, with the reason. */
function WhatCame({ came: { brought, refused }, onDismiss }: { came: Intake; onDismiss(): void }) {
  const known = brought.filter((one) => one.known).length;
  const fresh = brought.length - known;
  return (
    <Notice
      level={refused.length > 0 ? 'wrong' : 'good'}
      title={`${many(fresh, 'pack')} came in${refused.length > 0 ? `, ${many(refused.length, 'download')} did not` : ''}.`}
      onDismiss={onDismiss}
    >
      <WhatCameOf brought={brought} />
      {known > 0 && <p>{oneOr(known, 'One was here already.', `${count(known)} were here already.`)}</p>}
      {refused.length > 0 && (
        <ul className="m-0 ps-3 scrolls" tabIndex={0} aria-label="What did not come in">
          {refused.map(({ name, failure }) => (
            <li key={name}>
              <strong>{name}</strong>: {failure.says} {failure.next}
            </li>
          ))}
        </ul>
      )}
    </Notice>
  );
}
