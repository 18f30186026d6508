/** One word of a launch line, with its place. */
export interface LaunchToken {
  /** Without quotes. */
  text: string;
  start: number;
  end: number;
}

/** The words of a launch line: blanks part them, quotes hold them together. What is quoted wrongly goes to the end. */
export function launchTokens(line: string): LaunchToken[] {
  return [...line.matchAll(/(?:[^\s"]|"[^"]*(?:"|$))+/g)].map((found) => ({
    text: found[0].replaceAll('"', ''),
    start: found.index,
    end: found.index + found[0].length,
  }));
}

/** An option with the words that belong to it: those up to the next option. */
export interface LaunchOption {
  name: string;
  values: string[];
  start: number;
  end: number;
}

const isOption = (text: string): boolean => /^(--?|\+)[A-Za-z]/.test(text);

/** The options of a launch line in order; words before the first option stand alone. `-key=value` has one value. */
export function launchOptions(line: string): LaunchOption[] {
  const found: LaunchOption[] = [];
  for (const { text, start, end } of launchTokens(line)) {
    const last = found.at(-1);
    if (last && !isOption(text) && isOption(last.name) && !last.name.includes('=')) {
      last.values.push(text);
      last.end = end;
    } else found.push({ name: text, values: [], start, end });
  }
  return found.map((one) => {
    const cut = isOption(one.name) ? one.name.indexOf('=') : -1;
    return cut < 0 ? one : { ...one, name: one.name.slice(0, cut), values: [one.name.slice(cut + 1)] };
  });
}

const written = (word: string): string => (/\s/.test(word) ? `"${word}"` : word);

/**
 * The line with one more option behind the others, which stay as they were. One that is there gets the new value.
 *
 * @example withOption('-windowed', '-exec', 'mine.cfg') // '-windowed -exec mine.cfg'
 */
export function withOption(line: string, name: string, value?: string): string {
  const content = value === undefined || value === '' ? name : `${name} ${written(value)}`;
  const known = launchOptions(line).find((one) => one.name.toLowerCase() === name.toLowerCase());
  if (known)
    return known.values.join(' ') === (value ?? '')
      ? line
      : line.slice(0, known.start) + content + line.slice(known.end);
  return line.trim() === '' ? content : `${line}${/\s$/.test(line) ? '' : ' '}${content}`;
}

/** The line without an option and its value; the others stay as they were. */
export function withoutOption(line: string, name: string): string {
  const known = launchOptions(line).find((one) => one.name.toLowerCase() === name.toLowerCase());
  if (!known) return line;
  const before = line.slice(0, known.start);
  const after = line.slice(known.end);
  return after === '' ? before.trimEnd() : before + after.trimStart();
}
