import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import type { Statement } from '../games/statement';
import type { TargetPath } from '../paths/paths';
import type { Placement } from '../placed/placement';
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
