import type { Instruction } from './instructions';

/** What goes where, as a read-me says it. */
export interface PutStep {
  kind: 'put';
  line: number;
  text: string;
  /** Folders and files of the pack; empty where all of it is meant. */
  what: string[];
  /** What lies in the folder goes, not the folder itself. */
  contents: boolean;
  /** The folders of the game that can be meant, as targets; `files` where a file is named. */
  folders: string[];
  files: string[];
  how: 'into' | 'beside' | 'over' | 'inside';
  /** The name it gets there. */
  name?: string;
  /** In a new folder of its own, there. */
  ownFolder?: true;
}

/** How a pack is to be taken, and the parts that the sentence names. */
export interface WordStep {
  kind: 'keep zipped' | 'choose one' | 'optional' | 'new folder';
  line: number;
  text: string;
  what: string[];
}

export type Step =
  | PutStep
  | WordStep
  | { kind: 'do not'; line: number; text: string; folders: string[]; files: string[] }
  | {
      kind: 'by hand';
      line: number;
      text: string;
      what: 'close the game' | 'start the game' | 'back up' | 'in the game' | 'harmful' | 'needs';
    }
  | Instruction;

/** What “there” and “its place” mean. */
export interface Last {
  folders: string[];
  files: string[];
}
