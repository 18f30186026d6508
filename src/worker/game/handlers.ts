import type { CameOf, Said } from '../contract';
import type { DeployWork } from './carrier';
import type { Desk } from './desk';

/** How a command is carried out. */
interface Doing<Of> {
  /** What the player sees while it is done. */
  title: string | ((message: Said<Of>) => string);
  canCancel?: boolean;
  /** What it changes is not noted as a decision that can be taken back. */
  isNoDecision?: boolean;
  run(desk: Desk, message: Said<Of>, options: Required<DeployWork>): Promise<CameOf<Of>> | CameOf<Of>;
}

/** A step's commands: each has what carries it out, or this does not compile. */
export type CommandsOf<Commands> = { [Do in keyof Commands]: Doing<Commands[Do]> };

/** A step's questions, each with what answers it. Nothing here changes anything. */
export type QuestionsOf<Questions> = {
  [Ask in keyof Questions]: (
    desk: Desk,
    message: Said<Questions[Ask]>,
  ) => Promise<CameOf<Questions[Ask]>> | CameOf<Questions[Ask]>;
};
