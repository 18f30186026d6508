import { studyGame, type PackEntry, type PackPath, type Statement } from '@/core';

/** A small game of things alike, texts in languages and settings in several forms. */
export const GAME: Record<string, string> = {
  'mill.exe': '',
  'gear/oak/oak.gear': '',
  'gear/oak/oak.png': '',
  'gear/iron/iron.gear': '',
  'gear/iron/iron.png': '',
  'gear/brass/brass.gear': '',
  'gear/brass/brass.png': '',
  'flour/rye.sack': '',
  'flour/spelt.sack': '',
  'text/en.po': '',
  'text/de.po': '',
  'text/fr.po': '',
  'mill.cfg': 'speed 3\nlamps 1\nwind "west"\n',
  'setup.conf': '[Wheel]\nTurns=2\n',
  'notes.txt': 'The mill was built in 1712. It stands by the river.\n',
  'gear/list.ini': '[gear 0]\nfolder=oak\n[gear 1]\nfolder=iron\n',
};
/** A folder of these files, read as their texts; an empty text is a file that is none. */
export const folderOf = (files: Record<string, string>, id = 'game') => ({
  id,
  title: 'Old Mill',
  files: Object.keys(files).map((path) => ({ path, size: 10 })),
  read: async (path: string) => (files[path] === '' ? undefined : files[path]),
});
export const study = (files = GAME, answers: Statement[] = []) => studyGame([folderOf(files)], { answers });
/** Files of a pack. */
export const entriesOf = (...paths: string[]) =>
  paths.map((path) => ({ path: path as PackPath, size: 5 })) as unknown as PackEntry[];
