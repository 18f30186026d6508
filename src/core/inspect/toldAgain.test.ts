import { describe, expect, it } from 'vitest';
import { askedOf } from '../../../tests/support/askedOf';

const FILES: Record<string, string> = {
  'watch.exe': '',
  'watch.cfg': 'lanterns oil\nmen 12\nhours 4\ncry loud\n',
  'town.json': '{\n  "bell": "brass",\n  "night": true,\n  "sundays": true,\n  "gates": 3\n}\n',
  'keys.ini': '[Keys]\nTwist=T\nConsole=F1\nSpeed=40\n',
};
const asked = askedOf(FILES);

describe('what is told by what was told before', () => {
  it.each<[what: string, text: string, wanted: string[]]>([
    [
      'a key with its value now, and again with another one',
      'Where watch.cfg says lanterns oil it has to say lanterns gas.',
      ['watch.cfg: lanterns = gas'],
    ],
    [
      'where it says so already',
      'Where watch.cfg says lanterns wax it has to say lanterns oil.',
      ['watch.cfg: lanterns = oil'],
    ],
    [
      'the other way round',
      'Write "lanterns gas" into watch.cfg instead of "lanterns oil".',
      ['watch.cfg: lanterns = gas'],
    ],
    ['where it says neither', 'Where watch.cfg says lanterns wax it has to say lanterns gas.', []],
    ['twice with what it is now', 'If watch.cfg says lanterns oil, keep lanterns oil.', []],
    ['and where that is forbidden', 'If watch.cfg says lanterns oil, do not write lanterns gas.', []],
    [
      'the same for another key',
      'In town.json "night" must say false. Do the same with "sundays".',
      ['town.json: night = false', 'town.json: sundays = false'],
    ],
    [
      'German',
      'In der town.json muss night auf false. Das gleiche gilt für sundays.',
      ['town.json: night = false', 'town.json: sundays = false'],
    ],
    [
      'not for one that holds something of another kind',
      'In town.json "night" must say false. The same goes for "gates".',
      ['town.json: night = false'],
    ],
    [
      'a value alone that is to be changed',
      'You will find a line "bell": "brass" in town.json. Change brass to ship and you are done.',
      ['town.json: bell = ship'],
    ],
    ['with its file between', 'Change brass in town.json to ship.', ['town.json: bell = ship']],
    ['with nothing but its file', 'Change brass in town.json.', []],
    ['French', 'Dans town.json, remplacez brass par ship.', ['town.json: bell = ship']],
    ['no number alone', 'Change 3 to 4 in your head before you open town.json.', []],
    ['what comes of it', 'In der town.json steht bei gates eine 3. Daraus wird eine 10.', ['town.json: gates = 10']],
    ['a verb is no value', 'En watch.cfg, cry debe decir soft en vez de loud.', ['watch.cfg: cry = soft']],
    [
      'how it is, and how much more',
      'keys.ini holds how fast it goes: Speed = 40. More, say 75, is better.',
      ['keys.ini: Keys › Speed = 75'],
    ],
    ['how it is, and no more', 'keys.ini holds how fast it goes: Speed = 40.', []],
    [
      'what the numbers mean between a key and what it should be',
      'keys.ini has a Speed setting. 0 is still, 99 is wild. I suggest 20.',
      ['keys.ini: Keys › Speed = 20'],
    ],
    ['what its maker has', 'In town.json gates is 3. I have it at 7.', ['town.json: gates = 7']],
    ['what its maker has besides', 'In town.json gates is 3. I have it with 2 other packs.', []],
    ['what there is more of', 'In town.json gates is 3. There are more, about 30 new ones.', []],
    ['what something contains', 'The cry of watch.cfg contains seagulls.', []],
    ['what it was and is now', 'gates was 3, is now 8', ['town.json: gates = 8']],
    ['an arrow to the same key', 'In town.json "bell": "brass" => "bell": "ship"', ['town.json: bell = ship']],
    [
      'what it should contain',
      'Soft cries instead of loud: cry in watch.cfg should contain soft.',
      ['watch.cfg: cry = soft'],
    ],
    ['a key in brackets and a colon', 'Le cri (cry) : soft', ['watch.cfg: cry = soft']],
    ['what it was not', 'gates was 2, is now 8', []],
    [
      'another value for who misses something',
      'gates should be 8. If you miss the old ones, gates should be 3.',
      ['town.json: gates = 8'],
    ],
    ['what is wanted besides', 'If you also want a wilder town, set gates to 8.', []],
    ['a small word in brackets that is a key', 'There are only 2 of them (gates).', ['town.json: gates = 2']],
    [
      'a key behind its file in brackets',
      'The key for it is F7 (keys.ini, Console).',
      ['keys.ini: Keys › Console = F7'],
    ],
  ])('%s', async (_, text, wanted) => {
    expect(await asked(text)).toEqual(wanted);
  });
});
