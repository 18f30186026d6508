import { nameKey } from '../paths/paths';
import { inWordsOf, isSwitch, switched, type Token } from './settingsWords';

/* What a switch has to be where a sentence does not say it, but what comes of it. */

/** A key that is a switch, and the part of a sentence that is about it. */
interface Spoken {
  tokens: readonly Token[];
  sentence: string;
  /** Which word is the key, and where the next key stands. */
  key: number;
  until: number;
  /** What the file holds now. */
  now: string;
}

/**
 * What follows for a switch from a sentence: “as long as it is off nothing shows”, “it is no longer false”, “needs it”.
 *
 * @returns undefined where nothing of the kind is said; without a value where it is so already
 */
export const followsFor = (spoken: Spoken): { value?: string } | undefined =>
  isSwitch(spoken.now) ? (whileItIs(spoken) ?? noLonger(spoken) ?? needed(spoken)) : undefined;

/** What stands right before a key, with a word or two between: “as long as the switch …”. */
const WHILE = /(?<!\p{L})(?:as long as|while|solange|mientras|tant que)(?: \p{L}+){0,2} $/iu;
const UNTIL = /(?<!\p{L})(?:until|till|unless|bis|hasta que|a menos que|jusqu['’]à ce que)(?: \p{L}+){0,2} $/iu;
const NO =
  /(?<!\p{L})(?:not|no|never|nothing|none|refus\p{L}*|reject\p{L}*|ignor\p{L}*|skip\p{L}*|hid(?:es?|den|ing)|n['’]t|without|nicht|kein\p{L}*|nichts|nunca|nada|pas|rien)(?!\p{L})/iu;

/** “It is refused as long as Allowed is false”, “nothing shows until Extra is 1” */
function whileItIs({ tokens, sentence, key, until, now }: Spoken): { value?: string } | undefined {
  const before = sentence.slice(0, tokens[key]?.start).replace(/["“„«`']+$/, '');
  const isWhile = WHILE.test(before);
  if (!isWhile && !UNTIL.test(before)) return undefined;
  const said = tokens.slice(key + 1, until).find(({ text }) => isSwitch(text));
  if (!said) return undefined;
  const value = inWordsOf(now, said.text);
  if (nameKey(value) !== nameKey(now)) return { value };
  const other = isWhile && NO.test(before) ? otherThan(now) : undefined;
  return other === undefined ? {} : { value: other };
}

const NO_LONGER =
  /(?<!\p{L})(?:no longer|(?:must|should|may|can)(?: not|n['’]t) (?:stay|remain|be)|darf nicht(?: auf)?|not \S+ any ?more|stops? being|ceases? to be|nicht (?:mehr|länger)|deja(?:r)? de(?: ser)?|ya no|cesse(?:r)? d(?:e |['’])être|n['’]est plus)(?!\p{L})[^,;.]{0,12}$/iu;

/** “Foreign is no longer false” */
function noLonger({ tokens, sentence, key, until, now }: Spoken): { value?: string } | undefined {
  const [said, more] = tokens.slice(key + 1, until).filter(({ text }) => isSwitch(text));
  if (!said || more || nameKey(inWordsOf(now, said.text)) !== nameKey(now)) return undefined;
  const value = NO_LONGER.test(sentence.slice(tokens[key]?.start, said.start)) ? otherThan(now) : undefined;
  return value === undefined ? undefined : { value };
}

const NEEDED_BEFORE =
  /(?<!\p{L})(?:needs?|requires?|takes?|wants|without|braucht|benötigt|ohne|necesita|requiere|sin|nécessite|requiert|sans) (?:the |a |das |den |die |el |la |le )?["“„«`']?$/iu;
const NEEDED_BEHIND =
  /^["”“»`']?,?[^.;,]{0,40},? (?:is|are|ist|es|est) (?:needed|required|necessary|a must|nötig|erforderlich|necesari\w+|nécessaire|what (?:lets|makes|allows|opens|shows|turns))(?!\p{L})/iu;

/** “It needs OwnWheels”, “OwnWheels is what lets it turn”: a switch that is off is to be on. */
function needed({ tokens, sentence, key, until, now }: Spoken): { value?: string } | undefined {
  const on = switched(now, true);
  const { start = 0, text = '' } = tokens[key] ?? {};
  if (
    on === undefined ||
    nameKey(on) === nameKey(now) ||
    tokens.slice(key + 1, until).some((one) => isSwitch(one.text))
  )
    return undefined;
  const before = sentence.slice(0, start);
  const isSaid = NEEDED_BEFORE.test(before) || NEEDED_BEHIND.test(sentence.slice(start + text.length));
  return isSaid && !/(?<!\p{L})(?:no longer|not|nicht|no|ne)(?!\p{L})[^,;]*$/iu.test(before)
    ? { value: on }
    : undefined;
}

const otherThan = (now: string): string | undefined =>
  [true, false].map((on) => switched(now, on)).find((value) => value !== undefined && nameKey(value) !== nameKey(now));
