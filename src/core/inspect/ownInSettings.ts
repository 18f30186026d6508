import { bareKey } from './keyIndex';
import { isNoRequest } from './noRequest';
import type { ReadSoFar } from './readSoFar';
import { sentencesOf, speaksOf } from './readMeSentences';
import { isPluralOf, namesOf } from './listsInFiles';
import { baseName, nameKey } from '../paths/paths';
import { settingsTokens, type Token } from './settingsWords';
import type { ListReader } from './settingsInLists';
import type { Statement } from '../games/statement';

/* Where a pack brings one more thing of a kind, and the game's settings name things of that kind: then a read-me need
   not say in so many words that it is to be named there. */

type Naming = Extract<Statement['about'], { what: 'list' | 'names' }>;

/** Speaks of being one of several that are named somewhere. */
const AMONG =
  /(?<!\p{L})(?:first|second|third|fourth|fifth|next|last|one of|named?|names|list(?:ed|s)?|lines?|there|too|also|as well|missing|after|behind|between|among|said|says?|stands?|in it|dritte[rs]?|letzte[rns]?|auch|dort|fehlt|también|allí|falta|aussi|manque)(?!\p{L})/iu;

/** “loft.json says so”, “field.yaml has to know her”: what the pack brings. */
const ITSELF =
  /(?<!\p{L})(?:says so|(?:names|lists|has|knows|says|mentions) (?:it|her|him|this|them)|in the list|auf die liste|en la lista|dans la liste|(?:has|have|needs|wants) to \p{L}+ (?:it|her|him|this|them)|(?:must|should) \p{L}+ (?:it|her|him|this|them))(?!\p{L})/iu;

/** What it is named for is the player's wish: “if you want to begin here”. */
const AS_YOU_LIKE = /(?<!\p{L})(?:if you|in case you|wenn du|falls du|si (?:quieres|tienes|tu|vous))(?!\p{L})/iu;

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
  for (const naming of namings) {
    const alone = namings.filter(({ file, what }) => file === naming.file && what === naming.what).length === 1;
    const isFound = known.found.some(
      (one) => one.kind === 'key' && one.file === naming.file && naming.path.every((name, i) => one.path[i] === name),
    );
    const said = isFound ? undefined : sentencesOf(text).find((one) => isMeant(one.text, naming, alone, known));
    if (said) put(naming, said.line, known, lists);
  }
}

/** Does a sentence speak of these settings as those that are to name what the pack brings? */
function isMeant(sentence: string, naming: Naming, alone: boolean, known: ReadSoFar): boolean {
  const said = spokenOf(sentence, naming, known);
  const { key, isFile } = said;
  const [at, length] = key ? [key.start, key.text.length] : [sentence.length, 0];
  if (said.isOther || AS_YOU_LIKE.test(sentence) || isNoRequest(sentence, at, length)) return false;
  if (naming.what === 'list') return isListMeant(said, naming.folder, alone);
  return isFile && said.isOwn && key !== undefined;
}

/** @param alone the file has no other list of such things */
function isListMeant({ key, isFile, isOwn, isAmong, hasKeys }: Spoken, folder: string, alone: boolean): boolean {
  if (key && isFile) return isOwn || isAmong;
  if (isFile) return alone && isOwn && isAmong && !hasKeys;
  // A folder may be called like the list.
  return key !== undefined && isAmong && key.key.length > 3 && key.key !== nameKey(baseName(folder));
}

interface Spoken {
  /** The key, where the sentence has it as a word. */
  key: Token | undefined;
  /** It names this settings file, or others. */
  isFile: boolean;
  isOther: boolean;
  /** It speaks of what the pack brings. */
  isOwn: boolean;
  isAmong: boolean;
  /** It has words that are keys of the file. */
  hasKeys: boolean;
}

function spokenOf(sentence: string, { path, file }: Naming, known: ReadSoFar): Spoken {
  const tokens = settingsTokens(sentence);
  const name = bareKey(path.at(-1) ?? '');
  const named = known.filesIn(tokens, sentence).map((one) => known.index.files[one]?.target);
  const isFile = named.length === 1 && named[0] === file;
  return {
    key: tokens.find(({ text }) => bareKey(text) === name || isPluralOf(name, bareKey(text))),
    isFile,
    isOther: named.length > 0 && !isFile,
    isOwn: speaksOf(sentence, known.ownName() ?? '') || ITSELF.test(sentence),
    isAmong: AMONG.test(sentence),
    hasKeys: tokens.some(({ text }) => known.index.keys(text).some((one) => known.fileOf(one) === file)),
  };
}

function put({ what, file, path }: Naming, line: number, known: ReadSoFar, lists: ListReader): void {
  const { index } = known;
  const at = index.files.findIndex(({ target }) => target === file);
  const isHere = (one: readonly string[]) => one.join('\n') === path.join('\n');
  const names =
    at < 0
      ? undefined
      : namesOf((index.files[at] as { document: Parameters<typeof namesOf>[0] }).document).find((list) =>
          isHere(list.path),
        );
  if (names) return lists.ownName({ ...names, file: at }, line);
  const place = index.keys(path.at(-1) ?? '').find((one) => one.file === at && isHere(one.path));
  if (!place) return;
  const own = known.ownName(place.value);
  if (what === 'list') lists.own(place, line);
  else if (own !== undefined && nameKey(own) !== nameKey(place.value)) known.push(place, own, line);
}
