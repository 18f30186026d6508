import { dialectByName } from '../settings/dialects';
import { baseName, extensionOf, isUnder, parentOf, target } from '../paths/paths';
import { kindOf } from '../media/kinds';
import { gameCardSchema, type GameCard } from './card';

/** What the app found in a game's folder, for the player to confirm. */
export interface FolderReading {
  card: GameCard;
  /** Folders with many files of one kind, the largest first. */
  kinds: { folder: string; kind: string; files: number }[];
  settings: string[];
  logs: string[];
  /** Reasons for what was proposed, as sentences. */
  reasons: string[];
}

const USER_FOLDER = /^(user|userdata|user[ _-]?data|profile|profiles|save|saves|saved|config|settings|documents?)$/i;

/**
 * Proposes a game card from a folder as it is: roots, kinds of folder, settings files and log. Everything is a proposal; the
 * player confirms it or changes it.
 *
 * @param files paths relative to the picked folder
 */
export function cardFromFolder(id: string, title: string, files: readonly { path: string; size: number }[]): FolderReading {
  const root = 'game';
  const programs = files.filter(({ path }) => !path.includes('/') && (kindOf(path) === 'program' || extensionOf(path) === 'bin'));
  const byFolder = new Map<string, Map<string, number>>();
  for (const { path } of files) {
    const kinds = byFolder.get(parentOf(path)) ?? new Map<string, number>();
    byFolder.set(parentOf(path), kinds.set(kindOf(path), (kinds.get(kindOf(path)) ?? 0) + 1));
  }
  const kinds = [...byFolder].flatMap(([folder, counts]) => [...counts].filter(([kind, count]) => count > 1 && kind !== 'other').map(([kind, count]) => ({ folder, kind, files: count }))).sort((a, b) => b.files - a.files || (a.folder < b.folder ? -1 : 1)).slice(0, 30);
  // XML and JSON can as well be data of the game, which packs do replace.
  const isSettings = (path: string) => dialectByName(path) === 'ini';
  const settings = files.filter(({ path, size }) => isSettings(path) && size > 0 && size < 32 * 1024 * 1024).map(({ path }) => path).sort((a, b) => a.split('/').length - b.split('/').length || (a < b ? -1 : 1)).slice(0, 20);
  const logs = files.filter(({ path }) => extensionOf(path) === 'log' || /(^|[^a-z])log\.txt$/i.test(baseName(path))).map(({ path }) => path).sort((a, b) => a.length - b.length || (a < b ? -1 : 1)).slice(0, 10);
  const user = [...new Set(files.map(({ path }) => path.split('/')[0] as string))].find((name) => USER_FOLDER.test(name) && files.some(({ path }) => isUnder(path, name) && path !== name));
  const reasons: string[] = [];
  if (programs.length > 0) reasons.push(`“${baseName(programs[0]?.path ?? '')}” looks like the program, so this is taken to be the program folder.`);
  if (user) reasons.push(`The folder “${user}” looks like the one for user data; it is inside, so it needs no root of its own.`);
  if (settings.length > 0) reasons.push(`${settings.length === 1 ? 'One settings file was' : `${settings.length} settings files were`} found; packs will never replace ${settings.length === 1 ? 'it' : 'them'}, only edit values.`);
  if (logs.length > 0) reasons.push(`“${logs[0]}” looks like the game’s log.`);
  const card = gameCardSchema.parse({
    card: 1, id, title,
    roots: [{ id: root, title: programs.length > 0 ? 'Program folder' : 'Game folder', markers: programs.slice(0, 1).map(({ path }) => path) }],
    settings: settings.map((path) => ({ target: target(root, path), dialect: 'ini', title: baseName(path) })),
    ...(logs[0] === undefined ? {} : { log: { target: target(root, logs[0]) } }),
  });
  return { card, kinds, settings, logs, reasons };
}

/**
 * The card with one more root, for a folder that lies elsewhere: where the game keeps the player's settings, for instance. Its
 * settings files and its log are added.
 *
 * @returns the card, the new root's id, and reasons for what was proposed
 */
export function cardWithFolder(card: GameCard, title: string, files: readonly { path: string; size: number }[]): { card: GameCard; root: string; reasons: string[] } {
  const taken = new Set(card.roots.map(({ id }) => id));
  const root = ['user', ...Array.from({ length: 50 }, (_, i) => `folder-${i + 2}`)].find((id) => !taken.has(id)) ?? 'folder';
  const { card: read, settings, logs } = cardFromFolder(card.id, title, files);
  const moved = (of: string) => root + of.slice('game'.length);
  return {
    root,
    reasons: [...(settings.length > 0 ? [`${settings.length === 1 ? 'One settings file was' : `${settings.length} settings files were`} found in it.`] : []), ...(logs[0] === undefined ? [] : [`“${logs[0]}” in it looks like the game’s log.`])],
    card: gameCardSchema.parse({
      ...card,
      roots: [...card.roots, { id: root, title }],
      settings: [...card.settings, ...read.settings.map((one) => ({ ...one, target: moved(one.target) }))],
      ...(card.log || !read.log ? {} : { log: { ...read.log, target: moved(read.log.target) } }),
    }),
  };
}
