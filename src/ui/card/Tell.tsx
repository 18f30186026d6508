'use client';

import { useEffect, useId, useState, type FormEvent, type ReactNode } from 'react';
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

/** What would change for the packs that are here; where something is missing or wrong, that. */
function WouldChange({ preview, wrong }: { preview: TellingPreview | undefined; wrong: string | undefined }) {
  if (!preview) return null;
  if (preview.wrong) return <span className="quiet">{wrong ?? 'Fill in what is missing.'}</span>;
  if (preview.changes.length === 0) return <span className="quiet">For the packs that are here nothing changes.</span>;
  return (
    <ul className="reasons m-0" aria-label="What would change">
      {preview.changes.slice(0, 8).map(({ layer, pack, now, then }) => (
        <li key={layer}>
          <strong>{pack}</strong> {now} now, and then {then}.
        </li>
      ))}
      {preview.changes.length > 8 && <li>And {preview.changes.length - 8} more.</li>}
    </ul>
  );
}

/** One blank of the sentence, to choose or to write in. */
function BlankControl(p: {
  blank: Blank;
  value: string;
  wrong: boolean;
  options: readonly string[];
  onChange(text: string): void;
}) {
  const { blank, value, wrong, options, onChange: set } = p;
  const { field, kind, optional } = blank;
  const id = useId();
  const label = `${WORDS[field] ?? field.split('.').at(-1) ?? field}${optional ? ', if you like' : ''}`;
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
        list={options.length > 0 ? id : undefined}
        value={value}
        isInvalid={wrong}
        onChange={(event) => set(event.target.value)}
      />
      {options.length > 0 && (
        <datalist id={id}>
          {options.slice(0, 2000).map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </>
  );
}

/** A sentence as it reads, its blanks drawn by what is given; what may be left away is quiet. */
function Pieces({ some, draw }: { some: readonly Piece[]; draw(blank: Blank): ReactNode }) {
  return some.map((piece, i) => (
    <span key={i}>
      {'text' in piece && piece.text}
      {'blank' in piece && draw(piece.blank)}
      {'some' in piece && (
        <span className="quiet">
          <Pieces some={piece.some} draw={draw} />
        </span>
      )}
    </span>
  ));
}

/** What telling this sentence would change, asked a moment after the last letter. */
function usePreview(form: string, values: Record<string, string>, at?: (string | number)[]) {
  const { engine } = useEngine();
  const [preview, setPreview] = useState<TellingPreview>();
  const key = JSON.stringify(values);
  useEffect(() => {
    let current = true;
    const timer = setTimeout(
      () =>
        void engine?.ask({ ask: 'preview telling', form, values: JSON.parse(key) as Record<string, string>, at }).then(
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
  }, [engine, form, key]);
  return preview;
}

/** The values of blanks as they are shown, or as the card has them. */
function inBlanks(
  form: string,
  values: Record<string, string>,
  turn: (kind: Blank['kind'], text: string) => string,
): Record<string, string> {
  const kinds = new Map(blanksOf(formOf(form) ?? NO_FORM).map(({ field, kind }) => [field, kind]));
  return Object.fromEntries(
    Object.entries(values).map(([field, text]) => [field, turn(kinds.get(field) ?? 'text', text)]),
  );
}

/** One sentence with its blanks to fill in, and what telling it would change for the packs that are here. */
export function Tell({ form: id, choices, at, values: told = {}, onDone }: TellProps) {
  const { act, busy } = useEngine();
  const { roots } = useGame();
  const first = inBlanks(id, told, (kind, text) => shownBlank(kind, text, roots));
  const [written, setValues] = useState(first);
  const values = inBlanks(id, written, (kind, text) => meantBlank(kind, text.trim(), roots));
  const preview = usePreview(id, values, at);
  const form = formOf(id);
  if (!form) return null;
  const typed = blanksOf(form).some(({ field }) => (written[field] ?? '') !== (first[field] ?? ''));
  const wrong = preview?.wrong;
  const wrongField = typed ? wrong?.field : undefined;
  const tell = async (event: FormEvent) => {
    event.preventDefault();
    const done = await act(async (one) => {
      await one.change({ do: 'tell', form: id, values, at });
      return true;
    });
    if (done) onDone();
  };
  const draw = (blank: Blank) => {
    const value = written[blank.field] ?? '';
    return (
      <BlankControl
        blank={blank}
        value={value}
        wrong={wrongField === blank.field && value !== ''}
        options={optionsFor(blank, choices).map((one) => shownBlank(blank.kind, one, roots))}
        onChange={(text) => setValues({ ...written, [blank.field]: text })}
      />
    );
  };
  return (
    <Form className="notice note sentence" aria-label={form.title} onSubmit={(event) => void tell(event)}>
      <p className="m-0">
        <Pieces some={piecesOf(form)} draw={draw} />
      </p>
      <div className="small" role="status">
        <WouldChange
          preview={preview}
          wrong={wrongField !== undefined && values[wrongField] ? wrong?.why : undefined}
        />
      </div>
      <div className="row-of">
        <Button
          size="sm"
          type="submit"
          disabled={busy || preview === undefined || wrong !== undefined || (at !== undefined && !typed)}
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
