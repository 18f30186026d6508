import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { studyGame } from '../src/core';
import { middleOfThree, report, timed, timedTool } from './measure';

const FILES = 200_000;
const KINDS = [
  ['ships', 'mesh'],
  ['towns', 'dat'],
  ['rules', 'cfg'],
  ['sound', 'ogg'],
] as const;

/** A game of 200,000 files that nobody described is studied, against `find` listing the same files with their sizes. */
export async function studyOfGame(): Promise<void> {
  const top = mkdtempSync(path.join(tmpdir(), 'satchel-study-'));
  try {
    const files = Array.from({ length: FILES }, (_, i) => {
      const [kind, ending] = KINDS[i % KINDS.length] as (typeof KINDS)[number];
      return { path: `data/${kind}/thing${Math.floor(i / 160)}/part${i % 160}.${ending}`, size: 10 };
    });
    for (const folder of new Set(files.map((file) => path.dirname(file.path))))
      mkdirSync(path.join(top, folder), { recursive: true });
    for (const file of files) writeFileSync(path.join(top, file.path), '[a]\nb=123\n');
    const ours = await middleOfThree(() =>
      timed(async () => {
        const { statements } = await studyGame([
          { id: 'game', title: 'Large', files, read: async () => '[a]\nb=123\n' },
        ]);
        if (!statements.some(({ id }) => id === 'family:game/data/ships')) throw new Error('the ships were not seen');
      }),
    );
    const theirs = await middleOfThree(async () => timedTool('find', ['.', '-type', 'f', '-printf', '%p %s\n'], top));
    report({
      name: `study a game of ${FILES.toLocaleString('en')} files (Node)`,
      ours,
      reference: 'find -printf',
      theirs,
      limit: 3,
    });
  } finally {
    rmSync(top, { recursive: true, force: true });
  }
}
