import type { Statement } from '../games/statement';
import { baseName, nameKey, type TargetPath } from '../paths/paths';
import { bareKey } from './keyIndex';
import { isPluralOf, namesOf } from './listsInFiles';
import { isNoRequest } from './noRequest';
import { speaksOf } from './readMeSentences';
import type { ReadSoFar } from './readSoFar';
import type { ListReader } from './settingsInLists';
import { settingsUnits } from './settingsUnits';
import { settingsTokens, type Token } from './settingsWords';

/* Where a pack brings one more thing of a kind, and the game's settings name things of that kind: then a read-me need
   not say in so many words that it is to be named there. */

type Naming = Extract<Statement['about'], { what: 'list' | 'names' }>;

/** Speaks of being one of several that are named somewhere. */
const AMONG =
  /(?<!\p{L})(?:first|second|third|fourth|fifth|next|last|one of|named?|names|list(?:ed|s)?|lines?|there|too|also|as well|missing|after|behind|between|among|said|says?|stands?|in it|dritte[rs]?|letzte[rns]?|auch|dort|fehlt|también|allí|falta|aussi|manque)(?!\p{L})/iu;

/** “loft.json says so”, “field.yaml has to know her”: what the pack brings. */
const ITSELF =
  /(?<!\p{L})(?:says so|(?:add|append|write|list|name) (?:it|her|him|them)|(?:names|lists|has|knows|says|mentions) (?:it|her|him|this|them)|(?:he|she|it|this) (?:is|has|wants|needs) to be (?:named|listed|written|added|among)|in the list|auf die liste|en la lista|dans la liste|(?:has|have|needs|wants) to \p{L}+ (?:it|her|him|this|them)|(?:must|should) \p{L}+ (?:it|her|him|this|them))(?!\p{L})/iu;

/** It is the player's wish, “if you want to begin here”, or what is there is to go. */
const NOT_MEANT =
  /(?<!\p{L})(?:(?:if you|in case you|wenn du|falls du|si (?:quieres|tienes|tu|vous))(?!\p{L})|(?:remov|delet|eras|entfern|lösch|borra|quita|supprim|retir)|takes? \p{L}+ out(?!\p{L}))/iu;

/**
 * Names what a pack brings in the settings where others of its kind are named, where its read-me speaks of those
 * settings and nothing was found for them otherwise.
 *
 * @param known gets what is asked for
 */
export function ownInSettings(
  text: string,
  statements: readonly Statement[],
  known: ReadSoFar,
  lists: ListReader,
): void {
  const { ownPlace } = known;
  if (ownPlace === undefined) return;
  const namings = statements
    .filter(({ standing }) => standing !== 'refused')
    .map(({ about }) => about)
    .filter((about) => about.what === 'list' || about.what === 'names')
    .filter(({ folder }) => nameKey(folder) === nameKey(ownPlace));
  if (namings.length === 0) return;
  const sentences = settingsUnits(text).flatMap((unit) =>
    unit.code || NOT_MEANT.test(unit.sentence) ? [] : [sentenceOf(unit, known)],
  );
  // What says which single value comes says nothing of lists.
  namings.sort((a, b) => Number(a.what === 'list') - Number(b.what === 'list'));
  const heard = new Set<Sentence>();
  for (const naming of namings) {
    const alone = namings.filter(({ file, what }) => file === naming.file && what === naming.what).length === 1;
    const isFound = known.found.some(
      (one) => one.kind === 'key' && one.file === naming.file && naming.path.every((name, i) => one.path[i] === name),
    );
    const said = isFound ? undefined : sentences.find((one) => isMeant(spokenOf(one, naming, known), naming, alone));
    if (!said || (naming.what === 'list' && heard.has(said))) continue;
    if (naming.what === 'names') heard.add(said);
    put(naming, said.line, known, lists);
  }
}

