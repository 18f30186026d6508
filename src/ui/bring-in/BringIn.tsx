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

/** Bring in a pack and look into it. */
export function BringIn() {
  const game = useGame();
  const { act, busy } = useEngine();
  const { pack, choose } = useChosenPack();
  const input = useRef<HTMLInputElement>(null);
  const [locked, setLocked] = useState<{ bring: Bring; failure: Failure }>();
  const [came, setCame] = useState<Intake>();
  const [earlier, setEarlier] = useState<{ layer: string; earlier: NonNullable<Brought['earlier']> }>();
  useMainAction(game.guide.step === 'bring-in' ? 'Choose a download' : undefined, () => input.current?.click());

  const [copying, setCopying] = useState<{ failure: Failure; names: string[] }>();
  const run = async (bring: Bring, password?: string, names: string[] = []) => {
    setLocked(undefined);
    setEarlier(undefined);
    setCame(undefined);
    const intake = await act(
      (engine) => bring(engine, password),
      (failure) => {
        if (failure.code === 'needs-copy') {
          setCopying({ failure, names });
          return true;
        }
        if (failure.code !== 'encrypted' && failure.code !== 'wrong-password') return false;
        setLocked({ bring, failure });
        return true;
      },
    );
    if (intake && intake.brought.length + intake.refused.length > 1) setCame(intake);
    const last = intake?.brought.at(-1);
    if (!last) return;
    choose(last.layer);
    if (last.earlier) setEarlier({ layer: last.layer, earlier: last.earlier });
  };
  const replace = async () => {
    if (!earlier) return;
    await act((engine) =>
      engine.change({ do: 'replace release', layer: earlier.layer, earlier: earlier.earlier.layer }),
    );
    setEarlier(undefined);
  };

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
            onAnswer={() => setCopying(undefined)}
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
            onGiveUp={() => setLocked(undefined)}
          />
        )}
        {came && <WhatCame came={came} onDismiss={() => setCame(undefined)} />}
        {earlier && (
          <Notice
            level="note"
            title={`This looks like ${earlier.earlier.newer ? 'a newer' : 'another'} version of “${earlier.earlier.name}”${earlier.earlier.versions ? ` (${earlier.earlier.versions})` : ''}.`}
            onDismiss={() => setEarlier(undefined)}
            action={
              <Button size="sm" disabled={busy} onClick={() => void replace()}>
                Put it in its place
              </Button>
            }
          >
            <p>Your decisions about the earlier one are kept: its place, what you left out, its answers.</p>
          </Notice>
        )}
        {pack ? (
          <>
            <PackPicker />
            <Download
              pack={pack}
              key={pack.layer}
              onOpenInside={(path) =>
                void run((engine) => engine.change({ do: 'open inside', layer: pack.layer, path }))
              }
            />
          </>
        ) : (
          <HowItGoes title={game.title} />
        )}
      </div>
    </div>
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
