'use client';

import { useEffect, useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { place } from '@/ui/shared/format';
import type { RestoreScope } from '@/core';
import { RestorePreview } from './RestorePreview';

type What = RestoreScope['what'];

/** Which pack, folder or file: packs are chosen from all, places are found by a part of their names. */
function WhichPart(p: {
  what: What;
  options: readonly { id: string; name: string }[];
  value: string;
  onChoose(value: string): void;
}) {
  const { what, options, value, onChoose } = p;
  if (what === 'pack')
    return (
      <Form.Select
        size="sm"
        aria-label="Which pack"
        className="w-auto"
        value={value}
        onChange={(event) => onChoose(event.target.value)}
      >
        <option value="">Choose a pack…</option>
        {options.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </Form.Select>
    );
  return (
    <>
      <Form.Control
        size="sm"
        className="path grow"
        list="deployed-places"
        aria-label={what === 'folder' ? 'Which folder' : 'Which file'}
        placeholder={what === 'folder' ? 'Type a part of the folder’s name' : 'Type a part of the file’s name'}
        value={value}
        onChange={(event) => onChoose(event.target.value)}
      />
      <datalist id="deployed-places">
        {options.slice(0, 300).map(({ id, name }) => (
          <option key={id} value={name} />
        ))}
      </datalist>
    </>
  );
}

/** Puts one pack, one folder or one file back as it was, after a look at what that would do. */
export function RestorePart() {
  const { act, busy, snapshot } = useEngine();
  const { packs, roots } = useGame();
  const [what, setWhat] = useState<What>('pack');
  const [chosen, setChosen] = useState('');
  const [places, setPlaces] = useState<{ files: string[]; folders: string[] }>({ files: [], folders: [] });
  const [looking, setLooking] = useState<RestoreScope>();
  const revision = snapshot?.revision;
  useEffect(() => {
    setLooking(undefined);
    void act((engine) => engine.ask({ ask: 'deployed places' })).then((found) => found && setPlaces(found));
  }, [act, revision]);

  const deployed = packs.filter((pack) => pack.deployed > 0);
  const options =
    what === 'pack'
      ? deployed.map(({ layer, name }) => ({ id: layer, name }))
      : (what === 'folder' ? places.folders : places.files).map((target) => ({
          id: target,
          name: place(target, roots),
        }));
  const found = options.find(({ id, name }) => id === chosen || name === chosen)?.id;
  const scope: RestoreScope | undefined =
    found === undefined ? undefined : what === 'pack' ? { what, layer: found } : { what, at: found };
  const choose = (value: string) => {
    setChosen(value);
    setLooking(undefined);
  };
  return (
    <section className="sheet stackup" aria-label="Put back a part">
      <div className="row-of">
        <h2 className="m-0">Put back a part</h2>
        <Form.Select
          size="sm"
          aria-label="What"
          style={{ width: '9rem' }}
          value={what}
          onChange={(event) => (setWhat(event.target.value as What), choose(''))}
        >
          <option value="pack">One pack</option>
          <option value="folder">One folder</option>
          <option value="file">One file</option>
        </Form.Select>
        <WhichPart what={what} options={options} value={chosen} onChoose={choose} />
        <Button size="sm" variant="outline-primary" disabled={busy || !scope} onClick={() => setLooking(scope)}>
          Show what would happen
        </Button>
      </div>
      {looking && <RestorePreview scope={looking} onClose={() => setLooking(undefined)} />}
    </section>
  );
}
