'use client';

import { useState } from 'react';
import { useEscape } from '@/ui/shared/useEscape';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';

interface MoveFormProps {
  from: string;
  start: string;
  folders: string[];
  onMove(to: string): void;
  onClose(): void;
}

/** Puts one folder of the pack elsewhere, for those who do not drag. */
export function MoveForm({ from, start, folders, onMove, onClose }: MoveFormProps) {
  useEscape(onClose);
  const { busy } = useEngine();
  const [to, setTo] = useState(start);
  return (
    <Form
      className="sheet row-of"
      onSubmit={(event) => {
        event.preventDefault();
        onMove(to);
      }}
    >
      <Form.Label htmlFor="move-to" className="m-0">
        Put <span className="path">{from === '' ? 'the whole pack' : from}</span> into
      </Form.Label>
      <Form.Control
        id="move-to"
        className="path grow"
        size="sm"
        autoFocus
        list="move-folders"
        value={to}
        onChange={(event) => setTo(event.target.value)}
      />
      <datalist id="move-folders">
        {folders.slice(0, 2000).map((folder) => (
          <option key={folder} value={folder} />
        ))}
      </datalist>
      <Button type="submit" size="sm" disabled={busy}>
        Put it there
      </Button>
      <Button size="sm" variant="outline-secondary" onClick={onClose}>
        Leave it
      </Button>
    </Form>
  );
}
