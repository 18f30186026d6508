'use client';

import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { moment } from '@/ui/shared/format';
import type { SettingRow } from '@/worker/contract';

interface Props {
  file: string;
  row: SettingRow;
  /** The value in the field now. */
  value: string;
  onTake(value: string): void;
}

/** Values that were tried before, side by side, each with what the player noted of it. */
export function Tried({ file, row, value: chosen, onTake }: Props) {
  const { act } = useEngine();
  return (
    <div className="w-100 small">
      <span className="quiet">Tried before:</span>
      <ul className="tried mt-1" aria-label="Values tried before">
        {row.tried.map(({ value, note, at }) => (
          <li key={value} className={value === chosen ? 'chosen' : ''}>
            <div className="between">
              <strong className="path">{value}</strong>
              <span className="quiet text-nowrap">{value === row.value ? 'in the file now' : moment(at)}</span>
            </div>
            <Form.Control
              as="textarea"
              rows={2}
              size="sm"
              aria-label={`Note on ${value}`}
              placeholder="How did it look?"
              defaultValue={note}
              maxLength={300}
              onBlur={(event) =>
                event.target.value !== note &&
                void act((engine) =>
                  engine.change({ do: 'note value', file, path: row.keys, value, note: event.target.value }),
                )
              }
            />
            <Button
              size="sm"
              variant="outline-secondary"
              className="py-0"
              disabled={value === chosen}
              aria-label={`Take ${value} again`}
              onClick={() => onTake(value)}
            >
              Take it again
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}
