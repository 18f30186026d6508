import { NameCounter, lineEndOf, linesOf, wholeLine, type SettingsNode, type TreeForm } from './tree';

const NAME = /^([ \t]*)([+-])?([ \t]*)(\S.*?)[ \t]*$/;
const CODE = /^[ \t]*[0-9A-Fa-f]{4,16}([ \t]+[0-9A-Fa-f]{2,16})*[ \t]*$/;
const COMMENT = /^[ \t]*([#;].*)?$/;
const LINES = 'lines';

const isSigned = (line: string): boolean => /^[ \t]*[+-][ \t]*\S/.test(line) && !CODE.test(line);

type Line = { start: number; end: number; line: string };

/** One more line of numbers for a block. */
function addCodes(block: SettingsNode, { start, end, line }: Line): void {
  const codes = block.children[0];
  if (codes?.value) {
    codes.value = { start: codes.value.start, end, text: `${codes.value.text}\n${line.trim()}` };
    codes.end = end;
  } else block.children.push({ name: LINES, start, end, value: { start, end, text: line.trim() }, children: [] });
  block.end = end;
}

/** A block that begins with a line: one with a sign, or one above numbers. */
function blockAt({ start, end, line }: Line, next: string | undefined, names: NameCounter): SettingsNode | undefined {
  const begins = isSigned(line) || (next !== undefined && CODE.test(next) && !CODE.test(line));
  const found = begins ? NAME.exec(line) : null;
  if (!found) return undefined;
  const [, indent = '', sign = '', , name = ''] = found;
  const at = start + indent.length;
  const value = { start: at, end: at + sign.length, text: sign === '-' ? 'off' : 'on' };
  return { name: names.of(name), start, end, value, children: [] };
}

/** A value as lines of numbers; undefined where it is none. */
const codesIn = (value: string, eol: string): string | undefined =>
  value.split('\n').every((line) => CODE.test(line)) ? value.split('\n').join(eol) : undefined;

const canBeName = (name: string): boolean =>
  name !== '' &&
  name === name.trim() &&
  !/[\r\n]/.test(name) &&
  !/^[+\-#;]/.test(name) &&
  !/#\d+$/.test(name) &&
  !CODE.test(name);

/** A block that is on or off, or one with its numbers below it. */
function newBlock(name: string, below: string | undefined, value: string, eol: string): string | undefined {
  if (below === undefined)
    return value === 'on' || value === 'off' ? `${value === 'on' ? '+' : '-'} ${name}` : undefined;
  const codes = below === LINES ? codesIn(value, eol) : undefined;
  return codes === undefined ? undefined : `+ ${name}${eol}${codes}`;
}

/**
 * Code blocks: a name line, and lines of hexadecimal numbers below it. `+` before the name says that the block is on,
 * `-` that it is off; a name without a sign counts as on. `Wide view` has the value `on` or `off`, `Wide view › lines`
 * its numbers.
 */
export const codesForm: TreeForm = {
  sameCase: true,
  parse: (text) => {
    const nodes: SettingsNode[] = [];
    const names = new NameCounter();
    const all = [...linesOf(text)];
    let whole = true;
    let open: SettingsNode | undefined;
    for (const [i, { start, end, line }] of all.entries()) {
      if (open && CODE.test(line)) {
        addCodes(open, { start, end, line });
        continue;
      }
      open = COMMENT.test(line) ? undefined : blockAt({ start, end, line }, all[i + 1]?.line, names);
      if (open) nodes.push(open);
      else if (!COMMENT.test(line)) whole = false;
    }
    return { nodes, whole };
  },
  write: (value, node, text) => {
    if (node.name !== LINES) {
      if (value !== 'on' && value !== 'off') return undefined;
      return `${value === 'on' ? '+' : '-'}${node.value?.start === node.value?.end ? ' ' : ''}`;
    }
    return codesIn(value, lineEndOf(text));
  },
  insert: ({ text, nodes, found, rest, value }) => {
    const eol = lineEndOf(text);
    const [name = '', below] = rest;
    const [block] = found;
    if (block) {
      const lines = rest.length === 1 && name === LINES && !block.children[0] ? codesIn(value, eol) : undefined;
      return lines === undefined ? undefined : [{ offset: block.end, length: 0, content: eol + lines }];
    }
    const content = rest.length > 2 || !canBeName(name) ? undefined : newBlock(name, below, value, eol);
    if (content === undefined) return undefined;
    const last = nodes.at(-1);
    if (last) return [{ offset: last.end, length: 0, content: eol + eol + content }];
    const gap = text === '' || text === '\ufeff' || /[\r\n]$/.test(text) ? '' : eol;
    return [{ offset: text.length, length: 0, content: `${gap}${content}${eol}` }];
  },
  remove: (text, _parents, node) => wholeLine(text, node.start, node.end),
};
