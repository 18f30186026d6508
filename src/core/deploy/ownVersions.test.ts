import { describe, expect, it } from 'vitest';
import { readState, sha256, type OwnFile, type Plan, parseTarget } from '@/core';
import { Bench, SETTINGS, makePack, type StackItem } from '../../../tests/support/game';
import { keep } from './vault';

const bytes = (text: string) => new TextEncoder().encode(text);
const told = ({ steps, unchanged }: Plan) => ({
  steps: steps.map(({ action, target, size }) => `${action} ${target} ${size}`),
  unchanged,
});

/** A game with a version of the player's own in the vault, for the file `a`. */
async function withOwn(text: string, game: Record<string, string> = { a: 'game' }): Promise<[Bench, StackItem]> {
  const bench = new Bench(game, {}, { p: await makePack('p.zip', { a: 'pack', b: 'pack b' }) });
  const { sha256: hash, size } = await keep(bench.vault, bytes(text));
  const own: OwnFile[] = [{ target: parseTarget('program/a'), sha256: hash, size }];
  return [bench, { own }];
}

describe('a version of the player’s own', () => {
  it('is put where another one lies, also where that has its size, and where there is none', async () => {
    const [bench, own] = await withOwn('mine');
    expect(told(await bench.plan([own]))).toEqual({ steps: ['replace program/a 4'], unchanged: 0 });
    const [longer, it] = await withOwn('mine!');
    expect(told(await longer.plan([it]))).toEqual({ steps: ['replace program/a 5'], unchanged: 0 });
    const [empty, there] = await withOwn('mine', {});
    expect(told(await empty.plan([there]))).toEqual({ steps: ['add program/a 4'], unchanged: 0 });
  });

  it('is there already where the game has the very bytes, before and after it was deployed', async () => {
    const [bench, own] = await withOwn('game');
    expect(told(await bench.plan([own]))).toEqual({ steps: [], unchanged: 1 });
    const [other, mine] = await withOwn('mine');
    await other.deploy([mine]);
    expect(told(await other.plan([mine]))).toEqual({ steps: [], unchanged: 1 });
  });

  it('is put again where a pack lies now that has its size, as it was deployed', async () => {
    const [bench, own] = await withOwn('mine');
    await bench.deploy([{ pack: 'p' }]);
    expect(told(await bench.plan([{ pack: 'p' }, own]))).toEqual({ steps: ['replace program/a 4'], unchanged: 1 });
  });

  it('is told by its bytes where another program has changed the file since, under whatever date', async () => {
    const [bench, own] = await withOwn('mine');
    await bench.deploy([own]);
    await bench.program.write('a', bytes('MINE'));
    expect(told(await bench.plan([own]))).toEqual({ steps: ['replace program/a 4'], unchanged: 0 });
    await bench.program.write('a', bytes('mine'));
    expect(told(await bench.plan([own]))).toEqual({ steps: [], unchanged: 1 });
  });
});

describe('what a plan says of its steps', () => {
  it('a file whose spelling changes is taken out and put in again, and so is said', async () => {
    const bench = new Bench(
      {},
      {},
      { p: await makePack('p.zip', { Lamp: 'x' }), q: await makePack('q.zip', { lamp: 'x' }) },
    );
    await bench.deploy([{ pack: 'p' }]);
    const { steps } = await bench.plan([{ pack: 'q' }]);
    expect(steps.map(({ action, target, again }) => `${action} ${target} ${again === true}`)).toContain(
      'remove program/Lamp true',
    );
  });

  it('edits in a settings file that a pack brings whole are put into what it brings', async () => {
    const bench = new Bench({}, {}, { p: await makePack('p.zip', { 'settings.ini': '[a]\nx=1\n' }) });
    const stack: StackItem[] = [{ pack: 'p', into: 'user' }, { edits: [{ path: ['a', 'x'], value: '2' }] }];
    await bench.deploy(stack);
    expect(bench.contents()[SETTINGS]).toBe('[a]\nx=2\n');
    const { files } = await readState(bench.vault);
    expect(files.map(({ target, sha256: hash }) => [target, hash])).toEqual([
      [SETTINGS, await sha256(bytes('[a]\nx=2\n'))],
    ]);
  });

  it('lists what drifted and what is to be forgotten in the order of their names', async () => {
    const files = { 'z/a': '1', m: '2', 'b/c': '3', k: '4' };
    const bench = new Bench({}, {}, { p: await makePack('p.zip', files) });
    await bench.deploy([{ pack: 'p' }]);
    for (const path of ['z/a', 'b/c', 'm', 'k']) await bench.program.write(path, bytes('other'));
    const plan = await bench.plan([{ pack: 'p' }]);
    const names = ['program/b/c', 'program/k', 'program/m', 'program/z/a'];
    expect(plan.drifted.map(({ target }) => target)).toEqual(names);
    for (const path of ['z/a', 'b/c', 'm', 'k']) await bench.program.remove(path);
    const without = await bench.plan([]);
    expect([...without.forget]).toEqual([...without.forget].sort());
    expect(without.steps).toEqual([]);
  });
});
