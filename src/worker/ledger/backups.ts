import {
  SatchelError,
  compareBackup,
  listBackups,
  nameKey,
  settingsRestoration,
  type NamedBackup,
  type Plan,
} from '@/core';
import { carryOut } from '../game/carryOut';
import type { DeployWork } from '../game/carrier';
import { look } from '../game/look';
import type { Session } from '../game/session';

export async function backupOf({ workshop }: Session, id: string): Promise<NamedBackup> {
  const found = (await listBackups(workshop.vault)).find((one) => one.id === id);
  if (!found) throw new SatchelError('unknown-thing', { what: 'backup of that name' });
  return found;
}

/**
 * Files come back as they were in a backup. Settings files come back byte for byte, once; of other files that version
 * is from now on the player's own, above all packs.
 */
export async function restoreBackup(session: Session, backup: NamedBackup, options: DeployWork): Promise<void> {
  session.seen.lookAtFilesAgain();
  const { workshop, picture } = session;
  const changed = new Set(
    (await compareBackup(workshop, backup)).filter(({ now }) => now !== 'same').map(({ target }) => target),
  );
  const settings = backup.files.filter(({ target }) => changed.has(target) && session.dialectOf(target));
  const others = backup.files.filter(({ target }) => changed.has(target) && !session.dialectOf(target));
  const steps: Plan['steps'] = [];
  for (const { target } of settings) {
    const file = { target, dialect: session.dialectOf(target) ?? 'ini' } as const;
    const step = await settingsRestoration(workshop, backup, file, picture.state);
    if (step) steps.push(step);
  }
  const restored = new Set([...settings, ...others].map(({ target }) => nameKey(target)));
  const own = [
    ...session.ownLayer().files.filter(({ target }) => !restored.has(nameKey(target))),
    ...others.map(({ target, content }) => ({ target, sha256: content.sha256, size: content.size })),
  ];
  // The player's edits of a file that comes back are part of what the player goes back from.
  const layers = session.stack.layers.filter((layer) => layer.kind !== 'edits' || !restored.has(nameKey(layer.file)));
  await session.saveStack({ layers: session.withOwn(own, layers) });
  await look(session);
  const ownKeys = new Set(others.map(({ target }) => nameKey(target)));
  steps.push(...session.picture.plan.steps.filter(({ target }) => ownKeys.has(nameKey(target))));
  await carryOut(
    session,
    { steps, unchanged: 0, forget: [], drifted: [], leftAlone: [], refused: [] },
    `Restore “${backup.name}”`,
    options,
  );
}
