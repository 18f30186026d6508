import { nameKey } from '../paths/paths';
import type { GameCard } from './card';
import { blanksOf } from './pieces';
import type { SentenceForm } from './sentenceForms';

export type Data = Record<string, unknown>;

export const plain = (value: unknown): string =>
  typeof value === 'string' ? value : typeof value === 'number' ? String(value) : '';

const isData = (value: unknown): value is Data => typeof value === 'object' && value !== null && !Array.isArray(value);

/** Is it one of this form: with all that is always so, and nothing missing that has to be filled in? */
export const fits = (form: SentenceForm, element: Data): boolean =>
  Object.entries(form.fixed ?? {}).every(([field, value]) => element[field] === value) &&
  blanksOf(form).every(
    ({ field, optional }) => optional || form.of?.blank === field || read(element, field) !== undefined,
  ) &&
  (form.id !== 'launch' || element.file !== undefined);

export function elementsOf(
  card: GameCard,
  form: SentenceForm,
): { at: (string | number)[]; element: Data; parent?: Data }[] {
  const held = (owner: Data, path: (string | number)[]): { at: (string | number)[]; element: Data }[] => {
    const names = form.in.split('.');
    const value = read(owner, form.in);
    if (Array.isArray(value))
      return value.filter(isData).map((element, i) => ({ at: [...path, ...names, i], element }));
    return isData(value) ? [{ at: [...path, ...names], element: value }] : [];
  };
  if (!form.of) return held(card, []);
  const parents = read(card, form.of.list);
  return Array.isArray(parents)
    ? parents
        .filter(isData)
        .flatMap((parent, i) => held(parent, [form.of?.list ?? '', i]).map((one) => ({ ...one, parent })))
    : [];
}

export function read(owner: unknown, path: string): unknown {
  let at = owner;
  for (const name of path.split('.')) at = isData(at) ? at[name] : undefined;
  return at;
}

export function write(owner: Data, path: string, value: unknown): void {
  const names = path.split('.');
  const last = names.pop() as string;
  let at = owner;
  for (const name of names) at = isData(at[name]) ? at[name] : (at[name] = {});
  if (value === undefined) delete at[last];
  else at[last] = value;
  // What nothing stands in any more goes.
  if (value === undefined && names.length > 0 && Object.keys(at).length === 0) write(owner, names.join('.'), undefined);
}

/** Items with commas between; those in braces belong to one name. */
export const list = (value: string): string[] =>
  value
    .split(/,(?![^{}]*\})/)
    .map((one) => one.trim())
    .filter(Boolean);

export function valueAt(owner: unknown, at: readonly (string | number)[]): unknown {
  let value = owner;
  for (const name of at)
    value = typeof value === 'object' && value !== null ? (value as Record<string | number, unknown>)[name] : undefined;
  return value;
}

export function drop(made: Data, at: readonly (string | number)[]): void {
  const owner = valueAt(made, at.slice(0, -1));
  const last = at.at(-1);
  if (Array.isArray(owner) && typeof last === 'number') owner.splice(last, 1);
  else if (isData(owner) && last !== undefined) delete owner[last];
}

/** Where an element of a form lies, or would. */
export function listFor(
  made: Data,
  form: SentenceForm,
  values: Readonly<Record<string, string>>,
): { owner: Data; name: string } | undefined {
  let owner: Data | undefined = made;
  if (form.of) {
    const { list: of, by, blank } = form.of;
    const parents = made[of];
    owner = Array.isArray(parents)
      ? parents.filter(isData).find((one) => nameKey(plain(one[by])) === nameKey(values[blank] ?? ''))
      : undefined;
  }
  const names = form.in.split('.');
  const name = names.pop() as string;
  // The launch line's options need no line that is kept anywhere; a log's rules and a title's names need those.
  for (const one of names)
    owner = owner && (isData(owner[one]) ? owner[one] : one === 'launch' ? (owner[one] = {}) : undefined);
  return owner && { owner, name };
}

export const existing = (made: Data, form: SentenceForm, values: Readonly<Record<string, string>>): unknown => {
  const home = listFor(made, form, values);
  return home?.owner[home.name];
};
