import { isGiven, isToBe, saysWhatIsThere } from './keyInSentence';
import { bareName, type KnownKey } from './keyIndex';
import { bracketed } from './listedNames';
import type { Token } from './settingsWords';
import { isPair } from './valuesNear';

const CALLED =
  /^(?:keys?|options?|values?|settings?|lines?|entry|switch|parameter|wert|schlüssel|zeile|option|eintrag|valor|clave|línea|valeur|clé|ligne|number|tag|attribute)$/;

/** In quotes, with signs or capitals that words do not have, or right before its value. */
const isWrittenAsKey = (tokens: readonly Token[], i: number): boolean => {
  const token = tokens[i] as Token;
  if (token.quoted || /[_\d.]|\p{Ll}\p{Lu}/u.test(token.text)) return true;
  return tokens[i + 1]?.text === '=' || isPair(token, tokens[i + 1], tokens[i + 2]);
};

/** A word beside it says that it is one: “the key fog”, “fog line”, “the value of fog”. */
const isSpokenOfAsKey = (tokens: readonly Token[], i: number, all: readonly KnownKey[]): boolean => {
  const around = (at: number) => tokens[at]?.key ?? '';
  // “in the load list”
  if (/^(?:list|array|liste|lista)$/.test(around(i + 1)) && all.some(isList)) return true;
  if (CALLED.test(around(i - 1)) || CALLED.test(around(i + 1)) || isInBrackets(tokens, i, all)) return true;
  return (
    CALLED.test(around(i - 2)) && /^(?:of|for|de|von|is|ist|es|est|named|called|the|behind|after)$/.test(around(i - 1))
  );
};

/** “already at 7 (from)”: nothing but the key, spelled as it is. */
const isInBrackets = (tokens: readonly Token[], i: number, [only, other]: readonly KnownKey[]): boolean =>
  tokens[i]?.opens === true &&
  (tokens[i + 1]?.fresh ?? true) &&
  other === undefined &&
  only !== undefined &&
  bareName(only.path.at(-1) ?? '') === tokens[i].text;

const isList = ({ items, value }: KnownKey): boolean => items !== undefined || bracketed(value) !== undefined;

/** Does the word at a place stand for the key, by how it is written, or by what stands around it? */
export const standsForKey = (tokens: readonly Token[], i: number, all: readonly KnownKey[]): boolean =>
  isWrittenAsKey(tokens, i) || isSpokenOfAsKey(tokens, i, all) || isGivenAlone(tokens, i, all);

/** There is one such key alone, or each thing of one kind has it, and the sentence gives it something. */
function isGivenAlone(tokens: readonly Token[], i: number, [only, ...others]: readonly KnownKey[]): boolean {
  if (only === undefined) return false;
  if (others.length === 0) return isGiven(tokens, i) || isToBe(tokens, i, only) || saysWhatIsThere(tokens, only);
  const isAlike = ({ file, path }: KnownKey) => file === only.file && path.at(-1) === only.path.at(-1);
  return others.every(isAlike) && isGiven(tokens, i);
}

/** Spelled with a capital as the key is; at the beginning of a sentence every word has one. */
export const isCasedAsKey = (tokens: readonly Token[], i: number, all: readonly KnownKey[]): boolean => {
  const { text } = tokens[i] as Token;
  if (!/^\p{Lu}/u.test(text) || !all.some(({ path, spelled }) => (spelled ?? bareName(path.at(-1) ?? '')) === text))
    return false;
  return (
    i > 0 ||
    /^(?:must|should|has|needs|says?|counts?|wants?|tells?|decides?|can|may|muss|soll|sollte|debe|tiene|doit)$/.test(
      tokens[i + 1]?.key ?? '',
    )
  );
};
