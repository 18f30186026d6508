import {
  checkBefore, compareRuns, countedFiles, decodeText, diagnose, editFates, fittingRules, halve, knownFindings, leftOutOf, loadedFiles, makeReport, markOf, nameKey, ofLastStart, openSettings, readLongLog, readsByForm, shortages, textsForChecks, traceMessages, troublesOf, whatCameOf,
  type Finding, type KnownFacts, type LogMessage, type LogReading, type LogRule, type PresentFile, type WorkOptions,
} from '@/core';
import type { ApartView, CheckView, GivenLog, LogView, PackView, SettingsMore } from './api';
import { futureGame, presentGame } from './games';
import { originalOf } from './merging';
import type { Picture, Session } from './session';
import { futureDocument } from './settingsCommands';
import { contentAt } from './story';

/** Characters of a log, and messages, that are sent to be shown. */
const SHOWN = { characters: 60_000, messages: 2000 };
/** Texts larger than this (bytes) are not looked into. */
const LARGEST_TEXT = 512 * 1024;
/** Pictures that browsers draw. */
const DRAWABLE = /\.(png|jpe?g|gif|webp|bmp)$/i;
const MOST_PICTURES = 12;
/** Left-out files that are looked through for what a log misses. */
const MOST_LEFT_OUT = 5000;

/** The game's own text files that packs replace. */
async function hiddenTexts(session: Session, files: readonly PresentFile[]): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  for (const { target, layer } of files) {
    if (layer === undefined || !session.game.card.texts.some(({ into, ending }) => nameKey(target).startsWith(`${nameKey(into)}/`) && target.toLowerCase().endsWith(ending))) continue;
    const original = await originalOf(session, target, session.picture.state);
    if (original && original.length < LARGEST_TEXT) found.set(nameKey(target), decodeText(original).text);
  }
  return found;
}

const before = new WeakMap<Picture, Promise<Finding[]>>();

/** What will not work, known before the game starts; found once for each picture. */
function beforeStart(session: Session): Promise<Finding[]> {
  const { picture } = session;
  const known = before.get(picture) ?? look();
  before.set(picture, known);
  return known;

  async function look(): Promise<Finding[]> {
    const { card } = session.game;
    const files = futureGame(session);
    const layers = new Map(files.map(({ target, layer }) => [target, layer]));
    const texts = new Map<string, string>();
    for (const target of textsForChecks(card, files)) {
      const bytes = await contentAt(session, target, layers.get(target) ?? 'now').catch(() => undefined);
      if (bytes && bytes.length < LARGEST_TEXT) texts.set(nameKey(target), decodeText(bytes).text);
    }
    const settings = picture.settingsFiles.map((file) => ({ file, document: picture.settings.has(file.target) || picture.resolution.living.has(nameKey(file.target)) ? futureDocument(session, file.target) : openSettings('', file.dialect) }));
    return checkBefore({ card, files, texts, originals: await hiddenTexts(session, files), settings, nameOf: session.nameOf });
  }
}

async function traceInput(session: Session, rules: readonly LogRule[]) {
  const files = presentGame(session);
  const leftOut: { layer: string; path: string }[] = [];
  for (const layer of session.packLayers()) {
    if (!layer.on) continue;
    const { pack } = await session.openPack(layer.packId);
    for (const [path, why] of leftOutOf(layer.placement, pack.entries)) if (why !== 'stays inside the archive' && leftOut.length < MOST_LEFT_OUT) leftOut.push({ layer: layer.id, path });
  }
  return { card: session.game.card, rules, files, leftOut, originals: await hiddenTexts(session, files), nameOf: session.nameOf };
}

const isTrouble = ({ level }: LogMessage): boolean => level === 'warning' || level === 'error';

/** @param before so many lines are of earlier starts: what came since stands first */
const logView = (target: string, reading: LogReading, text: string, before = 0): LogView => ({
  target, lines: reading.lines, before, text: text.slice(0, SHOWN.characters), byForm: reading.byForm,
  messages: [...reading.messages].sort((a, b) => Number(b.last > before) - Number(a.last > before) || (reading.byForm ? Number(isTrouble(b)) - Number(isTrouble(a)) : 0) || a.first - b.first).slice(0, SHOWN.messages), unknown: reading.unknown, unknownLines: reading.unknownLines,
});

