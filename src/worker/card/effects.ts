import { proposePlacements, type GameCard, type Placement, type PlacementProposal, type WorkOptions } from '@/core';
import type { Game } from '@/storage/memory';
import type { TellingPreview } from '../contract';
import { proposeWith } from '../game/placing';
import type { Session } from '../game/session';
import { placementInput } from '../game/packProposal';
import type { Desk } from '../game/desk';

function says({ confidence, placement }: Pick<PlacementProposal, 'confidence' | 'placement'>): string {
  if (confidence === 'ask') return 'asks where it belongs';
  const goals = [...new Set(placement.rules.map(({ to }) => to as string))];
  return goals.length === 0
    ? 'goes nowhere'
    : `goes into ${goals.slice(0, 2).join(' and ')}${goals.length > 2 ? ' and more places' : ''}`;
}

const same = (a: Placement, b: Placement): boolean => JSON.stringify(a.rules) === JSON.stringify(b.rules);

/** What a changed card would change for the packs that are here. What the player placed stays as it is. */
export async function effectOf(session: Session, card: GameCard): Promise<TellingPreview['changes']> {
  const changes: TellingPreview['changes'] = [];
  for (const layer of session.packLayers()) {
    if (layer.confidence === 'chosen') continue;
    const { answers } = layer.placement.decisions;
    const input = await placementInput(session, layer.packId, answers);
    const [now, then] = [proposePlacements(input), proposePlacements({ ...input, card })];
    if (same(now.placement, then.placement) && now.confidence === then.confidence) continue;
    changes.push({ layer: layer.id, pack: layer.name, now: says(now), then: says(then) });
  }
  return changes;
}

/** Packs go where the card says now, but for those that the player has placed. */
async function followCard(session: Session, layers: readonly string[]): Promise<void> {
  for (const id of layers)
    if (session.packLayers().some((layer) => layer.id === id))
      await proposeWith(session, id, session.layer(id).placement.decisions);
}

/** The game as it is told now; packs that the player has not placed follow. */
export async function retell(desk: Desk, changed: Game, options: WorkOptions): Promise<void> {
  const effect = await effectOf(desk.open, changed.card);
  await desk.changeGame(changed, options);
  await followCard(
    desk.open,
    effect.map(({ layer }) => layer),
  );
}
