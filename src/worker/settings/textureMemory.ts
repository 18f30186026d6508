import { adviseOnPreload } from '@/core';
import type { MemoryView, PackView } from '../contract';
import { futureDocument } from '../game/playerEdits';
import type { Session } from '../game/session';

export function memoryView(session: Session, packs: readonly PackView[]): MemoryView {
  const shown = packs
    .filter(({ on, textures }) => on && textures.bytesInMemory > 0)
    .map(({ layer, name, tag, textures }) => ({
      layer,
      name,
      tag,
      bytes: textures.bytesInMemory,
      files: textures.files,
    }));
  const total = shown.reduce((sum, { bytes }) => sum + bytes, 0);
  const machine = session.stack.machineMemory;
  const advice = session.picture.settingsFiles.flatMap((file) =>
    file.keys
      .filter(({ costs }) => costs === 'texture memory')
      .flatMap((key) => {
        const found = adviseOnPreload(total, machine);
        return found
          ? [
              {
                file: file.target,
                path: [...key.path],
                now: futureDocument(session, file.target).get(key.path) ?? key.default,
                ...found,
                meaning: key.meaning,
              },
            ]
          : [];
      }),
  );
  return { packs: shown, total, machine, advice };
}
