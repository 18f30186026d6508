import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { noDecisions, emptyStack, parseTarget } from '@/core';
import { memory } from '@/storage/memory';
import { eachInItsBrowser } from '../../../tests/support/seat';

eachInItsBrowser();

describe('what the app remembers', () => {
  it('is checked on the way in; what cannot be read is set aside and named', async () => {
    const aside: { what: string; why: string }[] = [];
    await memory.setStack('broken', { layers: 'nonsense' } as never);
    expect(await memory.stack('broken', aside)).toEqual(emptyStack);
    expect(aside).toMatchObject([{ what: 'stack:broken' }]);
    expect(await memory.stack('broken', aside)).toEqual(emptyStack);
    expect(aside).toHaveLength(1);
  });

  it('comes back as it went in', async () => {
    const stack = {
      layers: [
        {
          kind: 'pack' as const,
          id: 'l',
          packId: 'p',
          name: 'P',
          on: true,
          confidence: 'sure' as const,
          parts: [],
          tag: { monogram: 'Pp', colour: 1 },
          placement: {
            rules: [{ as: 'files' as const, from: '', to: parseTarget('program') }],
            leftOut: [],
            made: [],
            decisions: noDecisions,
          },
        },
        {
          kind: 'edits' as const,
          id: 'e',
          name: 'E',
          on: true,
          file: parseTarget('user/x.ini'),
          edits: [{ path: ['__proto__', 'key'], value: '1' }, { path: ['gone'] }],
        },
      ],
      picks: [],
      order: [],
      ownFiles: [],
      sets: [],
      tried: [],
      drops: {},
      runs: [],
      aside: [],
      waiting: [],
      triedAfter: 3,
    };
    await memory.setStack('kept', stack);
    expect(await memory.stack('kept', [])).toEqual(stack);
  });
});
