import { extensionOf } from '../paths/paths';
import { keyAt } from './byContrast';
import { bareKey, type KnownKey } from './keyIndex';
import type { ReadSoFar } from './readSoFar';
import { HOW_MUCH, NEVER, OLD, WRITE, isNumber, isSwitch, type Token } from './settingsWords';

/**
 * “Name it in place of gong.opus”, “write reef for shore”: a value that is there goes, another comes.
 *
 * @param named the files that the sentence names
 * @param known gets what is asked for
 */
export function replaced(tokens: readonly Token[], named: readonly number[], line: number, known: ReadSoFar): void {
  const files = named.length > 0 ? named : known.files;
  if (writtenWhere(tokens, line, known)) return;
  tokens.forEach((token, i) => {
    const becomes = BECOMES.test(keyAt(tokens, i + 1)) ? tokens[i + 2] : changedTo(tokens, i, known);
    const isIn = ({ file }: KnownKey) => files.includes(file) || (files.length === 0 && becomes !== undefined);
    const [place, other] = known.index.holding(token.text).filter(isIn);
    if (!place || other) return;
    // “base becomes base+ailsa”
    if (becomes && !NEVER.has(becomes.key)) return known.push(place, becomes.text, line);
    const isOld = [1, 2, 3].some((far) => OLD.test(keyAt(tokens, i - far))) || isWrittenFor(tokens, i, known);
    if (!isOld) return;
    // “It is named as First, in place of mail”: of a key that is named, too, the pack's own folder may be meant.
    const own = tokens.some(({ text }) => bareKey(text) === place.name) ? known.ownName(place.value) : undefined;
    const value = freshIn(tokens, i, known) ?? insteadOf(tokens, i) ?? known.lastItem ?? own;
    if (value !== undefined && extensionOf(value) === extensionOf(token.text)) known.push(place, value, line);
  });
}

/** “Write 0 where choir.cfg has 0.3”, “put motor where it says foot”: for the one key of the file that holds it. */
function writtenWhere(tokens: readonly Token[], line: number, known: ReadSoFar): boolean {
  const where = tokens.findIndex(({ key }) => /^(?:where|wo|donde|où)$/.test(key));
  const [value, file, verb, old] = [-1, 1, 2, 3].map((far) => tokens[where + far]);
  const isWritten = where >= 2 && WRITE.test(keyAt(tokens, where - 2)) && HAS.test(verb?.key ?? '');
  if (!isWritten || !value || !old) return false;
  const place = placeHolding(old.text, file?.text ?? '', known);
  if (!place || isNumber(place.value) !== isNumber(value.text)) return false;
  known.push(place, value.text, line);
  return true;
}
/** The one key of a file that holds a value. @param named the word for the file, which may be “it” */
function placeHolding(value: string, named: string, { files, index }: ReadSoFar): KnownKey | undefined {
  const [file, other] = named === 'it' ? files : index.filesNamed(named);
  const [place, more] = file === undefined || other !== undefined ? [] : index.withValue(file, value);
  return more ? undefined : place;
}

const HAS = /^(?:has|says|reads|had|holds|shows|hat|tiene|dice|a|contient)$/;

/** “Change brass to ship”, „ersetze brass durch ship“: what comes in the place of a word that can only be a value. */
function changedTo(tokens: readonly Token[], old: number, { index }: ReadSoFar): Token | undefined {
  const text = tokens[old]?.text ?? '';
  if (!isToChange(tokens, old) || isNumber(text) || isSwitch(text)) return undefined;
  // “change normal in game.ini to hard”
  const isFile = index.filesNamed(tokens[old + 2]?.text ?? '').length > 0;
  const into = old + (isFile ? 3 : 1);
  const value = INTO.test(keyAt(tokens, into)) ? tokens[into + 1] : undefined;
  return value && !value.fresh && (value.quoted || !NEVER.has(value.key)) ? value : undefined;
}

/** Stands right behind the verb, but for an article. */
function isToChange(tokens: readonly Token[], at: number): boolean {
  const verb = [1, 2].find((far) => CHANGE.test(keyAt(tokens, at - far)));
  return verb === 1 || (verb === 2 && /^(?:the|den|die|das|el|la|le)$/.test(keyAt(tokens, at - 1)));
}

const CHANGE =
  /^(?:chang(?:e|ing|es)|replac(?:e|ing|es)|alter|turn|exchange|swap|ändere|ändern|ersetze[nt]?|tausche|cambia|cambie|reemplaza|sustituye|remplace[rz]?|change[rz]?)$/;
const INTO = /^(?:to|into|with|by|for|in|zu|auf|durch|gegen|por|a|con|par|en|à)$/;
const BECOMES = /^(?:becomes?|wird|devient)$/;

/** “few instead of many”, “write amber in place of blue”: the word that begins it, or stands behind the verb. */
function insteadOf(tokens: readonly Token[], old: number): string | undefined {
  const at = [1, 2, 3]
    .map((far) => old - far)
    .find((n) => /^(?:instead|rather|statt|anstatt|place|lugar|lieu)$/.test(keyAt(tokens, n)));
  const value = at === undefined ? -1 : at - (/^(?:place|lugar|lieu)$/.test(keyAt(tokens, at)) ? 2 : 1);
  const token = tokens[value];
  const begins = token && (value === 0 || token.fresh || WRITE.test(keyAt(tokens, value - 1)));
  return begins && (!NEVER.has(token.key) || HOW_MUCH.test(token.key)) ? token.text : undefined;
}

/** “by writing fishquarter for oldtown”: something of the pack is written for a value that is there. */
const isWrittenFor = (tokens: readonly Token[], old: number, { packNames }: ReadSoFar): boolean =>
  /^(?:for|für|por|pour)$/.test(keyAt(tokens, old - 1)) &&
  (tokens[old - 2]?.quoted === true || packNames.has(keyAt(tokens, old - 2))) &&
  /^(?:writ|put|enter|typ|us|nam|schreib|trag|escrib|écri)/.test(keyAt(tokens, old - 3));

/** What comes in place of a value, the old one being the word at `old`. */
function freshIn(tokens: readonly Token[], old: number, { index, packNames }: ReadSoFar): string | undefined {
  const isNew = ({ quoted, text }: Token) =>
    quoted && index.holding(text).length === 0 && index.keys(text).length === 0;
  const fresh = tokens.find(
    (token, at) =>
      at !== old && (packNames.has(token.key) || isNew(token)) && index.filesNamed(token.text).length === 0,
  );
  return fresh && (packNames.get(fresh.key) ?? fresh.text);
}

/** “squid.dat lies beside it, and File= names it”: a file of the pack, for a key that holds the name of one. */
export function fileNamedBy(
  { value }: KnownKey,
  tokens: readonly Token[],
  sentence: string,
  { packNames, lastItem = '' }: ReadSoFar,
): string | undefined {
  const ending = extensionOf(value);
  if (ending === '' || !NAMES.test(sentence)) return undefined;
  const said = tokens.flatMap(({ key }) => packNames.get(key) ?? []).filter((name) => extensionOf(name) === ending);
  const [only, other] = new Set(said.length > 0 ? said : [lastItem]);
  return other === undefined && only !== undefined && extensionOf(only) === ending ? only : undefined;
}
const NAMES =
  /\b(?:names?|points? (?:to|at)|refers? to|loads?|reads?|uses?|opens?|nennt|verweist auf|nombra|apunta a|nomme)\b/iu;
