import { mkdirSync, mkdtempSync, readFileSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { openRealGame } from '../../../tests/support/realSeat';
import { makePack } from '../../../tests/support/game';
import { blob, eachInItsBrowser, type Seat } from '../../../tests/support/seat';
import { parseTarget, resolveLayers, type Plan, type SettingsFile } from '@/core';
import type { SettingRow } from '../contract';
import { comingSettings } from './comingSettings';
import type { Session } from './session';

const top = mkdtempSync(path.join(realpathSync(tmpdir()), 'satchel-coming-'));
afterAll(() => rmSync(top, { recursive: true, force: true }));
eachInItsBrowser();

const FILE = 'game/tracks/moor/track.xml';
const OWN = '<track name="moor"><laps>3</laps><wind>2</wind></track>\n';
const THEIRS = '<track name="moor"><laps>9</laps><fog>1</fog></track>\n';

async function rowsIn(seat: Seat): Promise<SettingRow[]> {
  const query = { view: 'settings', file: FILE, search: '' } as const;
  return (await seat.engine.ask({ ask: 'rows', query, offset: 0, limit: 500 })).rows as SettingRow[];
}

/** Every value that the list says the file will have. */
const promised = async (seat: Seat): Promise<Record<string, string>> =>
  Object.fromEntries(
    (await rowsIn(seat)).flatMap(({ path: key, value, wanted }) => {
      const will = wanted ?? value ?? '';
      return will === '' ? [] : [[key, will]];
    }),
  );

describe('a settings file that a pack brings whole', () => {
  it('is shown as it will be before it is deployed, and that is what the disk has then', async () => {
    const game = path.join(top, 'game');
    for (const name of ['moor', 'quay']) {
      mkdirSync(path.join(game, 'tracks', name), { recursive: true });
      writeFileSync(path.join(game, 'tracks', name, 'track.xml'), OWN.replace('moor', name));
      writeFileSync(path.join(game, 'tracks', name, 'ground.tga'), name);
    }
    const { seat } = await openRealGame(game, path.join(top, 'backup'));
    const asks = 'Set laps to 9 in tracks/moor/track.xml.\nSet wind to 4 in tracks/moor/track.xml.\n';
    await seat.bringIn(
      blob({ 'tracks/moor/track.xml': THEIRS, 'tracks/moor/ground.tga': 'long', 'read me.txt': asks }),
      'long moor.zip',
    );
    // What the pack's own file says already is not asked for again.
    expect(seat.game.proposals.map(({ value, file }) => [value, file])).toEqual([['4', FILE]]);
    expect(seat.game.settings.find(({ target }) => target === FILE)).toMatchObject({ coming: 'Long Moor' });
    const before = await rowsIn(seat);
    const row = (name: string) => before.find(({ path: key }) => key.endsWith(name));
    expect(row('laps')).toMatchObject({ value: '3', wanted: '9', by: 'Long Moor', mine: false });
    expect(row('wind')).toMatchObject({ value: '2', wanted: '', by: 'Long Moor' });
    expect(row('fog')).toMatchObject({ value: undefined, wanted: '1', by: 'Long Moor' });
    expect(row('name')).toMatchObject({ value: 'moor', wanted: undefined, by: undefined });
    // An edit goes onto the pack's file.
    await seat.engine.change({ do: 'set edits', file: FILE, edits: [{ path: row('fog')?.keys ?? [], value: '5' }] });
    const { text } = await seat.engine.ask({ ask: 'settings text', file: FILE });
    expect(text).toBe(THEIRS.replace('<fog>1', '<fog>5'));
    const will = await promised(seat);
    expect(Object.values(will).sort()).toEqual(['5', '9', 'moor']);
    await seat.engine.change({ do: 'deploy' });
    expect(readFileSync(path.join(game, 'tracks/moor/track.xml'), 'utf8')).toBe(text);
    expect(await promised(seat)).toEqual(will);
    // Taken out again, the game's own values come back.
    await seat.engine.change({ do: 'drop edit', file: FILE, path: row('fog')?.keys ?? [] });
    expect((await rowsIn(seat)).find(({ path: key }) => key.endsWith('fog'))).toMatchObject({ wanted: '1' });
  });

  it('is read from its pack once, look after look, and anew where the game’s card gives it another form', async () => {
    const pack = await makePack('p', { 'a.cfg': 'speed = 4\n' });
    const [entry] = pack.entries;
    if (!entry) throw new Error('an empty pack');
    const target = parseTarget('game/a.cfg');
    const files = [{ ...entry, target }];
    const layers = [{ kind: 'pack' as const, id: 'p', name: 'P', packId: 'p', files, edits: [], made: [] }];
    const openPack = vi.fn(() => Promise.resolve({ pack }));
    const session = { openPack } as unknown as Session;
    const plan = { steps: [{ target }] } as unknown as Plan;
    const lookAt = (dialect: SettingsFile['dialect']) =>
      comingSettings(session, [{ target, title: 'a', dialect, keys: [] }], { resolution: resolveLayers(layers), plan });
    expect((await lookAt('ini')).get(target)?.document.get(['speed'])).toBe('4');
    await lookAt('ini');
    expect(openPack).toHaveBeenCalledTimes(1);
    expect((await lookAt('commands')).get(target)?.document.get(['speed'])).not.toBe('4');
  });
});
