import { nameKey } from '../paths/paths';
import { isOptional } from './noRequest';
import { NEVER, STARTING } from './settingsWords';

/** `-art`, `--mod=wool`, `+map pond`, with the words behind it. */
const OPTION =
  /(?<=^|[\s"“„«`'(])((?:--?|\+)[A-Za-z][\w-]*(?:=[^\s"”»`',;]+)?)((?:\s+(?![-+]{1,2}[A-Za-z])[^\s"”“»`',;()]+){0,2})/g;
/** `/art:custom`, which could be a folder, where it is called a parameter. */
const SLASHED =
  /(?<!\p{L})(?:parameters?|arguments?|options?|switch|startparameter|parámetros?|paramètres?|(?:gestartet|start(?:ed|e|en|et)?|launch(?:ed)?|run|inicia\p{L}*|arranca\p{L}*|lancez|démarrez)(?:\s+\p{L}+){0,3}\s+(?:mit|with|con|avec))\s+["“„«`']?(\/[A-Za-z][\w:=-]*)(?![\w/\\]|\.\w)/giu;
const ALONE = /^\s*["“`]?(?:--?|\+)[A-Za-z][\w-]*(?:[ =]\S+)?["”`]?\s*$/;

/**
 * Options that a sentence asks to start the game with, each with its value where it takes one.
 *
 * @param isOfPack whether a word names something of the pack: that can be a value
 */
export function launchOptionsIn(sentence: string, isOfPack: (key: string) => boolean): string[] {
  const found = [...sentence.matchAll(SLASHED)].map(([, option = '']) => option);
  if (!STARTING.test(sentence) && !ALONE.test(sentence)) return found;
  for (const { 0: whole, 1: option = '', 2: rest = '', index } of sentence.matchAll(OPTION)) {
    const ends = [option, whole].map((text) => sentence.slice(index + text.length));
    if (ends.some(isOptional)) continue;
    const value = quotedWith(option, sentence) ?? (option.includes('=') ? '' : valueOf(option, rest, isOfPack));
    found.push(`${option.replace(/[.,;:!?)]+$/, '')}${value === '' ? '' : ` ${value}`}`);
  }
  return found;
}

/** What stands with an option in the same quotes. */
const quotedWith = (option: string, sentence: string): string | undefined =>
  new RegExp(`["“„«\`']${option.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}([^"”“»\`']*)["”“»\`']`)
    .exec(sentence)?.[1]
    ?.trim();

function valueOf(option: string, rest: string, isOfPack: (key: string) => boolean): string {
  // `+set name value`
  const words = rest.trim().split(/\s+/);
  if (/^\+[a-z]?set[a-z]?$/.test(option) && words.length === 2) return words.join(' ').replace(/[.!?:]+$/, '');
  const next = (rest.trim().split(/\s+/)[0] ?? '').replace(/[.!?:]+$/, '');
  if (next === '' || NEVER.has(nameKey(next)) || /^[-+]/.test(next)) return '';
  return option.startsWith('+') || /^\d|[./\\]\w/.test(next) || isOfPack(nameKey(next)) ? next : '';
}
