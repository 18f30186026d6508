import { gameCardSchema, type GameCard } from './card';
import { drop, elementsOf, existing, fits, listFor, plain, read, valueAt, write, type Data } from './cardData';
import { toText, toValue } from './patterns';
import { blanksOf, type Blank } from './pieces';
import { SENTENCE_FORMS, type SentenceForm } from './sentenceForms';

/** Something that a card says, as a sentence with its blanks filled. */
export interface Sentence {
  form: string;
  /** Where in the card it stands. */
  at: (string | number)[];
  values: Record<string, string>;
}

/** Everything that a card says, as sentences, in the order of the forms. */
export function sentencesIn(card: GameCard): Sentence[] {
  const taken = new Set<unknown>();
  return SENTENCE_FORMS.flatMap((form) =>
    elementsOf(card, form).flatMap(({ at, element, parent }) => {
      if (taken.has(element) || !fits(form, element)) return [];
      taken.add(element);
      const values = Object.fromEntries(
        blanksOf(form).map(({ field, kind }) => [
          field,
          form.of?.blank === field ? plain(parent?.[form.of.by]) : toText(kind, read(element, field)),
        ]),
      );
      return [{ form: form.id, at, values }];
    }),
  );
}

/** What a sentence says, wherever in its card it stands: the same for two that say the same. */
export const sentenceKey = ({ form, values }: Sentence): string =>
  JSON.stringify([
    form,
    Object.entries(values)
      .filter(([, value]) => value !== '')
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  ]);

/** Sentences that another card says and this one does not, and the other way round. */
export function cardDifference(card: GameCard, other: GameCard): { came: Sentence[]; went: Sentence[] } {
  const less = (of: GameCard, than: GameCard) => {
    const known = new Set(sentencesIn(than).map(sentenceKey));
    return sentencesIn(of).filter((one) => !known.has(sentenceKey(one)));
  };
  return { came: less(other, card), went: less(card, other) };
}

const NEEDS_ID = new Set(['places', 'switches', 'editions', 'recipes', 'contents', 'log.rules']);

const slug = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 40) || 'told';

export type Told = { ok: true; card: GameCard } | { ok: false; field: string | undefined; why: string };

/**
 * The card with a sentence in it: a new one, or in the place of one that is there.
 *
 * @param at where the old one stands
 */
export function tell(
  card: GameCard,
  form: SentenceForm,
  values: Readonly<Record<string, string>>,
  at?: readonly (string | number)[],
): Told {
  const blanks = blanksOf(form);
  const wrong = wrongBlank(blanks, values);
  if (wrong) return { ok: false, ...wrong };
  const made = structuredClone(card) as unknown as Data;
  const before = at && (valueAt(made, at) as Data | undefined);
  const element = before ?? newElement(made, form, values);
  for (const { field, kind } of blanks)
    if (form.of?.blank !== field) write(element, field, toValue(kind, filled(form, field, values)));
  const home = listFor(made, form, values);
  if (!home) return { ok: false, field: form.of?.blank, why: 'The card knows no such thing yet: tell that first.' };
  const { owner, name } = home;
  if (form.single || form.in === 'titles.sealed') owner[name] = element;
  else {
    const all = (Array.isArray(owner[name]) ? owner[name] : (owner[name] = [])) as Data[];
    // It belongs to another one now.
    if (before && !all.includes(element)) drop(made, at);
    addTo(all, element, form);
  }
  return checked(made, blanks);
}

function addTo(all: Data[], element: Data, form: SentenceForm): void {
  if (NEEDS_ID.has(form.in) && element.id === undefined) element.id = freeId(element, form, all);
  if (!all.includes(element)) all.push(element);
}

function wrongBlank(
  blanks: readonly Blank[],
  values: Readonly<Record<string, string>>,
): { field: string; why: string } | undefined {
  const empty = blanks.find(({ field, optional }) => !optional && (values[field] ?? '').trim() === '');
  if (empty) return { field: empty.field, why: 'This has to be filled in.' };
  const bad = blanks.find(({ field, kind }) => kind === 'number' && Number.isNaN(Number(values[field] ?? '')));
  return bad && { field: bad.field, why: 'This has to be a number.' };
}

/** What a blank holds, or what stands for it where it is left empty. */
const filled = (form: SentenceForm, field: string, values: Readonly<Record<string, string>>): string => {
  const value = values[field] ?? '';
  return value.trim() === '' ? (form.otherwise?.[field] ?? '') : value;
};

/** What the card has of it already, where it can have one only, with what the form always says. */
function newElement(made: Data, form: SentenceForm, values: Readonly<Record<string, string>>): Data {
  const known = form.single ? (existing(made, form, values) as Data | undefined) : undefined;
  return structuredClone({ ...known, ...form.fixed });
}

function freeId(element: Data, form: SentenceForm, all: readonly Data[]): string | undefined {
  const base = slug(plain(element.title) || plain(element.says) || form.id);
  const ids = new Set(all.map(({ id }) => id));
  return [base, ...Array.from({ length: 500 }, (_, i) => `${base}-${i + 2}`)].find((id) => !ids.has(id));
}

/** The card without a sentence. */
export function untell(card: GameCard, at: readonly (string | number)[]): Told {
  const made = structuredClone(card) as unknown as Data;
  drop(made, at);
  return checked(made, []);
}

function checked(made: Data, blanks: readonly Blank[]): Told {
  const read = gameCardSchema.safeParse(made);
  if (read.success) return { ok: true, card: read.data };
  const [issue] = read.error.issues;
  const path = (issue?.path ?? []).map(String);
  return {
    ok: false,
    field: blanks.find(({ field }) => field.split('.').every((name) => path.includes(name)))?.field,
    why: `${issue?.message ?? 'It does not fit.'}`,
  };
}
