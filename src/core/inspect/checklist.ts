import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import { isUnder, nameKey, type TargetPath } from '../paths/paths';
import { gameTreeOf } from '../names/gameTree';
import { placeFiles, wholeTarget, type Placement } from '../placed/placement';
import { nameAsked, type SettingProposal } from './settingProposal';
import { sentencesOf } from './readMeSentences';
import type { PutStep, Step } from './step';
import { readSteps } from './steps';

/** One step of a read-me, with what the app makes of it. */
export interface ChecklistItem {
  /** The line, counted from 1, of the read-me or of the page that the player pasted. */
  line: number;
  from: 'read-me' | 'page';
  /** What it says there, shortened. */
  text: string;
  /**
   * `placed`: the placement does it. `settings`: it waits in Settings. `yours`: for the player to do. `unclear`: not
   * understood.
   */
  state: 'placed' | 'settings' | 'yours' | 'unclear';
  says: string;
  /**
   * It is so in the game now, as far as the app can see; what is the player’s to do is done when the player says so.
   */
  done: boolean;
}

/** Steps that still wait for the player: to be put into settings, to be done, to be read. */
export const openSteps = (steps: readonly ChecklistItem[]): number =>
  steps.filter(({ state, done }) => state !== 'placed' && !done).length;

interface ChecklistInput {
  entries: readonly PackEntry[];
  card: GameCard;
  gameFiles: readonly string[];
  readMe: { path: string; text: string };
  placement: Placement;
  /** What `proposeSettings` found in the same read-me. */
  proposals: readonly SettingProposal[];
  /** Is a setting in the game’s files as it is asked for? */
  isSet?: (one: SettingProposal) => boolean;
  /** All that the placement does is in the game and verified. */
  deployed?: boolean;
  /** Texts of steps that the player has ticked. */
  ticked?: readonly string[];
  /** From this line on (counted from 1) it is the text of the page that the pack came from. */
  pageFrom?: number | undefined;
}

const MOST = 40;
const LONGEST = 200;

const BY_HAND = {
  'close the game': 'Yours to do, before anything is deployed.',
  'start the game': 'Yours to do, in the game.',
  'in the game': 'Yours to do, in the game’s own menu.',
  needs: 'Look whether you have it: Bring in says what a pack needs.',
  harmful: 'The app never does this. Think twice before you do.',
  'back up': 'The app keeps every original before it writes.',
} as const;

/** A read-me as a list of steps: done by the placement, waiting in Settings, or for the player to do. */
export function checklistOf(input: ChecklistInput): ChecklistItem[] {
  const { readMe, ticked = [], pageFrom } = input;
  const lines = readMe.text.split(/\r\n|\n|\r/);
  const at: At = (line) => ({ line, from: 'read-me', text: textAt(lines, line) });
  const proposed = proposalItems(input, at);
  const found = [...proposed, ...stepItems(input, new Set(proposed.map(({ line }) => line)), at)];
  found.push(...unclearItems(readMe.text, new Set(found.map(({ line }) => line)), at));
  for (const item of found)
    if (item.state === 'yours' || item.state === 'unclear') item.done = ticked.includes(item.text);
  if (pageFrom !== undefined)
    for (const item of found)
      if (item.line >= pageFrom) Object.assign(item, { from: 'page', line: item.line - pageFrom + 1 });
  return inOrder(found).slice(0, MOST);
}

type At = (line: number) => Pick<ChecklistItem, 'line' | 'from' | 'text'>;

const proposalItems = ({ card, proposals, isSet = () => false }: ChecklistInput, at: At): ChecklistItem[] =>
  proposals.map((one) => {
    const done = isSet(one);
    const name = nameOf(one, card);
    const waits = `waits in Settings${one.kind === 'launch option' ? ', in the launch line' : ''}.`;
    return { ...at(one.line), state: 'settings', says: `${name}: ${done ? 'it is so.' : waits}`, done };
  });

/** @param settled lines of which Settings has something */
function stepItems(input: ChecklistInput, settled: ReadonlySet<number>, at: At): ChecklistItem[] {
  const { entries, card, gameFiles, readMe, placement, deployed = false } = input;
  const roots = card.roots.map(({ id }) => id);
  const ground = { entries, tree: gameTreeOf(roots, gameFiles), roots: card.roots, title: card.title };
  const whole = wholeTarget(placement);
  const targets = placeFiles(entries, placement);
  return readSteps(readMe.text, ground).flatMap((step) => {
    const item = itemOf(step, targets, whole);
    if (!item || (item.state === 'yours' && settled.has(step.line))) return [];
    return [{ ...item, ...at(step.line), done: item.state === 'placed' && deployed }];
  });
}

