import { nameKey } from './paths';

/**
 * The words of a search as they are looked for in name keys: every one has to be there. Spaces and the mark between the
 * parts of a shown key (›) part them.
 */
export const searchWords = (search: string): string[] =>
  nameKey(search)
    .split(/[\s›]+/)
    .filter(Boolean);

/** Whether a name key holds every word. */
export const holdsAll = (key: string, words: readonly string[]): boolean => words.every((word) => key.includes(word));

/**
 * A search for targets as somebody types it who reads places with the titles of the game's folders: the titles become
 * the ids that targets begin with, and a backslash is taken for the slash.
 *
 * @param roots ids and titles of the game's folders
 */
export function asTargets(search: string, roots: readonly { id: string; title: string }[]): string {
  const typed = nameKey(search.replaceAll('\\', '/')).trim();
  const longestFirst = [...roots].sort((a, b) => b.title.length - a.title.length);
  for (const { id, title } of longestFirst) {
    const shown = nameKey(title);
    if (typed === shown) return `${id}/`;
    const at = typed.indexOf(`${shown}/`);
    if (at === 0 || (at > 0 && typed[at - 1] === ' '))
      return `${typed.slice(0, at)}${id}/${typed.slice(at + shown.length + 1).trimStart()}`;
  }
  return typed;
}

/**
 * A target or a folder of the game as people read it: the title of its root instead of the id.
 *
 * @param roots ids and titles of the game's folders
 * @example shownPlace('program/assets', [{ id: 'program', title: 'Program folder' }]) // 'Program folder/assets'
 */
export function shownPlace(of: string, roots: readonly { id: string; title: string }[]): string {
  const cut = of.indexOf('/');
  const id = cut < 0 ? of : of.slice(0, cut);
  return `${roots.find((root) => root.id === id)?.title ?? id}${cut < 0 ? '' : of.slice(cut)}`;
}
