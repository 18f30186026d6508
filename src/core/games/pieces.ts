import { SENTENCE_FORMS, type BlankKind, type SentenceForm } from './sentenceForms';

/** A blank of a sentence. */
export interface Blank {
  field: string;
  kind: BlankKind;
  optional: boolean;
}

/** Words, a blank, or words that are only said where their blank is filled. */
export type Piece = { text: string } | { blank: Blank } | { some: Piece[] };

const pieces = new Map<string, Piece[]>();

/** The words and blanks of a form, in their order. */
export function piecesOf({ id, text }: SentenceForm): Piece[] {
  const known = pieces.get(id) ?? parse(text);
  pieces.set(id, known);
  return known;
}

function parse(text: string): Piece[] {
  const found: Piece[] = [];
  let at = 0;
  for (const one of text.matchAll(/\(([^()]*)\)|\{([\w.]+)\|([\w ]+)(\?)?\}/g)) {
    if (one.index > at) found.push({ text: text.slice(at, one.index) });
    const [whole, some, field = '', kind = '', optional] = one;
    found.push(
      some === undefined
        ? { blank: { field, kind: kind as BlankKind, optional: optional !== undefined } }
        : { some: parse(some) },
    );
    at = one.index + whole.length;
  }
  if (at < text.length) found.push({ text: text.slice(at) });
  return found;
}

export const blanksOf = (form: SentenceForm): Blank[] => {
  const flat = (some: readonly Piece[]): Blank[] =>
    some.flatMap((piece) => ('blank' in piece ? [piece.blank] : 'some' in piece ? flat(piece.some) : []));
  return flat(piecesOf(form));
};

/** A sentence as it is read: what is empty and may be is left away. */
export function saidAs(
  form: SentenceForm,
  values: Readonly<Record<string, string>>,
  show: (blank: Blank, value: string) => string = (_, value) => value,
): string {
  const say = (some: readonly Piece[]): string =>
    some
      .map((piece) =>
        'text' in piece
          ? piece.text
          : 'blank' in piece
            ? show(piece.blank, values[piece.blank.field] ?? '')
            : blanksFilled(piece.some, values)
              ? say(piece.some)
              : '',
      )
      .join('');
  return say(piecesOf(form))
    .replace(/Why: \.|Called \./g, '')
    .replace(/\s+([,;.:])/g, '$1')
    .replace(/[;,](?=\.)/g, '')
    .replace(/\.{2,}/g, '.')
    .replace(/: ?\./g, '.')
    .replace(/ {2,}/g, ' ')
    .trim();
}

const blanksFilled = (some: readonly Piece[], values: Readonly<Record<string, string>>): boolean =>
  some.some((piece) => 'blank' in piece && (values[piece.blank.field] ?? '') !== '');

export const formOf = (id: string): SentenceForm | undefined => SENTENCE_FORMS.find((form) => form.id === id);
