'use client';

import { useState, type ReactNode } from 'react';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import type { EngineRemote } from '@/worker/contract/connect';

interface NameFormProps {
  label: string;
  button: string;
  placeholder?: string;
  /** What it is called so far; then the field is what one came for. */
  initial?: string;
  /** What else belongs to it, between the name and its button. */
  between?: ReactNode;
  /** Stands behind it. */
  children?: ReactNode;
  onName(engine: EngineRemote, name: string): Promise<unknown>;
  onDone?(): void;
}

/** Gives something a name. What could not be named so stays to be mended. */
export function NameForm({
  label,
  button,
  placeholder,
  initial = '',
  between,
  children,
  onName,
  onDone,
}: NameFormProps) {
  const { act, busy } = useEngine();
  const [name, setName] = useState(initial);
  const give = async () => {
    const given = await act(async (engine) => {
      await onName(engine, name);
      return true;
    });
    if (!given) return;
    setName('');
    onDone?.();
  };
  return (
    <Form
      className="row-of"
      onSubmit={(event) => {
        event.preventDefault();
        void give();
      }}
    >
      <Form.Control
        size="sm"
        autoFocus={initial !== ''}
        aria-label={label}
        placeholder={placeholder}
        value={name}
        maxLength={80}
        onChange={(event) => setName(event.target.value)}
        style={{ width: '16rem' }}
      />
      {between}
      <Button size="sm" type="submit" variant="outline-primary" disabled={busy || name.trim() === ''}>
        {button}
      </Button>
      {children}
    </Form>
  );
}
