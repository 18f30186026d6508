import { extensionOf, nameKey } from '../paths/paths';
import type { KnownKey } from './keyIndex';
import { asksForALine } from './listedNames';
import { ADDING, ASKS, IS, OLD, isNumber, isOneQuoted, isSwitch, type Token, unquoted } from './settingsWords';

/* What the words around one say of it: whether it is meant as a key, and what belongs to it. */

/**
 * Does a word stand in the part of the sentence that adds something to a list: between the verb and the list, or behind
 * both?
 */
export function isNear(tokens: readonly Token[], token: Token, list: number): boolean {
  const at = tokens.indexOf(token);
  const verb = tokens.findLastIndex((one, n) => n < Math.max(list, at) && ADDING.test(one.key) && !one.quoted);
  const [from, to] = [Math.min(list, verb < 0 ? list : verb), Math.max(list, verb)];
  if (at > from && at < to) return true;
  // Behind it as far as no other part begins.
  return (
    at > to &&
    !tokens
      .slice(to + 1, at + 1)
      .some(
        (one, n) =>
          (one.fresh && !one.quoted) ||
          (/^(?:and|then|und|dann|y|luego|et|puis)$/.test(one.key) && tokens[to + 2 + n]?.quoted !== true),
      )
  );
}

/**
 * Where the part of a sentence begins that a word stands in, behind another word: “Waves becomes 5, Anchor …”. A word
 * in brackets belongs to what stands before: “the music is 5 (volume)”.
 */
export const clauseAfter = (tokens: readonly Token[], other: number, word: number): number =>
  Math.max(
    other + 1 + valueBehind(tokens, other),
    tokens.findLastIndex(({ fresh, opens }, n) => fresh && n <= word && !opens),
  );

/** How many words right behind a key are its value: `= 5`, “fog 5 with 2 candles”. */
function valueBehind(tokens: readonly Token[], key: number): number {
  const next = tokens[key + 1];
  if (next?.text === '=') return 2;
  // “its width is 1024 and its height 768”
  const isTold = IS.test(next?.key ?? '') && isNumber(tokens[key + 2]?.text ?? '');
  // “the music is 50 (volume)”
  if (isTold && tokens[key + 3]?.opens !== true) return 2;
  return next?.fresh === false && isNumber(next.text) ? 1 : 0;
}

/** Stands nothing but “and” or a comma between two words? */
export const isJoined = (tokens: readonly Token[], a: number, b: number): boolean =>
  b - a <= 2 && tokens.slice(a + 1, b).every(({ key }) => /^(?:and|und|y|et|&)$/.test(key));

/** “add snow to the end of Addons”: something comes to what the key holds, a single name so far. */
export function isAddedTo(tokens: readonly Token[], i: number, { value }: KnownKey): boolean {
  const to = tokens.findLastIndex(({ key }, n) => n < i && /^(?:to|zu|an|a|al|à|au)$/.test(key));
  return (
    to >= 0 &&
    isOneWord(value) &&
    !isSwitch(value) &&
    tokens.slice(to + 1, i).every(({ key }) => BEFORE_LIST.test(key)) &&
    tokens.some(({ key }) => ADDING_VERB.test(key))
  );
}
const BEFORE_LIST =
  /^(?:the|end|of|list|key|value|entry|line|ende|von|der|dem|den|liste|schlüssel|wert|final|de|lista|clave|fin|la|clé)$/;
const ADDING_VERB =
  /^(?:add|append|hinzufügen|hinzu|anhängen|hänge|ergänzen?|añad[ae]|añadir|agreg[ae]r?|ajoute[rz]?)$/;

/** “Set skins to 1”: a word that is a key's, and gets a value that can be nothing else. */
export function isGiven(tokens: readonly Token[], i: number): boolean {
  const [word, to, value, verb] = tokens.slice(i, i + 4);
  if (!word || !to || !value || word.text.length < 4 || !/^(?:to|at|auf|a|à|sur|en)$/.test(to.key)) return false;
  // „die Hupe auf dampf setzen“: between these two words there is only the value.
  if (to.key === 'auf' && verb?.fresh === false && SETTING_VERB.test(verb.key)) return true;
  const isPlain = value.quoted || isNumber(value.text) || isSwitch(value.text);
  return isPlain && tokens.slice(0, i).some(({ key }) => GIVING_VERB.test(key));
}
const SETTING_VERB =
  /^(?:(?:um|ein|herauf|herunter|hoch)?(?:zu)?(?:setzen|stellen)|(?:um|ein|um)?gestellt|gesetzt|(?:ab)?ändern)$/;
