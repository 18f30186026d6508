import type { Instruction } from '../inspect/instructions';
import type { TargetPath } from '../paths/paths';
import type { SettingsDocument } from './document';

/** What a game card says of a key's values. */
export interface KeyRule {
  type: 'flag' | 'number' | 'text';
  min?: number | undefined;
  max?: number | undefined;
  options?: readonly string[] | undefined;
}

/**
 * What is wrong with a value, as the end of a sentence; undefined where nothing is.
 *
 * @example checkValue({ type: 'number', min: 60, max: 110 }, '120') // 'it must not be above 110'
 */
export function checkValue({ type, min, max, options }: KeyRule, value: string): string | undefined {
  if (/[\r\n]/.test(value)) return 'it must stand on one line';
  if (options && !options.includes(value)) return `it must be one of ${options.join(', ')}`;
  if (type === 'flag' && !/^(0|1|true|false|yes|no|on|off)$/i.test(value)) return 'it must be on or off: 1 or 0';
  if (type !== 'number') return undefined;
  if (!/^[-+]?(\d+\.?\d*|\.\d+)$/.test(value)) return 'it must be a number';
  if (min !== undefined && Number(value) < min) return `it must not be below ${min}`;
  if (max !== undefined && Number(value) > max) return `it must not be above ${max}`;
  return undefined;
}

/** A setting that a read-me names, with the place where it belongs. */
export interface MatchedSetting {
  file: TargetPath;
  path: string[];
  value: string;
  /** What the file holds now. */
  now: string | undefined;
  /** The line of the read-me. */
  line: number;
}

/**
 * Finds the file and key that lines of a read-me are about: a key that is there under its section, else one of that name in one
 * place only, else a new key in a section that is there. What fits in several places, or in none, is left to the player.
 *
 * @param files the game's settings files, opened
 */
export function matchInstructions(instructions: readonly Instruction[], files: readonly { target: TargetPath; document: SettingsDocument }[]): MatchedSetting[] {
  const same = (a: string | undefined, b: string | undefined) => (a ?? '').toLowerCase() === (b ?? '').toLowerCase();
  const entries = files.flatMap(({ target, document }) => document.entries().map(({ path }) => ({ target, document, path })));
  const sections = files.map(({ target, document }) => ({ target, document, names: new Set(document.entries().flatMap(({ path }) => (path.length === 2 ? [path[0] as string] : []))) }));
  const found: MatchedSetting[] = [];
  for (const one of instructions) {
    if (one.kind !== 'key' && one.kind !== 'attribute') continue;
    const fits = one.kind === 'attribute'
      ? entries.filter(({ path }) => same(path.at(-1), `@${one.attribute}`) && same(path.at(-2)?.replace(/#\d+$/, ''), one.element))
      : entries.filter(({ path }) => same(path.at(-1), one.key) && (one.section === undefined || same(path.at(-2), one.section)));
    const [first, second] = fits;
    if (first && !second) found.push({ file: first.target, path: first.path, value: one.value, now: first.document.get(first.path), line: one.line });
    else if (!first && one.kind === 'key' && one.section !== undefined) {
      const [place, other] = sections.flatMap(({ target, names }) => [...names].filter((name) => same(name, one.section)).map((name) => ({ target, name })));
      if (place && !other) found.push({ file: place.target, path: [place.name, one.key], value: one.value, now: undefined, line: one.line });
    }
  }
  // Said twice counts once, the last time.
  return [...new Map(found.map((proposal) => [`${proposal.file}\n${proposal.path.join('\n')}`, proposal])).values()];
}