/** Sentences that tell to do something, and that nothing above has heard. */
function unclearItems(text: string, heard: Set<number>, at: At): ChecklistItem[] {
  const found: ChecklistItem[] = [];
  for (const { text: said, line } of sentencesOf(text)) {
    if (heard.has(line) || !TELLS.test(said) || said.length > LONGEST) continue;
    heard.add(line);
    const says = 'The app does not understand this one. Read it, and tick it when it is done.';
    found.push({ ...at(line), text: said.slice(0, LONGEST), state: 'unclear', says, done: false });
  }
  return found;
}

const STATE_ORDER = { settings: 0, placed: 1, yours: 2, unclear: 3 };

/** As they stand in the read-me and then on the page, each said once. */
function inOrder(found: ChecklistItem[]): ChecklistItem[] {
  const sorted = found.sort(
    (a, b) =>
      Number(a.from === 'page') - Number(b.from === 'page') ||
      a.line - b.line ||
      STATE_ORDER[a.state] - STATE_ORDER[b.state],
  );
  const seen = new Set<string>();
  return sorted.filter(({ line, from, says }) => {
    const key = `${from} ${line} ${says}`;
    return !seen.has(key) && seen.add(key);
  });
}

const textAt = (lines: readonly string[], line: number): string => (lines[line - 1] ?? '').trim().slice(0, LONGEST);

function nameOf(one: SettingProposal, { settings }: Pick<GameCard, 'settings'>): string {
  if (one.kind === 'launch option') return `Start with ${one.option}`;
  if (one.kind === 'numbered section') return `A new section [${one.section} …]`;
  if (one.value !== '') return `${one.path.join(' › ')} = ${one.value}`;
  const asked = nameAsked(one.path, settings.find(({ target }) => target === one.file)?.dialect);
  return asked.slice(0, 1).toUpperCase() + asked.slice(1);
}

/** A sentence that tells the reader to do something, by the verb that it begins with. */
const TELLS =
  /^(?:\W|\d+[.)]|step \d+:?|then|now|next|finally|first|also|and|please|after that,?|optional(?:ly)?[:,]?|\s)*(?:put|place|copy|move|drag|drop|extract|unzip|unpack|install|set|change|edit|rename|delete|remove|replace|overwrite|add|append|turn|switch|enable|disable|activate|open|select|choose|press|click|download|merge|run|create|make sure|paste|kopier\p{L}*|verschieb\p{L}*|entpack\p{L}*|setz\p{L}*|änder\p{L}*|lösch\p{L}*|ersetz\p{L}*|öffn\p{L}*|wähl\p{L}*|cop[iy]\p{L}*|mueve|extrae|cambia|pon|abre|elige|copiez|déplacez|changez|mettez|ouvrez|choisissez)(?!\p{L})/iu;

const NO_SUCH_PLACE =
  'This game’s settings files have no such place that the app knows. Set it yourself where you know it belongs.';

/** What is said of steps that the player has to look after; some need nothing. */
const STEP_SAYS: Record<Exclude<Step['kind'], 'put' | 'keep zipped' | 'by hand'>, string | undefined> = {
  'choose one': 'Place asks which parts you want.',
  optional: 'Place asks which parts you want.',
  key: NO_SUCH_PLACE,
  attribute: NO_SUCH_PLACE,
  'launch option': NO_SUCH_PLACE,
  'numbered section': NO_SUCH_PLACE,
  'new folder': undefined,
  'do not': undefined,
};

function itemOf(
  step: Step,
  targets: readonly { path: string; target: TargetPath; inside?: string }[],
  whole: TargetPath | undefined,
): Pick<ChecklistItem, 'state' | 'says'> | undefined {
  switch (step.kind) {
    case 'put':
      return follows(step, targets, whole)
        ? { state: 'placed', says: 'The placement does this.' }
        : { state: 'yours', says: 'The app does not place it so. See Place, and change it there if this is meant.' };
    case 'keep zipped':
      return whole !== undefined || step.what.length > 0 ? { state: 'placed', says: 'It stays zipped.' } : undefined;
    case 'by hand':
      return { state: step.what === 'back up' ? 'placed' : 'yours', says: BY_HAND[step.what] };
    default: {
      const says = STEP_SAYS[step.kind];
      return says === undefined ? undefined : { state: 'yours', says };
    }
  }
}

/** Does what the step names come to lie where it says? */
function follows(
  { what, folders, files }: PutStep,
  targets: readonly { path: string; target: TargetPath }[],
  whole: TargetPath | undefined,
): boolean {
  const goals = [...folders, ...files].map(nameKey);
  if (whole !== undefined) return goals.some((goal) => isUnder(nameKey(whole), goal));
  const meant = targets.filter(({ path }) => what.length === 0 || what.some((one) => isUnder(path, one)));
  return meant.length > 0 && meant.some(({ target }) => goals.some((goal) => isUnder(nameKey(target), goal)));
}
