import { describe, expect, it } from 'vitest';
import { askedOf } from '../../../tests/support/askedOf';

/** An inn as it lies on a disk; nobody has said which of these are settings. */
const FILES: Record<string, string> = {
  'inn.exe': '',
  'inn.ini': '[Bar]\nBeer=mild\nClosing=22\nGhosts=off\n[Cellar]\nTin=22\nBronze=78\n[Extra]\nRooms=base\n',
  'music.ini': '[Music]\nPiano=1\nClosing=fade\n',
  'inn.rc': 'fog 3\ncandles 6\ncoal.price 12\ncoal.grade best\nmount base.pak\n',
  'inn.yaml': 'luck: false\nseason: winter\n',
  'inn.json': '{\n  "desk": "day",\n  "owls": { "speed": 1.0, "names": true },\n  "parties": ["elms", "beeches"]\n}\n',
  'inn.xml':
    '<inn>\n  <weather frost="off" rain="0.5"/>\n  <ring size="6" sound="jingle"/>\n  <mods>\n    <mod>salt</mod>\n  </mods>\n</inn>\n',
  ...Object.fromEntries(['elms', 'beeches'].map((one) => [`parties/${one}.rpt`, ''])),
};
const asked = askedOf(FILES);

describe('what is told of how things are, and what is to be', () => {
  it.each<[what: string, text: string, wanted: string[]]>([
    [
      'a switch stands so now; who wants more writes the other',
      'luck steht in der inn.yaml auf false. Wer Glück haben will, schreibt true.',
      ['inn.yaml: luck = true'],
    ],
    ['two numbers as they are', 'Bronze and Tin are 78 and 22 in inn.ini.', []],
    [
      'a sentence that begins with a switch, against what is so',
      'See inn.ini. Ghosts are on, of course.',
      ['inn.ini: Bar › Ghosts = on'],
    ],
    ['and as it is', 'See inn.ini. Ghosts are off, of course.', []],
    ['the one of two keys that holds what goes', 'Closing is moved from 22 to 24.', ['inn.ini: Bar › Closing = 24']],
    [
      'what stands there becomes another, without its key',
      'Under [Extra] base becomes base+attic.',
      ['inn.ini: Extra › Rooms = base+attic'],
    ],
    [
      'a key in quotes is what the next sentence speaks of',
      'In inn.json "desk" names the one you sit at; let it name "night".',
      ['inn.json: desk = night'],
    ],
    ['it is tried', 'Under "owls" in inn.json the "speed" is 1.0. Try 2.5.', ['inn.json: owls › speed = 2.5']],
    ['but not by its maker', 'Under "owls" in inn.json the "speed" is 1.0. I use 2.5.', []],
    [
      'a switch goes on, a number down',
      'In inn.xml frost goes on and rain down to 0.2.',
      ['inn.xml: inn › weather › @frost = on', 'inn.xml: inn › weather › @rain = 0.2'],
    ],
    [
      'a word behind its key, where something is given',
      'In inn.xml give the ring size 12 and the sound clank.',
      ['inn.xml: inn › ring › @size = 12', 'inn.xml: inn › ring › @sound = clank'],
    ],
    ['what may be, but need not', 'Beer in inn.ini may be stout then, but need not.', []],
    [
      'the verb is no value',
      'Bei Beer steht in der inn.ini statt mild künftig stout.',
      ['inn.ini: Bar › Beer = stout'],
    ],
    [
      'an element behind one that is there',
      'inn.xml: below <mod>salt</mod> comes <mod>grit</mod>.',
      ['inn.xml: inn › mods › mod#2 = grit'],
    ],
    [
      'a word behind its key, and what is said of something else',
      'In inn.ini Closing must be 23 and Beer stout, otherwise the sign is blurred.',
      ['inn.ini: Bar › Closing = 23', 'inn.ini: Bar › Beer = stout'],
    ],
    [
      'what is looked for, and what becomes of it',
      'In inn.ini look for Tin=22. Increase the number to 30.',
      ['inn.ini: Cellar › Tin = 30'],
    ],
    [
      'what is so now, and what it is made, whatever else is a key',
      'In inn.json the desk is now "day". Make it "night" and speed on.',
      ['inn.json: desk = night'],
    ],
    [
      'a key of another file than the one that is named later',
      'Cambia la estación: season debe ser summer. Y en inn.xml el ring lleva size="9".',
      ['inn.yaml: season = summer', 'inn.xml: inn › ring › @size = 9'],
    ],
    [
      'a value that is called like its key',
      'inn.ini needs Rooms = rooms, in small letters.',
      ['inn.ini: Extra › Rooms = rooms'],
    ],
    [
      'a line that goes on with another sentence',
      'Ghosts=on turns the lamps off. With strong beer (Beer=stout) it is merrier.',
      ['inn.ini: Bar › Ghosts = on', 'inn.ini: Bar › Beer = stout'],
    ],
    ['what a thing is said to be', 'Beer in inn.ini is a word.', []],
    ['not more than so many', 'inn.rc: candles should be not more than 4.', ['inn.rc: candles = 4']],
    [
      'a number before its key, behind another key with its own',
      'For a dark yard use fog 5 with no more than 2 candles (inn.rc).',
      ['inn.rc: fog = 5', 'inn.rc: candles = 2'],
    ],
    [
      'a key that is no word, and what stands behind it',
      'In inn.rc: coal.price down to 7 & coal.grade small',
      ['inn.rc: coal.price = 7', 'inn.rc: coal.grade = small'],
    ],
    [
      'one more line of a command that stands there once, and never another value for that one',
      'inn.rc needs one more line: mount roman.pak',
      ['inn.rc: mount › roman.pak'],
    ],
    [
      'another one may be of another kind',
      'inn.rc needs one more line: mount roman.png',
      ['inn.rc: mount › roman.png'],
    ],
    ['a word behind a command is no name', 'There is one more mount again in inn.rc.', []],
    ['an element that goes', 'Remove <mod>grit</mod> from inn.xml.', []],
    ['an element that is only spoken of', 'They say that inn.xml once held <mod>grit</mod>.', []],
  ])('%s', async (_, text, wanted) => {
    expect(await asked(text)).toEqual(wanted);
  });

  it('an order that is left to the player leaves the rest as it is asked', async () => {
    const text = 'In inn.json "parties" has to name "poplars" as well, before "beeches" or after, as you like.';
    expect(await asked(text, 'poplars.rpt')).toEqual(['inn.json: parties › 2 = poplars']);
  });
});
