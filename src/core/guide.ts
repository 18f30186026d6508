import { oneOr } from './words';

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
  /** Of those: switches that are otherwise. */
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

/** What comes next, by what is the case: the first of these that is. */
const NEXT = {
  'nothing is here': ({ packs, changes }) => packs === 0 && changes === 0,
  'a place is not clear': ({ unplaced }) => unplaced > 0,
  'a merge waits': ({ undecided }) => undecided > 0,
  'all was put back': ({ putBack, packs, deployedPacks }) => putBack && packs > 0 && deployedPacks === 0,
  'a switch is off': ({ packs, switchesOff }) => packs > 0 && switchesOff > 0,
  'an asked switch is off': ({ packs, askedOff }) => packs > 0 && askedOff > 0,
  'a list lacks a pack': ({ packs, unlisted }) => packs > 0 && unlisted > 0,
  'an edit was thrown out': ({ lostEdits }) => lostEdits > 0,
  'changes wait': ({ changes }) => changes > 0,
  'it was not started since': ({ deployedPacks, checked }) => deployedPacks > 0 && checked === 'not yet',
  'something is wrong': ({ deployedPacks, checked }) => deployedPacks > 0 && checked === 'something wrong',
  'all is well': ({ deployedPacks, checked }) => deployedPacks > 0 && checked === 'all well',
  'nothing waits': () => true,
} satisfies Record<string, (facts: GuideFacts) => boolean>;
type Next = keyof typeof NEXT;

/** Where it is done, the one sentence that says it, and what the main button says. */
const WORDS: Record<Next, (facts: GuideFacts) => [step: StepId, sentence: string, action: string]> = {
  'nothing is here': ({ shelf }) => [
    'bring-in',
    shelf
      ? 'Bring in a pack: take one from the shelf, or drop a ZIP you downloaded.'
      : 'Bring in a pack: drop a ZIP that you downloaded.',
    'Bring in a pack',
  ],
  'a place is not clear': ({ unplaced }) => [
    'place',
    `Say where ${oneOr(unplaced, 'one pack belongs', `${unplaced} packs belong`)}: the app is not sure.`,
    'Place it',
  ],
  'a merge waits': ({ undecided }) => [
    'stack',
    `Decide what a merged file takes: ${oneOr(undecided, 'one place is', `${undecided} places are`)} open.`,
    'Look at the merge',
  ],
  'all was put back': () => [
    'deploy',
    'Everything is back as it was. Your packs are still here: deploy to put them in again.',
    'Look at the plan',
  ],
  'a switch is off': () => [
    'settings',
    'Turn on the switch that your pack needs, or the game will not load it.',
    'Look at the switch',
  ],
  'an asked switch is off': ({ askedOff }) => [
    'settings',
    `A pack’s read-me asks for ${oneOr(askedOff, 'a switch that is', `${askedOff} switches that are`)} set the other way.`,
    'Look at the switch',
  ],
  'a list lacks a pack': () => [
    'settings',
    'Put your pack’s folder into the game’s list, or the game will not look into it.',
    'Look at the list',
  ],
  'an edit was thrown out': () => [
    'settings',
    'The game has thrown an edit out. Put it in again: many games keep it the second time.',
    'Look at the edit',
  ],
  'changes wait': ({ asked }) => [
    'deploy',
    `Look over the plan, then deploy. ${asked > 0 ? `Your packs’ read-mes ask for ${oneOr(asked, 'a setting', `${asked} settings`)}: see Settings first.` : 'The originals are kept first.'}`,
    'Look at the plan',
  ],
  'it was not started since': ({ trial }) =>
    trial
      ? ['check', 'Everything is in the game folder. Do a trial run to see that it loads.', 'Check that it loads']
      : [
          'check',
          'Everything is in the game. Start it now and come back: the app reads its log by itself and says what came of it.',
          'What the app looks at',
        ],
  'something is wrong': ({ trial }) => [
    'check',
    trial
      ? 'The trial run found something wrong. Look at its cause.'
      : 'The game’s log names something wrong. Look at its cause.',
    'See what is wrong',
  ],
  'all is well': ({ trial }) => [
    'check',
    `All is well: ${trial ? 'everything deployed was loaded' : 'the game’s log names nothing wrong'}. “Put everything back” in the ledger undoes it at any time.`,
    'Bring in another pack',
  ],
  'nothing waits': () => [
    'bring-in',
    'Nothing is waiting. Bring in another pack, or go to the ledger to put things back.',
    'Bring in another pack',
  ],
};

/** For each step: how many things there still want attention. */
function attentionOf(facts: GuideFacts): Record<StepId, number> {
  const { packs, changes, checked } = facts;
  const settings = packs > 0 ? facts.switchesOff + facts.unlisted + facts.asked : 0;
  const looks = facts.trial ? checked !== 'all well' : checked === 'something wrong';
  return {
    'bring-in': packs === 0 ? 1 : 0,
    place: facts.unplaced,
    stack: facts.undecided > 0 ? facts.undecided : changes > 0 ? facts.overlaps : 0,
    settings: settings + facts.lostEdits,
    deploy: changes,
    check: facts.deployedPacks > 0 && looks ? 1 : 0,
    ledger: 0,
  };
}

/** What the player does next. Pure. */
export function guide(facts: GuideFacts): Guide {
  const next = (Object.keys(NEXT) as Next[]).find((one) => NEXT[one](facts)) ?? 'nothing waits';
  const [step, sentence, action] = WORDS[next](facts);
  return { step, sentence, action, attention: attentionOf(facts) };
}
