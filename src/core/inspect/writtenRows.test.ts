import { describe, expect, it } from 'vitest';
import { askedOf } from '../../../tests/support/askedOf';

/** A shipyard as it lies on a disk; nobody has said which of these are settings. */
const FILES: Record<string, string> = {
  'yard.exe': '',
  'ships.xml':
    '<yard>\n  <ships>\n    <ship id="tug" cost="12"/>\n    <ship id="dredger" cost="54"/>\n  </ships>\n' +
    '  <options>\n    <option name="MaxShips">24</option>\n    <option name="Allow Own">false</option>\n  </options>\n' +
    '  <docks>\n    <dock>\n      <name>north</name>\n      <depth>9</depth>\n    </dock>\n    <dock>\n      <name>south</name>\n      <depth>7</depth>\n    </dock>\n  </docks>\n</yard>\n',
  'crews.json':
    '{\n  "crews": [\n    { "id": "blue", "hands": 4, "on": true },\n    { "id": "red", "hands": 6, "on": false }\n  ],\n  "debug": { "log": false }\n}\n',
  'cranes.yml': 'cranes:\n  - id: tall\n    reach: 30\n  - id: low\n    reach: 12\nlights:\n  mast: off\n  quay: on\n',
  'horns.lua': 'horns = {\n  { title = "Long", file = "long.ogg" },\n  { title = "Short", file = "short.ogg" },\n}\n',
  'hull.ini': '[Hull]\nSize W=12\nSize H=40\nPaint=3\n',
  'active.txt': '*Tug Boats\n*Night Quay\nOld Docks\n',
  ...Object.fromEntries(['Tug Boats', 'Night Quay', 'Old Docks'].map((one) => [`mods/${one}/mod.xml`, ''])),
};
const asked = askedOf(FILES);

describe('things that are written as the file has others of their kind', () => {
  it.each<[what: string, text: string, wanted: string[]]>([
    [
      'an element with another name is one more',
      'Add <ship id="ferry" cost="98"/> before </ships> in ships.xml.',
      ['ships.xml: yard › ships › ship#3 › @id = ferry', 'ships.xml: yard › ships › ship#3 › @cost = 98'],
    ],
    [
      'two of them come one after the other, the same one once',
      'Add these to ships.xml:\n<ship id="ferry" cost="98"/>\n<ship id="barge" cost="5"/>\n<ship id="ferry" cost="99"/>\n',
      [
        'ships.xml: yard › ships › ship#3 › @id = ferry',
        'ships.xml: yard › ships › ship#3 › @cost = 99',
        'ships.xml: yard › ships › ship#4 › @id = barge',
        'ships.xml: yard › ships › ship#4 › @cost = 5',
      ],
    ],
    [
      'one that is there gets what differs',
      'The tug is cheaper now: <ship id="tug" cost="8"/> (ships.xml).',
      ['ships.xml: yard › ships › ship › @cost = 8'],
    ],
    ['one that is there and the same asks for nothing', 'ships.xml has <ship id="tug" cost="12"/> in it.', []],
    [
      'one in place of another',
      'In ships.xml replace <ship id="tug" cost="12"/> with <ship id="ferry" cost="12"/>.',
      ['ships.xml: yard › ships › ship › @id = ferry'],
    ],
    [
      'one below another is no other name for that',
      'Below <ship id="dredger" cost="54"/> put <ship id="ferry" cost="12"/> (ships.xml).',
      ['ships.xml: yard › ships › ship#3 › @id = ferry', 'ships.xml: yard › ships › ship#3 › @cost = 12'],
    ],
    [
      'elements in it, on lines of their own',
      'Add to ships.xml:\n<dock>\n  <name>west</name>\n  <depth>5</depth>\n</dock>\n',
      ['ships.xml: yard › docks › dock#3 › name = west', 'ships.xml: yard › docks › dock#3 › depth = 5'],
    ],
    [
      'the text of an element that has a name',
      'Change <option name="MaxShips">24</option> to <option name="MaxShips">64</option> in ships.xml.',
      ['ships.xml: yard › options › option = 64'],
    ],
    ['the same, by that name', 'In ships.xml set MaxShips to 30.', ['ships.xml: yard › options › option = 30']],
    [
      'an object on one line',
      'Add { "id": "green", "hands": 5, "on": true } to the crews.',
      ['crews.json: crews › 2 › id = green', 'crews.json: crews › 2 › hands = 5', 'crews.json: crews › 2 › on = true'],
    ],
    [
      'an object on several lines',
      'crews.json:\n{\n  "id": "green",\n  "on": true\n}\n',
      ['crews.json: crews › 2 › id = green', 'crews.json: crews › 2 › on = true'],
    ],
    ['an object with a key that none of them has is no one of them', 'It says { "id": "green", "wage": 5 }.', []],
    [
      'a block in a list of blocks',
      'Then append to the cranes in cranes.yml:\n\n  - id: wide\n    reach: 44\n\nand save.',
      ['cranes.yml: cranes › 2 › id = wide', 'cranes.yml: cranes › 2 › reach = 44'],
    ],
    [
      'a block without a name, in a form that counts from 1',
      'In horns.lua add { title = "Twice", file = "twice.ogg" } before the last }.',
      ['horns.lua: horns › 3 › title = Twice', 'horns.lua: horns › 3 › file = twice.ogg'],
    ],
    ['none that goes', 'Remove <ship id="ferry" cost="98"/> from ships.xml, if it is there.', []],
    ['none that is forbidden', 'Do not add <ship id="ferry" cost="98"/> to ships.xml.', []],
    [
      'none that goes away again with the pack',
      'Uninstall\n---------\nput back <ship id="tug" cost="2"/> in ships.xml\n',
      [],
    ],
    [
      'keys below those that hold them',
      'cranes.yml should look like this:\n\nlights:\n  mast: on\n  quay: on\n',
      ['cranes.yml: lights › mast = on', 'cranes.yml: lights › quay = on'],
    ],
    [
      'a key with a blank in its name',
      'In hull.ini Size W=16 and Size H=50.',
      ['hull.ini: Hull › Size W = 16', 'hull.ini: Hull › Size H = 50'],
    ],
    [
      'what it can be, and what is recommended',
      'Paint can be anything from 1 to 9 in hull.ini. I recommend 5.',
      ['hull.ini: Hull › Paint = 5'],
    ],
    [
      'what is wanted of those who report a fault',
      'If something goes wrong I need your log: set log to true in crews.json.',
      [],
    ],
  ])('%s', async (_, text, wanted) => {
    expect(await asked(text)).toEqual(wanted);
  });

  it('a name of several words in a list of such, with the sign that says that it is on', async () => {
    expect(await asked('Add the line\nTall Ships\nto active.txt.', 'Tall Ships/mod.xml')).toEqual([
      'active.txt: *Tall Ships',
    ]);
  });

  it('of two files with such things the one that was spoken of last', async () => {
    const barges = (...ids: string[]) => JSON.stringify({ barges: ids.map((id) => ({ id, hold: 3 })) }, null, 2);
    const two = askedOf({ 'dock.exe': '', 'river.json': barges('cog', 'hulk'), 'lake.json': barges('pram', 'scow') });
    expect(await two('Leave river.json as it is. In lake.json add { "id": "punt", "hold": 2 }.')).toEqual([
      'lake.json: barges › 2 › id = punt',
      'lake.json: barges › 2 › hold = 2',
    ]);
  });
});
