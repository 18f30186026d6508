import { appendFileSync, mkdirSync, mkdtempSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { emptyResolution, parseTarget, type DeployedState, type Folder } from '@/core';
import { BridgeFolder } from '@/folders/bridgeFolder';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { askServer } from '../../../tests/support/server';
import { filesNow } from './filesNow';
import { Seen } from './seen';
import type { Session } from './session';

const top = mkdtempSync(path.join(realpathSync(tmpdir()), 'satchel-files-'));
const game = path.join(top, 'game');
mkdirSync(game);
vi.stubEnv('SATCHEL_FOLDERS', JSON.stringify({ folders: [game], backup: path.join(top, 'backup') }));
vi.stubEnv('SATCHEL_SECRET', 'key');
afterAll(() => rmSync(top, { recursive: true, force: true }));
const ask = askServer('key');

const deployed = (target: string): DeployedState['files'][number] => ({
  target: parseTarget(target),
  layer: 'pack',
  sha256: 'a'.repeat(64),
  size: 1,
  modified: 1,
  from: { kind: 'absent' },
  original: { kind: 'absent' },
});
const stateOf = (...targets: string[]) => ({ format: 1 as const, folders: [], files: targets.map(deployed) });
const sessionOver = (folders: Record<string, Folder>) =>
  ({ seen: new Seen(), workshop: { folders } }) as unknown as Session;
const sizes = async (session: Session, state = stateOf(), how = {}) =>
  [...(await filesNow(session, { state, resolution: emptyResolution() }, how))]
    .map(({ path: of, size }) => `${of} ${size}`)
    .sort();

describe('the game’s files, as they are now', () => {
  let over: Record<string, Folder>;
  beforeEach(async () => {
    rmSync(game, { recursive: true });
    mkdirSync(path.join(game, 'deep'), { recursive: true });
    for (const name of ['deep/ours', 'deep/theirs']) writeFileSync(path.join(game, name), 'x');
    const [given] = (await (await ask('/bridge/folders')).json()) as { id: string }[];
    over = { game: new BridgeFolder(given?.id ?? '', 'game', ask) };
  });

  /** However busy this machine is: hearing took no time, so that what was heard is not good for a while. */
  const heardQuickly = (session: Session) => (session.seen.heard = { at: 0, took: 0 });

  it('over the app’s server: names are heard at once, and what is deployed is asked for by name', async () => {
    // Folders that have just changed are looked into anyway.
    await new Promise((done) => setTimeout(done, 2600));
    const session = sessionOver(over);
    expect(await sizes(session)).toEqual(['deep/ours 1', 'deep/theirs 1']);
    // Another program writes in place: to what the app put there, and to a file of the game.
    for (const name of ['deep/ours', 'deep/theirs']) appendFileSync(path.join(game, name), 'more');
    const state = stateOf('game/deep/ours', 'game/deep/gone');
    heardQuickly(session);
    expect(await sizes(session, state, { recent: true })).toEqual(['deep/ours 5', 'deep/theirs 1']);
    expect(await sizes(session, state, { anew: true })).toEqual(['deep/ours 5', 'deep/theirs 5']);
    writeFileSync(path.join(game, 'deep/more'), 'xyz');
    heardQuickly(session);
    expect(await sizes(session, state, { recent: true })).toEqual(['deep/more 3', 'deep/ours 5', 'deep/theirs 5']);
    rmSync(path.join(game, 'deep/ours'));
    heardQuickly(session);
    expect(await sizes(session, state, { recent: true })).toEqual(['deep/more 3', 'deep/theirs 5']);
  });

  it('beside a folder that cannot tell: that one is listed, and where it took long good for a while', async () => {
    const slow = new MemoryFolder({ a: '1' });
    let listings = 0;
    const list = slow.list.bind(slow);
    slow.list = async function* (...of: Parameters<typeof list>) {
      listings++;
      await new Promise((done) => setTimeout(done, 520));
      yield* list(...of);
    };
    const session = sessionOver({ ...over, user: slow });
    expect(await sizes(session)).toEqual(['a 1', 'deep/ours 1', 'deep/theirs 1']);
    await slow.write('b', new Uint8Array(2));
    rmSync(path.join(game, 'deep/theirs'));
    heardQuickly(session);
    expect(await sizes(session, stateOf(), { recent: true })).toEqual(['a 1', 'deep/ours 1']);
    expect(listings).toBe(1);
    session.seen.lookAtFilesAgain();
    heardQuickly(session);
    expect(await sizes(session, stateOf(), { recent: true })).toEqual(['a 1', 'b 2', 'deep/ours 1']);
    expect(listings).toBe(2);
  });
});
