import {
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readFileSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { deploy, minded, mindOriginals, readState, restore } from '@/core';
import { benchDialect } from '../../../tests/support/game';
import { removeDiskGames } from '../../../tests/support/diskGame';
import { INI, OWN, stack, game } from '../../../tests/support/besideGame';

/*
 * An original and its plain copy heal each other, where another program writes into one of them. Held against Node's
 * own file calls on a real disk.
 */

removeDiskGames();

describe.skipIf(process.platform === 'win32')('plain copies and originals', () => {
  const objectOf = (at: (target: string) => string, text: string) => {
    const hash = createHash('sha256').update(text).digest('hex');
    return at(`backup/satchel/objects/${hash.slice(0, 2)}/${hash}`);
  };

  it('a program that still has the replaced file open: what it writes is kept, and the original is healed from its copy', async () => {
    const { bench, workshop, at } = await game();
    const [picture, settings] = [openSync(at('program/a.png'), 'r+'), openSync(at('user/settings.ini'), 'r+')];
    await bench.deploy(stack, workshop);
    await mindOriginals(workshop);
    writeSync(picture, 'saved late', 0);
    writeSync(settings, 'saved late too', 0);
    [picture, settings].forEach((one) => closeSync(one));
    const found = await mindOriginals({ ...workshop, now: () => Date.now() + 25 * 3600 * 1000 });
    expect(found.mishaps.map(({ target, what }) => `${target} ${what}`).sort()).toEqual([
      'program/a.png late',
      'user/settings.ini late',
    ]);
    expect(readFileSync(objectOf(at, 'saved late'), 'utf8')).toBe('saved late');
    expect(readFileSync(objectOf(at, 'saved late too' + INI.slice('saved late too'.length)), 'utf8')).toContain(
      'saved late too',
    );
    await restore(workshop, { dialectOf: benchDialect });
    for (const [target, text] of Object.entries(OWN)) expect(readFileSync(at(target), 'utf8'), target).toBe(text);
  });

  it('the same before there was a copy: what it wrote goes back into the game', async () => {
    const { bench, workshop, at } = await game();
    const handle = openSync(at('program/a.png'), 'r+');
    await deploy(await bench.plan(stack, workshop), workshop, { title: 'Deploy', layers: [], copiesLater: true });
    expect(existsSync(at('backup/data'))).toBe(false);
    writeSync(handle, 'saved late', 0);
    closeSync(handle);
    const originals = async () =>
      Object.fromEntries((await readState(workshop.vault)).files.map(({ target, original }) => [target, original]));
    const before = await originals();
    expect((await mindOriginals(workshop)).mishaps).toMatchObject([{ target: 'program/a.png', what: 'late' }]);
    const sha256 = createHash('sha256').update('saved late').digest('hex');
    // That of no other file.
    expect(await originals()).toEqual({ ...before, 'program/a.png': { kind: 'kept', sha256, size: 10 } });
    await restore(workshop, { dialectOf: benchDialect });
    expect(readFileSync(at('program/a.png'), 'utf8')).toBe('saved late');
  });

  it('a copy that was appended to, and an original that was: each is healed from the other', async () => {
    const { bench, workshop, at } = await game();
    await bench.deploy(stack, workshop);
    writeFileSync(at('backup/data/program/b.png'), 'x', { flag: 'a' });
    const object = objectOf(at, 'own a');
    const date = statSync(object).mtime;
    writeFileSync(object, 'x', { flag: 'a' });
    // Bytes that rot leave the date as it was.
    utimesSync(object, date, new Date(Date.now() - 60_000));
    const found = await mindOriginals(workshop);
    expect(found.mishaps.map(({ target, what }) => `${target} ${what}`).sort()).toEqual([
      'program/a.png healed',
      'program/b.png healed',
    ]);
    expect(readFileSync(object, 'utf8')).toBe('own a');
    expect(readFileSync(at('backup/data/program/b.png'), 'utf8')).toBe('own b');
    expect(found.copiedThrough).toBe(1);
    expect(await minded(workshop.vault)).toEqual(found);
  });

  it('both damaged: the loss is named, and nothing else', async () => {
    const { bench, workshop, at } = await game();
    await bench.deploy(stack, workshop);
    for (const file of [objectOf(at, 'own a'), at('backup/data/program/a.png')]) {
      writeFileSync(file, 'rot');
      utimesSync(file, new Date(0), new Date(0));
    }
    expect((await mindOriginals(workshop)).mishaps).toMatchObject([{ target: 'program/a.png', what: 'lost' }]);
    expect((await readState(workshop.vault)).files).toHaveLength(4);
  });

  it('copies of an earlier version that are the same file by a second name become files of their own', async () => {
    const { bench, workshop, at } = await game();
    await bench.deploy(stack, workshop);
    rmSync(at('backup/data/program/a.png'));
    mkdirSync(at('backup/data/program'), { recursive: true });
    const { linkSync } = await import('node:fs');
    linkSync(objectOf(at, 'own a'), at('backup/data/program/a.png'));
    await mindOriginals(workshop);
    expect(statSync(at('backup/data/program/a.png')).nlink).toBe(1);
    expect(readFileSync(at('backup/data/program/a.png'), 'utf8')).toBe('own a');
  });
});
