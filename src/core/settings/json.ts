import { modify, visit, type FormattingOptions } from 'jsonc-parser';
import { behindLast, objectLike } from './jsonLines';
import type { TextEdit } from './document';
import type { Insertion, SettingsNode, TreeForm } from './tree';

/** Deeper than this a file is taken as not readable; no settings file is. */
const DEEPEST = 200;

/** Is the nesting bounded? Brackets in strings count too, which only errs on the safe side. */
function isShallow(text: string): boolean {
  let depth = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === 0x7b || code === 0x5b) {
      if (++depth > DEEPEST) return false;
    } else if (code === 0x7d || code === 0x5d) depth = Math.max(0, depth - 1);
  }
  return true;
}

/** What holds nothing shares this; it is never changed. */
const NONE: SettingsNode[] = [];

/** An object or list that is being read. */
interface Open {
  nodes: SettingsNode[];
  list: boolean;
  start: number;
  /** Itself as a member of the one around it; undefined for the outermost. */
  node: SettingsNode | undefined;
  /** Of an object: the name whose value comes next, and where it stands. */
  name: string;
  nameStart: number;
}

/**
 * Reads without building the parser's own tree first, which would cost as much again. Values as text: strings as they
 * read, everything else as it is written.
 */
function read(text: string): { nodes: SettingsNode[]; whole: boolean } {
  let whole = true;
  let top: SettingsNode[] | undefined;
  let seen = false;
  const open: Open[] = [];
  const member = (start: number, end: number): SettingsNode | undefined => {
    seen = true;
    const parent = open[open.length - 1];
    if (!parent) return undefined;
    const node = parent.list
      ? { name: String(parent.nodes.length), start, end, children: NONE }
      : { name: parent.name, start: parent.nameStart, end, children: NONE };
    parent.nodes.push(node);
    return node;
  };
  const begin = (start: number, list: boolean) => {
    const node = member(start, text.length);
    const nodes: SettingsNode[] = [];
    if (node) node.children = nodes;
    else top = nodes;
    open.push({ nodes, list, start, node, name: '', nameStart: start });
  };
  const finish = (offset: number, length: number) => {
    const done = open.pop();
    if (!done?.node) return;
    const { node, nodes, start } = done;
    node.end = offset + length;
    if (nodes.length > 0) return;
    node.children = NONE;
    node.value = { start, end: node.end, text: text.slice(start, node.end) };
  };
  visit(
    text,
    {
      onObjectBegin: (offset) => begin(offset, false),
      onArrayBegin: (offset) => begin(offset, true),
      onObjectEnd: finish,
      onArrayEnd: finish,
      onObjectProperty: (name, offset) => {
        const parent = open[open.length - 1];
        if (parent) [parent.name, parent.nameStart] = [name, offset];
      },
      onLiteralValue: (value: unknown, offset, length) => {
        const node = member(offset, offset + length);
        if (node)
          node.value = {
            start: offset,
            end: offset + length,
            text: typeof value === 'string' ? value : text.slice(offset, offset + length),
          };
      },
      onError: () => {
        whole = false;
      },
    },
    { allowTrailingComma: true },
  );
  return { nodes: top ?? [], whole: whole && seen };
}

/** What a value is written as: the way the one that it replaces was written, else as what it looks like. */
function written(value: string, before?: string): string {
  if (before?.startsWith('"')) return JSON.stringify(value);
  return /^(-?(0|[1-9]\d*)(\.\d+)?([eE][-+]?\d+)?|true|false|null|\{\}|\[\])$/.test(value)
    ? value
    : JSON.stringify(value);
}

/** Lines are ended and indented as they are in the text. */
function formattingOf(text: string): FormattingOptions {
  const eol = /\r\n|\n|\r/.exec(text)?.[0] ?? '\n';
  const indent = /^([ \t]+)\S/m.exec(text)?.[1] ?? '  ';
  const tabs = indent.includes('\t');
  return { insertSpaces: !tabs, tabSize: tabs ? 1 : indent.length, eol };
}

function lineFormOf(text: string): { unit: string; eol: string } {
  const { insertSpaces, tabSize = 1, eol = '\n' } = formattingOf(text);
  return { unit: insertSpaces ? ' '.repeat(tabSize) : '\t', eol };
}

/** Stands for a new value while its place is found: a number is written as it was said, not as it is reckoned. */
const PLACEHOLDER = '\u0000value';

