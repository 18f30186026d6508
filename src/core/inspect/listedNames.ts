import { extensionOf, nameKey } from '../paths/paths';
import { ADDING, type Token } from './settingsWords';

/** Tells to write one more line. */
const LINE_MORE =
  /\b(?:new|another|extra|own|last|following|this|one|one more) line\b|\bon an? line\b|\b(?:needs?|wants?|gets?|requires?|takes?|is missing|with|by) (?:an? |one |the )?(?:more |further |new )?lines?\b|\b(?:writ(?:e|ten)|typed?|enter(?:ed)?|put|note[sd]?|schreib\w*|trag(?:e|t|en|st)?|eintrag\w*|escrib\w*|écri\w*|inscri\w*)\b|\b(?:neue|eigene|weitere|noch eine) zeile\b|\b(?:nueva|otra) línea\b|\blínea más\b|\b(?:nouvelle|autre) ligne\b|\bligne de plus\b/iu;
const PUT_AS_FILE =
  /^(?:unpack|extract|unzip|copy|move|drop|place|merge|entpacke|kopiere|verschiebe|copia|mueve|copiez|déplacez)$/;
const NAME = /^[\p{L}\p{N}_.-]{2,80}(?:[\\/][\p{L}\p{N}_.-]{1,80}){0,4}$/u;
const NAME_OF_WORDS = /^[\p{L}\p{N}_(][\p{L}\p{N}_.'’ &()-]{1,120}$/u;

/** Does a sentence ask for one more line in a file that lists names? */
export const asksForALine = (sentence: string): boolean => ADDING.test(sentence) || LINE_MORE.test(sentence);

/**
 * Which of the names in a sentence are to stand in a file that lists names: what is in quotes before what is not; with
 * the ending that all of those in the file have, and the sign before them; and not what the sentence only puts
 * somewhere as a file.
 *
 * @param tokens the sentence
 * @param names those of its words that name something of the pack, or are quoted
 * @param known what the file lists
 * @param spelled how a name is to be written
 */
export function namesToList(
  tokens: readonly Token[],
  names: readonly Token[],
  known: readonly string[],
  spelled = ({ text }: Token): string => text,
): string[] {
  const fits = known.some((name) => name.includes(' ')) ? NAME_OF_WORDS : NAME;
  const written = names.filter((token) => fits.test(token.text) && !isPut(tokens, token));
  const quoted = written.filter((token) => token.quoted);
  const ending = extensionOf(known[0] ?? '');
  const same = known.every((name) => extensionOf(name) === ending);
  const meant = quoted.length > 0 ? quoted : written.filter(({ text }) => !same || extensionOf(text) === ending);
  // `*base.mod`: where a sign before each says that it is on.
  const on = known.filter((name) => /^[*+]/.test(name));
  const sign = on[0]?.[0] ?? '';
  // Where most bear it, those without are off.
  const isSigned = known.every((name) => /^[*+-]/.test(name)) || on.length * 2 > known.length;
  // `narrow/rose`: where all stand below one folder, the next one does, too.
  const folder = /^.*[\\/]/.exec(known[0] ?? '')?.[0] ?? '';
  const below = (name: string) =>
    folder !== '' && !/[\\/]/.test(name) && known.every((one) => one.startsWith(folder)) ? folder + name : name;
  return unique(meant, spelled).map((name) => (isSigned && !/^[*+-]/.test(name) ? sign + name : below(name)));
}

/** Their texts, each once. */
export const unique = (tokens: readonly Token[], textOf = ({ text }: Token): string => text): string[] => [
  ...new Map(tokens.map((token) => [token.key, textOf(token)])).values(),
];

/** “Unpack into mods, then add …”: what the last verb before a word puts somewhere as a file. */
export function isPut(tokens: readonly Token[], token: Token): boolean {
  const verb = tokens
    .slice(0, tokens.indexOf(token))
    .findLast(({ key, quoted }) => !quoted && (PUT_AS_FILE.test(key) || asksForALine(key)));
  return verb !== undefined && PUT_AS_FILE.test(verb.key);
}

/** What a list in brackets holds, `["base", "more"]`, by `nameKey` or `by`; undefined where a value is none. */
export function bracketed(value: string, by: (item: string) => string = nameKey): Set<string> | undefined {
  const held = /^\[(.*)\]$/s.exec(value)?.[1];
  if (held === undefined) return undefined;
  const items = held.split(',').map((item) => item.trim().replace(/^["']|["']$/g, ''));
  return new Set(items.filter((item) => item !== '').map(by));
}

/**
 * A list in brackets with more items, in the quotes that its first one has; undefined where there are none to add.
 *
 * @example withItems("['base']", ['reef']) // "['base', 'reef']"
 */
export function withItems(value: string, items: readonly string[]): string | undefined {
  if (items.length === 0) return undefined;
  const held = value.slice(1, -1).trim();
  const quote = held === '' ? '"' : (/^["']/.exec(held)?.[0] ?? '');
  return `[${[...(held === '' ? [] : [held]), ...items.map((item) => quote + item + quote)].join(', ')}]`;
}

/**
 * “It needs a line "load otter"” for a file that has `load heron` and `load tern`.
 *
 * @param lists its commands that stand there several times, with the names behind them
 * @param isOfPack does a name belong to the pack?
 * @returns the command and the name behind it, and where both stand in the sentence
 */
export function commandsMore(
  sentence: string,
  lists: ReadonlyMap<string, readonly string[]>,
  isOfPack: (key: string) => boolean,
): { command: string; name: string; at: number; length: number }[] {
  return [...lists.keys()].flatMap((command) => {
    const said = new RegExp(
      `(?<![\\p{L}\\p{N}_])${command.replace(/[+.]/g, '\\$&')}[ \\t]+([\\p{L}_][\\p{L}\\p{N}_.-]*)`,
      'giu',
    );
    return [...sentence.matchAll(said)].flatMap(({ 0: whole, 1: written = '', index }) => {
      const name = written.replace(/[.-]+$/, '');
      const [before, behind] = [sentence.slice(0, index), sentence.slice(index + whole.length)];
      const isAlone = behind.trim() === '' && /(?:^|:)\s*$/.test(before);
      const isQuoted = /["“„«`']$/.test(before) && /^["”“»`']/.test(behind);
      const isAsked = isAlone || (asksForALine(sentence) && (isQuoted || isOfPack(nameKey(name))));
      return isAsked ? [{ command, name, at: index, length: whole.length }] : [];
    });
  });
}

/** The sign between items, where a sentence says it: “(comma separated)”. */
export const toldSeparator = (sentence: string): string | undefined =>
  SIGNS.find(([, called]) => called.test(sentence) && SEPARATED.test(sentence))?.[0];
const SEPARATED = /(?<!\p{L})(?:separat|divid|delimit|split|with a|mit|getrennt|separad|con |sépar|avec)/iu;
const SIGNS: readonly (readonly [string, RegExp])[] = [
  [';', /\b(?:semi-?colons?|strichpunkt\w*|semikolon\w*|punto y coma|point-virgule)\b/iu],
  [',', /\b(?:commas?|komma\w*|comas?|virgules?)\b/iu],
  ['|', /\b(?:pipes?|vertical bars?)\b/iu],
];

/** The separator of a value that is a list. */
export const separatorOf = (value: string): string | undefined => [',', ';', '|'].find((one) => value.includes(one));

/** Does a sentence add something to the list that one of its words names? @param isItems it has items of its own */
export const isAddedToList = (tokens: readonly Token[], list: number, sentence: string, isItems: boolean): boolean =>
  ADDING.test(sentence) ||
  IS_IN.test(sentence) ||
  ITSELF.test(sentence) ||
  isPutInto(tokens, list) ||
  (isItems && OF_A_LINE.test(sentence) && asksForALine(sentence));

/** “Put "lambs" into features.” */
const isPutInto = (tokens: readonly Token[], list: number): boolean => {
  const into = tokens.findLastIndex(({ key }, at) => at < list && INTO.test(key));
  const isAll = tokens.slice(into + 1, list).every(({ key }) => /^(?:the|list|die|liste|la|lista)$/.test(key));
  return isAll && tokens[into - 1]?.quoted === true && PUT.test(tokens[into - 2]?.key ?? '');
};
const PUT = /^(?:put|write|enter|insert|place|type|schreibe?|pon|escribe|mets|mettez|écrivez)$/;

/** “Add fernery.plg to plugins.txt”: right behind the verb, with the ending that all those have that are listed. */
export const isPlainlyAdded = (tokens: readonly Token[], at: number, names: readonly string[]): boolean => {
  const ending = extensionOf(tokens[at]?.text ?? '');
  return (
    ending !== '' &&
    names.every((name) => extensionOf(name) === ending) &&
    /^(?:add|append|ergänze|añade|ajoute[rz]?)$/.test(tokens[at - 1]?.key ?? '')
  );
};

/** “It has to be the last in Load.”, “write its name …”: what the pack brings. */
export const ITSELF =
  /(?<!\p{L})(?:(?:its|their) names?|(?:has to|must|should|needs to) (?:name|list|contain|include|mention|hold|know) (?:it|this|them|both)|(?:it|this) (?:has to|must|should|needs to|wants to|is to) (?:be|come|go|stand)(?: the| as| at the)?(?: last| first| end| next| one more| another| third| fourth)?(?: (?:one|name|entry|item|line))?(?: named| listed| added| mentioned)? (?:in|to|into|of|among))(?!\p{L})/iu;

const OF_A_LINE = /\b(?:lines?|entr(?:y|ies)|zeilen?|línea|ligne)\b/iu;

/** “it is not shown before "almond" is in "shown"” */
const IS_IN = /["”»’'] (?:is|are|stands?|must be|has to be|ist|steht|está|est) (?:in|en|dans) ["“„«‘']/iu;

export const INTO = /\b(?:into|in die|in den|en la|dans la)\b/iu;
