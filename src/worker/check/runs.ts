import { countedFiles, editFates, loadedFiles, markOf, troublesOf, whatCameOf } from '@/core';
import type { Session } from '../game/session';
import { lastStart } from './after';

/** What came of the game's last start, as a sentence. */
export function cameOf({ picture, game }: Session): { level: 'note' | 'wrong'; says: string } {
  const reading = lastStart(picture);
  return whatCameOf({
    title: game.card.title,
    problems: reading && troublesOf(reading.messages).length,
    counted: countedFiles(game.card, picture.state),
    loaded: loadedFiles(game.card, reading),
    fates: editFates(picture.state, picture.settings),
    sorted: picture.sorted.length,
    drifted: picture.plan.drifted.length,
  });
}

/** Remembers what a start of the game came to. */
export async function noteRun(session: Session, at = Date.now()): Promise<void> {
  const { picture, stack, game } = session;
  const reading = lastStart(picture);
  const mark = picture.log && (await markOf(picture.log.text, picture.log.reading));
  const messages = reading
    ? troublesOf(reading.messages).slice(0, 500)
    : [{ rule: 'silent', level: 'error' as const, says: 'The game ended without writing a line.', count: 1 }];
  const loaded = loadedFiles(game.card, reading);
  await session.saveStack({
    runs: [
      ...stack.runs,
      {
        at,
        after: picture.ledger[0]?.number ?? 0,
        counted: countedFiles(game.card, picture.state),
        messages,
        ...(loaded === undefined ? {} : { loaded }),
        ...(mark ? { mark } : {}),
      },
    ].slice(-30),
  });
}
