import { isUnder, listItems, nameKey } from '@/core';
import type { ListNeed } from '../contract';
import type { Session } from '../game/session';
import { futureDocument } from '../game/playerEdits';

/** Folders that packs bring and that a list has to name, or the game passes over them. */
export function listNeeds(session: Session): ListNeed[] {
  const needs: ListNeed[] = [];
  for (const file of session.picture.settingsFiles)
    for (const key of file.keys) {
      if (key.list === undefined || key.names === undefined) continue;
      const listed = new Set(
        listItems(futureDocument(session, file.target).get(key.path) ?? key.default ?? '', key.list).map(nameKey),
      );
      const brought = new Map<string, { item: string; layer: string }>();
      for (const [id, { target, providers }] of session.picture.resolution.owned) {
        const top = providers.at(-1);
        const [item, more] = isUnder(id, nameKey(key.names)) ? target.slice(key.names.length + 1).split('/') : [];
        if (
          top &&
          item !== undefined &&
          more !== undefined &&
          !listed.has(nameKey(item)) &&
          !brought.has(nameKey(item))
        )
          brought.set(nameKey(item), { item, layer: top.layer });
      }
      for (const { item, layer } of brought.values())
        needs.push({
          file: file.target,
          path: [...key.path],
          item,
          pack: session.nameOf(layer),
          tag: session.packLayers().find(({ id }) => id === layer)?.tag,
        });
    }
  return needs;
}
