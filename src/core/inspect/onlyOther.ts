import { nameKey } from '../paths/paths';
import type { KnownKey } from './keyIndex';
import { isNoRequest } from './noRequest';
import type { ReadSoFar } from './readSoFar';
import { NEVER, isNumber, isSwitch, switched, type Token } from './settingsWords';

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
    const next = heard[n + 1];
    const parts = next?.isOpen === true && next.keys.length === 0 ? [one, next] : [one];
    if (!one.isOpen || one.keys.length !== 1 || parts.some(({ sentence }) => TELLS.test(sentence))) return;
    const place = spokenOf(one, known);
    const wanted = place && valueBeside(place, one.keys[0]?.i ?? -1, parts);
    if (wanted) known.push(place, wanted.token.text, wanted.part.line);
  });
}

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

/** Beside the value that a key has now, the only other one. @param key where the key stands in the first sentence */
function valueBeside({ value }: KnownKey, key: number, parts: readonly Heard[]): Said | undefined {
  const now = value.replace(/^"(.*)"$/, '$1');
  const said = parts.flatMap((part, n) =>
    part.tokens.flatMap((token, at) => ((n === 0 && at === key) || !isKind(token, now) ? [] : [{ token, part, at }])),
  );
  const values = new Map(said.map((each) => [each.token.key, each]));
  if (values.size !== 2 || !values.delete(nameKey(now))) return undefined;
  const [wanted] = values.values();
  return wanted && isAlone(wanted) ? wanted : undefined;
}

/** Said of nothing else (“2 other packs”), and not as what somebody has. */
function isAlone({ token, part: { tokens, sentence }, at }: Said): boolean {
  const next = tokens[at + 1];
  const isOfOther = isNumber(token.text) && next?.fresh === false && !NEVER.has(next.key) && next.text !== '=';
  return !isOfOther && !isNoRequest(sentence, token.start, token.text.length);
}

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
