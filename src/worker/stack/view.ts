import { ORIGINAL } from '@/core';
import type { GameView } from '../contract';
import { LISTED } from '../game/planView';
import type { Session } from '../game/session';

/** Targets where packs want different things. What the player's own files cover was the player's choice. */
export const overlapping = ({ picture }: Session): number =>
  [...picture.overlaps].reduce((sum, [layer, { wins }]) => sum + (layer === 'own' ? 0 : wins), 0);

export function stackView(session: Session): GameView['stack'] {
  const { picture, stack, nameOf } = session;
  const name = (layer: string | undefined) => (layer === undefined ? undefined : nameOf(layer));
  return {
    order: stack.order.map((rule) => ({ ...rule, lowerName: nameOf(rule.lower), upperName: nameOf(rule.upper) })),
    picks: stack.picks.map((one) => ({
      ...one,
      name: one.layer === ORIGINAL ? `${session.game.card.title}, as it was` : nameOf(one.layer),
    })),
    merges: picture.merges.map(({ note, outcome, sources }) => {
      const merge = outcome.ok ? outcome.merge : undefined;
      const conflicts = merge?.conflicts ?? [];
      return {
        id: note.id,
        target: note.target,
        name: note.name,
        sources: sources.map((layer) => ({ layer, name: nameOf(layer) })),
        why: outcome.ok ? undefined : outcome.why,
        way: merge?.way,
        conflicts: conflicts.slice(0, LISTED),
        total: conflicts.length,
        open: conflicts.filter(({ taken }) => taken === undefined).length,
        stale: merge?.stale ?? [],
        notices: merge?.notices ?? [],
      };
    }),
    overlapping: overlapping(session),
    changed: {
      total: picture.changed.length,
      some: picture.changed
        .slice(0, LISTED)
        .map(({ target, from, to }) => ({ target, from: name(from), to: name(to) })),
    },
  };
}
