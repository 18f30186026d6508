'use client';

import { useState, type FormEvent } from 'react';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { useFormDraft } from '@/ui/shared/useDraft';

/** A key that is not in the file yet. */
export function NewKey({ file }: { file: string }) {
  const { act, busy } = useEngine();
  const [path, setPath] = useState('');
  const [value, setValue] = useState('');
  const { offer: kept, done: forget } = useFormDraft(
    `new key in ${file}`,
    { path, value },
    path === '' && value === '',
    (typed) => {
      setPath(typed.path);
      setValue(typed.value);
    },
  );
  const keys = path
    .split('›')
    .map((name) => name.trim())
    .filter(Boolean);
  const add = async (event: FormEvent) => {
    event.preventDefault();
    if (keys.length === 0) return;
    const before = await act(async (engine) => {
      await engine.change({ do: 'set edits', file: file, edits: [{ path: keys, value: value }] });
      return true;
    });
    if (!before) return;
    forget();
    setPath('');
    setValue('');
  };
  return (
    <details className="small">
      <summary>Add a key that is not there…</summary>
      {kept}
      <Form className="row-of mt-1" onSubmit={(event) => void add(event)}>
        <Form.Control
          size="sm"
          className="path"
          aria-label="New key"
          placeholder="Section › Key"
          value={path}
          onChange={(event) => setPath(event.target.value.replaceAll('>', '›'))}
          style={{ width: '18rem' }}
        />
        <Form.Control
          size="sm"
          className="path"
          aria-label="Its value"
          placeholder="value"
          value={value}
          onChange={(event) => setValue(event.target.value)}
          style={{ width: '12rem' }}
        />
        <Button size="sm" type="submit" variant="outline-primary" disabled={busy || keys.length === 0}>
          Add it
        </Button>
        <span className="quiet">Section and key with › between them (or type &gt;).</span>
      </Form>
    </details>
  );
}
