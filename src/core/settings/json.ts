import { modify, parseTree, type Node } from 'jsonc-parser';
import type { SettingsNode, TreeForm } from './tree';

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

/** A value as text: strings as they read, everything else as it is written. */
function nodesOf(parent: Node, text: string): SettingsNode[] {
  const nodes: SettingsNode[] = [];
  const children = parent.children ?? [];
  for (let i = 0; i < children.length; i++) {
    const child = children[i] as Node;
    const key = child.type === 'property' ? child.children?.[0] : undefined;
    const value = child.type === 'property' ? child.children?.[1] : child;
    if (!value) continue;
    const node: SettingsNode = { name: key ? String(key.value) : String(i), start: child.offset, end: child.offset + child.length, children: NONE };
    if ((value.type === 'object' || value.type === 'array') && (value.children?.length ?? 0) > 0) node.children = nodesOf(value, text);
    else node.value = { start: value.offset, end: value.offset + value.length, text: value.type === 'string' ? String(value.value) : text.slice(value.offset, value.offset + value.length) };
    nodes.push(node);
  }
  return nodes;
}

/** What a value is written as: the way the one that it replaces was written, else as what it looks like. */
function written(value: string, before?: string): string {
  if (before?.startsWith('"')) return JSON.stringify(value);
  return /^(-?(0|[1-9]\d*)(\.\d+)?([eE][-+]?\d+)?|true|false|null|\{\}|\[\])$/.test(value) ? value : JSON.stringify(value);
}

/**
 * JSON (RFC 8259), and JSON with comments and commas at the end, read by `jsonc-parser`. Of a member that stands twice the
 * last one counts. Members of arrays are named by their numbers.
 */
export const jsonForm: TreeForm = {
  sameCase: true,
  parse: (text) => {
    if (!isShallow(text)) return { nodes: [], whole: false };
    const mark = text.startsWith('\ufeff') ? ' ' : '';
    const errors: { error: number; offset: number; length: number }[] = [];
    // A byte order mark is no part of JSON; a blank in its place keeps the offsets.
    const root = parseTree(mark + text.slice(mark.length), errors, { allowTrailingComma: true });
    return { nodes: root ? nodesOf(root, text) : [], whole: root !== undefined && errors.length === 0 };
  },
  write: (value, node, text) => written(value, text.slice(node.value?.start, node.value?.end)),
  insert: (text, _nodes, found, rest, value) => {
    const parent = found.at(-1);
    if (isList(text, found, found.length)) return undefined;
    // A new member of a list is not a setting; lists are replaced as a whole.
    if (parent?.value && !/^\{\s*\}$/.test(parent.value.text)) return undefined;
    const path = [...found.map(({ name }) => name), ...rest];
    const raw = written(value);
    const mark = text.startsWith('\ufeff') ? ' ' : '';
    const eol = /\r\n|\n|\r/.exec(text)?.[0] ?? '\n';
    const indent = /^([ \t]+)\S/m.exec(text)?.[1] ?? '  ';
    const edits = modify(mark + text.slice(mark.length), path, JSON.parse(raw), { formattingOptions: { insertSpaces: !indent.includes('\t'), tabSize: indent.includes('\t') ? 1 : indent.length, eol } });
    return edits.length > 0 ? edits : undefined;
  },
  remove: (text, parents, node) => {
    const mark = text.startsWith('\ufeff') ? ' ' : '';
    const path = [...parents.map(({ name }) => name), node.name];
    return modify(mark + text.slice(mark.length), path.map((name, i) => (isList(text, parents, i) ? Number(name) : name)), undefined, {});
  },
};

/** Does the part of a path at this place count members of a list? */
const isList = (text: string, parents: readonly SettingsNode[], i: number): boolean => {
  const parent = parents[i - 1];
  if (parent) return /^("(?:[^"\\]|\\.)*"\s*:\s*)?\[/.test(text.slice(parent.start, parent.end));
  return text.replace(/^\ufeff?\s*/, '').startsWith('[');
};

