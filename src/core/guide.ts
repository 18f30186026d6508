/** The steps of the way through, in the order in which players work. */
export const STEPS = ['bring-in', 'place', 'stack', 'settings', 'deploy', 'check', 'ledger'] as const;
export type StepId = (typeof STEPS)[number];

/** Everything that decides what comes next. */
export interface GuideFacts {
  packs: number;
  /** There is a shelf to take packs from. */
  shelf: boolean;
  /** Packs whose place is not clear. */
  unplaced: number;
  /** Files that more than one pack provides with different content. */
  overlaps: number;
  /** Places in merged files, and merges whose decisions no longer fit, that want a decision. */
  undecided: number;
  switchesOff: number;
  /** Folders of packs that a list in a settings file does not name. */
  unlisted: number;
  /** What read-mes of packs ask to set, where no card says which of it is needed. */
  asked: number;
  /** Of those: switches that are off. */
  askedOff: number;
  /** Deployed edits that the game has thrown out. */
  lostEdits: number;
  /** Edits waiting for deployment are among these. */
  changes: number;
  deployedPacks: number;
  /** The latest deployment took everything out again. */
  putBack: boolean;
  /** The start after the last deployment: not yet, all loaded, or something missing. */
  checked: 'not yet' | 'all well' | 'something wrong';
  /** The app has a stand-in for the game; otherwise the player starts it. */
  trial: boolean;
}

export interface Guide {
  step: StepId;
  /** The one sentence that says what to do next. */
  sentence: string;
  /** What the main button says. */
  action: string;
  /** For each step: how many things there still want attention. */
  attention: Record<StepId, number>;
}

/** What the player does next. Pure. */
export function guide(facts: GuideFacts): Guide {
  const { packs, shelf, unplaced, overlaps, undecided, switchesOff, unlisted, asked, askedOff, lostEdits, changes, deployedPacks, putBack, checked, trial } = facts;
  const attention: Record<StepId, number> = { 'bring-in': packs === 0 ? 1 : 0, place: unplaced, stack: undecided > 0 ? undecided : changes > 0 ? overlaps : 0, settings: (packs > 0 ? switchesOff + unlisted + asked : 0) + lostEdits, deploy: changes, check: deployedPacks > 0 && (trial ? checked !== 'all well' : checked === 'something wrong') ? 1 : 0, ledger: 0 };
  const say = (step: StepId, sentence: string, action: string): Guide => ({ step, sentence, action, attention });
  if (packs === 0 && changes === 0) return say('bring-in', shelf ? 'Bring in a pack: take one from the shelf, or drop a ZIP you downloaded.' : 'Bring in a pack: drop a ZIP that you downloaded.', 'Bring in a pack');
  if (unplaced > 0) return say('place', `Say where ${unplaced === 1 ? 'one pack belongs' : `${unplaced} packs belong`}: the app is not sure.`, 'Place it');
  if (undecided > 0) return say('stack', `Decide what a merged file takes: ${undecided === 1 ? 'one place is' : `${undecided} places are`} open.`, 'Look at the merge');
  if (putBack && packs > 0 && deployedPacks === 0) return say('deploy', 'Everything is back as it was. Your packs are still here: deploy to put them in again.', 'Look at the plan');
  if (packs > 0 && switchesOff > 0) return say('settings', 'Turn on the switch that your pack needs, or the game will not load it.', 'Look at the switch');
  if (packs > 0 && askedOff > 0) return say('settings', `A pack’s read-me says that ${askedOff === 1 ? 'a switch has' : `${askedOff} switches have`} to be on, and ${askedOff === 1 ? 'it is' : 'they are'} off.`, 'Look at the switch');
  if (packs > 0 && unlisted > 0) return say('settings', 'Put your pack’s folder into the game’s list, or the game will not look into it.', 'Look at the list');
  if (lostEdits > 0) return say('settings', 'The game has thrown an edit out. Put it in again: many games keep it the second time.', 'Look at the edit');
  if (changes > 0) return say('deploy', `Look over the plan, then deploy. ${asked > 0 ? `Your packs’ read-mes ask for ${asked === 1 ? 'a setting' : `${asked} settings`}: see Settings first.` : 'The originals are kept first.'}`, 'Look at the plan');
  if (deployedPacks > 0 && checked === 'not yet') return trial ? say('check', 'Everything is in the game folder. Do a trial run to see that it loads.', 'Check that it loads') : say('check', 'Everything is in the game. Start it now and come back: the app reads its log by itself and says what came of it.', 'What the app looks at');
  if (deployedPacks > 0 && checked === 'something wrong') return say('check', trial ? 'The trial run found something wrong. Look at its cause.' : 'The game’s log names something wrong. Look at its cause.', 'See what is wrong');
  if (checked === 'all well' && deployedPacks > 0) return say('check', `All is well: ${trial ? 'everything deployed was loaded' : 'the game’s log names nothing wrong'}. “Put everything back” in the ledger undoes it at any time.`, 'Bring in another pack');
  return say('bring-in', 'Nothing is waiting. Bring in another pack, or go to the ledger to put things back.', 'Bring in another pack');
}
