import { NameCounter, indentAt, lineEndOf, wholeLine, type SettingsNode, type TreeForm } from './tree';

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
  parse: (text) => {
    const top: SettingsNode[] = [];
    const topNames = new NameCounter();
    const open: Open[] = [];
    let whole = true;
    let last = 0;
    for (const found of text.matchAll(MARKUP)) {
      const [all, closing, name, attributes = '', empty] = found;
      const at = found.index;
      // A `<` that is no markup, or text outside of the one root.
      if (/</.test(text.slice(last, at)) || (open.length === 0 && /[^\s\ufeff]/.test(text.slice(last, at))))
        whole = false;
      last = at + all.length;
      if (name === undefined) continue;
      if (closing) {
        const place = open.findLastIndex(({ node }) => bare(node.name) === name);
        if (place !== open.length - 1 || place < 0) whole = false;
        if (place < 0) continue;
        for (const { node, from } of open.splice(place)) close(node, text, from, at, last);
        continue;
      }
      const parent = open.at(-1);
      if (open.length >= DEEPEST) return { nodes: [], whole: false };
      const node: SettingsNode = { name: (parent?.names ?? topNames).of(name), start: at, end: last, children: [] };
      const seen = new Set<string>();
      const base = at + 1 + name.length;
      for (const one of attributes.matchAll(ATTRIBUTE)) {
        const key = `@${one[1]}`;
        if (seen.has(key)) {
          whole = false;
          continue;
        }
        seen.add(key);
        const raw = one[2] as string;
        const start = base + one.index + one[0].length - raw.length + 1;
        node.children.push({
          name: key,
          start: base + one.index,
          end: base + one.index + one[0].length,
          value: { start, end: start + raw.length - 2, text: decode(raw.slice(1, -1)) },
          children: [],
        });
      }
      (parent?.node.children ?? top).push(node);
      if (!empty) open.push({ node, from: last, names: new NameCounter() });
    }
    if (open.length > 0 || /[<]/.test(text.slice(last)) || /[^\s\ufeff]/.test(text.slice(last)) || top.length !== 1)
      whole = false;
    for (const { node, from } of open) node.end = Math.max(node.end, from);
    return { nodes: top, whole };
  },
  write: (value, node, text) => (holdsText(value) ? encode(value, quoteBefore(text, node)) : undefined),
  insert: ({ text, found, rest, value }) => {
    const parent = found.at(-1);
    const [first, ...more] = rest;
    if (
      !parent ||
      first === undefined ||
      !holdsText(value) ||
      [bare(first), ...more].some((name) => !/^@?[A-Za-z_][\w.:-]*$/.test(name)) ||
      more.slice(0, -1).some((name) => name.startsWith('@'))
    )
      return undefined;
    const head = /^<[^\s<>/="']+(?:[^<>"']|"[^"]*"|'[^']*')*?(?=\s*\/?>)/.exec(
      text.slice(parent.start, parent.end),
    )?.[0];
    if (head === undefined) return undefined;
    const headEnd = parent.start + head.length;
    if (first.startsWith('@'))
      return [{ offset: headEnd, length: 0, content: ` ${first.slice(1)}="${encode(value, '"')}"` }];
    // A value and elements in one element are not a setting.
    if (parent.value && parent.value.text.trim() !== '') return undefined;
    const eol = lineEndOf(text);
    const outer = indentAt(text, parent.start);
    const sibling = parent.children.findLast(({ name }) => !name.startsWith('@'));
    const inner =
      sibling && /[\r\n]/.test(text.slice(parent.start, sibling.start)) ? indentAt(text, sibling.start) : `${outer}  `;
    const element = render(bare(first), more, value);
    if (element === undefined) return undefined;
    const selfClosed = /\/>$/.test(text.slice(parent.start, parent.end));
    if (selfClosed) {
      const tag = /^<([^\s<>/="']+)/.exec(head)?.[1] ?? '';
      return [
        { offset: headEnd, length: parent.end - headEnd, content: `>${eol}${inner}${element}${eol}${outer}</${tag}>` },
      ];
    }
    const at = sibling ? sibling.end : text.indexOf('>', headEnd) + 1;
    return [
      {
        offset: at,
        length: 0,
        content: `${eol}${inner}${element}${sibling || /^\s*[\r\n]/.test(text.slice(at, parent.end)) ? '' : `${eol}${outer}`}`,
      },
    ];
  },
  remove: (text, _parents, node) => {
    if (!node.name.startsWith('@')) return wholeLine(text, node.start, node.end);
    let start = node.start;
    while (/\s/.test(text[start - 1] ?? '')) start--;
    return [{ offset: start, length: node.end - start, content: '' }];
  },
};

const bare = (name: string): string => name.replace(/#\d+$/, '');

/** Characters that XML 1.0 allows (section 2.2), line breaks aside: they would be read as blanks in an attribute. */
const holdsText = (value: string): boolean => !/[\u0000-\u001f\ufffe\uffff]/.test(value);

const quoteBefore = (text: string, node: SettingsNode): '"' | "'" | '' => {
  if (!node.name.startsWith('@')) return '';
  return text[(node.value?.start ?? 1) - 1] === "'" ? "'" : '"';
};

/** An element that is closed: where nothing but text is in it, that is its value. */
function close(node: SettingsNode, text: string, from: number, to: number, end: number): void {
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
