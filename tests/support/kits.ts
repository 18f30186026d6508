import { zipSync } from 'fflate';
import {
  emptyStack,
  gameCardSchema,
  noDecisions,
  packNoteSchema,
  sha256,
  wayToPlay,
  exportKit,
  type PackForKit,
  type Stack,
  type TargetPath,
  type Written,
} from '@/core';
import { text } from './bytes';

/** One pack. */
export const archive = new Blob([zipSync({ 'a/b.txt': text('content') })]);

/** A layer of edits of one settings file, without any. */
export const edits = (file: TargetPath) => ({ kind: 'edits' as const, id: 'e', name: 'E', on: true, file, edits: [] });

/** The kit of a game of one pack and one own file. */
export async function kitOf(how: { inside?: boolean; stack?: Partial<Stack>; notes?: Written } = {}): Promise<Blob> {
  const hash = await sha256(archive);
  const note = packNoteSchema.parse({
    id: 'p1',
    game: 'g',
    file: 'lamp.zip',
    size: archive.size,
    sha256: hash,
    added: 1,
    ...how.notes,
  });
  const own = text('mine');
  const stack: Stack = {
    ...emptyStack,
    machineMemory: 77,
    layers: [
      {
        kind: 'pack',
        id: 'l1',
        packId: 'p1',
        name: 'Lamp',
        on: true,
        placement: { rules: [], leftOut: [], made: [], decisions: noDecisions },
        confidence: 'chosen',
        parts: [],
        tag: { monogram: 'La', colour: 1 },
      },
      {
        kind: 'own',
        id: 'own',
        name: 'Your own files',
        on: true,
        files: [{ target: 'game/x' as TargetPath, sha256: await sha256(own), size: own.length }],
      },
    ],
    ...how.stack,
  };
  const packs: PackForKit[] = [{ note, ...(how.inside ? { archive: { blob: archive, sha256: hash, crc32: 1 } } : {}) }];
  const card = gameCardSchema.parse({ card: 1, id: 'g', title: 'Old Quay', roots: [{ id: 'game', title: 'Game' }] });
  const { sets, aside } = stack;
  const at = Date.UTC(2026, 10, 29);
  const ownFiles = new Map([[await sha256(own), own]]);
  return exportKit({
    title: 'Old Quay',
    at,
    card,
    statements: [],
    way: wayToPlay(stack),
    sets,
    aside,
    setUps: [],
    packs,
    own: ownFiles,
  });
}
