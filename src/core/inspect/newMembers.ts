import { bareKey } from './keyIndex';
import type { ReadSoFar } from './readSoFar';
import { isNumber, isSwitch, type Token } from './settingsWords';

/** A line belongs to what a sentence so many lines above says that it comes into. */
const MOST_LINES_BELOW = 8;

const NAME = /^[\p{L}_][\p{L}\p{N}_.-]{1,60}$/u;
const kindOf = (value: string) => (isSwitch(value) ? 'switch' : isNumber(value) ? 'number' : 'text');

/** Notes which block of its one file a sentence says that something comes into: “add this to "plugins"”. */
export function blockNamed(tokens: readonly Token[], line: number, known: ReadSoFar): void {
  const names = new Set(tokens.flatMap(({ text, section }) => (section ? [] : [bareKey(text)])));
  const [only, other] = [...names].flatMap((name) => blocksCalled(name, known));
  if (only && !other) known.within = { path: only, line };
}

/** `"seals": true` in a sentence that says which block it comes into, or alone behind it. */
export function newMembers(tokens: readonly Token[], sentence: string, line: number, known: ReadSoFar): void {
  const [, name, value = ''] =
    /^[`\s]*"?([\p{L}_][\p{L}\p{N}_.-]{0,60})"?:\s+("[^"]{0,120}"|[^\s"`]{0,79}[^\s"`.!?,;])[`\s]*$/u.exec(sentence) ??
    [];
  if (name !== undefined) newMember(name, value, line, known);
  if (known.within?.line !== line) return;
  tokens.forEach(({ text, quoted }, i) => {
    const value = tokens[i + 1];
    if (quoted && value?.colon) newMember(text, value.text, line, known);
  });
}

/**
 * A key with its value, new in the block that was spoken of.
 *
 * @returns whether it is one
 */
export function newMember(name: string, value: string, line: number, known: ReadSoFar): boolean {
  const { within, onlyFile } = known;
  if (!within || !onlyFile || line - within.line > MOST_LINES_BELOW || line < within.line) return false;
  if (!NAME.test(name) || value === '' || onlyFile.document.get([...within.path, name]) !== undefined) return false;
  // “A: Sure.” is none of numbers and switches.
  const beside = onlyFile.document
    .entries()
    .filter(({ path }) => path.slice(0, -1).join('\n') === within.path.join('\n'));
  if (!beside.every((one) => kindOf(one.value) === kindOf(value))) return false;
  known.found.push({ kind: 'key', file: onlyFile.target, path: [...within.path, name], value, line });
  return true;
}

/** The blocks of the one file spoken of that are called so, by their paths; no lists. */
function blocksCalled(name: string, { onlyFile }: ReadSoFar): string[][] {
  const found = new Map<string, string[]>();
  for (const { path } of onlyFile?.document.entries() ?? []) {
    const above = path.slice(0, -1);
    if (above.length === 0 || bareKey(above.at(-1) as string) !== bareKey(name)) continue;
    if (/^(?:\d+|@.*|.*#\d+)$/.test(path.at(-1) as string)) return [];
    found.set(above.join('\n'), above);
  }
  return [...found.values()];
}
