import { extensionOf, nameKey } from '../paths/paths';
import type { SettingsDocument } from '../settings/document';
import type { KeyIndex, KnownFile } from './keyIndex';
import { commandsOf, plainKeysOf } from './listsInFiles';
import { commandsMore } from './listedNames';
import { isNoRequest } from './noRequest';
import type { ReadSoFar } from './readSoFar';
import { isNumber, isSwitch, unquoted } from './settingsWords';

/** Is a line one that its file could have: a command, `set fog 0`, or a key with its value, `height: 60`, `wind 2`? */
export const isOwnLine = (line: string, index: KeyIndex): boolean =>
  isCommandLine(line, index) || isPairLine(line, index);

/** `set fog 0` where a file has `set wind 2`, `weather frost` where it has `weather drizzle`. */
function isCommandLine(line: string, { files }: KeyIndex): boolean {
  const [, word = '', more] = /^\s*([\p{L}_]\w*)\s+[\p{L}\d_][\w.]*(\s+(?:"[^"]*"|\S+))?\s*$/u.exec(line) ?? [];
  const isIn = (document: SettingsDocument) =>
    commandsOf(document).words.has(word) || (more === undefined && plainKeysOf(document).has(word));
  return word !== '' && files.some(({ document }) => isIn(document));
}

function isPairLine(line: string, index: KeyIndex): boolean {
  const [, name = ''] =
    /^\s*"?([\p{L}_][\p{L}\p{N}_.-]{0,60})"?\s*:\s+(?:"[^"]{0,120}"|[^\s"]{1,80})\s*$/u.exec(line) ?? [];
  return name !== '' && index.keys(name).some(({ items }) => !items);
}

/**
 * A line that is a command as its file has some: `set r_bloom 0` for the one file spoken of, `weather thunder`.
 *
 * @param isLine it stands in a line of its own: then it may be one that the file has
 * @param known gets what is asked for
 * @returns whether it is one
 */
export function commandLine(text: string, line: number, isLine: boolean, known: ReadSoFar): boolean {
  if (isLine && plainKey(text, line, known)) return true;
  const [, word = '', name = '', value = ''] =
    /^\s*([\p{L}_]\w*)\s+([\p{L}_][\w.]*)\s+("[^"]*"|\S+)\s*$/u.exec(text) ?? [];
  const file = known.onlyFile ?? (isLine ? onlyFileWith(word, name, known) : undefined);
  if (!file || word === '') return false;
  const commands = file.document.entries().filter(({ path }) => path.length === 2 && path[0] === word);
  const there = commands.find(({ path }) => path[1] === name);
  if (commands.length === 0 || (there && !isLine)) return false;
  known.found.push({
    kind: 'key',
    file: file.target,
    path: [word, name],
    value: unquoted(value),
    line,
    ...(there ? { now: there.value } : {}),
  });
  return true;
}

/** The one file that has such a command. */
function onlyFileWith(word: string, name: string, { index }: ReadSoFar): KnownFile | undefined {
  const [only, other] = index.files.filter(({ document }) => commandsOf(document).named.has(`${word} ${name}`));
  return other ? undefined : only;
}

/** `weather thunder` for the one file spoken of, which has `weather drizzle`. */
function plainKey(text: string, line: number, known: ReadSoFar): boolean {
  const { files, index, isAllItIs } = known;
  const [, key = '', value = ''] = /^\s*([\p{L}_]\w*)\s+("[^"]*"|\S+)\s*$/u.exec(text) ?? [];
  const of = files.length > 0 || !isAllItIs ? files : index.files.map((_, i) => i);
  const isPlain = (file: number) => plainKeysOf((index.files[file] as KnownFile).document).has(key);
  const [place, other] = index.keys(key).filter(({ file }) => of.includes(file) && isPlain(file));
  if (!place || other || isNumber(value) !== isNumber(place.value) || isSwitch(value) !== isSwitch(place.value))
    return false;
  known.push(place, value, line);
  return true;
}

/**
 * One more command of a kind that the file has several of: `load otter` where it has `load heron`, `load tern`.
 *
 * @returns whether the sentence asks for one
 */
export function oneMoreCommand(sentence: string, line: number, known: ReadSoFar): boolean {
  const [file, other] = known.files;
  const target = known.index.files[file ?? -1]?.target;
  if (file === undefined || other !== undefined || !target) return false;
  const lists = known.index.listsOfCommands(file);
  const asked = commandsMore(sentence, lists, known.isOfPack).filter(
    ({ at, length }) => !isNoRequest(sentence, at, length),
  );
  for (const { command, name } of asked) {
    const had = lists.get(command)?.find((one) => nameKey(one) === nameKey(name));
    const now = had === undefined ? {} : { now: '' };
    known.found.push({ kind: 'key', file: target, path: [command, had ?? name], value: '', line, ...now });
  }
  return asked.length > 0;
}

/** “One more line: mount roman.mdn”, where the file has one such command so far: that stays, and another one comes. */
export function anotherCommand(sentence: string, line: number, known: ReadSoFar): boolean {
  const at = ONE_MORE.exec(sentence)?.index;
  if (at === undefined || isNoRequest(sentence, at, 0)) return false;
  const said = [...sentence.slice(at).matchAll(WORD_AND_NAME)];
  const found = known.index.files.flatMap(({ target, document }) =>
    said.flatMap(([, command = '', name = '']) => {
      const now = plainKeysOf(document).has(command) ? (document.get([command]) ?? '') : '';
      const isOne = /^\p{L}/u.test(now) && !isSwitch(now) && nameKey(name) !== nameKey(now);
      const isAlike = (extensionOf(name) === '') === (extensionOf(now) === '');
      return isOne && isAlike ? [{ file: target, path: [command, name] }] : [];
    }),
  );
  const [one, other] = found;
  if (!one || other) return false;
  known.found.push({ kind: 'key', ...one, value: '', line });
  return true;
}

/** Each two words that stand beside each other. */
const WORD_AND_NAME =
  /(?<![\p{L}\p{N}_.-])([\p{L}_][\p{L}\p{N}_.-]*)[ \t]+(?=([\p{L}_][\p{L}\p{N}_.-]*[\p{L}\p{N}]))/gu;

const ONE_MORE =
  /(?<!\p{L})(?:one more|another|an? (?:additional|extra|new|further)|eine (?:weitere|neue)|noch eine|otra|una nueva|une autre|encore une) (?:line|command|entry|zeile|línea|ligne)(?!\p{L})/iu;
