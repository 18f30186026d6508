'use client';

import { useEffect, useState } from 'react';
import type { DiffLine, SnippetPlace } from '@/core';
import { DiffLines } from '@/ui/stack/CompareTexts';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many, place } from '@/ui/shared/format';
import { useDraft } from '@/ui/shared/useDraft';

const SAYS = { new: 'new', changed: 'changed', same: 'as it is' } as const;
/** Pause in typing before the text is read, in milliseconds. */
const PAUSE = 200;

/** Which file the lines belong to; where several fit, the player chooses. */
function BelongsTo(p: { here: SnippetPlace; places: readonly SnippetPlace[]; onChoose(target: string): void }) {
  const { here, places, onChoose } = p;
  const { roots } = useGame();
  return (
    <div className="row-of">
      <span>Belongs to</span>
      {places.length === 1 ? (
        <span className="path">{place(here.target, roots)}</span>
      ) : (
        <Form.Select
          size="sm"
          className="w-auto path"
          aria-label="Belongs to"
          value={here.target}
          onChange={(event) => onChoose(event.target.value)}
        >
          {places.map(({ target }) => (
            <option key={target} value={target}>
              {place(target, roots)}
            </option>
          ))}
        </Form.Select>
      )}
    </div>
  );
}

function BelongsNowhere() {
  return (
    <p className="small quiet m-0" role="status">
      No settings file of the game has these keys or sections. Check that all lines were copied, the line in brackets
      above them too.
    </p>
  );
}

/** Each line with what it would change. */
function LinesOf({ here }: { here: SnippetPlace }) {
  return (
    <ul
      className="list-unstyled m-0"
      aria-label="What the lines would change"
      style={{ maxHeight: '14rem', overflow: 'auto' }}
    >
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
  );
}

/**
 * Lines copied from a pack's page or read-me, or somebody's whole settings file: where they belong, and what they would
 * change.
 */
export function PasteLines() {
  const { act, busy } = useEngine();
  const [text, setText] = useState('');
  const [places, setPlaces] = useState<SnippetPlace[]>([]);
  const [chosen, setChosen] = useState<string>();
  useEffect(() => {
    const timer = setTimeout(
      () => void act((engine) => engine.ask({ ask: 'read snippet', text })).then((found) => setPlaces(found ?? [])),
      PAUSE,
    );
    return () => clearTimeout(timer);
  }, [act, text]);
  const { offer: kept } = useDraft('pasted lines', { text, clean: text.trim() === '' }, setText);
  const here = places.find(({ target }) => target === chosen) ?? places[0];
  const changes = here?.lines.filter(({ is }) => is !== 'same') ?? [];
  const take = async (file: string) => {
    const edits = changes.map(({ path, value }) => ({ path, value }));
    const done = await act(async (engine) => (await engine.change({ do: 'set edits', file, edits }), true));
    if (done) setText('');
  };
  return (
    <section className="sheet" aria-label="Paste lines">
      <div className="stackup">
        <p className="small quiet m-0">
          Lines from a pack’s page or read-me, or somebody else’s whole settings file. The app finds out where they
          belong.
        </p>
        {kept}
        <Form.Control
          as="textarea"
          rows={5}
          className="path"
          spellCheck={false}
          aria-label="Lines to paste"
          placeholder={'[Graphics]\nAddonTextures=1'}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {text.trim() !== '' && !here && <BelongsNowhere />}
        {here && (
          <>
            <BelongsTo here={here} places={places} onChoose={setChosen} />
            <LinesOf here={here} />
            <Button
              size="sm"
              className="align-self-start"
              disabled={busy || changes.length === 0}
              onClick={() => void take(here.target)}
            >
              {changes.length === 0 ? 'Nothing to change' : `Take ${many(changes.length, 'value')}`}
            </Button>
            <WholeFile target={here.target} text={text} taken={here.lines.length} onDone={() => setText('')} />
          </>
        )}
      </div>
    </section>
  );
}

/** Somebody else's whole file in place of one's own: what it does not have goes, and that is shown first. */
function WholeFile({ target, text, taken, onDone }: { target: string; text: string; taken: number; onDone(): void }) {
  const { act, busy } = useEngine();
  const { settings } = useGame();
  const [preview, setPreview] = useState<{ edits: number; lines: DiffLine[] }>();
  const total = settings.find((one) => one.target === target)?.total ?? 0;
  // A few lines are no whole file.
  if (taken < 3 || taken * 3 < total) return null;
  if (!preview)
    return (
      <Button
        size="sm"
        variant="outline-secondary"
        className="align-self-start"
        disabled={busy}
        onClick={() => void act((engine) => engine.ask({ ask: 'preview text', file: target, text })).then(setPreview)}
      >
        Use it in place of my file…
      </Button>
    );
  return (
    <div className="notice note stackup">
      <span>
        <strong>{many(preview.edits, 'value')} would change:</strong> the file would have the values of the pasted one
        and no others.
      </span>
      <div style={{ maxHeight: '12rem', overflow: 'auto', width: '100%' }}>
        <DiffLines lines={preview.lines} />
      </div>
      <Button
        size="sm"
        disabled={busy || preview.edits === 0}
        onClick={() => void act((engine) => engine.change({ do: 'take text', file: target, text })).then(onDone)}
      >
        Use its values alone
      </Button>
    </div>
  );
}
