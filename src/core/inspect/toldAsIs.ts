import { keyAt } from './byContrast';
import { IS, STANDS, isNumber, isSwitch, type Token } from './settingsWords';

/* What a sentence tells of how things are, and does not ask for. */

const WANTED = /^(?:must|has|have|should|shall|needs?|wants?|to|be|muss|müssen|soll|sollen|debe|tiene|que|doit)$/;

/** “It stops at Most (100)”, where it is 100 now. @param isNew a word before it says that a value comes */
export const isNumberTold = (tokens: readonly Token[], at: number, isNew: boolean): boolean =>
  !isNew || IS.test(keyAt(tokens, at - 1));

/** “Robbers are set to yes.” */
const SET_TO = /^(?:is|are)(?: \p{L}+)? set to$/u;

/** “luck steht auf false”, where it is so now. @param behind the part looked through lies behind the key */
export function isSwitchTold(
  { tokens, from, now, behind }: { tokens: readonly Token[]; from: number; now: string; behind: boolean },
  at: number,
): boolean {
  const between = behind ? tokens.slice(from, at).map(({ key }) => key) : [];
  if (isSwitch(now) && SET_TO.test(between.join(' '))) return true;
  return (
    isSwitch(now) && between.some((key) => IS.test(key) || STANDS.test(key)) && !between.some((key) => WANTED.test(key))
  );
}

/** “Packs is a list”: what something is said to be. @param before the words before it */
export const isDescribed = (before: string, beforeThat: string): boolean =>
  /^(?:an?|eine?|una?|une)$/.test(before) && IS.test(beforeThat);

/** “Bronze and Tin are 78 and 22”, where it is one of these now. */
export function saysWhatIsSo({
  tokens,
  key,
  until,
  now,
}: {
  tokens: readonly Token[];
  key: number;
  until: number;
  now: string;
}): boolean {
  if (!isNumber(now) || !/^(?:are|sind|son|sont)$/.test(keyAt(tokens, key + 1))) return false;
  const said = tokens.slice(key + 2, until).filter(({ key: one }) => !/^(?:and|und|y|et)$/.test(one));
  return said.length > 1 && said.every(({ text }) => isNumber(text)) && said.some(({ text }) => text === now);
}
