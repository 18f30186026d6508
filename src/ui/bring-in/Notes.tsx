'use client';

import { useId, useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { useDraft } from '@/ui/shared/useDraft';
import type { PackView } from '@/worker/contract';

/** What the player notes of a pack: where it came from, its version, what is to be remembered. */
export function Notes({ pack }: { pack: PackView }) {
  const { act, busy } = useEngine();
  const { notes } = pack;
  const [origin, setOrigin] = useState(notes.origin ?? '');
  const [version, setVersion] = useState(notes.version ?? '');
  const [remember, setRemember] = useState(notes.remember ?? '');
  const same = (text: string, was: string | undefined) => text.trim() === (was ?? '');
  const clean = same(origin, notes.origin) && same(version, notes.version) && same(remember, notes.remember);
  const { offer, done } = useDraft(
    `note on ${pack.layer}`,
    { text: remember, clean: same(remember, notes.remember) },
    setRemember,
  );
  const keep = () =>
    void act((engine) =>
      engine.change({ do: 'note pack', layer: pack.layer, notes: { origin, version, remember } }),
    ).then(done);
  const said = [notes.version && `version ${notes.version}`, notes.remember, notes.origin].filter(Boolean).join(' · ');
  return (
    <details className="sheet small" open={!clean || undefined}>
      <summary>
        <strong>Notes</strong>{' '}
        <span className="quiet">{said === '' ? 'where it came from, its version, what to remember' : said}</span>
      </summary>
      {offer}
      <div className="note-fields mt-2">
        <Field
          label="Version"
          most={100}
          placeholder={pack.facts.find(({ kind }) => kind === 'version')?.value ?? ''}
          value={version}
          onChange={setVersion}
        />
        <Field
          label="Where it came from"
          most={2000}
          placeholder="The address of its page, or who gave it to you"
          value={origin}
          onChange={setOrigin}
        />
        <Field label="What to remember" most={4000} lines={3} value={remember} onChange={setRemember} />
      </div>
      <div className="row-of mt-2">
        <Button size="sm" variant="outline-primary" disabled={busy || clean} onClick={keep}>
          Keep these notes
        </Button>
        {notes.origin !== undefined && /^https?:\/\//i.test(notes.origin) && (
          <a className="path" href={notes.origin} target="_blank" rel="noreferrer noopener">
            Open that page
          </a>
        )}
        <span className="quiet">
          Found by the search in Stack; they go along in a kit and a report, without keys in addresses and names of your
          folders.
        </span>
      </div>
    </details>
  );
}

interface FieldProps {
  label: string;
  /** Characters. */
  most: number;
  lines?: number;
  placeholder?: string;
  value: string;
  onChange(value: string): void;
}

function Field({ label, most, lines, placeholder, value, onChange }: FieldProps) {
  return (
    <Form.Group controlId={useId()} className={lines === undefined ? undefined : 'whole'}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        size="sm"
        {...(lines === undefined ? {} : { as: 'textarea' as const, rows: lines })}
        value={value}
        maxLength={most}
        placeholder={placeholder}
        onChange={(event) => onChange(event.target.value)}
      />
    </Form.Group>
  );
}
