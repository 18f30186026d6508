import { throwIfAborted } from '../errors';
import type { GameCard } from '../games/card';
import type { Statement } from '../games/statement';
import { kindOf } from '../media/kinds';
import { buildGameTree } from '../names/gameTree';
import { knowledgeOf } from '../names/knowledge';
import { baseName, extensionOf, nameKey } from '../paths/paths';
import type { Progress } from '../progress';
import { noteCandidates, noteOf, speaksByName, type GameNote } from './gameNotes';
import { namesOfIds } from './idNames';
import { logFormOf, readsAsLog } from './logForm';
import { MOST_READ, settingsCandidates, settingsFrom } from './settingsStudy';
import { merged, statementsOf } from './statements';
import type { Studied } from './studied';
import { cardOf, profilesOf } from './studiedCard';

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

/**
 * Gets to know a game by its folders: from names, sizes and small texts to statements with evidence, and from those
 * that hold the game card. The first folder is the game's. It never writes, and reads at most a few hundred small
 * texts.
 *
 * @throws DOMException `AbortError` where the signal says so
 */
export async function studyGame(
  folders: readonly StudiedFolder[],
  options: StudyOptions = {},
): Promise<{ card: GameCard; statements: Statement[] }> {
  const { signal, onProgress } = options;
  const studied: Studied = {
    ...namesOf(folders, onProgress),
    inside: options.inside ?? new Map(),
    spoken: spokenOf(options.packs ?? []),
  };
  throwIfAborted(signal);
  const read = readerOf(folders);
  const named = new Set(studied.spoken.keys());
  const { read: wanted, large: unread } = settingsCandidates(studied.sizes, studied.knowledge, named);
  const texts = new Map<string, string>();
  for (const [i, target] of wanted.entries()) {
    throwIfAborted(signal);
    const found = await read(target);
    if (typeof found !== 'string') texts.set(target, found.text);
    else if (found === 'no reader') unread.push(target);
    if ((i + 1) % 20 === 0)
      onProgress?.({
        phase: 'Reading its settings',
        done: i + 1,
        total: Math.min(MOST_READ, wanted.length),
        unit: 'files',
      });
  }
  studied.notes = await notesOf(studied, read, signal);
  // Some logs are called otherwise, and are known by their lines.
  if (studied.logs.length === 0)
    studied.logs = wanted.filter((target) => readsAsLog(texts.get(target) ?? '')).slice(0, 1);
  studied.logForm = await formOfLog(studied, read);
  return conclude(studied, texts, unread, options);
}

/** A file's text. One that cannot be read teaches nothing. */
type Read = (target: string) => Promise<{ text: string } | 'cannot be read' | 'no reader'>;

function readerOf(folders: readonly StudiedFolder[]): Read {
  const byId = new Map(folders.map((folder) => [folder.id, folder]));
  return async (target) => {
    const cut = target.indexOf('/');
    const read = byId.get(target.slice(0, cut))?.read;
    if (!read) return 'no reader';
    const text = await read(target.slice(cut + 1)).catch(() => undefined);
    return text === undefined ? 'cannot be read' : { text };
  };
}

const textOf = async (target: string, read: Read): Promise<string | undefined> => {
  const found = await read(target);
  return typeof found === 'string' ? undefined : found.text;
};

/** Notes that the game's folders hold for who adds to them, one for each folder. */
async function notesOf({ sizes }: Studied, read: Read, signal: AbortSignal | undefined): Promise<GameNote[]> {
  const notes: GameNote[] = [];
  for (const target of noteCandidates(sizes)) {
    throwIfAborted(signal);
    const text = (await textOf(target, read)) ?? (speaksByName(target) ? '' : undefined);
    const note = text === undefined ? undefined : noteOf(target, text);
    if (note && !notes.some(({ folder }) => folder === note.folder)) notes.push(note);
  }
  return notes;
}

async function formOfLog({ logs: [log], sizes }: Studied, read: Read): Promise<Studied['logForm']> {
  const size = sizes.find(({ target }) => target === log)?.size ?? Infinity;
  return log === undefined || size > LARGEST_LOG ? undefined : logFormOf((await textOf(log, read)) ?? '');
}

/** The same from names and sizes alone. */
export function studyNames(
  folders: readonly Omit<StudiedFolder, 'read'>[],
  options: StudyOptions = {},
): { card: GameCard; statements: Statement[]; studied: Studied } {
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
  for (const { name, readMe } of packs)
    readMe?.text
      .slice(0, 64 * 1024)
      .split(/\r\n|\n|\r/)
      .forEach((text, i) => {
        for (const [word] of text.matchAll(/[\p{L}\p{N}_-][\p{L}\p{N}_. -]{0,60}\.[a-z][a-z0-9]{1,7}\b/giu))
          for (const file of [word, word.slice(word.lastIndexOf(' ') + 1)])
            if (!found.has(nameKey(file)))
              found.set(nameKey(file), { pack: name, line: i + 1, text: text.trim().slice(0, 200) });
      });
  return found;
}

const PROGRAMS = new Set(['exe', 'app', 'bin', 'x86_64', 'sh']);

/** A file beside the program that keeps everything in its folder. */
const PORTABLE = /^portable(?:[ _-]?mode)?(?:\.(?:txt|ini|cfg|dat))?$/i;

const isLog = (path: string): boolean => {
  const ending = extensionOf(path);
  return ending === 'log' || (ending === 'txt' && /(^|[^a-z])log\.txt$/i.test(baseName(path)));
};

const withTexture = (known: Studied['textures'], target: string, size: number): NonNullable<Studied['textures']> => ({
  largest: known && known.bytes >= size ? known.largest : target,
  bytes: Math.max(known?.bytes ?? 0, size),
  files: (known?.files ?? 0) + 1,
});

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
      if (isLog(path)) logs.push(target);
      if (i === 0 && PROGRAMS.has(extensionOf(path))) programs.push(target);
      if (i === 0 && PORTABLE.test(path)) portable = target;
      const kind = kindOf(path);
      if (kind === 'texture' || kind === 'picture') textures = withTexture(textures, target, size);
    }
    onProgress?.({ phase: 'Looking at the game’s folders', done: sizes.length, total: sizes.length, unit: 'files' });
  });
  const tree = buildGameTree(
    folders.map(({ id }) => id),
    targets,
  );
  const shallow = (a: string, b: string) => a.split('/').length - b.split('/').length || (a < b ? -1 : 1);
  return {
    tree,
    knowledge: knowledgeOf(tree),
    roots: folders.map(({ id, title }) => ({ id, title })),
    sizes,
    idNames: new Map(),
    notes: [],
    settings: [],
    profiles: undefined,
    logs: logs.sort(shallow).slice(0, 10),
    programs: programs.sort(shallow).slice(0, 5),
    portable,
    textures,
    inside: new Map(),
    logForm: undefined,
    spoken: new Map(),
  };
}

function conclude(
  studied: Studied,
  texts: ReadonlyMap<string, string>,
  unread: readonly string[],
  { title, answers = [] }: StudyOptions,
): { card: GameCard; statements: Statement[] } {
  studied.settings = settingsFrom(texts, unread, studied, new Set(studied.spoken.keys()));
  studied.idNames = namesOfIds(texts, studied.knowledge.ids);
  studied.profiles = profilesOf(studied);
  const statements = merged(statementsOf(studied), answers);
  return { card: cardOf(studied, statements, title), statements };
}
