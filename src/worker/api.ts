import type {
  AboutKey, ArchivePart, BackupComparison, BaseChoice, Decision, DiffLine, Drift, Failure, FileKind, GameCard, Guide, ChecklistItem, Statement, LedgerEntry, LogRule, MadeFile, MergeConflict, Minded, OrderRule, OverlapRow, PackFormat, PackNotice, Pick, PlacedPart, Presence, PresentRow as CorePresentRow, Progress, Question, Recovery, Room, SnippetPlace, StatedFact, Standing, StepAction, Stuck, StuckAnswer, TargetPath, TreeRow, Warning,
} from '@/core';
import type { GivenFolder } from '@/bridge/wire';
import type { TakenCard } from '@/storage/memory';

export type { TakenCard } from '@/storage/memory';
import type { CheckCommand, CheckView, GivenLog } from './apiCheck';
import type { ProposalView, SettingRow, SettingsCommand, SettingsFileView, SettingsMore, SettingsText, SwitchView } from './apiSettings';

export type * from './apiCheck';
export type * from './apiSettings';

/** A pack's luggage tag. */
export interface Tag {
  monogram: string;
  colour: number;
}

export interface PackView {
  layer: string;
  packId: string;
  name: string;
  file: string;
  archiveSize: number;
  tag: Tag;
  on: boolean;
  files: number;
  bytes: number;
  kinds: { kind: FileKind; files: number; bytes: number }[];
  notices: PackNotice[];
  readMe: string | undefined;
  pictures: string[];
  /** Folders to show open at first. */
  firstFolders: string[];
  format: PackFormat;
  facts: StatedFact[];
  /** Its read-me, and the page that it came from, as a list of steps. */
  steps: ChecklistItem[];
  page: string | undefined;
  /** Pictures whose headers could be read, and the memory they take once loaded. */
  textures: { files: number; bytesInMemory: number; largest: number; formats: { format: string; files: number }[] };
  placement: {
    confidence: 'sure' | 'likely' | 'ask' | 'chosen';
    parts: PlacedPart[];
    questions: Question[];
    choices: BaseChoice[];
    warnings: Warning[];
    made: MadeFile[];
    placed: number;
    leftOut: number;
    fresh: number;
    replacing: number;
    /** Of those that replace: the same bytes as the game's own. */
    identical: number;
    /** Values that it brings to settings files. */
    edits: number;
    /** Folders put elsewhere by hand. */
    moves: { from: string; to: TargetPath }[];
    /** The folder of its own that it could share with others, where it has one. */
    ownFolder: TargetPath | undefined;
  };
  overlaps: { wins: number; loses: number };
  deployed: number;
  /** Names of the packs that it was merged out of. */
  mergedFrom: string[];
}

/** A file that is put together out of what several packs make of it. */
export interface MergeView {
  id: string;
  target: TargetPath;
  name: string;
  sources: { layer: string; name: string }[];
  /** Why it cannot be computed, where it cannot. */
  why: string | undefined;
  way: 'keys' | 'lines' | undefined;
  conflicts: MergeConflict[];
  /** Conflicts in all; the first ones are listed. */
  total: number;
  open: number;
  /** Decisions that no longer fit, since what they were about has changed. */
  stale: Decision[];
  notices: string[];
}

/** Where a content of a target comes from: a layer's id, the game as it was, or the folder as it is. */
export type ContentFrom = string;

export interface StoryVersion {
  from: ContentFrom;
  name: string;
  tag: Tag | undefined;
  standing: Standing | undefined;
  /** In the pack. */
  path: string;
  size: number;
  /** When the pack was brought in, or the file last changed. */
  date: number | undefined;
  sha256: string | undefined;
  picture: { width: number; height: number; format: string } | undefined;
  text: boolean;
}

/** Everything about one target. */
export interface FileStory {
  target: TargetPath;
  kind: FileKind;
  /** The topmost layer first. */
  versions: StoryVersion[];
  original: StoryVersion | undefined;
  winner: string | undefined;
  /** What is in the folder now, and which layer put it there. */
  now: { size: number; date: number; by: string | undefined } | undefined;
  picks: Pick[];
  merge: string | undefined;
  isText: boolean;
}