function apartView(session: Session): ApartView | undefined {
  const { apart } = session.stack;
  if (!apart) return undefined;
  const named = (ids: readonly string[]) => ids.map((layer) => ({ layer, name: session.nameOf(layer) }));
  const step = apart.why === 'halving' ? halve(apart.suspects, apart.answers) : undefined;
  return { why: apart.why, step, starts: apart.answers.length, on: named(session.packLayers().filter(({ on }) => on).map(({ id }) => id)), culprits: step?.next === 'found' ? named(step.culprits) : step?.next === 'more' ? named(step.among) : [], pending: session.picture.plan.steps.length > 0 };
}

/** What the game's log says of its last start. */
const lastStart = ({ log }: Picture): LogReading | undefined => log && ofLastStart(log.reading, log.since);

export const rulesOf = (session: Session): readonly LogRule[] => session.game.card.log?.rules ?? [];

/** Keys that packs want different values for. What the player wants is no quarrel: it is the last word. */
function foughtOver({ picture, nameOf }: Session): KnownFacts['fought'] {
  return [...picture.resolution.living.values()].flatMap(({ target, edits }) => {
    const byKey = new Map<string, typeof edits>();
    for (const edit of edits) byKey.set(edit.path.join('\n'), [...(byKey.get(edit.path.join('\n')) ?? []), edit]);
    return [...byKey.values()].flatMap((wants) => {
      const [first] = wants;
      const settled = wants.some(({ layer }) => layer.startsWith('edits:')) || wants.every(({ value }) => value === first?.value);
      return first === undefined || settled ? [] : [{ file: target, path: [...first.path], wants: wants.map(({ layer, value }) => ({ by: nameOf(layer), value })) }];
    });
  });
}

/** Disks too full for what waits, with the packs that bring most of it. */
async function shortOfRoom({ picture, workshop, nameOf }: Session): Promise<KnownFacts['short']> {
  const short = await shortages(picture.plan, workshop);
  if (short.length === 0) return [];
  const bytes = new Map<string, number>();
  for (const { after, layer, size } of picture.plan.steps) if (after.kind === 'pack' && layer !== undefined) bytes.set(layer, (bytes.get(layer) ?? 0) + size);
  const packs = [...bytes].map(([layer, sum]) => ({ layer, name: nameOf(layer), bytes: sum })).sort((a, b) => b.bytes - a.bytes);
  return short.map((one) => ({ ...one, packs }));
}

/** Pictures that were there before and are another's now: what a player looks at after the start. */
const replacedPictures = ({ picture, nameOf }: Session): CheckView['pictures'] =>
  picture.state.files
    .filter(({ target, original, living }) => !living && original.kind === 'kept' && DRAWABLE.test(target))
    .sort((a, b) => b.size - a.size)
    .slice(0, MOST_PICTURES)
    .map(({ target, layer }) => ({ target, by: nameOf(layer) }));

/** Everything the check page shows. */
export async function checkView(session: Session, packs: readonly PackView[], more: SettingsMore): Promise<CheckView> {
  const { picture, game, stack } = session;
  const tried = stack.triedAfter === (picture.ledger[0]?.number ?? 0);
  // A real game is started by the player: its log counts where it is from after the latest deployment.
  const fresh = picture.log !== undefined && (game.card.trial === undefined ? picture.log.modified >= (picture.ledger[0]?.at ?? 0) : tried);
  const reading = fresh ? lastStart(picture) : undefined;
  const silent = game.card.trial !== undefined && tried && picture.log === undefined;
  const known = await beforeStart(session);
  const traced = reading ? traceMessages(reading.messages, await traceInput(session, rulesOf(session))) : [];
  const crash: Finding[] = silent ? [{ id: 'silent', level: 'wrong', title: 'The game ended without writing a line', evidence: `There is no ${game.card.log?.target ?? 'log'} after the last start.`, cause: 'Something that is loaded early stops it. Nothing says what, so it is found by halves.', fixes: [] }] : [];
  const facts = { unlisted: more.needs, lost: more.lost, advice: more.memory.advice, fought: foughtOver(session), short: await shortOfRoom(session), drifted: picture.plan.drifted.length, packs: packs.filter(({ on }) => on).map(({ layer, name, placement }) => ({ layer, name, warnings: placement.warnings })) };
  const all = diagnose({ card: game.card, state: picture.state, switches: picture.switches, log: reading, pending: picture.plan.steps.length, found: [...crash, ...traced, ...known, ...knownFindings(facts, known)] });
  const asideIds = new Set(stack.aside.map(({ id }) => id));
  const [last, earlier] = [stack.runs.at(-1), stack.runs.at(-2)];
  return {
    canTry: game.card.trial !== undefined, findings: all.filter(({ id }) => !asideIds.has(id)), aside: stack.aside.filter(({ id }) => all.some((finding) => finding.id === id)),
    counted: countedFiles(game.card, picture.state), loaded: loadedFiles(game.card, reading), fresh, silent,
    log: picture.log && logView(game.card.log?.target ?? '', picture.log.reading, picture.log.text, picture.log.since),
    runs: stack.runs, pictures: replacedPictures(session), changes: last && earlier ? compareRuns(earlier, last) : [], apart: apartView(session),
  };
}

