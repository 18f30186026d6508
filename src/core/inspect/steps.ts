import { readInstructions } from './instructions';
import { saysStaysZipped } from './staysZippedSaid';
import type { Ground, Mention } from './mention';
import { MentionReader } from './mentions';
import { sentencesOf, wordsOf, type Sentence } from './readMeSentences';
import type { Last, PutStep, Step } from './step';
import { isUnder } from '../paths/paths';
import { inNewFolder, withFolderToMake } from './newFolderPlaces';
import { ITS_PLACE, OWN_FOLDER, stepOf } from './stepOf';

const PLACING =
  /\b(?:works? from|cp|mv|put|puts|place[ds]?|drop|drag|copy|copied|copies|move[ds]?|go(?:es)?|belongs?|install(?:ed|s)?|extract(?:ed|s)?|unzip(?:ped)?|unpack(?:ed)?|add(?:ed)?|lay|laid|lies?|sits?|joins?|save|throw|merge[ds]?|paste[ds]?|overwrites?|replaces?|lives?|stands?|look(?:ed|s) for|should be|needs? to be|wants? to be|take[s]? (?:the|its|their|his) place|kommt|kommen|gehör(?:t|en)|kopier\w*|leg(?:en|t|e)|verschieb\w*|zieh(?:en|t|e)?|entpack\w*|ersetz\w*|pack(?:en|t)|copia[rd]?|copie\w*|pega[r]?|va[n]?|coloca[r]?|pon(?:er|ga)?|extrae[r]?|descomprim\w+|mueve|mover|arrastra\w*|met(?:s|tez|tre)|place[rz]|gliss\w+|déplac\w+|extra(?:is|yez|ire)|coll(?:e|er|ez)|remplac\w+|reemplaza\w*|sustituye\w*)\b/iu;

const NOT =
  /\b(?:do not|don['’]t|never|not|no|without|nicht|kein[enm]*|nie(?:mals)?|nunca|jamás|ne \p{L}+ pas|jamais)\b/iu;

const CHOOSE =
  /\b(?:choose|pick|select|decide|either|one of (?:the|them|these)|only one|just one|whichever|the one (?:you|whose|that|for)|of your choice|your favou?rite|not both|more than one|use (?:the )?\p{L}+(?: (?:one|version|folder|file))? or (?:the )?\p{L}+ (?:one|version|folder|file)|never both|which(?:ever)? you (?:like|prefer)|wähl\w*|such(?:e|t)? dir|nur eine[nrs]?|entweder|elige|elegir|escoge|sólo un[oa]?|solo un[oa]?|choisi\w*|(?:un|une) seule?)\b/iu;

const OPTIONAL =
  /\b(?:optional(?:ly)?|if you (?:want|like|own|have|use|prefer|wish)|only (?:for|if|with)|for those who|not needed|wer mag|wahlweise|nach belieben|falls du|wenn du|opcional(?:es)?|si (?:tienes|quieres)|facultati(?:f|ve)|si vous)\b/iu;

const VALUES =
  /\b(?:set|change[sd]?|becomes?|values?|lines?|keys?|entry|option|tags?|section|says?|names|calls|lists|listed|mentions|named as|true|false|wert|zeile|ändern|geändert|setz\w*|valor|línea|cambia\w*|valeur|ligne|chang\w+|=)\b|=/iu;

const SETTINGS_LIKE = /\.(?!png|jpe?g|tga|dds|wav|ogg|mp3|ttf|otf|zip|7z|exe|dll)\w{2,8}$/i;

const BACK_UP =
  /\b(?:keep|make|save) (?:a |an )?(?:backup |safe )?(?:copy|copies)\b|\bback(?:ing)? ?up\b|\bsicherungskopie\b|\bcopia de seguridad\b/giu;

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
    for (const [i, sentence] of sentences.entries()) {
      const mentions = withFolderToMake(reader.of(sentence.text), sentence.text, sentences[i + 1]?.text, ground);
      const found = placeSteps(sentence, mentions, last, ground);
      steps.push(...found);
      const put = found.findLast((step): step is PutStep => step.kind === 'put');
      const files = mentions.flatMap(({ gameFiles }) => gameFiles);
      last = {
        folders: put && put.folders.length > 0 ? put.folders : last.folders,
        files: files.length > 0 ? files : last.files,
      };
    }
  }
  return steps.sort((a, b) => a.line - b.line);
}

