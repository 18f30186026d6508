import { onceFor } from '../once';
import type { SettingsDocument } from '../settings/document';
import { bareKey } from './keyIndex';
import { MOST_ENTRIES } from './listsInFiles';
import type { ReadSoFar } from './readSoFar';
import { isNumber, isSwitch, type Token } from './settingsWords';

/** A line belongs to what a sentence so many lines above says that it comes into. */
const MOST_LINES_BELOW = 8;

const NAME = /^[\p{L}_][\p{L}\p{N}_.-]{1,60}$/u;
const kindOf = (value: string) => (isSwitch(value) ? 'switch' : isNumber(value) ? 'number' : 'text');

/** Notes which block of its one file a sentence says that something comes into: “add this to "plugins"”. */
export function blockNamed(tokens: readonly Token[], line: number, known: ReadSoFar): void {
  const names = new Set(tokens.flatMap(({ text, section }) => (section ? [] : [bareKey(text)])));
  const file = known.onlyFile;
  const [path, other] = file ? [...names].flatMap((name) => blocksOf(file.document).get(name) ?? []) : [];
  if (file && path && !other) known.within = { file, path, line };
}

/** `"seals": true` in a sentence that says which block it comes into, or alone behind it. */
export function newMembers(tokens: readonly Token[], sentence: string, line: number, known: ReadSoFar): void {
  const [, name, value = ''] =
    /^[`\s]*"?([\p{L}_][\p{L}\p{N}_.-]{0,60})"?:\s+("[^"]{0,120}"|[^\s"`]{0,79}[^\s"`.!?,;])[`\s]*$/u.exec(sentence) ??
    [];
  if (name !== undefined) newMember(name, value, line, known);
  if (known.within?.line !== line) return;
  tokens.forEach(({ text, quoted }, i) => {
    const value = tokens[i + 1];
    if (quoted && value?.colon) newMember(text, value.text, line, known);
  });
}

/**
 * A key with its value, new in the block that was spoken of.
 *
 * @returns whether it is one
 */
export function newMember(name: string, value: string, line: number, known: ReadSoFar): boolean {
  const { within, onlyFile } = known;
  if (!within || within.file !== onlyFile || line - within.line > MOST_LINES_BELOW || line < within.line) return false;
  const { file, path: above } = within;
  if (!NAME.test(name) || value === '' || file.document.get([...above, name]) !== undefined) return false;
  // “A: Sure.” is none of numbers and switches.
  const beside = file.document.entries().filter(({ path }) => path.slice(0, -1).join('\n') === above.join('\n'));
  if (!beside.every((one) => kindOf(one.value) === kindOf(value))) return false;
  known.found.push({ kind: 'key', file: file.target, path: [...above, name], value, line });
  return true;
}

/** The blocks of a document by the key of their names, with their paths; none whose members are items of a list. */
const blocksOf = onceFor((document: SettingsDocument): ReadonlyMap<string, readonly string[][]> => {
  const blocks = new Map<string, string[] | undefined>();
  for (const { path } of document.entries().slice(0, MOST_ENTRIES)) {
    const above = path.slice(0, -1);
    const id = above.join('\n');
    const isItem = /^(?:\d+|@.*|.*#\d+)$/.test(path.at(-1) as string);
    if (above.length > 0) blocks.set(id, isItem || (blocks.has(id) && !blocks.get(id)) ? undefined : above);
  }
  const byName = new Map<string, string[][]>();
  for (const path of blocks.values()) {
    const name = bareKey(path?.at(-1) ?? '');
    if (path) byName.set(name, [...(byName.get(name) ?? []), path]);
  }
  return byName;
});
