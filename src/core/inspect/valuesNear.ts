import { nameKey } from '../paths/paths';
import { isBehindOld, isInstead, keyAt } from './byContrast';
import { isDescribed, isNumberTold, isSwitchTold, saysWhatIsSo } from './toldAsIs';
import { followsFor } from './followsForSwitch';
import type { KeyIndex } from './keyIndex';
import { asText, standsAlone, type Part, type Seen } from './textNear';
import {
  ASKS,
  AS_IT_COMES,
  HOW_MUCH,
  NEVER,
  NEW,
  OLD,
  TURN_OFF,
  TURN_ON,
  WRITE,
  isNumber,
  isShortCode,
  isSwitch,
  inWordsOf,
  isVerb,
  switched,
  type Token,
  unquoted,
} from './settingsWords';

/** A key in a sentence, and the part of it that is looked through for its value. */
export interface Asked {
  tokens: readonly Token[];
  sentence: string;
  /** Which word is the key; where the next key stands, and where the part before it begins. */
  key: number;
  until: number;
  since: number;
  /** What the file holds now. */
  now: string;
}

interface Candidate {
  value: string;
  /** It goes away. */
  old: boolean;
}

/** The value that a sentence wants for a key: behind it first, else before it, else as a verb says. */
export function valueFor(asked: Asked, index: KeyIndex): string | undefined {
  const { tokens, sentence, key, now } = asked;
  const told = followsFor(asked);
  if (told || saysWhatIsSo(asked)) return told?.value;
  const value =
    exchanged(asked) ??
    listBehind(sentence, tokens[key + 1]) ??
    pickValue(behind(asked, index), now) ??
    pickValue(candidates({ ...asked, from: asked.since, to: key, behind: false }, index), now) ??
    turned(sentence, now);
  return value === now && (FINDS.test(sentence) || isOnlyTold(asked)) ? undefined : value;
}

/** “The file holds how fast they come: patience = 30”, where it is so. */
const isOnlyTold = ({ tokens, sentence, key, since }: Asked): boolean =>
  (key - since > 2 && !ASKS.test(sentence)) || (tokens[key]?.opens === true && tokens[key + 1]?.text === '=');

/** “Look for trees = 400.” */
const FINDS =
  /^(?:\p{L}+,? )?(?:look for|find|search|locate|such\p{L}*|finde|busca|localiza|cherche[rz]?|trouve[rz]?)(?!\p{L})/iu;

