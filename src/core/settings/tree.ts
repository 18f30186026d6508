import { SatchelError } from '../errors';
import { once } from '../once';
import { applyEdits, type SettingsDocument, type SettingsEntry, type SettingsPath, type TextEdit } from './document';

/** Something named in a document: a value, or a container of others, with its places in the text. */
export interface SettingsNode {
  /** As it stands in paths; of equal names in one container the second is `name#2`. */
  name: string;
  /** All that goes when it is removed. */
  start: number;
  end: number;
  /** Where its value stands, and what it says. */
  value?: { start: number; end: number; text: string };
  children: SettingsNode[];
}

/** A value that is to stand where none is yet. */
export interface Insertion {
  text: string;
  /** What stands at the top. */
  nodes: SettingsNode[];
  /** The containers of its path that are there, the outermost first. */
  found: SettingsNode[];
  /** Names of its path that are not there. */
  rest: readonly string[];
  value: string;
}

/** Lines at the end of a text, which ends its own last line first. */
export function appendLines(text: string, lines: string): TextEdit {
  const eol = lineEndOf(text);
  const before = text === '' || /[\r\n\ufeff]$/.test(text) ? '' : eol;
  return { offset: text.length, length: 0, content: before + lines + eol };
}

/** What a form of settings file has to know; everything else is the same for all. */
export interface TreeForm {
  /**
   * Finds what is named. Never throws: what cannot be read belongs to no node.
   *
   * @returns what stands at the top, and whether all of it could be read
   */
  parse(text: string): { nodes: SettingsNode[]; whole: boolean };
  /** The value as it is written in place of `node`'s. Undefined where the form cannot hold it. */
  write(value: string, node: SettingsNode, text: string): string | undefined;
  /** A new value, and the containers above it that are not there yet. Undefined where that is not possible. */
  insert(wanted: Insertion): TextEdit[] | undefined;
  /** What goes with a node besides its own text, for instance a comma. */
  remove?(text: string, parents: SettingsNode[], node: SettingsNode): TextEdit[];
  /** Do names differ by case? */
  sameCase?: boolean;
}

/** The last node of each name in one container: files with half a million keys in one exist. */
class NameIndex {
  readonly exact: () => ReadonlyMap<string, SettingsNode>;
  readonly folded: () => ReadonlyMap<string, SettingsNode>;

  constructor(nodes: readonly SettingsNode[]) {
    this.exact = once(() => new Map(nodes.map((node) => [node.name, node])));
    this.folded = once(() => new Map(nodes.map((node) => [node.name.toLowerCase(), node])));
  }
}

/** Opens a text in one of the tree forms. */
export function openTree(text: string, form: TreeForm): SettingsDocument {
  const nodes = once(() => form.parse(text).nodes);
  const names = new WeakMap<SettingsNode[], NameIndex>();
  const change = (edits: TextEdit[]): SettingsDocument =>
    edits.length === 0 ? document : openTree(applyEdits(text, edits), form);

  /** The way down to a path, as far as it goes. */
  const walk = (path: SettingsPath): SettingsNode[] => {
    const way: SettingsNode[] = [];
    let level = nodes();
    for (const name of path) {
      const index = names.get(level) ?? new NameIndex(level);
      names.set(level, index);
      const next = index.exact().get(name) ?? (form.sameCase ? undefined : index.folded().get(name.toLowerCase()));
      if (!next) break;
      way.push(next);
      level = next.children;
    }
    return way;
  };
  const find = (path: SettingsPath): SettingsNode | undefined => {
    const way = walk(path);
    return way.length === path.length ? way.at(-1) : undefined;
  };

  const document: SettingsDocument = {
    text,
    get: (path) => find(path)?.value?.text,
    entries: () => listEntries(text, nodes()),
    set: (path, value) => {
      const way = walk(path);
      const node = way.length === path.length ? way.at(-1) : undefined;
      const written = node?.value && form.write(value, node, text);
      const edits = node?.value
        ? written === undefined
          ? undefined
          : [{ offset: node.value.start, length: node.value.end - node.value.start, content: written }]
        : form.insert({ text, nodes: nodes(), found: way, rest: path.slice(way.length), value });
      const refused = () => new SatchelError('bad-value', { value, why: 'this form of file cannot hold it there' });
      if (!edits) throw refused();
      const changed = change(edits);
      // What was set must be what is read, or a key would say something else than was asked for.
      if (changed.get(path) !== value) throw refused();
      return changed;
    },
    remove: (path) => {
      const node = find(path);
      if (!node) return document;
      return change(
        form.remove?.(text, walk(path.slice(0, -1)), node) ?? [
          { offset: node.start, length: node.end - node.start, content: '' },
        ],
      );
    },
  };
  return document;
}

