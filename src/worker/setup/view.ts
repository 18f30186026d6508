import { whatChanged } from '@/core';
import type { GameView } from '../contract';
import { decidedIn } from '../game/decided';
import { missingRoots } from '../game/onDisk';
import type { Session } from '../game/session';

/** Sentences that are sent to be shown. */
const MOST_SAID = 12;

/** Where what was decided is kept, and what of it is not at hand. */
export function keptView(session: Session): Pick<GameView, 'keptAt' | 'elsewhere' | 'waiting'> {
  const { elsewhere, keptAt, stack, game } = session;
  return {
    keptAt,
    elsewhere:
      elsewhere === undefined || elsewhere === 'newer'
        ? undefined
        : {
            at: elsewhere.written.at,
            packs: elsewhere.written.stack.layers.filter((layer) => layer.kind === 'pack' && layer.on).length,
            says: whatChanged(decidedIn(session), {
              ...elsewhere.written,
              notes: elsewhere.written.packs.map((note) => ({ ...note, game: game.id })),
            }).slice(0, MOST_SAID),
            missing: missingRoots(game, elsewhere.written),
          },
    waiting: stack.waiting.map(({ layer, file, size, sha256 }) => ({
      layer: layer.id,
      name: layer.name,
      file,
      size,
      sha256,
    })),
  };
}
