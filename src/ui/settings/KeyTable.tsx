'use client';

import { useEffect, useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import { checkValue, listItems, withItem, withoutItem, type AboutKey } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { moment } from '@/ui/shared/format';
import { useDraft, useFormDraft } from '@/ui/shared/useDraft';
import { PagedRows } from '@/ui/shared/PagedRows';
import type { SettingRow, SettingsFileView } from '@/worker/api';
import { FileChooser } from './FileChooser';

/** All keys of one settings file at a time: what they are, what they will be, and who wants it. */
export function KeyTable({ file, onFile }: { file: SettingsFileView; onFile(target: SettingsFileView['target']): void }) {
  const [search, setSearch] = useState('');
  const { settings } = useGame();
  const [everywhere, setEverywhere] = useState(false);
  const all = everywhere && search.trim() !== '';
  // An object of its own for each opening: what ends an earlier one closes no later one.
  const [editing, setEditing] = useState<{ row: SettingRow; opened: number }>();
  return (
    <section className="sheet stackup fill" aria-label="Keys">
      <div className="row-of">
        <FileChooser file={file} onFile={(target) => {
          onFile(target);
          setEditing(undefined);
        }} />
        {settings.length > 1 && <Form.Check type="switch" id="all-settings" label={`In all ${settings.length} files`} checked={everywhere} onChange={() => setEverywhere(!everywhere)} className="small" />}
        <Form.Control size="sm" type="search" placeholder="Find a key or a value" aria-label="Find a key" value={search} onChange={(event) => setSearch(event.target.value)} style={{ maxWidth: '14rem' }} />
      </div>
      {editing ? <EditKey key={editing.opened} file={settings.find(({ target }) => target === editing.row.file) ?? file} row={editing.row} onDone={() => setEditing((now) => (now === editing ? undefined : now))} /> : <NewKey key={file.target} file={file.target} />}
      <div className="fill" style={{ minHeight: '12rem' }}>
        <PagedRows<SettingRow>
          label="Keys"
          empty="No key of that name."
          query={{ view: 'settings', file: all ? undefined : file.target, search }}
          columns="minmax(0, 4fr) minmax(0, 2fr) minmax(0, 3fr) minmax(0, 4fr) 5.5rem"
          heads={['Key', 'In the file now', 'After the next deployment', 'What it does', '']}
          cells={(row) => (
            <>
              <span role="cell" className="path cut" title={row.path}>
                {all && <span className="quiet">{row.title}: </span>}
                {row.path}
              </span>
              <span role="cell" className="path cut" title={row.value}>
                {row.value ?? <span className="quiet">not there{row.standard === undefined ? '' : ` (${row.standard})`}</span>}
              </span>
              <span role="cell" className="cut small" title={[row.wanted, ...row.against].join('; ')}>
                {row.wanted !== undefined && <strong className="path verb verb-edit">{row.wanted === '' ? '(removed)' : row.wanted}</strong>}
                {row.by !== undefined && <span className="quiet"> {row.wanted === undefined ? 'as' : 'for'} {row.by === 'you' ? 'you' : `“${row.by}”`}{row.wanted === undefined ? ' wanted' : ''}</span>}
                {row.against.length > 0 && <strong className="badge-ask"> · {row.against.join(', ')}</strong>}
                {row.by === undefined && row.elsewhere.length === 0 && <span className="quiet">the same</span>}
                {row.elsewhere.map(({ title, value, counts }) => (
                  <span key={title} className="quiet"> {counts ? <strong>{value} counts</strong> : `not ${value}`}, from “{title}”</span>
                ))}
              </span>
              <span role="cell" className="small cut" title={row.meaning}>
                {row.meaning ?? <span className="quiet">unknown to this game’s card</span>}
              </span>
              <span role="cell">
                <Button size="sm" variant="outline-secondary" className="py-0" aria-label={`Change ${row.path}${all ? ` in ${row.title}` : ''}`} onClick={() => setEditing((now) => ({ row, opened: (now?.opened ?? 0) + 1 }))}>
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
function EditKey({ file, row, onDone }: { file: SettingsFileView; row: SettingRow; onDone(): void }) {
  const { act, busy } = useEngine();
  const begin = row.wanted ?? row.value ?? row.standard ?? '';
  const [value, setValue] = useState(begin);
  const { settings } = useGame();
  // What concerns one title or one profile goes into the narrowest file, so that the others stay as they are.
  const [where, setWhere] = useState<string>(row.mine ? file.target : (file.narrower[0]?.target ?? file.target));
  const { rule } = row;
  const wrong = rule && checkValue(rule, value);
  const save = (event: FormEvent) => {
    event.preventDefault();
    if (wrong === undefined) void act((engine) => engine.setEdit(where, row.keys, value).then(close));
  };
  const { offer: kept, done: forget } = useDraft(`${row.path} in ${file.target}`, value, value === begin, setValue);
  const close = () => {
    forget();
    onDone();
  };
  const label = `Value of ${row.path}`;
  const range = rule?.min !== undefined || rule?.max !== undefined ? `${rule.min ?? '…'} to ${rule.max ?? '…'}` : undefined;
  return (
    <Form className="notice note row-of" onSubmit={save} aria-label={`Change ${row.path}`}>
      {kept && <div className="w-100">{kept}</div>}
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
      {row.list && <ListItems row={row} value={value} onValue={setValue} />}
      {file.narrower.length > 0 && (
        <Form.Select size="sm" aria-label="Where it is set" value={where} onChange={(event) => setWhere(event.target.value)} style={{ width: 'auto' }}>
          {[...file.narrower.map(({ target, title }) => ({ target: target, title })), { target: file.target as string, title: settings.find(({ target }) => target === file.target)?.title ?? '' }].map(({ target, title }) => (
            <option key={target} value={target}>
              in {title}
            </option>
          ))}
        </Form.Select>
      )}
      {range && <span className="small quiet">{range}</span>}
      <Button size="sm" type="submit" disabled={busy || wrong !== undefined}>
        Set it
      </Button>
      {row.mine && (
        <Button size="sm" variant="outline-secondary" disabled={busy} onClick={() => void act((engine) => engine.dropEdit(file.target, row.keys).then(close))}>
          Take my edit back
        </Button>
      )}
      <Button size="sm" variant="outline-secondary" onClick={close}>
        Leave it
      </Button>
      {wrong !== undefined && <span className="small badge-ask" role="alert">{`“${value}” does not fit: ${wrong}.`}</span>}
      <About file={file.target} row={row} />
      {row.tried.length > 0 && <Tried file={file.target} row={row} onTake={setValue} />}
    </Form>
  );
}

/** What the file itself, other settings files and read-mes say of a key. */
function About({ file, row: { keys, path } }: { file: string; row: SettingRow }) {
  const { engine } = useEngine();
  const { settings } = useGame();
  const [about, setAbout] = useState<AboutKey>();
  useEffect(() => {
    let current = true;
    void engine?.aboutKey(file, keys).then((found) => current && setAbout(found), () => undefined);
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `path` is `keys` as text
  }, [engine, file, path]);
  if (!about || (about.comment === undefined && about.elsewhere.length + about.said.length === 0)) return null;
  const titleOf = (target: string) => settings.find((one) => one.target === target)?.title ?? target;
  return (
    <div className="w-100 small">
      <span className="quiet">What is said of it:</span>
      <ul className="reasons mt-1" aria-label="What is said of it">
        {about.comment !== undefined && <li>The file itself: “{about.comment}”</li>}
        {about.elsewhere.map((one) => (
          <li key={`${one.file} ${one.path.join(' › ')}`}>
            “{titleOf(one.file)}” has <span className="path">{one.path.join(' › ')} = {one.value}</span>
          </li>
        ))}
        {about.said.map(({ pack, line, text }) => (
          <li key={`${pack} ${line}`}>
            {pack}, line {line}: “{text}”
          </li>
        ))}
      </ul>
    </div>
  );
}

/** A key that is not in the file yet. */
function NewKey({ file }: { file: string }) {
  const { act, busy } = useEngine();
  const [path, setPath] = useState('');
  const [value, setValue] = useState('');
  const { offer: kept, done: forget } = useFormDraft(`new key in ${file}`, { path, value }, path === '' && value === '', (typed) => {
    setPath(typed.path);
    setValue(typed.value);
  });
  const keys = path.split('›').map((name) => name.trim()).filter(Boolean);
  const add = async (event: FormEvent) => {
    event.preventDefault();
    if (keys.length === 0) return;
    const before = await act(async (engine) => {
      await engine.setEdit(file, keys, value);
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

/** The items of a list, each to be taken out, and one to be put in; what stands between them stays. */
function ListItems({ row, value, onValue }: { row: SettingRow; value: string; onValue(value: string): void }) {
  const [item, setItem] = useState('');
  const { separator, folders } = row.list ?? { separator: ',', folders: [] };
  const items = listItems(value, separator);
  const add = () => {
    if (item.trim() === '' || item.includes(separator)) return;
    onValue(withItem(value, separator, item.trim()));
    setItem('');
  };
  return (
    <span className="row-of">
      {items.map((one) => (
        <span key={one} className="pick py-0">
          <span className="path">{one}</span>
          {folders.length > 0 && !folders.includes(one) && <strong className="badge-ask">no such folder</strong>}
          <button type="button" className="plain" aria-label={`Take ${one} out of the list`} onClick={() => onValue(withoutItem(value, separator, one))}>
            ×
          </button>
        </span>
      ))}
      <Form.Control size="sm" list="list-folders" className="path" aria-label="One more item" placeholder="one more" value={item} onChange={(event) => setItem(event.target.value)} style={{ width: '9rem' }} />
      <datalist id="list-folders">
        {folders.filter((one) => !items.includes(one)).map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
      <Button size="sm" variant="outline-secondary" onClick={add}>
        Add
      </Button>
    </span>
  );
}

/** Values that were tried before, with a note for each. */
function Tried({ file, row, onTake }: { file: string; row: SettingRow; onTake(value: string): void }) {
  const { act } = useEngine();
  return (
    <div className="w-100 small">
      <span className="quiet">Tried before:</span>
      <ul className="reasons mt-1" aria-label="Values tried before">
        {row.tried.map(({ value, note, at }) => (
          <li key={value} className="row-of">
            <Button size="sm" variant="outline-secondary" className="py-0 path" aria-label={`Take ${value} again`} onClick={() => onTake(value)}>
              {value}
            </Button>
            <Form.Control size="sm" className="py-0" style={{ maxWidth: '22rem' }} aria-label={`Note on ${value}`} placeholder="How did it look?" defaultValue={note} maxLength={300} onBlur={(event) => event.target.value !== note && void act((engine) => engine.changeSettings({ do: 'note', file, path: row.keys, value, note: event.target.value }))} />
            <span className="quiet">{moment(at)}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
