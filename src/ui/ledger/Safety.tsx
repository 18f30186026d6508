'use client';

import Link from 'next/link';
import { useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import type { Mishap } from '@/core';
import { Button } from '@/ui/shared/controls';
import { oneOr, count, many, moment, place, size } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { usePickFolder } from '@/ui/shared/usePickFolder';

/** Where the originals lie, and a look at whether everything deployed is as it was written. */
export function Safety() {
  const { act, busy } = useEngine();
  const { safety, deployed } = useGame();
  const { supported, pick } = usePickFolder('backup');
  const [said, setSaid] = useState<string>();
  const choose = async () => {
    const handle = await act(() => pick());
    if (handle) setSaid(await act((engine) => engine.change({ do: 'set backup folder', handle })));
  };
  const check = async () => setSaid(await act((engine) => engine.change({ do: 'check deployed' })));
  const where =
    safety.place === 'disk'
      ? 'on your disk, beside what the app remembers'
      : safety.backup !== undefined
        ? 'in this browser, and as plain files in the backup folder'
        : 'in this browser only';
  return (
    <section className="sheet stackup" aria-label="Where the originals are">
      <div className="row-of">
        <p className="m-0 grow">
          The originals are kept {where}
          {safety.backup !== undefined && (
            <>
              {' '}
              (<span className="path">{safety.backup}</span>)
            </>
          )}
          . {safety.room && `Room left there: ${size(safety.room.left)}. `}
          <Link href="/game/storage">What takes how much room</Link>{' '}
          {safety.place !== 'disk' &&
            (safety.persisted
              ? 'The browser has promised not to clear them by itself.'
              : 'The browser may clear them when the disk is full.')}
        </p>
        {safety.place === 'browser' && supported && (
          <Button size="sm" variant="outline-secondary" disabled={busy} onClick={() => void choose()}>
            {safety.backup === undefined ? 'Choose a backup folder' : 'Choose another folder'}
          </Button>
        )}
        <Button
          size="sm"
          variant="outline-secondary"
          disabled={busy || deployed.files === 0}
          title="Reads every deployed file and compares its checksum, which also finds changes that hide behind the same size and date."
          onClick={() => void check()}
        >
          Check every deployed file
        </Button>
      </div>
      <Decisions />
      <Copies />
      {said !== undefined && (
        <p className="m-0 small" role="status">
          {said}
        </p>
      )}
    </section>
  );
}

/** Where what the player decided is kept. */
function Decisions() {
  const { safety, keptAt } = useGame();
  return (
    <p className="m-0 small">
      {keptAt === undefined
        ? safety.backup === undefined
          ? 'What you decided (packs, order, choices, settings) is in this browser only. With a backup folder it is written there, too.'
          : 'What you decided will be written beside the originals with your next change.'
        : `What you decided is written beside the originals, too, last on ${moment(keptAt)}: another browser goes on from there.`}
    </p>
  );
}

const MISHAPS: Record<Mishap['what'], { level: 'wrong' | 'note'; title(files: number): string; means: string }> = {
  lost: {
    level: 'wrong',
    title: (files) =>
      `${many(files, 'kept original')} cannot be put back: ${oneOr(files, 'it is', 'they are')} damaged, and there is no good copy.`,
    means: 'Everything else goes back. Take these from the game’s installer or its own repair.',
  },
  healed: {
    level: 'note',
    title: (files) =>
      `${many(files, 'damaged copy', 'damaged copies')} of originals ${oneOr(files, 'was', 'were')} made anew from the good one.`,
    means: 'Nothing is lost. If it happens again, the disk may be failing.',
  },
  late: {
    level: 'note',
    title: (files) =>
      `A program went on writing to ${many(files, 'file')} after a pack had taken ${oneOr(files, 'its', 'their')} place.`,
    means: 'What it wrote is kept beside the originals. Close the game before you deploy.',
  },
};

/** Until when every original has its plain copy, and what was found about them. */
function Copies() {
  const { safety, ledger, roots } = useGame();
  const { progress, copiedThrough, readAt, mishaps } = safety.copies;
  const latest = ledger[0]?.number ?? 0;
  return (
    <>
      {progress && (
        <p className="m-0 small quiet" role="status">
          {progress.phase}: {count(progress.done)} of {count(progress.total)}
        </p>
      )}
      {latest > 0 && (
        <p className="m-0 small quiet">
          {safety.backup !== undefined &&
            (copiedThrough >= latest
              ? `Every original has its plain copy, up to deployment ${latest}. `
              : `Plain copies are complete up to deployment ${copiedThrough}; the rest is made while nothing else is going on. `)}
          {readAt > 0 && `All originals were read again and checked on ${moment(readAt)}.`}
        </p>
      )}
      {(['lost', 'late', 'healed'] as const).map((what) => {
        const found = mishaps.filter((one) => one.what === what);
        const { level, title, means } = MISHAPS[what];
        return (
          found.length > 0 && (
            <Notice key={what} level={level} title={title(found.length)}>
              <p className="m-0">{means}</p>
              <p className="m-0 path small">
                {found
                  .slice(0, 20)
                  .map(({ target }) => place(target, roots))
                  .join(', ')}
                {found.length > 20 && ` and ${count(found.length - 20)} more`}
              </p>
            </Notice>
          )
        );
      })}
    </>
  );
}
