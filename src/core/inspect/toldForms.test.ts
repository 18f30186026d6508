import { describe, expect, it } from 'vitest';
import { askedOf } from '../../../tests/support/askedOf';

/** A smithy as it lies on a disk; nobody has said which of these are settings. */
const FILES: Record<string, string> = {
  'smithy.exe': '',
  'smithy.rc': 'anvil 2\niron bar\nweather drizzle\nweather frost\nfire low\nbreed black\nbellows on\n',
  'smithy.json':
    '{\n  "plugins": { "bells": true, "gulls": true },\n  "tides": "neap",\n  "first": "crane",\n  "hands": ["jem"]\n}\n',
  'smithy.yaml': 'soot: many\nextras:\n  rain: off\n  mist: on\ntools:\n  - tongs\n  - swage\n',
  'smithy.ini':
    '[Tower1]\nName=Anne\nBells=6\n[Tower2]\nName=Giles\nBells=8\n[Work]\nExtras=no\nGuests=tongs;swage\nHeat=3\n',
  'smithy.lua': 'smithy = {\n  coal = "grey",\n  names = { "tongs", "swage" },\n}\n',
  ...Object.fromEntries(
    ['tongs', 'swage'].flatMap((tool) => [
      [`tools/${tool}/tool.json`, ''],
      [`tools/${tool}/grip.obj`, ''],
    ]),
  ),
  'weather/drizzle.wea': '',
  'weather/frost.wea': '',
};
const asked = askedOf(FILES);

describe('settings told in other ways than by a key and its value', () => {
  it.each<[what: string, text: string, wanted: string[]]>([
    [
      'the one of two keys that holds what goes',
      'The bells go from 6 to 4: Bells in smithy.ini.',
      ['smithy.ini: Tower1 › Bells = 4'],
    ],
    [
      'in German, the old one first',
      'In der smithy.yaml bei soot statt many few eintragen.',
      ['smithy.yaml: soot = few'],
    ],
    ['a French verb before the value', 'In smithy.json: tides doit être "spring".', ['smithy.json: tides = spring']],
    [
      'a word before its key, instead of another',
      'Black coal instead of grey (smithy.lua).',
      ['smithy.lua: smithy › coal = black'],
    ],
    [
      'the new word alone, instead of the old',
      'smithy.yaml has soot; few instead of many, please.',
      ['smithy.yaml: soot = few'],
    ],
    ['no word for “let”', 'smithy.json calls it "first": let it be "derrick".', ['smithy.json: first = derrick']],
    ['it has to say so', 'Extras has to say yes, or nobody comes.', ['smithy.ini: Work › Extras = yes']],
    ['no switch where it is to stand on something', 'Extras has to be on the list.', []],
    ['it is switched on', 'The rain is off in smithy.yaml. Switch it on.', ['smithy.yaml: extras › rain = on']],
    [
      'another pair in brackets',
      'Heat=5 in smithy.ini and four (anvil = 4).',
      ['smithy.ini: Work › Heat = 5', 'smithy.rc: anvil = 4'],
    ],
    ['what is pleasant', 'A heat of 5 is pleasant in smithy.ini.', []],
    [
      'a pair in lines: what is there is the old one',
      'Change in smithy.rc\n    fire low\nto\n    fire high\n',
      ['smithy.rc: fire = high'],
    ],
    ['a heading that begins with a key', 'iron 7\n\nPut Heat to 5 in smithy.ini.', ['smithy.ini: Work › Heat = 5']],
    [
      'a new member of a block',
      'Then add this to `plugins` in smithy.json:\n\n    "seals": true\n',
      ['smithy.json: plugins › seals = true'],
    ],
    [
      'a new member in the sentence',
      'Add "seals": true to plugins in smithy.json.',
      ['smithy.json: plugins › seals = true'],
    ],
    [
      'a new member between fences',
      'Below `extras` in smithy.yaml, add:\n\n```\n  hail: on\n```\n',
      ['smithy.yaml: extras › hail = on'],
    ],
    [
      'no member of another file than the one whose block was named',
      'Add this to plugins in smithy.json.\n\nLook into smithy.yaml, too:\n\n    "seals": true\n',
      [],
    ],
    [
      'no member so far below the sentence',
      `Add this to plugins in smithy.json.${'\n'.repeat(12)}    "seals": true\n`,
      [],
    ],
    [
      'what is there below what is to be',
      'In smithy.rc:\n\nfire high\n\ninstead of\n\nfire low\n',
      ['smithy.rc: fire = high'],
    ],
    [
      'a heading over a switch',
      'bellows blow\n\nPut Heat to 5 in smithy.rc or smithy.ini.',
      ['smithy.ini: Work › Heat = 5'],
    ],
    ['what is to be taken out', 'Take 5 out of Heat in smithy.ini.', []],
    ['no member of another kind', 'Add this to plugins in smithy.json:\n\n    "seals": "grey"\n', []],
  ])('%s', async (_, text, wanted) => {
    expect(await asked(text)).toEqual(wanted);
  });

  it.each<[what: string, text: string, wanted: string[]]>([
    [
      'the item on the line below',
      'In smithy.yaml, under tools, write a further line\n  - fuller\n',
      ['smithy.yaml: tools › 2 = fuller'],
    ],
    ['not what it stands behind', '"fuller" behind "swage" in smithy.lua.', ['smithy.lua: smithy › names › fuller']],
    [
      'a block of names as it is to be',
      'smithy.lua:\n\n  names = { "tongs", "swage", "fuller" },\n',
      ['smithy.lua: smithy › names › fuller'],
    ],
    [
      'its folder, not what its parts are called',
      'The grip of the fuller has its tool in the list tools of smithy.yaml, so add fuller.',
      ['smithy.yaml: tools › 2 = fuller'],
    ],
    [
      'a part of it, and not its name',
      'Its grip is among the others, so add it to tools in smithy.yaml.',
      ['smithy.yaml: tools › 2 = fuller'],
    ],
    [
      'that only those are there which a list names',
      'Only those that Guests names come (smithy.ini).',
      ['smithy.ini: Work › Guests = tongs;swage;fuller'],
    ],
    [
      'the pack for a value that is there',
      'Begin in the rain by writing fuller for crane in smithy.json.',
      ['smithy.json: first = fuller'],
    ],
  ])('of what the pack brings: %s', async (_, text, wanted) => {
    expect(await asked(text, 'Fuller/fuller/tool.json', 'Fuller/fuller/grip.obj')).toEqual(wanted);
  });

  it('takes the name of the read-me for no item', async () => {
    expect(await asked('In smithy.json bei first statt crane eintragen.')).toEqual([]);
  });
});