function byHandSteps({ text, line }: Sentence): Step[] {
  const step = (what: Extract<Step, { kind: 'by hand' }>['what']): Step => ({ kind: 'by hand', line, text, what });
  if (
    /\b(?:delete|remove|erase|lösche|borra|supprime)\w*\b[^.]{0,40}\b(?:everything|all|whole|entire|alles|todo|tout)\b/iu.test(
      text,
    )
  )
    return [step('harmful')];
  if (/\b(?:replace|overwrite|swap)\b[^.]{0,40}\b(?:program|\.exe|executable)\b/iu.test(text)) return [step('harmful')];
  if (
    /\b(?:close|quit|exit|shut) (?:the |your )?game\b|\bspiel (?:beenden|schließen)\b|\bcierra el juego\b|\bfermez le jeu\b/iu.test(
      text,
    )
  )
    return [step('close the game')];
  if (
    /\b(?:back ?up|keep a copy|make a copy)\b|\bsicherungskopie\b|\bcopia de seguridad\b|\bsauvegarde[rz]? (?:d['’]abord|le)\b/iu.test(
      text,
    )
  )
    return [step('back up')];
  if (/\b(?:start|run|launch) the game once\b|\bspiel einmal starten\b/iu.test(text)) return [step('start the game')];
  if (/\b(?:in|from) the (?:game['’]s )?(?:options|menu|settings menu|main menu)\b|\bim spielmenü\b/iu.test(text))
    return [step('in the game')];
  return /^\W*(?:needs|requires|benötigt|requiere|nécessite)\b/iu.test(text) ? [step('needs')] : [];
}

/** The parts of a sentence that have a verb and a place of their own. */
function placeSteps(sentence: Sentence, mentions: readonly Mention[], last: Last, ground: Ground): Step[] {
  const { text } = sentence;
  const said = wordSteps(sentence, mentions, ground);
  const placed = withoutValues(text, mentions);
  if (!placed) return said;
  const reader = new PlaceReader(sentence, last, ground);
  return [...said, ...reader.read(placed.map((mention) => inNewFolder(text, mention)).map(withoutList))];
}

/** How the pack is to be taken, and the parts that the sentence names. */
function wordSteps({ text, line }: Sentence, mentions: readonly Mention[], { download }: Ground): Step[] {
  const what = mentions.flatMap(({ packFolders, packFiles }) => [...packFolders, ...packFiles]);
  const steps: Step[] = [];
  if (saysStaysZipped(text, download)) steps.push({ kind: 'keep zipped', line, text, what });
  if (CHOOSE.test(text)) steps.push({ kind: 'choose one', line, text, what });
  else if (OPTIONAL.test(text) && what.length > 0) steps.push({ kind: 'optional', line, text, what });
  if (OWN_FOLDER.test(text)) steps.push({ kind: 'new folder', line, text, what });
  return steps;
}

/**
 * A sentence that speaks of values places nothing, but for clauses of it that have a verb for that.
 *
 * @returns what is named in such clauses, or in all of it; undefined where none of it places anything
 */
function withoutValues(text: string, mentions: readonly Mention[]): readonly Mention[] | undefined {
  const isSettings = ({ gameFiles }: Mention) => gameFiles.some((file) => SETTINGS_LIKE.test(file));
  if (!VALUES.test(text) || !mentions.some(isSettings)) return mentions;
  const between = [...text.matchAll(/[,;]\s|\s(?:and|then|und|dann|y|luego|et|puis)\s/giu)].map(({ index }) => index);
  const cuts = [0, ...between, text.length];
  const placing = cuts.slice(1).flatMap((end, i) => {
    const from = cuts[i] as number;
    const inside = mentions.filter(({ start }) => start >= from && start < end);
    const places =
      inside.length > 0 && !inside.some(isSettings) && PLACING.test(text.slice(from, end).replace(IN_PLACE, ''));
    return places ? [inside] : [];
  });
  return placing.length === 0 ? undefined : placing.flat();
}

/** Of a value that comes in place of another one. */
const IN_PLACE = /\bin (?:the )?place of\b/giu;

/** “Put it there”: the place of the sentence before. */
const THERE =
  /(?<!\p{L})(?:there|inside|in(?:to)? it|therein|dort(?:hin)?|dahin|hinein|darin|allí|ahí|dentro|là|dedans)(?!\p{L})/iu;

/** Brings the things and the places of a sentence together. */
class PlaceReader {
  private readonly steps: Step[] = [];
  /** Things that have no place yet, and the place that was named last. */
  private what: Mention[] = [];
  private where: Mention | undefined;

  constructor(
    private readonly sentence: Sentence,
    private readonly last: Last,
    private readonly ground: Ground,
  ) {}

  read(mentions: readonly Mention[]): Step[] {
    const { text } = this.sentence;
    const placing =
      PLACING.test(text.replace(BACK_UP, '')) ||
      OWN_FOLDER.test(text) ||
      isBare(text, mentions) ||
      isPlaceAlone(text, mentions);
    if (!placing && !mentions.some(({ cue }) => cue === 'beside' || cue === 'inside')) return [];
    for (const mention of mentions) {
      if (isWhere(mention)) this.place(mention);
      else if (this.isLeftOver(mention)) continue;
      else if (mention.all || mention.packFolders.length > 0 || mention.packFiles.length > 0) this.what.push(mention);
    }
    if (!this.hasPut) this.atTheEnd(placing);
    return this.steps;
  }

  private get hasPut(): boolean {
    return this.steps.some((step) => step.kind === 'put');
  }

  private put(where: Mention | undefined, things: readonly Mention[]): void {
    if (!where && things.length === 0) return;
    const step = stepOf({ where, things, sentence: this.sentence }, this.ground, this.last);
    if (step) this.steps.push(step);
  }

  /** “Put x into y, all of it”: of the thing that has its place already. */
  private isLeftOver({ all }: Mention): boolean {
    return this.where !== undefined && this.what.length === 0 && all && this.hasPut;
  }

  private place(mention: Mention): void {
    const { text, line } = this.sentence;
    const before = text.slice(Math.max(0, mention.start - 60), mention.start);
    if (NOT.test(before.slice(before.search(/[,;][^,;]*$/) + 1)) && !mention.all) {
      const { gameFolders, gameFiles } = mention;
      this.steps.push({ kind: 'do not', line, text, folders: [...gameFolders], files: [...gameFiles] });
      this.what = [];
    } else if (this.what.length > 0) {
      this.put(mention, this.what);
      this.what = [];
      this.where = mention;
      // “next to A and B”: the second place of one kind only confirms the first.
    } else this.where = this.where ? better(this.where, mention) : mention;
  }

  /** A place or things alone: the place may have been said before, or a word may stand for it. */
  private atTheEnd(placing: boolean): void {
    const { where, what, last } = this;
    const { text } = this.sentence;
    if (where) {
      const isSaid = where.cue === 'beside' || where.cue === 'inside' || what.length > 0;
      if (placing || isSaid) this.put(where, what);
      return;
    }
    if (what.length === 0) return;
    const there = placing && THERE.test(text) && last.folders.length > 0;
    if (there || (ITS_PLACE.test(text) && last.files.length > 0)) this.put(undefined, what);
  }
}

/** “add it to the list in options.json”: what is written into a text is no file that goes there. */
const withoutList = (mention: Mention): Mention => (isListed(mention) ? { ...mention, gameFiles: [] } : mention);

const isListed = ({ cue, gameFiles, packFiles, gameFolders, newFolders }: Mention): boolean =>
  cue === 'into' &&
  gameFiles.length > 0 &&
  gameFolders.length + newFolders.length + packFiles.length === 0 &&
  gameFiles.every((file) => WRITTEN.test(file));

const WRITTEN = /\.(?:ini|cfg|conf|config|json|xml|ya?ml|toml|txt|lua|properties|prefs?|lst|csv|sii|prf|ltx)$/i;

/** “wheels.pak to mods”, “a.dll and b.ini -> plugins”: things and a place, and no verb. */
function isBare(text: string, mentions: readonly Mention[]): boolean {
  const place = mentions.at(-1);
  const things = mentions.slice(0, -1);
  const [first] = things;
  const last = things.at(-1);
  if (!place || !first || !last || !isWhere(place) || place.cue !== 'into') return false;
  const areThings = things.every(
    (thing) => !isWhere(thing) && (thing.packFiles.length > 0 || thing.packFolders.length > 0),
  );
  const wordsBetween = (from: number, to?: number) => wordsOf(text.slice(from, to)).length;
  return (
    areThings &&
    things.slice(1).every((thing, i) => wordsBetween(things[i]?.end ?? 0, thing.start) <= 1) &&
    wordsBetween(0, first.start) === 0 &&
    wordsBetween(last.end, place.start) <= 3 &&
    wordsBetween(place.end) <= 1
  );
}

/** “Into the Music folder, please.”: a place at the beginning, and no verb. “In maps you find …” has one. */
const isPlaceAlone = (text: string, [first]: readonly Mention[]): boolean => {
  if (first === undefined || !isWhere(first)) return false;
  const before = text.slice(0, first.start);
  return LEADS_TO.test(before) || (IS_IN.test(before) && wordsOf(text.slice(first.end)).length <= 3);
};

const THE = "(?: (?:the|your|its|my|game['’]s|der|die|das|den|dem|la|el|los|las|le|les))?\\W*$";
const LEADS_TO = new RegExp(
  `^\\W*(?:(?:all|both|everything|alles|todo|tout),? )?(?:into|onto|inside|next to|beside|alongside|ins|nach|neben|junto a|à côté de)${THE}`,
  'iu',
);
const IS_IN = new RegExp(`^\\W*(?:in|to|im|en|al?|dans)${THE}`, 'iu');

/** “the songs folder of the game folder”: the second says which of the first is meant; else the one that says more. */
function better(a: Mention, b: Mention): Mention {
  if (b.called && a.cue === undefined) return b;
  const within = a.gameFolders.filter((folder) => b.gameFolders.some((root) => isUnder(folder, root)));
  if (within.length > 0 && b.gameFolders.every((folder) => !folder.includes('/'))) return { ...a, gameFolders: within };
  const isNearer = b.gameFolders.length < a.gameFolders.length && a.cue === b.cue;
  return b.gameFolders.length > 0 && (a.gameFolders.length === 0 || isNearer) ? b : a;
}

/** A place of the game: what the pack does not have, or what stands behind a word for places. */
function isWhere(mention: Mention): boolean {
  const game = mention.gameFolders.length + mention.gameFiles.length + mention.newFolders.length > 0;
  if (!game || mention.cue === 'from') return false;
  const pack = mention.packFolders.length + mention.packFiles.length > 0;
  return !pack || (mention.cue !== undefined && !mention.contents);
}
