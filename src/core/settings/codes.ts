import { NameCounter, lineEndOf, linesOf, wholeLine, type SettingsNode, type TreeForm } from './tree';

const NAME = /^([ \t]*)([+-])?([ \t]*)(\S.*?)[ \t]*$/;
const CODE = /^[ \t]*[0-9A-Fa-f]{4,16}([ \t]+[0-9A-Fa-f]{2,16})*[ \t]*$/;
const COMMENT = /^[ \t]*([#;].*)?$/;
const LINES = 'lines';

const isSigned = (line: string): boolean => /^[ \t]*[+-][ \t]*\S/.test(line) && !CODE.test(line);

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
      if (COMMENT.test(line)) {
        open = undefined;
        continue;
      }
      if (CODE.test(line) && open) {
        const codes = open.children[0];
        if (codes?.value) {
          codes.value = { start: codes.value.start, end, text: `${codes.value.text}\n${line.trim()}` };
          codes.end = end;
        } else open.children.push({ name: LINES, start, end, value: { start, end, text: line.trim() }, children: [] });
        open.end = end;
        continue;
      }
      const next = all[i + 1]?.line;
      const found =
        isSigned(line) || (next !== undefined && CODE.test(next) && !CODE.test(line)) ? NAME.exec(line) : undefined;
      open = undefined;
      if (!found) {
        whole = false;
        continue;
      }
      const [, indent = '', sign = '', , name = ''] = found;
      const at = start + indent.length;
      open = {
        name: names.of(name),
        start,
        end,
        value: { start: at, end: at + sign.length, text: sign === '-' ? 'off' : 'on' },
        children: [],
      };
      nodes.push(open);
    }
    return { nodes, whole };
  },
  write: (value, node, text) => {
    if (node.name !== LINES || !/[\r\n]/.test(value)) {
      if (value === 'on' || value === 'off')
        return node.name === LINES
          ? undefined
          : `${value === 'on' ? '+' : '-'}${node.value?.start === node.value?.end ? ' ' : ''}`;
      if (node.name !== LINES) return undefined;
    }
    return value.split('\n').every((line) => CODE.test(line)) ? value.split('\n').join(lineEndOf(text)) : undefined;
  },
  insert: ({ text, nodes, found, rest, value }) => {
    const eol = lineEndOf(text);
    const [name = '', below] = rest;
    const codes = () => (value.split('\n').every((line) => CODE.test(line)) ? value.split('\n').join(eol) : undefined);
    const block = found[0];
    if (block) {
      const end = block.children[0] ? undefined : block.end;
      const lines = codes();
      return end === undefined || rest.length !== 1 || name !== LINES || lines === undefined
        ? undefined
        : [{ offset: end, length: 0, content: eol + lines }];
    }
    if (
      rest.length > 2 ||
      /[\r\n]/.test(name) ||
      name !== name.trim() ||
      name === '' ||
      /^[+\-#;]/.test(name) ||
      /#\d+$/.test(name) ||
      CODE.test(name)
    )
      return undefined;
    if (below === undefined ? value !== 'on' && value !== 'off' : below !== LINES || codes() === undefined)
      return undefined;
    const content = below === undefined ? `${value === 'on' ? '+' : '-'} ${name}` : `+ ${name}${eol}${codes() ?? ''}`;
    const last = nodes.at(-1);
    const at = last ? last.end : text.length;
    const gap = text === '' || text === '\ufeff' ? '' : last ? eol + eol : /[\r\n]$/.test(text) ? '' : eol;
    return [{ offset: at, length: 0, content: `${gap}${content}${last ? '' : eol}` }];
  },
  remove: (text, _parents, node) => wholeLine(text, node.start, node.end),
};
