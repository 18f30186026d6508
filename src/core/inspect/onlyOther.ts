import { nameKey } from '../paths/paths';
import type { KnownKey } from './keyIndex';
import { isNoRequest } from './noRequest';
import type { ReadSoFar } from './readSoFar';
import { NEVER, isNumber, isSwitch, switched, type Token, unquoted } from './settingsWords';

/** A sentence as it was read, and whether anything was found in it. */
export interface Heard {
  tokens: readonly Token[];
  sentence: string;
  line: number;
  keys: readonly { i: number; places: readonly KnownKey[] }[];
  isOpen: boolean;
}

/**
 * What no wording told: a sentence names a key and what it holds now, and in it, or in the next one, stands one other
 * value that the key can have, and no more: that one is meant.
 *
 * @param heard the sentences of a text, in their order
 * @param known gets what is asked for
 */
export function onlyOther(heard: readonly Heard[], known: ReadSoFar): void {
  heard.forEach((one, n) => {
    if (!one.isOpen || one.keys.length !== 1) return;
    const place = spokenOf(one, known);
    const isBare = (other: Heard | undefined): other is Heard => other?.isOpen === true && other.keys.length === 0;
    const [before, next] = [heard[n - 1], heard[n + 1]];
    const wanted =
      place &&
      (valueBeside(place, one, isBare(next) ? [one, next] : [one]) ??
        // “Baroque pitch is 415, it comes tuned to 440. Tuning is the place.”
        (isBare(before) && holdsNone(one, place) ? valueBeside(place, one, [before]) : undefined));
    if (wanted) known.push(place, wanted.token.text, wanted.part.line);
  });
}

/** Tells a sentence of a key without any value? */
const holdsNone = ({ tokens, keys: [key] }: Heard, { value }: KnownKey): boolean =>
  !tokens.some((token, at) => at !== key?.i && isKind(token, value));

/** The one key that a sentence names, for which nothing was asked so far. */
function spokenOf({ keys: [key], tokens, sentence }: Heard, known: ReadSoFar): KnownKey | undefined {
  const [place, other] = key ? known.narrow(key.places, tokens, sentence) : [];
  const { start = 0, text = '' } = tokens[key?.i ?? -1] ?? {};
  const isMeant = place && !other && !place.items && !known.isAskedFor(place);
  return isMeant && !isNoRequest(sentence, start, text.length) ? place : undefined;
}

/** A word of one of the sentences. */
interface Said {
  token: Token;
  part: Heard;
  at: number;
}

/** Beside the value that a key has now, the only other one. @param one the sentence that names the key */
function valueBeside({ value }: KnownKey, one: Heard, parts: readonly Heard[]): Said | undefined {
  if (parts.some(({ sentence }) => TELLS.test(sentence))) return undefined;
  const key = one.keys[0]?.i;
  const now = unquoted(value);
  const said = parts.flatMap((part) =>
    part.tokens.flatMap((token, at) =>
      (part === one && at === key) || !isKind(token, now) ? [] : [{ token, part, at }],
    ),
  );
  const values = new Map(said.map((each) => [each.token.key, each]));
  if (values.size !== 2 || !values.delete(nameKey(now))) return undefined;
  const [wanted] = values.values();
  return wanted && isAlone(wanted, now) ? wanted : undefined;
}

/** Said of nothing else (“2 other packs”), and not as what somebody has. */
function isAlone({ token, part: { tokens, sentence }, at }: Said, now: string): boolean {
  const next = tokens[at + 1];
  if (isVersion(token.text, now)) return false;
  const isOfOther = isNumber(token.text) && next?.fresh === false && !NEVER.has(next.key) && next.text !== '=';
  return !isOfOther && !isNoRequest(sentence, token.start, token.text.length);
}

/** “Needs game 1.4.”: a fraction, where the key holds a whole number. */
const isVersion = (text: string, now: string): boolean => /^-?\d+$/.test(now) && /[.,]/.test(text);

/** Can a word be what a key holds, by what that is now? */
function isKind({ text, key, quoted, section }: Token, now: string): boolean {
  if (section) return false;
  if (isNumber(now)) return isNumber(text);
  if (isSwitch(now)) return [true, false].some((on) => nameKey(switched(now, on) ?? '') === key);
  return quoted || key === nameKey(now);
}

/** Not done, left open, or asked. */
const TELLS =
  /[?]\s*$|(?<!\p{L})(?:not|never|too|n[’']t|nicht|kein\p{L}*|nunca|ne|pas|or|oder|between|from|version)(?!\p{L})/iu;
