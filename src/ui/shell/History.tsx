'use client';

import { Redo2, Undo2 } from 'lucide-react';
import Link from 'next/link';
import { useCallback, useEffect, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { moment } from '@/ui/shared/format';
import type { ChangeRow } from '@/worker/contract';

/** Text that is being typed has a way back of its own. */
const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest('input, textarea, select, [contenteditable="true"]') !== null;

/** Back and forth through what was decided, by buttons, by keys, and by the list of it all. */
export function History() {
  const { act, busy } = useEngine();
  const { history } = useGame();
  const [listed, setListed] = useState(false);
  const { undo, redo, steps } = history;
  const goTo = useCallback(
    (goal: number) => void act((engine) => engine.change({ do: 'go to step', steps: goal })),
    [act],
  );

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey || event.key.toLowerCase() !== 'z') return;
      if (isTyping(event.target) || busy) return;
      event.preventDefault();
      if (event.shiftKey ? redo !== undefined : undo !== undefined) goTo(steps + (event.shiftKey ? 1 : -1));
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [busy, goTo, undo, redo, steps]);

  return (
    <div className="history" role="group" aria-label="What you decided">
      <Button
        variant="link"
        className="p-1"
        disabled={undo === undefined}
        aria-disabled={busy}
        onClick={() => !busy && goTo(steps - 1)}
        title={undo === undefined ? 'Nothing to undo' : `Undo (Ctrl+Z): ${undo}`}
        aria-label={undo === undefined ? 'Undo' : `Undo: ${undo}`}
      >
        <Undo2 size={18} aria-hidden />
        {undo !== undefined && <span className="cut small">Undo: {undo}</span>}
      </Button>
      <Button
        variant="link"
        className="p-1"
        disabled={redo === undefined}
        aria-disabled={busy}
        onClick={() => !busy && goTo(steps + 1)}
        title={redo === undefined ? 'Nothing to do again' : `Do again (Ctrl+Shift+Z): ${redo}`}
        aria-label={redo === undefined ? 'Do again' : `Do again: ${redo}`}
      >
        <Redo2 size={18} aria-hidden />
      </Button>
      <Button variant="link" className="p-1 small" onClick={() => setListed(true)}>
        Changes
      </Button>
      <Link className="btn btn-link p-1 small" href="/game/set-ups">
        Set-ups
      </Link>
      {listed && <Changes onClose={() => setListed(false)} goTo={goTo} />}
    </div>
  );
}

/** Everything that was decided lately, and the way to each state. */
function Changes({ onClose, goTo }: { onClose(): void; goTo(steps: number): void }) {
  const { engine, busy, snapshot } = useEngine();
  const { history } = useGame();
  const [rows, setRows] = useState<ChangeRow[]>();
  const revision = snapshot?.revision;
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'changes' }).then((found) => current && setRows(found));
    return () => {
      current = false;
    };
  }, [engine, revision]);
  const row = (says: string, steps: number, at?: number, undone = false) => (
    <li key={steps} className={undone ? 'quiet' : undefined} aria-current={steps === history.steps}>
      <span className="whole-path">{says}</span>
      <span className="quiet small">{at !== undefined && moment(at)}</span>
      {steps === history.steps ? (
        <strong className="small">as it is now</strong>
      ) : (
        <Button
          size="sm"
          variant="outline-secondary"
          disabled={busy}
          onClick={() => goTo(steps)}
          aria-label={`${undone ? 'Do again up to' : 'Go back to'}: ${says}`}
        >
          {undone ? 'Do again up to here' : 'Go back to here'}
        </Button>
      )}
    </li>
  );
  return (
    <Modal show onHide={onClose} size="lg" scrollable aria-labelledby="changes-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="changes-title">
          What you decided
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>
          Going back or forth changes what waits to be deployed. Nothing is written to the game before you deploy. The
          last 200 changes are kept.
        </p>
        {rows && (
          <ol className="changes">
            {rows.map(({ says, at, steps, undone }) => row(says, steps, at, undone))}
            {row(rows.length < 200 ? 'Before the first of them' : 'Before these', 0)}
          </ol>
        )}
      </Modal.Body>
    </Modal>
  );
}
