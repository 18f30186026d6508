import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { BrowserFolder } from '@/folders/browser';
import { memory } from '@/storage/memory';
import { emptyStack } from '@/core';
import { blob, demo, eachInItsBrowser, gullwickTexts, reloaded, withoutHistory } from '../../../tests/support/seat';

eachInItsBrowser();

describe('the way back', () => {
  it('goes back to the state after any earlier deployment, byte for byte, and forward again', async () => {
    let seat = await demo();
    const states: Record<string, string>[] = [];
    const deploy = async () => {
      await seat.engine.change({ do: 'deploy' });
      states.push(await gullwickTexts());
    };
    const low = (await seat.bringIn(blob({ 'boats/heron.png': 'low', 'boats/extra.png': 'low' }), 'low.zip')).layer;
    await deploy();
    await seat.bringIn(blob({ 'boats/heron.png': 'high' }), 'high.zip');
    await seat.engine.change({
      do: 'set edits',
      file: 'user/ferries.ini',
      edits: [{ path: ['Graphics', 'AddonTextures'], value: '1' }],
    });
    await deploy();
    await seat.engine.change({
      do: 'pick',
      scope: 'file',
      at: 'program/assets/textures/boats/heron.png',
      layer: low,
    });
    await seat.engine.change({ do: 'leave out', layer: low, target: 'program/assets/textures/boats/extra.png' });
    await deploy();
    expect(seat.game.states).toEqual([1, 2, 3]);
    for (const number of [1, 3, 2]) {
      expect(await seat.engine.change({ do: 'go back', number })).toEqual([]);
      // The plan first; nothing is written yet.
      expect(seat.game.plan.total).toBeGreaterThan(0);
      await seat.engine.change({ do: 'deploy' });
      expect(await gullwickTexts()).toEqual(states[number - 1]);
    }
    await seat.engine.change({ do: 'take out', layers: [low] });
    expect(await seat.engine.change({ do: 'go back', number: 1 })).toEqual([]);
    // Its archive is let go only when nothing of it is deployed any more.
    await seat.engine.change({ do: 'switch packs', layers: [low], on: false });
    await seat.engine.change({ do: 'deploy' });
    await seat.engine.change({ do: 'take out', layers: [low] });
    seat = await withoutHistory('gullwick');
    await seat.engine.change({ do: 'machine memory', memory: 2 ** 33 });
    expect(await seat.engine.change({ do: 'go back', number: 1 })).toEqual(['Low']);
    await expect(seat.engine.change({ do: 'go back', number: 99 })).rejects.toMatchObject({ code: 'unknown-thing' });
  });

  it('a backup bag puts the game back in a browser that has lost everything but the folders', async () => {
    const seat = await demo();
    const before = await gullwickTexts();
    await seat.fromShelf('weathered-quay-1.2.zip');
    await seat.engine.change({
      do: 'set edits',
      file: 'user/ferries.ini',
      edits: [{ path: ['Graphics', 'AddonTextures'], value: '1' }],
    });
    await seat.engine.change({ do: 'deploy' });
    expect(JSON.parse(await seat.engine.ask({ ask: 'plan as text', form: 'json' }))).toMatchObject({
      steps: [],
      unchanged: 215,
    });
    const { blob: bag } = await seat.engine.change({ do: 'export bag' });
    await expect(seat.engine.change({ do: 'import bag', file: new File([bag], 'bag.zip') })).rejects.toMatchObject({
      code: 'bag-not-needed',
    });
    await BrowserFolder.drop('gullwick-vault');
    await memory.setStack('gullwick', emptyStack);
    const fresh = await reloaded();
    expect(fresh.game.deployed.files).toBe(0);
    expect(await fresh.engine.change({ do: 'import bag', file: new File([bag], 'bag.zip') })).toEqual({
      originals: 17,
      title: 'Gullwick Ferries',
    });
    expect(fresh.game.putBack.total).toBe(215);
    await fresh.engine.change({ do: 'put all back' });
    expect(await gullwickTexts()).toEqual(before);
  });
});
