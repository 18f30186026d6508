import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import { isUnder, nameKey, type TargetPath } from '../paths/paths';
import { gameTreeOf } from '../placement/gameTree';
import { placeFiles, wholeTarget, type Placement } from '../placement/placement';
import type { SettingProposal } from './proposeSettings';
import { readSteps, type PutStep, type Step } from './steps';

/** One step of a read-me, with what the app makes of it. */
export interface ChecklistItem {
  /** The line of the read-me, counted from 1. */
  line: number;
  /** What the read-me says, shortened. */
  text: string;
  /** `placed`: the placement does it. `settings`: it waits in Settings. `yours`: for the player to do. */
  state: 'placed' | 'settings' | 'yours';
  says: string;
}

interface ChecklistInput {
  entries: readonly PackEntry[];
  card: GameCard;
  gameFiles: readonly string[];
  readMe: { path: string; text: string };
  placement: Placement;
  /** What `proposeSettings` found in the same read-me. */
  proposals: readonly SettingProposal[];
}

const MOST = 40;
const LONGEST = 200;

const BY_HAND = {
  'close the game': 'Yours to do, before anything is deployed.', 'start the game': 'Yours to do, in the game.', 'in the game': 'Yours to do, in the game’s own menu.',
  needs: 'Look whether you have it: Bring in says what a pack needs.', harmful: 'The app never does this. Think twice before you do.', 'back up': 'The app keeps every original before it writes.',
} as const;

/** A read-me as a list of steps: done by the placement, waiting in Settings, or for the player to do. */
export function checklistOf({ entries, card, gameFiles, readMe, placement, proposals }: ChecklistInput): ChecklistItem[] {
  const tree = gameTreeOf(card.roots.map(({ id }) => id), gameFiles);
  const lines = readMe.text.split(/\r\n|\n|\r/);
  const whole = wholeTarget(placement);
  const targets = placeFiles(entries, placement);
  const found: ChecklistItem[] = proposals.map((one) => ({ line: one.line, text: textAt(lines, one.line), state: 'settings', says: saysOf(one) }));
  const settled = new Set(found.map(({ line }) => line));
  for (const step of readSteps(readMe.text, { entries, tree, roots: card.roots, title: card.title })) {
    const item = itemOf(step, targets, whole);
    if (item && !(item.state === 'yours' && settled.has(step.line))) found.push({ ...item, line: step.line, text: textAt(lines, step.line) });
  }
  const order = { settings: 0, placed: 1, yours: 2 };
  found.sort((a, b) => a.line - b.line || order[a.state] - order[b.state]);
  return found.filter((item, i) => !found.slice(0, i).some((other) => other.line === item.line && other.says === item.says)).slice(0, MOST);
}

const textAt = (lines: readonly string[], line: number): string => (lines[line - 1] ?? '').trim().slice(0, LONGEST);

function saysOf(one: SettingProposal): string {
  if (one.kind === 'launch option') return `Start with ${one.option}: waits in Settings, in the launch line.`;
  if (one.kind === 'numbered section') return `A new section [${one.section} …]: waits in Settings.`;
  return `${one.path.join(' › ')} = ${one.value}: waits in Settings.`;
}

function itemOf(step: Step, targets: readonly { path: string; target: TargetPath; inside?: string }[], whole: TargetPath | undefined): Pick<ChecklistItem, 'state' | 'says'> | undefined {
  switch (step.kind) {
    case 'put':
      return follows(step, targets, whole) ? { state: 'placed', says: 'The placement does this.' } : { state: 'yours', says: 'The app does not place it so. See Place, and change it there if this is meant.' };
    case 'keep zipped':
      return whole !== undefined || step.what.length > 0 ? { state: 'placed', says: 'It stays zipped.' } : undefined;
    case 'choose one':
    case 'optional':
      return { state: 'yours', says: 'Place asks which parts you want.' };
    case 'by hand':
      return { state: step.what === 'back up' ? 'placed' : 'yours', says: BY_HAND[step.what] };
    case 'key':
    case 'attribute':
    case 'launch option':
    case 'numbered section':
      return { state: 'yours', says: 'This game’s settings files have no such place that the app knows. Set it yourself where you know it belongs.' };
    case 'new folder':
    case 'do not':
      return undefined;
  }
}

/** Does what the step names come to lie where it says? */
function follows({ what, folders, files }: PutStep, targets: readonly { path: string; target: TargetPath }[], whole: TargetPath | undefined): boolean {
  const goals = [...folders, ...files].map(nameKey);
  if (whole !== undefined) return goals.some((goal) => isUnder(nameKey(whole), goal));
  const meant = targets.filter(({ path }) => what.length === 0 || what.some((one) => isUnder(path, one)));
  return meant.length > 0 && meant.some(({ target }) => goals.some((goal) => isUnder(nameKey(target), goal)));
}
