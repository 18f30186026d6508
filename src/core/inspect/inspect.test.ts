import { zipSync } from 'fflate';
import { parse as parseIni } from 'ini';
import { describe, expect, it } from 'vitest';
import {
  inspectPictures,
  liesAsSettings,
  parseTarget,
  plainCard,
  openPack,
  readInstructions,
  statedFacts,
  textsWanted,
  type PackEntry,
  type PackPath,
} from '@/core';
import { drawDds, drawPng } from '@/demo/draw';
import { hedgerowCard } from '@/demo/hedgerow';
import { tinplateCard } from '@/demo/tinplate';

const entries = (...paths: string[]): PackEntry[] => paths.map((path) => ({ path: path as PackPath, size: 10 }));
const facts = (name: string, more: Partial<Parameters<typeof statedFacts>[0]> = {}) =>
  statedFacts({ name, entries: [], card: tinplateCard, texts: new Map(), ...more }).map(
    ({ kind, value, where }) => `${kind} ${value} (${where})`,
  );

describe('what a pack states of itself', () => {
  it.each([
    ['weathered-quay-1.2.zip', ['version 1.2 (the file’s name)']],
    ['quay_v2.0.1_final.7z', ['version 2.0.1 (the file’s name)']],
    ['quay v3.rar', ['version 3 (the file’s name)']],
    ['boats-1024.zip', ['resolution 1024 (the file’s name)']],
    ['boats 512px 1.4.zip', ['version 1.4 (the file’s name)', 'resolution 512 (the file’s name)']],
    ['boats-4k.zip', ['resolution 4k (the file’s name)']],
    ['buns-CB-7041.zip', ['title-id CB-7041 (the file’s name)']],
    ['buns southern edition.zip', ['region South (the file’s name)']],
    ['no facts at all.zip', []],
  ])('%s', (name, expected) => {
    expect(facts(name)).toEqual(expected);
  });

  it.each([
    ['Needs the patch: Old Mill Patch', ['patch Old Mill Patch']],
    ['Requires its add-on “Far Shore”.', ['patch Far Shore']],
    ['Needs Old Mill', ['needs Old Mill']],
    ['Patch notes: fixed two textures', []],
    ['Patch 2 adds new boats', []],
  ])('a read-me that says “%s”', (text, expected) => {
    expect(
      facts('mill.zip', { readMe: { path: 'read me.txt', text: `Mill\n${text}\n` } }).map((fact) =>
        fact.replace(/ \(.*/, ''),
      ),
    ).toEqual(expected);
  });

  it('reads manifests first, then the name, and never states one thing twice', () => {
    const texts = new Map([
      [
        'CB-2041/paint.json',
        '\ufeff{ "name": "Rye", "version": "2.1.3", "resolution": 256, "base": ["Oak 2.1.0", "Elm"] }',
      ],
    ]);
    expect(facts('rye-2.1.3.zip', { texts, entries: entries('CB-2041/paint.json') })).toEqual([
      'title Rye (CB-2041/paint.json)',
      'version 2.1.3 (CB-2041/paint.json)',
      'resolution 256 (CB-2041/paint.json)',
      'needs Oak 2.1.0 (CB-2041/paint.json)',
      'needs Elm (CB-2041/paint.json)',
      'title-id CB-2041 (CB-2041)',
    ]);
  });

  it('a broken manifest states nothing, and names like __proto__ are only names', () => {
    for (const text of ['{ not json', '[]', 'null', '"text"', '{"__proto__": {"version": "9.9"}}'])
      expect(facts('x.zip', { texts: new Map([['paint.json', text]]) })).toEqual([]);
  });

  it('reads the read-me with its lines', () => {
    const readMe = {
      path: 'P/Read me.txt',
      text: 'ROSE PORCH version 1.4\r\n\r\nRequires: Starter rooms\r\nFor the Garden edition.\r\n',
    };
    expect(
      statedFacts({ name: 'rose.zip', entries: [], card: hedgerowCard, texts: new Map(), readMe }).map(
        ({ kind, value, where }) => `${kind} ${value} (${where})`,
      ),
    ).toEqual([
      'version 1.4 (Read me.txt, line 1)',
      'needs Starter rooms (Read me.txt, line 3)',
      'edition Garden edition (Read me.txt, line 4)',
    ]);
  });

  it('looks only at short texts that the card names', () => {
    expect(
      textsWanted(
        [...entries('a/pack.leaf', 'a/hall.ini', 'a/other.txt'), { path: 'b/pack.leaf' as PackPath, size: 9_000_000 }],
        hedgerowCard,
      ),
    ).toEqual(['a/pack.leaf', 'a/hall.ini']);
  });
});

describe('instructions in a read-me', () => {
  it('finds keys under their section, as the ini package reads the same lines', () => {
    const text = '[Graphics]\nAddonTextures=1\nWaterDetail = 4 ; finest\n\n[Sound]\nVolume=80\n';
    const found = readInstructions(`Open ferries.ini and set\n\n${text}\nThat is all there is to do.\n`);
    const reference = parseIni(text) as Record<string, Record<string, string>>;
    expect(found.map((one) => (one.kind === 'key' ? [one.section, one.key, one.value] : []))).toEqual(
      Object.entries(reference).flatMap(([section, keys]) =>
        Object.entries(keys).map(([key, value]) => [section, key, value.replace(/\s*;.*$/, '')]),
      ),
    );
    expect(found.map(({ line }) => line)).toEqual([4, 5, 8]);
  });

  it('finds attributes, launch options and numbered sections', () => {
    const text = [
      'Change the camera:',
      '<camera field="80" height="1.6"/>',
      'Start the game with the launch option -nosplash, or with --width=1280 and +exec my.cfg',
      '[hull N]',
      'name=Storm',
      'folder=storm',
    ].join('\n');
    expect(readInstructions(text)).toEqual([
      { kind: 'attribute', element: 'camera', attribute: 'field', value: '80', line: 2 },
      { kind: 'attribute', element: 'camera', attribute: 'height', value: '1.6', line: 2 },
      { kind: 'launch option', option: '-nosplash', line: 3 },
      { kind: 'launch option', option: '--width=1280', line: 3 },
      { kind: 'launch option', option: '+exec my.cfg', line: 3 },
      {
        kind: 'numbered section',
        section: 'hull',
        keys: [
          { key: 'name', value: 'Storm' },
          { key: 'folder', value: 'storm' },
        ],
        line: 4,
      },
    ]);
  });

  it('finds nothing in prose', () => {
    expect(
      readInstructions(
        'If a = b then all is well, or so they say.\nWell-made - I think - and up-to-date.\n1 + 1 = 2\nVisit the page for more.\n* a list\n- another item\n',
      ),
    ).toEqual([]);
  });

  it('does not hang on hostile lines', () => {
    for (const text of [
      '<a '.repeat(20_000),
      '['.repeat(100_000),
      '= '.repeat(100_000),
      '-'.repeat(100_000),
      `${'a="b" '.repeat(50)}<`,
      'x'.repeat(1_000_000),
    ])
      expect(readInstructions(text).length).toBeLessThan(300);
  });
});

describe('the pictures of a pack', () => {
  it('are read by their first bytes, also out of a compressed archive, and broken ones are passed over', async () => {
    const blank: [[number, number, number], [number, number, number], [number, number, number]] = [
      [1, 2, 3],
      [4, 5, 6],
      [7, 8, 9],
    ];
    const files = {
      'a.png': drawPng('a', 'sky', blank, 48),
      'deep/b.dds': drawDds('b', 'sky', blank, { size: 128, form: 'BC3' }),
      'broken.png': new Uint8Array([1, 2, 3]),
      'empty.dds': new Uint8Array(0),
      'c.txt': new TextEncoder().encode('no picture'),
    };
    for (const level of [0, 9] as const) {
      const pack = await openPack(new Blob([zipSync(files, { level })]), 'p.zip');
      const found = await inspectPictures(pack);
      expect(
        Object.fromEntries(
          [...found].map(([path, { format, width, mipLevels }]) => [path, [format, width, mipLevels]]),
        ),
      ).toEqual({ 'a.png': ['png', 48, 1], 'deep/b.dds': ['dds BC3', 128, 8] });
      // The same without the shortcut, as for archives that are read whole.
      const { peekMany: _, ...whole } = pack;
      expect(await inspectPictures(whole)).toEqual(found);
    }
  });
});

it('a pack’s file lies as settings where its path ends as that of a settings file does, and not by its name alone', () => {
  const settings = (target: string) => ({
    ...plainCard('mill', 'Mill'),
    settings: [{ target: parseTarget(target), dialect: 'ini' as const, title: 'Settings', keys: [] }],
  });
  expect(liesAsSettings('Info.txt', settings('game/info.txt'))).toBe(true);
  expect(liesAsSettings('pack/docs/info.txt', settings('game/docs/info.txt'))).toBe(true);
  expect(liesAsSettings('info.txt', settings('game/docs/info.txt'))).toBe(false);
  expect(liesAsSettings('readme.txt', settings('game/info.txt'))).toBe(false);
});
