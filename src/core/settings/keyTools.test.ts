import fc from 'fast-check';
import { parse as parseIni } from 'ini';
import { describe, expect, it } from 'vitest';
import {
  addNumbered,
  addSearchFolder,
  adviseOnPreload,
  applySettings,
  editsOfText,
  findInSearch,
  listItems,
  markLines,
  moveSearchEntry,
  narrowerFiles,
  nextNumber,
  numberedSections,
  openSettings,
  removeNumbered,
  renumber,
  searchContainers,
  searchEntries,
  valueInEffect,
  withItem,
  withoutItem,
  type SettingsDocument,
  type TargetPath,
} from '@/core';

const ini = (text: string) => openSettings(text, 'ini');
const make = (document: SettingsDocument, edits: Parameters<typeof applySettings>[1]) =>
  applySettings(document, edits).document;

describe('lists in a value', () => {
  const item = fc.stringMatching(/^[a-z]{1,4}$/);
  const list = fc
    .tuple(fc.uniqueArray(item, { maxLength: 5 }), fc.constantFrom(', ', ',', ' , '))
    .map(([items, gap]) => ({ items, value: items.join(gap) }));
  // Common practice: a list value is extended by one more item with the same separator; the items that were there stay.
  it('law: an item more, and what was there stays letter for letter; taken out again, all is as it was', () => {
    fc.assert(
      fc.property(list, item, ({ items, value }, one) => {
        fc.pre(!items.includes(one));
        const more = withItem(value, ',', one);
        expect(more.startsWith(value)).toBe(true);
        expect(listItems(more, ',')).toEqual([...items, one]);
        expect(withoutItem(more, ',', one)).toBe(value);
      }),
    );
  });
  it('takes the separator as it is written, and nothing twice', () => {
    expect(withItem('a ; b', ';', 'c')).toBe('a ; b ; c');
    expect(withItem('a;B', ';', 'b')).toBe('a;B');
    expect(withoutItem('a, b,  c', ',', 'b')).toBe('a, c');
  });
});

const FLEET = '[hull 0]\r\nname=White\r\nfolder=white\r\n\r\n[hull 1]\r\nname=Blue\r\nfolder=harbour-blue\r\n';
describe('numbered sections', () => {
  // Common practice: a numbered section takes the next free number (after 0 to 9 comes 10).
  it('take the next number', () => {
    const ten = ini(Array.from({ length: 10 }, (_, i) => `[hull ${i}]\nname=x\n`).join(''));
    expect(nextNumber(numberedSections(ten, 'hull'))).toBe(10);
    const more = make(
      ini(FLEET),
      addNumbered(ini(FLEET), 'hull', [
        { key: 'name', value: 'Red' },
        { key: 'folder', value: 'red' },
      ]),
    );
    expect(more.text).toBe(`${FLEET}[hull 2]\r\nname=Red\r\nfolder=red\r\n`);
    expect(parseIni(more.text)).toMatchObject({ 'hull 2': { name: 'Red', folder: 'red' } });
    const last = numberedSections(more, 'hull').at(-1);
    expect(last && make(more, removeNumbered(last)).text).toBe(FLEET);
  });
  it('law: closing the gaps keeps every section’s keys in order, and leaves no gap', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(30), { minLength: 1, maxLength: 8 }), (numbers) => {
        const document = ini(numbers.map((n) => `[hull ${n}]\nname=n${n}\n`).join(''));
        const after = numberedSections(make(document, renumber(document, 'hull')), 'hull');
        expect(after.map(({ number }) => number)).toEqual(numbers.map((_, i) => i));
        expect(after.map(({ keys }) => keys[0]?.value)).toEqual([...numbers].sort((a, b) => a - b).map((n) => `n${n}`));
      }),
    );
  });
});

describe('search order', () => {
  const text = 'look {\r\n  in "assets"\r\n  in each "addons"\r\n}\r\n';
  const card = { entry: ['look', 'in'], each: 'each' };
  const files = ['assets/a.png', 'addons/one/a.png', 'addons/two/textures/b.png', 'addons/loose.txt'];
  const document = openSettings(text, 'blocks');
  const entries = searchEntries(document, card);
  // Common practice: the first folder that has the file wins; an entry may stand for every folder inside one folder.
  it('knows which folders are looked through and where a file is found first', () => {
    expect(entries.map(({ folder, each }) => [folder, each])).toEqual([
      ['assets', false],
      ['addons', true],
    ]);
    const containers = searchContainers(entries, files);
    expect(containers.map(({ folder }) => folder)).toEqual(['assets', 'addons/one', 'addons/two']);
    expect(findInSearch(containers, files, 'A.png').map(({ folder }) => folder)).toEqual(['assets', 'addons/one']);
  });
  it('moves a line and adds one, and touches nothing else', () => {
    const moved = make(document, moveSearchEntry(entries, 1, 0));
    expect(moved.text).toBe('look {\r\n  in each "addons"\r\n  in "assets"\r\n}\r\n');
    const added = make(document, [addSearchFolder(entries, card, 'my own', false)]);
    expect(added.text).toBe('look {\r\n  in "assets"\r\n  in each "addons"\r\n  in "my own"\r\n}\r\n');
    expect(searchEntries(make(document, [addSearchFolder(entries, card, 'more', true)]), card).at(-1)).toMatchObject({
      folder: 'more',
      each: true,
    });
  });
});

