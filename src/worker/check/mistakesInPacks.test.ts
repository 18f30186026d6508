import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { blob, bytes, demo, eachInItsBrowser } from '../../../tests/support/seat';
import { wrong, run, cure, switchOn, answerAll } from '../../../tests/support/mistakes';

eachInItsBrowser();

describe('mistakes in packs and titles: made, seen, named, cured, and clean at the next start', () => {
  it('a title sealed in one file: unpacked beside it, and as it was when all is put back', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'tinplate' });
    await seat.fromShelf('pebble-moss.zip');
    await switchOn(seat);
    const findings = await run(seat);
    expect(findings.map(({ id }) => id)).toContain('sealed:PW-5120');
    expect(seat.game.check.loaded).toBe(0);
    await cure(seat, /^sealed/);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.check.loaded).toBe(6);
    await seat.engine.change({ do: 'put all back' });
    expect(seat.game.ledger[0]?.counts).toMatchObject({ remove: 7 });
  });
  const flipped = (data: Uint8Array): Uint8Array => data.map((byte, i) => (i === 45 ? byte ^ 0xff : byte));
  it.each([
    ['unsafe-path', zipSync({ '../../outside.txt': bytes('x') })],
    ['damaged', flipped(zipSync({ 'PW-5120.title': bytes('Pebble Wharf '.repeat(40)) }))],
    ['not-an-archive', bytes('no archive')],
  ])('a sealed title is no more trusted than a download: %s, and nothing is changed', async (code, archive) => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'tinplate' });
    await seat.fromShelf('pebble-moss.zip');
    // Another file of the title, as a pack may bring it over the game's own.
    await seat.bringIn(new Blob([zipSync({ 'shelf/PW-5120.tub': archive })]), 'title.zip');
    await answerAll(seat);
    await seat.engine.change({ do: 'deploy' });
    await expect(cure(seat, /^sealed/)).rejects.toMatchObject({ code });
    expect(seat.game.own).toEqual([]);
  });
  it('two packs that want different values for one key, settled by the player', async () => {
    const seat = await demo();
    await seat.bringIn(blob({ 'Calm/ferries.ini': '[Graphics]\nWaterDetail=1\n' }), 'calm.zip');
    await seat.bringIn(blob({ 'Wild/ferries.ini': '[Graphics]\nWaterDetail=3\n' }), 'wild.zip');
    const fought = () => seat.game.check.findings.find(({ id }) => id.startsWith('fought-over'));
    expect(fought()).toMatchObject({
      about: 'user/ferries.ini › Graphics › WaterDetail',
      fixes: [{ label: 'Keep 3, for “Wild”' }, { label: 'Keep 1, for “Calm”' }],
    });
    const second = fought()?.fixes[1];
    if (!second) throw new Error('no second cure');
    await seat.engine.change({ do: 'fix', fix: second });
    expect(fought()).toBeUndefined();
    await seat.engine.change({ do: 'deploy' });
    expect(seat.game.settings.length).toBeGreaterThan(0);
    expect(wrong(seat)).toEqual([]);
  });
  it('a base that says it needs its patch, and the patch brought in', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'tinplate' });
    const base = (files: Record<string, string>, name: string) =>
      seat.bringIn(blob({ ...files, 'CB-2041/swap/bun.png': 'x' }), name);
    await base({ 'read me.txt': 'Old Mill 1.0\r\nNeeds the patch: Old Mill Patch\r\n' }, 'old-mill-1.0.zip');
    expect(
      wrong(seat)
        .map(({ title }) => title)
        .join(),
    ).toContain('needs its patch “Old Mill Patch”');
    await base({ 'read me.txt': 'Old Mill Patch 1.0\r\n' }, 'old-mill-patch-1.0.zip');
    expect(
      wrong(seat)
        .map(({ title }) => title)
        .join(),
    ).not.toContain('needs its patch');
  });
  it('patches that a switch of the title turns on, and the master switch does not', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'tinplate' });
    await seat.fromShelf('quick-oven-codes.zip');
    await seat.engine.change({
      do: 'set edits',
      file: 'user/titles/CB-2041.ini',
      edits: [{ path: ['Patches', 'UseList'], value: '1' }],
    });
    const findings = await run(seat);
    expect(findings[0]?.id).toBe('switch-off:patches');
    await cure(seat, /^switch-off:patches$/);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.check.log?.text).toContain('CB-2041: 1 of 2 patches in use');
  });
  it('a picture above the limit stops the game at its main menu', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'hedgerow' });
    await seat.fromShelf('rose-porch.zip');
    const { layer } = await seat.fromShelf('tall-hedges.zip');
    await answerAll(seat);
    const findings = await run(seat);
    expect(findings.map(({ id }) => id)).toEqual(
      expect.arrayContaining(['ended-early', `warning:texture-too-large:${layer}`]),
    );
    await cure(seat, /^warning:texture-too-large/, 1);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.check.log?.text).toContain('hall> welcome');
  });
  it('two packs with one id, and a pack whose manifest cannot be read', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'hedgerow' });
    await seat.fromShelf('rose-porch.zip');
    await seat.bringIn(
      blob({ 'pack.leaf': '{ "id": "rose-porch", "title": "Copy", "version": "1.0.0" }', 'rooms/a.room': 'room a\n' }),
      'copy.zip',
    );
    await seat.bringIn(blob({ 'pack.leaf': '{ "id": "broken", ', 'rooms/b.room': 'room b\n' }), 'broken.zip');
    await answerAll(seat);
    await seat.engine.change({ do: 'deploy' });
    await seat.engine.change({ do: 'trial run' });
    const said = wrong(seat)
      .map(({ title }) => title)
      .join('\n');
    expect(said).toMatch(/same id/);
    expect(said).toMatch(/cannot be read/);
  });
  // Common practice: preloading a whole pack needs room for all of it.
  it('textures that are read at the start and do not fit into memory', async () => {
    const seat = await demo();
    await seat.fromShelf('weathered-quay-1.2.zip');
    await switchOn(seat);
    await seat.engine.change({
      do: 'set edits',
      file: 'user/ferries.ini',
      edits: [{ path: ['Graphics', 'PreloadTextures'], value: '1' }],
    });
    expect(wrong(seat).some(({ id }) => id.startsWith('memory'))).toBe(false);
    await seat.engine.change({ do: 'machine memory', memory: 2 * 1024 ** 2 });
    expect((await cure(seat, /^memory/)).title).toContain('PreloadTextures is on');
    expect(await run(seat)).toEqual([]);
  });
  it('a value out of range, set by a pack', async () => {
    const seat = await demo();
    await seat.bringIn(blob({ 'Deep/ferries.ini': '[Graphics]\nWaterDetail=9\n' }), 'deep.zip');
    expect(wrong(seat).map(({ id }) => id)).toContain('out-of-range:user/ferries.ini Graphics WaterDetail');
    await cure(seat, /^out-of-range/);
    expect(wrong(seat)).toEqual([]);
    expect(await run(seat)).toEqual([]);
  });
});
