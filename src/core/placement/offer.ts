import type { TargetPath } from '../paths/paths';
import type { Evidence } from './evidence';
import type { PlacementMode } from './modes';

/** A place for a part of a pack, with what spoke for it when it was found. */
export interface Proposed {
  to: TargetPath;
  inside?: string | undefined;
  mode: PlacementMode;
  evidence: Evidence[];
}

/** The same as it is offered: a place that is offered twice has the evidence of both. */
export type Offer = Omit<Proposed, 'evidence' | 'to'> & { to: string; evidence?: readonly Evidence[] };
