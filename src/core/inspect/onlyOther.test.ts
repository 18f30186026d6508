import { describe, expect, it } from 'vitest';
import { askedOf } from '../../../tests/support/askedOf';

const asked = askedOf({
  'kiln.exe': '',
  'kiln.ini': '[Kiln]\nHeat=900\nGhosts=yes\nFuel=peat\n[Yard]\nCarts=12\nRain=off\n',
  'yard.json': '{\n  "sky": "azure",\n  "volume": 90,\n  "wares": ["brick", "tile"],\n  "empty": []\n}\n',
  'load.txt': 'base.lax\ncloth.lax\n',
  'packs/base.lax': '',
  'packs/cloth.lax': '',
});

describe('a value that no wording of its own tells', () => {
  it.each<[what: string, text: string, wanted: string[]]>([
    [
      'is the only other number',
      'In kiln.ini Heat is 900. Half of that, 450, is prettier.',
      ['kiln.ini: Kiln › Heat = 450'],
    ],
    ['in the same sentence', 'Carts (kiln.ini), 12 so far, with my mules 20.', ['kiln.ini: Yard › Carts = 20']],
    ['a switch', 'In der kiln.ini steht Ghosts=yes. Statt yes gehört dort no hin.', ['kiln.ini: Kiln › Ghosts = no']],
    ['a word in quotes', '"sky" steht in der yard.json auf "azure"; "slate" ist schöner.', ['yard.json: sky = slate']],
    [
      'in the sentence before',
      'The hot bricks want 950, it comes with 900. Heat in kiln.ini is the place.',
      ['kiln.ini: Kiln › Heat = 950'],
    ],
    ['but not of two others', 'In kiln.ini Heat is 900. On cold days 950, in the wind 980.', []],
    ['nor how many of something else', 'In kiln.ini Heat is 900. It comes with 2 new bricks.', []],
    ['nor what somebody has', 'In kiln.ini Heat is 900. I play with 450.', []],
    ['nor what is refused', 'In kiln.ini Heat is 900. Never 450.', []],
    ['nor what is asked', 'In kiln.ini Heat is 900. Why not 450?', []],
    ['nor where the value now is not told', 'Heat stands in kiln.ini. The yard was opened in 1850.', []],
    ['nor what the game has to be', 'In kiln.ini Heat is 900. Needs game 1.4.', []],
    ['nor a version', 'In kiln.ini Heat is 900. Made for version 3.', []],
  ])('%s', async (_, text, wanted) => {
    expect(await asked(text)).toEqual(wanted);
  });
});

describe('what is said of “it”', () => {
  it.each<[what: string, text: string, wanted: string[]]>([
    ['what is thought of a number', 'The "volume" in yard.json is 90. 40 is about right.', ['yard.json: volume = 40']],
    ['and what is thought badly of', 'The "volume" in yard.json is 90. 40 is not enough. Leave it.', []],
    ['what a number is good for', 'In yard.json "volume" is 90. Use 4 for a quiet night.', ['yard.json: volume = 4']],
    [
      'a bound is none',
      'Carts in kiln.ini is 12, and any number up to 30 will do. I like 20.',
      ['kiln.ini: Yard › Carts = 20'],
    ],
    [
      'these two in their order',
      'In kiln.ini Heat is 900 and Carts 12; make these 1000 and 14.',
      ['kiln.ini: Kiln › Heat = 1000', 'kiln.ini: Yard › Carts = 14'],
    ],
    ['but not one for two', 'In kiln.ini Heat is 900 and Carts 12; make these 1000.', []],
    ['what is only told', 'Ghosts are set to yes in kiln.ini.', []],
    ['twice as much', '"volume" is 90 in yard.json. Double it.', ['yard.json: volume = 180']],
    ['half of it', 'Carts in kiln.ini is 12. Halve it.', ['kiln.ini: Yard › Carts = 6']],
    ['what it needs is no value', 'In kiln.ini Heat is 900. This mod needs 1.4.', []],
    ['and takes none away', 'In kiln.ini set Heat to 950. This mod requires 7.', ['kiln.ini: Kiln › Heat = 950']],
    ['nor does a range', 'Set Heat to 950 in kiln.ini. Use 2 to 3 sacks of coal.', ['kiln.ini: Kiln › Heat = 950']],
    ['nor a joke', 'Set Heat to 950 in kiln.ini. Double it for fun.', ['kiln.ini: Kiln › Heat = 950']],
    ['twice of what is no number', 'Fuel is peat in kiln.ini. Double it.', []],
    [
      'what this pack wants',
      'Heat in kiln.ini is 900. Up to 1200 works, this mod wants 1100.',
      ['kiln.ini: Kiln › Heat = 1100'],
    ],
    [
      '“so 0”',
      'Carts in kiln.ini can be anything from 0 to 30; this is the quiet version, so 0.',
      ['kiln.ini: Yard › Carts = 0'],
    ],
    [
      'what its maker would say',
      'volume in yard.json: 90 is loud, 10 is silent. I’d say 50.',
      ['yard.json: volume = 50'],
    ],
    [
      'that it is to be switched',
      'Rain is off in kiln.ini. I turned it on and so should you.',
      ['kiln.ini: Yard › Rain = on'],
    ],
  ])('%s', async (_, text, wanted) => {
    expect(await asked(text)).toEqual(wanted);
  });
});

