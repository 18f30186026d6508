'use client';

import { ArrowDown, ArrowUp } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many, place } from '@/ui/shared/format';
import type { SearchView, SettingsFileView } from '@/worker/contract';

/** Where the game looks for files: the first folder that has one wins. */
export function SearchOrder() {
  const { settings } = useGame();
  return settings.map((file) => file.search && <Order key={file.target} file={file} view={file.search} />);
}

/** One folder of the order, and the arrows that move it. */
function OrderedFolder(p: { one: SearchView['entries'][number]; i: number; last: boolean; onMove(to: number): void }) {
  const { one, i, last, onMove } = p;
  const { busy } = useEngine();
  const inner = one.containers.map(({ folder, files }) => `${folder.split('/').at(-1)} (${many(files, 'file')})`);
  return (
    <li className="slab">
      <strong>{i + 1}</strong>
      <span className="grow">
        <span className="path">{one.folder}</span>
        <span className="small quiet">
          {' '}
          {one.each
            ? `every folder in it: ${inner.join(', ') || 'none yet'}`
            : many(one.containers[0]?.files ?? 0, 'file')}
        </span>
      </span>
      <Button
        size="sm"
        variant="outline-secondary"
        disabled={busy || i === 0}
        aria-label={`Put ${one.folder} higher`}
        onClick={() => onMove(i - 1)}
      >
        <ArrowUp size={15} aria-hidden />
      </Button>
      <Button
        size="sm"
        variant="outline-secondary"
        disabled={busy || last}
        aria-label={`Put ${one.folder} lower`}
        onClick={() => onMove(i + 1)}
      >
        <ArrowDown size={15} aria-hidden />
      </Button>
    </li>
  );
}

function Order({ file, view }: { file: SettingsFileView; view: SearchView }) {
  const { roots } = useGame();
  const { act } = useEngine();
  const move = (from: number, to: number) =>
    void act((engine) => engine.change({ do: 'search move', file: file.target, from, to }));
  return (
    <section className="sheet stackup" aria-label={file.title}>
      <div>
        <h2>{file.title}</h2>
        <p className="small quiet m-0">
          <span className="path">{place(file.target, roots)}</span>. The game looks through these folders from the top;
          the first that has a file wins.
        </p>
      </div>
      <ol className="list-unstyled stackup m-0" style={{ gap: '0.35rem' }} aria-label="Folders in order">
        {view.entries.map((one, i) => (
          <OrderedFolder
            key={`${one.folder} ${i}`}
            one={one}
            i={i}
            last={i === view.entries.length - 1}
            onMove={(to) => move(i, to)}
          />
        ))}
      </ol>
      <AddFolder file={file} canBeEach={view.each !== undefined} />
      <WhereIs file={file.target} />
    </section>
  );
}

/** One more folder at the end; it can stand for every folder in it. */
function AddFolder({ file, canBeEach }: { file: SettingsFileView; canBeEach: boolean }) {
  const { act, busy } = useEngine();
  const [folder, setFolder] = useState('');
  const [each, setEach] = useState(false);
  const add = async () => {
    const done = await act(async (engine) => {
      await engine.change({ do: 'search add', file: file.target, folder, each });
      return true;
    });
    if (done) setFolder('');
  };
  return (
    <Form
      className="row-of"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <Form.Control
        size="sm"
        className="path"
        aria-label="Another folder"
        placeholder="another folder"
        value={folder}
        onChange={(event) => setFolder(event.target.value)}
        style={{ width: '16rem' }}
      />
      {canBeEach && (
        <Form.Check
          type="checkbox"
          id={`each-${file.target}`}
          label="stands for every folder in it"
          checked={each}
          onChange={() => setEach(!each)}
        />
      )}
      <Button size="sm" type="submit" variant="outline-primary" disabled={busy || folder.trim() === ''}>
        Add it at the end
      </Button>
    </Form>
  );
}

/** Which folder a file is found in. */
function WhereIs({ file }: { file: string }) {
  const { engine, snapshot } = useEngine();
  const [name, setName] = useState('');
  const [found, setFound] = useState<{ folder: string; file: string }[]>([]);
  const revision = snapshot?.revision;
  useEffect(() => {
    const timer = setTimeout(
      () => void engine?.ask({ ask: 'find in search', file, name }).then(setFound, () => setFound([])),
      250,
    );
    return () => clearTimeout(timer);
  }, [engine, file, name, revision]);
  return (
    <div className="stackup" style={{ gap: '0.35rem' }}>
      <Form.Control
        size="sm"
        type="search"
        className="path"
        aria-label="Which folder has this file?"
        placeholder="Which folder has textures/…?"
        value={name}
        onChange={(event) => setName(event.target.value)}
        style={{ maxWidth: '26rem' }}
      />
      {name.trim() !== '' && (
        <ul className="reasons small" aria-label="Where it is found">
          {found.length === 0 && <li className="quiet">No folder of the order has a file of that path.</li>}
          {found.map((one, i) => (
            <li key={one.file}>
              <span className="path">{one.file}</span>{' '}
              {i === 0 ? <strong>· this one is used</strong> : <span className="quiet">· hidden by the one above</span>}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
