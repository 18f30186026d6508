import { asWord, insert, isWords, quote, signAfter, unquote } from './blockLines';
import { NameCounter, wholeLine, type SettingsNode, type TreeForm } from './tree';

const DEEPEST = 200;
/** Comments, braces, line ends, quoted words, bare words. */
const TOKEN = /\/\/[^\r\n]*|#[^\r\n]*|--(?=[\s-])[^\r\n]*|\{|\}|\r\n|\n|\r|"(?:[^"\\\r\n]|\\[^\r\n])*"|[^\s{}"]+/g;
interface Open {
  nodes: SettingsNode[];
  names: NameCounter;
  /** So many blocks without a name are in it. */
  nameless: number;
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
  private readonly top: Open = { nodes: [], names: new NameCounter(), nameless: 0 };
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
    const [first, ...others] = before.pop() ?? [];
    // The sign behind the block before it is none of its words.
    const words = first && (first.quoted || !/^[,;]$/.test(first.word)) ? [first, ...others] : others;
    for (const some of before) this.add(some);
    const parent = this.inner;
    const name = blockName(words) || String(++parent.nameless);
    // Blocks without names are a list in another one.
    if (blockName(words) === '' && parent === this.top) this.whole = false;
    const node: SettingsNode = {
      name: parent.names.of(name),
      start: words[0]?.start ?? start,
      end: start + 1,
      children: [],
    };
    this.words = [];
    parent.nodes.push(node);
    this.open.push({ nodes: node.children, names: new NameCounter(), nameless: 0, node });
  }

  private closeBlock(start: number): void {
    // `mods = { "first" "second" }` lists names.
    const names = this.words.filter(({ quoted }) => quoted);
    const isList = names.length > 1 && this.words.every(({ quoted, word }) => quoted || word === ',');
    if (isList && this.isOnOneLine(start)) {
      this.words = [];
      for (const name of names) this.add([name]);
    }
    this.flush();
    const closed = this.open.length > 1 ? this.open.pop() : undefined;
    if (closed?.node) closed.node.end = start + 1;
    else this.whole = false;
  }

  private isOnOneLine(start: number): boolean {
    return !/[\r\n]/.test(this.text.slice(this.text.lastIndexOf('{', start), start));
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
 * `--`. Blocks without a name are a list, counted from 1. Keys can stand more than once; the second is `key#2`. The
 * value is the rest of the line. A sign between key and
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
  insert,
  remove: (text, _parents, node) => wholeLine(text, node.start, node.end + signAfter(text, node.end).length),
};

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
