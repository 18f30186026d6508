import { nameKey } from '../paths/paths';
import { gameCardSchema, type GameCard } from './card';
import { SENTENCE_FORMS, type BlankKind, type SentenceForm } from './sentenceForms';

/** A blank of a sentence. */
export interface Blank {
  field: string;
  kind: BlankKind;
  optional: boolean;
}

/** Words, a blank, or words that are only said where their blank is filled. */
export type Piece = { text: string } | { blank: Blank } | { some: Piece[] };

/** Something that a card says, as a sentence with its blanks filled. */
export interface Sentence {
  form: string;
  /** Where in the card it stands. */
  at: (string | number)[];
  values: Record<string, string>;
}

type Data = Record<string, unknown>;
const plain = (value: unknown): string => (typeof value === 'string' ? value : typeof value === 'number' ? String(value) : '');
const isData = (value: unknown): value is Data => typeof value === 'object' && value !== null && !Array.isArray(value);

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
    found.push(some === undefined ? { blank: { field, kind: kind as BlankKind, optional: optional !== undefined } } : { some: parse(some) });
    at = one.index + whole.length;
  }
  if (at < text.length) found.push({ text: text.slice(at) });
  return found;
}

export const blanksOf = (form: SentenceForm): Blank[] => {
  const flat = (some: readonly Piece[]): Blank[] => some.flatMap((piece) => ('blank' in piece ? [piece.blank] : 'some' in piece ? flat(piece.some) : []));
  return flat(piecesOf(form));
};

/** A sentence as it is read: what is empty and may be is left away. */
export function saidAs(form: SentenceForm, values: Readonly<Record<string, string>>, show: (blank: Blank, value: string) => string = (_, value) => value): string {
  const say = (some: readonly Piece[]): string => some.map((piece) => ('text' in piece ? piece.text : 'blank' in piece ? show(piece.blank, values[piece.blank.field] ?? '') : blanksFilled(piece.some, values) ? say(piece.some) : '')).join('');
  return say(piecesOf(form)).replace(/Why: \.|Called \./g, '').replace(/\s+([,;.:])/g, '$1').replace(/[;,](?=\.)/g, '').replace(/\.{2,}/g, '.').replace(/: ?\./g, '.').replace(/ {2,}/g, ' ').trim();
}

const blanksFilled = (some: readonly Piece[], values: Readonly<Record<string, string>>): boolean => some.some((piece) => 'blank' in piece && (values[piece.blank.field] ?? '') !== '');

export const formOf = (id: string): SentenceForm | undefined => SENTENCE_FORMS.find((form) => form.id === id);

/** Everything that a card says, as sentences, in the order of the forms. */
export function sentencesIn(card: GameCard): Sentence[] {
  const taken = new Set<unknown>();
  return SENTENCE_FORMS.flatMap((form) =>
    elementsOf(card, form).flatMap(({ at, element, parent }) => {
      if (taken.has(element) || !fits(form, element)) return [];
      taken.add(element);
      const values = Object.fromEntries(blanksOf(form).map(({ field, kind }) => [field, form.of?.blank === field ? plain(parent?.[form.of.by]) : toText(kind, read(element, field))]));
      return [{ form: form.id, at, values }];
    }));
}

/** What a sentence says, wherever in its card it stands: the same for two that say the same. */
export const sentenceKey = ({ form, values }: Sentence): string => JSON.stringify([form, Object.entries(values).filter(([, value]) => value !== '').sort(([a], [b]) => (a < b ? -1 : 1))]);

/** Sentences that another card says and this one does not, and the other way round. */
export function cardDifference(card: GameCard, other: GameCard): { came: Sentence[]; went: Sentence[] } {
  const less = (of: GameCard, than: GameCard) => {
    const known = new Set(sentencesIn(than).map(sentenceKey));
    return sentencesIn(of).filter((one) => !known.has(sentenceKey(one)));
  };
  return { came: less(other, card), went: less(card, other) };
}

/** Is it one of this form: with all that is always so, and nothing missing that has to be filled in? */
const fits = (form: SentenceForm, element: Data): boolean =>
  Object.entries(form.fixed ?? {}).every(([field, value]) => element[field] === value)
  && blanksOf(form).every(({ field, optional }) => optional || form.of?.blank === field || read(element, field) !== undefined)
  && (form.id !== 'launch' || element.file !== undefined);