const GIVING_VERB =
  /^(?:wants?|needs?|keep|have|set|change|put|turn|setzt?|setze|setzen|stellt?|stelle|stellen|pon|ponga|pones|cambia|cambiad|mets|mettez|met)$/;

/** “rain auf 0.1”, “maxfps of 144 for fast screens”: a word that leads from a key to its value. */
const leadsOn = (tokens: readonly Token[], i: number, word: string): boolean =>
  /^(?:auf|to|a|à|sur|en)$/.test(word) ||
  (i <= 1 && /^(?:of|von|de)$/.test(word) && !tokens.some(({ key }) => IS.test(key)));

/** Does a sentence ask for something, or say what comes of something? @param i the word that may be a key */
export function asksFor(tokens: readonly Token[], i: number): boolean {
  const words = tokens.map(({ key }) => key).join(' ');
  if (ASKS.test(words)) return true;
  // “rain auf 0.1”, “Height 60”, “hints off”
  const [next, value] = [tokens[i + 1], tokens[i + 2]];
  const isValue = (token: Token | undefined) => token !== undefined && (token.quoted || isNumber(token.text));
  const isTurned = /^(?:off|true|false|disabled|enabled|aus)$/.test(next?.key ?? '');
  if (leadsOn(tokens, i, next?.key ?? '')) return isValue(value);
  // “Trails on as well!”: a word that leads to places elsewhere.
  if (next?.key === 'on') return value === undefined || value.fresh || /^(?:as|too|again|please)$/.test(value.key);
  return next?.fresh === false && (isValue(next) || isTurned);
}

/** “police is false”, “police off”, “open at 6” */
export function isSaidToBe(tokens: readonly Token[], i: number): boolean {
  const [word, verb, value] = tokens.slice(i, i + 3);
  const isPlain = ({ text }: Token) => isNumber(text) || isSwitch(text);
  // “hedges low, rain 2”: the two words alone; “Night falls.” is a sentence.
  const isAlone = word && verb && !verb.fresh && (i === 0 || word.fresh) && (value?.fresh ?? true);
  if (isAlone) return isPlain(verb) || tokens.some(isPlain);
  if (!verb || !value || verb.fresh || value.fresh) return false;
  return /^(?:is|are|at|to|ist|sind|auf|es|está|a|est|à)$/.test(verb.key) && isPlain(value);
}

/**
 * Where no file with such a key was spoken of: the one of its name, where something is asked of it; of several the one
 * that holds what goes, “Closing is moved from 22 to 24”.
 *
 * @param isAllItIs the pack is nothing but texts
 */
export function onlyMeant(tokens: readonly Token[], all: readonly KnownKey[], isAllItIs: boolean) {
  if (!isAllItIs) return [];
  if (all.length === 1) return ASKS.test(tokens.map(({ key }) => key).join(' ')) ? all : [];
  const isFrom = (token: Token | undefined) => /^(?:from|von|de)$/.test(token?.key ?? '');
  const gone = new Set(tokens.flatMap(({ key }, i) => (isFrom(tokens[i - 1]) ? [key] : [])));
  const holding = all.filter(({ value }) => gone.has(nameKey(value)));
  return holding.length === 1 ? holding : [];
}

/** “Festivals are on, of course.”: a sentence begins with it, and says something else than what is so. */
export const isContrary = (tokens: readonly Token[], i: number, places: readonly KnownKey[]): boolean =>
  i === 0 &&
  places.length > 0 &&
  isSaidToBe(tokens, i) &&
  (tokens[i + 3]?.fresh ?? true) &&
  places.every(({ value, items }) => !items && isSwitch(value) && nameKey(value) !== tokens[i + 2]?.key);

const TO_BE =
  /^(?:must|should|has|have|needs?|wants?|is|are|muss|müssen|soll|sollen|sollten?|deben?|tienen?|doi(?:ven)?t)$/;
