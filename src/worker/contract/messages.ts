import type { StuckAnswer } from '@/core';
import type { BringInCommands, BringInQuestions } from './bringIn';
import type { CardCommands, CardQuestions } from './card';
import type { CheckCommands, CheckQuestions } from './check';
import type { DeployCommands, DeployQuestions } from './deploy';
import type { HistoryCommands, HistoryQuestions } from './history';
import type { HomeCommands, HomeQuestions } from './home';
import type { InGameQuestions } from './ingame';
import type { LedgerCommands, LedgerQuestions } from './ledger';
import type { PlaceCommands, PlaceQuestions } from './place';
import type { RowsQuestions } from './rows';
import type { SetUpCommands, SetUpQuestions } from './setUps';
import type { SettingsCommands, SettingsQuestions } from './settings';
import type { StackCommands, StackQuestions } from './stack';
import type { StorageCommands, StorageQuestions } from './storage';
import type { Job, Snapshot } from './tab';

/** Everything that can be changed: what is said with it, and what comes of it. */
export interface Commands
  extends
    HomeCommands,
    BringInCommands,
    PlaceCommands,
    StackCommands,
    SettingsCommands,
    DeployCommands,
    CheckCommands,
    LedgerCommands,
    CardCommands,
    HistoryCommands,
    SetUpCommands,
    StorageCommands {}

/** Everything that can be asked without changing anything. */
export interface Questions
  extends
    HomeQuestions,
    BringInQuestions,
    PlaceQuestions,
    StackQuestions,
    SettingsQuestions,
    DeployQuestions,
    CheckQuestions,
    LedgerQuestions,
    CardQuestions,
    HistoryQuestions,
    SetUpQuestions,
    StorageQuestions,
    InGameQuestions,
    RowsQuestions {}

/** What is said with a command or a question. */
export type Said<Of> = Of extends () => unknown
  ? unknown
  : Of extends (message: infer Message) => unknown
    ? Message
    : never;
/** What comes of it. */
export type CameOf<Of> = Of extends (...message: never[]) => infer Result ? Result : never;

/** Everything that the page can say to the worker. Failures are thrown as `{ failure }`. */
export interface EngineApi {
  /** @param key to the app's own server, where this page knows it */
  start(onSnapshot: (snapshot: Snapshot) => void, onJob: (job: Job | undefined) => void, key: string): Promise<void>;
  /** Another key to the app's own server: it was started again. */
  setKey(key: string): Promise<void>;
  /** Changes something, after the changes that are waiting. */
  change<Do extends keyof Commands>(command: { do: Do } & Said<Commands[Do]>): Promise<CameOf<Commands[Do]>>;
  /** Asks for something that is not in the snapshot. */
  ask<Ask extends keyof Questions>(question: { ask: Ask } & Said<Questions[Ask]>): Promise<CameOf<Questions[Ask]>>;
  /** Stops the change that is under way, where it can be stopped. */
  cancel(): Promise<void>;
  /** What to do about a file that cannot be written. */
  answerStuck(answer: StuckAnswer): Promise<void>;
  /**
   * Has the game written to its log or its settings? Then everything is looked at anew, and `heard` says what came of
   * it.
   *
   * @param back the page has just come into sight again
   */
  lookOutside(back?: boolean): Promise<void>;
}
