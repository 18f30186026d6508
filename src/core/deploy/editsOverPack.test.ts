import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SatchelError, planDeployment, resolveLayers, type Layer } from '@/core';
import { Bench, SETTINGS, makePack, type StackItem } from '../../../tests/support/game';

const OWN = '; mine\r\n[Graphics]\r\nAddon=0\r\nHorn=1\r\n';
const THEIRS = '[Graphics]\nAddon=0\nHorn=5\nTheirs=9\n';

interface Wanted {
  pack: boolean;
  addon: string | undefined;
  horn: string | undefined;
}

const stackOf = ({ pack, addon, horn }: Wanted): StackItem[] => {
  const edits = [
    ...(addon === undefined ? [] : [{ path: ['Graphics', 'Addon'], value: addon }]),
    ...(horn === undefined ? [] : [{ path: ['Graphics', 'Horn'], value: horn }]),
  ];
  return [...(pack ? [{ pack: 'p', into: 'user' as const }] : []), ...(edits.length > 0 ? [{ edits }] : [])];
};

/** What a person would write by hand: the pack's file, or the own one, with those values in it. */
const byHand = ({ pack, addon, horn }: Wanted, own: string | undefined): string | undefined => {
  const text = pack ? THEIRS : own;
  if (text === undefined) {
    const lines = [...(addon === undefined ? [] : [`Addon=${addon}`]), ...(horn === undefined ? [] : [`Horn=${horn}`])];
    return lines.length === 0 ? undefined : `[Graphics]\n${lines.join('\n')}\n`;
  }
  return text
    .replace(/Addon=\d/, (line) => (addon === undefined ? line : `Addon=${addon}`))
    .replace(/Horn=\d/, (line) => (horn === undefined ? line : `Horn=${horn}`));
};

const benchOf = async (own: string | undefined) =>
  new Bench({}, own === undefined ? {} : { 'settings.ini': own }, {
    p: await makePack('p', { 'settings.ini': THEIRS }),
  });

describe('a settings file that a pack brings whole, with edits of the player’s', () => {
  it('stays as it is, and is named, where nobody knows its form', async () => {
    const bench = await benchOf(OWN);
    const plan = await planDeployment({
      workshop: bench.workshop(),
      resolution: resolveLayers(bench.layers(stackOf({ pack: true, addon: '1', horn: undefined }))),
      state: { format: 1, folders: [], files: [] },
      dialectOf: () => undefined,
      nameOf: (layer) => layer,
    });
    expect([plan.steps, plan.refused]).toEqual([
      [],
      [{ target: 'user/settings.ini', why: 'the form of this file is not known' }],
    ]);
  });

  it('is one step of the plan: the pack’s file with the values in it', async () => {
    const bench = await benchOf(OWN);
    const plan = await bench.plan(stackOf({ pack: true, addon: '1', horn: undefined }));
    expect(plan.steps.map(({ action, target }) => [action, target])).toEqual([['replace', 'user/settings.ini']]);
    await bench.deploy(stackOf({ pack: true, addon: '1', horn: undefined }));
    expect(bench.contents()['user/settings.ini']).toBe(THEIRS.replace('Addon=0', 'Addon=1'));
  });

  it('a pack that cannot be read keeps nothing else from being planned', async () => {
    const bench = await benchOf(OWN);
    const broken = {
      ...bench.workshop(),
      openPack: () => Promise.reject(new SatchelError('source-missing', { name: 'p' })),
    };
    const plan = await bench.plan(stackOf({ pack: true, addon: '1', horn: undefined }), broken);
    expect(plan.refused.map(({ target }) => target)).toEqual([SETTINGS]);
    expect(plan.steps).toEqual([]);
  });

  it('what another program wrote into it is kept before it goes', async () => {
    const bench = await benchOf(OWN);
    const both = stackOf({ pack: true, addon: '1', horn: undefined });
    for (const then of [
      stackOf({ pack: true, addon: '2', horn: undefined }),
      stackOf({ pack: false, addon: '2', horn: undefined }),
    ]) {
      await bench.deploy(both);
      const theirs = `[Graphics]\nAddon=9\nHorn=${then.length}\nNew=1\n`;
      await bench.user.write('settings.ini', new TextEncoder().encode(theirs));
      await bench.deploy(then);
      const kept = Object.values(bench.vault.contents()).map((data) => new TextDecoder().decode(data));
      expect(kept).toContain(theirs);
    }
  });

  it('what a pack below wants in it is covered, and what one above wants is not', async () => {
    const bench = await benchOf(OWN);
    const [whole] = bench.layers([{ pack: 'p', into: 'user' }]) as [Extract<Layer, { kind: 'pack' }>];
    const edits = [{ file: SETTINGS, edits: [{ path: ['Graphics', 'Horn'], value: '7' }] }];
    const wishing: Layer = { ...whole, id: 'wishing', files: [], edits };
    const wanted = (stack: Layer[]) =>
      resolveLayers(stack)
        .living.get(SETTINGS)
        ?.edits.map(({ value }) => value);
    expect(wanted([wishing, whole])).toBeUndefined();
    expect(wanted([whole, wishing])).toEqual(['7']);
    expect(wanted([wishing])).toEqual(['7']);
    expect(wanted([wishing, ...bench.layers([{ edits: [{ path: ['a'], value: '1' }] }]), whole])).toEqual(['1']);
  });

  it('law: whatever comes and goes in whatever order, it is what a person would have written, and at last the own file', async () => {
    const digit = fc.option(fc.constantFrom('2', '3'), { nil: undefined });
    const wanted = fc.record({ pack: fc.boolean(), addon: digit, horn: digit });
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(OWN, undefined),
        fc.array(wanted, { minLength: 1, maxLength: 5 }),
        async (own, all) => {
          const bench = await benchOf(own);
          for (const one of [...all, { pack: false, addon: undefined, horn: undefined }]) {
            const plan = await bench.plan(stackOf(one));
            expect(new Set(plan.steps.map(({ target }) => target)).size).toBe(plan.steps.length);
            await bench.deploy(stackOf(one));
            expect(bench.contents()['user/settings.ini']).toBe(byHand(one, own));
            expect((await bench.plan(stackOf(one))).steps).toEqual([]);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});
