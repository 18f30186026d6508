import type { TextEdit } from './document';
import { appendLines, hasLines, indentAt, lineEndOf, type Insertion, type SettingsNode } from './tree';

export const unquote = (word: string): string =>
  word.startsWith('"') ? word.slice(1, -1).replace(/\\(["\\])/g, '$1') : word;
export const quote = (word: string): string | undefined =>
  /[\r\n]/.test(word) ? undefined : `"${word.replace(/["\\]/g, '\\$&')}"`;
export const asWord = (value: string): string | undefined =>
  /^[^\s{}"#/][^\s{}"]*$/.test(value) ? value : quote(value);

/** Several words of which some are quoted: written as they are. */
export const isWords = (value: string): boolean =>
  /^(?:[^\s{}"#/][^\s{}"]*|"(?:[^"\\\r\n]|\\[^\r\n])*")(?: (?:[^\s{}"#/][^\s{}"]*|"(?:[^"\\\r\n]|\\[^\r\n])*"))+$/.test(
    value,
  ) && value.includes('"');

/** What is new in a file of nested blocks, as text: a key with its value, the blocks above it, or a name in a list. */
export function insert({ text, nodes, found, rest, value }: Insertion): TextEdit[] | undefined {
  const parent = found.at(-1);
  const canStand = !/[\r\n]/.test(value) && rest.every((name) => name !== '' && !/[\r\n{}]/.test(name));
  if (parent?.value || !canStand) return undefined;
  const siblings = parent ? parent.children : nodes;
  const style = styleIn({ text, nodes, found, rest }, siblings);
  const last = siblings.at(-1);
  const name = parent && rest.length === 1 && value === '' ? nameInList(text, parent, rest) : undefined;
  if (name !== undefined && last) return afterLast(text, last, name, style);
  const beside = onOneLine({ text, found, rest, value }, style);
  if (beside) return beside;
  const lines = areNameless(text, siblings)
    ? nextNameless(text, siblings, rest, value)
    : newLines(rest, value, siblings, style);
  return lines && placed(lines, { text, parent, last, style });
}

/** How lines are written in a block; a value is in quotes where it is so in others like it. */
function styleIn({ text, nodes, found, rest: [key = ''] }: Omit<Insertion, 'value'>, siblings: SettingsNode[]): Style {
  const like = found.at(-2)?.children.find(({ children }) => children.some(({ name }) => name === key));
  return { ...styleOf(text, siblings.length > 0 ? siblings : nodes), ...quotedLike(text, like, key) };
}

const areNameless = (text: string, siblings: readonly SettingsNode[]): boolean =>
  siblings.length > 0 && siblings.every(({ name, start }, i) => name === String(i + 1) && text[start] === '{');

/** One more of blocks without names: `{ file = "reel.ogg" }`. */
function nextNameless(
  text: string,
  siblings: readonly SettingsNode[],
  [number, key, more]: readonly string[],
  value: string,
): string[] | undefined {
  const like = siblings.at(-1);
  if (!like || key === undefined || more !== undefined) return undefined;
  if (number !== String(siblings.length + 1)) return undefined;
  const style = { ...styleOf(text, like.children), ...quotedLike(text, like, key) };
  const [line] = newLines([key], value, [], style) ?? [];
  if (line === undefined) return undefined;
  const sign = signAfter(text, like.end).trim();
  return hasLines(text, like) ? ['{', `  ${line}`, `}${sign}`] : [`{ ${line.replace(/[,;]$/, '')} }${sign}`];
}

/** Is the value of a key in quotes, as in another block like it? */
function quotedLike(text: string, like: SettingsNode | undefined, key: string): Partial<Style> {
  const value = like?.children.find(({ name }) => name === key)?.value;
  return value && text[value.start] === '"' ? { quoted: true } : {};
}

/** One more key of a block on one line, where such have a sign between them: `{ a = 1, b = 2 }`. */
function onOneLine({ text, found, rest, value }: Omit<Insertion, 'nodes'>, style: Style): TextEdit[] | undefined {
  const parent = found.at(-1);
  const last = parent?.children.at(-1);
  if (!parent || !last || rest.length !== 1 || hasLines(text, parent)) return undefined;
  const like = [parent, ...(found.at(-2)?.children ?? [])].find(({ children }) => children.length > 1);
  const [first, second] = like?.children ?? [];
  const between = first && second ? text.slice(first.end, second.start) : '';
  if (!/[,;]/.test(between)) return undefined;
  const [line] = newLines(rest, value, parent.children, { ...style, behind: '' }) ?? [];
  return line === undefined ? undefined : [{ offset: last.end, length: 0, content: between + line }];
}

interface Place {
  text: string;
  parent: SettingsNode | undefined;
  last: SettingsNode | undefined;
  style: Style;
}

/** New lines behind the last one of a block, at its beginning, or at the end of the file. */
function placed(lines: readonly string[], { text, parent, last, style }: Place): TextEdit[] {
  const eol = lineEndOf(text);
  const outer = parent ? indentAt(text, parent.start) : '';
  const indent = last ? indentAt(text, last.start) : parent ? `${outer}  ` : '';
  const content = lines.map((line) => indent + line).join(eol);
  if (last) return afterLast(text, last, eol + content, style);
  if (!parent) return [appendLines(text, content)];
  const brace = text.indexOf('{', parent.start) + 1;
  const behind = /^[ \t]*[\r\n]/.test(text.slice(brace)) ? '' : `${eol}${outer}`;
  return [{ offset: brace, length: 0, content: eol + content + behind }];
}

/** A name without a value and without a sign for one: one of a list. */
const isNameAlone = (text: string, { value, start, end, children }: SettingsNode): boolean =>
  children.length === 0 && value?.text === '' && value.end === end && !/[=:]$/.test(text.slice(start, end));

/** One more name for a block that holds names alone, as those are written; undefined where it holds anything else. */
function nameInList(
  text: string,
  { start, children }: SettingsNode,
  [name = '']: readonly string[],
): string | undefined {
  const last = children.at(-1);
  if (!last || !children.every((one) => isNameAlone(text, one))) return undefined;
  const written = text[last.start] === '"' ? quote(name) : asWord(name);
  const isOnOneLine = !/[\r\n]/.test(text.slice(start, last.end));
  return written && (isOnOneLine ? ' ' : lineEndOf(text) + indentAt(text, last.start)) + written;
}

/** The sign that ends a value or a block, with the blanks before it. */
export const signAfter = (text: string, at: number): string => /^[ \t]*[,;]/.exec(text.slice(at, at + 80))?.[0] ?? '';

/** A key of a name that is there already has to be the next one: `in#3` after two of them. */
function nameOfNext(key: string, siblings: readonly SettingsNode[]): string | undefined {
  const [, name, number] = /^(.*)#(\d+)$/.exec(key) ?? [];
  if (name === undefined) return key;
  const there = siblings.filter((one) => one.name === name || one.name.startsWith(`${name}#`)).length;
  return there + 1 === Number(number) ? name : undefined;
}

/** A key with its value, inside of the blocks above it that are not there yet. */
function newLines(
  rest: readonly string[],
  value: string,
  siblings: readonly SettingsNode[],
  { between, behind, quoted }: Style,
): string[] | undefined {
  const [key = '', ...inner] = [...rest].reverse();
  const name = nameOfNext(key, siblings);
  if (name === undefined || inner.some((one) => /#\d+$/.test(one))) return undefined;
  const word = asWord(name);
  const written = quoted ? quote(value) : isWords(value) ? value : asWord(value);
  if (word === undefined || written === undefined) return undefined;
  let lines = [`${word}${between}${written}${behind}`];
  for (const block of inner)
    lines = [
      `${asWord(block) ?? ''}${between} {`.replace(/ {2,}/g, ' '),
      ...lines.map((line) => `  ${line}`),
      `}${behind}`,
    ];
  return lines;
}

/** In a list with commas the last one may have none yet. */
function afterLast(text: string, { end }: SettingsNode, content: string, { behind }: Style): TextEdit[] {
  const comma = behind === ',' && signAfter(text, end) === '' ? [{ offset: end, length: 0, content: ',' }] : [];
  return [...comma, { offset: endOfLine(text, end), length: 0, content }];
}

interface Style {
  between: string;
  behind: string;
  /** The value stands in quotes, whether it needs them or not. */
  quoted?: true;
}

/** How lines are written beside each other: the sign between key and value, and the one behind. */
function styleOf(text: string, nodes: readonly SettingsNode[]): Style {
  const leaves = nodes.flatMap((node) => (node.value ? [node] : node.children.filter((child) => child.value)));
  const between =
    leaves
      .map(({ start, value }) => /\s*(?::?=|:)\s*$|\s+$/.exec(text.slice(start, value?.start))?.[0])
      .find((one) => one !== undefined) ?? ' ';
  const behind = nodes.map(({ end }) => signAfter(text, end).trim()).find((sign) => sign !== '') ?? '';
  return { between: /[=:]/.test(between) ? between.replace(/\t+/g, ' ') : ' ', behind };
}

/** A comment behind a value stays on its line. */
const endOfLine = (text: string, at: number): number =>
  at + (/^[ \t]*[,;]?[ \t]*(?:(?:\/\/|#|--)[^\r\n]*)?(?=[\r\n]|$)/.exec(text.slice(at, at + 2000))?.[0].length ?? 0);
