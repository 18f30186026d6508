import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import type { Statement } from '../games/statement';
import type { Step } from '../inspect/step';
import { withoutArchiveEnding } from '../media/archiveEndings';
import type { GameTree } from '../names/gameTree';
import type { Knowledge } from '../names/knowledge';
import type { PackPath, TargetPath } from '../paths/paths';
import type { LeftOutReason } from '../placed/baggage';
import type { MadeFile, PlaceRule } from '../placed/placement';
import type { Evidence } from './evidence';
import type { MissedFile } from './missedFile';
import type { PlacementMode } from './modes';
import type { BaseChoice } from './overTree';

/** What proposals are made from. */
export interface PlacementInput {
  entries: readonly PackEntry[];
  card: GameCard;
  /** Every file of the game as a target, without the files that packs brought. */
  gameFiles: Iterable<string>;
  /** The download's name, for folders that must be made and for ids. */
  name?: string;
  /** Small text files of the pack by path: manifests, settings. `textsWanted` says which are looked at. */
  texts?: ReadonlyMap<string, string>;
  /** The pack's read-me: what it says counts most. */
  readMe?: { path: string; text: string } | undefined;
  /** What is known of the game: refused statements count no more, confirmed ones like the card. */
  statements?: readonly Statement[] | undefined;
  /** The paths inside the game's own archives, by the archive's target. */
  inside?: ReadonlyMap<string, readonly string[]> | undefined;
  /** Files that the game's log misses: it looks for them there. */
  missed?: readonly MissedFile[] | undefined;
  /** What the player has answered so far. */
  answers?: Readonly<Record<string, readonly string[]>>;
}

/** Something that only the player can decide. `one` of the options, or `any` number of them. */
export interface Question {
  id: string;
  kind: 'one' | 'any';
  title: string;
  why: string;
  options: { id: string; label: string; says: string }[];
  /** What the app would take. */
  suggested: string[];
  /** What holds now: the player's answer, or the suggestion where it is safe. Empty: it is still open. */
  answer: string[];
  /** The player has answered it. */
  answered: boolean;
  /** Nothing can be done with the pack before it is answered. */
  open: boolean;
}

/** How one part of a pack is placed, for the player to read. */
export interface PlacedPart {
  mode: PlacementMode;
  from: string;
  to: TargetPath;
  files: number;
  reason: string;
  /** What was seen for and against this place, what counts most first. */
  evidence?: Evidence[] | undefined;
}

/** Prepared once for a proposal. */
export interface Context {
  card: GameCard;
  tree: GameTree;
  /** What the game's folders teach, without what the player refused. */
  knowledge: Knowledge;
  /** The download's file name. */
  name: string;
  /** The pack's name as the player reads it. */
  title: string;
  texts: ReadonlyMap<string, string>;
  answers: Readonly<Record<string, readonly string[]>>;
  questions: Question[];
  readMe: { path: string; text: string } | undefined;
  steps: readonly Step[];
  statements: readonly Statement[];
  inside: ReadonlyMap<string, readonly string[]>;
  missed: readonly MissedFile[];
}

/** What one way of placing makes of a set of files. */
export interface PoolResult {
  confidence: 'sure' | 'likely' | 'ask';
  rules: PlaceRule[];
  parts: PlacedPart[];
  leftOut: { path: PackPath; why: LeftOutReason }[];
  made: MadeFile[];
  choices: BaseChoice[];
  /** Files that it says nothing about. */
  rest: readonly PackEntry[];
  /** No way was found; the rules are only where to begin. */
  nowhere?: true;
}

export const emptyResult = (): PoolResult => ({
  confidence: 'sure',
  rules: [],
  parts: [],
  leftOut: [],
  made: [],
  choices: [],
  rest: [],
});

/**
 * Asks a question, unless the player has answered it.
 *
 * @param safe the suggestion holds until the player says otherwise; without it the question stays open
 * @returns what holds now; empty where it is open
 */
export function ask(
  context: Context,
  question: Omit<Question, 'answer' | 'answered' | 'open'>,
  safe: boolean,
): string[] {
  const known = new Set(question.options.map(({ id }) => id));
  const given = context.answers[question.id]?.filter((id) => known.has(id));
  const answered = given !== undefined && (question.kind === 'any' || given.length > 0);
  const answer = answered ? [...given] : safe ? question.suggested : [];
  context.questions.push({ ...question, answer, answered, open: !answered && !safe });
  return answer;
}

/**
 * Takes back the question for a place: while something is to be chosen first, it would be asked about what may not go
 * in at all.
 */
export function notYetWhere(context: Context): void {
  const at = context.questions.findIndex(({ id, open }) => id === 'place' && open);
  if (at >= 0) context.questions.splice(at, 1);
}

/** A folder's name made out of a pack's: small letters, digits and dashes, as players name such folders. */
export const slugOf = (name: string): string => {
  const slug = withoutArchiveEnding(name)
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9.]+/g, '-')
    .replace(/^[-.]+|[-.]+$/g, '');
  return slug || 'pack';
};
