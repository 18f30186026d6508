/** What was decided, the latest first; `steps` counts what lies in the past once it is gone back or forth to. */
export interface ChangeRow {
  says: string;
  at: number;
  /** It was taken back, and can be done again. */
  undone: boolean;
  /** So many steps lie in the past when this was the last one done. */
  steps: number;
}

export interface HistoryView {
  /** What would be taken back, in words; undefined where there is nothing. */
  undo: string | undefined;
  redo: string | undefined;
  /** Steps in the past. */
  steps: number;
}

export interface HistoryCommands {
  /**
   * Goes back or forth until so many steps lie in the past. Nothing is written to the game: what waits becomes another.
   */
  'go to step'(message: { steps: number }): void;
}

export interface HistoryQuestions {
  changes(): ChangeRow[];
}
