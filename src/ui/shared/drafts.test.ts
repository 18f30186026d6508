import { beforeEach, describe, expect, it, vi } from 'vitest';
import { readDrafts, writeDraft } from './drafts';

/** A store in which everything takes its time, as on a busy computer. */
vi.mock('localforage', () => {
  const kept = new Map<string, unknown>();
  const later = () => new Promise((resolve) => setTimeout(resolve, 5));
  return {
    default: {
      createInstance: () => ({
        getItem: async (key: string) => later().then(() => kept.get(key) ?? null),
        setItem: async (key: string, value: unknown) => later().then(() => kept.set(key, value)),
        removeItem: async (key: string) => later().then(() => kept.delete(key)),
      }),
    },
  };
});

beforeEach(() => {
  vi.stubGlobal('localStorage', { getItem: () => null, removeItem: () => undefined, setItem: () => undefined });
});

const texts = async (place: string) => (await readDrafts(place)).map(({ text }) => text);

describe('what was typed and not taken', () => {
  it('is there for who comes back before it was written', async () => {
    void writeDraft('key one', 'this time', { text: 'typed', at: 1 });
    expect(await texts('key one')).toEqual(['typed']);
  });
  it('of several sessions stays, whatever is written at once', async () => {
    const all = ['a', 'b', 'c'].map((session, i) => writeDraft('key two', session, { text: session, at: i }));
    void writeDraft('key two', 'b', undefined);
    await Promise.all(all);
    expect((await texts('key two')).sort()).toEqual(['a', 'c']);
  });
});
