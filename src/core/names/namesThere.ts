import { onceFor } from '../once';
import { extensionOf, stemOf } from '../paths/paths';
import { idForm } from './ids';
import { formOf } from './knowledge';
import { isLanguage } from './languages';

/** What the names of files in one folder have in common: how many there are of each. */
export interface NamesThere {
  /** By ending and form of the name (`commonOf`). */
  forms: ReadonlyMap<string, number>;
  /** By ending and form of an id. */
  ids: ReadonlyMap<string, number>;
  /** By name with its number left open (`withoutNumber`). */
  series: ReadonlyMap<string, number>;
  /** Codes and names of languages, by ending. */
  languages: ReadonlyMap<string, number>;
}

/** `patch#.pak` for `patch3.pak`; undefined where no letters stand before the number. */
export const withoutNumber = (name: string): string | undefined =>
  /\p{L}{2}[ _.-]?\d{1,4}$/u.test(stemOf(name)) ? name.replace(/\d{1,4}(?=\.[^.]*$|$)/, '#') : undefined;

/** What a name counts under in `forms` and `ids`: a form together with the file's ending. */
export const commonOf = (name: string, form: string): string => `${extensionOf(name)}/${form}`;

/**
 * Counted once for each folder: many files are held against it.
 *
 * @param names the keys of the files straight in a folder
 */
export const namesThere = onceFor((names: ReadonlyMap<string, unknown>): NamesThere => {
  const forms = new Map<string, number>();
  const ids = new Map<string, number>();
  const series = new Map<string, number>();
  const languages = new Map<string, number>();
  const count = (counts: Map<string, number>, what: string): void => void counts.set(what, (counts.get(what) ?? 0) + 1);
  for (const name of names.keys()) {
    count(forms, commonOf(name, formOf(name)));
    const number = withoutNumber(name);
    if (number !== undefined) count(series, number);
    const id = idForm(stemOf(name));
    if (id !== undefined) count(ids, commonOf(name, id));
    if (isLanguage(name)) count(languages, extensionOf(name));
  }
  return { forms, ids, series, languages };
});
