/** A file that the game's log misses, as the log writes its path. */
export interface MissedFile {
  path: string;
  /** The line of the log, counted from 1. */
  line: number;
}
