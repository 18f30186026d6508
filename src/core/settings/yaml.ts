import type { TextEdit } from './document';
import { isMap, isPair, isScalar, isSeq, parseDocument, type Pair, type Scalar } from 'yaml';
import { appendLines, NameCounter, indentAt, lineEndOf, wholeLine, type SettingsNode, type TreeForm } from './tree';

/** Larger texts are no settings; in characters. */
const LARGEST = 4 * 1024 * 1024;
/** Deeper than this a file is taken as not readable; no settings file is. */
const DEEPEST = 100;

/** Is the nesting bounded, judged by brackets and by how far lines are set in? */
function isShallow(text: string): boolean {
  let depth = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === 0x7b || code === 0x5b) depth++;
    if ((code === 0x7d || code === 0x5d) && depth > 0) depth--;
    if (depth > DEEPEST) return false;
  }
  return !new RegExp(`^[ -]{${DEEPEST * 4},}\\S`, 'm').test(text) && !new RegExp(`(?:[-?:] ){${DEEPEST},}`).test(text);
}

/** A value as it reads: quoted ones without their quotes, everything else as it is written. */
function valueOf(scalar: Scalar, text: string): SettingsNode['value'] {
  const [start, end] = scalar.range ?? [0, 0];
  const quoted =
    scalar.type === 'QUOTE_DOUBLE' ||
    scalar.type === 'QUOTE_SINGLE' ||
    scalar.type === 'BLOCK_LITERAL' ||
    scalar.type === 'BLOCK_FOLDED';
  return { start, end, text: quoted ? String(scalar.value) : text.slice(start, end) };
}

function read(text: string): { nodes: SettingsNode[]; whole: boolean } {
  const none = { nodes: [], whole: false };
  if (text.length > LARGEST || !isShallow(text)) return none;
  try {
    const document = parseDocument(text, {
      keepSourceTokens: false,
      uniqueKeys: false,
      logLevel: 'silent',
      merge: false,
      schema: 'failsafe',
    });
    const whole =
      document.errors.length === 0 &&
      (document.contents === null || isMap(document.contents) || isSeq(document.contents));
    return { nodes: childrenOf(document.contents, text), whole };
  } catch {
    // The parser's own limits: such a text has no keys, and stays as it is.
    return none;
  }
}

function childrenOf(holder: unknown, text: string): SettingsNode[] {
  const names = new NameCounter();
  if (isMap(holder))
    return holder.items.flatMap((pair) => {
      const made = isPair(pair) ? memberOf(pair, names, text) : undefined;
      return made ? [made] : [];
    });
  if (!isSeq(holder)) return [];
  return holder.items.map((item, i) => {
    const node = item as { range?: [number, number, number] | null };
    const [start, end] = node.range ?? [0, 0];
    return {
      name: String(i),
      start,
      end,
      children: childrenOf(item, text),
      ...(isScalar(item) ? { value: valueOf(item, text) } : {}),
    };
  });
}

function memberOf({ key, value }: Pair, names: NameCounter, text: string): SettingsNode | undefined {
  if (!isScalar(key) || !key.range) return undefined;
  const name = names.of(typeof key.value === 'string' ? key.value : '');
  const start = key.range[0];
  if (value === null || value === undefined) return { name, start, end: key.range[1], children: [] };
  const range = (value as { range?: [number, number, number] | null }).range ?? key.range;
  // A key with nothing behind it holds nothing yet: it can get a value, or keys.
  if (isScalar(value) && range[0] === range[1])
    return { name, start, end: colonAfter(text, key.range[1]), children: [] };
  if (isScalar(value))
    return { name, start, end: Math.max(range[1], key.range[1]), value: valueOf(value, text), children: [] };
  // An empty list is a value of its own: `[]`.
  const isEmptyList = isSeq(value) && value.flow === true && value.items.length === 0;
  const held = isEmptyList ? { value: { start: range[0], end: range[1], text: '[]' } } : {};
  return { name, start, end: range[1], children: childrenOf(value, text), ...held };
}

