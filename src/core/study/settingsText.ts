import type { Dialect } from '../settings/dialects';
import { isWellFormed } from '../settings/openSettings';

/** A text is judged by its first lines. */
const LOOKED_AT = 64 * 1024;

type IsName = (word: string) => boolean;

/**
 * The form of a settings text, recognised by what it says and not by its ending: `.cfg` is one thing here and another
 * there. Undefined for prose, lists of names and what is not text.
 *
 * @param isName is a word the name of something in the game?
 */
export function dialectOf(text: string, isName: IsName = () => false): Dialect | undefined {
  const body = text.replace(/^\ufeff/, '').slice(0, LOOKED_AT);
  const first = body.trimStart()[0];
  if (first === undefined || body.includes('\u0000')) return undefined;
  if (first === '<') return isWellFormed(text, 'xml') ? 'xml' : undefined;
  if (JSON_START.test(body) && isWellFormed(text, 'json')) return 'json';
  const lines = body
    .split(/\r\n|\n|\r/)
    .map((line) => line.trim())
    .filter((line) => line !== '');
  const speaking = lines.filter((line) => !/^(?:;|#|\/\/|--[\s-])/.test(line));
  return speaking.length === 0 ? undefined : dialectOfLines(speaking, { body, text, isName });
}

const JSON_START = /^\s*[{[]\s*(?:["{[\]}]|-?\d|\/\/|\/\*|true|false|null)/;
const LANGUAGE = /^[^\s:#"][^:#"]*:\d*\s*"(?:[^"\\]|\\.)*"|^[\w-]+:$/;

const shareOf = (lines: readonly string[], test: RegExp): number =>
  lines.filter((line) => test.test(line)).length / lines.length;

/** The same of the lines that are no comments. */
function dialectOfLines(
  lines: readonly string[],
  { body, text, isName }: { body: string; text: string; isName: IsName },
): Dialect | undefined {
  const calls = shareOf(lines, /[()]/);
  const closed = shareOf(lines, /[;,]\s*$/) >= 0.5 && calls < 0.1;
  if (!closed && isIni(lines)) return lines.some((line) => /^[^=]+=.*\S\s+[;#]\s/.test(line)) ? 'ini-comments' : 'ini';
  if (shareOf(lines, LANGUAGE) >= 0.85) return 'language';
  if (isYaml(lines) && isWellFormed(text, 'yaml')) return 'yaml';
  if (isColons(lines)) return 'colons';
  const couldBeBlocks = body.includes('{') || (closed && shareOf(lines, /=/) >= 0.8);
  if (couldBeBlocks && calls < 0.1 && isWellFormed(text, 'blocks')) return 'blocks';
  return isCommands(lines, isName) ? 'commands' : undefined;
}

const isIni = (lines: readonly string[]): boolean =>
  shareOf(withoutLists(lines), /^\[[^\]]+\]$|^[^=\s[\]{}<>][^=]{0,80}=.*$/) >= 0.85 &&
  lines.some((line) => line.includes('='));

/** Lines of sections, without those sections that hold nothing but names, one a line: lists of what there is. */
function withoutLists(lines: readonly string[]): readonly string[] {
  const sections: string[][] = [[]];
  for (const line of lines)
    if (/^\[[^\]]+\]$/.test(line)) sections.push([line]);
    else sections.at(-1)?.push(line);
  const kept = sections.filter(([head = '', ...rest]) => {
    const isList =
      head.startsWith('[') && rest.length > 0 && rest.every((line) => /^[\p{L}\p{N}_][^=:{}<>]{0,60}$/u.test(line));
    return !isList;
  });
  return kept.flat();
}

/**
 * A word and its value, line for line, each word once: settings where the file's name says so, else a table of
 * anything.
 */
export function arePairs(text: string): boolean {
  const lines = text
    .replace(/^\ufeff/, '')
    .slice(0, LOOKED_AT)
    .split(/\r\n|\n|\r/)
    .map((line) => line.trim())
    .filter((line) => line !== '' && !/^(?:;|#|\/\/)/.test(line));
  const words = lines.map((line) => /^([A-Za-z_][\w.-]*)\s+(?:"[^"]*"|[^\s"=:]+)$/.exec(line)?.[1]);
  return lines.length >= 2 && words.every((word) => word !== undefined) && new Set(words).size === lines.length;
}

/**
 * Keys with a colon behind them, set in by blanks. Prose with a colon in it has longer lines, and ends them like prose.
 */
function isYaml(lines: readonly string[]): boolean {
  const fits = lines.filter(
    (line) =>
      /^(?:---|\.\.\.|-\s+\S.{0,120}|(?:-\s+)*["']?[\p{L}\p{N}_$][^:#{}[\]]{0,60}["']?:(?:\s+\S.{0,160})?)$/u.test(
        line,
      ) && !/[.!?]$/.test(line.replace(/\d\.\d*$/, '')),
  );
  return (
    fits.length >= lines.length * 0.95 &&
    (lines.filter((line) => /:(?:\s|$)/.test(line)).length >= 2 ||
      (lines.length === 1 && /^[\w.-]+:\s+(?:-?[\d.]+|true|false|on|off|yes|no)$/i.test(lines[0] as string)) ||
      (lines.some((line) => /:$/.test(line)) && lines.some((line) => /^-\s/.test(line))))
  );
}

/** A name, a colon and a value without blanks around it, a line each. */
function isColons(lines: readonly string[]): boolean {
  return (
    lines.length >= 2 &&
    lines.filter((line) => /^[\p{L}_][\p{L}\p{N}_.-]{0,60}:\S{0,200}$/u.test(line)).length >= lines.length * 0.95 &&
    lines.some((line) => /:(?:-?[\d.]+|true|false|on|off|yes|no)$/i.test(line))
  );
}

/** A command a line: a name and its value. Prose has more words, and ends its lines like prose. */
function isCommands(lines: readonly string[], isName: IsName): boolean {
  const commands = lines.filter((line) =>
    /^(?:set[a-z]?\s+|bind\s+|alias\s+)?[A-Za-z_+-][\w.+-]*(?:\s+(?:"[^"]*"|[^\s"]+)){1,3}\s*(?:(?:;|#|\/\/).*)?$/.test(
      line,
    ),
  );
  const plain = lines.filter((line) =>
    /^(?:set[a-z]?|bind|alias)\s|\s(?:-?[\d.]+|"[^"]*"|true|false|on|off|yes|no)\s*(?:(?:;|#|\/\/).*)?$/i.test(line),
  );
  // “drove cattle”, where the game has a `cattle.drv`; alone, such lines tell what a thing is.
  const named = lines.filter((line) => isName(/^\S+\s+([\p{L}_][\p{L}\p{N}_.-]{2,})$/u.exec(line)?.[1] ?? ''));
  // One word with things of the game behind it, line for line, is a list of them.
  const words = new Set(lines.map((line) => line.split(/\s/)[0]));
  const isList = lines.length > 1 && words.size === 1 && named.length === lines.length;
  const values = plain.length + (plain.length > 0 || isList ? named.length : 0);
  const prose = lines.filter((line) => /[.!?,]$/.test(line) || line.split(/\s+/).length > 5);
  // With a sign between them the sign would be taken for a part of the value.
  if (lines.some((line) => /^\S+\s+[=:]/.test(line))) return false;
  return commands.length >= lines.length * 0.85 && values * 2 >= lines.length && prose.length * 5 <= lines.length;
}
