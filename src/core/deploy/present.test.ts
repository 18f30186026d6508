import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GameIndex, PresentFiles, parseTarget } from '@/core';
import type { DeployedFile, Drift } from './model';

const sha256 = 'a'.repeat(64);
const record = (target: string, original: 'absent' | 'kept', living = false): DeployedFile => ({
  target: parseTarget(target),
  layer: 'layer',
  sha256,
  size: 1,
  modified: 1,
  from: { kind: 'absent' },
  original: original === 'absent' ? { kind: 'absent' } : { kind: 'kept', sha256, size: 1 },
  ...(living ? { living: { edits: [], base: { kind: 'absent' as const } } } : {}),
});

describe('what is in the game now', () => {
  it('law: each file is counted once, as what it is, whatever was done before and beside', () => {
    // Each path gets a past by chance; the folder is made from those pasts, and what the view says is compared with
    // them.
    const past = fc.constantFrom('own', 'brought', 'in place', 'edited', 'changed', 'gone');
    const name = fc.stringMatching(/^[a-z]{1,3}$/);
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.record({ path: fc.tuple(name, name).map((parts) => parts.join('/')), past }), {
          selector: ({ path }) => path,
          maxLength: 40,
        }),
        (files) => {
          const at = (kinds: string[]) =>
            files.filter((file) => kinds.includes(file.past)).map(({ path }) => `game/${path}`);
          const listing = {
            files: {
              game: files.filter((file) => file.past !== 'gone').map(({ path }) => ({ path, size: 1, modified: 7 })),
            },
            links: [],
          };
          const drifted = at(['changed', 'gone']).map((target): Drift => ({
            target: parseTarget(target),
            how: at(['gone']).includes(target) ? 'deleted' : 'changed',
            layer: 'layer',
            now: undefined,
            deployed: { size: 1, modified: 1 },
          }));
          const state = {
            format: 1 as const,
            folders: [],
            files: [
              ...at(['brought', 'changed', 'gone']).map((one) => record(one, 'absent')),
              ...at(['in place']).map((one) => record(one, 'kept')),
              ...at(['edited']).map((one) => record(one, 'kept', true)),
            ],
          };
          const present = new PresentFiles(new GameIndex(listing), state, drifted);
          for (const kind of ['own', 'brought', 'in place', 'edited', 'changed', 'gone'] as const) {
            expect(present.counts[kind]).toBe(at([kind]).length);
            expect(
              present
                .rows(kind, new Set(), 'game')
                .map((row) => row().path)
                .sort(),
            ).toEqual(at([kind]).sort());
          }
          const touched = at(['brought', 'in place', 'edited', 'changed', 'gone']);
          expect(present.rows('touched', new Set(), 'game').length).toBe(touched.length);
          const [top] = present.rows('all', new Set(), '');
          if (files.length > 0)
            expect(top?.()).toMatchObject({
              kind: 'folder',
              path: 'game',
              files: files.length,
              touched: touched.length,
            });
        },
      ),
      { numRuns: 200 },
    );
  });
});
