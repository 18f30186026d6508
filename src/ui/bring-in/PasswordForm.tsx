'use client';

import { KeyRound } from 'lucide-react';
import { useState } from 'react';
import type { Failure } from '@/core';
import { Button, Form } from '@/ui/shared/controls';

/** Asks for a pack's password, in place. */
export function PasswordForm({
  failure,
  onPassword,
  onGiveUp,
}: {
  failure: Failure;
  onPassword(password: string): void;
  onGiveUp(): void;
}) {
  const [password, setPassword] = useState('');
  return (
    <Form
      className="notice note"
      aria-label="Password of the pack"
      onSubmit={(event) => {
        event.preventDefault();
        if (password !== '') onPassword(password);
      }}
    >
      <KeyRound size={19} aria-hidden />
      <div className="grow">
        <strong>{failure.says}</strong>
        <p>{failure.next}</p>
        <div className="row-of mt-2">
          <Form.Control
            size="sm"
            type="text"
            autoFocus
            autoComplete="off"
            aria-label="Password"
            style={{ maxWidth: '16rem' }}
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
          <Button size="sm" type="submit" disabled={password === ''}>
            Open it
          </Button>
          <Button size="sm" variant="outline-secondary" onClick={onGiveUp}>
            Leave it
          </Button>
        </div>
      </div>
    </Form>
  );
}
