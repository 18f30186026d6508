import picomatch from 'picomatch';
import type { PackEntry } from '../archives/pack';
import type { PlaceMode } from '../games/card';
import { kindOf } from '../media/kinds';
import { baseName, isUnder, joinPath, nameKey, parentOf, stemOf, type TargetPath } from '../paths/paths';
import type { Forced } from './byEvidence';
import { emptyResult, slugOf, type Context, type PoolResult } from './context';
import { sharedFolder } from './overTree';
import { packFolders } from './packFolders';

type Place<M extends PlaceMode['mode']> = Extract<PlaceMode, { mode: M }>;
export const placesOf = <M extends PlaceMode['mode']>({ card }: Context, mode: M): Place<M>[] => card.places.filter((place): place is Place<M> => place.mode === mode);

const matcher = (globs: readonly string[]): ((path: string) => boolean) => picomatch([...globs], { nocase: true, dot: true });

/** A name for a folder that has to be made: the pack's own last wrapper, else the download's name. */
const folderName = (folder: string, into: string, context: Context): string => (folder === '' || nameKey(baseName(folder)) === nameKey(baseName(into)) ? slugOf(context.name) : baseName(folder));

/** Add-ons by their marker file: each folder that holds one goes under the add-on folder, whatever stood above it. */
export function placeMarked(entries: readonly PackEntry[], context: Context): PoolResult | undefined {
  for (const place of placesOf(context, 'own-folder')) {
    if (!place.marker) continue;
    const marker = nameKey(place.marker);
    // A marker inside another add-on's folder belongs to that one.
    const found = packFolders(entries).filter(({ fileKeys }) => fileKeys.includes(marker)).map(({ path }) => path).sort((a, b) => a.length - b.length);
    const folders = found.filter((folder, i) => !found.slice(0, i).some((above) => isUnder(folder, above)));
    if (folders.length === 0) continue;
    const result = emptyResult();
    for (const folder of folders) {
      const inside = entries.filter(({ path }) => isUnder(path, folder));
      const to = joinPath(place.into, folderName(folder, place.into, context)) as TargetPath;
      result.rules.push({ as: 'files', from: folder, to });
      result.parts.push({ mode: 'own-folder', from: folder, to, files: inside.length, reason: `It has a “${place.marker}”, so it is an add-on. ${place.why}` });
    }
    result.rest = entries.filter(({ path }) => !folders.some((folder) => isUnder(path, folder)));
    return result;
  }
  return undefined;
}

