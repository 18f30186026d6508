import { SatchelError, joinPath, nameKey, nameProblem } from '@/core';
import type { Session } from '../game/session';

/**
 * A settings file of the player's own: its lines are edits, so it can be changed, switched off and taken back like all
 * others.
 */
export async function newFile(session: Session, name: string): Promise<void> {
  const own = session.game.card.ownFiles;
  if (!own) throw new SatchelError('unknown-thing', { what: 'place for files of your own in this game' });
  const plain = name.trim().replace(new RegExp(`\\${own.ending}$`, 'i'), '');
  if (plain === '' || nameProblem(plain + own.ending) || /[/\\]/.test(plain))
    throw new SatchelError('bad-value', { value: name, why: 'it cannot be the name of a file' });
  const target = joinPath(own.into, plain + own.ending);
  if (
    session.picture.settingsFiles.some((file) => nameKey(file.target) === nameKey(target)) ||
    session.picture.ownKeys.has(nameKey(target))
  )
    throw new SatchelError('bad-value', { value: name, why: 'there is a file of that name' });
  await session.saveStack({ ownFiles: [...session.stack.ownFiles, { target, dialect: own.dialect }] });
}