/**
 * JSON (RFC 8259), and JSON with comments and commas at the end, read by `jsonc-parser`. Of a member that stands twice
 * the last one counts. Members of arrays are named by their numbers.
 */
export const jsonForm: TreeForm = {
  sameCase: true,
  parse: (text) => {
    if (!isShallow(text)) return { nodes: [], whole: false };
    const mark = text.startsWith('\ufeff') ? ' ' : '';
    // A byte order mark is no part of JSON; a blank in its place keeps the offsets.
    return read(mark + text.slice(mark.length));
  },
  write: (value, node, text) => written(value, text.slice(node.value?.start, node.value?.end)),
  insert,
  remove: (text, parents, node) => {
    const mark = text.startsWith('\ufeff') ? ' ' : '';
    const plain = mark + text.slice(mark.length);
    if (isList(text, parents, parents.length))
      return [withoutItem(parents.at(-1)?.children ?? read(plain).nodes, node)];
    const path = [...parents, node].map(({ name }, i) => (isList(text, parents, i) ? Number(name) : name));
    return modify(plain, path, undefined, {});
  },
};

/**
 * An item with the comma before it, or behind it where it is the first. The package takes the sign before the closing
 * bracket for a blank, and leaves a broken file where the last one of `["a", "b"]` goes.
 */
function withoutItem(items: readonly SettingsNode[], node: SettingsNode): TextEdit {
  const at = items.findIndex(({ start }) => start === node.start);
  const [before, next] = [items[at - 1], items[at + 1]];
  const start = before?.end ?? node.start;
  return { offset: start, length: (before || !next ? node.end : next.start) - start, content: '' };
}

function insert({ text, nodes, found, rest, value }: Insertion): TextEdit[] | undefined {
  const parent = found.at(-1);
  const siblings = parent ? parent.children : nodes;
  // Only one more at the end of a list: a hole in it would be no list.
  const more = isList(text, found, found.length);
  const last = siblings.at(-1);
  if (more && !isNext(rest, siblings)) return undefined;
  if (!more && parent?.value && !/^\{\s*\}$/.test(parent.value.text)) return undefined;
  const raw = written(value, likeOthers({ text, nodes, found, rest }, more ? siblings : undefined));
  const behind = last && { text, last, ...lineFormOf(text) };
  if (behind && !more) return behindLast(rest, raw, behind);
  if (behind) return behindLast([], rest[1] === undefined ? raw : objectLike(rest[1], raw, behind), behind);
  return firstIn({ text, found, rest }, more, raw);
}

/** One more behind those of a list: a value, or behind others the first key of an object. */
const isNext = (rest: readonly string[], siblings: readonly SettingsNode[]): boolean =>
  rest.length <= (siblings.length > 0 ? 2 : 1) && Number(rest[0]) === siblings.length;

/** The first member of what holds nothing yet. */
function firstIn(
  { text, found, rest }: Pick<Insertion, 'text' | 'found' | 'rest'>,
  more: boolean,
  raw: string,
): TextEdit[] | undefined {
  const above = found.map(({ name }, i) => (isList(text, found, i) ? Number(name) : name));
  const path = [...above, ...(more ? [Number(rest[0])] : rest)];
  const mark = text.startsWith('\ufeff') ? ' ' : '';
  const edits = modify(mark + text.slice(mark.length), path, PLACEHOLDER, {
    isArrayInsertion: more,
    formattingOptions: formattingOf(text),
  });
  if (edits.length === 0) return undefined;
  return edits.map((edit) => ({ ...edit, content: edit.content.replace(JSON.stringify(PLACEHOLDER), () => raw) }));
}

/**
 * How a key is written in another object beside this one: a number in quotes stays one.
 *
 * @param items of the list that it comes to
 */
function likeOthers(
  { text, nodes, found, rest }: Omit<Insertion, 'value'>,
  items: readonly SettingsNode[] = found.at(-2)?.children ?? nodes,
): string | undefined {
  const like = items.flatMap(({ children }) => children).find(({ name, value }) => name === rest.at(-1) && value);
  return like?.value && text.slice(like.value.start, like.value.end);
}

/** Does the part of a path at this place count members of a list? */
const isList = (text: string, parents: readonly SettingsNode[], i: number): boolean => {
  const parent = parents[i - 1];
  if (parent) return /^("(?:[^"\\]|\\.)*"\s*:\s*)?\[/.test(text.slice(parent.start, parent.end));
  return text.replace(/^\ufeff?\s*/, '').startsWith('[');
};
