import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import type { Statement } from '../games/statement';
import type { TargetPath } from '../paths/paths';
import type { Placement } from '../placed/placement';
import type { Dialect } from '../settings/dialects';
import type { SettingsDocument } from '../settings/document';

/** A setting that a pack asks for, with the place where it belongs. Lists: the whole new value. */
export type SettingProposal =
  | { kind: 'key'; file: TargetPath; path: string[]; value: string; line: number; now?: string }
  | {
      kind: 'numbered section';
      file: TargetPath;
      section: string;
      keys: { key: string; value: string }[];
      line: number;
    }
  | { kind: 'launch option'; option: string; line: number };

export interface SettingsInput {
  card: GameCard;
  statements?: readonly Statement[];
  documents: readonly { target: TargetPath; document: SettingsDocument }[];
  readMe?: { path: string; text: string };
  entries?: readonly PackEntry[];
  placement?: Placement;
}

/**
 * What is put in where a proposal has no value: “otter” in “mods” of a file of blocks, else a line.
 *
 * @param path of the name, as in the proposal
 */
export const nameAsked = (path: readonly string[], dialect: Dialect | undefined): string =>
  dialect === 'blocks' && path.length > 1
    ? `“${path.at(-1) ?? ''}” in “${path.slice(0, -1).join(' › ')}”`
    : `the line “${path.join(' ')}”`;

/** A key that a read-me asks for, as far as it counts for what belongs together. */
interface AskedKey {
  file: string;
  path: readonly string[];
  line: number;
  now?: string | undefined;
}

/**
 * What a read-me asks for, with the new keys of one thing together: an element's attributes, an object's members. What
 * stands alone is a group by itself.
 */
export function asThings<One extends AskedKey>(asked: readonly One[]): [One, ...One[]][] {
  const groups: [One, ...One[]][] = [];
  const thingOf = ({ file, path, line }: AskedKey) => [file, line, ...path.slice(0, -1)].join('\n');
  const isNew = ({ path, now }: AskedKey) => now === undefined && /(?:#\d+|^\d+)$/.test(path.at(-2) ?? '');
  for (const one of asked) {
    const before = groups.at(-1);
    if (before && isNew(one) && isNew(before[0]) && thingOf(one) === thingOf(before[0])) before.push(one);
    else groups.push([one]);
  }
  return groups;
}

/** What several new keys of one thing are called: “one more “ship” in “ships””. */
export function thingAsked(path: readonly string[]): string {
  const [name = '', above] = [path.at(-2), path.at(-3)];
  const element = /^(.*)#\d+$/.exec(name)?.[1];
  const where = above === undefined ? '' : ` in “${above}”`;
  return `one more ${element === undefined ? 'entry' : `“${element}”`}${where}`;
}