/** Places that the card knows for parts of a pack, each to be weighed against what the game's folders and the read-me say. */
export function placesOfTheCard(entries: readonly PackEntry[], context: Context): Forced[] {
  const found: Forced[] = [];
  for (const place of placesOf(context, 'loose')) {
    const fits = matcher(place.files);
    const matching = entries.filter(({ path }) => fits(baseName(path)));
    // Two files cannot both get the one fixed name.
    if (place.as !== undefined && matching.length > 1) continue;
    for (const { path } of matching) found.push({ node: path, to: joinPath(place.into, place.as ?? baseName(path)), mode: 'loose', says: `${place.title}: ${place.why}` });
  }
  for (const place of placesOf(context, 'own-folder')) {
    const marker = place.marker === undefined ? undefined : nameKey(place.marker);
    if (marker !== undefined) for (const { path, fileKeys } of packFolders(entries)) if (fileKeys.includes(marker)) found.push({ node: path, to: joinPath(place.into, folderName(path, place.into, context)), mode: 'own-folder', says: `It has a “${place.marker ?? ''}”, so it is an add-on. ${place.why}` });
    // Each pack, whatever it is.
    if (marker === undefined && place.parts.length === 0) {
      const whole = sharedFolder(entries);
      found.push({ node: whole, to: joinPath(place.into, folderName(whole, place.into, context)), mode: 'own-folder', kind: 'cardKind', says: `Each pack gets a folder of its own there. ${place.why}` });
    }
    const parts = new Set(place.parts.map(nameKey));
    const top = sharedAbove(entries, (name) => parts.has(nameKey(name)));
    const inside = entries.filter(({ path }) => isUnder(path, top));
    const partOf = ({ path }: PackEntry) => nameKey((top === '' ? path : path.slice(top.length + 1)).split('/')[0] as string);
    const fits = inside.filter((entry) => parts.has(partOf(entry)));
    // What the game has itself, too, is laid over that.
    const own = (part: string) => (context.tree.foldersByName.get(part) ?? []).some((folder) => !isUnder(folder, nameKey(place.into)));
    if (fits.some((entry) => own(partOf(entry)))) continue;
    if (fits.length > 0 && fits.length * 2 >= inside.length) found.push({ node: top, to: joinPath(place.into, folderName(top, place.into, context)), mode: 'own-folder', kind: 'cardKind', says: `It holds what add-ons hold, so it gets a folder of its own. ${place.why}` });
  }
  for (const place of placesOf(context, 'into-archive')) {
    const from = foldersInside(entries, place);
    if (from !== undefined) found.push({ node: from, to: place.archive, inside: '', mode: 'inside', kind: 'cardKind', says: `Its folders are those inside the game’s archive “${baseName(place.archive)}”, so its files go into that archive, which is kept first. ${place.why}` });
  }
  return found;
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

/**
 * A pack that brings the add-on folder itself: add-ons in it go where they are, what lies straight in it gets a folder of its
 * own, since there it would not load.
 */
export function placeAddonFolder(entries: readonly PackEntry[], context: Context): PoolResult | undefined {
  for (const place of placesOf(context, 'own-folder')) {
    const name = nameKey(baseName(place.into));
    const parts = new Set(place.parts.map(nameKey));
    const first = packFolders(entries).find(({ keys }) => keys.includes(name));
    if (!first) continue;
    const folder = first.names.slice(0, first.keys.indexOf(name) + 1).join('/');
    const inside = entries.filter(({ path }) => isUnder(path, folder));
    const straight = new Map<string, number>();
    for (const { path } of inside) {
      const [child = '', ...deeper] = path.slice(folder.length + 1).split('/');
      if (deeper.length === 0 || parts.has(nameKey(child))) straight.set(child, (straight.get(child) ?? 0) + 1);
    }
    const result = emptyResult();
    const count = [...straight.values()].reduce((sum, files) => sum + files, 0);
    if (count < inside.length) {
      result.rules.push({ as: 'files', from: folder, to: place.into as TargetPath });
      result.parts.push({ mode: 'own-folder', from: folder, to: place.into as TargetPath, files: inside.length - count, reason: `It brings the folder “${baseName(place.into)}” with add-ons in folders of their own. ${place.why}` });
    }
    const own = joinPath(place.into, slugOf(context.name)) as TargetPath;
    for (const child of straight.keys()) {
      const from = joinPath(folder, child);
      const isFile = inside.some(({ path }) => path === from);
      result.rules.push({ as: isFile ? 'file' : 'files', from, to: joinPath(own, child) as TargetPath });
    }
    if (count > 0) result.parts.push({ mode: 'own-folder', from: folder, to: own, files: count, reason: `Straight in the add-on folder it would not load, so it gets a folder of its own. ${place.why}` });
    result.rest = entries.filter(({ path }) => !isUnder(path, folder));
    return result;
  }
  return undefined;
}

/** Packs that stay zipped: by what lies at the top of the archive; archives inside a download go in as they are. */
export function placeZipped(entries: readonly PackEntry[], context: Context): PoolResult | undefined {
  for (const place of placesOf(context, 'kept-zipped')) {
    const holds = matcher(place.holds);
    if (entries.some(({ path }) => holds(path))) {
      const to = joinPath(place.into, `${slugOf(context.name)}.zip`) as TargetPath;
      return { ...emptyResult(), rules: [{ as: 'whole', from: '', to }], parts: [{ mode: 'zipped', from: '', to, files: 1, reason: `What the game looks for lies at the top of the archive, so it stays zipped. ${place.why}` }] };
    }
    const archives = entries.filter(({ path }) => kindOf(path) === 'archive');
    const found = entries.find(({ path }) => holds(baseName(path)) && path.includes('/'));
    if (found) {
      // The right files, one folder too deep for an archive that is not opened: packed anew from that folder.
      const from = parentOf(found.path);
      const to = joinPath(place.into, `${slugOf(baseName(from))}.zip`) as TargetPath;
      const inside = entries.filter(({ path }) => isUnder(path, from));
      return { ...emptyResult(), rules: [{ as: 'inside', from, to, inner: '' }], parts: [{ mode: 'zipped', from, to, files: inside.length, reason: `Inside the archive it lies in the folder “${from}”, where the game would not find it; it is packed anew without that folder. ${place.why}` }], rest: entries.filter(({ path }) => !isUnder(path, from)) };
    }
    if (archives.length > 0 && archives.length * 2 >= entries.filter(({ path }) => kindOf(path) !== 'text').length)
      return {
        ...emptyResult(), rules: archives.map(({ path }) => ({ as: 'file' as const, from: path, to: joinPath(place.into, baseName(path)) as TargetPath })),
        parts: archives.map(({ path }) => ({ mode: 'zipped' as const, from: path, to: joinPath(place.into, baseName(path)) as TargetPath, files: 1, reason: `The download wraps an archive that goes in as it is. ${place.why}` })),
        rest: entries.filter(({ path }) => kindOf(path) !== 'archive'),
      };
  }
  return undefined;
}

/** Files that belong inside one of the game's archives, under a folder named after it. */
export function placeInside(entries: readonly PackEntry[], context: Context): PoolResult | undefined {
  for (const place of placesOf(context, 'into-archive')) {
    const archive = nameKey(baseName(place.archive));
    const isIt = (key: string) => key === archive || key === stemOf(archive);
    const folder = packFolders(entries).find(({ keys }) => keys.some(isIt));
    if (!folder) continue;
    const from = folder.names.slice(0, folder.keys.findIndex(isIt) + 1).join('/');
    const to = place.archive as TargetPath;
    return {
      ...emptyResult(), rules: [{ as: 'inside', from, to, inner: '' }], rest: entries.filter(({ path }) => !isUnder(path, from)),
      parts: [{ mode: 'inside', from, to, files: entries.filter(({ path }) => isUnder(path, from)).length, reason: `Its folder is named after the game’s archive “${baseName(place.archive)}”, so its files go into that archive, which is kept first. ${place.why}` }],
    };
  }
  return undefined;
}

/** Files that go by their own name or kind: a map, a sound with a fixed name. */
export function placeLoose(entries: readonly PackEntry[], context: Context): PoolResult | undefined {
  const result = emptyResult();
  const taken = new Set<string>();
  for (const place of placesOf(context, 'loose')) {
    const fits = matcher(place.files);
    const matching = entries.filter(({ path }) => !taken.has(path) && fits(baseName(path)));
    // Two files cannot both get the one fixed name.
    if (place.as !== undefined && matching.length > 1) continue;
    for (const { path } of matching) {
      const to = joinPath(place.into, place.as ?? baseName(path)) as TargetPath;
      taken.add(path);
      result.rules.push({ as: 'file', from: path, to });
      result.parts.push({ mode: 'loose', from: path, to, files: 1, reason: `${place.title}: ${place.why}` });
    }
  }
  if (taken.size === 0) return undefined;
  result.rest = entries.filter(({ path }) => !taken.has(path));
  return result;
}
