import type { TextEdit } from './document';
import { hasLines, type SettingsNode } from './tree';

/** Where something new comes to stand, and how it is written there. */
interface Behind {
  text: string;
  /** The last member of the object or list. */
  last: SettingsNode;
  /** How far one level is indented, and how lines end. */
  unit: string;
  eol: string;
}

const isBlank = (text: string, at: number): boolean => at >= 0 && ' \t\r\n'.includes(text[at] as string);

/** What stands before a member: a line end with its indent, blanks, or nothing where a comma stands there. */
function gapBefore(text: string, start: number): string {
  let from = start;
  while (isBlank(text, from - 1)) from--;
  const gap = text.slice(from, start);
  const lineEnd = Math.max(gap.lastIndexOf('\n'), gap.lastIndexOf('\r'));
  // Of blank lines one line end is enough.
  if (lineEnd >= 0) return gap.slice(gap[lineEnd - 1] === '\r' && gap[lineEnd] === '\n' ? lineEnd - 1 : lineEnd);
  return gap === '' && text[from - 1] !== ',' ? ' ' : gap;
}

/** A key with its value, inside of the objects above it that are not there yet; on a line of its own, or on one. */
function memberOf(names: readonly string[], raw: string, gap: string, { text, last, unit, eol }: Behind): string {
  const sign = /^"(?:[^"\\]|\\.)*"(\s*:[ \t]*)/.exec(text.slice(last.start, last.end))?.[1] ?? ': ';
  const [, indent] = /[\r\n]([^\r\n]*)$/.exec(gap) ?? [];
  const lineAt = (depth: number) => (indent === undefined ? ' ' : eol + indent + unit.repeat(depth));
  const write = ([name = '', ...inner]: readonly string[], depth: number): string => {
    const key = JSON.stringify(name) + sign;
    return inner.length === 0 ? key + raw : `${key}{${lineAt(depth + 1)}${write(inner, depth + 1)}${lineAt(depth)}}`;
  };
  return write(names, 0);
}

/** An object with one member, on one line or several as the one before it is. */
export function objectLike(name: string, raw: string, { text, last, unit, eol }: Behind): string {
  const member = `${JSON.stringify(name)}: ${raw}`;
  if (!hasLines(text, last)) return `{ ${member} }`;
  const indent = /[^\r\n]*$/.exec(gapBefore(text, last.start))?.[0] ?? '';
  return `{${eol}${indent}${unit}${member}${eol}${indent}}`;
}

/**
 * One more member behind the last one, written as that is; nothing else is touched.
 *
 * @param names the keys from the object on; none for a list
 * @param raw the value as it is written
 */
export function behindLast(names: readonly string[], raw: string, behind: Behind): TextEdit[] {
  const { text, last } = behind;
  const gap = gapBefore(text, last.start);
  const member = names.length === 0 ? raw : memberOf(names, raw, gap, behind);
  const comma = /^\s*,/.exec(text.slice(last.end, last.end + 200))?.[0].length ?? 0;
  const end = last.end + comma;
  // A remark behind the last one stays on its line.
  const remark = /[\r\n]/.test(gap)
    ? (/^[ \t]*(?:\/\/[^\r\n]*|\/\*[^\r\n]*?\*\/)/.exec(text.slice(end))?.[0].length ?? 0)
    : 0;
  if (comma > 0) return [{ offset: end + remark, length: 0, content: `${gap}${member},` }];
  if (remark === 0) return [{ offset: end, length: 0, content: `,${gap}${member}` }];
  return [
    { offset: end, length: 0, content: ',' },
    { offset: end + remark, length: 0, content: gap + member },
  ];
}
