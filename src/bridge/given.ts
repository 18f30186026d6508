import { createHash } from 'node:crypto';
import { realpathSync } from 'node:fs';
import path from 'node:path';
import { SatchelError } from '@/core';
import { z } from 'zod';
import { DiskFolder } from './disk';
import type { BridgePart, GivenFolder } from './wire';

/** What the start script hands over. */
const givenSchema = z.object({ folders: z.array(z.string().min(1)), backup: z.string().min(1) });

interface Given {
  note: GivenFolder;
  parts: Record<BridgePart, DiskFolder>;
}

const isInside = (inner: string, outer: string): boolean => inner === outer || inner.startsWith(outer.endsWith(path.sep) ? outer : outer + path.sep);

let opened: Map<string, Given> | undefined;

/** The folders this server was started with (`--folder`), opened once. Nothing else on the disk can be asked for. */
export function givenFolders(): Map<string, Given> {
  opened ??= openAll(process.env.SATCHEL_FOLDERS);
  return opened;
}

function openAll(text: string | undefined): Map<string, Given> {
  const found = new Map<string, Given>();
  if (text === undefined || text === '') return found;
  const { folders, backup } = givenSchema.parse(JSON.parse(text));
  for (const one of folders) {
    const game = DiskFolder.open(one);
    const id = createHash('sha256').update(game.root).digest('hex').slice(0, 16);
    const name = path.basename(game.root) || 'folder';
    const beside = path.join(backup, `${name} ${id.slice(0, 6)}`);
    const parts = { game, backup: DiskFolder.make(beside), vault: DiskFolder.make(path.join(beside, 'satchel')) };
    // A link may lead there: checked where it really lies, before anything of the game is touched.
    for (const { root } of [parts.backup, parts.vault])
      if (folders.some((other) => isInside(root, realpathSync(other)))) throw new SatchelError('backup-in-game', { name: backup });
    found.set(id, { note: { id, name, path: game.root, backup: parts.backup.root }, parts });
  }
  return found;
}