/** What merging packs would give. */
export interface MergePreview {
  name: string;
  files: number;
  duplicates: { path: string; identical: boolean; from: string[] }[];
  warnings: Warning[];
  /** All of them have folders of their own, which could be one. */
  canShareFolder: boolean;
}

/** A change of the stack. */
export type StackCommand =
  | { do: 'move'; layer: string; place: number }
  | { do: 'rule'; lower: string; upper: string }
  | { do: 'drop rule'; lower: string; upper: string }
  | { do: 'pick'; scope: Pick['scope']; at: string; layer: string | undefined }
  | { do: 'leave out'; layer: string; target: string }
  /** A step of its read-me is done, or not, by the player's word. */
  | { do: 'tick'; layer: string; step: string; done: boolean }
  /** The text of the page that a pack came from: read like its read-me. */
  | { do: 'page'; layer: string; text: string }
  | { do: 'merge file'; target: string }
  | { do: 'decide'; merge: string; at: string; was: string; take: Decision['take'] | undefined }
  | { do: 'decide rest'; merge: string; take: 'lower' | 'upper' }
  | { do: 'forget stale'; merge: string }
  | { do: 'drop merge'; merge: string }
  | { do: 'merge packs'; layers: string[]; container?: string }
  | { do: 'take apart'; layer: string };

export interface PlanView {
  counts: Record<StepAction, number>;
  bytes: number;
  total: number;
  unchanged: number;
  /** Deployed files that somebody else changed: how many, and the first of them. */
  drifted: { total: number; some: (Drift & { name: string })[]; effects: string[] };
  leftAlone: { target: TargetPath; path: string[] }[];
  refused: { target: TargetPath; why: string }[];
}

/** Where the originals lie, and how safely. */
export interface SafetyView {
  /** In this browser, for the demo or for real folders; or on the disk, beside the game. */
  place: 'demo' | 'browser' | 'disk';
  /** Name or path of the folder with plain copies. */
  backup: string | undefined;
  /** Room left for originals. */
  room: Room | undefined;
  /** Until when there are plain copies, what was found about the originals, and how far a look at them is that goes on now. */
  copies: Minded & { progress: Progress | undefined };
  /** The browser has promised not to clear what it keeps. */
  persisted: boolean;
}

/** A part of the game that is to be as it was without packs. */
export type RestoreScope = { what: 'file' | 'folder'; at: string } | { what: 'pack'; layer: string };

/** What keeps the game safe. */
export type SafetyCommand =
  | { do: 'take as mine' | 'take as original'; targets: string[] }
  | { do: 'check deployed' }
  | { do: 'drop own'; target: string }
  | { do: 'restore'; scope: RestoreScope }
  | { do: 'make backup'; name: string; targets: string[] }
  | { do: 'restore backup' | 'forget backup'; id: string }
  | { do: 'copy originals' };

export interface GameView {
  id: string;
  title: string;
  demo: boolean;
  roots: { id: string; title: string; files: number; where: string; /** Why it lies elsewhere. */ why: string | undefined }[];
  /** The folders that the app's own server opens, for games that lie in such, and where their originals go. */
  bridged: { folders: string[]; backup: string } | undefined;
  packs: PackView[];
  guide: Guide;
  deployed: { packs: number; files: number; originals: number; edits: number };
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
  settingsMore: SettingsMore;
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
}

/** A game that cannot be opened now, and why. */
export interface ClosedGame {
  id: string;
  title: string;
  /** Its folders, as the player knows them. */
  folders: string[];
  /** The browser wants its permission again; the app was started without its folders; anything else. */
  how: 'permission' | 'not-started-with' | 'failed';
  /** Where its originals are, for folders of the app's own server. */
  backup: string | undefined;
  failure: Failure | undefined;
}

export type ServerState = 'here' | 'gone' | 'key';

