import { baseName, extensionOf, isUnder, nameKey, parentOf } from '../paths/paths';
import { kindOf } from '../media/kinds';
import { readInstructions, type Instruction } from './instructions';
import { knowledgeOf } from '../study/knowledge';
import { MentionReader, type Ground, type Mention } from './mentions';
import { sentencesOf, speaksOf, wordsOf, type Sentence } from './sentences';

/** What goes where, as a read-me says it. */
export interface PutStep {
  kind: 'put';
  line: number;
  text: string;
  /** Folders and files of the pack; empty where all of it is meant. */
  what: string[];
  /** What lies in the folder goes, not the folder itself. */
  contents: boolean;
  /** The folders of the game that can be meant, as targets; `files` where a file is named. */
  folders: string[];
  files: string[];
  how: 'into' | 'beside' | 'over' | 'inside';
  /** The name it gets there. */
  name?: string;
  /** In a new folder of its own, there. */
  ownFolder?: true;
}

/** How a pack is to be taken, and the parts that the sentence names. */
export interface WordStep {
  kind: 'keep zipped' | 'choose one' | 'optional' | 'new folder';
  line: number;
  text: string;
  what: string[];
}

export type Step =
  | PutStep
  | WordStep
  | { kind: 'do not'; line: number; text: string; folders: string[]; files: string[] }
  | { kind: 'by hand'; line: number; text: string; what: 'close the game' | 'start the game' | 'back up' | 'in the game' | 'harmful' | 'needs' }
  | Instruction;

