import { SatchelError, type GameCard } from '@/core';
import type { Game } from '@/storage/memory';

/** @throws SatchelError `bad-card` where a card speaks of other folders than the game has here */
export function checkRoots(game: Game, card: GameCard): void {
  if (game.kind === 'demo') return;
  const real = [...Object.keys(game.handles), ...Object.keys(game.given)];
  const [more] = card.roots.filter(({ id }) => !real.includes(id));
  if (more)
    throw new SatchelError('bad-card', {
      why: `it speaks of “${more.title}”, a folder that this game has not been given here. Add that folder on this page first`,
    });
  const missing = real.filter((root) => !card.roots.some(({ id }) => id === root));
  if (missing.length > 0)
    throw new SatchelError('bad-card', {
      why: `it says nothing of ${missing.join(', ')}, a folder that this game has here`,
    });
}