interface Sentence {
  text: string;
  line: number;
  tokens: readonly Token[];
  /** The settings files that it names. */
  named: readonly (TargetPath | undefined)[];
  /** It speaks of what the pack brings. */
  isOwn: boolean;
  /** It has the name of that in quotes. */
  isQuoted: boolean;
  isAmong: boolean;
}

function sentenceOf({ sentence, line }: { sentence: string; line: number }, known: ReadSoFar): Sentence {
  const tokens = settingsTokens(sentence);
  const own = known.ownName() ?? '';
  return {
    text: sentence,
    line,
    tokens,
    named: known.filesIn(tokens, sentence).map((one) => known.index.files[one]?.target),
    isOwn: speaksOf(sentence, own) || ITSELF.test(sentence),
    isQuoted: tokens.some(({ quoted, key }) => quoted && key === nameKey(own)),
    isAmong: AMONG.test(sentence),
  };
}

/** A sentence as it speaks of settings that name things. */
interface Spoken extends Sentence {
  /** The key, where the sentence has it as a word. */
  key: Token | undefined;
  /** It names this settings file, or others. */
  isFile: boolean;
  isOther: boolean;
  /** It has what stands there now as a word. */
  hasValue: boolean;
  /** It has words that are keys of the file. */
  hasKeys: boolean;
}

function spokenOf(sentence: Sentence, { path, file }: Naming, { index }: ReadSoFar): Spoken {
  const { tokens, named } = sentence;
  const name = bareKey(path.at(-1) ?? '');
  const isFile = named.length === 1 && named[0] === file;
  const now = index.files
    .find(({ target }) => target === file)
    ?.document.get(path)
    ?.replaceAll('"', '');
  return {
    ...sentence,
    key: tokens.find(({ text }) => bareKey(text) === name || isPluralOf(name, bareKey(text))),
    isFile,
    isOther: named.length > 0 && !isFile,
    hasValue: tokens.some((token) => now !== undefined && token.key === nameKey(now)),
    hasKeys: tokens.some(({ text }) => index.keys(text).some((one) => index.files[one.file]?.target === file)),
  };
}

/** Does a sentence speak of these settings as those that are to name what the pack brings? */
function isMeant(said: Spoken, { what, folder }: Naming, alone: boolean): boolean {
  const { text, key, isFile, isOther, isOwn } = said;
  const [at, length] = key ? [key.start, key.text.length] : [text.length, 0];
  if (isOther || isNoRequest(text, at, length)) return false;
  if (what === 'list') return isListMeant(said, folder, alone);
  // “say neap where mud.yaml says ebb”, “open becomes "madeira"”
  if (isFile) return isOwn && (key !== undefined || said.hasValue);
  return key !== undefined && said.isQuoted;
}

/** @param alone the file has no other list of such things */
function isListMeant({ key, isFile, isOwn, isAmong, hasKeys }: Spoken, folder: string, alone: boolean): boolean {
  if (key && isFile) return isOwn || isAmong;
  if (isFile) return alone && isOwn && isAmong && !hasKeys;
  // A folder may be called like the list.
  return key !== undefined && isAmong && key.key.length > 3 && key.key !== nameKey(baseName(folder));
}

function put({ what, file, path }: Naming, line: number, known: ReadSoFar, lists: ListReader): void {
  const { index } = known;
  const at = index.files.findIndex(({ target }) => target === file);
  const document = index.files[at]?.document;
  if (!document) return;
  const isHere = (one: readonly string[]) => one.join('\n') === path.join('\n');
  const names = namesOf(document).find((list) => isHere(list.path));
  if (names) return lists.ownName({ ...names, file: at }, line);
  const place = index.keys(path.at(-1) ?? '').find((one) => one.file === at && isHere(one.path));
  if (!place) return;
  const own = known.ownName(place.value);
  if (what === 'list') lists.own(place, line);
  else if (own !== undefined && nameKey(own) !== nameKey(place.value)) known.push(place, own, line);
}
