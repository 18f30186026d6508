import picomatch from 'picomatch';
import type { DeployedState } from '../deploy/model';
import type { GameCard, GameSwitch } from '../games/card';
import { nameKey } from '../paths/paths';
import type { Finding } from './finding';
import { findingOf } from './findingOf';
import { saidLoaded } from './plainLog';
import type { LogReading } from './readLog';
import type { Trouble } from './trouble';
import { namesIn } from './wordsFor';

/** A switch of the game with its value as it is. */
export interface SwitchState {
  game: GameSwitch;
  /** The value in the file; undefined where the key or the file is not there. */
  value: string | undefined;
  on: boolean;
  /** Files of packs, deployed or about to be, that do not load without it. */
  neededBy: number;
}

/** The state of every switch of a card. `valueOf` reads the settings files as they are. */
export function switchStates(
  card: GameCard,
  targets: Iterable<string>,
  valueOf: (game: GameSwitch) => string | undefined,
): SwitchState[] {
  const counters = card.switches.map((game) => ({ game, fits: picomatch(game.needs, { nocase: true }), count: 0 }));
  for (const target of targets) for (const counter of counters) if (counter.fits(target)) counter.count++;
  return counters.map(({ game, count }) => {
    const value = valueOf(game);
    return { game, value, on: value === game.on, neededBy: count };
  });
}

/** The layers that bring something which does not load without a switch. */
export function layersNeeding(
  one: GameSwitch,
  files: Iterable<{ target: string; layers: readonly string[] }>,
): string[] {
  const fits = picomatch(one.needs, { nocase: true });
  const found = new Set<string>();
  for (const { target, layers } of files)
    if (!layers.every((layer) => found.has(layer)) && fits(target)) layers.forEach((layer) => found.add(layer));
  return [...found];
}

export interface DiagnoseInput {
  card: GameCard;
  state: DeployedState;
  switches: readonly SwitchState[];
  /** What the last trial run wrote; undefined before the first. */
  log: LogReading | undefined;
  /** Changes not deployed yet. */
  pending: number;
  /** The last start wrote no line at all, where there is a log otherwise. */
  silent?: boolean;
  /** What the checks before the start and the tracing of the log found. */
  found?: readonly Finding[];
}

const RANK: Record<Finding['level'], number> = { wrong: 1, note: 3, good: 4 };

/** The worst first. */
const rankOf = ({ level, weight }: Finding): number =>
  level !== 'wrong' ? RANK[level] : weight === 'stops' ? 0 : weight === 'light' ? 2 : RANK.wrong;

/**
 * What is wrong, what is right, and what to do: the most pressing first. Of two findings with one id the first one
 * counts.
 */
export function diagnose({ found = [], ...input }: DiagnoseInput): Finding[] {
  const names = namesIn(input.card);
  const told = (troubles: readonly Trouble[]) => troubles.map((trouble) => findingOf(trouble, names));
  const all = [
    ...told([...switchesOff(input.switches), ...silentStart(input)]),
    ...found,
    ...told([...waiting(input.pending), ...ofStart(input)]),
  ];
  return once(all).sort((a, b) => rankOf(a) - rankOf(b));
}

const switchesOff = (switches: readonly SwitchState[]): Trouble[] =>
  switches.flatMap(({ game, value, on, neededBy }): Trouble[] => {
    if (on || neededBy === 0) return [];
    const { id, title, file, path, why } = game;
    return [
      {
        kind: 'switch off',
        id: `switch-off:${id}`,
        level: 'wrong',
        about: `${file} › ${path.join(' › ')}`,
        title,
        file,
        path,
        on: game.on,
        value,
        neededBy,
        why,
      },
    ];
  });

const silentStart = ({ card, silent = false }: Pick<DiagnoseInput, 'card' | 'silent'>): Trouble[] =>
  silent ? [{ kind: 'silent', id: 'silent', level: 'wrong', weight: 'stops', log: card.log?.target ?? 'log' }] : [];

const waiting = (pending: number): Trouble[] =>
  pending === 0 ? [] : [{ kind: 'pending', id: 'pending', level: 'note', pending }];

/** What the log says of the start as a whole. */
function ofStart({ card, state, log }: Pick<DiagnoseInput, 'card' | 'state' | 'log'>): Trouble[] {
  if (!log) return [];
  const found: Trouble[] = [];
  const { ends } = card.log ?? {};
  if (ends !== undefined && !log.messages.some(({ rule }) => rule === ends))
    found.push({ kind: 'ended early', id: 'ended-early', level: 'wrong', weight: 'stops', lines: log.lines });
  const counted = countedFiles(card, state);
  const loaded = loadedFiles(card, log);
  if (loaded !== undefined && counted > 0)
    found.push({ kind: 'loaded', id: 'loaded', level: loaded >= counted ? 'good' : 'wrong', loaded, counted });
  const said = loaded === undefined ? saidLoaded(log.messages) : undefined;
  const packs = new Set(state.files.flatMap(({ layer, living }) => (living ? [] : [layer]))).size;
  if (said && packs > 0)
    found.push({ kind: 'said loaded', id: 'said-loaded', level: said.count === 0 ? 'wrong' : 'note', ...said, packs });
  return found;
}

/**
 * What the log and the checks both say is one thing, with one cause. Two messages of the log are two things, whatever
 * they name.
 */
function once(findings: readonly Finding[]): Finding[] {
  const seen = new Set<string>();
  return findings.filter(({ id, about, level }) => {
    const [own, other] = id.startsWith('log:plain:') ? ['log', 'check'] : ['check', 'log'];
    const thing = about === undefined || level !== 'wrong' ? undefined : nameKey(about);
    const alike =
      thing !== undefined && (seen.has(`${other} ${thing}`) || (own === 'check' && seen.has(`check ${thing}`)));
    if (seen.has(`id ${id}`) || alike) return false;
    seen.add(`id ${id}`);
    if (thing !== undefined) seen.add(`${own} ${thing}`);
    return true;
  });
}

/** Deployed files that the number in the log is compared with. */
export function countedFiles(card: GameCard, state: DeployedState): number {
  const fits = picomatch(card.log?.counts ?? [], { nocase: true });
  return new Set(
    state.files.filter(({ target, living }) => !living && fits(target)).map(({ target }) => nameKey(target)),
  ).size;
}

/** The number of pack files that the log says were loaded; undefined where it says nothing of the kind. */
export function loadedFiles(card: GameCard, log: LogReading | undefined): number | undefined {
  const by = card.log?.loaded;
  const said = by && log?.messages.filter(({ rule }) => rule === by.rule).sort((a, b) => b.last - a.last)[0];
  const value = said && Number(said.fields[by.field]);
  return value === undefined || Number.isNaN(value) ? undefined : value;
}
