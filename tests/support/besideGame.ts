import { makePack, type StackItem } from './game';
import { makeDiskGame } from './diskGame';

export const INI = '[Graphics]\nAddon=0\n';

/** A game's own files. */
export const OWN = { 'program/a.png': 'own a', 'program/b.png': 'own b', 'user/settings.ini': INI };

/** The pack, and the switch. */
export const stack: StackItem[] = [{ pack: 'p' }, { edits: [{ path: ['Graphics', 'Addon'], value: '1' }] }];

/** The game on the disk, with one pack over two of its files and one beside them. */
export const game = async () =>
  makeDiskGame(OWN, { p: await makePack('p.zip', { 'a.png': 'new a', 'b.png': 'new b', 'c.png': 'new c' }) });
