import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { parseTarget, type Fix, type TargetPath } from '@/core';
import { blob, demo, eachInItsBrowser } from '../../../tests/support/seat';

eachInItsBrowser();

const at = (folder: string, name: string) => parseTarget(`program/assets/textures/${folder}/${name}.png`);

describe('a cure for files of several packs', () => {
  it.each<[cure: string, fix: Fix, before: TargetPath[], after: TargetPath[]]>([
    [
      'moves them all',
      {
        kind: 'move',
        label: '',
        moves: [
          { from: at('quay', 'one'), to: at('boats', 'one') },
          { from: at('quay', 'two'), to: at('boats', 'two') },
        ],
      },
      [at('quay', 'one'), at('quay', 'two')],
      [at('boats', 'one'), at('boats', 'two')],
    ],
    [
      'leaves them all out',
      { kind: 'leave out', label: '', targets: [at('quay', 'one'), at('quay', 'two')] },
      [at('quay', 'one'), at('quay', 'two')],
      [],
    ],
  ])('%s in one step, which Undo takes back whole', async (_, fix, before, after) => {
    const seat = await demo();
    for (const name of ['one', 'two'])
      await seat.bringIn(
        blob({ [`assets/textures/quay/${name}.png`]: name, 'assets/textures/quay/both.png': name }),
        `${name}.zip`,
      );
    const places = [...new Set([...before, ...after])];
    const brought = async () => {
      const found: TargetPath[] = [];
      for (const target of places) {
        const { versions } = await seat.engine.ask({ ask: 'story of file', target });
        if (versions.length > 0) found.push(target);
      }
      return found;
    };
    expect(await brought()).toEqual(before);
    const { steps } = seat.game.history;
    await seat.engine.change({ do: 'fix', fix });
    expect(await brought()).toEqual(after);
    expect(seat.game.history.steps).toBe(steps + 1);
    await seat.engine.change({ do: 'go to step', steps });
    expect(await brought()).toEqual(before);
  });
});
