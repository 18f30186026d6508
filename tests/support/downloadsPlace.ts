import { mkdirSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { DiskFolder } from '../../src/bridge/disk';
import { Downloads } from '../../src/bridge/downloads';

/** A downloads folder that nobody has given yet, beside a game, a vault and a backup. @param at below this folder */
export const downloadsPlace = (at = tmpdir()) => {
  const top = mkdtempSync(path.join(at, 'satchel-downloads-'));
  for (const name of ['in', 'backup', 'game', 'vault']) mkdirSync(path.join(top, name));
  return {
    top,
    at: (...names: string[]) => path.join(top, ...names),
    downloads: new Downloads(path.join(top, 'backup'), () => [path.join(top, 'game')]),
    vault: DiskFolder.open(path.join(top, 'vault')),
  };
};