export interface Snapshot {
  ready: boolean;
  /** Another tab holds the game; this one can only look. */
  readOnly: boolean;
  /** `folders`: ids of those that the app was started with. */
  games: { id: string; title: string; demo: boolean; folders: string[] }[];
  game: GameView | undefined;
  /** The game that was to be opened and cannot be now. */
  closed: ClosedGame | undefined;
  /** How the app's own server was met when it was asked last: it answered, it did not, or it does not take this page's key. */
  server: ServerState;
  /** Counts up with every change; rows shown from an earlier one are asked for again. */
  revision: number;
  recovery: Recovery | undefined;
  /** What came of the game's last start, where it was noticed while the page is open. */
  heard: { at: number; level: 'note' | 'wrong'; says: string } | undefined;
  /** Things that could not be remembered, or the reason why the game cannot be opened. */
  trouble: Failure[];
}

/** Work under way. */
export interface Job extends Progress {
  /** It waits: a file cannot be written. */
  stuck?: Stuck;
  title: string;
  canCancel: boolean;
}

export type RowsQuery =
  | { view: 'pack' | 'place'; layer: string; open: string[]; search: string }
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

export type Relation = 'covers' | 'covered' | 'back';

/** A pack that came in. */
export interface Brought {
  layer: string;
  /** It was here already. */
  known: boolean;
  /** Another release of it that is in the stack. */
  earlier?: { layer: string; name: string; newer: boolean; versions: string };
}

/** What came of downloads that were brought in together. */
export interface Intake {
  brought: Brought[];
  /** Downloads that did not come in, and why. */
  refused: { name: string; failure: Failure }[];
}

/** One line between the two trees. */
export interface MapLink {
  /** Folder or file of the pack; '' for all of it. */
  from: string;
  to: TargetPath;
  files: number;
  replacing: number;
  moved: boolean;
  as: 'files' | 'inside' | 'edits' | 'whole';
}

export interface PlaceMapView {
  links: MapLink[];
  leftOut: { from: string; files: number }[];
}

export interface PlaceRow extends TreeRow {
  /** For pictures: "512 × 512, BC1, 10 levels". */
  picture: string | undefined;
  /** Where it goes; for folders the place of the folder itself. */
  goesTo: string | undefined;
  leftOut: string | undefined;
  /** Files of a folder that go in. */
  placed: number;
  effect: 'new' | 'replaces' | 'inside' | 'edits' | undefined;
}

export interface StepRow {
  path: string;
  action: StepAction;
  target: string;
  reason: string;
  size: number;
  tag: Tag | undefined;
}

/** One file of a pack and how it stands to others. */
export interface RelationRow {
  path: string;
  target: string;
  says: string;
  tag: Tag | undefined;
}

/** A file or folder of the game as it lies there. */
export interface PresentRow extends CorePresentRow {
  /** The name of what put it there. */
  by: string | undefined;
  tag: Tag | undefined;
}

/** What a sentence would change before it is told: or the blank that does not fit, and why. */
export interface TellingPreview {
  wrong: { field: string | undefined; why: string } | undefined;
  changes: { layer: string; pack: string; now: string; then: string }[];
}

/** The downloads folder, sorted into what can be taken, the newest first. */
export interface DownloadsView {
  path: string;
  /** The folder is not there now. */
  gone?: true;
  downloads: {
    name: string;
    /** Its files: several where it came in parts. */
    parts: string[];
    size: number;
    modified: number;
    /** It is not all there yet: still being written, or a part is missing. */
    waits: { why: 'coming' } | { why: 'part'; name: string } | undefined;
    /** The pack that was taken from it. */
    taken: string | undefined;
  }[];
}

/** The game's folders as they are, counted. */
export interface PresentView {
  counts: Record<Presence, number>;
  /** Folders that are shown open at first. */
  first: Record<'all' | 'touched', string[]>;
}

/** One file of the game's folders, and all that is known of it. */
export interface FileNow {
  presence: Presence;
  by: string | undefined;
  story: FileStory;
  /** Deployments that had to do with it, the latest first. */
  history: { number: number; at: number; title: string; action: StepAction; by: string | undefined }[];
}

export type Row = PlaceRow | StepRow | OverlapRow | RelationRow | SettingRow | PresentRow;

