import { list, plain } from './cardData';
import type { BlankKind } from './sentenceForms';

export function toText(kind: BlankKind, value: unknown): string {
  if (value === undefined || value === null) return '';
  if (kind === 'path') return (value as string[]).join(' › ');
  if (kind === 'names' || kind === 'targets') return (value as string[]).join(', ');
  if (kind === 'like') return patternToLike(plain(value));
  if (kind === 'id like') return patternToId(plain(value));
  if (kind === 'fields')
    return Object.entries(value as Record<string, string[]>)
      .map(([name, path]) => `${name} = ${path.join('.')}`)
      .join(', ');
  return plain(value);
}

export function toValue(kind: BlankKind, text: string): unknown {
  if (text.trim() === '') return undefined;
  if (kind === 'path')
    return text
      .split(/[›>]/)
      .map((one) => one.trim())
      .filter(Boolean);
  if (kind === 'names' || kind === 'targets') return list(text);
  if (kind === 'number') return Number(text);
  if (kind === 'like') return likeToPattern(text);
  if (kind === 'id like') return idToPattern(text);
  if (kind === 'fields')
    return Object.fromEntries(
      list(text).map((one) => [
        one.slice(0, one.indexOf('=')).trim(),
        one
          .slice(one.indexOf('=') + 1)
          .trim()
          .split('.'),
      ]),
    );
  return text;
}

const escape = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&');

/**
 * An example of a line as an expression: `{name}` changes and is known by that name, numbers change, `/…/` is an
 * expression already.
 */
export function likeToPattern(like: string): string {
  const own = /^\/(.+)\/$/s.exec(like)?.[1];
  if (own !== undefined) return own;
  return (
    like
      .split(/(\{[a-z]\w{0,30}\})/i)
      .map((part) => (/^\{\w+\}$/.test(part) ? `(?<${part.slice(1, -1)}>.+?)` : escape(part).replace(/\d+/g, '\\d+')))
      .join('') + (like.endsWith('}') ? '$' : '')
  );
}

function patternToLike(pattern: string): string {
  const like = pattern
    .replace(/\$$/, '')
    .replace(/\(\?<(\w+)>\.\+\?\)/g, '{$1}')
    .replaceAll('\\d+', '1')
    .replace(/\\([.*+?^${}()|[\]\\/-])/g, '$1');
  return likeToPattern(like) === pattern ? like : `/${pattern}/`;
}

/** An example of an id as an expression: any letter where a letter stands, any digit where a digit does. */
export function idToPattern(id: string): string {
  const own = /^\/(.+)\/$/s.exec(id)?.[1];
  return (
    own ?? [...id].map((sign) => (/\p{L}/u.test(sign) ? '[A-Za-z]' : /\d/.test(sign) ? '\\d' : escape(sign))).join('')
  );
}

function patternToId(pattern: string): string {
  const id = pattern
    .replaceAll('[A-Za-z]', 'A')
    .replaceAll('\\d', '0')
    .replace(/\\([.*+?^${}()|[\]\\/-])/g, '$1');
  return idToPattern(id) === pattern ? id : `/${pattern}/`;
}
