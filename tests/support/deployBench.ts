import { createHash } from 'node:crypto';
import { restore } from '@/core';
import { MemoryFolder } from './memoryFolder';
import { Bench, benchDialect, makePack, type StackItem } from './game';

/** A settings file with the switch off. */
export const INI = '; mine\r\n[Graphics]\r\nAddon=0\r\nWide=1280\r\n\r\n[Sound]\r\nHorn=1\r\n';

/** The switch, as an edit. */
export const switchOn: StackItem = { edits: [{ path: ['Graphics', 'Addon'], value: '1' }] };

/** Puts everything back. */
export const restoreAll = (bench: Bench) => restore(bench.workshop(), { dialectOf: benchDialect });

/** A game and two packs that overlap. */
export async function exampleBench(links = true): Promise<Bench> {
  const lower = await makePack('lower.zip', { 'tex/a.png': 'lower a', 'tex/b.png': 'lower b', 'new/c.png': 'lower c' });
  const upper = await makePack('upper.zip', { 'tex/b.png': 'upper b', 'new/d.png': 'upper d' });
  return new Bench(
    { 'tex/a.png': 'own a', 'tex/b.png': 'own b', 'keep.txt': 'own' },
    { 'settings.ini': INI },
    { lower, upper },
    links,
  );
}

/** Every kept content stands under its own SHA-256, checked with Node's own implementation. */
export function keptAreGood(vault: MemoryFolder): boolean {
  return Object.entries(vault.contents())
    .filter(([path]) => path.startsWith('objects/'))
    .every(([path, data]) => createHash('sha256').update(data).digest('hex') === path.split('/').at(-1));
}

/** Second names that were neither adopted nor dropped. */
export const namesLeft = (bench: Bench): string[] =>
  Object.keys(bench.vault.contents()).filter((path) => path.startsWith('named/'));