/** “StartRoom is the setting (lobby -> garden)”: what stands now, an arrow, and what comes in its place. */
function exchanged({ sentence, tokens, since, until, now }: Asked): string | undefined {
  const bare = (text: string) => text.replace(/^["“”'‘’`(]+|["“”'‘’`).,;:!?]+$/g, '');
  // As far as the next key: that may hold the same.
  const part = sentence.slice(tokens[since]?.start, tokens[until]?.start);
  for (const [, old = '', fresh = ''] of part.matchAll(/(\S+)\s+(?:-{1,2}>|={1,2}>|→)\s+(\S+)/g))
    if (nameKey(bare(old)) === nameKey(bare(now)) && bare(fresh) !== '') return bare(fresh);
  const [, was = '', is] = WAS_AND_IS.exec(part) ?? [];
  return is !== undefined && nameKey(bare(was)) === nameKey(bare(now)) ? bare(is) : undefined;
}

/** “was 6, is now 9” */
const WAS_AND_IS =
  /(?<!\p{L})(?:was|were|war|era|était)\s+(\S+?),?\s+(?:and |und |y |et )?(?:(?:it )?(?:is|are)|ist|es|est)\s+(?:now|jetzt|nun|ahora|maintenant)\s+(\S+)/iu;

/** What may be meant behind a key. */
const behind = (asked: Asked, index: KeyIndex): Candidate[] =>
  // “opens at 9 (opening) and closes at 18 (closing)”: it belongs to what stands before it.
  isTag(asked) ? [] : candidates({ ...asked, from: asked.key + 1, to: asked.until, behind: true }, index);

/** Alone in brackets, behind a number. */
const isTag = ({ tokens, key, now }: Asked): boolean =>
  isNumber(now) &&
  tokens[key]?.opens === true &&
  (tokens[key + 1]?.fresh ?? true) &&
  isNumber(tokens[key - 1]?.text ?? '');

/** The value in a sentence that speaks of “it”. */
export const valueOfIt = (
  { tokens, sentence }: { tokens: readonly Token[]; sentence: string },
  now: string,
  index: KeyIndex,
): string | undefined =>
  pickValue(candidates({ tokens, now, from: 0, to: tokens.length, behind: true }, index), now) ??
  (isSwitch(now) ? turned(sentence, now) : undefined);

/** On or off, as the verb of a sentence says, in the words that the file uses. */
export function turned(sentence: string, now: string): string | undefined {
  const told = sentence.replace(AS_IT_COMES, ' ');
  if (TURN_OFF.test(told)) return switched(now, false);
  return TURN_ON.test(told) ? switched(now, true) : undefined;
}

/** `rain: no`, `skin:dusk`: a value behind a colon; any word is one where nothing else stands between. */
export function isPair(key: Token, value: Token | undefined, next: Token | undefined): boolean {
  if (!value?.colon) return false;
  if (value.quoted || isNumber(value.text) || isSwitch(value.text)) return true;
  const apart = value.start - key.start - key.text.length;
  // “water: low under weather”
  const isEnd =
    next === undefined || next.fresh || /^(?:under|in|inside|below|unter|en|bajo|dans|sous)$/.test(next.key);
  return apart === 1 || (apart <= 4 && isEnd);
}

function candidates(part: Part, index: KeyIndex): Candidate[] {
  const found: Candidate[] = [];
  const now = unquoted(part.now);
  for (let at = part.from; at < part.to; at++) {
    const token = part.tokens[at] as Token;
    if (isNoValue(part.tokens, at) || index.filesNamed(token.text).length > 0) continue;
    const seen = lookAt({ ...part, now }, at);
    const value = valueIn({ ...part, now }, at, seen, index);
    const isText = !isNumber(now) && !isSwitch(now);
    // “it stops at Most (100)”: what is so already is asked for only where it is said as what shall be.
    const isTold = value === now && !seen.direct;
    if (isTold && (isNumber(now) ? isNumberTold(part.tokens, at, seen.isNew) : isSwitchTold(part, at))) continue;
    if (value !== undefined) found.push({ value, old: seen.old || (isText && nameKey(value) === nameKey(now)) });
  }
  return found;
}

/** A section, a sign, or a word that leads to the value: „auf“, “to”. */
function isNoValue(tokens: readonly Token[], at: number): boolean {
  if (isBound(tokens, at)) return true;
  const { section, text, quoted, key } = tokens[at] as Token;
  const leads = !quoted && NEW.test(key) && keyAt(tokens, at - 1) !== '=';
  return section || text === '=' || isOnThe(tokens, at) || (leads && tokens[at + 1]?.fresh === false);
}

/** “any number up to 6” */
const isBound = (tokens: readonly Token[], at: number): boolean =>
  isNumber(tokens[at]?.text ?? '') &&
  /^(?:numbers?|values?|anything|nothing|everything|zahl|wert|valor|número|nombre|valeur) (?:up to|bis zu|hasta el|jusqu['’]à)$/.test(
    [3, 2, 1].map((far) => keyAt(tokens, at - far)).join(' '),
  );

/** “on the list”: no switch. */
const isOnThe = (tokens: readonly Token[], at: number): boolean =>
  keyAt(tokens, at) === 'on' &&
  tokens[at + 1]?.fresh === false &&
  /^(?:the|an?|your|my|its|top|each|every|this|that)$/.test(keyAt(tokens, at + 1));

function valueIn(part: Part, at: number, seen: Seen, index: KeyIndex): string | undefined {
  const { tokens, now } = part;
  const token = tokens[at] as Token;
  if (isNumber(now) || (now === '' && isNumber(token.text))) return asNumber(token, now, seen);
  if (!isSwitch(now)) return asText(part, at, seen, index);
  // `mods=si`: as it is written.
  return asSwitch(token, now, seen) ?? (isWritten(tokens, at) && ON_OR_OFF.test(token.key) ? token.text : undefined);
}

/** “if you want to begin here” */
const WANT = /^(?:has|have|had|want|wants|wish|like|try|able|how|order|going|allowed|ready|possible)$/;

function lookAt(part: Part, at: number): Seen {
  const { tokens, from, now, behind: after } = part;
  const token = tokens[at] as Token;
  const [before, beforeThat] = [keyAt(tokens, at - 1), keyAt(tokens, at - 2)];
  const small = isSmall(tokens, at, now);
  const isBehind = isBehindIt(part, at);
  const isWord =
    !isBehind &&
    !isMeant(tokens, at, now) &&
    (small || isVerb(before, keyAt(tokens, at + 1)) || isInfinitive(token.key, before, beforeThat));
  const direct = after && isLed(tokens, at, at === from) && (!isWord || token.quoted || isPairAt(tokens, at));
  const isNew = leadsTo(before, token.key);
  return {
    isWord,
    direct,
    isNew,
    old: !direct && goesAway(before, beforeThat, now),
    cue: direct || isNew || isBehind || (after && at === from),
  };
}

/** “nobody has to tread”, “if you want to begin” */
const isInfinitive = (word: string, before: string, beforeThat: string): boolean =>
  before === 'to' && (WANT.test(beforeThat) || WRITE.test(word));

/** “and no behind wolves”: the word before what leads to the key. */
const isBehindIt = ({ tokens, to, behind: after }: Part, at: number): boolean =>
  !after && at === to - 2 && /^(?:behind|after|hinter|nach|detrás|derrière)$/.test(keyAt(tokens, at + 1));

/** A word that is hardly a value, or one of what the thing is: “Packs is a list”. */
const isSmall = (tokens: readonly Token[], at: number, now: string): boolean =>
  (NEVER.has(keyAt(tokens, at)) && !isShortCode(now, tokens[at]?.text ?? '', tokens[at + 1])) ||
  isDescribed(keyAt(tokens, at - 1), keyAt(tokens, at - 2));

/** “to 3”, “frost goes on” */
const leadsTo = (before: string, word: string): boolean =>
  NEW.test(before) || (/^go(?:es)?$/.test(before) && /^(?:on|off)$/.test(word));

/** Does an equals sign stand straight before it: `source=folder`? */
const isWritten = (tokens: readonly Token[], at: number): boolean =>
  keyAt(tokens, at - 1) === '=' && tokens[at - 1]?.start === (tokens[at]?.start ?? 0) - 1;

/** Said in a way that leaves any word a value: `source=folder` is written as it is to be. */
const isMeant = (tokens: readonly Token[], at: number, now: string): boolean =>
  isWritten(tokens, at) ||
  isInstead(tokens, at, now) ||
  isBehindOld(tokens, at, now) ||
  isAllThatIsSaid(tokens, at) ||
  // „dort gehört no hin“
  /^(?:hin|hinein|rein)$/.test(keyAt(tokens, at + 1)) ||
  (HOW_MUCH.test(now) &&
    HOW_MUCH.test(keyAt(tokens, at)) &&
    (NEW.test(keyAt(tokens, at - 1)) || standsAlone(tokens, at)));

/** “has to be all.”: what would be a small word elsewhere is the whole of what is said. */
const isAllThatIsSaid = (tokens: readonly Token[], at: number): boolean =>
  /^(?:all|any|both|each|every|open|text|file|folder|game|mod|pack)$/.test(keyAt(tokens, at)) &&
  /^(?:be|to|is|as|sein|ser|valer|être)$/.test(keyAt(tokens, at - 1)) &&
  (tokens[at + 1]?.fresh ?? true);

/** “not 3”, “from 3”, “from the 3”; „statt 3 nun 4“: what stands behind the old one does not. */
const goesAway = (before: string, beforeThat: string, now: string): boolean =>
  OLD.test(before) ||
  (OLD.test(beforeThat) && before !== nameKey(now) && (!NEW.test(before) || (before === 'be' && beforeThat === 'not')));

const isPairAt = (tokens: readonly Token[], at: number): boolean =>
  isPair(tokens[at - 1] as Token, tokens[at], tokens[at + 1]);

/** Stands an equals sign before it, or as the first behind the key a colon, or “write”? */
function isLed(tokens: readonly Token[], at: number, first: boolean): boolean {
  const token = tokens[at] as Token;
  return (
    keyAt(tokens, at - 1) === '=' || (first && (token.colon || (!token.fresh && WRITE.test(keyAt(tokens, at - 2)))))
  );
}

function asNumber(token: Token, now: string, { cue }: Seen): string | undefined {
  if (isNumber(token.text)) return token.text.replace(/(\d),(\d)/, now.includes(',') ? '$1,$2' : '$1.$2');
  return isSwitch(now) && /^(?:true|false|yes|no|on|off)$/.test(token.key) && (cue || token.quoted)
    ? (switched(now, /^(?:true|yes|on)$/.test(token.key)) ?? token.text)
    : undefined;
}

/** Words for on and off that are ordinary ones elsewhere. */
const ON_OR_OFF = /^(?:s[ií]|ein|aus|an)$/;

const asSwitch = (token: Token, now: string, { cue, isWord }: Seen): string | undefined =>
  cue && now.toLowerCase() === 'no' && /^s[ií]$/.test(token.key)
    ? token.text
    : isSwitch(token.text) && (token.quoted || cue || !isWord || /^(?:true|false)$/.test(token.key))
      ? inWordsOf(now, token.text)
      : undefined;

/** `=forest,moor`: a value of several items behind an equals sign, as it is written. */
function listBehind(sentence: string, equals: Token | undefined): string | undefined {
  if (equals?.text !== '=') return undefined;
  const value = /^=\s*([^\s"]+)/.exec(sentence.slice(equals.start))?.[1]?.replace(/[.,;:!?)]+$/, '');
  return value !== undefined && /[^\s,;|][,;|][^\s,;|]/.test(value) ? value : undefined;
}

/** What is wanted, of what stands near a key: not what goes away, and rather something else than what is there. */
function pickValue(found: readonly Candidate[], now: string): string | undefined {
  const wanted = found.filter(({ old }) => !old);
  return (wanted.find(({ value }) => nameKey(value) !== nameKey(unquoted(now))) ?? wanted[0])?.value;
}
