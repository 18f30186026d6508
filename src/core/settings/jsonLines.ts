import type { TextEdit } from './document';
import type { SettingsNode } from './tree';

/** Where something new comes to stand, and how it is written there. */
interface Behind {
  text: string;
  /** The last member of the object or list. */
  last: SettingsNode;
  /** How far one level is indented, and how lines end. */
  unit: string;
  eol: string;
}

/** Blanks and line ends that stand before a member; of blank lines one line end is enough. */
const gapBefore = (text: string, start: number): string => {
  const gap = /\s*$/.exec(text.slice(0, start))?.[0] ?? '';
  return /(?:\r\n|\n|\r)[^\r\n]*$/.exec(gap)?.[0] ?? (gap === '' ? ' ' : gap);
};

/** A key with its value, inside of the objects above it that are not there yet. */
function memberOf(names: readonly string[], raw: string, { text, last, unit, eol }: Behind): string {
  const indent = /[^\r\n]*$/.exec(gapBefore(text, last.start))?.[0] ?? '';
  const sign = /^"(?:[^"\\]|\\.)*"(\s*:[ \t]*)/.exec(text.slice(last.start, last.end))?.[1] ?? ': ';
  const write = ([name = '', ...inner]: readonly string[], depth: number): string => {
    const key = JSON.stringify(name) + sign;
    if (inner.length === 0) return key + raw;
    const [at, below] = [depth, depth + 1].map((levels) => eol + indent + unit.repeat(levels));
    return `${key}{${below ?? ''}${write(inner, depth + 1)}${at ?? ''}}`;
  };
  return write(names, 0);
}

/**
 * One more member behind the last one, written as that is; nothing else is touched.
 *
 * @param names the keys from the object on; none for a list
 * @param raw the value as it is written
 */
export function behindLast(names: readonly string[], raw: string, behind: Behind): TextEdit[] {
  const { text, last } = behind;
  const member = names.length === 0 ? raw : memberOf(names, raw, behind);
  const gap = gapBefore(text, last.start);
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
