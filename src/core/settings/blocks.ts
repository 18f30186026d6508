import { NameCounter, indentAt, lineEndOf, wholeLine, type SettingsNode, type TreeForm } from './tree';

const DEEPEST = 200;
/** Comments, braces, line ends, quoted words, bare words. */
const TOKEN = /\/\/[^\r\n]*|#[^\r\n]*|\{|\}|\r\n|\n|\r|"(?:[^"\\\r\n]|\\[^\r\n])*"|[^\s{}"]+/g;
const unquote = (word: string): string => (word.startsWith('"') ? word.slice(1, -1).replace(/\\(["\\])/g, '$1') : word);
const quote = (word: string): string | undefined => (/[\r\n]/.test(word) ? undefined : `"${word.replace(/["\\]/g, '\\$&')}"`);
const asWord = (value: string): string | undefined => (/^[^\s{}"#/][^\s{}"]*$/.test(value) ? value : quote(value));

/** Several words of which some are quoted: written as they are. */
const isWords = (value: string): boolean => /^(?:[^\s{}"#/][^\s{}"]*|"(?:[^"\\\r\n]|\\[^\r\n])*")(?: (?:[^\s{}"#/][^\s{}"]*|"(?:[^"\\\r\n]|\\[^\r\n])*"))+$/.test(value) && value.includes('"');

interface Open {
  nodes: SettingsNode[];
  names: NameCounter;
  /** The block itself; undefined at the top. */
  node?: SettingsNode;
}

/**
 * Nested blocks: `name { key value … }`, a line for each key, words bare or in quotes, comments after `//` or `#`. Keys can
 * stand more than once; the second is `key#2`. The value is the rest of the line.
 */
export const blocksForm: TreeForm = {
  sameCase: true,
  parse: (text) => {
    const top: Open = { nodes: [], names: new NameCounter() };
    const open: Open[] = [top];
    let whole = true;
    let words: { start: number; end: number; word: string }[] = [];
    const flush = () => {
      const [key, first] = words;
      const last = words.at(-1);
      if (key && last) {
        const { nodes, names } = open.at(-1) as Open;
        const value = first === undefined
          ? { start: key.end, end: key.end, text: '' }
          : { start: first.start, end: last.end, text: words.length === 2 ? first.word : text.slice(first.start, last.end) };
        nodes.push({ name: names.of(key.word), start: key.start, end: last.end, value, children: [] });
      }
      words = [];
    };
    let at = text.startsWith('\ufeff') ? 1 : 0;
    TOKEN.lastIndex = at;
    for (let found = TOKEN.exec(text); found; at = TOKEN.lastIndex, found = TOKEN.exec(text)) {
      const [token] = found;
      const start = found.index;
      if (/\S/.test(text.slice(at, start))) whole = false;
      if (/^(\/\/|#)/.test(token)) continue;
      if (/^[\r\n]/.test(token)) {
        // A block's name can stand on the line above its brace.
        if (!/^\s*\{/.test(text.slice(TOKEN.lastIndex, TOKEN.lastIndex + 400))) flush();
      } else if (token === '{') {
        if (open.length > DEEPEST) return { nodes: [], whole: false };
        const name = words.map(({ word }) => word).join(' ');
        if (name === '') whole = false;
        const parent = open.at(-1) as Open;
        const node: SettingsNode = { name: parent.names.of(name), start: words[0]?.start ?? start, end: start + 1, children: [] };
        words = [];
        parent.nodes.push(node);
        open.push({ nodes: node.children, names: new NameCounter(), node });
      } else if (token === '}') {
        flush();
        const closed = open.length > 1 ? open.pop() : undefined;
        if (closed?.node) closed.node.end = start + 1;
        else whole = false;
      } else words.push({ start, end: start + token.length, word: unquote(token) });
    }
    if (/\S/.test(text.slice(at))) whole = false;
    flush();
    if (open.length > 1) whole = false;
    for (const { node } of open) if (node) node.end = text.length;
    return { nodes: top.nodes, whole };
  },
  write: (value, node, text) => {
    if (/[\r\n]/.test(value)) return undefined;
    const before = text.slice(node.value?.start, node.value?.end);
    const written = isWords(value) ? value : before.includes('"') ? quote(value) : asWord(value);
    return written === undefined || node.value?.start !== node.value?.end ? written : ` ${written}`;
  },
  insert: (text, nodes, found, rest, value) => {
    const parent = found.at(-1);
    const [key = '', ...inner] = [...rest].reverse();
    if (parent?.value || /[\r\n]/.test(value) || rest.some((name) => /[\r\n{}]/.test(name) || name === '')) return undefined;
    const eol = lineEndOf(text);
    const siblings = parent ? parent.children : nodes;
    const last = siblings.at(-1);
    const outer = parent ? indentAt(text, parent.start) : '';
    const indent = last ? indentAt(text, last.start) : parent ? `${outer}  ` : '';
    // One more key of a name that is there: `in#3` after two of them.
    const repeated = /^(.*)#(\d+)$/.exec(key);
    if (repeated && siblings.filter(({ name }) => name === repeated[1] || name.startsWith(`${repeated[1]}#`)).length + 1 !== Number(repeated[2])) return undefined;
    if (inner.some((name) => /#\d+$/.test(name))) return undefined;
    const word = asWord(repeated?.[1] ?? key);
    const written = isWords(value) ? value : asWord(value);
    if (word === undefined || written === undefined) return undefined;
    let lines = [`${word} ${written}`];
    for (const name of inner) lines = [`${asWord(name) ?? ''} {`, ...lines.map((line) => `  ${line}`), '}'];
    const content = lines.map((line) => indent + line).join(eol);
    if (last) return [{ offset: endOfLine(text, last.end), length: 0, content: eol + content }];
    if (!parent) return [{ offset: text.length, length: 0, content: (text === '' || /[\r\n\ufeff]$/.test(text) ? '' : eol) + content + eol }];
    const brace = text.indexOf('{', parent.start) + 1;
    return [{ offset: brace, length: 0, content: eol + content + (/^[ \t]*[\r\n]/.test(text.slice(brace)) ? '' : `${eol}${outer}`) }];
  },
  remove: (text, _parents, node) => wholeLine(text, node.start, node.end),
};

/** A comment behind a value stays on its line. */
const endOfLine = (text: string, at: number): number => at + (/^[ \t]*(?:(?:\/\/|#)[^\r\n]*)?(?=[\r\n]|$)/.exec(text.slice(at, at + 2000))?.[0].length ?? 0);
