import { nameKey } from '../paths/paths';
import { keyAt } from './byContrast';
import { valuesIn } from './keyInSentence';
import type { KnownKey } from './keyIndex';
import { isNoRequest } from './noRequest';
import type { ReadSoFar } from './readSoFar';
import { NEVER, isNumber, isSwitch, type Token } from './settingsWords';

/* What a sentence tells by what was told before. */

/** A sentence's words, and the keys among them. */
interface Told {
  tokens: readonly Token[];
  sentence: string;
  line: number;
  keys: readonly { i: number; places: readonly KnownKey[] }[];
}

/**
 * “Where it says lanterns oil it has to say lanterns gas”: a key with its value now, and again with another one. Where
 * it says gas already, oil is not what is asked for.
 *
 * @param known gets what is asked for
 * @returns which words are keys that have their value
 */
export function toldTwice({ tokens, sentence, line, keys }: Told, known: ReadSoFar): number[] {
  for (const [k, one] of keys.entries()) {
    const [place, other] = known.narrow(one.places, tokens, sentence);
    const again = keys.slice(k + 1).find(({ i }) => keyAt(tokens, i) === keyAt(tokens, one.i));
    const value = place && !other && again && changedBetween(tokens, [one.i, again.i], place);
    if (!value || isNoRequest(sentence, value.start, value.text.length)) continue;
    known.push(place, value.text, line);
    return [one.i, again.i];
  }
  return [];
}

/** The second of a key's two values, where the first is the one it has: by the file, or by “where it says …”. */
function changedBetween(tokens: readonly Token[], [first, again]: [number, number], { value }: KnownKey) {
  const [now, wanted] = [tokens[first + 1], tokens[again + 1]];
  if (!now || !wanted || now.key === wanted.key || (wanted.fresh && !wanted.colon) || NEVER.has(wanted.key)) return;
  const isNow = ({ key }: Token) => key === nameKey(value);
  // “write table barge instead of table inn” tells them the other way round
  const isWhere = () => tokens.slice(0, first).some(({ key }) => IF_OR_WHERE.test(key));
  return isNow(now) || (isNow(wanted) && isWhere()) ? wanted : undefined;
}

const IF_OR_WHERE = /^(?:where|if|when|wo|wenn|falls|donde|si|cuando|où|quand)$/;

/** “Width is 1024 and height 768; make these 1920 and 1080”: for the keys of the sentence before, in their order. */
export function theseInOrder({ tokens, sentence, line }: Told, before: Told['keys'], known: ReadSoFar): void {
  if (!THESE.test(sentence) || before.length < 2) return;
  const places = before.map((one) => known.narrow(one.places, tokens, sentence));
  const values = valuesIn(tokens);
  if (values.length !== places.length || places.some(([place, other]) => !place || other || place.items)) return;
  places.forEach(([place], n) => known.push(place as KnownKey, values[n] as string, line));
}
const THESE =
  /^(?:then |please |so )?(?:make|set|change|turn|put|write)(?: (?:these|those|them|both))?(?: (?:to|into|instead))? ["“]?[\w.-]+["”]?(?:, ["“]?[\w.-]+["”]?)* and ["“]?[\w.-]+["”]?[.!]?$/iu;

const THE_SAME =
  /^(?:and |then |please |und |y |et )?(?:do |does |that |it )?(?:(?:do |is |goes |applies )?the same(?: is true| goes| applies)? (?:with|for|to)|(?:das gleiche|dasselbe|ebenso)(?: gilt)? (?:mit|für|bei)|(?:haz )?lo mismo (?:con|para)|(?:de même|la même chose) (?:avec|pour))(?!\p{L})/iu;

/** “Do the same with sundays”: what the last key got, for a key of the files spoken of that can hold it. */
export function theSame({ tokens, sentence, line }: Told, known: ReadSoFar): void {
  const last = known.found.findLast((one) => one.kind === 'key');
  if (!last || !THE_SAME.test(sentence)) return;
  for (const { text, start } of tokens.filter((token) => !token.section && !NEVER.has(token.key))) {
    const places = known.index
      .called(text)
      .filter(({ file }) => known.files.length === 0 || known.files.includes(file));
    const [place, other] = known.narrow(places, tokens, sentence);
    if (!place || other || place.items || isNoRequest(sentence, start, text.length)) continue;
    if (isNumber(place.value) === isNumber(last.value) && isSwitch(place.value) === isSwitch(last.value))
      known.push(place, last.value, line);
  }
}
