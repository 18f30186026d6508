import { mkdirSync, mkdtempSync, readFileSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { openRealGame } from '../../../tests/support/realSeat';
import { blob, eachInItsBrowser, type Seat } from '../../../tests/support/seat';
import { parseTarget } from '@/core';

const top = mkdtempSync(path.join(realpathSync(tmpdir()), 'satchel-twice-'));
afterAll(() => rmSync(top, { recursive: true, force: true }));
eachInItsBrowser();

const CREWS = parseTarget('game/crews.json');
const readMe = (id: string) =>
  `Put ${id} into boats. Add to the crews in crews.json:\n{ "id": "${id}", "hands": 9 }\nAdd "${id}" to "ports".\n`;

/** What is asked for and not put in yet, as it is shown. */
const asked = (seat: Seat) =>
  seat.game.proposals.flatMap(({ set, path: key, value }) => (set ? [] : [`${key.join(' ')} = ${value}`]));
async function putIn(seat: Seat): Promise<void> {
  const edits = seat.game.proposals.filter(({ set }) => !set).map(({ path: key, value }) => ({ path: key, value }));
  await seat.engine.change({ do: 'set edits', file: CREWS, edits });
}

describe('two packs that each add one to the same list', () => {
  it('get a place each, one behind the other, before anything is deployed', async () => {
    const game = path.join(top, 'game');
    for (const boat of ['tug', 'punt']) {
      mkdirSync(path.join(game, 'boats', boat), { recursive: true });
      writeFileSync(path.join(game, 'boats', boat, 'boat.def'), boat);
      writeFileSync(path.join(game, 'boats', boat, 'hull.obj'), boat);
    }
    writeFileSync(
      path.join(game, 'crews.json'),
      '{\n  "crews": [\n    { "id": "tug", "hands": 4 },\n    { "id": "punt", "hands": 1 }\n  ],\n  "ports": ["tug", "punt"]\n}\n',
    );
    const { seat } = await openRealGame(game, path.join(top, 'backup'));
    const bringIn = (id: string) =>
      seat.bringIn(blob({ [`${id}/boat.def`]: id, [`${id}/hull.obj`]: id, 'read me.txt': readMe(id) }), `${id}.zip`);
    await bringIn('yawl');
    expect(asked(seat)).toEqual(['crews 2 id = yawl', 'crews 2 hands = 9', 'ports 2 = yawl']);
    await putIn(seat);
    expect(asked(seat)).toEqual([]);
    await bringIn('ketch');
    // It had the place of the first one, and would have taken it without a word.
    expect(asked(seat)).toEqual(['crews 3 id = ketch', 'crews 3 hands = 9', 'ports 3 = ketch']);
    await putIn(seat);
    expect(asked(seat)).toEqual([]);
    const { text } = await seat.engine.ask({ ask: 'settings text', file: CREWS });
    expect(JSON.parse(text)).toEqual({
      crews: [
        { id: 'tug', hands: 4 },
        { id: 'punt', hands: 1 },
        { id: 'yawl', hands: 9 },
        { id: 'ketch', hands: 9 },
      ],
      ports: ['tug', 'punt', 'yawl', 'ketch'],
    });
    // And once they are in the game, a third.
    await seat.engine.change({ do: 'deploy' });
    expect(asked(seat)).toEqual([]);
    await bringIn('skiff');
    expect(asked(seat)).toEqual(['crews 4 id = skiff', 'crews 4 hands = 9', 'ports 4 = skiff']);
    await putIn(seat);
    expect(asked(seat)).toEqual([]);
    await seat.engine.change({ do: 'deploy' });
    expect((JSON.parse(readFileSync(path.join(game, 'crews.json'), 'utf8')) as { ports: string[] }).ports).toEqual([
      'tug',
      'punt',
      'yawl',
      'ketch',
      'skiff',
    ]);
  });
});
