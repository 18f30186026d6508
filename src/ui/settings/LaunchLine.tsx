'use client';

import { useState } from 'react';
import { withOption, withoutOption } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { place } from '@/ui/shared/format';
import { useFormDraft } from '@/ui/shared/useDraft';
import type { GameView } from '@/worker/contract';

type Launch = NonNullable<GameView['beyondKeys']['launch']>;

/** Where the line is kept, and the way to copy it. */
function LaunchHead({ launch }: { launch: Launch }) {
  const { roots } = useGame();
  const [copied, setCopied] = useState(false);
  return (
    <div className="between">
      <div>
        <h2>Launch line</h2>
        <p className="small quiet m-0">
          {launch.file ? (
            <>
              Kept in <span className="path">{place(launch.file, roots)}</span>
              {launch.pending && '; it changes with the next deployment'}.
            </>
          ) : (
            'The app keeps it; copy it into the shortcut or the program that starts the game.'
          )}
        </p>
      </div>
      <Button
        size="sm"
        variant="outline-secondary"
        onClick={() => void navigator.clipboard.writeText(launch.line).then(() => setCopied(true))}
      >
        {copied ? 'Copied' : 'Copy the line'}
      </Button>
    </div>
  );
}

/** One more option for the line. */
function AddOption({ launch, onLine }: { launch: Launch; onLine(line: string): void }) {
  const { busy } = useEngine();
  const [name, setName] = useState('');
  const [value, setValue] = useState('');
  const { offer: kept } = useFormDraft('launch option', { name, value }, name === '' && value === '', (typed) => {
    setName(typed.name);
    setValue(typed.value);
  });
  const takes = launch.known.find(({ option }) => option === name)?.takes;
  return (
    <>
      {kept}

      <Form
        className="row-of"
        onSubmit={(event) => {
          event.preventDefault();
          onLine(withOption(launch.line, name.trim(), value.trim()));
          setName('');
          setValue('');
        }}
      >
        <Form.Control
          size="sm"
          list="known-options"
          className="path"
          aria-label="Option"
          placeholder="-option"
          value={name}
          onChange={(event) => setName(event.target.value)}
          style={{ width: '12rem' }}
        />
        <datalist id="known-options">
          {launch.known.map(({ option, meaning }) => (
            <option key={option} value={option} label={meaning} />
          ))}
        </datalist>
        <Form.Control
          size="sm"
          className="path"
          aria-label="What it is given"
          placeholder={takes ? 'name of a file' : 'nothing, or a value'}
          value={value}
          onChange={(event) => setValue(event.target.value)}
          style={{ width: '14rem' }}
        />
        <Button size="sm" type="submit" variant="outline-primary" disabled={busy || !/^\S+$/.test(name.trim())}>
          Add it
        </Button>
        <span className="small quiet">The others stay as they are.</span>
      </Form>
    </>
  );
}

/** The words behind the program's name, one by one. */
export function LaunchLine() {
  const { beyondKeys } = useGame();
  const { act, busy } = useEngine();
  const launch = beyondKeys.launch;
  if (!launch) return null;
  const change = (line: string) => void act((engine) => engine.change({ do: 'launch line', line }));
  return (
    <section className="sheet stackup" aria-label="Launch line">
      <LaunchHead launch={launch} />
      <pre className="diff px-2 m-0" aria-label="The launch line">
        {launch.line || '(empty)'}
      </pre>
      <ul className="reasons" aria-label="Options">
        {launch.options.map((one) => (
          <li key={one.name} className="between">
            <span>
              <strong className="path">{[one.name, ...one.values].join(' ')}</strong>{' '}
              <span className="small quiet">{one.meaning ?? 'not known to the app'}</span>
              {one.trouble !== undefined && <strong className="badge-ask"> {one.trouble}</strong>}
            </span>
            <Button
              size="sm"
              variant="outline-secondary"
              className="py-0"
              disabled={busy}
              aria-label={`Take ${one.name} out`}
              onClick={() => change(withoutOption(launch.line, one.name))}
            >
              Take out
            </Button>
          </li>
        ))}
      </ul>
      <AddOption launch={launch} onLine={change} />
    </section>
  );
}
