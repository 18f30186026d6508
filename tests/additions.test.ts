import { afterEach, describe, expect, it } from 'vitest';
import {
  DIALECTS,
  dialects,
  groupDownloads,
  isDownload,
  kindOf,
  markLines,
  mergeFile,
  openSettings,
  packName,
  planAsCsv,
  planAsJson,
  readSnippet,
  dialectByName,
  editsOfText,
  checkBefore,
  type Dialect,
  type Plan,
  parseTarget,
} from '@/core';
import { CHECKS_BEFORE } from '@/core/checks/beforeStart';
import type { Trouble } from '@/core/checks/trouble';
import { PLAN_COLUMNS } from '@/core/deploy/planTable';
import { target } from '@/core/paths/paths';
import { ARCHIVE_ENDINGS } from '@/core/media/archiveEndings';
import { gullwickCard } from '@/demo/gullwickCard';

/* What CONTRIBUTING.md says of additions, tried: one of each kind is made, works where it should, and goes again. */

const undo: (() => void)[] = [];
afterEach(() => {
  while (undo.length > 0) undo.pop()?.();
});

describe('one line is all it takes', () => {
  it('a dialect: opened, known by its ending, as text, looked through, merged, for a snippet', () => {
    const tilde = 'tilde' as Dialect;
    // Java's properties with another ending: one that is there already, under another name.
    dialects[tilde] = { ...dialects.colons, endings: ['tld'], colours: 'words', lines: { stray: 'No key.' } };
    undo.push(() => Reflect.deleteProperty(dialects, tilde));
    const text = 'wide: 0\ntall: 1\n';
    const document = openSettings(text, tilde);
    expect(document.set(['wide'], '1').text).toBe('wide: 1\ntall: 1\n');
    expect(dialectByName('player/a.tld')).toBe('tilde');
    expect(editsOfText(document, 'wide: 2\ntall: 1\n', tilde).edits).toEqual([{ path: ['wide'], value: '2' }]);
    expect(markLines('wide: 0\nwhat is this\n', tilde, new Map())).toMatchObject([{ line: 2, says: 'No key.' }]);
    expect(dialects[tilde].colours).toBe('words');
    const bytes = (of: string) => new TextEncoder().encode(of);
    const merged = mergeFile(
      bytes(text),
      [
        { name: 'A', bytes: bytes('wide: 5\ntall: 1\n') },
        { name: 'B', bytes: bytes('wide: 0\ntall: 7\n') },
      ],
      tilde,
      [],
    );
    expect(merged.ok && new TextDecoder().decode(merged.merge.bytes)).toBe('wide: 5\ntall: 7\n');
    expect(merged.ok && merged.merge.way).toBe('keys');
    const places = readSnippet('tall: 9', [{ target: parseTarget('player/a.tld'), dialect: tilde, document }]);
    expect(places).toMatchObject([{ target: 'player/a.tld', known: 1, lines: [{ path: ['tall'], value: '9' }] }]);
    // The published schema is made once: the line in the table is what brings a form into it.
    expect(DIALECTS).not.toContain('tilde');
  });

  it('an ending of archives: a download, its kind, its name, its parts', () => {
    expect([kindOf('a.pkz'), isDownload('a.pkz')]).toEqual(['other', false]);
    expect(packName('boats.pkz')).not.toBe(packName('boats.zip'));
    ARCHIVE_ENDINGS.push('pkz');
    undo.push(() => ARCHIVE_ENDINGS.pop());
    expect(kindOf('Boats.PKZ')).toBe('archive');
    expect(isDownload('boats.pkz')).toBe(true);
    expect(packName('boats.pkz')).toBe(packName('boats.zip'));
    expect(groupDownloads([{ name: 'boats.pkz' }])).toHaveLength(1);
  });

  it('a column of the plan: in the table and as JSON', () => {
    PLAN_COLUMNS.push({ title: 'letters', name: 'letters', of: ({ target }) => target.length });
    undo.push(() => PLAN_COLUMNS.pop());
    const step = { action: 'add', target: 'game/a.png', reason: 'new', layer: 'l', size: 3 };
    const plan = { steps: [step], unchanged: 0, forget: [], drifted: [], leftAlone: [], refused: [] };
    const [head, line] = planAsCsv(plan as unknown as Plan, () => 'P').split('\r\n');
    expect([head, line]).toEqual(['step,file,pack,bytes,why,letters', 'add,game/a.png,P,3,new,10']);
    expect(JSON.parse(planAsJson(plan as unknown as Plan, () => 'P'))).toMatchObject({ steps: [{ letters: 10 }] });
  });

  it('a check with its cure: found before the start', () => {
    // Its facts alone: the words and the cures of a kind are rows that do not compile without it.
    const trouble: Trouble = {
      kind: 'no such folder',
      id: 'dark:1',
      level: 'note',
      file: target('game', 'lamps.ini'),
      section: 'lamp 3',
      key: 'folder',
      value: 'dark',
      inside: target('game', 'lamps'),
      near: undefined,
    };
    const input = {
      card: gullwickCard,
      files: [],
      texts: new Map<string, string>(),
      originals: new Map<string, string>(),
      settings: [],
      nameOf: (layer: string) => layer,
    };
    expect(checkBefore(input)).toEqual([]);
    CHECKS_BEFORE.push(() => [trouble]);
    undo.push(() => CHECKS_BEFORE.pop());
    expect(checkBefore(input)).toEqual([
      expect.objectContaining({
        id: 'dark:1',
        title: '[lamp 3] names a folder that is not there',
        fixes: [{ kind: 'go', label: 'Look at the section', step: 'settings' }],
      }),
    ]);
  });
});
