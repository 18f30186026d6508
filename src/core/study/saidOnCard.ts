import type { Sentence } from '../games/sentences';
import { baseName, nameKey, parentOf } from '../paths/paths';
import { isNamingKey } from './settingsStudy';
import type { Statement } from '../games/statement';

/** The sentences of a card that say what was found: shown once, as found, not as something the player told. */
export function saidOnCard({ about }: Statement, sentences: readonly Sentence[]): Sentence[] {
  const of = (form: string, same: (values: Record<string, string>) => boolean) =>
    sentences.filter((one) => one.form === form && same(one.values));
  const naming = (same: (file: string) => boolean) =>
    ['key', 'list'].flatMap((form) => of(form, ({ file = '', meaning = '' }) => same(file) && isNamingKey(meaning)));
  const isOfThings = (file: string) =>
    about.what === 'values of things' &&
    nameKey(baseName(file)) === nameKey(about.name) &&
    nameKey(parentOf(parentOf(file))) === nameKey(about.folder);
  switch (about.what) {
    case 'root':
      return of('root', ({ id }) => id === about.root);
    case 'profiles':
      return of('profiles', () => true);
    case 'settings':
      return [...of('settings', ({ target }) => target === about.file), ...naming((file) => file === about.file)];
    case 'log':
      return of('log', ({ target }) => target === about.file);
    case 'numbered':
    case 'search':
      return of(about.what, ({ file }) => file === about.file);
    case 'values of things':
      return [...of('settings', ({ target = '' }) => isOfThings(target)), ...naming(isOfThings)];
    default:
      return [];
  }
}
