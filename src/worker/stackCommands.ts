import { decide, nameKey, placeFiles, type WorkOptions } from '@/core';
import type { StackCommand } from './api';
import { decideConflict, decideRest, forgetStale, startMerge } from './merging';
import { addRule, dropRule, moveTo, setPick } from './ordering';
import { mergePacks, takeApart } from './packMerging';
import { proposeWith } from './placing';
import type { Session } from './session';
import type { TargetPath } from '@/core';

/** What the player sees while a change is made. */
export const COMMAND_TITLES: Record<StackCommand['do'], string> = {
  move: 'Moving it', rule: 'Taking the rule', 'drop rule': 'Taking the rule away', pick: 'Choosing what is used', 'leave out': 'Leaving the file out', 'merge file': 'Merging the file',
  decide: 'Deciding', 'decide rest': 'Deciding the rest', 'forget stale': 'Forgetting old decisions', 'drop merge': 'Taking the merge away', 'merge packs': 'Merging the packs', 'take apart': 'Taking it apart', tick: 'Ticking the step', page: 'Reading the page',
};

/** Carries out a change of the stack. @returns the id of what was made, where something was */
export async function runStackCommand(session: Session, command: StackCommand, options: Required<WorkOptions>): Promise<string | undefined> {
  switch (command.do) {
    case 'move':
      return void (await moveTo(session, command.layer, command.place));
    case 'rule':
      return void (await addRule(session, { lower: command.lower, upper: command.upper }));
    case 'drop rule':
      return void (await dropRule(session, command.lower, command.upper));
    case 'pick':
      return void (await setPick(session, command.scope, command.at, command.layer));
    case 'leave out':
      return void (await leaveOut(session, command.layer, command.target));
    case 'tick':
      return void (await session.replaceLayer(command.layer, (layer) => ({ ...layer, ticked: [...(layer.ticked ?? []).filter((step) => step !== command.step), ...(command.done ? [command.step] : [])] })));
    case 'page':
      return void (await takePage(session, command.layer, command.text));
    case 'merge file':
      return startMerge(session, command.target as TargetPath);
    case 'decide':
      return void (await decideConflict(session, command.merge, command.at, command.was, command.take));
    case 'decide rest':
      return void (await decideRest(session, command.merge, command.take));
    case 'forget stale':
      return void (await forgetStale(session, command.merge));
    case 'drop merge':
      return void (await session.saveStack({ layers: session.stack.layers.filter((layer) => layer.kind !== 'merge' || layer.id !== command.merge) }));
    case 'merge packs':
      return mergePacks(session, command.layers, command.container, options);
    case 'take apart':
      await takeApart(session, command.layer);
      return void (await session.forgetUnused());
  }
}

/** What the page says can change where the pack goes, unless the player has placed it. */
async function takePage(session: Session, id: string, text: string): Promise<void> {
  const { packId, placement, confidence } = session.layer(id);
  await session.setPage(packId, text);
  if (confidence !== 'chosen') await proposeWith(session, id, placement.decisions);
}

/** Leaves what a pack brings to one target out, so that what lies below shows through. */
async function leaveOut(session: Session, id: string, target: string): Promise<void> {
  const layer = session.layer(id);
  const { pack } = await session.openPack(layer.packId);
  const paths = placeFiles(pack.entries, layer.placement).filter((file) => nameKey(file.target) === nameKey(target) && file.inside === undefined).map(({ path }) => path);
  await session.replaceLayer(id, (one) => ({ ...one, placement: paths.reduce((placement, path) => decide(placement, pack.entries, path, false), one.placement) }));
}
