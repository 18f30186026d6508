import 'fake-indexeddb/auto';
import { expect, it, vi } from 'vitest';
import { memory } from '@/storage/memory';
import { blob, demo, eachInItsBrowser, reloaded } from '../../../tests/support/seat';

eachInItsBrowser();

it('of many packs at once all are remembered, beside those of other games, without a whole list written for each', async () => {
  const seat = await demo();
  await seat.bringIn(blob({ 'boats/heron.png': 'alone' }), 'alone.zip');
  const other = (await memory.packs([]))[0];
  expect(other).toBeDefined();
  // A note of another game: it is nobody's business here.
  await memory.setPacks([{ ...other!, id: 'elsewhere', game: 'another' }, ...(await memory.packs([]))]);
  const ofNotes = vi.spyOn(memory, 'setPacks');
  const ofStack = vi.spyOn(memory, 'setStack');
  const files = Array.from({ length: 40 }, (_, i) => ({
    name: `boat ${i}.zip`,
    data: blob({ [`boats/boat ${i}.png`]: `boat ${i}` }),
  }));
  // However long it takes here: no second passes.
  vi.useFakeTimers({ toFake: ['Date'] });
  const { brought, refused } = await seat.engine.change({ do: 'bring in', files });
  expect([brought.length, refused]).toEqual([40, []]);
  for (const spy of [ofNotes, ofStack]) expect(spy.mock.calls.length).toBeLessThan(20);
  vi.useRealTimers();

  const again = await reloaded();
  const names = again.game.packs.map(({ file }) => file);
  expect(names.slice(-40)).toEqual(files.map(({ name }) => name));
  const notes = await memory.packs([]);
  expect(notes.filter(({ game }) => game === 'another').map(({ id }) => id)).toEqual(['elsewhere']);
  expect(notes).toHaveLength(42);
});