const BEFORE_VALUE = /^(?:to|be|say|read|at|least|sein|auf|en|mindestens|ser|que|estar|al|menos|être|à|a|au|moins)$/;

/** “own must be "yes"”: a word with a value in quotes of the kind that the key has. */
export function isToBe(tokens: readonly Token[], i: number, { value }: KnownKey): boolean {
  const { word, verb, told, isEnd } = toldBehind(tokens, i);
  if (!told || !TO_BE.test(verb)) return false;
  const now = unquoted(value);
  const isAsked = isAskedOf(word, verb, tokens[i + 2]?.key === 'to');
  // “extras has to say yes”; “mods must be on the list” speaks of something else.
  if (isSwitch(now)) return isSwitch(told.text) && (told.quoted || (isAsked && isEnd));
  // “Sichtweite should be at least 1200”: so long a word is hardly anything else.
  if (isNumber(now)) return isNumber(told.text) && (told.quoted || word.length >= RARE_WORD);
  // “quality should be "high"”: one word for another, for what is not the name of something.
  return told.quoted && isOneWord(now) && isOneWord(told.text) && isAsked;
}

/** A word, the verb right behind it, and what it is told to be. */
function toldBehind(tokens: readonly Token[], i: number) {
  const at = tokens.findIndex(({ key }, n) => n > i + 1 && n < i + 5 && !BEFORE_VALUE.test(key));
  const verb = tokens[i + 1]?.fresh === false ? (tokens[i + 1] as Token).key : '';
  return { word: tokens[i]?.key ?? '', verb, told: tokens[at], isEnd: tokens[at + 1]?.fresh ?? true };
}

/** “the quality is "low" there” asks for nothing, and a name need not be that of a key. */
const isAskedOf = (word: string, verb: string, isTo: boolean): boolean =>
  word.length >= 4 &&
  !/^(?:name|title|path|folder|file)$/.test(word) &&
  (!/^(?:is|are|has|have)$/.test(verb) || (isTo && /^ha(?:s|ve)$/.test(verb)));

const RARE_WORD = 8;

const isOneWord = (text: string): boolean => /^\p{L}[\p{L}\p{N}_-]*$/u.test(text);

/** The word in quotes is what stands there now. */
export const saysWhatIsThere = (tokens: readonly Token[], { value }: KnownKey): boolean =>
  tokens.some(
    ({ quoted, text }, at) =>
      nameKey(text) === nameKey(value) &&
      ((quoted && !isSwitch(value) && !isNumber(value)) ||
        // “3 instead of 1”
        [1, 2].some((far) => OLD.test(tokens[at - far]?.key ?? '') && tokens[at - far - 1]?.key !== 'where')),
  );

/** All that a list holds stands in quotes, and more. */
const namesAll = (tokens: readonly Token[], { items = [] }: KnownKey): boolean =>
  items.length > 0 && items.every((item) => tokens.some(({ quoted, key }) => quoted && key === nameKey(item)));

/** “write it behind "pie"”, “a line below pie.zip”: one of the list is named, and something comes to it. */
const isBehindItem = (tokens: readonly Token[], sentence: string, { items = [] }: KnownKey): boolean =>
  asksForALine(sentence) &&
  (isOneQuoted(tokens, items) ||
    items.some((item) => extensionOf(item) !== '' && tokens.some(({ key }) => key === nameKey(item))));

/** What can be values; a size in one word, `1920x1080`, is two. */
export const valuesIn = (tokens: readonly Token[]): string[] =>
  tokens.flatMap(({ text, quoted }) => {
    const [, width, height] = /^(\d+)[x×](\d+)$/.exec(text) ?? [];
    if (width !== undefined && height !== undefined) return [width, height];
    return quoted || isNumber(text) || isSwitch(text) ? [text] : [];
  });

/** Does a sentence speak of the one list of its file: as a list, or by what that holds? */
export const isOfList = (tokens: readonly Token[], sentence: string, only: KnownKey): boolean =>
  OF_A_LIST.test(sentence) || namesAll(tokens, only) || isBehindItem(tokens, sentence, only);
const OF_A_LIST = /\b(?:list|liste|lista|add|append|hinzufügen|ergänze|añade|agrega|ajoutez)\b/iu;
