import { figure, oneOr } from '../words';
import picomatch from 'picomatch';
import type { DeployedState } from '../deploy/model';
import type { GameCard, GameSwitch } from '../games/card';
import { nameKey } from '../paths/paths';
import { shownPlace } from '../paths/search';
import type { Finding } from './finding';
import { saidLoaded } from './plainLog';
import type { LogReading } from './readLog';

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
export function diagnose({ card, state, switches, log, pending, found = [] }: DiagnoseInput): Finding[] {
  const findings: Finding[] = [];
  const counted = countedFiles(card, state);
  const loaded = loadedFiles(card, log);
  for (const one of switches) {
    if (one.on || one.neededBy === 0) continue;
    const { game, value } = one;
    const where = `${game.path.join(' › ')} in ${shownPlace(game.file, card.roots)}`;
    findings.push({
      id: `switch-off:${game.id}`,
      level: 'wrong',
      title: `“${game.title}” is off`,
      about: `${game.file} › ${game.path.join(' › ')}`,
      evidence: `${where} is ${value === undefined ? 'not there' : value}; ${figure(one.neededBy)} files of your packs need it to be ${game.on}.`,
      cause: game.why,
      fixes: [
        {
          kind: 'edit',
          label: `Turn “${game.title}” on`,
          file: game.file,
          edit: { path: [...game.path], value: game.on },
        },
      ],
    });
  }
  findings.push(...found);
  if (pending > 0)
    findings.push({
      id: 'pending',
      level: 'note',
      title: oneOr(
        pending,
        '1 change is not in the game folder yet',
        `${figure(pending)} changes are not in the game folder yet`,
      ),
      evidence: `The plan on the Deploy page lists ${oneOr(pending, 'it', 'them')}.`,
      cause: 'The game only sees what has been deployed.',
      fixes: [{ kind: 'deploy', label: 'Look at the plan' }],
    });
  const { ends } = card.log ?? {};
  if (log && ends !== undefined && !log.messages.some(({ rule }) => rule === ends))
    findings.push({
      id: 'ended-early',
      level: 'wrong',
      weight: 'stops',
      title: 'The game stopped before it was ready',
      evidence: `The log ends after ${figure(log.lines)} lines, without the line that a good start ends with.`,
      cause:
        'Something that was loaded last stopped it, and it did not say what. Textures above the limit do that; the packs’ warnings name them. If nothing is named, find it by halves.',
      fixes: [],
    });
  if (loaded !== undefined && counted > 0) {
    const all = loaded >= counted;
    findings.push({
      id: 'loaded',
      level: all ? 'good' : 'wrong',
      title: all
        ? `All ${figure(counted)} files of your packs were loaded`
        : loaded === 0
          ? `None of your packs’ ${figure(counted)} files was loaded`
          : `Only ${figure(loaded)} of your packs’ ${figure(counted)} files were loaded`,
      evidence: `The game’s log says ${figure(loaded)}; ${figure(counted)} are deployed.`,
      cause: all
        ? 'Each of them was found and accepted.'
        : loaded === 0
          ? 'Either a switch is off or the game looks in another folder.'
          : 'Some files were not found or not accepted; the log’s warnings name them.',
      fixes: [],
    });
  }
  const said = log && loaded === undefined ? saidLoaded(log.messages) : undefined;
  const mine = new Set(state.files.flatMap(({ layer, living }) => (living ? [] : [layer]))).size;
  if (said && mine > 0) {
    const none = said.count === 0;
    findings.push({
      id: 'said-loaded',
      level: none ? 'wrong' : 'note',
      title: `The game says that it loaded ${figure(said.count)} ${said.what}`,
      evidence: `Line ${figure(said.line)} of its log: “${said.text}”. Of your packs ${oneOr(mine, 'one is', `${figure(mine)} are`)} in the game.`,
      cause: none
        ? 'Either a switch is off or the game looks in another folder.'
        : 'What it counts need not be what you count: its own can be among them.',
      fixes: [],
    });
  }
  const seen = new Set<string>();
  const once = findings.filter(({ id, about, level }) => {
    // What the log and the checks both say is one thing, with one cause.
    // Two messages of the log are two things, whatever they name.
    const [own, other] = id.startsWith('log:plain:') ? ['log', 'check'] : ['check', 'log'];
    const thing = about === undefined || level !== 'wrong' ? undefined : nameKey(about);
    const alike =
      thing !== undefined && (seen.has(`${other} ${thing}`) || (own === 'check' && seen.has(`check ${thing}`)));
    if (seen.has(`id ${id}`) || alike) return false;
    seen.add(`id ${id}`);
    if (thing !== undefined) seen.add(`${own} ${thing}`);
    return true;
  });
  return once.sort((a, b) => rankOf(a) - rankOf(b));
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
