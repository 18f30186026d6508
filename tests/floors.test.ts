import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { cruise, type ICruiseOptions, type ICruiseResult } from 'dependency-cruiser';
import { afterEach, describe, expect, it } from 'vitest';
// @ts-expect-error -- a settings file without types
import config from '../.dependency-cruiser.mjs';

/* Each rule of floors.mjs broken once, in a tree of its own, by the program that keeps them. */

const places: string[] = [];
afterEach(() => {
  for (const place of places.splice(0)) rmSync(place, { recursive: true, force: true });
});

/** The names of the rules that these files break. */
async function broken(files: Record<string, string>): Promise<string[]> {
  const place = mkdtempSync(path.join(tmpdir(), 'floors-'));
  places.push(place);
  for (const [file, text] of Object.entries(files)) {
    mkdirSync(path.dirname(path.join(place, file)), { recursive: true });
    writeFileSync(path.join(place, file), text);
  }
  const { forbidden, options } = config as { forbidden: unknown[]; options: ICruiseOptions };
  const { tsConfig: _, ...rest } = options;
  const { output } = await cruise(
    ['src'],
    { ...rest, baseDir: place, validate: true, ruleSet: { forbidden } } as ICruiseOptions,
    { extensions: ['.ts', '.tsx'] },
  );
  return [...new Set((output as ICruiseResult).summary.violations.map(({ rule }) => rule.name))].sort();
}

const takes = (from: string): string => `import type { A } from '${from}';\nexport type B = A;\n`;
const A = 'export type A = 1;\n';

describe('the floors are kept', () => {
  it.each<[string, Record<string, string>, string]>([
    [
      'two files in a circle, by types alone',
      { 'src/core/paths/a.ts': `${A}export type C = import('./b').B;\n`, 'src/core/paths/b.ts': takes('./a') },
      'no circle',
    ],
    [
      'a lower area of the core takes from a higher one',
      { 'src/core/settings/a.ts': takes('../deploy/b'), 'src/core/deploy/b.ts': A },
      'floor of the core: settings',
    ],
    [
      'areas of one floor the wrong way round',
      { 'src/core/games/a.ts': takes('../placement/b'), 'src/core/placement/b.ts': A },
      'floor of the core: games',
    ],
    [
      'an area that nobody gave a floor',
      { 'src/core/index.ts': takes('./odds/a'), 'src/core/odds/a.ts': A },
      'every area has a floor',
    ],
    [
      'a step takes from another step',
      { 'src/worker/place/a.ts': takes('../stack/b'), 'src/worker/stack/b.ts': A },
      'step: place',
    ],
    [
      'the open game calls a step',
      { 'src/worker/game/a.ts': takes('../ledger/b'), 'src/worker/ledger/b.ts': A },
      'floor of the worker: game',
    ],
    [
      'a step knows the tab',
      { 'src/worker/check/a.ts': takes('../tab/b'), 'src/worker/tab/b.ts': A },
      'floor of the worker: home, bring-in, place, stack, settings, deploy, check, ledger, card, ingame, history, setup, storage',
    ],
    [
      'the contract knows the game',
      { 'src/worker/contract/a.ts': takes('../game/b'), 'src/worker/game/b.ts': A },
      'contract',
    ],
  ])(
    '%s',
    async (_name, files, rule) => {
      expect(await broken(files)).toContain(rule);
    },
    60_000,
  );

  it('what stands right breaks none', async () => {
    expect(
      await broken({
        'src/core/paths/a.ts': A,
        'src/core/placement/b.ts': takes('../paths/a'),
        'src/worker/contract/a.ts': A,
        'src/worker/game/a.ts': takes('../contract/a'),
        'src/worker/place/a.ts': takes('../game/a'),
        'src/worker/tab/a.ts': takes('../place/a'),
      }),
    ).toEqual([]);
  }, 60_000);
});
