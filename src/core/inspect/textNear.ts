import { extensionOf, nameKey } from '../paths/paths';
import { isByContrast, isExchanged, isInstead, keyAt } from './byContrast';
import type { KeyIndex } from './keyIndex';
import { IS, NEVER, NEW, WRITE, isNumber, type Token } from './settingsWords';

/** A part of a sentence that is looked through for the value of a key. */
export interface Part {
  tokens: readonly Token[];
  now: string;
  from: number;
  to: number;
  /** The part lies behind the key. */
  behind: boolean;
}

/** What stands around a word says of it. */
export interface Seen {
  /** A small word or a verb that is hardly ever a value. */
  isWord: boolean;
  /** It stands behind an equals sign, a colon, or “write”. */
  direct: boolean;
  old: boolean;
  /** “to”, “is” stands before it. */
  isNew: boolean;
  /** That, or its place, says that a value comes. */
  cue: boolean;
}

/** The word as a value, where a text is wanted; undefined where nothing says that it is one. */
export function asText(part: Part, at: number, seen: Seen, index: KeyIndex): string | undefined {
  const token = part.tokens[at] as Token;
  const { quoted } = token;
  const text = isBeforeKey(part, at) ? inCaseOf(part.now, token.text) : token.text;
  if (isOnKey(part.tokens, at, part.now)) return text;
  const isSaid = quoted || seen.direct || nameKey(text) === nameKey(part.now);
  if (isSaid || (!seen.isWord && isToldAsValue(part, at)))
    return !index.isContainer(text) || seen.direct ? text : undefined;
  return isNumber(text) && seen.cue && part.behind ? text : undefined;
}

/** A word says that this one is the value, or it stands alone with the key. */
function isToldAsValue(part: Part, at: number): boolean {
  const { tokens, now, from, behind: after } = part;
  if (isNoFile(tokens[at]?.text ?? '', now)) return false;
  if (isByContrast(tokens, at, now) || isNamedBehind(part, at) || isBeforeKey(part, at)) return true;
  const led = ((after ? NEW : WRITE).test(keyAt(tokens, at - 1)) && !isOfOther(part, at)) || isExchanged(tokens, at);
  return (led && /[\p{L}\p{N}]/u.test((tokens[at] as Token).text)) || (after && at === from && standsAlone(tokens, at));
}

/** “Shadows high, otherwise the reticle is blurred”: what is said of something else than the key. */
function isOfOther({ tokens, from, behind }: Part, at: number): boolean {
  if (!behind || !IS.test(keyAt(tokens, at - 1))) return false;
  // “says which one is driven”
  if (tokens.slice(from, at - 1).some(({ key }) => WHICH.test(key))) return true;
  const clause = tokens.findLastIndex(({ fresh }, n) => fresh && n >= from && n < at);
  const said = clause < 0 ? [] : tokens.slice(clause, at - 1);
  return said.some(({ key, text, quoted, section }) => !NEVER.has(key) && !quoted && !section && !/[.\\/]/.test(text));
}

const WHICH = /^(?:which|who|whose|welche\p{L}?|wer|cuál|qui|quel\p{L}*)$/u;

/** “White lime instead of grey” */
const isBeforeKey = ({ tokens, to, now, behind: after }: Part, at: number): boolean =>
  !after && at === to - 1 && isInstead(tokens, to, now);

/** The first word of a sentence, in small letters where the value now is so. */
const inCaseOf = (now: string, text: string): string =>
  now === now.toLowerCase() && /^\p{Lu}\p{Ll}+$/u.test(text) ? text.toLowerCase() : text;

/** “the curtain is blue (colour)”, “it is blue (hall.ini, colour)” */
function isNamedBehind({ tokens, to, behind: after }: Part, at: number): boolean {
  const isFile = at === to - 2 && extensionOf(tokens[at + 1]?.text ?? '') !== '';
  return !after && (at === to - 1 || isFile) && tokens[at + 1]?.opens === true && NEW.test(keyAt(tokens, at - 1));
}

/** Where a file is named now, an ordinary word names none. */
const isNoFile = (text: string, now: string): boolean => extensionOf(now) !== '' && extensionOf(text) === '';

/** “Put Lamp on L”: one key of the keyboard for another. */
const isOnKey = (tokens: readonly Token[], at: number, now: string): boolean =>
  keyAt(tokens, at - 1) === 'on' && ONE_KEY.test(now) && ONE_KEY.test(keyAt(tokens, at));
const ONE_KEY = /^(?:[a-z0-9]|f\d{1,2})$/i;

/** “…, user_art_dir art, …”, “set skin dusk”: a key and its value between commas, or behind the verb. */
export const standsAlone = (tokens: readonly Token[], value: number): boolean =>
  beginsThere(tokens, value) &&
  !tokens[value]?.fresh &&
  ((tokens[value + 1]?.fresh ?? true) || /^(?:where|wo|donde|où)$/.test(keyAt(tokens, value + 1)));

/** Begins with the key what is said of it? */
function beginsThere(tokens: readonly Token[], value: number): boolean {
  if (tokens[value - 1]?.fresh === true || value === 1) return true;
  // “price down to 7 & coal.grade small”: what is written so is nothing but a key.
  if (/[_.]|\p{Ll}\p{Lu}/u.test(tokens[value - 1]?.text ?? '')) return true;
  // “the market's Day friday”
  if (tokens.length <= 5 && value === tokens.length - 1) return true;
  const before = keyAt(tokens, value - 2);
  if (/^(?:set|seta|setze|pon|writes?)$/.test(before)) return true;
  // “Scale must be 2 and Shadows high, …”
  if (/^(?:and|und|y|et)$/.test(before)) return tokens[value + 1]?.fresh === true;
  // “give it size 12 and the sound clank”
  const isGiven = tokens.slice(0, value).some(({ key }) => GIVES.test(key));
  return isGiven && /^(?:the|den|die|das|el|la|le)$/.test(before);
}

// Or “the warp becomes red and the weft gold”.
const GIVES = /^(?:becomes?|wird|devient|gives?|gets?|gib|gebt|bekommt|dale|dadle|donne[rz]?)$/;
