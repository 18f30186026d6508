import type { Commands } from '../contract';
import { bringInCommands } from '../bring-in/commands';
import { cardCommands } from '../card/commands';
import { checkCommands } from '../check/commands';
import { deployCommands } from '../deploy/commands';
import type { CommandsOf } from '../game/handlers';
import { historyCommands } from '../history/commands';
import { homeCommands } from '../home/commands';
import { ledgerCommands } from '../ledger/commands';
import { placeCommands } from '../place/commands';
import { setUpCommands } from '../setup/commands';
import { settingsCommands } from '../settings/commands';
import { stackCommands } from '../stack/commands';
import { storageCommands } from '../storage/commands';

/** Everything that can be changed, with what carries it out. */
export const COMMANDS: CommandsOf<Commands> = {
  ...homeCommands,
  ...bringInCommands,
  ...placeCommands,
  ...stackCommands,
  ...settingsCommands,
  ...deployCommands,
  ...checkCommands,
  ...ledgerCommands,
  ...cardCommands,
  ...historyCommands,
  ...setUpCommands,
  ...storageCommands,
};
