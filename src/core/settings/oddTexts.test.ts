import { describe, expect, it } from 'vitest';
import { SatchelError, isWellFormed, openSettings } from '@/core';

describe('hostile and odd texts', () => {
  it('entities of a file are not expanded, and deep files are left alone', () => {
    const bomb = '<!DOCTYPE a [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;">]>\n<a x="&b;">&b;</a>';
    expect(openSettings(bomb, 'xml').get(['a', '@x'])).toBe('&b;');
    for (const [dialect, deep] of [
      ['xml', '<a>'.repeat(100_000)],
      ['json', '['.repeat(100_000)],
      ['blocks', 'a {'.repeat(100_000)],
      ['yaml', '['.repeat(100_000)],
      ['yaml', '- '.repeat(50_000)],
    ] as const) {
      expect(openSettings(deep, dialect).entries()).toEqual([]);
      expect(isWellFormed(deep, dialect)).toBe(false);
    }
  });

  it('puts a key behind any number of blanks', () => {
    // Looked through once for each blank this would take hours.
    const blanks = ' '.repeat(3_000_000);
    expect(openSettings(`{${blanks}"a": 1}`, 'json').set(['b'], '2').text).toBe(`{${blanks}"a": 1,${blanks}"b": 2}`);
  });

  it('says what cannot be held, and changes nothing', () => {
    expect(() => openSettings('<a x="1"/>', 'xml').set(['a', '@x'], 'a\u0000b')).toThrow(SatchelError);
    expect(() => openSettings('set fov 80\n', 'commands').set(['set', 'fov'], '1\nquit')).toThrow(SatchelError);
    expect(() => openSettings('a {\n}\n', 'blocks').set(['a', 'k'], 'x\n} evil {')).toThrow(SatchelError);
    expect(() => openSettings('[1, 2]', 'json').set(['7', 'x'], '1')).toThrow(SatchelError);
  });

  it.each([
    [
      'xml',
      '<view>\r\n\t<camera fov="80" />\r\n</view>\r\n',
      ['view', 'camera', '@fov'],
      '84',
      '<view>\r\n\t<camera fov="84" />\r\n</view>\r\n',
    ],
    [
      'xml',
      '<view>\n  <camera fov="80" />\n</view>\n',
      ['view', 'light'],
      '3',
      '<view>\n  <camera fov="80" />\n  <light>3</light>\n</view>\n',
    ],
    ['json', '{\n  // wide\n  "fov": 80,\n}\n', ['fov'], '84', '{\n  // wide\n  "fov": 84,\n}\n'],
    // What stands beside it stays as it is written.
    ['json', '["a"]', ['1'], 'b', '["a", "b"]'],
    ['json', '{"l":["a","b"], "k":1}', ['l', '2'], 'c', '{"l":["a","b","c"], "k":1}'],
    ['json', '{ "k": 1 }', ['e', 'f'], '3', '{ "k": 1, "e": { "f": 3 } }'],
    ['json', '{\n\n  "k": 1\n}', ['e'], '3', '{\n\n  "k": 1,\n  "e": 3\n}'],
    [
      'json',
      '{\n  "l": [\n    "a" // first\n  ]\n}\n',
      ['l', '1'],
      'c',
      '{\n  "l": [\n    "a", // first\n    "c"\n  ]\n}\n',
    ],
    ['json', '{\n  "l": [\n    "a",\n  ]\n}\n', ['l', '1'], 'c', '{\n  "l": [\n    "a",\n    "c",\n  ]\n}\n'],
    [
      'json',
      '{\n  "l": [\n    { "n": 1 }\n  ]\n}\n',
      ['l', '1'],
      'c',
      '{\n  "l": [\n    { "n": 1 },\n    "c"\n  ]\n}\n',
    ],
    ['json', '{\n  "c": { "d": [1,2] }\n}\n', ['e'], '3', '{\n  "c": { "d": [1,2] },\n  "e": 3\n}\n'],
    ['json', '{\r\n\t"c" : 1\r\n}', ['e', 'f'], '3', '{\r\n\t"c" : 1,\r\n\t"e" : {\r\n\t\t"f" : 3\r\n\t}\r\n}'],
    ['json', '{\n\t"a": "1"\n}\n', ['a'], '2', '{\n\t"a": "2"\n}\n'],
    ['commands', 'set fov 80 \nbind F5 "save"\n', ['set', 'wide'], '1', 'set fov 80 \nbind F5 "save"\nset wide 1\n'],
    [
      'commands',
      'load heron\n  load tern\nset fov 80\n',
      ['load', 'otter'],
      '',
      'load heron\n  load tern\nload otter\nset fov 80\n',
    ],
    ['commands', 'craft/swan\ncraft\\örn\n', ['craft/teal'], '', 'craft/swan\ncraft\\örn\ncraft/teal\n'],
    [
      'blocks',
      'look {\n  in "assets" // first\n}\n',
      ['look', 'each'],
      'addons',
      'look {\n  in "assets" // first\n  each addons\n}\n',
    ],
    [
      'blocks',
      'look = {\n  fov = 80,\n  wide = 1\n}\n',
      ['look', 'fov'],
      '84',
      'look = {\n  fov = 84,\n  wide = 1\n}\n',
    ],
    [
      'blocks',
      'look = {\n  fov = 80,\n  wide = 1\n}\n',
      ['look', 'far'],
      '9',
      'look = {\n  fov = 80,\n  wide = 1,\n  far = 9,\n}\n',
    ],
    ['blocks', 'look\n{\n  fov 80;\n}\n', ['look', 'fov'], '84', 'look\n{\n  fov 84;\n}\n'],
    ['blocks', 'view={ fov=80, wide="no" }\n', ['view', 'wide'], 'yes', 'view={ fov=80, wide="yes" }\n'],
    ['blocks', 'view: {\n  fov: 80\n}\n', ['view', 'far'], '3', 'view: {\n  fov: 80\n  far: 3\n}\n'],
    ['blocks', 'use = {\n\t"roads"\n}\n', ['use', 'salt pit'], '', 'use = {\n\t"roads"\n\t"salt pit"\n}\n'],
    ['blocks', 'use {\n  base\n}\n', ['use', 'salt'], '', 'use {\n  base\n  salt\n}\n'],
    ['blocks', 'use={ "a.mod" "b.mod" }\n', ['use', 'c.mod'], '', 'use={ "a.mod" "b.mod" "c.mod" }\n'],
    ['blocks', 'use={ "a", "b" }\n', ['use', 'c'], '', 'use={ "a", "b", "c" }\n'],
    ['blocks', 'name {\n  first =\n}\n', ['name', 'last'], '', 'name {\n  first =\n  last =""\n}\n'],
    ['yaml', 'video:\r\n  fov: 80 # wide\r\n', ['video', 'fov'], '84', 'video:\r\n  fov: 84 # wide\r\n'],
    [
      'yaml',
      'video:\n  fov: 80\nsound: on\n',
      ['video', 'far'],
      'as it is',
      'video:\n  fov: 80\n  far: as it is\nsound: on\n',
    ],
    ['yaml', 'mods:\n- one\n- two\n', ['mods', '2'], 'three', 'mods:\n- one\n- two\n- three\n'],
    ['yaml', 'mods: []\nb: 1\n', ['mods', '0'], 'one', 'mods: [one]\nb: 1\n'],
    ['yaml', 'g:\n  mods: [ "one" ] # all\n', ['g', 'mods', '1'], 'two', 'g:\n  mods: [ "one", "two" ] # all\n'],
    ['yaml', 'mods: [one,\n  two]\n', ['mods', '2'], 'a, b', 'mods: [one,\n  two, "a, b"]\n'],
    ['yaml', 'a: "1"\nb:\n', ['b'], '# 2', 'a: "1"\nb: "# 2"\n'],
    ['colons', 'volume:1\n', ['lang'], 'fr', 'volume:1\nlang:fr\n'],
    [
      'language',
      'english:\n quay:0 "Quay"\n',
      ['pier'],
      'The "old" pier',
      'english:\n quay:0 "Quay"\n pier:0 "The \\"old\\" pier"\n',
    ],
  ] as const)('%s: %j', (dialect, text, path, value, wanted) => {
    expect(openSettings(text, dialect).set([...path], value).text).toBe(wanted);
    expect(openSettings(wanted, dialect).get([...path])).toBe(value);
  });

  it.each([
    [
      'commands that stand there once, or with numbers, are values',
      'load heron\nfov 80\nfov 90\n',
      'load=heron fov=80 fov=90',
    ],
    [
      'several of one kind are a list',
      'load heron\nload tern\nsay on\nsay off\n',
      'load/heron= load/tern= say=on say=off',
    ],
    ['a name that stands there twice makes none', 'load heron\nload heron\n', 'load=heron load=heron'],
  ])('%s', (_, text, wanted) => {
    expect(
      openSettings(text, 'commands')
        .entries()
        .map(({ path, value }) => `${path.join('/')}=${value}`)
        .join(' '),
    ).toBe(wanted);
  });

  it('one of several commands goes alone, and comes back', () => {
    const text = 'load heron\r\nload tern\r\nload otter\r\n';
    const document = openSettings(text, 'commands').remove(['load', 'tern']);
    expect(document.text).toBe('load heron\r\nload otter\r\n');
    expect(document.set(['load', 'tern'], '').text).toBe('load heron\r\nload otter\r\nload tern\r\n');
  });
});