function elementsOf(card: GameCard, form: SentenceForm): { at: (string | number)[]; element: Data; parent?: Data }[] {
  const held = (owner: Data, path: (string | number)[]): { at: (string | number)[]; element: Data }[] => {
    const names = form.in.split('.');
    const value = read(owner, form.in);
    if (Array.isArray(value)) return value.filter(isData).map((element, i) => ({ at: [...path, ...names, i], element }));
    return isData(value) ? [{ at: [...path, ...names], element: value }] : [];
  };
  if (!form.of) return held(card, []);
  const parents = read(card, form.of.list);
  return Array.isArray(parents) ? parents.filter(isData).flatMap((parent, i) => held(parent, [form.of?.list ?? '', i]).map((one) => ({ ...one, parent }))) : [];
}

function read(owner: unknown, path: string): unknown {
  let at = owner;
  for (const name of path.split('.')) at = isData(at) ? at[name] : undefined;
  return at;
}

function write(owner: Data, path: string, value: unknown): void {
  const names = path.split('.');
  const last = names.pop() as string;
  let at = owner;
  for (const name of names) at = (isData(at[name]) ? at[name] : (at[name] = {}));
  if (value === undefined) delete at[last];
  else at[last] = value;
  // What nothing stands in any more goes.
  if (value === undefined && names.length > 0 && Object.keys(at).length === 0) write(owner, names.join('.'), undefined);
}

/** Items with commas between; those in braces belong to one name. */
const list = (value: string): string[] => value.split(/,(?![^{}]*\})/).map((one) => one.trim()).filter(Boolean);

function toText(kind: BlankKind, value: unknown): string {
  if (value === undefined || value === null) return '';
  if (kind === 'path') return (value as string[]).join(' › ');
  if (kind === 'names' || kind === 'targets') return (value as string[]).join(', ');
  if (kind === 'like') return patternToLike(plain(value));
  if (kind === 'id like') return patternToId(plain(value));
  if (kind === 'fields') return Object.entries(value as Record<string, string[]>).map(([name, path]) => `${name} = ${path.join('.')}`).join(', ');
  return plain(value);
}

function toValue(kind: BlankKind, text: string): unknown {
  if (text.trim() === '') return undefined;
  if (kind === 'path') return text.split(/[›>]/).map((one) => one.trim()).filter(Boolean);
  if (kind === 'names' || kind === 'targets') return list(text);
  if (kind === 'number') return Number(text);
  if (kind === 'like') return likeToPattern(text);
  if (kind === 'id like') return idToPattern(text);
  if (kind === 'fields') return Object.fromEntries(list(text).map((one) => [one.slice(0, one.indexOf('=')).trim(), one.slice(one.indexOf('=') + 1).trim().split('.')]));
  return text;
}

const escape = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&');

/** An example of a line as an expression: `{name}` changes and is known by that name, numbers change, `/…/` is an expression already. */
export function likeToPattern(like: string): string {
  const own = /^\/(.+)\/$/s.exec(like)?.[1];
  if (own !== undefined) return own;
  return like.split(/(\{[a-z]\w{0,30}\})/i).map((part) => (/^\{\w+\}$/.test(part) ? `(?<${part.slice(1, -1)}>.+?)` : escape(part).replace(/\d+/g, '\\d+'))).join('') + (like.endsWith('}') ? '$' : '');
}

function patternToLike(pattern: string): string {
  const like = pattern.replace(/\$$/, '').replace(/\(\?<(\w+)>\.\+\?\)/g, '{$1}').replaceAll('\\d+', '1').replace(/\\([.*+?^${}()|[\]\\/-])/g, '$1');
  return likeToPattern(like) === pattern ? like : `/${pattern}/`;
}

/** An example of an id as an expression: any letter where a letter stands, any digit where a digit does. */
export function idToPattern(id: string): string {
  const own = /^\/(.+)\/$/s.exec(id)?.[1];
  return own ?? [...id].map((sign) => (/\p{L}/u.test(sign) ? '[A-Za-z]' : /\d/.test(sign) ? '\\d' : escape(sign))).join('');
}

function patternToId(pattern: string): string {
  const id = pattern.replaceAll('[A-Za-z]', 'A').replaceAll('\\d', '0').replace(/\\([.*+?^${}()|[\]\\/-])/g, '$1');
  return idToPattern(id) === pattern ? id : `/${pattern}/`;
}

