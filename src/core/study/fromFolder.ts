import { gameCardSchema, type GameCard } from '../games/card';
import { kindOf } from '../media/kinds';
import { parentOf } from '../paths/paths';
import { studyNames } from './studyGame';

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

const ROOT = 'game';

const inside = (target: string): string => target.slice(target.indexOf('/') + 1);

/**
 * Proposes a game card from a folder as it is, from names and sizes alone: roots, kinds of folder, settings files and
 * log. `studyGame` does the same with the texts. Everything is a proposal; the player confirms it or changes it.
 *
 * @param files paths relative to the picked folder
 */
export function cardFromFolder(
  id: string,
  title: string,
  files: readonly { path: string; size: number }[],
): FolderReading {
  const { card, statements, studied } = studyNames([{ id: ROOT, title: ROOT, files }], { title });
  const byFolder = new Map<string, Map<string, number>>();
  for (const { path } of files) {
    const kinds = byFolder.get(parentOf(path)) ?? new Map<string, number>();
    byFolder.set(parentOf(path), kinds.set(kindOf(path), (kinds.get(kindOf(path)) ?? 0) + 1));
  }
  const kinds = [...byFolder]
    .flatMap(([folder, counts]) =>
      [...counts]
        .filter(([kind, count]) => count > 1 && kind !== 'other')
        .map(([kind, count]) => ({ folder, kind, files: count })),
    )
    .sort((a, b) => b.files - a.files || (a.folder < b.folder ? -1 : 1))
    .slice(0, 30);
  const roots = card.roots.map((root) => ({ ...root, title: rootTitle(studied.programs.length > 0) }));
  return {
    card: { ...card, id, title, roots },
    kinds,
    settings: card.settings.map(({ target }) => inside(target)),
    logs: studied.logs.map(inside),
    reasons: statements
      .filter(({ about }) => about.what !== 'root')
      .map(({ says }) => says)
      .slice(0, 40),
  };
}

/** What the game's own folder is called: where the program lies in it, or not. */
export const rootTitle = (program: boolean): string => (program ? 'Program folder' : 'Game folder');

/**
 * The card with one more root, for a folder that lies elsewhere: where the game keeps the player's settings, for
 * instance. Its settings files and its log are added.
 *
 * @returns the card, the new root's id, and reasons for what was proposed
 */
export function cardWithFolder(
  card: GameCard,
  title: string,
  files: readonly { path: string; size: number }[],
): { card: GameCard; root: string; reasons: string[] } {
  const root = freeRoot(card);
  const { card: found, statements } = studyNames([{ id: root, title, files }]);
  return {
    root,
    card: joinCards(card, found),
    reasons: statements
      .filter(({ about }) => about.what !== 'root')
      .map(({ says }) => says)
      .slice(0, 40),
  };
}

/** An id for one more root. */
export function freeRoot(card: GameCard): string {
  const taken = new Set(card.roots.map(({ id }) => id));
  return ['user', ...Array.from({ length: 50 }, (_, i) => `folder-${i + 2}`)].find((id) => !taken.has(id)) ?? 'folder';
}

/**
 * A card with the roots, settings, profiles and log of a folder that was studied by itself; what the card has already
 * stays.
 */
export const joinCards = (card: GameCard, found: GameCard): GameCard =>
  gameCardSchema.parse({
    ...card,
    roots: [...card.roots, ...found.roots.map(({ id, title }) => ({ id, title }))],
    settings: [...card.settings, ...found.settings],
    ...(card.profiles || !found.profiles ? {} : { profiles: found.profiles }),
    ...(card.log || !found.log ? {} : { log: found.log }),
  });
