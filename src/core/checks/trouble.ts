import type { EditFate } from '../deploy/afterStart';
import type { Shortage } from '../deploy/room';
import type { TargetPath } from '../paths/paths';
import type { Warning } from '../placement/warning';
import type { GameCard } from '../games/card';
import type { LogMessage } from './logMessage';
import type { Near } from './nearest';

/** What is known of files that lie wrongly, or lack something. */
interface OfFiles {
  /** Files straight in a folder where each pack has one of its own. */
  'straight-in': { layer: string; into: TargetPath; files: TargetPath[]; why: string };
  /** The game looks for a folder's marker at `wanted`; it is `has`, in `inner`. */
  'add-on too deep': {
    layer: string;
    folder: string;
    at: TargetPath;
    inner: TargetPath;
    wanted: TargetPath;
    has: TargetPath;
    files: TargetPath[];
    why: string;
  };
  'no manifest': { layer: string; folder: string; at: TargetPath; marker: string; files: number };
  unzipped: { layer: string; into: TargetPath; inside: string[]; why: string };
  'bad manifest': { layer: string; target: TargetPath; form: GameCard['manifests'][number]['form'] };
  'id taken': { layer: string; idTaken: string; target: TargetPath; other: TargetPath };
  /** A file named like the game's own replaces it whole: these texts go missing. */
  'hides texts': { layer: string; target: TargetPath; lost: string[]; why: string };
  /** What a line of a file asks for and nobody provides. */
  'refers to nothing': {
    layer?: string;
    target: TargetPath;
    line: number;
    /** Where it would have to lie. */
    meant: string;
    near: Near<TargetPath> | undefined;
    /** The pack that brings the near file. */
    brings: string | undefined;
    /** The set of the game's contents that is not installed. */
    set: string | undefined;
    why: string;
  };
}

/** What is known of folders of titles' ids. */
interface OfTitles {
  sealed: {
    layer: string;
    title: string;
    archive: TargetPath;
    opens: TargetPath;
    here: TargetPath;
    files: number;
    why: string;
  };
  'too high': {
    layer: string;
    here: TargetPath;
    inner: TargetPath;
    name: string;
    files: { target: TargetPath; rest: string }[];
  };
  'too deep': { layer: string; inner: TargetPath; twice: TargetPath; files: TargetPath[] };
  'id inside': {
    layer: string;
    folder: string;
    nested: string;
    here: TargetPath;
    into: TargetPath;
    files: TargetPath[];
  };
  'wrong id': {
    layer: string;
    folder: string;
    here: TargetPath;
    /** What goes into the right folder lies in this one. */
    base: TargetPath;
    files: TargetPath[];
    /** The edition that the id belongs to, where it is known. */
    region: string | undefined;
    own: { id: string; title: string }[];
    right: { id: string; goal: TargetPath } | undefined;
  };
}

/** What is known of settings. */
interface OfSettings {
  'out of range': {
    file: TargetPath;
    path: string[];
    value: string;
    /** What is wrong with it, in words. */
    wrong: string;
    meaning: string;
    better: string | undefined;
  };
  'no such folder': {
    file: TargetPath;
    section: string;
    key: string;
    value: string;
    inside: TargetPath;
    near: string | undefined;
  };
  /** A folder of a pack that a list in a settings file does not name. */
  'not listed': { file: TargetPath; path: string[]; item: string; pack: string };
  /** A deployed edit that stands no more, who wanted it, and how often that has happened. */
  'lost edit': Omit<EditFate, 'kind' | 'layer'> & { by: string; times: number };
  'too much memory': { file: TargetPath; path: string[]; now: string | undefined; why: string };
  /** A key for which packs want different values; the last one in `wants` gets its way. */
  'fought over': { file: TargetPath; path: string[]; wants: readonly { by: string; value: string | undefined }[] };
  'switch off': {
    title: string;
    file: TargetPath;
    path: readonly string[];
    on: string;
    value: string | undefined;
    neededBy: number;
    why: string;
  };
}

/** What is known of packs, of the deployment and of a start as a whole. */
interface OfAll {
  warning: { layer: string; name: string; warning: Warning };
  /** A disk that is too full for what waits in the plan, and the packs that bring most of it. */
  'too little room': Shortage & { packs: readonly { layer: string; name: string; bytes: number }[] };
  drift: { drifted: number };
  pending: { pending: number };
  silent: { log: string };
  'ended early': { lines: number };
  loaded: { loaded: number; counted: number };
  'said loaded': { count: number; what: string; line: number; text: string; packs: number };
}

/** What a line of a log comes from. */
interface OfLog {
  /** It names nothing. */
  said: { message: LogMessage };
  /** One of more than are looked into. */
  'one more': { message: LogMessage };
  'names a pack': { layer: string; message: LogMessage };
  /** The game cannot use a file of its own. */
  'own file': { message: LogMessage; sort: string };
  /** The file is there with other capitals. */
  capitals: { layer: string; message: LogMessage; there: TargetPath; wanted: TargetPath };
  /** The file of a pack is there, and the game cannot use it. */
  unusable: { layer: string; message: LogMessage; there: TargetPath; sort: string };
  missing: {
    message: LogMessage;
    wanted: TargetPath;
    /** The pack whose files lie around it. */
    owner: string | undefined;
    /** The nearest that is there. */
    first: Near<TargetPath> | undefined;
    /** The pack that brings it. */
    brings: string | undefined;
    /** Exactly this name is in one pack alone: the line says where it belongs. */
    meant: boolean;
    leftOut: { layer: string; path: string } | undefined;
    standIn: TargetPath | undefined;
  };
  'missing text': { message: LogMessage; key: string };
  /** Many texts are missing, since a file of a pack hides the game's own. */
  'texts hidden': { layer: string; target: TargetPath; hidden: string[]; why: string };
}

interface Kinds extends OfFiles, OfTitles, OfSettings, OfAll, OfLog {}

/** What troubles of one cause have in common; those of one `key` are told as one. */
export type SharedCause = { key: string } &
  /** Names that are asked for with other capitals. */
  (
    | { kind: 'capitals'; layer: string }
    /** Files that lie in `from` and are looked for in `to`. */
    | { kind: 'shift'; layer: string; from: string; to: string }
    /** Endings of what is there and of what is looked for. */
    | { kind: 'ending'; layer: string; from: string; to: string }
    | { kind: 'asks'; layer: string }
    | { kind: 'own' }
    | { kind: 'unusable'; layer: string }
    | { kind: 'left out'; layer: string }
    | { kind: 'nobody'; owner: string | undefined; folder: TargetPath; standIn: boolean }
    | { kind: 'named'; layer: string }
    | { kind: 'warned' | 'more' | 'texts' }
    | { kind: 'lost'; dropped: boolean }
  );

/** A kind of trouble, or of good news. */
export type TroubleKind = keyof Kinds;

/**
 * What was found, without words for it and without what can be done: `troubleWords` says it, `curesOf` knows the cures,
 * and `findingOf` puts the three together for the player.
 */
export type TroubleOf<Kind extends TroubleKind> = {
  kind: Kind;
  /** The same trouble has the same id whenever it is looked for. */
  id: string;
  level: 'wrong' | 'good' | 'note';
  /** Of what is wrong: it stops the game, or the game says it and goes on. */
  weight?: 'stops' | 'light' | undefined;
  /** The file or key that is the cause, where there is one. */
  about?: string;
  /** The layer it comes from. */
  layer?: string;
  shared?: SharedCause | undefined;
} & Kinds[Kind];

export type Trouble = { [Kind in TroubleKind]: TroubleOf<Kind> }[TroubleKind];
