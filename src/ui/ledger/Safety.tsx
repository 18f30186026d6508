'use client';

import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useEngine, useGame } from '@/ui/engine';
import { size } from '@/ui/shared/format';
import { usePickFolder } from '@/ui/shared/usePickFolder';

/** Where the originals lie, and a look at whether everything deployed is as it was written. */
export function Safety() {
  const { act, busy } = useEngine();
  const { safety, deployed } = useGame();
  const { supported, pick } = usePickFolder('backup');
  const [said, setSaid] = useState<string>();
  const choose = async () => {
    const handle = await act(() => pick());
    if (handle) setSaid(await act((engine) => engine.setBackupFolder(handle)));
  };
  const check = async () => setSaid(await act((engine) => engine.keepSafe({ do: 'check deployed' })));
  const where = safety.place === 'disk' ? 'on your disk, beside what the app remembers' : safety.backup !== undefined ? 'in this browser, and as plain files in the backup folder' : 'in this browser only';
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
          {safety.place !== 'disk' && (safety.persisted ? 'The browser has promised not to clear them by itself.' : 'The browser may clear them when the disk is full.')}
        </p>
        {safety.place === 'browser' && supported && (
          <Button size="sm" variant="outline-secondary" disabled={busy} onClick={() => void choose()}>
            {safety.backup === undefined ? 'Choose a backup folder' : 'Choose another folder'}
          </Button>
        )}
        <Button size="sm" variant="outline-secondary" disabled={busy || deployed.files === 0} title="Reads every deployed file and compares its checksum, which also finds changes that hide behind the same size and date." onClick={() => void check()}>
          Check every deployed file
        </Button>
      </div>
      {said !== undefined && (
        <p className="m-0 small" role="status">
          {said}
        </p>
      )}
    </section>
  );
}
