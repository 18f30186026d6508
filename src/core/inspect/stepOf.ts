import { kindOf } from '../media/kinds';
import { knowledgeOf } from '../names/knowledge';
import { foldersInEach } from '../names/gameTree';
import { rootSpokenOf } from '../names/rootWords';
import { ownFolderOf } from '../placed/baggage';
import { baseName, extensionOf, isUnder, joinPath, nameKey, parentOf } from '../paths/paths';
import type { Ground, Mention } from './mention';
import { speaksOf, type Sentence } from './readMeSentences';
import type { Last, PutStep } from './step';

const NAMED =
  /(?:\brename[ds]?\b[^\n]{0,80}?\bto|\brenamed?(?= \S+\.\w)|\bcall(?:ed)? (?:it|them)?|(?<!(?<!you )(?:should|must|has to|needs to|shall|will|may) )\bname(?:d)? it|\bgive[ns]?\b[^\n]{0,60}\bthe name|\bunder the name(?: of)?|\bby the name(?: of)?|\bumbenennen in|\bunter dem namen|\bnenne?\b[^\n]{0,30}|\bllámal[oa]|\bcon el nombre(?: de)?|\bpor el nombre(?: de)?|\brenomme[rz]?\b[^\n]{0,60}\ben|\bsous le nom(?: de)?)\s+["“„«'‘`]?([\p{L}\p{N}][\p{L}\p{N}._-]{0,60}?)["”“»'’`]?(?=$|[\s,;:!?)]|\.(?:\s|$))/iu;

const ITS_NAME =
  /\b(?:(?:its|same|this|that|the old|the original) (?:place and (?:its )?)?name|take[s]? (?:its|the) place and|rename\w*|umbenenn\w*|seinen namen|su nombre|son nom)\b/iu;

export const ITS_PLACE =
  /\b(?:its place|in place of it|instead of it|replaces? it|seine stelle|ersetzt (?:sie|es|ihn)|su lugar|sa place)\b/iu;

export const OWN_FOLDER =
  /\b(?:folder of (?:its|their|your) own|own folder|new folder|make a (?:new )?folder|create a (?:new )?folder|give (?:it|them|the \w+) a folder|eigene[rn]? ordner|neue[rn]? ordner|carpeta (?:propia|nueva)|nueva carpeta|nouveau dossier|dossier à part)\b/iu;

const WHERE_IT_IS = /\b(?:where|wo|dorthin|donde|où)\b[^,;]*$/iu;

const OTHERS = /\b(?:others?|your|existing|rest|more|anderen|übrigen|deine[nr]?|demás|otr[ao]s|tus|autres|vos|tes)\b/iu;

const INSIDE =
  /\b(?:inside|into the (?:zip|archive)|(?:the|that|its) (?:zip|archive) itself|itself|with (?:any|a) zip|innerhalb|dentro|à l['’]intérieur)\b/iu;

/** A sentence, the place that it names and the things that go there. */
interface Named {
  where: Mention | undefined;
  things: readonly Mention[];
  sentence: Sentence;
}

/** What goes where, as a sentence says it. Undefined where that is not a place. */
export function stepOf(named: Named, ground: Ground, last: Last): PutStep | undefined {
  const { where, things, sentence } = named;
  const { text, line } = sentence;
  const general = things.find(({ all }) => all);
  const how = howOf(named);
  const meant = whatOf(named, ground);
  const { folders: begin, files, itsPlace } = goalsOf(named, last);
  const placed = where
    ? placedBeside(where, { folders: begin, what: meant, how, text }, ground)
    : { folders: begin, what: meant };
  const { what } = placed;
  const folders = spokenAlone(inRootSaid(whereItIs(named, placed, files), text, ground), text);
  const isFilePlace = files.length > 0 && (what.length > 0 || how === 'inside' || itsPlace);
  if (folders.length === 0 && !isFilePlace) return undefined;
  return {
    kind: 'put',
    line,
    text,
    what,
    folders,
    files,
    how,
    contents: things.some(({ contents }) => contents) || (general !== undefined && what.length === 0),
    ...(OWN_FOLDER.test(text) && !where?.called ? { ownFolder: true as const } : {}),
    ...nameOf(text, files),
  };
}

/** The folders and files that are named; where none is, those of the sentence before. */
function goalsOf({ where, sentence: { text } }: Named, last: Last): Last & { itsPlace: boolean } {
  if (where) {
    const folders = [...where.gameFolders, ...where.newFolders];
    return { folders, files: folders.length === 0 ? [...where.gameFiles] : [], itsPlace: false };
  }
  const itsPlace = ITS_PLACE.test(text) && last.files.length > 0;
  return itsPlace
    ? { folders: [], files: [...last.files], itsPlace }
    : { folders: [...last.folders], files: [], itsPlace };
}

/** The things of the pack that go: those that are named, or all of a kind. */
function whatOf({ where, things, sentence }: Named, { entries, tree }: Ground): string[] {
  const named = things.flatMap(({ packFolders, packFiles }) =>
    packFolders.length > 0 ? outermost(packFolders) : packFiles,
  );
  // “belfry is a door”: what lies in something that goes goes with it.
  if (named.length > 0) return outermost([...new Set(named)]);
  // “Next to hilltop”, of all that there is: the one folder that holds it.
  if (things.length === 0 && where?.cue === 'beside') {
    const isApart = areFilesApart(where, sentence.text, { entries, tree });
    return isApart ? [] : [ownFolderOf(entries)].filter((folder) => folder !== '');
  }
  // “takes the place of x.fx”, which the pack has too: that file is meant.
  if (things.length === 0) return where?.cue === 'over' ? replacing(where, entries) : [];
  const general = things.find(({ all }) => all);
  const kind = general && kindWord(general.words);
  if (!kind) return [];
  const isKind = (path: string) => kindOf(path) === kind || (kind === 'picture' && kindOf(path) === 'texture');
  return entries.map(({ path }) => path).filter(isKind);
}

/** “Joins the other chimes”, where these are files without folders, of the kind that the pack has. */
function areFilesApart(
  { start, gameFolders }: Mention,
  text: string,
  { entries, tree }: Pick<Ground, 'entries' | 'tree'>,
) {
  const [folder, other] = gameFolders;
  if (folder === undefined || other !== undefined || !OTHERS.test(text.slice(Math.max(0, start - 30), start)))
    return false;
  const endings = fileEndings(tree.files.get(nameKey(folder)));
  return (
    (foldersInEach(tree).get(nameKey(folder)) ?? 0) === 0 && entries.some(({ path }) => endings.has(extensionOf(path)))
  );
}

/** Of what is replaced, the pack's file of the same name: “replace content/ui/hud.swf”. */
function replacing({ packFiles, gameFiles }: Mention, entries: Ground['entries']): string[] {
  if (packFiles.length > 0) return [...packFiles];
  const names = new Set(gameFiles.map((file) => nameKey(baseName(file))));
  const same = entries.map(({ path }) => path).filter((path) => names.has(nameKey(baseName(path))));
  return same.length <= names.size ? same : [];
}

/** “where meadow and ridge are”: what stands before and behind the place. */
const saysWhere = (where: Mention, text: string): boolean =>
  WHERE.test(text.slice(Math.max(0, where.start - 20), where.start));

function howOf({ where, sentence: { text } }: Named): PutStep['how'] {
  if (!where) return 'into';
  const { cue, end, gameFiles } = where;
  const among = saysWhere(where, text) && ARE.test(text.slice(end, end + 60));
  if (cue === 'beside' || cue === 'like' || among) return 'beside';
  if (cue === 'over') return 'over';
  return cue === 'inside' || (gameFiles.length > 0 && INSIDE.test(text)) ? 'inside' : 'into';
}

/** Things with the folders that they go into. */
interface Placed {
  folders: string[];
  what: string[];
}

/** What goes beside something, or among things of a kind, goes where those lie. */
function placedBeside(
  where: Mention,
  { folders, what, how, text }: Placed & { how: PutStep['how']; text: string },
  { tree, entries }: Ground,
): Placed {
  const isFile = (path: string) => entries.some((entry) => entry.path === path);
  const ofKind =
    how === 'beside' || saysWhere(where, text)
      ? amongSiblings(folders, what, text.slice(where.end), { tree, isFile })
      : undefined;
  if (ofKind) return ofKind;
  if (how !== 'beside') return { folders, what };
  // “next to hilltop”: where that lies.
  const isThing = where.cue === 'beside' && what.length > 0 && what.every((one) => !isFile(one));
  const literally = isThing && !OTHERS.test(text.slice(Math.max(0, where.start - 30), where.start));
  const beside = folders.map((folder) =>
    standsBeside(folder, what, literally, { tree, entries }) ? parentOf(folder) : folder,
  );
  return { folders: [...new Set(beside)], what };
}

/** “to where the program is”, “all of it next to the program”. */
function whereItIs({ where, things, sentence: { text } }: Named, { folders, what }: Placed, files: string[]): string[] {
  if (!where || folders.length > 0 || what.length > 0 || !things.some(({ all }) => all)) return folders;
  const isThere = where.cue === 'beside' || WHERE_IT_IS.test(text.slice(Math.max(0, where.start - 30), where.start));
  return isThere && new Set(files.map(parentOf)).size === 1 ? [parentOf(files[0] as string)] : folders;
}

/** “the Music folder in your Documents”: of several folders those in the place of which the sentence speaks. */
function inRootSaid(folders: string[], text: string, { roots: [program] }: Ground): string[] {
  const said = folders.length > 1 && program ? rootSpokenOf(text) : undefined;
  const there = folders.filter((folder) => isUnder(folder, program?.id ?? '') === (said === 'program'));
  return said !== undefined && there.length > 0 ? there : folders;
}

/** Of several folders of one name the one of which the sentence speaks. */
function spokenAlone(folders: string[], text: string): string[] {
  const isSpoken = (folder: string) =>
    parentOf(folder)
      .split('/')
      .slice(1)
      .some((name) => name.length > 2 && nameKey(name) !== nameKey(baseName(folder)) && speaksOf(text, name));
  return folders.length > 1 && folders.some(isSpoken) ? folders.filter(isSpoken) : folders;
}

/** The name that it gets there; '' for that of the file in whose place it goes. */
function nameOf(text: string, files: readonly string[]): { name?: string } {
  const name = NAMED.exec(text)?.[1]?.trim();
  if (name !== undefined && !ITS_NAME_ONLY.test(name)) return { name };
  return ITS_NAME.test(text) && files.length === 1 ? { name: '' } : {};
}

/** What stands right behind a name: “… and libel”. */
const AND_NAME = /^["”“»'’]?\s*(?:,|and|und|y|et|or|oder)\s+["“„«'‘]?([\p{L}\p{N}][\p{L}\p{N}_-]*)/iu;

/**
 * “It goes with theft and libel”, two of a kind: it becomes one more of them, as a folder where it is one in the pack.
 *
 * @param behind what stands behind the first of them
 * @returns undefined where nothing says that one of the kind is meant
 */
function amongSiblings(
  folders: readonly string[],
  what: readonly string[],
  behind: string,
  { tree, isFile }: Pick<Ground, 'tree'> & { isFile: (path: string) => boolean },
): { folders: string[]; what: string[] } | undefined {
  const other = AND_NAME.exec(behind)?.[1];
  const { familyOf } = knowledgeOf(tree);
  const isOther = (folder: string) =>
    other !== undefined &&
    nameKey(other) !== nameKey(baseName(folder)) &&
    familyOf.get(nameKey(folder)) === familyOf.get(nameKey(joinPath(parentOf(folder), other)));
  // What has a file of that name already would be laid over it, not beside it.
  const isOver = (folder: string) =>
    what.length > 0 &&
    what.every(
      (one) =>
        isFile(one) && one.includes('/') && tree.files.get(nameKey(folder))?.has(nameKey(baseName(one))) === true,
    );
  const ofKind = folders.filter((folder) => familyOf.has(nameKey(folder)) && (isOther(folder) || isOver(folder)));
  if (ofKind.length === 0) return undefined;
  const lifted = new Set(what.map((one) => (isFile(one) ? parentOf(one) : one)).filter((one) => one !== ''));
  return { folders: [...new Set(ofKind.map(parentOf))], what: [...lifted] };
}

/**
 * What goes next to a folder goes where that lies; among things of a kind, or in a folder of such things, it goes among
 * them.
 */
function standsBeside(
  folder: string,
  what: readonly string[],
  literally: boolean,
  { tree, entries }: Pick<Ground, 'tree' | 'entries'>,
): boolean {
  const { familyOf, families } = knowledgeOf(tree);
  const key = nameKey(folder);
  const family = familyOf.get(key);
  if (family && !family.drawers)
    return what.every((one) => extensionOf(one) === '' || !fileEndings(tree.files.get(key)).has(extensionOf(one)));
  if (!literally || family || !folder.includes('/')) return false;
  const holder = families.find((one) => one.key === key);
  // A folder of such things stands beside the game's folder of them.
  const marks = holder && [...holder.core].filter((one) => one.startsWith('F:'));
  return (
    !marks ||
    (marks.length > 0 &&
      what.every(
        (one) =>
          !entries.some(
            ({ path }) => nameKey(parentOf(path)) === nameKey(one) && holder.core.has(`F:${nameKey(baseName(path))}`),
          ),
      ))
  );
}

/** “where meadow and ridge are”: among them, not in them. */
const WHERE =
  /\b(?:where|wo|donde|où)\s+(?:the\s+|der\s+|die\s+|das\s+|el\s+|la\s+|los\s+|las\s+|le\s+|les\s+)?["“„«'‘]?$/iu;

const ARE =
  /^["”“»'’]?(?:[\s,]+(?:and|und|y|et|or)?\s*["“„«'‘]?[\p{L}\p{N}_-]+["”“»'’]?){0,3}\s+(?:are|is|lies?|lives?|sits?|stands?|sind|ist|liegen|liegt|están|está|sont|est)\b/iu;

const ITS_NAME_ONLY = /^(?:it|the|a|to|as|you|same|folder|file)$/i;

const fileEndings = (files: ReadonlyMap<string, string> | undefined): Set<string> =>
  new Set([...(files?.keys() ?? [])].map(extensionOf));

const outermost = (folders: readonly string[]): string[] =>
  folders.filter((folder) => !folders.some((other) => other !== folder && isUnder(folder, other)));

function kindWord(words: string): 'picture' | 'sound' | 'archive' | undefined {
  if (/^(?:pictures?|images?|textures?|bilder|texturen|imágenes|texturas)$/i.test(words)) return 'picture';
  if (/^sounds?$/i.test(words)) return 'sound';
  return /^(?:zip|archive)$/i.test(words) ? 'archive' : undefined;
}