const quote = (value: string): string => JSON.stringify(value);
/** Can it be written without quotes, and read as the same words? */
const isPlain = (value: string): boolean =>
  /^(?:[\p{L}\p{N}_./\\+]|-(?=\S))[^\r\n#:{}[\],&*!|>%@`"']*$/u.test(value) &&
  value === value.trim() &&
  value !== '---';

/**
 * YAML 1.2 (https://yaml.org/spec/1.2.2/), read by the package `yaml`. Members of lists are named by their numbers; of
 * a key that stands twice the second is `key#2`. What is written over several lines is read, not changed.
 */
export const yamlForm: TreeForm = {
  sameCase: true,
  parse: read,
  write: (value, node, text) => {
    const { start = 0, end = 0 } = node.value ?? {};
    const before = text.slice(start, end);
    if (/[\r\n]/.test(before) || /^[|>&*!]/.test(before)) return undefined;
    // An empty list gets items, and no other value.
    if (/^\[\s*\]$/.test(before)) return undefined;
    const written = before.startsWith('"')
      ? quote(value)
      : before.startsWith("'") && !/[\r\n]/.test(value)
        ? `'${value.replaceAll("'", "''")}'`
        : plainOrQuoted(value);
    return start === end && !/[ \t]/.test(text[start - 1] ?? '') ? ` ${written}` : written;
  },
  insert: ({ text, nodes, found, rest, value }) => {
    const parent = found.at(-1);
    const siblings = parent ? parent.children : nodes;
    const last = siblings.at(-1);
    const written = plainOrQuoted(value);
    const isEmpty = parent !== undefined && !last && text[parent.end - 1] === ':';
    const inBrackets = parent && oneMoreIn(text, parent, rest, value);
    if (inBrackets) return [inBrackets];
    if (isEmpty && rest.length === 0) return [{ offset: parent.end, length: 0, content: ` ${written}` }];
    return rest.length === 0 ? undefined : newLines({ text, siblings, parent, rest, written, isEmpty });
  },
  remove: (text, parents, node) => {
    const parent = parents.at(-1);
    const only = parent?.children.length === 1 ? parent : node;
    const item = /^[ \t]*- $/.test(text.slice(lineStart(text, only.start), only.start))
      ? lineStart(text, only.start)
      : only.start;
    return wholeLine(text, item, endOfLine(text, deepest(text, only)));
  },
};

const plainOrQuoted = (value: string): string => (isPlain(value) ? value : quote(value));

interface NewLines {
  text: string;
  siblings: readonly SettingsNode[];
  parent: SettingsNode | undefined;
  rest: readonly string[];
  written: string;
  isEmpty: boolean;
}

/** Lines for keys or an item that are not there yet. */
function newLines({ text, siblings, parent, rest, written, isEmpty }: NewLines): TextEdit[] | undefined {
  if (!hasRoom(text, parent, isEmpty)) return undefined;
  const last = siblings.at(-1);
  const isList = isListAt(text, siblings);
  const beside = (at: number) => (isList ? indentAt(text, at) : columnOf(text, at));
  const indent = last ? beside(last.start) : parent ? `${indentAt(text, parent.start)}  ` : '';
  const lines = isList ? nextItem(rest, siblings, written) : newKeys(rest, written);
  if (!lines || rest.some((name) => !isPlain(name) || /#\d+$/.test(name))) return undefined;
  const eol = lineEndOf(text);
  const content = lines.map((line) => indent + line).join(eol);
  const above = last ?? parent;
  if (above) return [{ offset: endOfLine(text, deepest(text, above)), length: 0, content: eol + content }];
  return [appendLines(text, content)];
}

/** One more item of a list in brackets, `[base, more]`: behind the last one, in quotes where the first one has some. */
function oneMoreIn(text: string, { start, end, children }: SettingsNode, rest: readonly string[], value: string) {
  const written = text.slice(start, end);
  const last = children.at(-1);
  const at = last ? last.end : end - 1;
  const isList = /^[^\r\n[{]*:\s*\[/.test(written) && children.every(({ name }, i) => name === String(i));
  if (!isList || text[end - 1] !== ']' || rest.length !== 1 || rest[0] !== String(children.length)) return undefined;
  if (last && text.slice(last.end, end - 1).trim() !== '') return undefined;
  const item = /^["']/.test(text.slice(children[0]?.start ?? end)) ? quote(value) : plainOrQuoted(value);
  return { offset: at, length: 0, content: last ? `, ${item}` : item };
}

/** One more line in the form of those that are there; keys that are written on one line in brackets are left alone. */
const hasRoom = (text: string, parent: SettingsNode | undefined, isEmpty: boolean): boolean => {
  if (/^\s*[{[]/.test(text)) return false;
  if (!parent) return true;
  if (!isEmpty && (parent.value || parent.children.length === 0)) return false;
  return !/^[^\n]*:\s*[{[]/.test(text.slice(parent.start, parent.end));
};

const isListAt = (text: string, siblings: readonly SettingsNode[]): boolean => {
  const last = siblings.at(-1);
  return (
    last !== undefined &&
    /^[ \t]*- /.test(lineAt(text, last.start)) &&
    siblings.every(({ name }, i) => name === String(i))
  );
};

/** A key with its value, below those above it that are not there yet. */
const newKeys = (names: readonly string[], written: string): string[] =>
  names.map((name, i) => `${'  '.repeat(i)}${name}:${i === names.length - 1 ? ` ${written}` : ''}`);

/** One more value, or of a list of blocks a block with its first key; undefined where it is not the next one. */
function nextItem([item, key, more]: readonly string[], siblings: readonly SettingsNode[], written: string) {
  const areBlocks = siblings.every(({ value, children }) => !value && children.some(({ name }) => name !== '0'));
  if (item !== String(siblings.length) || more !== undefined || (key !== undefined) !== areBlocks) return undefined;
  return [key === undefined ? `- ${written}` : `- ${key}: ${written}`];
}

/** Blanks up to a key: what stands before it as well where it is the first one of an item. */
const columnOf = (text: string, at: number): string => {
  const before = text.slice(lineStart(text, at), at);
  return /^[ \t]*(?:- +)+$/.test(before) ? before.replaceAll('-', ' ') : indentAt(text, at);
};

/** The place behind a key's colon. */
const colonAfter = (text: string, at: number): number =>
  at + (/^[ \t]*:/.exec(text.slice(at, at + 200))?.[0].length ?? 0);
const lineStart = (text: string, at: number): number =>
  Math.max(text.lastIndexOf('\n', at - 1), text.lastIndexOf('\r', at - 1)) + 1;
const endOfLine = (text: string, at: number): number => at + (/^[^\r\n]*/.exec(text.slice(at))?.[0].length ?? 0);
const lineAt = (text: string, at: number): string => text.slice(lineStart(text, at), endOfLine(text, at));
/** Where the last thing inside a node ends. */
function deepest(text: string, node: SettingsNode): number {
  let at = node;
  for (let next = at.children.at(-1); next; next = at.children.at(-1)) at = next;
  const end = at.value?.end ?? at.end;
  // A text of several lines ends with a line end.
  return end - (/[\r\n]+$/.exec(text.slice(Math.max(0, end - 200), end))?.[0].length ?? 0);
}
