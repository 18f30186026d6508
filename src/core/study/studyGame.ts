import { throwIfAborted } from '../errors';
import { gameCardSchema, type GameCard } from '../games/card';
import { baseName, extensionOf, isUnder, nameKey, parentOf } from '../paths/paths';
import { buildGameTree, type GameTree } from '../placement/gameTree';
import type { Progress } from '../progress';
import { kindOf } from '../media/kinds';
import { idForm } from './ids';
import { namesOfIds, type IdName } from './idNames';
import { knowledgeOf, type Family, type Knowledge } from './knowledge';
import { noteCandidates, noteOf, type GameNote } from './gameNotes';
import { logFormOf, readsAsLog, type LogForm } from './logForm';
import { MOST_READ, namesFoldersIn, namingKeys, numberedIn, searchOrderIn, settingsCandidates, settingsFrom, thingOf, type FoundSettings } from './settingsStudy';
import { merged, statementsOf } from './statements';
import type { Statement } from './statement';

/** One of a game's folders, as it is given to the study. */
export interface StudiedFolder {
  id: string;
  title: string;
  files: Iterable<{ path: string; size: number }>;
  /** The text of a file; undefined where it is none, or cannot be read. */
  read?(path: string): Promise<string | undefined>;
}

export interface StudyOptions {
  title?: string;
  /** What the player said before: refused statements stay refused, confirmed ones count as card. */
  answers?: readonly Statement[];
  /** Packs that are here: of which files their read-mes speak. */
  packs?: readonly { name: string; readMe?: { path: string; text: string } | undefined }[];
  /** The paths inside the game's own archives, by the archive's target. */
  inside?: ReadonlyMap<string, readonly string[]>;
  signal?: AbortSignal;
  onProgress?: (progress: Progress) => void;
}

/** What a study works on: names and sizes of all folders, and the texts that were read. */
export interface Studied {
  tree: GameTree;
  knowledge: Knowledge;
  roots: { id: string; title: string }[];
  sizes: { target: string; size: number }[];
  /** What ids are called, by key. */
  idNames: ReadonlyMap<string, IdName>;
  /** What the game's own notes say of the folders they lie in. */
  notes: readonly GameNote[];
  settings: FoundSettings[];
  profiles: { folder: string; names: string[]; family: Family } | undefined;
  logs: string[];
  programs: string[];
  /** A file beside the program that keeps the player's files in the game's own folder. */
  portable: string | undefined;
  textures: { largest: string; bytes: number; files: number } | undefined;
  inside: ReadonlyMap<string, readonly string[]>;
  logForm: LogForm | undefined;
  /** Names of files of which read-mes speak: the pack and the line. */
  spoken: ReadonlyMap<string, { pack: string; line: number; text: string }>;
}

/**
 * Gets to know a game by its folders: from names, sizes and small texts to statements with evidence, and from those that
 * hold the game card. The first folder is the game's. It never writes, and reads at most a few hundred small texts.
 *
 * @throws DOMException `AbortError` where the signal says so
 */
export async function studyGame(folders: readonly StudiedFolder[], options: StudyOptions = {}): Promise<{ card: GameCard; statements: Statement[] }> {
  const { signal, onProgress } = options;
  const studied: Studied = { ...namesOf(folders, onProgress), inside: options.inside ?? new Map(), spoken: spokenOf(options.packs ?? []) };
  throwIfAborted(signal);
  const { read: wanted, large: unread } = settingsCandidates(studied.sizes, studied.knowledge, new Set(studied.spoken.keys()));
  const texts = new Map<string, string>();
  const byId = new Map(folders.map((folder) => [folder.id, folder]));
  let done = 0;
  for (const target of wanted) {
    throwIfAborted(signal);
    const cut = target.indexOf('/');
    const read = byId.get(target.slice(0, cut))?.read;
    const text = await read?.(target.slice(cut + 1)).catch(() => undefined);
    if (text !== undefined) texts.set(target, text);
    else if (!read) unread.push(target);
    if (++done % 20 === 0) onProgress?.({ phase: 'Reading its settings', done, total: Math.min(MOST_READ, wanted.length), unit: 'files' });
  }
  const notes: GameNote[] = [];
  for (const target of noteCandidates(studied.sizes)) {
    throwIfAborted(signal);
    const text = await byId.get(target.slice(0, target.indexOf('/')))?.read?.(target.slice(target.indexOf('/') + 1)).catch(() => undefined);
    const note = text === undefined ? undefined : noteOf(target, text);
    if (note && !notes.some(({ folder }) => folder === note.folder)) notes.push(note);
  }
  studied.notes = notes;
  // Some logs are called otherwise, and are known by their lines.
  if (studied.logs.length === 0) studied.logs = wanted.filter((target) => readsAsLog(texts.get(target) ?? '')).slice(0, 1);
  const [log] = studied.logs;
  const size = studied.sizes.find(({ target }) => target === log)?.size ?? Infinity;
  if (log !== undefined && size <= LARGEST_LOG) studied.logForm = logFormOf((await byId.get(log.slice(0, log.indexOf('/')))?.read?.(log.slice(log.indexOf('/') + 1)).catch(() => undefined)) ?? '');
  return conclude(studied, texts, unread, options);
}

