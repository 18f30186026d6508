'use client';

import { useEffect, useId, useState, type FormEvent } from 'react';
import {
  DIALECTS,
  blanksOf,
  formOf,
  meantBlank,
  piecesOf,
  shownBlank,
  type Blank,
  type GameCard,
  type Piece,
} from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import type { TellingPreview } from '@/worker/contract';

/** Folders, files and the like that blanks can be filled with. */
export interface Choices {
  folders: readonly string[];
  files: readonly string[];
  card: GameCard;
}

const FIXED: Partial<Record<Blank['kind'], readonly string[]>> = {
  dialect: DIALECTS,
  level: ['note', 'good', 'warning', 'error'],
  'key type': ['flag', 'number', 'text'],
  form: ['json', 'ini'],
  about: ['file', 'key'],
};
const HINTS: Partial<Record<Blank['kind'], string>> = {
  names: '*.map, readme.txt',
  targets: 'Program folder/mods/**',
  path: 'Section › Key',
  like: 'cannot open {file}',
  'id like': 'AB12-0034',
  fields: 'version = info.version',
  sentence: 'in your words',
  number: '0',
};
const WORDS: Record<string, string> = {
  why: 'why',
  title: 'a name',
  meaning: 'what it does',
  into: 'a folder',
  files: 'names',
  on: 'a value',
  off: 'a value',
};

function optionsFor({ kind }: Blank, { folders, files, card }: Choices): readonly string[] {
  switch (kind) {
    case 'folder':
      return folders;
    case 'file':
      return files;
    case 'settings file':
      return card.settings.map(({ target }) => target);
    case 'root':
      return card.roots.map(({ id }) => id);
    case 'switch':
      return card.switches.map(({ id }) => id);
    case 'place':
      return card.places.map(({ id }) => id);
    case 'rule':
      return card.log?.rules.map(({ id }) => id) ?? [];
    case 'recipe':
      return card.recipes.map(({ id }) => id);
    default:
      return FIXED[kind] ?? [];
  }
}

const NO_FORM = { id: '', group: 'folders', title: '', text: '', in: '' } as const;

interface TellProps {
  form: string;
  choices: Choices;
  /** The sentence that it takes the place of. */
  at?: (string | number)[];
  values?: Record<string, string>;
  onDone(): void;
}

/** One sentence with its blanks to fill in, and what telling it would change for the packs that are here. */
export function Tell({ form: id, choices, at, values: told = {}, onDone }: TellProps) {
  const { engine, act, busy } = useEngine();
  const { roots } = useGame();
  const kinds = new Map(blanksOf(formOf(id) ?? NO_FORM).map(({ field, kind }) => [field, kind]));
  const first = Object.fromEntries(
    Object.entries(told).map(([field, text]) => [field, shownBlank(kinds.get(field) ?? 'text', text, roots)]),
  );
  const [written, setValues] = useState(first);
  const values = Object.fromEntries(
    Object.entries(written).map(([field, text]) => [field, meantBlank(kinds.get(field) ?? 'text', text.trim(), roots)]),
  );
  const [preview, setPreview] = useState<TellingPreview>();
  const form = formOf(id);
  const name = useId();
  const key = JSON.stringify(values);
  useEffect(() => {
    let current = true;
    const timer = setTimeout(
      () =>
        void engine
          ?.ask({ ask: 'preview telling', form: id, values: JSON.parse(key) as Record<string, string>, at })
          .then(
            (found) => current && setPreview(found),
            () => undefined,
          ),
      250,
    );
    return () => {
      current = false;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `at` does not change while the sentence is open
  }, [engine, id, key]);
  if (!form) return null;
  const blanks = blanksOf(form);
  const typed = blanks.some(({ field }) => (written[field] ?? '') !== (first[field] ?? ''));
  const tell = async (event: FormEvent) => {
    event.preventDefault();
    const done = await act(async (one) => {
      await one.change({ do: 'tell', form: id, values, at });
      return true;
    });
    if (done) onDone();
  };
  const control = (blank: Blank) => {
    const { field, kind, optional } = blank;
    const options = optionsFor(blank, choices).map((one) => shownBlank(kind, one, roots));
    const label = `${WORDS[field] ?? field.split('.').at(-1) ?? field}${optional ? ', if you like' : ''}`;
    const value = written[field] ?? '';
    const set = (text: string) => setValues({ ...written, [field]: text });
    const wrong = typed && preview?.wrong?.field === field && value !== '';
    if (FIXED[kind] || ['root', 'switch', 'place', 'rule', 'recipe'].includes(kind))
      return (
        <Form.Select
          size="sm"
          className="blank"
          aria-label={label}
          value={value}
          isInvalid={wrong}
          onChange={(event) => set(event.target.value)}
        >
          <option value="">{optional ? '—' : 'choose…'}</option>
          {options.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </Form.Select>
      );
    return (
      <>
        <Form.Control
          size="sm"
          className={`blank ${kind === 'sentence' ? 'long' : ''} path`}
          aria-label={label}
          placeholder={HINTS[kind] ?? label}
          list={options.length > 0 ? `${name}-${field}` : undefined}
          value={value}
          isInvalid={wrong}
          onChange={(event) => set(event.target.value)}
        />
        {options.length > 0 && (
          <datalist id={`${name}-${field}`}>
            {options.slice(0, 2000).map((one) => (
              <option key={one} value={one} />
            ))}
          </datalist>
        )}
      </>
    );
  };
  const draw = (some: readonly Piece[]) =>
    some.map((piece, i) => (
      <span key={i}>
        {'text' in piece ? (
          piece.text
        ) : 'blank' in piece ? (
          control(piece.blank)
        ) : (
          <span className="quiet">{draw(piece.some)}</span>
        )}
      </span>
    ));
  return (
    <Form className="notice note sentence" aria-label={form.title} onSubmit={(event) => void tell(event)}>
      <p className="m-0">{draw(piecesOf(form))}</p>
      <div className="small" role="status">
        {preview?.wrong ? (
          <span className="quiet">
            {typed && preview.wrong.field !== undefined && (values[preview.wrong.field] ?? '') !== ''
              ? preview.wrong.why
              : 'Fill in what is missing.'}
          </span>
        ) : preview && preview.changes.length === 0 ? (
          <span className="quiet">For the packs that are here nothing changes.</span>
        ) : (
          preview && (
            <ul className="reasons m-0" aria-label="What would change">
              {preview.changes.slice(0, 8).map(({ layer, pack, now, then }) => (
                <li key={layer}>
                  <strong>{pack}</strong> {now} now, and then {then}.
                </li>
              ))}
              {preview.changes.length > 8 && <li>And {preview.changes.length - 8} more.</li>}
            </ul>
          )
        )}
      </div>
      <div className="row-of">
        <Button
          size="sm"
          type="submit"
          disabled={busy || preview === undefined || preview.wrong !== undefined || (at !== undefined && !typed)}
        >
          So it is
        </Button>
        <Button size="sm" variant="outline-secondary" onClick={onDone}>
          Leave it
        </Button>
      </div>
    </Form>
  );
}
