import type { OverlapRow, Presence, Relation, RestoreScope, StepAction } from '@/core';
import type { StepRow } from './deploy';
import type { PresentRow } from './ingame';
import type { PlaceRow } from './place';
import type { SettingRow } from './settings';
import type { RelationRow } from './stack';

export type RowsQuery =
  | { view: 'pack'; layer: string; open: string[]; search: string }
  | { view: 'place'; layer: string; open: string[]; search: string }
  | { view: 'plan'; action: StepAction | 'all'; search: string }
  | { view: 'ledger'; number: number; search: string }
  | { view: 'restore'; scope: RestoreScope; search: string }
  /** What differs between the states after two deployments; 0 is before the first. */
  | { view: 'difference'; from: number; to: number; search: string }
  /** The keys of one settings file; of all of them where none is named. */
  | { view: 'settings'; file: string | undefined; search: string }
  /** The overlap picture; `all` also shows what only one layer brings. */
  | { view: 'overlaps'; open: string[]; search: string; all: boolean }
  /** The game's folders as they are; `touched` are all files that are not only the game's own. */
  | { view: 'present'; only: Presence | 'all' | 'touched'; open: string[]; search: string }
  /** What a pack covers, what covers it, and what would come back if it went. */
  | { view: 'relations'; layer: string; relation: Relation; search: string };

export type Row = PlaceRow | StepRow | OverlapRow | RelationRow | SettingRow | PresentRow;

/** A query that is for one view. */
export type QueryOf<View extends RowsQuery['view']> = Extract<RowsQuery, { view: View }>;

export interface RowsQuestions {
  /** A part of the rows that a query asks for, and how many there are. */
  rows(message: { query: RowsQuery; offset: number; limit: number }): { total: number; rows: Row[] };
}