/** The same from names and sizes alone. */
export function studyNames(folders: readonly Omit<StudiedFolder, 'read'>[], options: StudyOptions = {}): { card: GameCard; statements: Statement[]; studied: Studied } {
  const studied = namesOf(folders);
  return { ...conclude(studied, new Map(), namedOnly(studied), options), studied };
}

function namedOnly({ sizes, knowledge }: Studied): string[] {
  const { read, large } = settingsCandidates(sizes, knowledge);
  return [...read, ...large];
}

/** Larger logs are not read for their form, in bytes. */
const LARGEST_LOG = 4 * 1024 * 1024;

/** The files that read-mes name, each with the first line that does. */
function spokenOf(packs: NonNullable<StudyOptions['packs']>): Studied['spoken'] {
  const found = new Map<string, { pack: string; line: number; text: string }>();
  for (const { name, readMe } of packs) readMe?.text.slice(0, 64 * 1024).split(/\r\n|\n|\r/).forEach((text, i) => {
    for (const [word] of text.matchAll(/[\p{L}\p{N}_-][\p{L}\p{N}_. -]{0,60}\.[a-z][a-z0-9]{1,7}\b/giu))
      for (const file of [word, word.slice(word.lastIndexOf(' ') + 1)]) if (!found.has(nameKey(file))) found.set(nameKey(file), { pack: name, line: i + 1, text: text.trim().slice(0, 200) });
  });
  return found;
}

const PROGRAMS = new Set(['exe', 'app', 'bin', 'x86_64', 'sh']);

function namesOf(folders: readonly StudiedFolder[], onProgress?: (progress: Progress) => void): Studied {
  const sizes: { target: string; size: number }[] = [];
  const targets: string[] = [];
  const logs: string[] = [];
  const programs: string[] = [];
  let portable: string | undefined;
  let textures: Studied['textures'];
  folders.forEach(({ id, files }, i) => {
    for (const { path, size } of files) {
      const target = `${id}/${path}`;
      sizes.push({ target, size });
      targets.push(target);
      const ending = extensionOf(path);
      if (ending === 'log' || (ending === 'txt' && /(^|[^a-z])log\.txt$/i.test(baseName(path)))) logs.push(target);
      if (i === 0 && PROGRAMS.has(ending)) programs.push(target);
      if (i === 0 && !path.includes('/') && /^portable(?:[ _-]?mode)?(?:\.(?:txt|ini|cfg|dat))?$/i.test(path)) portable = target;
      const kind = kindOf(path);
      if (kind === 'texture' || kind === 'picture') textures = { largest: textures && textures.bytes >= size ? textures.largest : target, bytes: Math.max(textures?.bytes ?? 0, size), files: (textures?.files ?? 0) + 1 };
    }
    onProgress?.({ phase: 'Looking at the game’s folders', done: sizes.length, total: sizes.length, unit: 'files' });
  });
  const tree = buildGameTree(folders.map(({ id }) => id), targets);
  const shallow = (a: string, b: string) => a.split('/').length - b.split('/').length || (a < b ? -1 : 1);
  return { tree, knowledge: knowledgeOf(tree), roots: folders.map(({ id, title }) => ({ id, title })), sizes, idNames: new Map(), notes: [], settings: [], profiles: undefined, logs: logs.sort(shallow).slice(0, 10), programs: programs.sort(shallow).slice(0, 5), portable, textures, inside: new Map(), logForm: undefined, spoken: new Map() };
}

