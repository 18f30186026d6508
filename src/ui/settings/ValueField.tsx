'use client';

import type { KeyRule } from '@/core';
import { Form } from '@/ui/shared/controls';

interface Props {
  /** What the key is called. */
  name: string;
  rule: KeyRule | undefined;
  value: string;
  wrong: boolean;
  onValue(value: string): void;
}

/** Steps of a slider whose ends are not both whole numbers. */
const FINE = 100;

/** A range that is known on both ends, and how finely it is gone through; undefined for anything else. */
function rangeOf(rule: KeyRule | undefined): { min: number; max: number; step: number } | undefined {
  if (rule?.type !== 'number' || rule.min === undefined || rule.max === undefined || rule.max <= rule.min)
    return undefined;
  const { min, max } = rule;
  const whole = Number.isInteger(min) && Number.isInteger(max) && max - min >= 2;
  return { min, max, step: whole ? 1 : (max - min) / FINE };
}

/** A number as a slider gives it, without the noise of its binary form. */
const shortly = (value: number): string => String(Number(value.toFixed(4)));

/** The value of a key, by the control that fits it: a list, a switch, a slider beside the number, or text. */
export function ValueField({ name, rule, value, wrong, onValue }: Props) {
  const label = `Value of ${name}`;
  if (rule?.options)
    return (
      <Form.Select
        size="sm"
        aria-label={label}
        value={value}
        onChange={(event) => onValue(event.target.value)}
        style={{ width: 'auto' }}
      >
        {rule.options.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </Form.Select>
    );
  if (rule?.type === 'flag' && /^[01]?$/.test(value))
    return (
      <Form.Check
        type="switch"
        aria-label={label}
        checked={value === '1'}
        onChange={() => onValue(value === '1' ? '0' : '1')}
        label={value === '1' ? 'on (1)' : 'off (0)'}
      />
    );
  const range = rangeOf(rule);
  return (
    <>
      {range && (
        <Form.Range
          aria-label={`Slider for ${name}`}
          {...range}
          value={Number.isFinite(Number(value)) ? Number(value) : range.min}
          onChange={(event) => onValue(shortly(Number(event.target.value)))}
          style={{ width: '12rem' }}
        />
      )}
      <Form.Control
        autoFocus
        size="sm"
        aria-label={label}
        value={value}
        isInvalid={wrong}
        inputMode={rule?.type === 'number' ? 'decimal' : 'text'}
        onChange={(event) => onValue(event.target.value)}
        style={{ width: range ? '7rem' : '16rem' }}
      />
    </>
  );
}
