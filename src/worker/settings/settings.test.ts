import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { demo, eachInItsBrowser, type Seat } from '../../../tests/support/seat';
import type { SettingRow } from '../contract';

eachInItsBrowser();

const FILE = 'user/ferries.ini';

/** What the player wants in the file, by key. */
async function wanted(seat: Seat): Promise<Record<string, string | undefined>> {
  const query = { view: 'settings', file: FILE, search: '' } as const;
  const { rows } = await seat.engine.ask({ ask: 'rows', query, offset: 0, limit: 500 });
  const mine = (rows as SettingRow[]).filter((row) => row.mine);
  return Object.fromEntries(mine.map((row) => [row.path, row.wanted]));
}

describe('one key by its path as it is shown', () => {
  it('is the row that the list has, whatever else holds its words, and there is none for another', async () => {
    const seat = await demo();
    const query = { view: 'settings', file: FILE, search: '' } as const;
    const { rows } = await seat.engine.ask({ ask: 'rows', query, offset: 0, limit: 500 });
    expect(rows.length).toBeGreaterThan(5);
    for (const row of rows as SettingRow[])
      expect(await seat.engine.ask({ ask: 'setting row', file: FILE, path: row.path })).toEqual(row);
    const [{ path } = { path: '' }] = rows as SettingRow[];
    // Two hundred keys that hold all of its words, and are listed before it or behind it.
    const edits = Array.from({ length: 200 }, (_, i) => ({ path: [`${path} ${i}`, path], value: '1' }));
    await seat.engine.change({ do: 'set edits', file: FILE, edits });
    expect(await seat.engine.ask({ ask: 'setting row', file: FILE, path })).toMatchObject({ path, mine: false });
    expect(await seat.engine.ask({ ask: 'setting row', file: FILE, path: `${path} 7 › ${path}` })).toMatchObject({
      mine: true,
      wanted: '1',
    });
    expect(await seat.engine.ask({ ask: 'setting row', file: FILE, path: 'no such › key' })).toBeUndefined();
  });
});

describe('the player’s own edits', () => {
  it('are dropped one by one, and the others stay', async () => {
    const seat = await demo();
    const rows = await seat.engine.ask({
      ask: 'rows',
      query: { view: 'settings', file: FILE, search: '' },
      offset: 0,
      limit: 2,
    });
    const [one, other] = (rows.rows as SettingRow[]).map(({ keys }) => keys);
    const edits = [one, other].map((path) => ({ path: path ?? [], value: '77' }));
    await seat.engine.change({ do: 'set edits', file: FILE, edits });
    expect(Object.values(await wanted(seat))).toEqual(['77', '77']);
    await seat.engine.change({ do: 'drop edit', file: FILE, path: one ?? [] });
    expect(await wanted(seat)).toEqual({ [(other ?? []).join(' › ')]: '77' });
  });

  it('are dropped, too, in a file that nothing names any more', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'drop edit', file: 'user/gone.ini', path: ['a'] });
    expect(seat.game.plan.total).toBe(0);
  });
});
