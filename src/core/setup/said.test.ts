import { describe, expect, it } from 'vitest';
import { emptyStack, packNoteSchema, plainCard, whatChanged, type PackNote } from '@/core';

const note = (more: Partial<PackNote>): PackNote =>
  packNoteSchema.parse({ id: 'p', game: 'g', file: 'p.zip', size: 1, sha256: 'a'.repeat(64), added: 1, ...more });
const decided = (...notes: PackNote[]) => ({
  stack: emptyStack,
  card: plainCard('g', 'Game'),
  statements: [],
  notes,
  setUps: [],
});

describe('what is said of notes', () => {
  it.each<[string, PackNote[], PackNote[], string[]]>([
    ['that a pack came with are not said', [], [note({ origin: 'x' })], []],
    ['the same', [note({ version: '1' })], [note({ version: '1', added: 2 })], []],
    ['a page', [note({})], [note({ page: 'x' })], ['Page of a pack noted']],
    ['anything else', [note({ page: 'x' })], [note({ page: 'x', remember: 'y' })], ['Notes on a pack written']],
    ['taken out', [note({ version: '1' })], [note({})], ['Notes on a pack written']],
  ])('%s', (_, before, after, says) => {
    const [was, is] = [decided(...before), decided(...after)];
    expect(whatChanged(was, { ...is, stack: was.stack, card: was.card, statements: was.statements })).toEqual(says);
  });
});
