import { describe, expect, it } from 'vitest';
import { askedOf } from '../../../tests/support/askedOf';

/** A garden whose settings name birds, by lists of many forms and by single values. */
const FILES: Record<string, string> = {
  'garden.exe': '',
  'garden.ini':
    '[Garden]\nGuests=wren,finch\nFirst=wren\nSeeds=oats\nNight=0\n[Nest1]\nBird=wren\n[Nest2]\nBird=finch\n',
  'garden.yaml': 'birds:\n  - wren\n  - finch\nrain: false\n',
  'garden.toml': 'shown = ["wren", "finch"]\n',
  'garden.xml': '<garden><visits><visit>wren</visit><visit>finch</visit></visits></garden>\n',
  'garden.lua': 'garden = {\n  flock = { "wren", "finch" },\n}\n',
  'two.yaml': 'spring:\n  - wren\n  - finch\nautumn:\n  - finch\n  - wren\nrain: 2\n',
  'garden.lst': 'wren\nfinch\n',
  ...Object.fromEntries(
    ['wren', 'finch'].flatMap((bird) => [
      [`birds/${bird}/bird.def`, ''],
      [`birds/${bird}/song.ogg`, ''],
    ]),
  ),
  'seeds/oats.seed': '',
  'seeds/hemp.seed': '',
};
const asked = askedOf(FILES);
const BIRD = ['robin/bird.def', 'robin/song.ogg'];

describe('what a pack brings, where settings name others of its kind', () => {
  it.each<[text: string, wanted: string[]]>([
    ['He is the third of the birds in garden.yaml.', ['garden.yaml: birds › 2 = robin']],
    ['garden.yaml has to know him as a bird.', ['garden.yaml: birds › 2 = robin']],
    ['It comes to gardens whose guests it is one of.', ['garden.ini: Garden › Guests = wren,finch,robin']],
    [
      'Only wren and finch are seen; garden.toml says so, and robin has to be said there.',
      ['garden.toml: shown = ["wren", "finch", "robin"]'],
    ],
    ['Robin is among the visits of garden.xml.', ['garden.xml: garden › visits › visit#3 = robin']],
    ['Robin belongs to the flock of garden.lua.', ['garden.lua: garden › flock › robin']],
    ['In garden.lst robin is missing.', ['garden.lst: robin']],
    ['The first bird is robin: garden.ini says so under First.', ['garden.ini: Garden › First = robin']],
    // It only goes into a folder of that name, or is left to the player, or is told not to.
    ['Put robin into birds, too.', []],
    ['Robin may stand among the guests in garden.ini if you like birds.', []],
    ['Take robin out of the guests in garden.ini again to get rid of it, and remove robin from the flock.', []],
    ['UNINSTALL\n\nRobin still stands among the birds in garden.yaml then.', []],
    ['Say robin where garden.ini says wren.', ['garden.ini: Garden › First = robin']],
    ['It is the one that comes first, so First becomes "robin".', ['garden.ini: Garden › First = robin']],
    ['She is to be named in garden.yaml as they are.', ['garden.yaml: birds › 2 = robin']],
    ['Robin sings before wren does.', []],
    // Which of the two lists is meant is not said.
    ['In two.yaml robin is missing, too.', []],
    ['Do not add robin to the guests in garden.ini.', []],
    // Other settings of the file are asked for.
    ['The robin sings at night: Night=1 in garden.ini.', ['garden.ini: Garden › Night = 1']],
    // A key that each of several sections has tells what that section is.
    ['The Bird in garden.ini has robin, too.', []],
  ])('%s', async (text, wanted) => {
    expect(await asked(text, ...BIRD)).toEqual(wanted);
  });

  it('two files of one name are one thing', async () => {
    const text = 'Barley is what is sown: garden.ini has to say it under Seeds.';
    expect(await asked(text, 'barley.seed')).toEqual(['garden.ini: Garden › Seeds = barley']);
  });

  it('is asked for once, where the read-me says it in so many words, too', async () => {
    const text = 'Add robin to the birds in garden.yaml.\n\nRobin is one of the birds in garden.yaml then.';
    expect(await asked(text, ...BIRD)).toEqual(['garden.yaml: birds › 2 = robin']);
  });

  it('nothing of another kind is named there', async () => {
    expect(await asked('He is the third of the birds in garden.yaml.', 'red.seed')).toEqual([]);
  });

  it('nothing is named where the player says that it is no such list; the thing goes where it went', async () => {
    const text = 'He is the third of the birds in garden.yaml.';
    const refused = askedOf(FILES, 'list:game/garden.yaml:birds');
    expect(await refused(text, ...BIRD)).toEqual([]);
    expect(await refused('In garden.lst robin is missing.', ...BIRD)).toEqual(['garden.lst: robin']);
  });
});
