import { describe, expect, it } from 'vitest';
import { askedOf } from '../../../tests/support/askedOf';

/** A game of boats as it lies on a disk; nobody has said which of these are settings. */
const FILES: Record<string, string> = {
  'quay.exe': '',
  'quay.ini':
    '[Quay]\nTide=low\nGulls=few\nBell=no\nStock=a\\b;a\\c\n[Sets]\nCount=1\n1=base\n[Boats]\nSet=oak\nFirst=swan\nSeas=fine.sea\nSails=["red"]\n',
  'keys.ini': '[Keys]\nHorn=H\nBell=B\nMod1=swan\n',
  'quay.cfg': 'set mist 1\nset rain 0\n',
  'quay.yaml': 'mods: []\nseas: [calm]\nbuoys:\n  - red\n',
  'quay.json': '{ "crew": [], "ports": ["east"], "packs": ["red.mod"], "lamps": { "on": true, "colour": "white" } }\n',
  'quay.xml': '<quay><toll>low</toll><ships><ship>brig</ship><ship>snow</ship></ships></quay>\n',
  'boats.lst': 'craft/swan\ncraft/heron\n',
  'craft.cfg': 'fleet = {\n  "swan",\n}\n',
  'craft/swan/hull.mesh': '',
  'craft/heron/hull.mesh': '',
  'fine.sea': '',
};

const asked = askedOf(FILES);

