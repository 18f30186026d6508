import type { TextEdit } from './document';
import { appendLines, NameCounter, indentAt, lineEndOf, wholeLine, type SettingsNode, type TreeForm } from './tree';

const DEEPEST = 200;
/** Comments, braces, line ends, quoted words, bare words. */
const TOKEN = /\/\/[^\r\n]*|#[^\r\n]*|--(?=[\s-])[^\r\n]*|\{|\}|\r\n|\n|\r|"(?:[^"\\\r\n]|\\[^\r\n])*"|[^\s{}"]+/g;
const unquote = (word: string): string => (word.startsWith('"') ? word.slice(1, -1).replace(/\\(["\\])/g, '$1') : word);
const quote = (word: string): string | undefined =>
  /[\r\n]/.test(word) ? undefined : `"${word.replace(/["\\]/g, '\\$&')}"`;
const asWord = (value: string): string | undefined => (/^[^\s{}"#/][^\s{}"]*$/.test(value) ? value : quote(value));

/** Several words of which some are quoted: written as they are. */
const isWords = (value: string): boolean =>
  /^(?:[^\s{}"#/][^\s{}"]*|"(?:[^"\\\r\n]|\\[^\r\n])*")(?: (?:[^\s{}"#/][^\s{}"]*|"(?:[^"\\\r\n]|\\[^\r\n])*"))+$/.test(
    value,
  ) && value.includes('"');

interface Open {
  nodes: SettingsNode[];
  names: NameCounter;
  /** The block itself; undefined at the top. */
  node?: SettingsNode;
}

/** A word of a line, and how it reads. */
interface BlockWord {
  start: number;
  end: number;
  word: string;
  quoted: boolean;
}

/** A key, where its value begins, and the sign between them. */
interface Split {
  name: string;
  /** The first place after the key and its sign. */
  after: number;
  sign: boolean;
}

/** `key value`, `key = value`, `key=value` and `key: value` are told apart by the sign after the key. */
function splitOf([key, second]: readonly BlockWord[]): Split | undefined {
  if (!key) return undefined;
  if (!key.quoted) {
    const cut = key.word.indexOf('=');
    if (cut > 0) return { name: key.word.slice(0, cut).replace(/:$/, ''), after: key.start + cut + 1, sign: true };
    if (key.word.length > 1 && key.word.endsWith(':'))
      return { name: key.word.slice(0, -1), after: key.end, sign: true };
  }
  if (second && !second.quoted && /^:?=/.test(second.word))
    return { name: key.word, after: second.start + second.word.indexOf('=') + 1, sign: true };
  if (second && second.word === ':' && !second.quoted) return { name: key.word, after: second.end, sign: true };
  return { name: key.word, after: key.end, sign: false };
}

/** The name of a block, without the sign before its brace. */
const blockName = (words: readonly BlockWord[]): string =>
  words
    .map(({ word }) => word)
    .join(' ')
    .replace(/\s*(?::?=|:)$/, '')
    .replace(/^[,;]\s*/, '');

/**
 * Words that end with a comma or a semicolon end a value: `x = 1, y = 2`. Without a sign after the next key they are
 * one value.
 */
function statements(words: readonly BlockWord[]): BlockWord[][] {
  const found: BlockWord[][] = [];
  let from = 0;
  words.forEach(({ word, quoted }, i) => {
    const ends = !quoted && /[,;]$/.test(word);
    if (!ends || i + 1 >= words.length || !splitOf(words.slice(from))?.sign || !splitOf(words.slice(i + 1))?.sign)
      return;
    found.push(words.slice(from, i + 1));
    from = i + 1;
  });
  found.push(words.slice(from));
  return found;
}

/** Reads a text token by token. */
class Reading {
  private readonly top: Open = { nodes: [], names: new NameCounter() };
  private readonly open: Open[] = [this.top];
  private whole = true;
  private words: BlockWord[] = [];

  constructor(private readonly text: string) {}

  result(): ReturnType<TreeForm['parse']> {
    const { text, open, top } = this;
    let at = text.startsWith('\ufeff') ? 1 : 0;
    TOKEN.lastIndex = at;
    for (let found = TOKEN.exec(text); found; at = TOKEN.lastIndex, found = TOKEN.exec(text)) {
      const [token] = found;
      const start = found.index;
      if (/\S/.test(text.slice(at, start))) this.whole = false;
      if (/^(\/\/|#|--[\s-]|--$)/.test(token)) continue;
      if (token === '{' && open.length > DEEPEST) return { nodes: [], whole: false };
      this.take(token, start);
    }
    if (/\S/.test(text.slice(at))) this.whole = false;
    this.flush();
    if (open.length > 1) this.whole = false;
    for (const { node } of open) if (node) node.end = text.length;
    return { nodes: top.nodes, whole: this.whole };
  }

  private take(token: string, start: number): void {
    const end = start + token.length;
    if (/^[\r\n]/.test(token)) {
      // A block's name can stand on the line above its brace.
      if (!/^\s*\{/.test(this.text.slice(end, end + 400))) this.flush();
    } else if (token === '{') this.openBlock(start);
    else if (token === '}') this.closeBlock(start);
    else this.words.push({ start, end, word: unquote(token), quoted: token.startsWith('"') });
  }

  private openBlock(start: number): void {
    // What stands before the block on its line is a line of its own where a sign ends it: `x = 1, sub = {`.
    const before = statements(this.words);
    const words = before.pop() ?? [];
    for (const some of before) this.add(some);
    const name = blockName(words);
    if (name === '') this.whole = false;
    const parent = this.inner;
    const node: SettingsNode = {
      name: parent.names.of(name),
      start: words[0]?.start ?? start,
      end: start + 1,
      children: [],
    };
    this.words = [];
    parent.nodes.push(node);
    this.open.push({ nodes: node.children, names: new NameCounter(), node });
  }

  private closeBlock(start: number): void {
    this.flush();
    const closed = this.open.length > 1 ? this.open.pop() : undefined;
    if (closed?.node) closed.node.end = start + 1;
    else this.whole = false;
  }

  private get inner(): Open {
    return this.open.at(-1) as Open;
  }

  /** The words of a line that has ended. */
  private flush(): void {
    for (const some of statements(this.words)) this.add(some);
    this.words = [];
  }

  private add(words: readonly BlockWord[]): void {
    const made = nodeOf(words, this.text, this.inner.names);
    if (made) this.inner.nodes.push(made);
  }
}

/**
 * Nested blocks: `name { key value … }`, a line for each key, words bare or in quotes, comments after `//`, `#` or
 * `--`. Keys can stand more than once; the second is `key#2`. The value is the rest of the line. A sign between key and
 * value (`=`, `:`) and one behind the value (`,`, `;`) belong to neither: `name = { key = value, }` reads like `name {
 * key value }`.
 */
export const blocksForm: TreeForm = {
  sameCase: true,
  parse: (text) => new Reading(text).result(),
  write: (value, node, text) => {
    if (/[\r\n]/.test(value)) return undefined;
    const before = text.slice(node.value?.start, node.value?.end);
    const written = isWords(value) ? value : before.includes('"') ? quote(value) : asWord(value);
    return written === undefined || node.value?.start !== node.value?.end ? written : ` ${written}`;
  },
  insert: ({ text, nodes, found, rest, value }) => {
    const parent = found.at(-1);
    if (parent?.value || /[\r\n]/.test(value) || rest.some((name) => /[\r\n{}]/.test(name) || name === ''))
      return undefined;
    const siblings = parent ? parent.children : nodes;
    const last = siblings.at(-1);
    const outer = parent ? indentAt(text, parent.start) : '';
    const indent = last ? indentAt(text, last.start) : parent ? `${outer}  ` : '';
    const style = styleOf(text, siblings.length > 0 ? siblings : nodes);
    const lines = newLines(rest, value, siblings, style);
    if (!lines) return undefined;
    const eol = lineEndOf(text);
    const content = lines.map((line) => indent + line).join(eol);
    if (last) return afterLast(text, last, eol + content, style);
    if (!parent) return [appendLines(text, content)];
    const brace = text.indexOf('{', parent.start) + 1;
    const behind = /^[ \t]*[\r\n]/.test(text.slice(brace)) ? '' : `${eol}${outer}`;
    return [{ offset: brace, length: 0, content: eol + content + behind }];
  },
  remove: (text, _parents, node) => wholeLine(text, node.start, node.end + signAfter(text, node.end).length),
};

/** The sign that ends a value or a block, with the blanks before it. */
const signAfter = (text: string, at: number): string => /^[ \t]*[,;]/.exec(text.slice(at, at + 80))?.[0] ?? '';

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
  { between, behind }: Style,
): string[] | undefined {
  const [key = '', ...inner] = [...rest].reverse();
  const name = nameOfNext(key, siblings);
  if (name === undefined || inner.some((one) => /#\d+$/.test(one))) return undefined;
  const word = asWord(name);
  const written = isWords(value) ? value : asWord(value);
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

/** A line as a key with its value. */
function nodeOf(words: readonly BlockWord[], text: string, names: NameCounter): SettingsNode | undefined {
  const split = splitOf(words);
  const [key] = words;
  const last = words.at(-1);
  if (!split || !key || !last || (words.length === 1 && /^[,;]$/.test(key.word))) return undefined;
  const rest = text.slice(split.after, last.end);
  const start = Math.min(last.end, split.after + (/^\s*/.exec(rest)?.[0].length ?? 0));
  const bare =
    words.length > 1 || split.sign
      ? (/\s*[,;]$/.exec(last.quoted ? '' : text.slice(start, last.end))?.[0].length ?? 0)
      : 0;
  const end = Math.max(start, last.end - bare);
  const written = text.slice(start, end);
  const value = { start, end, text: /^"(?:[^"\\]|\\.)*"$/.test(written) ? unquote(written) : written };
  return { name: names.of(split.name), start: key.start, end: Math.max(end, key.start + 1), value, children: [] };
}

/** A comment behind a value stays on its line. */
const endOfLine = (text: string, at: number): number =>
  at + (/^[ \t]*[,;]?[ \t]*(?:(?:\/\/|#|--)[^\r\n]*)?(?=[\r\n]|$)/.exec(text.slice(at, at + 2000))?.[0].length ?? 0);
