import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { insideArchives, textIn } from './insideArchives';

const text = (value: string) => new TextEncoder().encode(value);

const zip = zipSync({ 'rooms/attic.png': text('attic'), 'rooms/hall.png': text('hall') });

describe('what lies inside the game’s own archives', () => {
  it('ZIPs are read under any ending; what is none, damaged or empty says nothing', async () => {
    const folder = new MemoryFolder({
      'house.box': zip,
      'other.box': zip.slice(0, 60),
      'a.sav': text('not a zip, but long enough to be one'),
      'e.dat': new Uint8Array(0),
      'x.png': zip,
    });
    const found = await insideArchives({ game: folder }, [
      'game/house.box',
      'game/other.box',
      'game/a.sav',
      'game/e.dat',
      'game/x.png',
      'game/gone.box',
    ]);
    expect([...found]).toEqual([['game/house.box', ['rooms/attic.png', 'rooms/hall.png']]]);
  });

  it('a text is read as one, and bytes are none', async () => {
    const folder = new MemoryFolder({
      'a.cfg': text('a=1'),
      'b.cfg': Uint8Array.from([1, 0, 2]),
      'c.cfg': Uint8Array.from([0xff, 0xfe, 0x61, 0]),
    });
    expect([
      await textIn(folder, 'a.cfg'),
      await textIn(folder, 'b.cfg'),
      await textIn(folder, 'c.cfg'),
      await textIn(folder, 'gone.cfg'),
    ]).toEqual(['a=1', undefined, expect.stringContaining('a'), undefined]);
  });
});
