'use client';

import { Button, Form } from '@/ui/shared/controls';
import { oneOr } from '@/ui/shared/format';

import { useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Notice } from '@/ui/shared/Notice';
import type { GivenLog } from '@/worker/contract';
import { FindingNotice } from './FindingNotice';
import { LogPanel } from './LogPanel';

/** What a given log says. */
function Read({ given, onDismiss }: { given: GivenLog; onDismiss(): void }) {
  return (
    <>
      <Notice
        level="note"
        title={`“${given.name}”, read ${given.rulesOf === '' ? 'by the form that its lines have' : `with the rules of ${given.rulesOf}`}`}
        onDismiss={onDismiss}
      >
        <p>
          {given.findings.length === 0
            ? 'Nothing in it points to something wrong.'
            : `${given.findings.length} ${oneOr(given.findings.length, 'finding', 'findings')} in it.`}
        </p>
      </Notice>
      {given.findings.slice(0, 20).map((finding) => (
        <FindingNotice key={finding.id} finding={finding} />
      ))}
      <LogPanel log={given.log} given />
    </>
  );
}

/** Lines of a log, pasted. */
function PasteLog({ onRead }: { onRead(text: string): void }) {
  const { busy } = useEngine();
  const [text, setText] = useState('');
  return (
    <>
      <Form.Control
        as="textarea"
        rows={3}
        className="path"
        spellCheck={false}
        aria-label="Lines of a log"
        placeholder="or paste lines of it"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button
        size="sm"
        variant="outline-primary"
        className="align-self-start"
        disabled={busy || text.trim() === ''}
        onClick={() => onRead(text)}
      >
        Read these lines
      </Button>
    </>
  );
}

/** A log from elsewhere: dropped, chosen or pasted. */
export function GivenLogs() {
  const { act, busy } = useEngine();
  const [given, setGiven] = useState<GivenLog>();
  const [over, setOver] = useState(false);
  const read = async (name: string, log: Blob | string) =>
    setGiven(await act((engine) => engine.change({ do: 'read given log', name, log })));
  return (
    <>
      <details className="sheet" open={given !== undefined}>
        <summary>Read another log…</summary>
        <div
          className={`stackup mt-2 drop ${over ? 'over' : ''}`}
          onDragOver={(event) => {
            event.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={(event) => {
            event.preventDefault();
            setOver(false);
            const file = event.dataTransfer.files[0];
            if (file) void read(file.name, file);
          }}
        >
          <span className="row-of">
            Drop a log here, or
            <Form.Control
              type="file"
              size="sm"
              aria-label="Choose a log"
              disabled={busy}
              style={{ width: '16rem' }}
              onChange={(event) => {
                const file = (event.target as HTMLInputElement).files?.[0];
                if (file) void read(file.name, file);
              }}
            />
          </span>
          <PasteLog onRead={(text) => void read('Pasted lines', text)} />
        </div>
      </details>
      {given && <Read given={given} onDismiss={() => setGiven(undefined)} />}
    </>
  );
}
