import type { Questions } from '../contract';
import { bringInQuestions } from '../bring-in/questions';
import { cardQuestions } from '../card/questions';
import { checkQuestions } from '../check/questions';
import { deployQuestions } from '../deploy/questions';
import type { QuestionsOf } from '../game/handlers';
import { historyQuestions } from '../history/questions';
import { homeQuestions } from '../home/questions';
import { inGameQuestions } from '../ingame/questions';
import { ledgerQuestions } from '../ledger/questions';
import { placeQuestions } from '../place/questions';
import { setUpQuestions } from '../setup/questions';
import { settingsQuestions } from '../settings/questions';
import { stackQuestions } from '../stack/questions';
import { storageQuestions } from '../storage/questions';
import { rowsQuestions } from './rows';

/** Everything that can be asked, with what answers it. */
export const QUESTIONS: QuestionsOf<Questions> = {
  ...homeQuestions,
  ...bringInQuestions,
  ...placeQuestions,
  ...stackQuestions,
  ...settingsQuestions,
  ...deployQuestions,
  ...checkQuestions,
  ...ledgerQuestions,
  ...cardQuestions,
  ...historyQuestions,
  ...setUpQuestions,
  ...storageQuestions,
  ...inGameQuestions,
  ...rowsQuestions,
};