describe('a value in quotes behind its sign', () => {
  it('ends with its quotes, whatever is said of it', async () => {
    expect(await asked('Fuel = "coal" burns better. You find it in kiln.ini.')).toEqual([
      'kiln.ini: Kiln › Fuel = "coal"',
    ]);
  });
});

describe('what comes to lists and in place of values', () => {
  it.each<[what: string, text: string, wanted: string[]]>([
    ['is put into one', 'Put "lime" into "wares" in yard.json.', ['yard.json: wares › 2 = lime']],
    ['is put elsewhere', 'Put "lime" into the kiln. "wares" in yard.json lists what there is.', []],
    ['stands under it', 'Add `- lime` under `wares:` in yard.json.', ['yard.json: wares › 2 = lime']],
    ['is a line more', 'It is switched off: add velvet.lax to load.txt.', ['load.txt: velvet.lax']],
    ['of another kind is none', 'Add velvet.png to load.txt.', []],
    [
      'is written where the file has something',
      'No carts. Write 0 where kiln.ini has 12.',
      ['kiln.ini: Yard › Carts = 0'],
    ],
    ['but not where it has nothing such', 'Write 0 where kiln.ini has 13.', []],
    [
      'is the whole of what stands in guillemets',
      'Dans yard.json, « sky » doit valoir « grey ».',
      ['yard.json: sky = grey'],
    ],
    ['is made of it', 'In kiln.ini bei Fuel aus peat coal machen.', ['kiln.ini: Kiln › Fuel = coal']],
    [
      'is set for a reason',
      'Set Carts to 3 in kiln.ini, and because it is dry set Heat to 1000.',
      ['kiln.ini: Yard › Carts = 3', 'kiln.ini: Kiln › Heat = 1000'],
    ],
    ['is put where it says something', 'Open kiln.ini. Put coal where it says peat.', ['kiln.ini: Kiln › Fuel = coal']],
    [
      'is written behind them',
      'Who likes it calm writes 3 behind Carts in kiln.ini, and no behind Ghosts.',
      ['kiln.ini: Yard › Carts = 3', 'kiln.ini: Kiln › Ghosts = no'],
    ],
    [
      'is what the maker has, and you should',
      'I always play with Ghosts no and think you should, too. (kiln.ini)',
      ['kiln.ini: Kiln › Ghosts = no'],
    ],
    ['is no verb', 'There is Fuel, so that nobody has to dig, in kiln.ini.', []],
    [
      'is no relative clause',
      'Fuel in kiln.ini says which one is burnt, so make that "coal".',
      ['kiln.ini: Kiln › Fuel = coal'],
    ],
    ['is told in brackets', 'The yard holds 12 (Carts) at 900 degrees (Heat).', []],
  ])('%s', async (_, text, wanted) => {
    expect(await asked(text)).toEqual(wanted);
  });
});