function conclude(studied: Studied, texts: ReadonlyMap<string, string>, unread: readonly string[], { title, answers = [] }: StudyOptions): { card: GameCard; statements: Statement[] } {
  studied.settings = settingsFrom(texts, unread, studied.knowledge, new Set(studied.spoken.keys()));
  studied.idNames = namesOfIds(texts, studied.knowledge.ids);
  studied.profiles = profilesOf(studied);
  const statements = merged(statementsOf(studied), answers);
  return { card: cardOf(studied, statements, title), statements };
}

/** Folders named after people: each has the same settings file, and their names are no ids. */
function profilesOf({ knowledge, settings, tree, roots }: Studied): Studied['profiles'] {
  const held = new Map<Family, Set<string>>();
  for (const { target } of settings) {
    const folder = nameKey(parentOf(target));
    const family = knowledge.familyOf.get(folder);
    if (family) held.set(family, (held.get(family) ?? new Set()).add(folder));
  }
  for (const [family, members] of held) {
    const names = [...family.members].map((member) => baseName(tree.folders.get(member) ?? member));
    const inUser = !isUnder(family.folder, roots[0]?.id ?? 'game') || /(?:profiles?|players?|users?|saves?)$/i.test(family.folder);
    if (inUser && members.size >= 2 && members.size === family.members.size && names.every((name) => idForm(name) === undefined)) return { folder: family.folder, names: names.sort(), family };
  }
  return undefined;
}

/** The statements that hold, as a card. */
function cardOf({ roots, settings, programs, tree, profiles, knowledge }: Studied, statements: readonly Statement[], title?: string): GameCard {
  const holds = new Set(statements.filter(({ standing }) => standing !== 'refused').map(({ id }) => id));
  const first = roots[0];
  const log = statements.find((one) => one.about.what === 'log' && holds.has(one.id));
  const thing = (target: string) => thingOf(target, knowledge, first?.id ?? 'game');
  const told = settings.filter(({ target }) => holds.has(`settings:${target}`) || holds.has(`things:${thing(target)?.folder ?? ''}/${baseName(target)}`));
  const files = told.map((file) => {
    const numbered = holds.has(`numbered:${file.target}`) ? numberedIn(file, tree) : undefined;
    const search = holds.has(`search:${file.target}`) ? searchOrderIn(file, tree, roots) : undefined;
    const keys = namingKeys(file, tree).slice(0, 50).map(({ path, list, folder }) => ({ path, type: 'text' as const, ...(list === undefined ? {} : { list }), names: folder, meaning: namesFoldersIn(folder) }));
    return {
      target: file.target, dialect: file.dialect, title: file.title.slice(0, 80), keys: keys.filter(({ path }) => path.length <= 8 && path.every((name) => name !== '')),
      ...(search && search.path.length <= 8 ? { search: { entry: search.path, from: search.root, ...(search.each === undefined ? {} : { each: search.each }) } } : {}),
      ...(numbered ? { numbered: { section: numbered.section.slice(0, 40), first: numbered.first, ...(numbered.key === undefined || numbered.inside === undefined ? {} : { folder: numbered.key.slice(0, 80), inside: numbered.inside }) } } : {}),
    };
  });
  const markers = programs.slice(0, 1).map((program) => program.slice(program.indexOf('/') + 1));
  const made = {
    card: 1 as const, id: idOf(title ?? first?.title ?? 'game'), title: (title ?? first?.title ?? 'Game').slice(0, 80),
    roots: roots.map(({ id, title: called }, i) => ({ id, title: called.slice(0, 80) || id, ...(i === 0 && markers.length > 0 ? { markers } : {}) })),
    settings: files,
    ...(profiles && holds.has(`profiles:${profiles.folder}`) ? { profiles: { folder: profiles.folder } } : {}),
    ...(log && log.about.what === 'log' ? { log: { target: log.about.file } } : {}),
  };
  // A name that a card cannot hold is left out of it rather than losing all the rest.
  const whole = gameCardSchema.safeParse(made);
  if (whole.success) return whole.data;
  const plain = files.map(({ target, dialect, title: called }) => ({ target, dialect, title: called }));
  const careful = { ...made, settings: plain.filter((file) => gameCardSchema.safeParse({ ...made, settings: [file], log: undefined, profiles: undefined }).success) };
  const again = gameCardSchema.safeParse(careful);
  return again.success ? again.data : gameCardSchema.parse({ card: 1, id: made.id, title: made.title, roots: roots.map(({ id, title: called }) => ({ id, title: called.slice(0, 80) || id })) });
}

const idOf = (title: string): string => title.normalize('NFKD').toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '').slice(0, 60) || 'game';
