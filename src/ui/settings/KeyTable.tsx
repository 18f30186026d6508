'use client';

import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import { checkValue } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { many, place } from '@/ui/shared/format';
import { PagedRows } from '@/ui/shared/PagedRows';
import type { SettingRow } from '@/worker/api';

/** All keys of one settings file at a time: what they are, what they will be, and who wants it. */
export function KeyTable() {
  const { settings, roots } = useGame();
  const [target, setTarget] = useState(settings[0]?.target);
  const [search, setSearch] = useState('');
  const [editing, setEditing] = useState<SettingRow>();
  const file = settings.find((one) => one.target === target) ?? settings[0];
  if (!file) return null;
  return (
    <section className="sheet stackup fill" aria-label="Keys">
      <div className="row-of">
        <Form.Select size="sm" aria-label="Settings file" value={file.target} style={{ width: 'auto' }} onChange={(event) => {
          setTarget(settings.find((one) => one.target === event.target.value)?.target);
          setEditing(undefined);
        }}>
          {settings.map((one) => (
            <option key={one.target} value={one.target}>
              {one.title}
              {one.edits > 0 ? ` (${many(one.edits, 'edit')})` : ''}
            </option>
          ))}
        </Form.Select>
        <span className="quiet small grow">
          <span className="path">{place(file.target, roots)}</span>: {file.there ? `${many(file.total, 'key')}, ${file.known} known to the game card` : 'not there yet; the first edit makes it'}. Only single values are ever changed in it.
        </span>
        <Form.Control size="sm" type="search" placeholder="Find a key" aria-label="Find a key" value={search} onChange={(event) => setSearch(event.target.value)} style={{ maxWidth: '14rem' }} />
      </div>
      {editing ? <EditKey key={editing.path} file={file.target} row={editing} onDone={() => setEditing(undefined)} /> : <NewKey key={file.target} file={file.target} />}
      <div className="fill" style={{ minHeight: '12rem' }}>
        <PagedRows<SettingRow>
          label="Keys"
          empty="No key of that name."
          query={{ view: 'settings', file: file.target, search }}
          columns="minmax(0, 4fr) minmax(0, 2fr) minmax(0, 3fr) minmax(0, 4fr) 5.5rem"
          heads={['Key', 'In the file now', 'After the next deployment', 'What it does', '']}
          cells={(row) => (
            <>
              <span role="cell" className="path cut" title={row.path}>
                {row.path}
              </span>
              <span role="cell" className="path cut" title={row.value}>
                {row.value ?? <span className="quiet">not there{row.standard === undefined ? '' : ` (${row.standard})`}</span>}
              </span>
              <span role="cell" className="cut small" title={[row.wanted, ...row.against].join('; ')}>
                {row.wanted !== undefined && <strong className="path verb verb-edit">{row.wanted === '' ? '(removed)' : row.wanted}</strong>}
                {row.by !== undefined && <span className="quiet"> {row.wanted === undefined ? 'as' : 'for'} {row.by === 'you' ? 'you' : `“${row.by}”`}{row.wanted === undefined ? ' wanted' : ''}</span>}
                {row.against.length > 0 && <strong className="badge-ask"> · {row.against.join(', ')}</strong>}
                {row.by === undefined && <span className="quiet">the same</span>}
              </span>
              <span role="cell" className="small cut" title={row.meaning}>
                {row.meaning ?? <span className="quiet">unknown to this game’s card</span>}
              </span>
              <span role="cell">
                <Button size="sm" variant="outline-secondary" className="py-0" aria-label={`Change ${row.path}`} onClick={() => setEditing(row)}>
                  Change
                </Button>
              </span>
            </>
          )}
        />
      </div>
    </section>
  );
}

/** One key being changed, with the control that fits it. */
function EditKey({ file, row, onDone }: { file: string; row: SettingRow; onDone(): void }) {
  const { act, busy } = useEngine();
  const [value, setValue] = useState(row.wanted ?? row.value ?? row.standard ?? '');
  const { rule } = row;
  const wrong = rule && checkValue(rule, value);
  const save = (event: FormEvent) => {
    event.preventDefault();
    if (wrong === undefined) void act((engine) => engine.setEdit(file, row.keys, value)).then(onDone);
  };
  const label = `Value of ${row.path}`;
  const range = rule?.min !== undefined || rule?.max !== undefined ? `${rule.min ?? '…'} to ${rule.max ?? '…'}` : undefined;
  return (
    <Form className="notice note row-of" onSubmit={save} aria-label={`Change ${row.path}`}>
      <strong className="path">{row.path}</strong>
      {rule?.options ? (
        <Form.Select size="sm" aria-label={label} value={value} onChange={(event) => setValue(event.target.value)} style={{ width: 'auto' }}>
          {rule.options.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </Form.Select>
      ) : rule?.type === 'flag' && /^[01]?$/.test(value) ? (
        <Form.Check type="switch" aria-label={label} checked={value === '1'} onChange={() => setValue(value === '1' ? '0' : '1')} label={value === '1' ? 'on (1)' : 'off (0)'} />
      ) : (
        <Form.Control autoFocus size="sm" aria-label={label} value={value} isInvalid={wrong !== undefined} inputMode={rule?.type === 'number' ? 'decimal' : 'text'} onChange={(event) => setValue(event.target.value)} style={{ width: '16rem' }} />
      )}
      {range && <span className="small quiet">{range}</span>}
      <Button size="sm" type="submit" disabled={busy || wrong !== undefined}>
        Set it
      </Button>
      {row.mine && (
        <Button size="sm" variant="outline-secondary" disabled={busy} onClick={() => void act((engine) => engine.dropEdit(file, row.keys)).then(onDone)}>
          Take my edit back
        </Button>
      )}
      <Button size="sm" variant="outline-secondary" onClick={onDone}>
        Leave it
      </Button>
      {wrong !== undefined && <span className="small badge-ask" role="alert">{`“${value}” does not fit: ${wrong}.`}</span>}
    </Form>
  );
}

/** A key that is not in the file yet. */
function NewKey({ file }: { file: string }) {
  const { act, busy } = useEngine();
  const [path, setPath] = useState('');
  const [value, setValue] = useState('');
  const keys = path.split('›').map((name) => name.trim()).filter(Boolean);
  const add = async (event: FormEvent) => {
    event.preventDefault();
    if (keys.length === 0) return;
    const before = await act(async (engine) => {
      await engine.setEdit(file, keys, value);
      return true;
    });
    if (!before) return;
    setPath('');
    setValue('');
  };
  return (
    <details className="small">
      <summary>Add a key that is not there…</summary>
      <Form className="row-of mt-1" onSubmit={(event) => void add(event)}>
        <Form.Control size="sm" className="path" aria-label="New key" placeholder="Section › Key" value={path} onChange={(event) => setPath(event.target.value.replaceAll('>', '›'))} style={{ width: '18rem' }} />
        <Form.Control size="sm" className="path" aria-label="Its value" placeholder="value" value={value} onChange={(event) => setValue(event.target.value)} style={{ width: '12rem' }} />
        <Button size="sm" type="submit" variant="outline-primary" disabled={busy || keys.length === 0}>
          Add it
        </Button>
        <span className="quiet">Section and key with › between them (or type &gt;).</span>
      </Form>
    </details>
  );
}
