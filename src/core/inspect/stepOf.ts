import { kindOf } from '../media/kinds';
import { knowledgeOf } from '../names/knowledge';
import { baseName, extensionOf, isUnder, joinPath, nameKey, parentOf } from '../paths/paths';
import type { Ground, Mention } from './mention';
import { speaksOf } from './sentences';
import type { Last, PutStep } from './step';

const NAMED =
  /(?:\brename[ds]?\b[^\n]{0,80}?\bto|\brenamed?(?= \S+\.\w)|\bcall(?:ed)? (?:it|them)?|\bname(?:d)? it|\bgive[ns]?\b[^\n]{0,60}\bthe name|\bunder the name(?: of)?|\bby the name(?: of)?|\bumbenennen in|\bunter dem namen|\bnenne?\b[^\n]{0,30}|\bllámal[oa]|\bcon el nombre(?: de)?|\bpor el nombre(?: de)?|\brenomme[rz]?\b[^\n]{0,60}\ben|\bsous le nom(?: de)?)\s+["“„«'‘]?([\p{L}\p{N}][\p{L}\p{N}._-]{0,60}?)["”“»'’]?(?=$|[\s,;:!?)]|\.(?:\s|$))/iu;

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

export function stepOf(
  where: Mention | undefined,
  things: readonly Mention[],
  text: string,
  line: number,
  { entries, tree }: Ground,
  last: Last,
): PutStep | undefined {
  const isFile = (path: string) => entries.some((entry) => entry.path === path);
  let what = [
    ...new Set(
      things.flatMap((one) => {
        const { packFolders, packFiles } = one;
        return packFolders.length > 0 ? outermost(packFolders) : packFiles;
      }),
    ),
  ];
  // “takes the place of x.fx”, which the pack has too: that file is meant.
  if (what.length === 0 && things.length === 0 && where && where.cue === 'over') what = [...where.packFiles];
  const general = things.find(({ all }) => all);
  const kind = general && what.length === 0 ? kindWord(general.words) : undefined;
  if (kind)
    what = entries
      .filter(({ path }) => kindOf(path) === kind || (kind === 'picture' && kindOf(path) === 'texture'))
      .map(({ path }) => path);
  const cue = where?.cue;
  const isWhere = where !== undefined && WHERE.test(text.slice(Math.max(0, where.start - 20), where.start));
  const among = isWhere && ARE.test(text.slice(where.end, where.end + 60));
  const how: PutStep['how'] =
    cue === 'beside' || cue === 'like' || among
      ? 'beside'
      : cue === 'over'
        ? 'over'
        : cue === 'inside' || (where && where.gameFiles.length > 0 && INSIDE.test(text))
          ? 'inside'
          : 'into';
  const itsPlace = !where && ITS_PLACE.test(text) && last.files.length > 0;
  let folders = where ? [...where.gameFolders, ...where.newFolders] : itsPlace ? [] : [...last.folders];
  const files = itsPlace ? [...last.files] : where && folders.length === 0 ? [...where.gameFiles] : [];
  const ofKind =
    (how === 'beside' || isWhere) && where
      ? amongSiblings(folders, what, text.slice(where.end), { tree, isFile })
      : undefined;
  if (ofKind) [folders, what] = [ofKind.folders, ofKind.what];
  // “next to hilltop”: where that lies.
  else if (how === 'beside') {
    const literally =
      where?.cue === 'beside' &&
      what.length > 0 &&
      what.every((one) => !isFile(one)) &&
      !OTHERS.test(text.slice(Math.max(0, where.start - 30), where.start));
    folders = [
      ...new Set(
        folders.map((folder) => (standsBeside(folder, what, literally, { tree, entries }) ? parentOf(folder) : folder)),
      ),
    ];
  }
  // “to where the program is”.
  if (
    where &&
    WHERE_IT_IS.test(text.slice(Math.max(0, where.start - 30), where.start)) &&
    folders.length === 0 &&
    what.length === 0 &&
    general &&
    new Set(files.map(parentOf)).size === 1
  )
    folders = [parentOf(files[0] as string)];
  // Of several folders of one name the one of which the sentence speaks.
  const spoken = (folder: string) =>
    parentOf(folder)
      .split('/')
      .slice(1)
      .some((name) => name.length > 2 && nameKey(name) !== nameKey(baseName(folder)) && speaksOf(text, name));
  if (folders.length > 1 && folders.some(spoken)) folders = folders.filter(spoken);
  if (folders.length === 0 && (files.length === 0 || (what.length === 0 && how !== 'inside' && !itsPlace)))
    return undefined;
  const name = NAMED.exec(text)?.[1]?.trim();
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
    ...(name !== undefined && !ITS_NAME_ONLY.test(name)
      ? { name }
      : ITS_NAME.test(text) && files.length === 1
        ? { name: '' }
        : {}),
  };
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
