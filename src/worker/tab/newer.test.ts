import 'fake-indexeddb/auto';
import localforage from 'localforage';
import { afterEach, describe, expect, it } from 'vitest';
import { readBytes } from '@/core';
import { BrowserFolder } from '@/folders/browser';
import { Seat, demo, eachInItsBrowser, reloaded } from '../../../tests/support/seat';

eachInItsBrowser();

const app = () => localforage.createInstance({ name: 'tidy-satchel', storeName: 'app' });
async function allIn(store: LocalForage): Promise<Record<string, unknown>> {
  const all: Record<string, unknown> = {};
  await store.iterate((value, key) => void (all[key] = value));
  return all;
}

describe('what a newer version of the app wrote', () => {
  afterEach(() => app().removeItem('version'));

  it('in the browser: nothing is opened, whatever is asked for, and every byte stays', async () => {
    const seat = await demo();
    await seat.fromShelf('warm-words.zip');
    expect(await app().getItem('version')).toBe(1);
    await app().setItem('version', 2);
    const before = await allIn(app());
    const later = new Seat();
    const says = 'A newer version of this app wrote what this browser remembers';
    await expect(reloaded('', later)).rejects.toThrow(says);
    await expect(later.engine.change({ do: 'open demo' })).rejects.toThrow(says);
    await expect(later.engine.change({ do: 'look again' })).rejects.toThrow(says);
    expect(await allIn(app())).toEqual(before);
    await app().setItem('version', 1);
    expect((await reloaded()).game.packs.map(({ name }) => name)).toEqual(['Warm Words']);
  });

  it('of one game: it is closed with the reason, nothing of it is touched, and other games open', async () => {
    const seat = await demo();
    const { id } = seat.game;
    await seat.fromShelf('warm-words.zip');
    await seat.engine.change({ do: 'deploy' });
    const vault = await BrowserFolder.open(`${id}-vault`);
    const newer = new TextEncoder().encode('{"version":7,"why":"later"}');
    await vault.write('version.json', newer);
    await vault.write('journal.begun.json', new TextEncoder().encode('{"of":"a later form"}'));
    const later = await reloaded();
    expect(later.snapshot?.closed).toMatchObject({ id, failure: { code: 'newer-data' } });
    const now = await BrowserFolder.open(`${id}-vault`, { onlyLook: true });
    expect(await readBytes(now, 'version.json')).toEqual(newer);
    // A journal of a form that is not known here is no cut off one: nothing was taken back.
    expect(await now.stat('journal.begun.json')).toBeDefined();
    const other = later.snapshot?.games.find((one) => one.id !== id);
    await later.engine.change({ do: 'choose game', id: other?.id ?? '' });
    expect(later.game.title).toBe(other?.title);
  });
});
