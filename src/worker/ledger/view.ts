import { listBackups, minded } from '@/core';
import type { GameView, SafetyView } from '../contract';
import { mainFolder } from '../game/mainFolder';
import type { Session } from '../game/session';

/** How safely the originals lie. */
async function safetyView({ workshop, game }: Session): Promise<SafetyView> {
  const main = mainFolder(game);
  const storage = typeof navigator === 'undefined' ? undefined : navigator.storage;
  return {
    place: game.kind === 'demo' ? 'demo' : main ? 'disk' : 'browser',
    backup: main?.backup ?? game.backup?.name,
    room: await workshop.vault.room?.(),
    copies: { ...(await minded(workshop.vault)), progress: undefined },
    persisted: main !== undefined || (await storage?.persisted?.()) === true,
  };
}

/** Everything the ledger shows. */
export async function ledgerView(
  session: Session,
): Promise<Pick<GameView, 'ledger' | 'states' | 'safety' | 'backups'>> {
  // All at once: each may be a question to the app's own server.
  const [safety, backups] = await Promise.all([safetyView(session), listBackups(session.workshop.vault)]);
  return {
    ledger: session.picture.ledger,
    states: session.picture.snapshots,
    safety,
    backups: backups.map(({ id, name, at, files }) => ({ id, name, at, files: files.length })),
  };
}