describe('a file changed as text', () => {
  const text = '; hello\n[Graphics]\nWide=0\nFoam=2\n';
  it('comes to edits of keys; a line that was made a comment is a key gone; comments stay the file’s own', () => {
    const change = editsOfText(ini(text), '; bye\n[Graphics]\nWide=1\n;Foam=2\nNew=3\n', 'ini');
    expect(change.edits).toEqual([
      { path: ['Graphics', 'Wide'], value: '1' },
      { path: ['Graphics', 'New'], value: '3' },
      { path: ['Graphics', 'Foam'] },
    ]);
    expect(change.text).toBe('; hello\n[Graphics]\nWide=1\nNew=3\n');
    expect(change.other).toBe(true);
  });
  it('law: the edits give the file the values that the text has, as the package ini reads both', () => {
    const values = fc.dictionary(fc.stringMatching(/^[a-z]{1,3}$/), fc.stringMatching(/^[a-z0-9]{1,3}$/), {
      noNullPrototype: true,
      maxKeys: 6,
    });
    const write = (all: Record<string, string>) =>
      `[G]\n${Object.entries(all)
        .map(([key, value]) => `${key}=${value}\n`)
        .join('')}`;
    fc.assert(
      fc.property(values, values, (before, after) => {
        const change = editsOfText(ini(write(before)), write(after), 'ini');
        expect({ ...(parseIni(change.text) as { G?: object }).G }).toEqual({
          ...(parseIni(write(after)) as { G?: object }).G,
        });
      }),
    );
  });
  it('marks lines that the game would not understand', () => {
    // Common practice: a new line in a settings file starts at the first column, on a line of its own.
    const marks = markLines(
      '[Graphics]\n Wide=1\nRate=75\nEmpty=\njust words\nOdd=1\n',
      'ini',
      new Map([
        ['graphics\nrate', { type: 'number' as const, max: 60 }],
        ['graphics\nwide', { type: 'flag' as const }],
      ]),
    );
    expect(marks.map(({ line, level }) => [line, level])).toEqual([
      [2, 'wrong'],
      [3, 'wrong'],
      [4, 'note'],
      [4, 'wrong'],
      [5, 'wrong'],
      [6, 'note'],
    ]);
    // Common practice: a refresh rate must not exceed what the screen can do (60, 75).
    expect(marks[1]?.says).toContain('must not be above 60');
  });
});

describe('files for all titles and for one', () => {
  const [all, one] = ['user/tin.ini', 'user/titles/A.ini'] as TargetPath[] as [TargetPath, TargetPath];
  const files = [
    { target: all, title: 'All' },
    { target: one, title: 'A', over: all },
  ];
  const documents = new Map([
    [all, ini('[T]\na=1\nb=1\n')],
    [one, ini('[T]\nb=2\n')],
  ]);
  it('the narrower one counts', () => {
    expect(valueInEffect(files, documents, one, ['T', 'a'])).toEqual({ value: '1', from: all });
    expect(valueInEffect(files, documents, one, ['T', 'b'])).toEqual({ value: '2', from: one });
    expect(narrowerFiles(files, all).map(({ target }) => target)).toEqual([one]);
  });
});

describe('room in memory', () => {
  // Common practice: preloading a whole pack stops stutter but needs room for all of it, sometimes 32 GB.
  it('advises against what does not fit', () => {
    expect(adviseOnPreload(32 * 1024 ** 3, 16 * 1024 ** 3)?.advice).toBe('off');
    expect(adviseOnPreload(2 * 1024 ** 3, 16 * 1024 ** 3)?.advice).toBe('on');
    expect(adviseOnPreload(2 * 1024 ** 2, 8 * 1024 ** 3)?.why).toContain(
      'All textures take 2.0 MB once loaded, no more than half of the 8.0 GB',
    );
    expect(adviseOnPreload(1, undefined)).toBeUndefined();
  });
});
