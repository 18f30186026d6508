import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { leftOutOf, placeFiles, proposePlacements, wholeTarget, type PackPath } from '@/core';
import { CASES, GAMES, entriesOf, gameOf } from '../../../tests/support/placementCases';

/** Names of folders that no game here knows and no way of placing looks for. */
const wrapper = fc.constantFrom('My Download', 'unpacked', 'v2 release', 'größer', 'by somebody', 'Neu', 'pack-4f2a');
const clear = CASES.filter(
  ({ confidence, questions, answers, texts }) =>
    confidence[0] === 'sure' && confidence.length === 1 && !questions && !answers && !texts,
);
/** What stays zipped is found by the top of its archive: a wrapper changes it, as it would in the game. */
const wrappable = clear.filter(
  ({ expected }) => !('' in expected) && Object.values(expected).every((to) => !to.includes('!/')),
);

const mapping = (paths: readonly string[], game: string, file: string) => {
  const { card, files } = gameOf(game);
  const { placement, confidence } = proposePlacements({
    entries: entriesOf(paths),
    card,
    gameFiles: files,
    name: file,
  });
  return {
    confidence,
    targets: Object.fromEntries(placeFiles(entriesOf(paths), placement).map(({ path, target }) => [path, target])),
  };
};

describe('laws of placing', () => {
  it('a clear pack goes to the same places under any wrappers', () => {
    expect(wrappable.length).toBeGreaterThan(25);
    fc.assert(
      fc.property(
        fc.constantFrom(...wrappable),
        fc.array(wrapper, { minLength: 1, maxLength: 3 }),
        ({ pack, game, file = 'my-pack.zip', expected, name }, wrappers) => {
          const top = wrappers.join('/');
          const wrapped = mapping(
            pack.map((path) => `${top}/${path}`),
            game,
            file,
          );
          if (wrapped.confidence === 'ask') return;
          // A folder made for the pack may be called after its wrapper instead of its file: both are its name.
          const plainNames = (targets: Record<string, string>) =>
            Object.fromEntries(
              Object.entries(targets).map(([path, target]) => [
                path.replace(`${top}/`, ''),
                target.replace(/addons\/[^/]+/, 'addons/(its own)'),
              ]),
            );
          expect(plainNames(wrapped.targets), name).toEqual(plainNames(expected));
        },
      ),
      { numRuns: 400 },
    );
  });

  it('a clear pack is still clear, or asked about, when what does not belong lies beside it; it never goes elsewhere', () => {
    const baggage = [
      'Read me.txt',
      'screenshots/1.png',
      'Visit.url',
      'Thumbs.db',
      '__MACOSX/._x',
      'licence.md',
      'install.bat',
    ];
    fc.assert(
      fc.property(
        fc.constantFrom(...wrappable),
        fc.subarray(baggage, { minLength: 1 }),
        ({ pack, game, file = 'my-pack.zip', expected, name }, more) => {
          const added = more.filter((path) => !pack.includes(path));
          const { confidence, targets } = mapping([...pack, ...added], game, file);
          if (confidence === 'ask') return;
          for (const [path, target] of Object.entries(expected)) expect(targets[path], name).toBe(target);
          for (const path of added) expect(targets[path], `${name}: ${path}`).toBeUndefined();
        },
      ),
      { numRuns: 400 },
    );
  });

  it('any tree at all gets a proposal that puts every file inside a root, leaves it out with a reason, or keeps it zipped', () => {
    const part = fc.constantFrom(
      'a',
      'assets',
      'textures',
      'quay',
      'CB-2041',
      'swap',
      'addons',
      'core.hha',
      'bundle',
      'rooms',
      'optional',
      '512',
      '1024',
      'Option A',
      'Option B',
      'pack.leaf',
      'planks.png',
      'x.exe',
      'ferries.ini',
      'readme.txt',
      'bell.wav',
      '__proto__',
      'constructor',
      'z.isle',
      'inner.zip',
    );
    const tree = fc.uniqueArray(
      fc.array(part, { minLength: 1, maxLength: 5 }).map((parts) => parts.join('/')),
      { minLength: 1, maxLength: 25 },
    );
    fc.assert(
      fc.property(
        fc.constantFrom(...GAMES),
        tree,
        fc.dictionary(
          fc.constantFrom('title', 'optional', 'alternatives:'),
          fc.array(fc.constantFrom('512', 'CB-2041', 'nonsense'), { maxLength: 2 }),
        ),
        (game, paths, answers) => {
          const { card, files } = gameOf(game);
          const entries = entriesOf(paths);
          const proposal = proposePlacements({ entries, card, gameFiles: files, name: 'any.zip', answers });
          if (wholeTarget(proposal.placement) !== undefined) return;
          const placed = placeFiles(entries, proposal.placement);
          const out = leftOutOf(proposal.placement, entries);
          const edits = new Set(proposal.placement.rules.flatMap((rule) => (rule.as === 'edits' ? [rule.from] : [])));
          const roots = card.roots.map(({ id }) => id);
          for (const { path, target } of placed) {
            expect(
              roots.some((root) => target.startsWith(`${root}/`)),
              `${path} → ${target}`,
            ).toBe(true);
            expect(out.has(path)).toBe(false);
          }
          const named = new Set<string>(placed.map(({ path }) => path));
          for (const path of paths)
            expect(named.has(path) || out.has(path as PackPath) || edits.has(path), path).toBe(true);
          if (proposal.confidence === 'ask')
            expect(proposal.questions.length + proposal.choices.length).toBeGreaterThan(0);
        },
      ),
      { numRuns: 1500 },
    );
  });
});
