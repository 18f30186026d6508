import type { PackEntry } from '../archives/pack';
import { kindOf } from '../media/kinds';
import { baseName, isUnder, joinPath, nameKey, parentOf, stemOf } from '../paths/paths';
import { packFolders } from '../placed/packFolders';
import { matcher, placesOf } from './cardPlaces';
import { emptyResult, slugOf, type Context, type PoolResult } from './context';

/**
 * A pack that brings the add-on folder itself: add-ons in it go where they are, what lies straight in it gets a folder
 * of its own, since there it would not load.
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
      result.rules.push({ as: 'files', from: folder, to: place.into });
      result.parts.push({
        mode: 'own-folder',
        from: folder,
        to: place.into,
        files: inside.length - count,
        reason: `It brings the folder “${baseName(place.into)}” with add-ons in folders of their own. ${place.why}`,
      });
    }
    const own = joinPath(place.into, slugOf(context.name));
    for (const child of straight.keys()) {
      const from = joinPath(folder, child);
      const isFile = inside.some(({ path }) => path === from);
      result.rules.push({ as: isFile ? 'file' : 'files', from, to: joinPath(own, child) });
    }
    if (count > 0)
      result.parts.push({
        mode: 'own-folder',
        from: folder,
        to: own,
        files: count,
        reason: `Straight in the add-on folder it would not load, so it gets a folder of its own. ${place.why}`,
      });
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
      const to = joinPath(place.into, `${slugOf(context.name)}.zip`);
      return {
        ...emptyResult(),
        rules: [{ as: 'whole', from: '', to }],
        parts: [
          {
            mode: 'zipped',
            from: '',
            to,
            files: 1,
            reason: `What the game looks for lies at the top of the archive, so it stays zipped. ${place.why}`,
          },
        ],
      };
    }
    const archives = entries.filter(({ path }) => kindOf(path) === 'archive');
    const found = entries.find(({ path }) => holds(baseName(path)) && path.includes('/'));
    if (found) {
      // The right files, one folder too deep for an archive that is not opened: packed anew from that folder.
      const from = parentOf(found.path);
      const to = joinPath(place.into, `${slugOf(baseName(from))}.zip`);
      const inside = entries.filter(({ path }) => isUnder(path, from));
      return {
        ...emptyResult(),
        rules: [{ as: 'inside', from, to, inner: '' }],
        parts: [
          {
            mode: 'zipped',
            from,
            to,
            files: inside.length,
            reason: `Inside the archive it lies in the folder “${from}”, where the game would not find it; it is packed anew without that folder. ${place.why}`,
          },
        ],
        rest: entries.filter(({ path }) => !isUnder(path, from)),
      };
    }
    if (archives.length > 0 && archives.length * 2 >= entries.filter(({ path }) => kindOf(path) !== 'text').length)
      return {
        ...emptyResult(),
        rules: archives.map(({ path }) => ({
          as: 'file' as const,
          from: path,
          to: joinPath(place.into, baseName(path)),
        })),
        parts: archives.map(({ path }) => ({
          mode: 'zipped' as const,
          from: path,
          to: joinPath(place.into, baseName(path)),
          files: 1,
          reason: `The download wraps an archive that goes in as it is. ${place.why}`,
        })),
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
    const to = place.archive;
    return {
      ...emptyResult(),
      rules: [{ as: 'inside', from, to, inner: '' }],
      rest: entries.filter(({ path }) => !isUnder(path, from)),
      parts: [
        {
          mode: 'inside',
          from,
          to,
          files: entries.filter(({ path }) => isUnder(path, from)).length,
          reason: `Its folder is named after the game’s archive “${baseName(place.archive)}”, so its files go into that archive, which is kept first. ${place.why}`,
        },
      ],
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
      const to = joinPath(place.into, place.as ?? baseName(path));
      taken.add(path);
      result.rules.push({ as: 'file', from: path, to });
      result.parts.push({ mode: 'loose', from: path, to, files: 1, reason: `${place.title}: ${place.why}` });
    }
  }
  if (taken.size === 0) return undefined;
  result.rest = entries.filter(({ path }) => !taken.has(path));
  return result;
}
