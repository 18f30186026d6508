import { NameCounter, lineEndOf, linesOf, wholeLine, type SettingsNode, type TreeForm } from './tree';

/** A new line after the last one that has a key, at the first column. */
function append(text: string, nodes: readonly SettingsNode[], line: string) {
  const eol = lineEndOf(text);
  const last = nodes.at(-1);
  if (!last)
    return [
      {
        offset: text.length,
        length: 0,
        content: `${text === '' || /[\r\n\ufeff]$/.test(text) ? '' : eol}${line}${eol}`,
      },
    ];
  const end = last.end + (/^[^\r\n]*/.exec(text.slice(last.end))?.[0].length ?? 0);
  return [{ offset: end, length: 0, content: `${eol}${line}` }];
}

const escape = (value: string): string =>
  value.replace(/["\\]/g, '\\$&').replaceAll('\n', '\\n').replaceAll('\t', '\\t');
const unescape = (raw: string): string =>
  raw.replace(/\\(.)/g, (_, one: string) => (one === 'n' ? '\n' : one === 't' ? '\t' : one));

/** Files with a key and its value in each line. */
interface LineWords {
  /** Indent, key, what stands between, value. */
  entry: RegExp;
  /** Lines without a key that belong to the form. */
  other: RegExp;
  /** A key that can be written; none ends in a blank, or in `#` and a number. */
  key: RegExp;
  /** What stands between where the file has no line to go by. */
  between: string;
  behind: string;
  read(raw: string): string;
  /** `undefined` for a value that no line can hold. */
  write(value: string): string | undefined;
}

function keyInEachLine({ entry, other, key: fits, between, behind, read, write }: LineWords): TreeForm {
  return {
    sameCase: true,
    parse: (text) => {
      const nodes: SettingsNode[] = [];
      const names = new NameCounter();
      let whole = true;
      for (const { start, end, line } of linesOf(text)) {
        const found = entry.exec(line);
        if (!found) whole &&= other.test(line);
        if (!found || other.test(line)) continue;
        const [, indent = '', key = '', gap = '', raw = ''] = found;
        const from = start + indent.length + key.length + gap.length;
        nodes.push({
          name: names.of(key),
          start,
          end,
          value: { start: from, end: from + raw.length, text: read(raw) },
          children: [],
        });
      }
      return { nodes, whole };
    },
    write,
    insert: ({ text, nodes, found, rest, value }) => {
      const [key = '', ...more] = rest;
      const written = write(value);
      if (
        found.length > 0 ||
        more.length > 0 ||
        written === undefined ||
        !fits.test(key) ||
        key !== key.trim() ||
        /#\d+$/.test(key)
      )
        return undefined;
      const last = nodes.at(-1);
      const like = last ? entry.exec(text.slice(last.start, last.end)) : undefined;
      return append(text, nodes, `${like?.[1] ?? ''}${key}${like?.[3] ?? between}${written}${behind}`);
    },
    remove: (text, _parents, node) => wholeLine(text, node.start, node.end),
  };
}

/**
 * Language files: `key: "text"` or `key:0 "text"`, a line each, comments after `#`. Lines of another form are kept and
 * say nothing.
 */
export const languageForm = keyInEachLine({
  entry: /^([ \t]*)([^\s:#"][^:#"]*?)([ \t]*:\d*[ \t]*")((?:[^"\\]|\\.)*)"[ \t]*(?:#.*)?$/,
  // A head such as `english:` stands above the keys.
  other: /^\s*(#.*|[\w-]+:\s*)?$/,
  key: /^[^\s:#"][^:#"\r\n]*$/,
  between: ': "',
  behind: '"',
  read: unescape,
  write: (value) => (value.includes('\r') ? undefined : escape(value)),
});

/**
 * A name and its value with a colon between, a line each, as in `java.util.Properties` (its documentation, `load`),
 * comments after `#` or `!`.
 */
export const colonsForm = keyInEachLine({
  entry: /^([ \t]*)([^\s:#=][^:#=]*?)([ \t]*:[ \t]*)(.*?)[ \t]*$/,
  other: /^[ \t]*([#!]|$)/,
  key: /^[^\s:#=!][^:#=\r\n]*$/,
  between: ':',
  behind: '',
  read: (raw) => raw,
  write: (value) => (/[\r\n]/.test(value) || value !== value.trim() ? undefined : value),
});

/** A name in each line, and nothing else: blanks in it are a part of it. Comments after `#`, `;` or `//`. */
export const namesForm = keyInEachLine({
  entry: /^([ \t]*)(\S.*?)()()[ \t]*$/,
  other: /^[ \t]*(#|;|\/\/|$)/,
  key: /^(?!\/\/)[^\s#;][^\r\n]*$/,
  between: '',
  behind: '',
  read: () => '',
  write: (value) => (value === '' ? '' : undefined),
});

/** A word; a sign before it says that a thing is on; `narrow/rose` is one, too. */
const COMMAND_WORD = /\*?[\p{L}_+-][\p{L}\p{N}_+.-]*(?:[\\/][\p{L}\p{N}_+.-]+)*/u.source;
const COMMAND = new RegExp(`^([ \\t]*)(${COMMAND_WORD})([ \\t]+)?(.*?)[ \\t]*$`, 'u');
/** Commands whose first word after them says what they are about: `set fov 80`, `bind F5 "save"`. */
const NAMING = /^(?:[a-z]?set[a-z]?|(?:un)?bind(?:key)?|alias|cvar)$/i;

/** Can a line say these words and this value? */
const canStand = (words: readonly string[], value: string): boolean =>
  words.length > 0 &&
  words.length <= 2 &&
  !/[\r\n]/.test(value) &&
  value === value.trim() &&
  words.every((word) => /^[^\s]+$/.test(word)) &&
  ONE_WORD.test(words[0] ?? '');
const ONE_WORD = new RegExp(`^${COMMAND_WORD}$`, 'u');

const ITEM = /^[\p{L}_][\p{L}\p{N}_.-]*$/u;
const SWITCH = /^(?:on|off|true|false|yes|no)$/i;

/** Commands that stand there several times, each time with another name, become one that holds the names. */
function gatherLists(nodes: readonly SettingsNode[]): SettingsNode[] {
  const byName = new Map<string, SettingsNode[]>();
  for (const node of nodes) {
    const same = byName.get(node.name);
    if (same) same.push(node);
    else byName.set(node.name, [node]);
  }
  const isList = (some: readonly SettingsNode[]) => {
    const values = some.map(({ value, children }) => (children.length > 0 ? '' : (value?.text ?? '')));
    return (
      some.length > 1 &&
      values.every((value) => ITEM.test(value) && !SWITCH.test(value)) &&
      new Set(values).size === values.length
    );
  };
  return [...byName.values()].flatMap((some) => {
    const [first] = some;
    if (!first || !isList(some)) return some;
    const children = some.map(({ start, end, value }): SettingsNode => {
      const to = value?.end ?? end;
      return { name: value?.text ?? '', start, end, value: { start: to, end: to, text: '' }, children: [] };
    });
    return [{ name: first.name, start: first.start, end: some.at(-1)?.end ?? first.end, children }];
  });
}

/** Lines of one command that are a list already. */
const areNames = (command: SettingsNode | undefined): boolean => (command?.children.length ?? 0) > 0;

/** A second command of a name makes a list of both. */
const isSecond = (command: SettingsNode | undefined, rest: readonly string[], value: string): boolean =>
  value === '' && ITEM.test(command?.value?.text ?? '') && rest.length === 1 && ITEM.test(rest[0] ?? '');

/** Commands line by line; those that name something lie in groups. */
class Commands {
  readonly nodes: SettingsNode[] = [];
  private readonly groups = new Map<string, SettingsNode>();

  /** @returns false where a line is no command */
  take({ start, end, line }: { start: number; end: number; line: string }): boolean {
    const found = COMMAND.exec(line);
    if (!found) return false;
    const [, indent = '', command = '', gap = '', rest = ''] = found;
    const at = start + indent.length + command.length + gap.length;
    const leaf = (name: string, from: number, text: string): SettingsNode => ({
      name,
      start,
      end,
      value: { start: from, end: from + text.length, text },
      children: [],
    });
    if (!NAMING.test(command)) {
      this.nodes.push(leaf(command, at, rest));
      return true;
    }
    // One that names nothing says nothing.
    const [, name, space = '', value = ''] = /^(\S+)([ \t]*)(.*)$/.exec(rest) ?? [];
    if (name === undefined) return true;
    const group = this.groupOf(command, start);
    group.end = end;
    group.children.push(leaf(name, at + name.length + space.length, value));
    return true;
  }

  private groupOf(command: string, start: number): SettingsNode {
    const key = command.toLowerCase();
    const known = this.groups.get(key);
    if (known) return known;
    const group: SettingsNode = { name: command, start, end: start, children: [] };
    this.groups.set(key, group);
    this.nodes.push(group);
    return group;
  }
}

/**
 * Command scripts, a command a line, comments after `//`, `#` or `;`. `set fov 80` is `set › fov` with the value `80`,
 * `bind F5 "save"` is `bind › F5`; any other command is itself the key. A command given twice counts by its last line,
 * but where each of its lines has another name (`load heron`, `load tern`) they are a list: `load › heron`, without a
 * value.
 */
export const commandsForm: TreeForm = {
  parse: (text) => {
    const reading = new Commands();
    let whole = true;
    for (const one of linesOf(text)) {
      if (/^[ \t]*(\/\/|#|;|$)/.test(one.line)) continue;
      if (!reading.take(one)) whole = false;
    }
    return { nodes: gatherLists(reading.nodes), whole };
  },
  write: (value, node, text) =>
    /[\r\n]/.test(value) || value !== value.trim()
      ? undefined
      : node.value?.start === node.value?.end && value !== '' && !/[ \t]/.test(text[(node.value?.start ?? 0) - 1] ?? '')
        ? ` ${value}`
        : value,
  insert: ({ text, nodes, found, rest, value }) => {
    const words = [...found.map(({ name }) => name), ...rest];
    const isNaming = NAMING.test(words[0] ?? '');
    const isList = !isNaming && (areNames(found[0]) || isSecond(found[0], rest, value));
    if (!canStand(words, value) || (words.length === 2) !== (isList || isNaming)) return undefined;
    const all = isList ? found.slice(0, 1) : nodes;
    const last = all.length === 0 ? [] : [all.reduce((a, b) => (b.end > a.end ? b : a))];
    return append(text, last, [...words, ...(value === '' ? [] : [value])].join(' '));
  },
  remove: (text, _parents, node) => {
    // A group stands for many lines that need not lie together.
    if (node.children.length > 0) return node.children.flatMap(({ start, end }) => wholeLine(text, start, end));
    return wholeLine(text, node.start, node.end);
  },
};
