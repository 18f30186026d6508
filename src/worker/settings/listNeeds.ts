import { isUnder, listItems, nameKey } from '@/core';
import type { ListNeed } from '../contract';
import type { Session } from '../game/session';
import { futureDocument } from '../game/playerEdits';

/** Folders that packs bring and that a list has to name, or the game passes over them. */
export function listNeeds(session: Session): ListNeed[] {
  const packs = session.packLayers();
  return session.picture.settingsFiles.flatMap(({ target, keys }) =>
    keys.flatMap(({ list, names, path, default: standard }) => {
      if (list === undefined || names === undefined) return [];
      const said = futureDocument(session, target).get(path) ?? standard ?? '';
      const listed = new Set(listItems(said, list).map(nameKey));
      return foldersIn(session, names)
        .filter(({ item }) => !listed.has(nameKey(item)))
        .map(({ item, layer }) => ({
          file: target,
          path: [...path],
          item,
          pack: session.nameOf(layer),
          tag: packs.find(({ id }) => id === layer)?.tag,
        }));
    }),
  );
}

/** The folders straight in a folder of the game that packs bring, each with the first layer that does. */
function foldersIn(session: Session, folder: string): { item: string; layer: string }[] {
  const found = new Map<string, { item: string; layer: string }>();
  for (const [id, { target, providers }] of session.picture.resolution.owned) {
    const top = providers.at(-1);
    const [item, more] = isUnder(id, nameKey(folder)) ? target.slice(folder.length + 1).split('/') : [];
    if (top && item !== undefined && more !== undefined && !found.has(nameKey(item)))
      found.set(nameKey(item), { item, layer: top.layer });
  }
  return [...found.values()];
}
