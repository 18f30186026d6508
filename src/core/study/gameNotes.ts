import { baseName, extensionOf, parentOf } from '../paths/paths';
import { forTheReader } from '../placed/baggage';
import { sentencesOf } from '../inspect/readMeSentences';

/** What a note in a folder of the game says of that folder. */
export interface GameNote {
  /** The folder it lies in, as a target. */
  folder: string;
  /** Each pack gets a folder of its own there. */
  own: boolean;
  /** Files there are used instead of the game's own ones of the same path. */
  instead: boolean;
  target: string;
  /** Undefined where only the file's name says so. */
  line?: number;
  text: string;
}

/** Longer notes speak of more than their folder, in bytes. */
const LONGEST_NOTE = 16 * 1024;
/** So many notes are read at most: those near the top first. */
const MOST_NOTES = 60;

const HERE =
  /(?<!\p{L})(?:(?:in(?:to)?|inside|to|below) (?:this|here)|here|this (?:folder|directory)|hier(?:hin|her|ein)?|dies(?:er|en|em|es) (?:ordner|verzeichnis)|aquí|est[ae] (?:carpeta|directorio)|ici|ce (?:dossier|répertoire))(?!\p{L})/iu;
const PUT =
  /(?<!\p{L})(?:put|place|drop|copy|extract|unzip|unpack|move|add|install|goes?|belongs?|make|create|loads?|loaded|reads?|gehör\w*|kopier\w*|leg\w*|entpack\w*|copi[ae]\w*|pon\w*|coloc\w*|met\w+|plac\w+|gliss\w*)(?!\p{L})/iu;
/** “Files here are used instead of the game’s own.” */
const INSTEAD =
  /(?<!\p{L})(?:used|taken|read|loaded|preferred|win)\b.{0,40}\b(?:instead|first|before|over|rather)(?!\p{L})|(?<!\p{L})(?:overrides?|replaces?|takes? precedence|statt|anstelle|en lugar de|à la place)(?!\p{L})/iu;
const PACKS =
  /(?<!\p{L})(?:mods?|packs?|pakete?|add-?ons?|plug-?ins?|custom|extensions?|downloads?|user (?:files|content)|everything|anything|your (?:own )?(?:files|content|maps|skins)|erweiterung\w*|paket\w*|modificaci\w+|paquetes?|complementos?)(?!\p{L})/iu;
const OWN =
  /(?<!\p{L})(?:(?:each|every|one|a|own|sub-?)\s?(?:\w+ ){0,3}(?:sub-?)?(?:folder|directory)\b.{0,40}\b(?:each|every|per|for|own)|(?:each|every)\b.{0,60}\b(?:own|a|in its) (?:sub-?)?(?:folder|directory)|folder of its own|own (?:sub-?)?folder|eigene[nrm]? (?:unter)?ordner|carpeta propia|dossier à part|propre dossier)(?!\p{L})/iu;

/** The notes of a game that are worth reading: read-mes in its own folders, below the top. */
export function noteCandidates(files: readonly { target: string; size: number }[]): string[] {
  return files
    .filter(
      ({ target, size }) =>
        size <= LONGEST_NOTE &&
        target.split('/').length > 2 &&
        ['txt', 'md', ''].includes(extensionOf(target)) &&
        (speaksByName(target) || (size > 0 && forTheReader(target) === 'read-me')),
    )
    .map(({ target }) => target)
    .sort((a, b) => a.split('/').length - b.split('/').length || (a < b ? -1 : 1))
    .slice(0, MOST_NOTES);
}

/** `put mods here.txt`: the file may be empty. */
export const speaksByName = (target: string): boolean =>
  /\b(?:put|place|drop|mods?|add-?ons?)\b.*\bhere\b/i.test(baseName(target).replace(/[_-]+/g, ' '));

/** What a note says of the folder it lies in: that packs go there, and whether each gets a folder of its own. */
export function noteOf(target: string, text: string): GameNote | undefined {
  const title = baseName(target)
    .replace(/\.[^.]+$/, '')
    .replace(/[_-]+/g, ' ');
  const sentences: { text: string; line?: number }[] = [{ text: title }, ...sentencesOf(text).slice(0, 60)];
  const isPlace = (one: { text: string }) =>
    (PUT.test(one.text) || OWN.test(one.text) || one.text === title) &&
    PACKS.test(sentences.map((other) => other.text).join(' '));
  const here = sentences.filter((one) => HERE.test(one.text));
  const found = here.find(isPlace) ?? here.find((one) => INSTEAD.test(one.text));
  if (!found) return undefined;
  const own = sentences.find((one) => OWN.test(one.text));
  const said = own ?? found;
  return {
    folder: parentOf(target),
    own: own !== undefined,
    instead: !isPlace(found),
    target,
    ...(said.line === undefined ? {} : { line: said.line }),
    text: said.text.slice(0, 200),
  };
}
