import { SatchelError } from '../errors';
import { gameCardSchema, type GameCard, type LogRule } from './card';

/** So many things that are wrong with a card are named. */
const NAMED = 3;

/** A card as somebody wrote it. @throws SatchelError `bad-card`, naming the first places that are wrong */
export function parseCard(value: unknown): GameCard {
  const read = gameCardSchema.safeParse(value);
  if (read.success) return read.data;
  const wrong = read.error.issues.slice(0, NAMED);
  throw new SatchelError('bad-card', {
    why: wrong.map(({ path, message }) => `${path.join('.') || 'the card'}: ${message}`).join('; '),
  });
}

/** The card with one more rule for lines of its log, before the others. @throws SatchelError `bad-card` */
export function withLogRule(card: GameCard, rule: LogRule): GameCard {
  if (!card.log) throw new SatchelError('bad-card', { why: 'it names no log' });
  return parseCard({ ...card, log: { ...card.log, rules: [rule, ...card.log.rules] } });
}
