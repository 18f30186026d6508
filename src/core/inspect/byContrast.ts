import { nameKey } from '../paths/paths';
import { IS, STANDS, type Token } from './settingsWords';

/* Values that are said by contrast with what stands there now. */

export const keyAt = (tokens: readonly Token[], at: number): string => tokens[at]?.key ?? '';

/** Does what stands around a word say that it comes in place of the value now? */
export const isByContrast = (tokens: readonly Token[], at: number, now: string): boolean =>
  (isInstead(tokens, at, now) && keyAt(tokens, at + 1) !== 'not') ||
  isInPlaceOf(tokens, at, now) ||
  isContrasted(tokens, at, now) ||
  isBehindOld(tokens, at, now);

/** “all instead of own”, where it is `own` now: any word can be a value. */
export const isInstead = (tokens: readonly Token[], at: number, now: string): boolean =>
  // „Bei oil steht statt colza sperm“: the verb is no value.
  ![IS, STANDS].some((verb) => verb.test(keyAt(tokens, at))) &&
  /^(?:instead|rather|not|statt|anstatt|anstelle|lugar|lieu)$/.test(keyAt(tokens, at + 1)) &&
  [2, 3].some((far) => keyAt(tokens, at + far) === nameKey(now));

/** “blue in place of amber”, „Blau an Stelle von Gelb“. */
const isInPlaceOf = (tokens: readonly Token[], at: number, now: string): boolean =>
  /^(?:in place of|in lieu of|en lugar de|en vez de|au lieu de|à la place de|an stelle von)$/.test(
    [1, 2, 3].map((far) => keyAt(tokens, at + far)).join(' '),
  ) && keyAt(tokens, at + 4) === nameKey(now);

/** “no longer auto but manual” */
const isContrasted = (tokens: readonly Token[], at: number, now: string): boolean =>
  /^(?:but|sondern|sino)$/.test(keyAt(tokens, at - 1)) &&
  [2, 3, 4].some((far) => keyAt(tokens, at - far) === nameKey(now));

/** „statt many few eintragen“, „aus many few machen“ */
export const isBehindOld = (tokens: readonly Token[], at: number, now: string): boolean =>
  keyAt(tokens, at - 1) === nameKey(now) &&
  /^(?:statt|anstatt|aus)$/.test(keyAt(tokens, at - 2)) &&
  /^(?:ein\p{L}*|künftig|jetzt|nun|schreib\p{L}*|setz\p{L}*|steh\p{L}*|nehm\p{L}*|wähl\p{L}*|mach\p{L}*|werden|haben|sein)$/u.test(
    keyAt(tokens, at + 1),
  );

/** “Exchange classic for dusk”: what comes in its place. */
export const isExchanged = (tokens: readonly Token[], at: number): boolean =>
  /^(?:for|gegen|por|contre)$/.test(keyAt(tokens, at - 1)) &&
  tokens
    .slice(Math.max(0, at - 6), at)
    .some(({ key }) => /^(?:exchange|swap|trade|substitute|tausche|cambia)$/.test(key));
