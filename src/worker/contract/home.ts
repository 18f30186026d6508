export interface HomeCommands {
  'open demo'(): void;
  'reset demo'(): void;
  /** `folder`: a handle that the player picked, or the id of a folder that the app was started with. */
  'add game'(message: { title: string; folder: FileSystemDirectoryHandle | string }): void;
  'choose game'(message: { id: string }): void;
  'remove game'(message: { id: string }): void;
  /** Looks at the folders again. */
  'look again'(): void;
}

export interface HomeQuestions {
  /** Folders that the browser has to be asked for again. */
  handles(): FileSystemDirectoryHandle[];
}