/** Everything the interface can ask of the worker. Failures are thrown as `{ failure }`. */
export interface EngineApi {
  /** @param key to the app's own server, where this page knows it */
  start(onSnapshot: (snapshot: Snapshot) => void, onJob: (job: Job | undefined) => void, key: string): Promise<void>;
  /** Another key to the app's own server: it was started again. */
  setKey(key: string): Promise<void>;
  openDemo(): Promise<void>;
  resetDemo(): Promise<void>;
  /** @param folder a handle that the player picked, or the id of a folder that the app was started with */
  addGame(title: string, folder: FileSystemDirectoryHandle | string): Promise<void>;
  /** One more folder of the open game, of the same kind as its first. @returns what was found in it, as sentences */
  addFolder(title: string, folder: FileSystemDirectoryHandle | string): Promise<string[]>;
  /** Folders that the app was started with; `closed` where this browser does not know the key. */
  givenFolders(): Promise<{ folders: GivenFolder[]; closed: boolean; asks: boolean }>;
  /** Opens this computer's own folder dialog. @param near a folder of this name is looked for in the usual places @returns undefined where the player changed their mind */
  chooseFolder(near?: string): Promise<GivenFolder | undefined>;
  /** Takes a folder away that was chosen so; no game may use it. */
  forgetFolder(id: string): Promise<void>;
  /** The downloads folder as it is now: undefined where none was given, or there is no server to ask. */
  downloads(): Promise<DownloadsView | undefined>;
  /** Opens this computer's own folder dialog for it. */
  chooseDownloads(): Promise<DownloadsView | undefined>;
  forgetDownloads(): Promise<void>;
  /** Takes downloads in from there, each set of parts as one. @param copy where they lie on another disk, they may be copied */
  takeDownloads(names: string[], password?: string, copy?: boolean): Promise<Intake>;
  /** Takes a folder for plain copies of the originals, and copies those there are. */
  setBackupFolder(handle: FileSystemDirectoryHandle): Promise<string | undefined>;
  /** What to do about a file that cannot be written. */
  answerStuck(answer: StuckAnswer): Promise<void>;
  /** @returns what came of it, in words, where that is not to be seen otherwise */
  keepSafe(command: SafetyCommand): Promise<string | undefined>;
  previewRestore(scope: RestoreScope): Promise<PlanView>;
  compareBackup(id: string): Promise<BackupComparison[]>;
  /** Deployed files and their folders, to choose from. */
  deployedPlaces(): Promise<{ files: string[]; folders: string[] }>;
  /** The plan as a ZIP to unpack over the game's folders, and the one that takes it back. */
  exportByHand(): Promise<{ name: string; blob: Blob }[]>;
  /** The card of the open game, and what the app reads out of its folder. */
  card(): Promise<GameCard>;
  /** Takes another card for the open game. */
  setCard(card: unknown, file?: string): Promise<void>;
  /** What the card brought that was taken from a file last. */
  takenCard(): Promise<TakenCard | undefined>;
  chooseGame(id: string): Promise<void>;
  removeGame(id: string): Promise<void>;
  handles(): Promise<FileSystemDirectoryHandle[]>;
  /** Looks at the folders again. */
  refresh(): Promise<void>;
  /** Has the game written to its log or its settings? Then everything is looked at anew, and `heard` says what came of it. @param back the page has just come into sight again */
  lookOutside(back?: boolean): Promise<void>;
  cancel(): Promise<void>;
  /** Files, volumes and folders that came together; a folder's files have paths. */
  bringIn(files: ArchivePart[], password?: string): Promise<Intake>;
  /** Takes a download from the stand-in shelf. */
  fetchFromShelf(file: string, password?: string): Promise<Intake>;
  /** Brings in an archive that lies inside a pack. */
  openInside(layer: string, path: string): Promise<Intake>;
  /** Puts a pack in the place of another release of it. */
  replaceRelease(layer: string, earlier: string): Promise<void>;
  placeMap(layer: string): Promise<PlaceMapView>;
  answer(layer: string, question: string, answer: string[]): Promise<void>;
  /** Puts a folder or file of the pack under a folder of the game; without `to` it goes back. */
  moveTo(layer: string, from: string, to: string | undefined): Promise<void>;
  /** Forgets what was decided about the place and proposes anew. */
  proposeAgain(layer: string): Promise<void>;
  /** What the app knows of the open game. */
  statements(): Promise<Statement[]>;
  /** What telling the app a sentence would change. @param at where the one stands that it takes the place of */
  previewTelling(form: string, values: Record<string, string>, at?: (string | number)[]): Promise<TellingPreview>;
  tell(form: string, values: Record<string, string>, at?: (string | number)[]): Promise<void>;
  untell(at: (string | number)[]): Promise<void>;
  /** What the last change of the card or of a statement said; undefined where none can be taken back. */
  lastTold(): Promise<string | undefined>;
  undoTelling(): Promise<void>;
  setStanding(id: string, standing: Statement['standing']): Promise<void>;
  setBase(layer: string, strip: string, base: string): Promise<void>;
  decide(layer: string, path: string, takeIn: boolean): Promise<void>;
  setOn(layer: string, on: boolean): Promise<void>;
  /** Changes the stack. @returns the id of what was made, where something was */
  changeStack(command: StackCommand): Promise<string | undefined>;
  /** Who brings a file, who wins, and what was there before. */
  fileStory(target: string): Promise<FileStory>;
  presentFiles(): Promise<PresentView>;
  fileNow(target: string): Promise<FileNow>;
  pictureAt(target: string, from: ContentFrom): Promise<Blob | undefined>;
  compareAt(target: string, a: ContentFrom, b: ContentFrom): Promise<DiffLine[]>;
  previewMerge(layers: string[], container?: string): Promise<MergePreview>;
  /** A pack as a ZIP. */
  exportPack(layer: string): Promise<{ name: string; blob: Blob }>;
  overlapFolders(): Promise<string[]>;
  takeOut(layer: string): Promise<void>;
  changeSettings(command: SettingsCommand): Promise<void>;
  /** What is said of a key beyond the game's card. */
  aboutKey(file: string, path: string[]): Promise<AboutKey>;
  /** A settings file as it will be after the next deployment. */
  settingsText(file: string): Promise<SettingsText>;
  /** What a changed text comes to, before it is taken. */
  previewText(file: string, text: string): Promise<{ edits: number; lines: DiffLine[]; other: boolean }>;
  /** Every container that has a file, the one that wins first. */
  findInSearch(file: string, name: string): Promise<{ folder: string; file: string }[]>;
  setEdit(file: string, path: string[], value: string | undefined): Promise<void>;
  /** Where lines that were copied from somewhere belong, the likeliest file first. */
  readSnippet(text: string): Promise<SnippetPlace[]>;
  dropEdit(file: string, path: string[]): Promise<void>;
  deploy(): Promise<LedgerEntry>;
  putBack(): Promise<LedgerEntry>;
  trialRun(): Promise<void>;
  checkCommand(command: CheckCommand): Promise<void>;
  /** Takes a rule for lines of the log into the game's card, before the others. */
  addLogRule(rule: LogRule): Promise<void>;
  /** Reads a log that the player dropped or pasted. */
  readGivenLog(name: string, log: Blob | string): Promise<GivenLog>;
  /** How many lines of the game's log a rule would know. */
  testRule(pattern: string): Promise<number>;
  /** The report as Markdown. */
  report(): Promise<string>;
  rows(query: RowsQuery, offset: number, limit: number): Promise<{ total: number; rows: Row[] }>;
  gameFolders(): Promise<string[]>;
  /** Files of the game that could be settings or logs, as targets. */
  gameFiles(): Promise<string[]>;
  packFolders(layer: string): Promise<string[]>;
  readText(layer: string, path: string): Promise<string>;
  /** One file of a pack, to be heard. */
  readSound(layer: string, path: string): Promise<Blob>;
  /** A small picture of a picture in a pack; undefined where it cannot be drawn. */
  thumbnail(layer: string, path: string): Promise<Blob | undefined>;
  exportFolders(): Promise<Blob>;
  exportPlan(form: 'csv' | 'json'): Promise<string>;
  /** Takes the stack as it was at an earlier deployment. @returns names of packs that are not here any more */
  goBack(number: number): Promise<string[]>;
  /** The originals of everything that is deployed, as a backup bag. */
  exportBag(): Promise<{ name: string; blob: Blob }>;
  /** Takes a backup bag in, for a game whose originals this browser does not know. */
  importBag(file: File): Promise<{ originals: number; title: string }>;
}
