import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  compareBackup,
  deploy,
  listBackups,
  makeBackup,
  readState,
  removeBackup,
  restore,
  settingsRestoration,
  type Edit,
  type NamedBackup,
  parseTarget,
} from '@/core';
import { Bench, SETTINGS, benchDialect, type StackItem } from '../../../tests/support/game';

const INI = '; mine\n[Graphics]\nAddon=0\nWide=70\n';
const bytes = (text: string) => new TextEncoder().encode(text);
const game = () => new Bench({ map: 'own map' }, { 'settings.ini': INI }, {});
const back = async (bench: Bench, backup: NamedBackup) => {
  const workshop = bench.workshop();
  const step = await settingsRestoration(
    workshop,
    backup,
    { target: SETTINGS, dialect: 'ini' },
    await readState(bench.vault),
  );
  if (!step) return 'nothing to do';
  await deploy({ steps: [step], unchanged: 0, forget: [], drifted: [], leftAlone: [], refused: [] }, workshop, {
    title: 'Restore',
    layers: [],
  });
  return bench.contents()[SETTINGS];
};

describe('named backups', () => {
  it('are listed, compared and removed', async () => {
    const bench = game();
    const first = await makeBackup(bench.workshop(), {
      id: 'one',
      name: '  before I tried the wide view ',
      targets: [SETTINGS, parseTarget('program/map')],
    });
    expect(first.name).toBe('before I tried the wide view');
    await makeBackup(bench.workshop(), { id: 'two', name: 'later', targets: [SETTINGS] });
    expect((await listBackups(bench.vault)).map(({ name }) => name)).toEqual(['later', 'before I tried the wide view']);
    expect((await compareBackup(bench.workshop(), first)).map(({ now }) => now)).toEqual(['same', 'same']);
    await bench.user.write('settings.ini', bytes('[Graphics]\nWide=120\n'));
    await bench.program.remove('map');
    expect((await compareBackup(bench.workshop(), first)).map(({ target, now }) => `${target} ${now}`)).toEqual([
      'program/map gone',
      'user/settings.ini changed',
    ]);
    // As long as it was, and with other content.
    await bench.user.write('settings.ini', bytes(INI.replace('mine', 'ours')));
    expect((await compareBackup(bench.workshop(), first)).map(({ now }) => now)).toEqual(['gone', 'changed']);
    await removeBackup(bench.vault, 'one');
    expect((await listBackups(bench.vault)).map(({ id }) => id)).toEqual(['two']);
    await expect(
      makeBackup(bench.workshop(), { id: 'three', name: 'x', targets: [parseTarget('program/nothing')] }),
    ).rejects.toMatchObject({ code: 'folder-missing-file' });
  });

  it('bring a settings file back byte for byte, and edits in it can still be taken back', async () => {
    const bench = game();
    const on: StackItem[] = [{ edits: [{ path: ['Graphics', 'Addon'], value: '1' }] }];
    await bench.deploy(on);
    const backup = await makeBackup(bench.workshop(), { id: 'b', name: 'b', targets: [SETTINGS] });
    const was = bench.contents()[SETTINGS];
    await bench.user.write('settings.ini', bytes('[Graphics]\nAddon=1\nWide=140\nMore=1\n'));
    expect(await back(bench, backup)).toBe(was);
    expect(await back(bench, backup)).toBe('nothing to do');
    expect((await bench.plan(on)).steps).toEqual([]);
    await restore(bench.workshop(), { dialectOf: benchDialect });
    expect(bench.contents()[SETTINGS]).toBe(INI);
  });

  it('law: whatever was deployed and written meanwhile, it comes back exactly, and what stands in it of edits goes with them', async () => {
    const editArb: fc.Arbitrary<Edit> = fc.record({
      path: fc.constantFrom(['Graphics', 'Addon'], ['Graphics', 'Wide'], ['New', 'Key']),
      value: fc.constantFrom('1', '2'),
    });
    await fc.assert(
      fc.asyncProperty(
        fc.array(editArb, { maxLength: 2 }),
        fc.array(editArb, { maxLength: 2 }),
        fc.constantFrom(undefined, '', '[Graphics]\nAddon=7\n', INI),
        async (first, then, written) => {
          const bench = game();
          const stack = (edits: Edit[]): StackItem[] => (edits.length > 0 ? [{ edits }] : []);
          await bench.deploy(stack(first));
          const backup = await makeBackup(bench.workshop(), { id: 'b', name: 'b', targets: [SETTINGS] });
          const was = bench.contents()[SETTINGS];
          await bench.deploy(stack(then));
          if (written !== undefined) await bench.user.write('settings.ini', bytes(written));
          await back(bench, backup);
          expect(bench.contents()[SETTINGS]).toBe(was);
          // The record never claims an edit that does not stand there.
          const record = (await readState(bench.vault)).files.find(({ target }) => target === SETTINGS);
          for (const edit of record?.living?.edits ?? [])
            expect(
              [...first, ...then].some(({ path, value }) => path.join() === edit.path.join() && value === edit.value),
            ).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });
});
