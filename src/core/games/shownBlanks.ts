import { shownPlace } from '../paths/search';
import type { Blank } from './pieces';

interface Root {
  id: string;
  title: string;
}

/** Blanks that hold places of the game: players see a folder by what it is called, never by its id. */
const PLACES = new Set<Blank['kind']>(['folder', 'file', 'settings file', 'targets', 'target like', 'root']);

/** Several stand with commas between, and braces may hold commas. */
const each = (text: string, one: (part: string) => string): string =>
  text
    .split(/(,(?![^{}]*\})\s*)/)
    .map((part, i) => (i % 2 === 0 ? one(part) : part))
    .join('');

/** What stands in a blank as people read it: places with the titles of the game's folders. */
export const shownBlank = (kind: Blank['kind'], text: string, roots: readonly Root[]): string =>
  PLACES.has(kind) ? each(text, (part) => (part === '' ? '' : shownPlace(part, roots))) : text;

/** What somebody typed into a blank who reads places as they are shown: `shownBlank` taken back. */
export const meantBlank = (kind: Blank['kind'], text: string, roots: readonly Root[]): string =>
  PLACES.has(kind)
    ? each(text, (part) => {
        const plain = part.trim().replaceAll('\\', '/').replace(/\/+$/, '');
        const root = roots.find(
          ({ title }) => plain === title || plain.toLowerCase().startsWith(`${title.toLowerCase()}/`),
        );
        return root ? root.id + plain.slice(root.title.length) : plain;
      })
    : text;
