'use client';

import { useEffect, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { SnippetPlace } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { many, place } from '@/ui/shared/format';

const SAYS = { new: 'new', changed: 'changed', same: 'as it is' } as const;
/** Pause in typing before the text is read, in milliseconds. */
const PAUSE = 200;

/** Lines copied from a pack's page or read-me, or somebody's whole settings file: where they belong, and what they would change. */
export function PasteLines() {
  const { act, busy } = useEngine();
  const { roots } = useGame();
  const [text, setText] = useState('');
  const [places, setPlaces] = useState<SnippetPlace[]>([]);
  const [chosen, setChosen] = useState<string>();
  useEffect(() => {
    const timer = setTimeout(() => void act((engine) => engine.readSnippet(text)).then((found) => setPlaces(found ?? [])), PAUSE);
    return () => clearTimeout(timer);
  }, [act, text]);
  const here = places.find(({ target }) => target === chosen) ?? places[0];
  const changes = here?.lines.filter(({ is }) => is !== 'same') ?? [];
  const take = async () => {
    const done = here && (await act(async (engine) => (await engine.setEdits(here.target, changes.map(({ path, value }) => ({ path, value }))), true)));
    if (done) setText('');
  };
  return (
    <details className="sheet">
      <summary>Paste lines from a pack’s page, or a whole settings file…</summary>
      <div className="stackup mt-2">
        <Form.Control as="textarea" rows={5} className="path" spellCheck={false} aria-label="Lines to paste" placeholder={'[Graphics]\nAddonTextures=1'} value={text} onChange={(event) => setText(event.target.value)} />
        {text.trim() !== '' && !here && (
          <p className="small quiet m-0" role="status">
            No settings file of the game has these keys or sections. Check that all lines were copied, the line in brackets above them too.
          </p>
        )}
        {here && (
          <>
            <div className="row-of">
              <span>Belongs to</span>
              {places.length === 1 ? (
                <span className="path">{place(here.target, roots)}</span>
              ) : (
                <Form.Select size="sm" className="w-auto path" aria-label="Belongs to" value={here.target} onChange={(event) => setChosen(event.target.value)}>
                  {places.map(({ target }) => (
                    <option key={target} value={target}>
                      {place(target, roots)}
                    </option>
                  ))}
                </Form.Select>
              )}
            </div>
            <ul className="list-unstyled m-0" aria-label="What the lines would change" style={{ maxHeight: '14rem', overflow: 'auto' }}>
              {here.lines.map(({ path, value, now, is }) => (
                <li key={path.join('\n')} className="row-of">
                  <span className="path">
                    {path.join(' › ')} = {value}
                  </span>
                  <span className="small quiet">
                    {SAYS[is]}
                    {is === 'changed' && `, it is ${now} now`}
                  </span>
                </li>
              ))}
            </ul>
            <Button size="sm" className="align-self-start" disabled={busy || changes.length === 0} onClick={() => void take()}>
              {changes.length === 0 ? 'Nothing to change' : `Take ${many(changes.length, 'value')}`}
            </Button>
          </>
        )}
      </div>
    </details>
  );
}
