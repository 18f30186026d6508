import { openSettings } from '../settings/openSettings';
import { checkPath, joinPath, splitTarget, type TargetPath } from '../paths/paths';
import type { GameCard } from './card';

/** Where a root really is. */
export interface LocatedRoot {
  root: string;
  /** Inside another root's folder; undefined for the folder that was given for it. */
  inside?: { root: string; path: string };
  /** Why it is elsewhere. */
  why?: string;
  /** A place outside all known folders that the player has to give to the app. */
  outside?: string;
}

/** What `locateRoots` has to know of the folders as they were given. */
export interface LookAround {
  has(target: TargetPath): Promise<boolean>;
  read(target: TargetPath): Promise<string | undefined>;
}

/**
 * Finds where a game's roots really are: beside the program where a portable marker lies there, or where the program's
 * own settings say. A relative place is taken from the folder of the settings file; an absolute one cannot be reached
 * from here and is named, so that the player can pick it.
 */
export async function locateRoots(card: GameCard, look: LookAround): Promise<LocatedRoot[]> {
  const found: LocatedRoot[] = [];
  for (const { id, elsewhere } of card.roots) {
    let located: LocatedRoot = { root: id };
    for (const { marker, setting, at, why } of elsewhere) {
      if (marker && at && (await look.has(marker))) {
        const { root, path } = splitTarget(at);
        located = { root: id, inside: { root, path }, why };
        break;
      }
      if (!setting) continue;
      const text = await look.read(setting.file);
      const value =
        text === undefined
          ? undefined
          : openSettings(text, setting.dialect)
              .get(setting.path)
              ?.replace(/^"(.*)"$/, '$1')
              .trim();
      if (!value) continue;
      const { root } = splitTarget(setting.file);
      const checked = checkPath(value.replaceAll('\\', '/').replace(/\/+$/, ''));
      located = checked.ok
        ? { root: id, inside: { root, path: joinPath(checked.path) }, why }
        : { root: id, outside: value, why };
      break;
    }
    found.push(located);
  }
  return found;
}

/**
 * What switching a root to its portable place would do, told before it is done: undefined where the card knows none.
 */
export function explainPortable(
  card: GameCard,
  root: string,
): { marker: TargetPath; at: TargetPath; why: string; moves: string } | undefined {
  const one = card.roots.find(({ id }) => id === root)?.elsewhere.find(({ marker, at }) => marker && at);
  return one?.marker && one.at
    ? {
        marker: one.marker,
        at: one.at,
        why: one.why,
        moves: one.moves ?? 'What lies in the old folder stays there and is not used any more.',
      }
    : undefined;
}
