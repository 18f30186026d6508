'use client';

import type { GameCard } from '@/core';
import { Form } from '@/ui/shared/controls';

/** What the game is called. */
export function CardTitle({ card, onChange }: { card: GameCard; onChange(card: GameCard): void }) {
  return (
    <Form.Group controlId="card-title" className="sheet row-of">
      <Form.Label className="m-0">Name of the game</Form.Label>
      <Form.Control
        size="sm"
        style={{ maxWidth: '24rem' }}
        maxLength={80}
        value={card.title}
        onChange={(event) => onChange({ ...card, title: event.target.value })}
      />
    </Form.Group>
  );
}
