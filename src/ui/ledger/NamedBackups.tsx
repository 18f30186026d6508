'use client';

import { useState } from 'react';
import type { BackupComparison } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { useEscape } from '@/ui/shared/useEscape';
import { many, moment, place } from '@/ui/shared/format';

const SAYS: Record<BackupComparison['now'], string> = {
  same: 'as in the backup',
  changed: 'has changed since',
  gone: 'is not there any more',
};

/** Chosen files under a name of the player's: made, compared, restored. */
export function NamedBackups() {
  const { busy } = useEngine();
  const { backups, settings } = useGame();
  const [making, setMaking] = useState(false);
  useEscape(making ? () => setMaking(false) : undefined);
  return (
    <section className="sheet stackup" aria-label="Backups with a name">
      <div className="between">
        <div>
          <h2>Backups with a name</h2>
          <p className="m-0 quiet small">
            A copy of chosen files before you try something, for instance of the settings.
          </p>
        </div>
        <Button
          size="sm"
          variant="outline-secondary"
          disabled={busy}
          aria-expanded={making}
          onClick={() => setMaking(!making)}
        >
          Make a backup…
        </Button>
      </div>
      {making && (
        <Make files={settings.filter(({ there }) => there).map(({ target }) => target)} done={() => setMaking(false)} />
      )}
      {backups.length > 0 && (
        <ul className="list-unstyled stackup m-0" style={{ gap: '0.4rem' }}>
          {backups.map((backup) => (
            <Backup key={backup.id} {...backup} />
          ))}
        </ul>
      )}
    </section>
  );
}

/** One more file of the game, found by its name. */
function AnotherFile({ onAdd }: { onAdd(target: string): void }) {
  const { act } = useEngine();
  const { roots } = useGame();
  const [other, setOther] = useState('');
  const [known, setKnown] = useState<string[]>([]);
  const wanted = known.find((target) => target === other || place(target, roots) === other);
  return (
    <div className="row-of">
      <Form.Control
        size="sm"
        className="path grow"
        list="game-files"
        aria-label="Another file of the game"
        placeholder="Another file of the game"
        value={other}
        onFocus={() =>
          void act((engine) => engine.ask({ ask: 'files of game' })).then((found) => found && setKnown(found))
        }
        onChange={(event) => setOther(event.target.value)}
      />
      <datalist id="game-files">
        {known.slice(0, 500).map((target) => (
          <option key={target} value={place(target, roots)} />
        ))}
      </datalist>
      <Button
        size="sm"
        variant="outline-secondary"
        disabled={wanted === undefined}
        onClick={() => {
          if (wanted !== undefined) onAdd(wanted);
          setOther('');
        }}
      >
        Add it
      </Button>
    </div>
  );
}

/** Which files, and the name. */
function Make({ files, done }: { files: string[]; done(): void }) {
  const { act, busy } = useEngine();
  const { roots } = useGame();
  const [name, setName] = useState('');
  const [chosen, setChosen] = useState<string[]>(files);
  const all = [...new Set([...files, ...chosen])];
  const toggle = (target: string) =>
    setChosen(chosen.includes(target) ? chosen.filter((one) => one !== target) : [...chosen, target]);
  const make = async () => {
    await act((engine) => engine.change({ do: 'make backup', name, targets: chosen }));
    done();
  };
  return (
    <Form
      className="stackup"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <Form.Control
        size="sm"
        aria-label="Name of the backup"
        placeholder="before I tried the wide view"
        maxLength={120}
        value={name}
        onChange={(event) => setName(event.target.value)}
        autoFocus
      />
      <div>
        {all.map((target) => (
          <Form.Check
            key={target}
            type="checkbox"
            id={`backup ${target}`}
            className="path"
            label={place(target, roots)}
            checked={chosen.includes(target)}
            onChange={() => toggle(target)}
          />
        ))}
      </div>
      <AnotherFile onAdd={(target) => chosen.includes(target) || setChosen([...chosen, target])} />
      <div>
        <Button size="sm" type="submit" disabled={busy || name.trim() === '' || chosen.length === 0}>
          Back up {many(chosen.length, 'file')}
        </Button>
      </div>
    </Form>
  );
}

/** What became of each file of a backup, and the way back to it. */
function Compared({ compared, onRestore }: { compared: readonly BackupComparison[]; onRestore(): void }) {
  const { busy } = useEngine();
  const { roots } = useGame();
  const differing = compared.filter(({ now }) => now !== 'same').length;
  return (
    <>
      <ul className="list-unstyled m-0">
        {compared.map(({ target, now }) => (
          <li key={target} className="row-of">
            <span className="path">{place(target, roots)}</span>
            <span className="small quiet">{SAYS[now]}</span>
          </li>
        ))}
      </ul>
      <div className="row-of">
        <Button size="sm" disabled={busy || differing === 0} onClick={onRestore}>
          {differing === 0 ? 'Nothing to restore' : `Restore ${many(differing, 'file')}`}
        </Button>
        {differing > 0 && (
          <span className="small quiet">
            Settings come back byte for byte; your own waiting edits of them are dropped. What is there now is kept
            first and stands in the ledger.
          </span>
        )}
      </div>
    </>
  );
}

function Backup({ id, name, at, files }: ReturnType<typeof useGame>['backups'][number]) {
  const { act, busy } = useEngine();
  const [compared, setCompared] = useState<BackupComparison[]>();
  const compare = async () =>
    setCompared(compared ? undefined : await act((engine) => engine.ask({ ask: 'compare backup', id })));
  const restore = async () => {
    setCompared(undefined);
    await act((engine) => engine.change({ do: 'restore backup', id }));
  };
  return (
    <li className="stackup" style={{ gap: '0.3rem' }}>
      <div className="row-of">
        <strong>{name}</strong>
        <span className="quiet small grow">
          {moment(at)}, {many(files, 'file')}
        </span>
        <Button
          size="sm"
          variant="outline-primary"
          disabled={busy}
          aria-expanded={compared !== undefined}
          onClick={() => void compare()}
        >
          {compared ? 'Close' : 'Compare and restore…'}
        </Button>
        <Button
          size="sm"
          variant="outline-secondary"
          disabled={busy}
          aria-label={`Forget the backup ${name}`}
          onClick={() => void act((engine) => engine.change({ do: 'forget backup', id }))}
        >
          Forget
        </Button>
      </div>
      {compared && <Compared compared={compared} onRestore={() => void restore()} />}
    </li>
  );
}
