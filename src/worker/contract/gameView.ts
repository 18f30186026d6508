import type { Guide, LedgerEntry, OrderRule, Pick, TargetPath } from '@/core';
import type { PackView } from './bringIn';
import type { CheckView } from './check';
import type { PlanView } from './deploy';
import type { HistoryView } from './history';
import type { SafetyView } from './ledger';
import type { ProposalView, SettingsFileView, BeyondKeys, SwitchView } from './settings';
import type { ElsewhereView, WaitingView } from './setUps';
import type { MergeView } from './stack';

export interface GameView {
  id: string;
  title: string;
  demo: boolean;
  roots: {
    id: string;
    title: string;
    files: number;
    where: string;
    /** Why it lies elsewhere. */ why: string | undefined;
  }[];
  /** The folders that the app's own server opens, for games that lie in such, and where their originals go. */
  bridged: { folders: string[]; backup: string } | undefined;
  packs: PackView[];
  guide: Guide;
  /** `covered` are packs in use of which nothing is in the game, since others lie over every file of theirs. */
  deployed: { packs: number; covered: number; files: number; originals: number; edits: number };
  plan: PlanView;
  stack: {
    order: (OrderRule & { lowerName: string; upperName: string })[];
    picks: (Pick & { name: string })[];
    merges: MergeView[];
    /** Targets where layers want different things. */
    overlapping: number;
    /** What the latest change would do to the game folder, with names of layers. */
    changed: { total: number; some: { target: TargetPath; from: string | undefined; to: string | undefined }[] };
  };
  /** What taking everything out would do. */
  putBack: PlanView;
  switches: SwitchView[];
  settings: SettingsFileView[];
  beyondKeys: BeyondKeys;
  /** What packs' read-mes tell to set and is not so yet. */
  proposals: ProposalView[];
  check: CheckView;
  ledger: LedgerEntry[];
  safety: SafetyView;
  backups: { id: string; name: string; at: number; files: number }[];
  /** Files of the player's own that lie above all packs. */
  own: { target: TargetPath; size: number }[];
  /** Numbers of deployments whose state can be gone back to. */
  states: number[];
  history: HistoryView;
  /** When what was decided was written beside the originals last; undefined: it is in this browser only. */
  keptAt: number | undefined;
  elsewhere: ElsewhereView | undefined;
  waiting: WaitingView[];
}
