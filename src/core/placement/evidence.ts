/** Why a candidate is likely, or not: one thing that was seen, as a sentence, and how much it counts. */
export interface Evidence {
  says: string;
  /** Above zero it speaks for the candidate, below against it. */
  weight: number;
  /** What kind of sign it is, where that matters beyond its weight. */
  kind?: EvidenceKind | undefined;
  /** The line of the read-me that says so. */
  line?: number | undefined;
}

export const pointsOf = (evidence: readonly Evidence[]): number =>
  evidence.reduce((sum, { weight }) => sum + weight, 0);

/**
 * How much each kind of evidence counts, at most. The unit is the doubt it takes away: 3 points make one place about
 * twenty times likelier than another. They were set on seeded games (tests/games), never on single cases.
 */
export const WEIGHTS = {
  /** The card was written or confirmed by somebody who knows the game. */
  card: 14,
  /** The card says so of a kind of thing, and it looks like one. */
  cardKind: 7,
  /** A read-me names the very place, and both ends are there. Its author knows where it goes. */
  told: 9,
  /** What a read-me names lies above the place: it says the region, not the folder. */
  toldAbove: 5,
  /** The read-me names another place for these files. */
  toldElsewhere: -6,
  /** A note in the game's own folder says that packs go there. */
  noted: 9,
  /** The player placed packs like this one there: once, and more than once. */
  learntOnce: 5,
  learnt: 10,
  /** The game's log misses exactly this file, there. */
  missed: 9,
  /** Files of the same path; a name that many folders have counts by its share. */
  samePath: 9,
  /** Equal base names without a folder that agrees are half chance. */
  sameName: 0.55,
  /** A folder of the pack is a folder of the game, there. */
  sameFolder: 6,
  /** Its endings are at home in the folder it would land in. */
  atHome: 2,
  /** All files of an ending lie in one folder. */
  ending: 7,
  /** Names have the form of those that are there. */
  form: 1,
  /** It looks like the folders that lie there, and gets a folder of its own. */
  family: 9,
  /** A folder is called like a root or the game. */
  rootName: 7,
  /** Its name is that of a thing and of a file that things of the kind have. */
  named: 7,
  /** The pack's name or its read-me speaks of the thing whose folder it is. */
  spokenOf: 4,
  /** The folder is called like a word of the pack's name. */
  packNames: 2,
  /** A file and a folder of one name lie together, as others do there. */
  pair: 10,
  /** The next one of files that differ only in their number. */
  series: 4,
  /** Files of one name and two endings lie there, and it is one of two such files. */
  twins: 3,
  /** Its name is that of folders there with another ending: coat.red beside coat.blue. */
  variant: 6,
  /** Languages lie there, and its name is one. */
  language: 4,
  /** The id is one that the player has. */
  ownId: 9,
  /** Paths that are inside one of the game's archives. */
  insidePath: 6,
  /** All ids have files of the same names there, and these have others. */
  otherNames: -4,
  /** Another file of the same id lies there. */
  sameId: 3,
  /** Files of this ending that lie there bear ids of this form too. */
  idsHere: 5,
  /** A folder named after the archive. */
  archiveName: 6,
  /** Archives lie where it would lie unopened. */
  amongArchives: 3.5,
  /** The archives there all hold a file that lies at the top of this one. */
  alikeArchives: 10,
  /** It lies over something of another name because inner names agree: the worst mistake there is. */
  neighbour: -7,
  /** The folder's own name says that it is for what players add. */
  forPacks: 2.5,
  /** It would lie over one of several whose names say nothing, and nothing says which of them is meant. */
  whichOne: -2.5,
  /** A part that has no place there. */
  astray: -7,
  /** A folder that the game knows by name would be thrown away. */
  strippedName: -3,
} as const;

export type EvidenceKind = keyof typeof WEIGHTS;

/** A sign of a kind, with the weight that such signs have. */
export const sign = (kind: EvidenceKind, says: string): Evidence => ({ kind, weight: WEIGHTS[kind], says });

/** Is one of these kinds of signs among them? */
export const hasSign = (evidence: readonly Evidence[], ...kinds: EvidenceKind[]): boolean =>
  evidence.some(({ kind }) => kind !== undefined && kinds.includes(kind));

/** From how many points on, and how far ahead of the next one, a candidate is taken without a question. */
export const LEVELS = { sure: { points: 7.5, ahead: 3 }, likely: { points: 4.5, ahead: 1.2 } } as const;

/**
 * How well a folder has to fit a kind (0 to 1): to be weighed at all; to be taken for one more of the kind, which then
 * must not lie over another; to be no choice between parts but one of several things. And how much of what things of a
 * kind have is no more than half of one.
 */
export const FIT = { considered: 0.3, oneOfAKind: 0.5, thing: 0.6, half: 0.5 } as const;

/**
 * Where the very place was told, that its kind of file is new there counts this share: told places are often new ones.
 */
export const TOLD_ASTRAY = 0.05;

/**
 * A plan of several parts: how much its weakest part counts against the mean, and what each part more costs, at most.
 */
export const COMBINED = { weakest: 0.5, each: 0.25, most: 1.5 } as const;

/** Rises from 0 to 1: many small signs together never count more than one table entry. */
export const saturate = (sum: number, steepness = 1.1): number => 1 - Math.exp(-steepness * sum);
