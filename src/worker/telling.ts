import { SatchelError, cardDifference, formOf, proposePlacements, saidAs, sentenceKey, sentencesIn, tell, untell, type GameCard, type Placement, type PlacementProposal, type Sentence } from '@/core';
import type { Game, TakenCard } from '@/storage/memory';
import type { TellingPreview } from './api';
import { proposeWith } from './placing';
import type { Session } from './session';

/** So many changes of what a game is told can be taken back. */
const MOST_PAST = 50;

/** A game with another card, and the way back. */
export const toldGame = (game: Game, says: string, change: Partial<Pick<Game, 'card' | 'statements' | 'taken'>>): Game =>
  ({ ...game, ...change, past: [...(game.past ?? []), { says: says.slice(0, 600), card: game.card, statements: game.statements, taken: game.taken }].slice(-MOST_PAST) });

/** As it was before the last change. */
export function untoldGame(game: Game): Game {
  const past = game.past ?? [];
  const before = past.at(-1);
  if (!before) throw new SatchelError('unknown-thing', { what: 'change to take back' });
  return { ...game, card: before.card, statements: before.statements, taken: before.taken, past: past.slice(0, -1) };
}

/** The card with a sentence, or without one. @throws SatchelError `bad-card` with the reason */
export function changedCard(card: GameCard, form: string, values: Record<string, string>, at: (string | number)[] | undefined): GameCard {
  const found = formOf(form);
  if (!found) throw new SatchelError('unknown-thing', { what: 'sentence of that kind' });
  const told = tell(card, found, values, at);
  if (!told.ok) throw new SatchelError('bad-card', { why: told.why });
  return told.card;
}

export function lessCard(card: GameCard, at: (string | number)[]): GameCard {
  const told = untell(card, at);
  if (!told.ok) throw new SatchelError('bad-card', { why: `other sentences need it (${told.why})` });
  return told.card;
}

/** What a card from a file brings to a game that has one. */
export function takenCard(game: Game, card: GameCard, file: string): TakenCard {
  const { came, went } = cardDifference(game.card, card);
  const said = (one: Sentence) => {
    const form = formOf(one.form);
    return form ? saidAs(form, one.values) : '';
  };
  return { title: card.title, file, came: came.map(sentenceKey), went: went.map(said).filter(Boolean) };
}

/** How a sentence of the card reads, for what is taken back. */
export function sentenceAt(card: GameCard, at: readonly (string | number)[]): string {
  const found = sentencesIn(card).find((one) => one.at.join() === at.join());
  const form = found && formOf(found.form);
  return form ? saidAs(form, found.values) : 'A sentence';
}

function says({ confidence, placement }: Pick<PlacementProposal, 'confidence' | 'placement'>): string {
  if (confidence === 'ask') return 'asks where it belongs';
  const goals = [...new Set(placement.rules.map(({ to }) => to as string))];
  return goals.length === 0 ? 'goes nowhere' : `goes into ${goals.slice(0, 2).join(' and ')}${goals.length > 2 ? ' and more places' : ''}`;
}

const same = (a: Placement, b: Placement): boolean => JSON.stringify(a.rules) === JSON.stringify(b.rules);

/** What a changed card would change for the packs that are here. What the player placed stays as it is. */
export async function effectOf(session: Session, card: GameCard): Promise<TellingPreview['changes']> {
  const changes: TellingPreview['changes'] = [];
  for (const layer of session.packLayers()) {
    if (layer.confidence === 'chosen') continue;
    const { answers } = layer.placement.decisions;
    const input = await session.placementInput(layer.packId, answers);
    const [now, then] = [proposePlacements(input), proposePlacements({ ...input, card })];
    if (same(now.placement, then.placement) && now.confidence === then.confidence) continue;
    changes.push({ layer: layer.id, pack: layer.name, now: says(now), then: says(then) });
  }
  return changes;
}

/** Packs go where the card says now, but for those that the player has placed. */
export async function followCard(session: Session, layers: readonly string[]): Promise<void> {
  for (const id of layers) if (session.packLayers().some((layer) => layer.id === id)) await proposeWith(session, id, session.layer(id).placement.decisions);
}
