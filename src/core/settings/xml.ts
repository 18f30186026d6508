import type { TextEdit } from './document';
import { NameCounter, hasLines, indentAt, lineEndOf, wholeLine, type SettingsNode, type TreeForm } from './tree';

const DEEPEST = 200;
/**
 * A piece of markup (XML 1.0, sections 2.4 to 2.8, 3.1): comment, CDATA, instruction, declaration, tag. Quoted values
 * may hold `>`.
 */
const MARKUP =
  /<!--[\s\S]*?-->|<!\[CDATA\[[\s\S]*?\]\]>|<\?[\s\S]*?\?>|<!(?:[^<>"']|"[^"]*"|'[^']*'|<[^<>]*>)*>|<(\/?)([^\s<>/="']+)((?:[^<>"']|"[^"]*"|'[^']*')*?)(\/?)>/g;
const ATTRIBUTE = /([^\s=<>"'/]+)\s*=\s*("[^"]*"|'[^']*')/g;

const NAMED: Record<string, string> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" };
/**
 * The five names of the standard and characters by number. A pack's own entities are never expanded: they stay as they
 * are written.
 */
const decode = (raw: string): string =>
  raw.replace(
    /&(?:#(\d{1,7})|#x([0-9a-f]{1,6})|(lt|gt|amp|quot|apos));/gi,
    (all, number: string | undefined, hex: string | undefined, name: string | undefined) => {
      if (name !== undefined) return NAMED[name] ?? all;
      const code = number === undefined ? parseInt(hex ?? '', 16) : Number(number);
      return code > 0 && code <= 0x10ffff && !(code >= 0xd800 && code < 0xe000) ? String.fromCodePoint(code) : all;
    },
  );
const encode = (value: string, quote: '"' | "'" | ''): string =>
  value
    .replace(/[&<>]/g, (one) => (one === '&' ? '&amp;' : one === '<' ? '&lt;' : '&gt;'))
    .replaceAll(quote || '\u0000', quote === '"' ? '&quot;' : quote === "'" ? '&apos;' : '\u0000');

interface Open {
  node: SettingsNode;
  /** Where its content starts. */
  from: number;
  names: NameCounter;
}

/**
 * XML 1.0 settings: elements are containers, attributes are values named `@name`, an element that holds text only has
 * that text as its value. Of equal elements in one container the second is `name#2`. Entities of the file are not
 * expanded.
 */
export const xmlForm: TreeForm = {
  sameCase: true,
  parse: (text) => new Reading(text).result(),
  write: (value, node, text) => (holdsText(value) ? encode(value, quoteBefore(text, node)) : undefined),
  insert: ({ text, found, rest, value }) => {
    const parent = found.at(-1);
    const [first, ...more] = rest;
    if (!parent || first === undefined || !holdsText(value) || !canBeNames(first, more)) return undefined;
    const head = START_OF_TAG.exec(text.slice(parent.start, parent.end))?.[0];
    if (head === undefined) return undefined;
    const headEnd = parent.start + head.length;
    if (first.startsWith('@'))
      return [{ offset: headEnd, length: 0, content: ` ${first.slice(1)}="${encode(value, '"')}"` }];
    // A value and elements in one element are not a setting.
    if (parent.value && parent.value.text.trim() !== '') return undefined;
    const element = render(bare(first), more, value);
    return element === undefined ? undefined : [insertElement(text, parent, headEnd, element)];
  },
  remove: (text, _parents, node) => {
    if (!node.name.startsWith('@')) return wholeLine(text, node.start, node.end);
    let start = node.start;
    while (/\s/.test(text[start - 1] ?? '')) start--;
    return [{ offset: start, length: node.end - start, content: '' }];
  },
};

/** A tag up to its end, without the blanks before it. */
const START_OF_TAG = /^<[^\s<>/="']+(?:[^<>"']|"[^"]*"|'[^']*')*?(?=\s*\/?>)/;

/** Elements, and an attribute at the end at most. */
const canBeNames = (first: string, more: readonly string[]): boolean =>
  [bare(first), ...more].every((name) => /^@?[A-Za-z_][\w.:-]*$/.test(name)) &&
  !more.slice(0, -1).some((name) => name.startsWith('@'));

/** One more element at the end of those in a parent, on a line of its own. */
function insertElement(text: string, parent: SettingsNode, headEnd: number, element: string): TextEdit {
  const eol = lineEndOf(text);
  const outer = indentAt(text, parent.start);
  const sibling = parent.children.findLast(({ name }) => !name.startsWith('@'));
  const inner =
    sibling && hasLines(text, { start: parent.start, end: sibling.start })
      ? indentAt(text, sibling.start)
      : `${outer}  `;
  // An element in another one stands on a line of its own where that is so in the element before.
  const parts = sibling && hasLines(text, sibling) ? /^(<[^<>]+>)(<.*>)(<\/[^<>]+>)$/.exec(element) : null;
  const unit = inner.slice(outer.length) || '  ';
  const [opens, inside, closes] = parts?.slice(1) ?? [];
  const whole = parts ? [opens, `${unit}${inside}`, closes].join(`${eol}${inner}`) : element;
  const line = `${eol}${inner}${whole}`;
  if (/\/>$/.test(text.slice(parent.start, parent.end))) {
    const tag = /^<([^\s<>/="']+)/.exec(text.slice(parent.start, headEnd))?.[1] ?? '';
    return { offset: headEnd, length: parent.end - headEnd, content: `>${line}${eol}${outer}</${tag}>` };
  }
  const at = sibling ? sibling.end : text.indexOf('>', headEnd) + 1;
  const endsLine = sibling !== undefined || /^\s*[\r\n]/.test(text.slice(at, parent.end));
  return { offset: at, length: 0, content: endsLine ? line : `${line}${eol}${outer}` };
}

/** Reads the markup of a text, one piece after the other. */
class Reading {
  private readonly top: SettingsNode[] = [];
  private readonly topNames = new NameCounter();
  private readonly open: Open[] = [];
  private whole = true;

  constructor(private readonly text: string) {}

  result(): ReturnType<TreeForm['parse']> {
    const { text, open, top } = this;
    let last = 0;
    for (const found of text.matchAll(MARKUP)) {
      const [all, closing, name, attributes = '', empty] = found;
      const span = { start: found.index, end: found.index + all.length };
      this.checkBetween(last, span.start);
      last = span.end;
      if (name === undefined) continue;
      if (closing) {
        this.closeTag(name, span);
        continue;
      }
      if (open.length >= DEEPEST) return { nodes: [], whole: false };
      const node = this.openTag(name, attributes, span);
      if (!empty) open.push({ node, from: last, names: new NameCounter() });
    }
    if (open.length > 0 || /[^\s\ufeff]/.test(text.slice(last)) || top.length !== 1) this.whole = false;
    for (const { node, from } of open) node.end = Math.max(node.end, from);
    return { nodes: top, whole: this.whole };
  }

  /** A `<` that is no markup, or text outside of the one root. */
  private checkBetween(from: number, to: number): void {
    const between = this.text.slice(from, to);
    if (between.includes('<') || (this.open.length === 0 && /[^\s\ufeff]/.test(between))) this.whole = false;
  }

  private closeTag(name: string, { start, end }: Span): void {
    const place = this.open.findLastIndex(({ node }) => bare(node.name) === name);
    if (place !== this.open.length - 1 || place < 0) this.whole = false;
    if (place < 0) return;
    for (const one of this.open.splice(place)) close(one, this.text, start, end);
  }

  private openTag(name: string, attributes: string, { start, end }: Span): SettingsNode {
    const parent = this.open.at(-1);
    const node: SettingsNode = { name: (parent?.names ?? this.topNames).of(name), start, end, children: [] };
    this.addAttributes(node, attributes, start + 1 + name.length);
    (parent?.node.children ?? this.top).push(node);
    return node;
  }

  /** Of an attribute that stands twice the first one is read. */
  private addAttributes(node: SettingsNode, attributes: string, base: number): void {
    const seen = new Set<string>();
    for (const one of attributes.matchAll(ATTRIBUTE)) {
      const [all, key, raw = ''] = one;
      const name = `@${key}`;
      if (seen.has(name)) {
        this.whole = false;
        continue;
      }
      seen.add(name);
      const end = base + one.index + all.length;
      const value = { start: end - raw.length + 1, end: end - 1, text: decode(raw.slice(1, -1)) };
      node.children.push({ name, start: base + one.index, end, value, children: [] });
    }
  }
}

interface Span {
  start: number;
  end: number;
}

const bare = (name: string): string => name.replace(/#\d+$/, '');

/** Characters that XML 1.0 allows (section 2.2), line breaks aside: they would be read as blanks in an attribute. */
const holdsText = (value: string): boolean => !/[\u0000-\u001f\ufffe\uffff]/.test(value);

const quoteBefore = (text: string, node: SettingsNode): '"' | "'" | '' => {
  if (!node.name.startsWith('@')) return '';
  return text[(node.value?.start ?? 1) - 1] === "'" ? "'" : '"';
};

/** An element that is closed: where nothing but text is in it, that is its value. */
function close({ node, from }: Open, text: string, to: number, end: number): void {
  node.end = end;
  if (node.children.some(({ name }) => !name.startsWith('@'))) return;
  const raw = text.slice(from, to);
  if (/</.test(raw)) return;
  const start = from + (/^\s*/.exec(raw)?.[0].length ?? 0);
  const stop = Math.max(start, to - (/\s*$/.exec(raw)?.[0].length ?? 0));
  // An empty element between attributes says nothing by itself.
  if (start === stop && node.children.length > 0) return;
  node.value = {
    start: start === stop ? from : start,
    end: start === stop ? from : stop,
    text: decode(text.slice(start, stop)),
  };
}

function render(name: string, rest: readonly string[], value: string): string | undefined {
  const [next, ...more] = rest;
  if (name.startsWith('@')) return undefined;
  if (next === undefined) return `<${name}>${encode(value, '')}</${name}>`;
  if (next.startsWith('@')) return more.length > 0 ? undefined : `<${name} ${next.slice(1)}="${encode(value, '"')}" />`;
  const inner = render(next, more, value);
  return inner === undefined ? undefined : `<${name}>${inner}</${name}>`;
}