/** All values in the order of the text, with the lines they stand on. Without recursion: a hostile file can be deep. */
function listEntries(text: string, top: readonly SettingsNode[]): SettingsEntry[] {
  // Until the end `line` holds the place in the text: half a million entries are not made twice.
  const found: SettingsEntry[] = [];
  const stack: { nodes: readonly SettingsNode[]; next: number; path: string[] }[] = [{ nodes: top, next: 0, path: [] }];
  let ordered = true;
  for (let level = stack.at(-1); level; level = stack.at(-1)) {
    const node = level.nodes[level.next++];
    if (!node) {
      stack.pop();
      continue;
    }
    const path = [...level.path, node.name];
    if (node.value) {
      ordered &&= node.value.start >= (found.at(-1)?.line ?? 0);
      found.push({ path, value: node.value.text, line: node.value.start });
    }
    if (node.children.length > 0) stack.push({ nodes: node.children, next: 0, path });
  }
  if (!ordered) found.sort((a, b) => a.line - b.line);
  let line = 1;
  let at = 0;
  for (const entry of found) {
    for (; at < entry.line; at++) {
      const code = text.charCodeAt(at);
      if (code === 10 || (code === 13 && text.charCodeAt(at + 1) !== 10)) line++;
    }
    entry.line = line;
  }
  return found;
}

/** Gives equal names in one container their numbers. */
export class NameCounter {
  private readonly seen = new Map<string, number>();

  of(name: string): string {
    const count = (this.seen.get(name) ?? 0) + 1;
    this.seen.set(name, count);
    return count === 1 ? name : `${name}#${count}`;
  }
}

/** The line end a text uses. */
export const lineEndOf = (text: string): string => /\r\n|\n|\r/.exec(text)?.[0] ?? '\n';

/** Is something written over several lines? */
export const hasLines = (text: string, { start, end }: Pick<SettingsNode, 'start' | 'end'>): boolean =>
  /[\r\n]/.test(text.slice(start, end));

/** The blanks at the start of the line that holds an offset. */
export const indentAt = (text: string, offset: number): string => {
  const start = Math.max(text.lastIndexOf('\n', offset - 1), text.lastIndexOf('\r', offset - 1)) + 1;
  return /^[ \t]*/.exec(text.slice(start, offset))?.[0] ?? '';
};

/** The whole line around a node where nothing else stands on it, else only the node. */
export function wholeLine(text: string, start: number, end: number): TextEdit[] {
  let from = start;
  while (from > 0 && /[ \t]/.test(text[from - 1] as string)) from--;
  let to = end;
  while (to < text.length && /[ \t]/.test(text[to] as string)) to++;
  const alone =
    (from === 0 || /[\r\n]/.test(text[from - 1] as string)) &&
    (to === text.length || /[\r\n]/.test(text[to] as string));
  if (!alone) return [{ offset: start, length: end - start, content: '' }];
  if (to < text.length) to += text.startsWith('\r\n', to) ? 2 : 1;
  // A last line without a line end takes the line end before it along.
  else if (from > 0) from -= text.endsWith('\r\n', from) || text.slice(from - 2, from) === '\r\n' ? 2 : 1;
  return [{ offset: from, length: to - from, content: '' }];
}

/** Every line of a text with its places, its line end left out. */
export function* linesOf(text: string): Iterable<{ start: number; end: number; line: string }> {
  const ends = /\r\n|\n|\r/g;
  for (let start = text.startsWith('\ufeff') ? 1 : 0; start <= text.length;) {
    ends.lastIndex = start;
    const found = ends.exec(text);
    const end = found?.index ?? text.length;
    yield { start, end, line: text.slice(start, end) };
    if (!found) return;
    start = ends.lastIndex;
  }
}
