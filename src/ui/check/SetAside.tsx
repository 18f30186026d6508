'use client';

import { useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { useDraft } from '@/ui/shared/useDraft';
import { useEscape } from '@/ui/shared/useEscape';

/** What a log says is harmless, the player says: it is set aside, with a word why. */
export function SetAside({ id, says, quoted = false }: { id: string; says: string; quoted?: boolean }) {
  const { act, busy } = useEngine();
  const [noting, setNoting] = useState(false);
  useEscape(noting ? () => setNoting(false) : undefined);
  const [note, setNote] = useState('');
  const { offer: kept, done: forget } = useDraft(
    `why ${id} is harmless`,
    { text: note, clean: note.trim() === '' },
    (text) => {
      setNote(text);
      setNoting(true);
    },
  );
  return (
    <>
      {!noting && (
        <Button
          variant="link"
          size="sm"
          className="p-0"
          {...(quoted ? { 'aria-label': `It is harmless… (${says})` } : {})}
          onClick={() => setNoting(true)}
        >
          It is harmless…
        </Button>
      )}
      {kept}
      {noting && (
        <Form
          className="row-of mt-1"
          onSubmit={(event) => {
            event.preventDefault();
            void act((engine) => engine.change({ do: 'set aside', id, says, note }).then(forget));
          }}
        >
          <Form.Control
            size="sm"
            autoFocus
            aria-label="Why it is harmless"
            placeholder="Why?"
            value={note}
            maxLength={300}
            onChange={(event) => setNote(event.target.value)}
            style={{ maxWidth: '24rem' }}
          />
          <Button size="sm" type="submit" variant="outline-secondary" disabled={busy}>
            Set it aside
          </Button>
        </Form>
      )}
    </>
  );
}
