import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { blob, demo, eachInItsBrowser, reloaded } from '../../../tests/support/seat';

eachInItsBrowser();

describe('notes on a pack', () => {
  it('are kept as far as they can be read again, however long; an empty one is none', async () => {
    const seat = await demo();
    const { layer } = await seat.bringIn(blob({ 'boats/heron.png': 'x' }), 'heron.zip');
    const long = 'x'.repeat(100_000);
    await seat.engine.change({ do: 'note pack', layer, notes: { origin: long, version: long, remember: long } });
    await seat.engine.change({ do: 'paste page', layer, text: long });
    const again = await reloaded();
    expect(again.snapshot?.trouble).toEqual([]);
    const [pack] = again.game.packs;
    const lengths = [pack?.notes.origin, pack?.notes.version, pack?.notes.remember, pack?.page].map(
      (one) => one?.length,
    );
    expect(lengths).toEqual([2000, 100, 4000, 65_536]);
    await again.engine.change({ do: 'note pack', layer, notes: { version: '  ' } });
    expect(again.game.packs[0]?.notes).toMatchObject({ version: undefined, remember: pack?.notes.remember });
  });
});