const NEEDS_ID = new Set(['places', 'switches', 'editions', 'recipes', 'contents', 'log.rules']);
const slug = (text: string): string => text.normalize('NFKD').toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '').slice(0, 40) || 'told';

export type Told = { ok: true; card: GameCard } | { ok: false; field: string | undefined; why: string };

/**
 * The card with a sentence in it: a new one, or in the place of one that is there.
 *
 * @param at where the old one stands
 */
export function tell(card: GameCard, form: SentenceForm, values: Readonly<Record<string, string>>, at?: readonly (string | number)[]): Told {
  const blanks = blanksOf(form);
  const empty = blanks.find(({ field, optional }) => !optional && (values[field] ?? '').trim() === '');
  if (empty) return { ok: false, field: empty.field, why: 'This has to be filled in.' };
  const bad = blanks.find(({ field, kind }) => kind === 'number' && Number.isNaN(Number(values[field] ?? '')));
  if (bad) return { ok: false, field: bad.field, why: 'This has to be a number.' };
  const made = structuredClone(card) as unknown as Data;
  const before = at && (valueAt(made, at) as Data | undefined);
  const element: Data = before ?? structuredClone({ ...(form.single ? ((existing(made, form, values) as Data | undefined) ?? {}) : {}), ...form.fixed });
  for (const { field, kind } of blanks) if (form.of?.blank !== field) write(element, field, toValue(kind, (values[field] ?? '').trim() === '' ? (form.otherwise?.[field] ?? '') : (values[field] as string)));
  const home = listFor(made, form, values);
  if (!home) return { ok: false, field: form.of?.blank, why: 'The card knows no such thing yet: tell that first.' };
  const { owner, name } = home;
  if (form.single || form.in === 'titles.sealed') owner[name] = element;
  else {
    const all = (Array.isArray(owner[name]) ? owner[name] : (owner[name] = [])) as Data[];
    if (NEEDS_ID.has(form.in) && element.id === undefined) {
      const base = slug(plain(element.title) || plain(element.says) || form.id);
      const ids = new Set(all.map(({ id }) => id));
      element.id = [base, ...Array.from({ length: 500 }, (_, i) => `${base}-${i + 2}`)].find((id) => !ids.has(id));
    }
    if (!before) all.push(element);
    else if (!all.includes(element)) {
      // It belongs to another one now.
      drop(made, at);
      all.push(element);
    }
  }
  return checked(made, blanks);
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
  return { ok: false, field: blanks.find(({ field }) => field.split('.').every((name) => path.includes(name)))?.field, why: `${issue?.message ?? 'It does not fit.'}` };
}

function valueAt(owner: unknown, at: readonly (string | number)[]): unknown {
  let value = owner;
  for (const name of at) value = typeof value === 'object' && value !== null ? (value as Record<string | number, unknown>)[name] : undefined;
  return value;
}

function drop(made: Data, at: readonly (string | number)[]): void {
  const owner = valueAt(made, at.slice(0, -1));
  const last = at.at(-1);
  if (Array.isArray(owner) && typeof last === 'number') owner.splice(last, 1);
  else if (isData(owner) && last !== undefined) delete owner[last];
}

/** Where an element of a form lies, or would. */
function listFor(made: Data, form: SentenceForm, values: Readonly<Record<string, string>>): { owner: Data; name: string } | undefined {
  let owner: Data | undefined = made;
  if (form.of) {
    const { list: of, by, blank } = form.of;
    const parents = made[of];
    owner = Array.isArray(parents) ? parents.filter(isData).find((one) => nameKey(plain(one[by])) === nameKey(values[blank] ?? '')) : undefined;
  }
  const names = form.in.split('.');
  const name = names.pop() as string;
  // The launch line's options need no line that is kept anywhere; a log's rules and a title's names need those.
  for (const one of names) owner = owner && (isData(owner[one]) ? owner[one] : one === 'launch' ? ((owner[one] = {})) : undefined);
  return owner && { owner, name };
}

const existing = (made: Data, form: SentenceForm, values: Readonly<Record<string, string>>): unknown => {
  const home = listFor(made, form, values);
  return home?.owner[home.name];
};
