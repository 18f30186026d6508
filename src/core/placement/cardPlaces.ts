import picomatch from 'picomatch';
import type { PackEntry } from '../archives/pack';
import type { PlaceMode } from '../games/card';
import { baseName, isUnder, joinPath, nameKey } from '../paths/paths';
import { packFolders, sharedFolder } from '../placed/packFolders';
import type { Forced } from './byEvidence';
import { emptyResult, slugOf, type Context, type PoolResult } from './context';

type Place<M extends PlaceMode['mode']> = Extract<PlaceMode, { mode: M }>;

export const placesOf = <M extends PlaceMode['mode']>({ card }: Context, mode: M): Place<M>[] =>
  card.places.filter((place): place is Place<M> => place.mode === mode);

export const matcher = (globs: readonly string[]): ((path: string) => boolean) =>
  picomatch([...globs], { nocase: true, dot: true });

/** A name for a folder that has to be made: the pack's own last wrapper, else the download's name. */
const folderName = (folder: string, into: string, context: Context): string =>
  folder === '' || nameKey(baseName(folder)) === nameKey(baseName(into)) ? slugOf(context.name) : baseName(folder);

/** Add-ons by their marker file: each folder that holds one goes under the add-on folder, whatever stood above it. */
export function placeMarked(entries: readonly PackEntry[], context: Context): PoolResult | undefined {
  for (const place of placesOf(context, 'own-folder')) {
    if (!place.marker) continue;
    const marker = nameKey(place.marker);
    // A marker inside another add-on's folder belongs to that one.
    const found = packFolders(entries)
      .filter(({ fileKeys }) => fileKeys.includes(marker))
      .map(({ path }) => path)
      .sort((a, b) => a.length - b.length);
    const folders = found.filter((folder, i) => !found.slice(0, i).some((above) => isUnder(folder, above)));
    if (folders.length === 0) continue;
    const result = emptyResult();
    for (const folder of folders) {
      const inside = entries.filter(({ path }) => isUnder(path, folder));
      const to = joinPath(place.into, folderName(folder, place.into, context));
      result.rules.push({ as: 'files', from: folder, to });
      result.parts.push({
        mode: 'own-folder',
        from: folder,
        to,
        files: inside.length,
        reason: `It has a “${place.marker}”, so it is an add-on. ${place.why}`,
      });
    }
    result.rest = entries.filter(({ path }) => !folders.some((folder) => isUnder(path, folder)));
    return result;
  }
  return undefined;
}

/**
 * Places that the card knows for parts of a pack, each to be weighed against what the game's folders and the read-me
 * say.
 */
export const placesOfTheCard = (entries: readonly PackEntry[], context: Context): Forced[] => [
  ...placesOf(context, 'loose').flatMap((place) => loosePlaces(entries, place)),
  ...placesOf(context, 'own-folder').flatMap((place) => [
    ...markedPlaces(entries, place, context),
    ...wholePlaces(entries, place, context),
    ...partPlaces(entries, place, context),
  ]),
  ...placesOf(context, 'into-archive').flatMap((place) => archivePlaces(entries, place)),
];

function loosePlaces(entries: readonly PackEntry[], place: Place<'loose'>): Forced[] {
  const fits = matcher(place.files);
  const matching = entries.filter(({ path }) => fits(baseName(path)));
  // Two files cannot both get the one fixed name.
  if (place.as !== undefined && matching.length > 1) return [];
  return matching.map(({ path }) => ({
    node: path,
    to: joinPath(place.into, place.as ?? baseName(path)),
    mode: 'loose',
    says: `${place.title}: ${place.why}`,
  }));
}

const ownFolder = (node: string, place: Place<'own-folder'>, context: Context) => ({
  node,
  to: joinPath(place.into, folderName(node, place.into, context)),
  mode: 'own-folder' as const,
});

/** Add-ons by their marker file. */
function markedPlaces(entries: readonly PackEntry[], place: Place<'own-folder'>, context: Context): Forced[] {
  if (place.marker === undefined) return [];
  const marker = nameKey(place.marker);
  const says = `It has a “${place.marker}”, so it is an add-on. ${place.why}`;
  return packFolders(entries)
    .filter(({ fileKeys }) => fileKeys.includes(marker))
    .map(({ path }) => ({ ...ownFolder(path, place, context), says }));
}

/** Each pack, whatever it is. */
function wholePlaces(entries: readonly PackEntry[], place: Place<'own-folder'>, context: Context): Forced[] {
  if (place.marker !== undefined || place.parts.length > 0) return [];
  const says = `Each pack gets a folder of its own there. ${place.why}`;
  return [{ ...ownFolder(sharedFolder(entries), place, context), kind: 'cardKind', says }];
}

/** A pack that holds mostly what add-ons hold. */
function partPlaces(entries: readonly PackEntry[], place: Place<'own-folder'>, context: Context): Forced[] {
  const parts = new Set(place.parts.map(nameKey));
  const top = sharedAbove(entries, (name) => parts.has(nameKey(name)));
  const inside = entries.filter(({ path }) => isUnder(path, top));
  const partOf = ({ path }: PackEntry) =>
    nameKey((top === '' ? path : path.slice(top.length + 1)).split('/')[0] as string);
  const fits = inside.filter((entry) => parts.has(partOf(entry)));
  // What the game has itself, too, is laid over that.
  const isOwn = (part: string) =>
    (context.tree.foldersByName.get(part) ?? []).some((folder) => !isUnder(folder, nameKey(place.into)));
  if (fits.length === 0 || fits.length * 2 < inside.length || fits.some((entry) => isOwn(partOf(entry)))) return [];
  const says = `It holds what add-ons hold, so it gets a folder of its own. ${place.why}`;
  return [{ ...ownFolder(top, place, context), kind: 'cardKind', says }];
}

function archivePlaces(entries: readonly PackEntry[], place: Place<'into-archive'>): Forced[] {
  const from = foldersInside(entries, place);
  if (from === undefined) return [];
  const says = `Its folders are those inside the game’s archive “${baseName(place.archive)}”, so its files go into that archive, which is kept first. ${place.why}`;
  return [{ node: from, to: place.archive, inside: '', mode: 'inside', kind: 'cardKind', says }];
}

/** The folder of a pack under which most paths are those of an archive of the game. */
function foldersInside(entries: readonly PackEntry[], place: Place<'into-archive'>): string | undefined {
  const fits = matcher(place.entries);
  const votes = new Map<string, number>();
  for (const { path } of entries) {
    const names = path.split('/');
    const at = names.findIndex((_, i) => fits(names.slice(i).join('/')));
    if (at >= 0) votes.set(names.slice(0, at).join('/'), (votes.get(names.slice(0, at).join('/')) ?? 0) + 1);
  }
  const best = [...votes].sort((a, b) => b[1] - a[1] || a[0].length - b[0].length)[0];
  return best && best[1] * 2 >= entries.length ? best[0] : undefined;
}

/** The folder above the first one whose name is wanted, where all files with such a folder agree on it. */
function sharedAbove(entries: readonly PackEntry[], wanted: (name: string) => boolean): string {
  for (const { path } of entries) {
    const names = path.split('/').slice(0, -1);
    const at = names.findIndex(wanted);
    if (at >= 0) return names.slice(0, at).join('/');
  }
  return sharedFolder(entries);
}
