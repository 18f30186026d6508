'use client';

import { Check } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import type { ChecklistItem } from '@/core';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many } from '@/ui/shared/format';
import { useDraft } from '@/ui/shared/useDraft';
import type { PackView } from '@/worker/contract';

const STATE_WORDS: Record<ChecklistItem['state'], string> = {
  placed: 'by the app',
  settings: 'in Settings',
  yours: 'yours to do',
  unclear: 'not understood',
};

/**
 * A pack's read-me, and the page that it came from, as a list of steps: each with what the app makes of it, ticked when
 * it is so.
 */
export function Checklist({ pack }: { pack: PackView }) {
  const { act, busy } = useEngine();
  const { steps } = pack;
  const done = steps.filter((one) => one.done).length;
  return (
    <section aria-label="Step by step">
      {steps.length > 0 && (
        <>
          <h2 className="h3">
            Its read-me, step by step{' '}
            <span className="quiet small">
              {many(done, 'step')} of {steps.length} done
            </span>
          </h2>
          <ul className="steps-list">
            {steps.map(({ line, from, text, state, says, done: isDone }) => (
              <li key={`${from} ${line} ${says}`}>
                <span className={`step-state ${state}`}>
                  {state === 'yours' || state === 'unclear' ? (
                    <Form.Check
                      id={`step-${pack.layer}-${from}-${line}-${state}`}
                      label={isDone ? 'done' : STATE_WORDS[state]}
                      checked={isDone}
                      disabled={busy}
                      aria-label={`Done: ${text}`}
                      onChange={() =>
                        void act((engine) =>
                          engine.change({ do: 'tick step', layer: pack.layer, step: text, done: !isDone }),
                        )
                      }
                    />
                  ) : (
                    <>
                      {isDone && <Check size={14} aria-label="done" />}{' '}
                      {state === 'settings' && !isDone ? (
                        <Link href="/game/settings">{STATE_WORDS[state]}</Link>
                      ) : isDone ? (
                        'done'
                      ) : (
                        STATE_WORDS[state]
                      )}
                    </>
                  )}
                </span>
                <span className="grow">
                  <span className="said">{text}</span>{' '}
                  <span className="quiet small">{from === 'page' ? 'from its page' : `line ${line}`}</span>
                  <br />
                  <span className="quiet small">{says}</span>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      <PastePage pack={pack} />
    </section>
  );
}

/** The text of the page that a pack came from often says more than its read-me. */
function PastePage({ pack }: { pack: PackView }) {
  const { act, busy } = useEngine();
  const [text, setText] = useState(pack.page ?? '');
  const { offer, done } = useDraft(`page of ${pack.layer}`, { text, clean: text === (pack.page ?? '') }, setText);
  const take = (value: string) =>
    void act((engine) => engine.change({ do: 'paste page', layer: pack.layer, text: value })).then(done);
  return (
    <details className="small mt-1" open={text !== (pack.page ?? '') || undefined}>
      <summary>{pack.page === undefined ? 'Paste what its page says…' : 'What its page says'}</summary>
      {offer}
      <Form.Control
        as="textarea"
        rows={5}
        className="mt-1"
        aria-label="What the page of this pack says"
        placeholder="Copy the text of the page that you downloaded it from, and paste it here. It is read like a read-me; nothing is fetched."
        value={text}
        maxLength={65_536}
        onChange={(event) => setText(event.target.value)}
      />
      <div className="row-of mt-1">
        <Button
          size="sm"
          variant="outline-primary"
          disabled={busy || text.trim() === '' || text.trim() === pack.page}
          onClick={() => take(text)}
        >
          Read it
        </Button>
        {pack.page !== undefined && (
          <Button
            size="sm"
            variant="outline-secondary"
            disabled={busy}
            onClick={() => {
              setText('');
              take('');
            }}
          >
            Forget it
          </Button>
        )}
      </div>
    </details>
  );
}
