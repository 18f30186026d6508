import type { StepId } from '@/core';

export interface StepHelp {
  step: StepId;
  title: string;
  /** In one sentence: said in the tour, and first on the help page. */
  short: string;
  /** Everything else that is worth knowing, each by itself. */
  more: string[];
}

/** What is said of the steps: one table for the tour, the beginner's list and the help page. */
export const HELP: readonly StepHelp[] = [
  {
    step: 'bring-in',
    title: 'Bring in',
    short: 'Take a download as it is, without unpacking it: an archive, a folder or single files.',
    more: [
      'ZIP, 7z, RAR and tar are read, with a password, and in several parts. What is inside is only looked at, never run.',
      'The read-me stands beside it as a list of steps: what the app does by itself, what waits in Settings, what is yours to do.',
      'Paste the text of the page that it came from if the read-me says little: it is read in the same way.',
      'Another release of a pack takes the place of the earlier one and keeps what you decided.',
      'Nothing in the game’s folders changes by bringing something in.',
    ],
  },
  {
    step: 'place',
    title: 'Place',
    short:
      'The app finds the folder of the game where each file belongs, and says why; drag a folder to put it elsewhere.',
    more: [
      'Where several places are possible it asks. What speaks for a place, and against it, can be opened below it.',
      'Nothing is laid over the game’s own files only because their names agree.',
      'File by file you untick what should stay out. Read-mes and covers are left out from the start.',
      'What you choose is likely for the next pack of its kind, and sure after two; you can take that back in “How it works”.',
    ],
  },
  {
    step: 'stack',
    title: 'Stack',
    short: 'Where two packs bring the same file the upper one is used: move packs up and down, or merge the file.',
    more: [
      'The picture shows, folder by folder, whose files are used, covered, the same or merged.',
      'One file, folder or kind of files can be taken from another pack than the order says.',
      'Texts and settings of two packs are merged line by line or key by key; where both say something else you decide.',
      'With many packs: search by name or notes, mark several and move them in one go, put them under headings of your own.',
    ],
  },
  {
    step: 'settings',
    title: 'Settings',
    short:
      'If the game must be told to use packs, the switch is here, named and explained; only single values are ever changed.',
    more: [
      'Search over all keys and values. Everything else in the file stays as the game wrote it, comments included.',
      'A file can be edited as text; the app takes over only what you changed in it.',
      'What a game throws out at its start is noticed and can be put in again.',
      'Sets keep several values under a name, so that you can go back and forth between them.',
    ],
  },
  {
    step: 'deploy',
    title: 'Deploy',
    short:
      'Only here is anything written to the game, after you have seen the plan and after every original is kept and checked.',
    more: [
      'The plan says by pack and folder what is added, replaced, edited, brought back and removed; file by file on demand.',
      'Every file that was written is read back and compared. If anything fails, everything goes back to how it was.',
      'A file that another program has changed meanwhile is not overwritten: you are asked.',
      'Close the game first. Where no program may write, “Do it by hand” gives you the files and the way back as ZIPs.',
    ],
  },
  {
    step: 'check',
    title: 'Check',
    short:
      'Start the game and come back: the app reads its log, says what came of it, and finds out why something does not load.',
    more: [
      'Each finding names its pack, quotes the line of the log, and offers a cure that you see as a plan first.',
      'What is harmless can be set aside, with a note why.',
      'Where nothing is named, the culprit is found by halves: half of the packs in, half out, until one is left.',
      'A log of another place, or of a friend, can be dropped here. The report says everything in one text.',
    ],
  },
  {
    step: 'ledger',
    title: 'Ledger',
    short: 'Put everything back at any time, byte for byte, or go back to how it was after an earlier deployment.',
    more: [
      'Every deployment stands here with what it did. One pack, one folder or one file can be put back by itself.',
      'Backups with a name keep saves and settings before something risky.',
      'Of a game on your disk the originals lie in plain folders, too: you reach them without the app.',
      'What is decided, not written, is undone with Ctrl+Z.',
    ],
  },
];
