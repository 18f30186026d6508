/*
 * What goes out to somebody else, without what is the player's own: names of home folders, addresses of people, keys
 * in addresses of the web.
 */

/**
 * Takes the player's name and home folder out of a text: `C:\Users\ada\…`, `/home/ada/…` and `/Users/ada/…` become
 * `~/…`.
 *
 * @example withoutHome('C:\\Users\\ada\\Games') // '~\\Games'
 */
export const withoutHome = (text: string): string =>
  text
    .replace(/(?:[A-Za-z]:)?[\\/]+(?:Users|home|Documents and Settings)[\\/]+[^\\/\r\n"'`<>|:*?]+/gi, '~')
    .replace(/\/root(?=[\\/\s]|$)/g, '~');

/** A parameter of an address that only says which thing is meant: a number, or a few words. */
const TELLS_WHICH = /^(?:\d{1,10}|[a-z][a-z-]{0,24})$/i;
const IS_KEY = /token|key|sig|auth|pass|session|sid|user|mail|hash|expire|ticket/i;

/**
 * An address of the web without what may be the player's own: user and password, the part behind `#`, and all
 * parameters but those that say which thing is meant.
 *
 * @returns undefined where it is no address of the web (WHATWG URL Standard, `http` or `https`)
 */
export function publicAddress(address: string): string | undefined {
  const url = URL.canParse(address.trim()) ? new URL(address.trim()) : undefined;
  if (!url || !['http:', 'https:'].includes(url.protocol)) return undefined;
  const kept = [...url.searchParams].filter(([name, value]) => TELLS_WHICH.test(value) && !IS_KEY.test(name));
  url.search = new URLSearchParams(kept).toString();
  url.hash = '';
  url.username = '';
  url.password = '';
  return url.toString();
}

/** A text of the player's without home folders, addresses of people, and keys in addresses of the web. */
export const withoutPrivate = (text: string): string =>
  text
    // What ends a sentence is no part of an address in it.
    .split(/(https?:\/\/[^\s<>"']*[^\s<>"'.,;:!?)\]])/i)
    .map((piece, i) =>
      i % 2 === 1
        ? (publicAddress(piece) ?? '(an address)')
        : withoutHome(piece).replace(/[\w.+-]+@[\w-]+(?:\.[\w-]+)+/g, '(an address)'),
    )
    .join('');
