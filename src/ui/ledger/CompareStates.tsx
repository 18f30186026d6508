'use client';

import { useState } from 'react';
import { StepRows } from '@/ui/deploy/StepRows';
import { useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { useEscape } from '@/ui/shared/useEscape';
import { moment } from '@/ui/shared/format';

/** What differs between the game's folders after two deployments. */
export function CompareStates() {
  const { ledger } = useGame();
  const [from, setFrom] = useState(0);
  const [to, setTo] = useState<number>();
  const [open, setOpen] = useState(false);
  useEscape(open ? () => setOpen(false) : undefined);
  const latest = ledger[0]?.number ?? 0;
  const end = to ?? latest;
  const choice = (value: number, set: (value: number) => void, label: string) => (
    <Form.Select
      size="sm"
      className="w-auto"
      aria-label={label}
      value={value}
      onChange={(event) => set(Number(event.target.value))}
    >
      <option value={0}>before the first deployment</option>
      {[...ledger].reverse().map(({ number, title, at }) => (
        <option key={number} value={number}>
          after {number}. {title}, {moment(at)}
        </option>
      ))}
    </Form.Select>
  );
  return (
    <section className="sheet stackup" aria-label="Compare two states">
      <div className="row-of">
        <h2 className="m-0">Compare two states</h2>
        {choice(from, setFrom, 'From')}
        <span>with</span>
        {choice(end, setTo, 'To')}
        <Button
          size="sm"
          variant="outline-secondary"
          aria-expanded={open}
          disabled={from === end}
          onClick={() => setOpen(!open)}
        >
          {open && from !== end ? 'Hide what differs' : 'Show what differs'}
        </Button>
      </div>
      {open && from !== end && (
        <div style={{ height: '14rem' }}>
          <StepRows
            label="What differs between the two states"
            query={{ view: 'difference', from, to: end, search: '' }}
          />
        </div>
      )}
    </section>
  );
}