/** What came of the game's last start, as a sentence. */
export function cameOf({ picture, game }: Session): { level: 'note' | 'wrong'; says: string } {
  const reading = lastStart(picture);
  return whatCameOf({
    title: game.card.title, problems: reading && troublesOf(reading.messages).length, counted: countedFiles(game.card, picture.state), loaded: loadedFiles(game.card, reading),
    fates: editFates(picture.state, picture.settings), sorted: picture.sorted.length, drifted: picture.plan.drifted.length,
  });
}

/** Remembers what a start of the game came to. */
export async function noteRun(session: Session, at = Date.now()): Promise<void> {
  const { picture, stack, game } = session;
  const reading = lastStart(picture);
  const mark = picture.log && (await markOf(picture.log.text, picture.log.reading));
  const messages = reading ? troublesOf(reading.messages).slice(0, 500) : [{ rule: 'silent', level: 'error' as const, says: 'The game ended without writing a line.', count: 1 }];
  const loaded = loadedFiles(game.card, reading);
  await session.saveStack({ runs: [...stack.runs, { at, after: picture.ledger[0]?.number ?? 0, counted: countedFiles(game.card, picture.state), messages, ...(loaded === undefined ? {} : { loaded }), ...(mark ? { mark } : {}) }].slice(-30) });
}

/** Reads a log that was dropped or pasted: with the rules of this game, or of another game that knows more of it, or general ones. */
export async function readGiven(session: Session, others: readonly { title: string; rules: readonly LogRule[]; trace?: string | undefined }[], name: string, log: Blob | string, options: WorkOptions): Promise<GivenLog> {
  const text = typeof log === 'string' ? log : decodeText(new Uint8Array(await log.arrayBuffer())).text;
  const { card } = session.game;
  const own = { title: card.title, rules: card.log?.rules ?? [], trace: card.log?.trace };
  const set = fittingRules(text, [own, ...others.filter(({ title }) => title !== card.title)]) ?? { title: '', rules: [], trace: undefined };
  const reading = await readLongLog(text, set.rules, { ...options, trace: set.trace, ...(readsByForm(set) ? { plain: { endings: await session.endings(session.picture.listing) } } : {}) });
  return { name, rulesOf: set.title, log: logView(name, reading, text), findings: traceMessages(reading.messages, await traceInput(session, set.rules)).slice(0, 200) };
}

/** The report as Markdown. */
export function reportOf(session: Session, view: { packs: readonly PackView[]; check: CheckView; overlapping: number }): string {
  const { picture, game } = session;
  const { check } = view;
  return makeReport({
    app: 'Tidy Satchel', game: game.card.title, at: Date.now(), overlaps: view.overlapping, findings: check.findings, aside: check.aside, loaded: check.loaded, counted: check.counted,
    packs: view.packs.map(({ name, file, on, files, deployed, overlaps }) => ({ name, file, on, files, deployed, ...overlaps })),
    edits: [...picture.resolution.living.values()].flatMap(({ target, edits }) => edits.map(({ path, value, layer }) => ({ file: target, path, value, by: layer.startsWith('edits:') ? 'by the player' : `by “${session.nameOf(layer)}”` }))),
    log: check.log,
  });
}