describe('forms in which read-mes ask for a setting', () => {
  it.each<[what: string, text: string, wanted: string[]]>([
    ['a pack of nothing but a read-me speaks of settings', 'Let tide be high.', ['quay.ini: Quay › Tide = high']],
    ['words for how much are values among such words', 'Let gulls be many.', ['quay.ini: Quay › Gulls = many']],
    [
      'both sides of an arrow',
      'set mist 1 -> set mist 0, and set rain 0 -> set rain 2',
      ['quay.cfg: set › mist = 0', 'quay.cfg: set › rain = 2'],
    ],
    ['a key of the keyboard', 'Put Horn on Q (keys.ini).', ['keys.ini: Keys › Horn = Q']],
    ['on, with nothing behind it', 'In quay.ini the Bell on as well!', ['quay.ini: Quay › Bell = yes']],
    ['what one has of it', 'With Tide=high you hear the waves.', ['quay.ini: Quay › Tide = high']],
    ['what comes of it', 'With Bell=yes it crashes, and with Tide=high the quay is green.', []],
    ['one of two words', 'In quay.ini the Tide can be high or low.', []],
    [
      'lines with colons below a sentence',
      'So it is best:\nTide: high\nGulls: lots\n',
      ['quay.ini: Quay › Tide = high', 'quay.ini: Quay › Gulls = lots'],
    ],
    ['an element with its text', '<toll>high</toll> for a harder game.', ['quay.xml: quay › toll = high']],
    [
      'one more element below another, which asks for nothing',
      'In quay.xml, below <ship>snow</ship>, add <ship>barque</ship>.',
      ['quay.xml: quay › ships › ship#3 = barque'],
    ],
    [
      'a value behind what its key lies in',
      'The colour of the lamps: "amber" (quay.json)',
      ['quay.json: lamps › colour = amber'],
    ],
    [
      'a small word that its file tells to be a key',
      'For that Set in quay.ini has to be elm.',
      ['quay.ini: Boats › Set = elm'],
    ],
    ['the next of names that are numbered from one', 'Add "heron" to Sets (quay.ini).', ['quay.ini: Sets › 2 = heron']],
    ['a number at a key', 'Count at 4', ['quay.ini: Sets › Count = 4']],
    ['what it can be', 'Tide can be 3.', ['quay.ini: Quay › Tide = 3']],
    [
      'two keys in one line',
      'Mist=0, Tide=high. Both are of quay.',
      ['quay.cfg: set › mist = 0', 'quay.ini: Quay › Tide = high'],
    ],
    [
      'words alone between commas',
      'tide high, gulls 3',
      ['quay.ini: Quay › Tide = high', 'quay.ini: Quay › Gulls = 3'],
    ],
    ['a sentence of two words', 'Tide falls. Enjoy!', []],
    ['what is so already', 'The tide is low.', []],
    ['that it need not be', 'Let Tide in quay.ini be high (not needed).', []],
  ])('%s', async (_, text, wanted) => {
    expect(await asked(text)).toEqual(wanted);
  });

  it.each<[what: string, text: string, wanted: string[]]>([
    [
      'a key that is a small word, told by its file',
      'To sail in it, First in quay.ini has to be teal.',
      ['quay.ini: Boats › First = teal'],
    ],
    ['no verb behind “want to”', 'First teal in quay.ini if you want to begin there.', []],
    ['a word that is added plainly', 'Add amber to buoys (quay.yaml).', ['quay.yaml: buoys › 1 = amber']],
    ['an item with its sign', 'In quay.yaml unter buoys eine Zeile "- teal" anfügen.', ['quay.yaml: buoys › 1 = teal']],
    ['the next of a series', 'It is to be Mod2 (keys.ini).', ['keys.ini: Keys › Mod2 = teal']],
    ['a command of its own line', 'Put it there.\n\nset rain 3\n', ['quay.cfg: set › rain = 3']],
    ['the name of several words', 'Add Teal boat to ports in quay.json.', ['quay.json: ports › 1 = Teal boat']],
    ['that a list has to name it', 'ports in quay.json has to name it.', ['quay.json: ports › 1 = teal']],
    [
      'a file that a key is to name',
      'wild.sea lies beside it, and Seas= in quay.ini names it.',
      ['quay.ini: Boats › Seas = wild.sea'],
    ],
    [
      'the next one of counted names',
      'Under [Sets] in quay.ini:\n\nCount=2\n2=teal\n',
      ['quay.ini: Sets › Count = 2', 'quay.ini: Sets › 2 = teal'],
    ],
    [
      'its folder in place of a value',
      'It is to be named as First in quay.ini, in place of swan.',
      ['quay.ini: Boats › First = teal'],
    ],
    [
      'a path with the sign of its list',
      'Put the teal folder there, and add ;a\\teal to the end of Stock.',
      ['quay.ini: Quay › Stock = a\\b;a\\c;a\\teal'],
    ],
    [
      'a line of its own, as the others have theirs',
      'In boats.lst it gets a line of its own.',
      ['boats.lst: craft/teal'],
    ],
    ['one more among names in a block', '"teal", goes below "swan", in craft.cfg.', ['craft.cfg: fleet › teal']],
    ['itself, at the end of a list', 'It has to be the last in buoys (quay.yaml).', ['quay.yaml: buoys › 1 = teal']],
    [
      'its name behind one that is there',
      'Write its name behind "east" in quay.json.',
      ['quay.json: ports › 1 = teal'],
    ],
    [
      'the third entry, in German',
      'In der quay.yaml muss teal unter buoys als zweiter Eintrag stehen.',
      ['quay.yaml: buoys › 1 = teal'],
    ],
    ['the first of an empty list', 'In quay.yaml mods becomes [teal].', ['quay.yaml: mods › 0 = teal']],
    ['the first of an empty list in JSON', 'Add "teal" to crew in quay.json.', ['quay.json: crew › 0 = teal']],
  ])('%s', async (_, text, wanted) => {
    expect(await asked(text, 'Teal boat/teal/hull.mesh', 'Teal boat/teal/wild.sea')).toEqual(wanted);
  });

  it.each<[text: string, file: string]>([
    ['Add "teal" to ports in quay.json.\n\nAdd "amber" to ports, too.', 'quay.json: ports'],
    ['Add "teal" to crew in quay.json.\n\nAdd "amber" to crew, too.', 'quay.json: crew'],
    ['quay.yaml: add "teal" to buoys.\n\nAdd "amber" to buoys. And add "teal" to buoys.', 'quay.yaml: buoys'],
  ])('%s: both come, each in a place of its own', async (text, list) => {
    const from = list.endsWith('crew') ? 0 : 1;
    expect(await asked(text, 'teal/hull.mesh')).toEqual([`${list} › ${from} = teal`, `${list} › ${from + 1} = amber`]);
  });

  it.each<[text: string, wanted: string]>([
    [
      'Add "a\\teal" to Stock in quay.ini.\n\nAdd "a\\amber" to Stock, too.',
      'quay.ini: Quay › Stock = a\\b;a\\c;a\\teal;a\\amber',
    ],
    [
      'Add "teal" to Sails in quay.ini.\n\nAdd "amber" to Sails, too.',
      'quay.ini: Boats › Sails = ["red", "teal", "amber"]',
    ],
  ])('%s: both come into the one value', async (text, wanted) => {
    expect(await asked(text, 'teal/hull.mesh')).toEqual([wanted]);
  });

  it('writes the name of its one file as the others in the list are written', async () => {
    const text = (list: string) => `It has to be the last in ${list} (quay.json).`;
    expect(await asked(text('ports'), 'teal.mod')).toEqual(['quay.json: ports › 1 = teal']);
    expect(await asked(text('packs'), 'teal.mod')).toEqual(['quay.json: packs › 1 = teal.mod']);
  });

  it('says nothing of a list where a folder only goes beside another', async () => {
    expect(await asked('Put teal with swan and heron.', 'teal/hull.mesh')).toEqual([]);
    expect(await asked('Replace swan.', 'swan/a/hull.mesh')).toEqual([]);
  });
});
