import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { DiskFolder } from '../../src/bridge/disk';

/** The folder of all games of this test; the test removes it. */
export const top = mkdtempSync(path.join(tmpdir(), 'satchel-disk-'));

let made = 0;

/** A game's folder, with a secret beside it. */
export function fresh(): { root: string; outside: string; folder: DiskFolder } {
  const base = path.join(top, String(++made));
  const root = path.join(base, 'game');
  const outside = path.join(base, 'outside');
  mkdirSync(root, { recursive: true });
  mkdirSync(outside);
  writeFileSync(path.join(outside, 'secret.txt'), 'secret');
  return { root, outside, folder: DiskFolder.open(root) };
}

/** Every path of a folder, sorted. */
export async function listed(folder: DiskFolder): Promise<string[]> {
  const found: string[] = [];
  for await (const stat of folder.list()) found.push(stat.path);
  return found.sort();
}
