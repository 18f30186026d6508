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
