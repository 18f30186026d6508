import { nameKey } from '../paths/paths';
import type { IdKind } from '../names/ids';

/** What an id is called, and where that is written. */
export interface IdName {
  id: string;
  title: string;
  target: string;
  line: number;
}

/** In so many lines of a text names are looked for. */
const MOST_LINES = 20_000;
/** Of so many ids names are kept. */
const MOST_NAMES = 500;
/** So many lines around an id belong to the same record. */
const RECORD = 3;

const WORD = /[\p{L}\p{N}][\p{L}\p{N}._-]*/gu;
const QUOTED = /"([^"\n]{1,120})"|'([^'\n]{1,120})'/g;
const NAMING = /\b(?:name|title|label|titel|nombre|nom|caption)\b["']?\s*[:=>]\s*["']?([^"'<>,;|\n]{2,80})/iu;

/**
 * What the names that stand for things are called, by the game's own texts: a table, a list, a library. The name stands
 * in the line of the id, or in the same record beside a key that says so. A line with two ids names none of them.
 *
 * @param texts small texts of the game, by target
 */
export function namesOfIds(texts: ReadonlyMap<string, string>, ids: readonly IdKind[]): Map<string, IdName> {
  const spelled = new Map(ids.flatMap(({ names }) => [...names]));
  const found = new Map<string, IdName>();
  if (spelled.size === 0) return found;
  for (const [target, text] of texts) {
    const lines = text.split(/\r\n|\n|\r/, MOST_LINES);
    const held = lines.map((line) => [
      ...new Set([...line.matchAll(WORD)].map(([word]) => nameKey(word)).filter((word) => spelled.has(word))),
    ]);
    held.forEach(([id, other], at) => {
      if (id === undefined || other !== undefined || found.has(id) || found.size >= MOST_NAMES) return;
      const title = titleIn(lines[at] as string, id) ?? titleAround(lines, held, at);
      if (title !== undefined) found.set(id, { id: spelled.get(id) as string, title, target, line: at + 1 });
    });
  }
  return found;
}

/** The name in the line of the id: beside a key that says so, else the longest words that are not the id. */
function titleIn(line: string, id: string): string | undefined {
  const named = NAMING.exec(line)?.[1]?.trim();
  if (named !== undefined && isTitle(named, id)) return named;
  const quoted = [...line.matchAll(QUOTED)].map((one) => (one[1] ?? one[2] ?? '').trim());
  const cells = line.split(/[,;|\t=:]/).map((cell) => cell.trim().replace(/^["']|["']$/g, ''));
  return [...quoted, ...(quoted.length > 1 ? [] : cells)]
    .filter((one) => isTitle(one, id))
    .sort((a, b) => b.length - a.length)[0];
}

/** The name in the lines around, as far as no other id stands there. */
function titleAround(lines: readonly string[], held: readonly string[][], at: number): string | undefined {
  for (const way of [1, -1])
    for (let step = way; Math.abs(step) <= RECORD; step += way) {
      const line = lines[at + step];
      if (line === undefined || (held[at + step] ?? []).length > 0 || line.trim() === '') break;
      const named = NAMING.exec(line)?.[1]?.trim();
      if (named !== undefined && isTitle(named, '')) return named;
    }
  return undefined;
}

/** Words, no path and no number: two letters in a row at least, and not the id. */
const isTitle = (text: string, id: string): boolean =>
  text.length >= 3 &&
  text.length <= 80 &&
  /\p{L}{3}/u.test(text) &&
  !/[\\/{}[\]<>=]/.test(text) &&
  (id === '' || !nameKey(text).includes(id));
