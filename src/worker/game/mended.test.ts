import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { WHOLE, parseTarget, plainCard, type DeployedState } from '@/core';
import { openRealGame } from '../../../tests/support/realSeat';
import { blob, eachInItsBrowser, type Seat } from '../../../tests/support/seat';
import { BridgeFolder } from '@/folders/bridgeFolder';
import { warningsOf } from './packProposal';

const top = mkdtempSync(path.join(realpathSync(tmpdir()), 'satchel-mended-'));
const game = path.join(top, 'game');
afterAll(() => rmSync(top, { recursive: true, force: true }));
const put = (of: string, text: string) => {
  mkdirSync(path.dirname(path.join(game, of)), { recursive: true });
  writeFileSync(path.join(game, of), text);
};
eachInItsBrowser();

/** A game in a real folder, over the app's server. */
async function openGame(): Promise<{ seat: Seat; vault: BridgeFolder }> {
  const { seat, id, ask } = await openRealGame(game, path.join(top, 'backup'));
  return { seat, vault: new BridgeFolder(id, 'vault', ask) };
}

/** A file that a pack brought, as the app notes it. */
const brought = (of: string, text: string): DeployedState['files'][number] => ({
  target: parseTarget(`game/${of}`),
  layer: 'pack',
  sha256: createHash('sha256').update(text).digest('hex'),
  size: text.length,
  modified: 1,
  from: { kind: 'pack', packId: 'pack', path: WHOLE, size: text.length },
  original: { kind: 'absent' },
});

describe('what is kept and mended while a game is open', () => {
  it('a file of the game that another program puts under a pack’s is counted at the next look', async () => {
    for (const name of ['first', 'second']) put(`mods/${name}/mod.txt`, name);
    const { seat } = await openGame();
    await seat.bringIn(blob({ 'glow/mod.txt': 'name = Glow', 'glow/a.png': 'a' }), 'glow.zip');
    expect(seat.game.packs[0]?.placement).toMatchObject({ fresh: 2, replacing: 0 });
    put('mods/glow/a.png', 'theirs');
    await seat.engine.change({ do: 'look again' });
    expect(seat.game.packs[0]?.placement).toMatchObject({ fresh: 1, replacing: 1 });
    rmSync(path.join(game, 'mods/glow'), { recursive: true });
    await seat.engine.change({ do: 'look again' });
    expect(seat.game.packs[0]?.placement).toMatchObject({ fresh: 2, replacing: 0 });
  });

  it('what is deployed, and how all goes back, is what the vault says now and what lies in the game now', async () => {
    put('mods/first/mod.txt', 'first');
    put('glow/a.png', 'a');
    put('glow/b.png', 'b');
    const { seat, vault } = await openGame();
    const write = async (...files: DeployedState['files']) => {
      await vault.write('state.json', new TextEncoder().encode(JSON.stringify({ format: 1, folders: [], files })));
      await seat.engine.change({ do: 'look again' });
    };
    const says = () => ({ deployed: seat.game.deployed.files, back: seat.game.putBack.total });
    await write(brought('glow/a.png', 'a'));
    expect(says()).toEqual({ deployed: 1, back: 1 });
    await write(brought('glow/a.png', 'a'), brought('glow/b.png', 'b'));
    expect(says()).toEqual({ deployed: 2, back: 2 });
    // The same without a look at everything: only what the vault says is another.
    await vault.write('state.json', new TextEncoder().encode('{"format":1,"folders":[],"files":[]}'));
    await seat.engine.change({ do: 'switch packs', layers: [], on: true });
    expect(says()).toEqual({ deployed: 0, back: 0 });
    await write(brought('glow/a.png', 'a'), brought('glow/b.png', 'b'));
    // Another program takes one away: there is nothing to take back there.
    rmSync(path.join(game, 'glow/b.png'));
    await seat.engine.change({ do: 'look again' });
    expect(says()).toEqual({ deployed: 2, back: 1 });
  });

  it('a pack that another one needs is missed until it is there', async () => {
    put('mods/first/mod.txt', 'first');
    put('mods/second/mod.txt', 'second');
    const { seat } = await openGame();
    const missed = () => seat.game.packs.flatMap(({ placement }) => placement.warnings.map(({ code }) => code));
    const needs = 'name = Glow\nrequires = Lantern Base\n';
    await seat.bringIn(blob({ 'glow/mod.txt': needs, 'glow/read me.txt': 'Requires: Lantern Base\n' }), 'glow.zip');
    expect(missed()).toContain('needs-pack');
    await seat.bringIn(blob({ 'lantern/mod.txt': 'name = Lantern Base\n' }), 'Lantern Base.zip');
    expect(missed()).not.toContain('needs-pack');
  });

  it('what a pack needs of the game is missed until the game has it', async () => {
    const facts = [{ kind: 'needs', value: 'Harbour Set', where: 'read me.txt' }];
    const placement = {
      rules: [],
      leftOut: [],
      made: [],
      decisions: { moves: [], out: [], in: [], answers: {} },
    };
    const layer = { id: 'l', packId: 'p', name: 'Glow', on: true, placement };
    const contents = [{ id: 'harbour', title: 'Harbour Set', marker: 'game/sets/harbour.dat', words: [] }];
    const pack = { pack: { entries: [] }, images: new Map(), facts };
    const session = {
      game: { card: { ...plainCard('quay', 'Quay'), contents } },
      picture: { ownFiles: ['game/a.txt'] },
      stack: { layers: [layer] },
      packs: { opened: 0 },
      packLayers: () => [layer],
      openPack: async () => pack,
    };
    const codes = async () => (await warningsOf(session as never, layer as never)).map(({ code }) => code);
    expect(await codes()).toEqual(['needs-contents']);
    session.picture = { ownFiles: ['game/sets/harbour.dat'] };
    expect(await codes()).toEqual([]);
  });
});
