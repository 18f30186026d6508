'use client';

import { useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { NameForm } from '@/ui/shared/NameForm';
import { many, moment, place } from '@/ui/shared/format';
import type { GameView, SettingsFileView } from '@/worker/contract';

/** Named sets of the player's edits, and settings files of the player's own. */
export function Sets() {
  return (
    <>
      <NamedSets />
      <OwnFiles />
    </>
  );
}

/** One set: what in it is otherwise now, and the way to take it. */
function NamedSet({ set }: { set: GameView['beyondKeys']['sets'][number] }) {
  const { act, busy } = useEngine();
  return (
    <div className="slab align-items-start">
      <span className="grow">
        <strong>{set.name}</strong>{' '}
        <span className="small quiet">
          {many(set.edits, 'edit')}, {moment(set.at)}
          {set.current ? ', as it is now' : ''}
        </span>
        {set.differences.length > 0 && (
          <details className="small">
            <summary>{many(set.differences.length, 'difference')} to what you have now</summary>
            <ul className="reasons path mt-1">
              {set.differences.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
          </details>
        )}
      </span>
      <Button
        size="sm"
        disabled={busy || set.current}
        aria-label={`Take ${set.name}`}
        onClick={() => void act((engine) => engine.change({ do: 'use set', id: set.id }))}
      >
        Take it
      </Button>
      <Button
        size="sm"
        variant="outline-secondary"
        disabled={busy}
        aria-label={`Forget ${set.name}`}
        onClick={() => void act((engine) => engine.change({ do: 'forget set', id: set.id }))}
      >
        Forget it
      </Button>
    </div>
  );
}

function NamedSets() {
  const { beyondKeys, settings } = useGame();
  const edits = settings.reduce((sum, file) => sum + file.edits, 0);
  return (
    <section className="sheet stackup" aria-label="Sets of edits">
      <div>
        <h2>Sets of edits</h2>
        <p className="small quiet m-0">
          Keep your edits as they are under a name, try others, and take the old ones again. Packs’ own edits are not
          touched.
        </p>
      </div>
      <NameForm
        label="Name of the set"
        placeholder="Wide view"
        button="Keep my edits under this name"
        onName={(engine, name) => engine.change({ do: 'save set', name })}
      >
        <span className="small quiet">{many(edits, 'edit')} in all now.</span>
      </NameForm>
      {beyondKeys.sets.map((set) => (
        <NamedSet key={set.id} set={set} />
      ))}
    </section>
  );
}

/** One file of the player's own: in use, or switched off. */
function OwnFile({ file }: { file: SettingsFileView }) {
  const { roots } = useGame();
  const { act, busy } = useEngine();
  return (
    <div className="slab">
      <span className="grow">
        <span className="path">{place(file.target, roots)}</span>{' '}
        <span className="small quiet">
          {file.edits === 0 ? 'empty; add lines under “Keys” or “As text”' : many(file.edits, 'line')}
        </span>
      </span>
      <Form.Check
        type="switch"
        id={`on-${file.target}`}
        label={file.own?.on ? 'in use' : 'switched off'}
        checked={file.own?.on ?? true}
        disabled={busy || file.edits === 0}
        onChange={() =>
          void act((engine) => engine.change({ do: 'switch file', file: file.target, on: !file.own?.on }))
        }
      />
      <Button
        size="sm"
        variant="outline-secondary"
        disabled={busy}
        aria-label={`Take ${file.title} away`}
        onClick={() => void act((engine) => engine.change({ do: 'drop file', file: file.target }))}
      >
        Take it away
      </Button>
    </div>
  );
}

function OwnFiles() {
  const { beyondKeys, settings } = useGame();
  const { act, busy } = useEngine();
  const [name, setName] = useState('');
  const { ownFiles } = beyondKeys;
  if (!ownFiles) return null;
  const own = settings.filter((file) => file.own);
  return (
    <section className="sheet stackup" aria-label="Files of your own">
      <div>
        <h2>Settings files of your own</h2>
        <p className="small quiet m-0">
          A file with only the few lines that you want, beside the game’s own. {ownFiles.why}
        </p>
      </div>
      <Form
        className="row-of"
        onSubmit={(event) => {
          event.preventDefault();
          void act((engine) => engine.change({ do: 'new file', name })).then(() => setName(''));
        }}
      >
        <Form.Control
          size="sm"
          className="path"
          aria-label="Name of the file"
          placeholder={`mine${ownFiles.ending}`}
          value={name}
          onChange={(event) => setName(event.target.value)}
          style={{ width: '16rem' }}
        />
        <Button size="sm" type="submit" variant="outline-primary" disabled={busy || name.trim() === ''}>
          Make it
        </Button>
      </Form>
      {own.map((file) => (
        <OwnFile key={file.target} file={file} />
      ))}
    </section>
  );
}