const PLACING = /\b(?:cp|mv|put|puts|place[ds]?|drop|drag|copy|copied|copies|move[ds]?|go(?:es)?|belongs?|install(?:ed|s)?|extract(?:ed|s)?|unzip(?:ped)?|unpack(?:ed)?|add(?:ed)?|lay|laid|lies?|sits?|joins?|save|throw|merge[ds]?|paste[ds]?|overwrites?|replaces?|lives?|stands?|should be|needs? to be|wants? to be|take[s]? (?:the|its|their|his) place|kommt|kommen|gehör(?:t|en)|kopier\w*|leg(?:en|t|e)|verschieb\w*|zieh(?:en|t|e)?|entpack\w*|ersetz\w*|pack(?:en|t)|copia[rd]?|copie\w*|pega[r]?|va[n]?|coloca[r]?|pon(?:er|ga)?|extrae[r]?|descomprim\w+|mueve|mover|arrastra\w*|met(?:s|tez|tre)|place[rz]|gliss\w+|déplac\w+|extra(?:is|yez|ire)|coll(?:e|er|ez)|remplac\w+|reemplaza\w*|sustituye\w*)\b/iu;
const NOT = /\b(?:do not|don['’]t|never|not|no|without|nicht|kein[enm]*|nie(?:mals)?|nunca|jamás|ne \p{L}+ pas|jamais)\b/iu;
const KEEP_ZIPPED = /(?:\b(?:not|never|don['’]t|no need to|without) (?:be |being )?(?:un(?:zip|pack|compress)\w*|extract\w*|open\w*)|\b(?:leave|leaves|keep|keeps|kept|left|stays?|remains?)\b[^.]{0,40}\b(?:zip(?:ped)?|packed|compressed|archived?|unopened|as (?:it|they) (?:is|are))|\b(?:reads?|loads?|takes?|opens?)\b[^.]{0,40}\b(?:zipped|packed|zips|archives)\b|\bas an? (?:zip|archive)\b|nicht (?:ent(?:packen|packt)|auspacken)|gepackt (?:lassen|bleiben)|bleibt? gepackt|sin descomprimir|no (?:lo |la )?(?:descomprim|extrai)\w+|ne (?:pas |le |la )*(?:décompress|extra)\w+|sans (?:le |la )?décompresser)/iu;
const CHOOSE = /\b(?:choose|pick|select|decide|either|one of (?:the|them|these)|only one|just one|whichever|the one (?:you|whose|that|for)|of your choice|your favou?rite|not both|more than one|never both|which(?:ever)? you (?:like|prefer)|wähl\w*|such(?:e|t)? dir|nur eine[nrs]?|entweder|elige|elegir|escoge|sólo un[oa]?|solo un[oa]?|choisi\w*|(?:un|une) seule?)\b/iu;
const OPTIONAL = /\b(?:optional(?:ly)?|if you (?:want|like|own|have|use|prefer|wish)|only (?:for|if|with)|for those who|not needed|wer mag|wahlweise|nach belieben|falls du|wenn du|opcional(?:es)?|si (?:tienes|quieres)|facultati(?:f|ve)|si vous)\b/iu;
const NAMED = /(?:\brename[ds]?\b[^\n]{0,80}?\bto|\brenamed?(?= \S+\.\w)|\bcall(?:ed)? (?:it|them)?|\bname(?:d)? it|\bgive[ns]?\b[^\n]{0,60}\bthe name|\bunder the name(?: of)?|\bby the name(?: of)?|\bumbenennen in|\bunter dem namen|\bnenne?\b[^\n]{0,30}|\bllámal[oa]|\bcon el nombre(?: de)?|\bpor el nombre(?: de)?|\brenomme[rz]?\b[^\n]{0,60}\ben|\bsous le nom(?: de)?)\s+["“„«'‘]?([\p{L}\p{N}][\p{L}\p{N}._-]{0,60}?)["”“»'’]?(?=$|[\s,;:!?)]|\.(?:\s|$))/iu;
const ITS_NAME = /\b(?:(?:its|same|this|that|the old|the original) (?:place and (?:its )?)?name|take[s]? (?:its|the) place and|rename\w*|umbenenn\w*|seinen namen|su nombre|son nom)\b/iu;
const VALUES = /\b(?:set|change[sd]?|becomes?|values?|lines?|keys?|entry|option|tags?|section|says?|true|false|wert|zeile|ändern|geändert|setz\w*|valor|línea|cambia\w*|valeur|ligne|chang\w+|=)\b|=/iu;
const SETTINGS_LIKE = /\.(?!png|jpe?g|tga|dds|wav|ogg|mp3|ttf|otf|zip|7z|exe|dll)\w{2,8}$/i;
const BACK_UP = /\b(?:keep|make|save) (?:a |an )?(?:backup |safe )?(?:copy|copies)\b|\bback(?:ing)? ?up\b|\bsicherungskopie\b|\bcopia de seguridad\b/giu;
const ITS_PLACE = /\b(?:its place|in place of it|instead of it|replaces? it|seine stelle|ersetzt (?:sie|es|ihn)|su lugar|sa place)\b/iu;
const OWN_FOLDER = /\b(?:folder of (?:its|their|your) own|own folder|new folder|make a (?:new )?folder|create a (?:new )?folder|give (?:it|them|the \w+) a folder|eigene[rn]? ordner|neue[rn]? ordner|carpeta (?:propia|nueva)|nueva carpeta|nouveau dossier|dossier à part)\b/iu;
const WHERE_IT_IS = /\b(?:where|wo|dorthin|donde|où)\b[^,;]*$/iu;
const OTHERS = /\b(?:others?|your|existing|rest|more|anderen|übrigen|deine[nr]?|demás|otr[ao]s|tus|autres|vos|tes)\b/iu;
const INSIDE = /\b(?:inside|into the (?:zip|archive)|(?:the|that|its) (?:zip|archive) itself|itself|with (?:any|a) zip|innerhalb|dentro|à l['’]intérieur)\b/iu;

const CALLED_FOLDER = /(?:\b(?:folder|directory|ordner|verzeichnis|carpeta|dossier)\s+(?:called|named|namens|mit dem namen|llamad[ao]|nommé|appelé)\s+["“„«'‘]?|\b(?:make|create|add|erstell\w*|lege?|crea\w*|cré\w*)\s+(?:\p{L}+\s+){0,2}(?:folder|directory|ordner|verzeichnis|carpeta|dossier)\s+["“„«'‘]?)(?!(?:in|inside|im|en|dans|called|named|namens|mit|llamad[ao]|nommé|appelé)\b)([\p{L}\p{N}][\p{L}\p{N} _-]{0,40}?)["”“»'’]?\s+(?:in|inside|within|into|im|en|dans)\s+(?:\p{L}+\s+){0,3}["“„«'‘]?$/iu;

/**
 * Reads a read-me as a list of steps. A step names things of the pack and of the game; what names something that is not
 * there is not guessed. Nothing is ever carried out because a read-me says so: steps are evidence and proposals.
 *
 * @param ground the pack and the game that it speaks of; without it only settings are read
 */
export function readSteps(text: string, ground?: Ground): Step[] {
  const sentences = sentencesOf(text);
  const steps: Step[] = [...readInstructions(text)];
  for (const sentence of sentences) steps.push(...byHandSteps(sentence));
  if (ground) {
    const reader = new MentionReader(ground);
    let last: Last = { folders: [], files: [] };
    for (const sentence of sentences) {
      const mentions = reader.of(sentence.text);
      const found = placeSteps(sentence, mentions, last, ground);
      steps.push(...found);
      const put = found.findLast((step): step is PutStep => step.kind === 'put');
      const files = mentions.flatMap(({ gameFiles }) => gameFiles);
      last = { folders: put && put.folders.length > 0 ? put.folders : last.folders, files: files.length > 0 ? files : last.files };
    }
  }
  return steps.sort((a, b) => a.line - b.line);
}

/** What “there” and “its place” mean. */
interface Last {
  folders: string[];
  files: string[];
}

function byHandSteps({ text, line }: Sentence): Step[] {
  const step = (what: Extract<Step, { kind: 'by hand' }>['what']): Step => ({ kind: 'by hand', line, text, what });
  if (/\b(?:delete|remove|erase|lösche|borra|supprime)\w*\b[^.]{0,40}\b(?:everything|all|whole|entire|alles|todo|tout)\b/iu.test(text)) return [step('harmful')];
  if (/\b(?:replace|overwrite|swap)\b[^.]{0,40}\b(?:program|\.exe|executable)\b/iu.test(text)) return [step('harmful')];
  if (/\b(?:close|quit|exit|shut) (?:the |your )?game\b|\bspiel (?:beenden|schließen)\b|\bcierra el juego\b|\bfermez le jeu\b/iu.test(text)) return [step('close the game')];
  if (/\b(?:back ?up|keep a copy|make a copy)\b|\bsicherungskopie\b|\bcopia de seguridad\b|\bsauvegarde[rz]? (?:d['’]abord|le)\b/iu.test(text)) return [step('back up')];
  if (/\b(?:start|run|launch) the game once\b|\bspiel einmal starten\b/iu.test(text)) return [step('start the game')];
  if (/\b(?:in|from) the (?:game['’]s )?(?:options|menu|settings menu|main menu)\b|\bim spielmenü\b/iu.test(text)) return [step('in the game')];
  return /^\W*(?:needs|requires|benötigt|requiere|nécessite)\b/iu.test(text) ? [step('needs')] : [];
}

/** The parts of a sentence that have a verb and a place of their own. */
function placeSteps({ text, line }: Sentence, mentions: Mention[], last: Last, ground: Ground): Step[] {
  const steps: Step[] = [];
  const named = mentions.flatMap(({ packFolders, packFiles }) => [...packFolders, ...packFiles]);
  if (KEEP_ZIPPED.test(text)) steps.push({ kind: 'keep zipped', line, text, what: named });
  if (CHOOSE.test(text)) steps.push({ kind: 'choose one', line, text, what: named });
  else if (OPTIONAL.test(text) && named.length > 0) steps.push({ kind: 'optional', line, text, what: named });
  if (OWN_FOLDER.test(text)) steps.push({ kind: 'new folder', line, text, what: named });
  // A sentence that speaks of values, or of keeping a copy, places nothing.
  const isSettings = ({ gameFiles }: Mention) => gameFiles.some((file) => SETTINGS_LIKE.test(file));
  if (VALUES.test(text) && mentions.some(isSettings)) {
    const cuts = [0, ...[...text.matchAll(/[,;]\s|\s(?:and|then|und|dann|y|luego|et|puis)\s/giu)].map(({ index }) => index), text.length];
    const clauses = cuts.slice(1).map((end, i) => ({ start: cuts[i] as number, end, inside: mentions.filter(({ start }) => start >= (cuts[i] as number) && start < end) }));
    const placing = clauses.filter(({ start, end, inside }) => inside.length > 0 && !inside.some(isSettings) && PLACING.test(text.slice(start, end)));
    if (placing.length === 0) return steps;
    mentions = placing.flatMap(({ inside }) => inside);
  }
  mentions = mentions.map((mention) => inNewFolder(text, mention)).map((mention) => (isListed(mention) ? { ...mention, gameFiles: [] } : mention));
  const placing = PLACING.test(text.replace(BACK_UP, '')) || OWN_FOLDER.test(text) || isBare(text, mentions);
  if (!placing && !mentions.some(({ cue }) => cue === 'beside' || cue === 'inside')) return steps;
  let what: Mention[] = [];
  let where: Mention | undefined;
  const put = (one: Mention | undefined, things: readonly Mention[]) => {
    if (!one && things.length === 0) return;
    const step = stepOf(one, things, text, line, ground, last);
    if (step) steps.push(step);
  };
  for (const mention of mentions) {
    if (isWhere(mention)) {
      const before = text.slice(Math.max(0, mention.start - 60), mention.start);
      if (NOT.test(before.slice(before.search(/[,;][^,;]*$/) + 1)) && !mention.all) {
        steps.push({ kind: 'do not', line, text, folders: [...mention.gameFolders], files: [...mention.gameFiles] });
        what = [];
        continue;
      }
      // “next to A and B”: the second place of one kind only confirms the first.
      if (where && what.length === 0) {
        where = better(where, mention);
        continue;
      }
      if (what.length > 0) {
        put(mention, what);
        what = [];
        where = mention;
      } else where = mention;
    } else if (where && what.length === 0 && steps.some((step) => step.kind === 'put') && mention.all) continue;
    else if (mention.all || mention.packFolders.length > 0 || mention.packFiles.length > 0) {
      what.push(mention);
    }
  }
  const made = steps.some((step) => step.kind === 'put');
  if (!made && where && (placing || where.cue === 'beside' || (where.cue === 'like' && what.length > 0) || where.cue === 'inside' || what.length > 0)) put(where, what);
  else if (!made && !where && what.length > 0 && placing && /\b(?:there|dort(?:hin)?|dahin|allí|ahí|là)\b/iu.test(text) && last.folders.length > 0) put(undefined, what);
  else if (!made && !where && what.length > 0 && ITS_PLACE.test(text) && last.files.length > 0) put(undefined, what);
  return steps;
}

/** “add it to the list in options.json”: what is written into a text is no file that goes there. */
const isListed = ({ cue, gameFiles, packFiles, gameFolders, newFolders }: Mention): boolean =>
  cue === 'into' && gameFiles.length > 0 && gameFolders.length + newFolders.length + packFiles.length === 0 && gameFiles.every((file) => WRITTEN.test(file));
const WRITTEN = /\.(?:ini|cfg|conf|config|json|xml|ya?ml|toml|txt|lua|properties|prefs?|lst|csv|sii|prf|ltx)$/i;

/** “wheels.pak to mods”: a thing and a place, and no verb. */
function isBare(text: string, mentions: readonly Mention[]): boolean {
  const [thing, place, third] = mentions;
  if (!thing || !place || third || isWhere(thing) || !isWhere(place) || place.cue !== 'into' || (thing.packFiles.length === 0 && thing.packFolders.length === 0)) return false;
  return wordsOf(text.slice(0, thing.start)).length === 0 && wordsOf(text.slice(thing.end, place.start)).length <= 3 && wordsOf(text.slice(place.end)).length <= 1;
}

/** “a folder called skins in X”: the place is below X, by that name. */
function inNewFolder(text: string, mention: Mention): Mention {
  if (mention.gameFolders.length === 0) return mention;
  const name = CALLED_FOLDER.exec(text.slice(Math.max(0, mention.start - 80), mention.start))?.[1]?.trim();
  return name === undefined ? mention : { ...mention, gameFolders: [], newFolders: mention.gameFolders.map((folder) => `${folder}/${name}`) };
}

const better = (a: Mention, b: Mention): Mention => (b.gameFolders.length > 0 && (a.gameFolders.length === 0 || (b.gameFolders.length < a.gameFolders.length && a.cue === b.cue)) ? b : a);

/** A place of the game: what the pack does not have, or what stands behind a word for places. */
function isWhere(mention: Mention): boolean {
  const game = mention.gameFolders.length + mention.gameFiles.length + mention.newFolders.length > 0;
  if (!game || mention.cue === 'from') return false;
  const pack = mention.packFolders.length + mention.packFiles.length > 0;
  return !pack || (mention.cue !== undefined && !mention.contents);
}

function stepOf(
  where: Mention | undefined, things: readonly Mention[], text: string, line: number, { entries, tree }: Ground, last: Last,
): PutStep | undefined {
  const isFile = (path: string) => entries.some((entry) => entry.path === path);
  let what = [...new Set(things.flatMap((one) => {
    const { packFolders, packFiles } = one;
    return packFolders.length > 0 ? outermost(packFolders) : packFiles;
  }))];
  // “takes the place of x.fx”, which the pack has too: that file is meant.
  if (what.length === 0 && things.length === 0 && where && where.cue === 'over') what = [...where.packFiles];
  const general = things.find(({ all }) => all);
  const kind = general && what.length === 0 ? kindWord(general.words) : undefined;
  if (kind) what = entries.filter(({ path }) => kindOf(path) === kind || (kind === 'picture' && kindOf(path) === 'texture')).map(({ path }) => path);
  const cue = where?.cue;
  const among = where !== undefined && WHERE.test(text.slice(Math.max(0, where.start - 20), where.start)) && ARE.test(text.slice(where.end, where.end + 60));
  const how: PutStep['how'] = cue === 'beside' || cue === 'like' || among ? 'beside' : cue === 'over' ? 'over' : cue === 'inside' || (where && where.gameFiles.length > 0 && INSIDE.test(text)) ? 'inside' : 'into';
  const itsPlace = !where && ITS_PLACE.test(text) && last.files.length > 0;
  let folders = where ? [...where.gameFolders, ...where.newFolders] : itsPlace ? [] : [...last.folders];
  const files = itsPlace ? [...last.files] : where && folders.length === 0 ? [...where.gameFiles] : [];
  // “next to hilltop”: where that lies.
  if (how === 'beside') {
    const literally = where?.cue === 'beside' && what.length > 0 && what.every((one) => !isFile(one)) && !OTHERS.test(text.slice(Math.max(0, where.start - 30), where.start));
    folders = [...new Set(folders.map((folder) => (standsBeside(folder, what, literally, { tree, entries }) ? parentOf(folder) : folder)))];
  }
  // “to where the program is”.
  if (where && WHERE_IT_IS.test(text.slice(Math.max(0, where.start - 30), where.start)) && folders.length === 0 && what.length === 0 && general && new Set(files.map(parentOf)).size === 1) folders = [parentOf(files[0] as string)];
  // Of several folders of one name the one of which the sentence speaks.
  const spoken = (folder: string) => parentOf(folder).split('/').slice(1).some((name) => name.length > 2 && nameKey(name) !== nameKey(baseName(folder)) && speaksOf(text, name));
  if (folders.length > 1 && folders.some(spoken)) folders = folders.filter(spoken);
  if (folders.length === 0 && (files.length === 0 || (what.length === 0 && how !== 'inside' && !itsPlace))) return undefined;
  const name = NAMED.exec(text)?.[1]?.trim();
  return {
    kind: 'put', line, text, what, folders, files, how,
    contents: things.some(({ contents }) => contents) || (general !== undefined && what.length === 0),
    ...(OWN_FOLDER.test(text) && !(where && where.newFolders.length > 0 && CALLED_FOLDER.test(text.slice(0, where.start))) ? { ownFolder: true as const } : {}),
    ...(name !== undefined && !ITS_NAME_ONLY.test(name) ? { name } : ITS_NAME.test(text) && files.length === 1 ? { name: '' } : {}),
  };
}

/** What goes next to a folder goes where that lies; among things of a kind, or in a folder of such things, it goes among them. */
function standsBeside(folder: string, what: readonly string[], literally: boolean, { tree, entries }: Pick<Ground, 'tree' | 'entries'>): boolean {
  const { familyOf, families } = knowledgeOf(tree);
  const key = nameKey(folder);
  const family = familyOf.get(key);
  if (family && !family.drawers) return what.every((one) => extensionOf(one) === '' || !fileEndings(tree.files.get(key)).has(extensionOf(one)));
  if (!literally || family || !folder.includes('/')) return false;
  const holder = families.find((one) => one.key === key);
  // A folder of such things stands beside the game's folder of them.
  const marks = holder && [...holder.core].filter((one) => one.startsWith('F:'));
  return !marks || (marks.length > 0 && what.every((one) => !entries.some(({ path }) => nameKey(parentOf(path)) === nameKey(one) && holder.core.has(`F:${nameKey(baseName(path))}`))));
}

/** “where meadow and ridge are”: among them, not in them. */
const WHERE = /\b(?:where|wo|donde|où)\s+(?:the\s+|der\s+|die\s+|das\s+|el\s+|la\s+|los\s+|las\s+|le\s+|les\s+)?["“„«'‘]?$/iu;
const ARE = /^["”“»'’]?(?:[\s,]+(?:and|und|y|et|or)?\s*["“„«'‘]?[\p{L}\p{N}_-]+["”“»'’]?){0,3}\s+(?:are|is|lies?|lives?|sits?|stands?|sind|ist|liegen|liegt|están|está|sont|est)\b/iu;

const ITS_NAME_ONLY = /^(?:it|the|a|to|as|you|same|folder|file)$/i;

const fileEndings = (files: ReadonlyMap<string, string> | undefined): Set<string> => new Set([...(files?.keys() ?? [])].map(extensionOf));

const outermost = (folders: readonly string[]): string[] => folders.filter((folder) => !folders.some((other) => other !== folder && isUnder(folder, other)));

function kindWord(words: string): 'picture' | 'sound' | 'archive' | undefined {
  if (/^(?:pictures?|images?|textures?|bilder|texturen|imágenes|texturas)$/i.test(words)) return 'picture';
  if (/^sounds?$/i.test(words)) return 'sound';
  return /^(?:zip|archive)$/i.test(words) ? 'archive' : undefined;
}
