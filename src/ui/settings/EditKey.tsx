'use client';

import { useEffect, useState, type FormEvent } from 'react';
import { checkValue, listItems, withItem, withoutItem, type AboutKey } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { useDraft } from '@/ui/shared/useDraft';
import type { SettingRow, SettingsFileView } from '@/worker/contract';
import { Tried } from './Tried';
import { ValueField } from './ValueField';

/** Which of the files it is set in: the narrowest first, so that the others stay as they are. */
function WhereSet({ file, where, onWhere }: { file: SettingsFileView; where: string; onWhere(target: string): void }) {
  const { settings } = useGame();
  if (file.narrower.length === 0) return null;
  const title = settings.find(({ target }) => target === file.target)?.title ?? '';
  return (
    <Form.Select
      size="sm"
      aria-label="Where it is set"
      value={where}
      onChange={(event) => onWhere(event.target.value)}
      style={{ width: 'auto' }}
    >
      {[...file.narrower, { target: file.target, title }].map((one) => (
        <option key={one.target} value={one.target}>
          in {one.title}
        </option>
      ))}
    </Form.Select>
  );
}

/** From the least to the most that a key takes. */
const rangeOf = ({ min, max }: NonNullable<SettingRow['rule']>): string | undefined =>
  min === undefined && max === undefined ? undefined : `${min ?? '…'} to ${max ?? '…'}`;

/** What it will be, is, or would be. */
const valueOf = ({ wanted, value, standard }: SettingRow): string => wanted ?? value ?? standard ?? '';

/** One key being changed, with the control that fits it. */
export function EditKey({ file, row, onDone }: { file: SettingsFileView; row: SettingRow; onDone(): void }) {
  const { act, busy } = useEngine();
  const begin = valueOf(row);
  const [value, setValue] = useState(begin);
  // What concerns one title or one profile goes into the narrowest file, so that the others stay as they are.
  const [where, setWhere] = useState<string>(row.mine ? file.target : (file.narrower[0]?.target ?? file.target));
  const { rule } = row;
  const wrong = rule && checkValue(rule, value);
  const save = (event: FormEvent) => {
    event.preventDefault();
    if (wrong === undefined)
      void act((engine) =>
        engine.change({ do: 'set edits', file: where, edits: [{ path: row.keys, value: value }] }).then(close),
      );
  };
  const { offer: kept, done: forget } = useDraft(
    `${row.path} in ${file.target}`,
    { text: value, clean: value === begin },
    setValue,
  );
  const close = () => {
    forget();
    onDone();
  };
  const range = rule && rangeOf(rule);
  return (
    <Form className="notice note row-of" onSubmit={save} aria-label={`Change ${row.path}`}>
      {kept && <div className="w-100">{kept}</div>}
      <strong className="path">{row.path}</strong>
      <ValueField name={row.path} rule={rule} value={value} wrong={wrong !== undefined} onValue={setValue} />
      {row.list && <ListItems row={row} value={value} onValue={setValue} />}
      <WhereSet file={file} where={where} onWhere={setWhere} />
      {range && <span className="small quiet">{range}</span>}
      <Button size="sm" type="submit" disabled={busy || wrong !== undefined}>
        Set it
      </Button>
      {row.mine && (
        <Button
          size="sm"
          variant="outline-secondary"
          disabled={busy}
          onClick={() =>
            void act((engine) => engine.change({ do: 'drop edit', file: file.target, path: row.keys }).then(close))
          }
        >
          Take my edit back
        </Button>
      )}
      <Button size="sm" variant="outline-secondary" onClick={close}>
        Leave it
      </Button>
      {wrong !== undefined && (
        <span className="small badge-ask" role="alert">{`“${value}” does not fit: ${wrong}.`}</span>
      )}
      <About file={file.target} row={row} />
      {row.tried.length > 0 && <Tried file={file.target} row={row} value={value} onTake={setValue} />}
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
    void engine?.ask({ ask: 'about key', file, path: keys }).then(
      (found) => current && setAbout(found),
      () => undefined,
    );
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
            “{titleOf(one.file)}” has{' '}
            <span className="path">
              {one.path.join(' › ')} = {one.value}
            </span>
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
          <button
            type="button"
            className="plain"
            aria-label={`Take ${one} out of the list`}
            onClick={() => onValue(withoutItem(value, separator, one))}
          >
            ×
          </button>
        </span>
      ))}
      <Form.Control
        size="sm"
        list="list-folders"
        className="path"
        aria-label="One more item"
        placeholder="one more"
        value={item}
        onChange={(event) => setItem(event.target.value)}
        style={{ width: '9rem' }}
      />
      <datalist id="list-folders">
        {folders
          .filter((one) => !items.includes(one))
          .map((one) => (
            <option key={one} value={one} />
          ))}
      </datalist>
      <Button size="sm" variant="outline-secondary" onClick={add}>
        Add
      </Button>
    </span>
  );
}
