import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import { baseName, foldersAbove, keysOf, nameKey, parentOf, type TargetPath, fillTarget } from '../paths/paths';
import { openSettings } from '../settings/openSettings';
import type { Dialect } from '../settings/dialects';
import { ask, emptyResult, type Context, type PlacedPart, type PoolResult } from './context';
import type { PlaceRule } from '../placed/placement';
import type { GameTree } from '../names/gameTree';
import { packFolders, sharedFolder } from '../placed/packFolders';
import { ownTitles } from './titles';

const PROFILE = '{profile}';
const TITLE = '{title}';

/** The names of the game's user profiles: the folders inside the card's profile folder. */
function profilesOf(context: { card: Context['card']; tree: GameTree }): string[] {
  const folder = context.card.profiles?.folder;
  if (!folder) return [];
  const key = nameKey(folder);
  return [...context.tree.folders]
    .filter(([other]) => parentOf(other) === key)
    .map(([, path]) => baseName(path))
    .sort();
}

/** A settings file of the game as it really is: for one profile, for one title. */
export type SettingsFile = Omit<GameCard['settings'][number], 'target' | 'over'> & {
  target: TargetPath;
  over?: TargetPath | undefined;
};

/**
 * The card's settings files with the profiles that are there put in for `{profile}`, and the player's titles for
 * `{title}`.
 */
export function settingsTargets(card: GameCard, gameFiles: readonly string[]): SettingsFile[] {
  const files = keysOf(gameFiles);
  const titles =
    card.titles?.known.filter(({ id }) => files.has(nameKey((card.titles?.found ?? '').replace('{id}', id)))) ?? [];
  const folder = card.profiles && nameKey(card.profiles.folder);
  const profiles = new Map<string, string>();
  if (folder)
    for (const file of gameFiles)
      if (nameKey(file).startsWith(`${folder}/`)) {
        const name = file.slice(folder.length + 1).split('/');
        if (name.length > 1) profiles.set(nameKey(name[0] as string), name[0] as string);
      }
  return card.settings.flatMap(({ target, over, ...file }): SettingsFile[] => {
    const fill = (mark: string, name: string, title: string): SettingsFile => ({
      ...file,
      title: `${file.title}: ${title}`,
      target: fillTarget(target, mark, name),
      ...(over === undefined ? {} : { over: fillTarget(over, mark, name) }),
    });
    if (target.includes(PROFILE))
      return [...profiles.values()].sort().map((profile) => fill(PROFILE, profile, profile));
    if (target.includes(TITLE)) return titles.map(({ id, title }) => fill(TITLE, id, title));
    return [{ ...file, target, ...(over === undefined ? {} : { over }) }];
  });
}

/**
 * A pack's settings file as edits of the game's own: a key that stands twice counts once, as the game reads it, the
 * last time.
 */
export function asEdits(
  path: string,
  text: string,
  target: TargetPath,
  dialect: Dialect,
): { rule: PlaceRule; part: PlacedPart } {
  const all = openSettings(text, dialect)
    .entries()
    .map((entry) => ({ path: entry.path, value: entry.value }));
  const edits = [...new Map(all.map((edit) => [nameKey(edit.path.join('\n')), edit])).values()];
  const reason = `The game and you write into “${baseName(target)}”, so its ${edits.length} values become edits of your own file; everything else in it stays.`;
  return {
    rule: { as: 'edits', from: path, to: target, edits },
    part: { mode: 'edits', from: path, to: target, files: 1, reason },
  };
}

/** `named`: its name is that of one title, which no other file has. */
type Declared = GameCard['settings'][number] & { named: boolean };

/** The card's settings files by their names; a file for one title bears that title's id. */
function settingsByName(context: Context): Map<string, Declared[]> {
  const { titles, settings } = context.card;
  const ids = titles ? ownTitles(titles, context.tree).map(({ id }) => id) : [];
  const byName = new Map<string, Declared[]>();
  for (const file of settings)
    for (const target of file.target.includes(TITLE)
      ? ids.map((id) => fillTarget(file.target, TITLE, id))
      : [file.target]) {
      const key = nameKey(baseName(target));
      byName.set(key, [...(byName.get(key) ?? []), { ...file, target, named: baseName(file.target).includes(TITLE) }]);
    }
  return byName;
}

/** Folders of a pack with nothing in them but such files, all the way down: they only say whom they are for. */
function settingsOnly(
  entries: readonly PackEntry[],
  isSettings: (path: string) => boolean,
): (folder: string) => boolean {
  const others = foldersAbove(entries.map(({ path }) => path).filter((path) => !isSettings(path)));
  return (folder) => !others.has(folder);
}

/**
 * Settings files that come with a pack become edits of the game's own file; it is never replaced unasked. A name alone
 * says little: the folders above it must be those of the game's file, unless that lies at the top of a root and the
 * pack's file at the top of the pack.
 */
export function placeSettings(entries: readonly PackEntry[], context: Context): PoolResult {
  const result = emptyResult();
  const rest: PackEntry[] = [];
  const byName = settingsByName(context);
  if (!packFolders(entries).some(({ fileKeys }) => fileKeys.some((key) => byName.has(key))))
    return { ...result, rest: entries };
  const onlySettings = settingsOnly(entries, (path) => byName.has(nameKey(baseName(path))));
  const wrapper = sharedFolder(entries);
  for (const entry of entries) {
    const folder = parentOf(entry.path);
    const isWrapper = folder === wrapper || onlySettings(folder);
    // A folder that the game has, too, says where the rest belongs.
    const atTop = isWrapper && !folder.split('/').some((name) => context.tree.foldersByName.has(nameKey(name)));
    const file = meantFile(entry.path, byName.get(nameKey(baseName(entry.path))) ?? [], atTop);
    if (!file) {
      rest.push(entry);
      continue;
    }
    const text = context.texts.get(entry.path);
    if (text === undefined) {
      result.leftOut.push({ path: entry.path, why: 'settings the game writes itself' });
      continue;
    }
    for (const target of targetsFor(file.target, entry.path, context)) {
      const { rule, part } = asEdits(entry.path, text, target, file.dialect);
      result.rules.push(rule);
      result.parts.push(part);
    }
  }
  return { ...result, rest };
}

/** Which of the settings files of that name a pack's file is for. */
function meantFile(path: string, files: readonly Declared[], atTop: boolean): Declared | undefined {
  const key = `/${nameKey(path)}`;
  const fits = files.filter(({ target, named }) => {
    // Which profile is meant is asked where it is not said.
    if (named || target.includes(PROFILE)) return true;
    const inside = nameKey(target.slice(target.indexOf('/')));
    return inside.lastIndexOf('/') > 0 ? key.endsWith(inside) : atTop;
  });
  return fits.length === 1 ? fits[0] : undefined;
}

function targetsFor(target: TargetPath, path: string, context: Context): TargetPath[] {
  if (!target.includes(PROFILE)) return [target];
  const profiles = profilesOf(context);
  const named = profiles.filter((profile) => path.split('/').some((name) => nameKey(name) === nameKey(profile)));
  const fits = named.length === 1 ? named : profiles;
  const chosen =
    fits.length === 1
      ? fits
      : ask(
          context,
          {
            id: `profiles:${path}`,
            kind: 'any',
            title: `Whose “${baseName(path)}” is to be changed?`,
            why: 'The game keeps one for each user profile.',
            options: profiles.map((profile) => ({ id: profile, label: profile, says: 'a profile of yours' })),
            suggested: profiles,
          },
          false,
        );
  return chosen.map((profile) => fillTarget(target, PROFILE, profile));
}
