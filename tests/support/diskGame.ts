import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterEach } from 'vitest';
import type { Workshop } from '@/core';
import { DiskFolder } from '@/bridge/disk';
import { Bench, type Contents } from './game';

const roots: string[] = [];
/** To be called in each test file that makes games on the disk. */
export const removeDiskGames = (): void =>
  void afterEach(() => roots.splice(0).forEach((root) => rmSync(root, { recursive: true, force: true })));

/** A game in real folders on the disk, with originals and copies beside it; packs as in a bench. */
export interface DiskGame {
  root: string;
  bench: Bench;
  workshop: Workshop;
  /** Path of a target. */
  at(target: string): string;
}

/** @param contents by target: `program/…` and `user/…` */
export function makeDiskGame(contents: Contents, packs: Bench['packs']): DiskGame {
  const root = mkdtempSync(path.join(tmpdir(), 'satchel-game-'));
  roots.push(root);
  const at = (target: string) => path.join(root, target);
  for (const one of ['program', 'user']) mkdirSync(at(one));
  for (const [target, text] of Object.entries(contents)) {
    mkdirSync(path.dirname(at(target)), { recursive: true });
    writeFileSync(at(target), text);
  }
  const bench = new Bench({}, {}, packs);
  const folders = { program: DiskFolder.open(at('program')), user: DiskFolder.open(at('user')) };
  return {
    root,
    bench,
    at,
    workshop: {
      ...bench.workshop(),
      folders,
      vault: DiskFolder.make(at('backup/satchel')),
      backup: DiskFolder.make(at('backup')),
      now: () => Date.now(),
    },
  };
}
