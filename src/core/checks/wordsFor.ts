import type { GameCard } from '../games/card';
import { shownPlace } from '../paths/search';
import type { NearKind } from './nearest';
import type { TroubleKind, TroubleOf } from './trouble';

/** How packs and places are called. */
export interface Names {
  /** A target or a folder as people read it. */
  shown(target: string): string;
  /** What a layer is called. */
  nameOf(layer: string): string;
}

/** Names of a game's places, and of what is known of layers. */
export const namesIn = ({ roots }: Pick<GameCard, 'roots'>, nameOf: Names['nameOf'] = (layer) => layer): Names => ({
  shown: (target) => shownPlace(target, roots),
  nameOf,
});

export interface Sentences {
  title: string;
  /** What was seen, where. */
  evidence: string;
  cause: string;
}

/** What each of some kinds of trouble says. */
export type WordsFor<Kinds extends TroubleKind> = {
  [Kind in Kinds]: (trouble: TroubleOf<Kind>, names: Names) => Sentences;
};

/** The first of some names, in quotes. */
export const list = (names: readonly string[], most = 3): string =>
  `${names
    .slice(0, most)
    .map((name) => `“${name}”`)
    .join(', ')}${names.length > most ? ` and ${names.length - most} more` : ''}`;

/** How a near file differs, as part of a sentence. */
export const NEAR_SAYS: { [Kind in NearKind]: string } = {
  case: 'other capitals',
  'hidden extension': 'a second extension that may be hidden',
  'one level off': 'one folder level off',
  extension: 'another extension',
  spelling: 'spelled a little differently',
  folder: 'the same name in another folder',
};
