/** Something that goes wrong most often, to be tried on a demo game. */
export interface Mistake {
  game: string;
  /** The pack on the shelf that shows it. */
  file: string;
  title: string;
  goes: string;
  cure: string;
}

/** What goes wrong most often, each to be tried on the demo games. */
export const MISTAKES: Mistake[] = [
  {
    game: 'gullwick',
    file: 'weathered-quay-1.2.zip',
    title: 'The switch is off',
    goes: 'Deploy it without turning add-on textures on: the log says that 0 were loaded.',
    cure: 'Turn the switch on.',
  },
  {
    game: 'gullwick',
    file: 'brass-fittings.zip',
    title: 'The list does not name it',
    goes: 'Deploy the add-on and leave the list of add-on folders as it is: the game never mentions it.',
    cure: 'Add its folder to the list.',
  },
  {
    game: 'gullwick',
    file: 'dockside-talk.zip',
    title: 'One file hides all texts',
    goes: 'It is named like the game’s own file: the log fills with missing words.',
    cure: 'One rename, or a merge.',
  },
  {
    game: 'gullwick',
    file: 'rope-works.zip',
    title: 'An icon is missing',
    goes: 'The game looks for it at one exact path.',
    cure: 'A copy of another icon, put there under that name.',
  },
  {
    game: 'gullwick',
    file: 'rope-works.zip',
    title: 'Other capitals than asked for',
    goes: 'A script wants “hawser”, the file is “Hawser”.',
    cure: 'Rename it.',
  },
  {
    game: 'gullwick',
    file: 'storm-paint.zip',
    title: 'A numbered section names no folder',
    goes: 'Add the section under Settings with the folder misspelled: the hull has no paint.',
    cure: 'Name the folder letter for letter.',
  },
  {
    game: 'gullwick',
    file: 'wild-gale.zip',
    title: 'The game ends without a line',
    goes: 'Nothing is written at all.',
    cure: 'Find the culprit by halves.',
  },
  {
    game: 'tinplate',
    file: 'sugar-buns.zip',
    title: 'The wrong region',
    goes: 'Insist on the id of the pack when it is placed: nothing is painted over.',
    cure: 'Rename the folder to your title’s id.',
  },
  {
    game: 'tinplate',
    file: 'pebble-moss.zip',
    title: 'A title sealed in one file',
    goes: 'The pictures are where they belong, and the program never looks at them.',
    cure: 'Unpack the title.',
  },
  {
    game: 'tinplate',
    file: 'quick-oven-codes.zip',
    title: 'The master switch',
    goes: 'Turn on the title’s own list of patches alone: none of them is in use.',
    cure: 'Turn on the switch that it needs.',
  },
  {
    game: 'tinplate',
    file: 'rye-and-oak-patch-2.1.3.zip',
    title: 'A patch without its base',
    goes: 'Deploy the patch alone, or over a base of another resolution.',
    cure: 'Bring in the base that fits.',
  },
  {
    game: 'hedgerow',
    file: 'tall-hedges.zip',
    title: 'A picture above the limit',
    goes: 'The game stops at its main menu; its log ends early.',
    cure: 'Leave the picture out, or take the pack out.',
  },
];
