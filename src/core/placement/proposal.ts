import type { Placement } from '../placed/placement';
import type { PlacedPart, Question } from './context';
import type { BaseChoice } from './overTree';

export interface PlacementProposal {
  /** `sure` and `likely` can be used as they are; with `ask` the player has to answer or choose. */
  confidence: 'sure' | 'likely' | 'ask';
  placement: Placement;
  /** How each part of the pack is placed, the largest first. */
  parts: PlacedPart[];
  /** What only the player can decide; open ones make the confidence `ask`. */
  questions: Question[];
  /** Other places for the pack as a whole, best first. */
  choices: BaseChoice[];
}
