import {
  SatchelError,
  cardDifference,
  formOf,
  saidAs,
  sentenceKey,
  tell,
  untell,
  type GameCard,
  type Sentence,
} from '@/core';
import type { Game, TakenCard } from '@/storage/memory';
import type { Told } from '../contract';

/** The card with a sentence, or without one. @throws SatchelError `bad-card` with the reason */
export function changedCard(card: GameCard, { form, values, at }: Told): GameCard {
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
