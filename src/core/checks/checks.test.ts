import { describe, expect, it } from 'vitest';
import {
  diagnose,
  knownFindings,
  readLog,
  switchStates,
  type DeployedState,
  type LogReading,
  parseTarget,
  type Finding,
  type Warning,
} from '@/core';
import { gullwickCard as card } from '@/demo/gullwickCard';

const rules = card.log?.rules ?? [];
const state: DeployedState = {
  format: 1,
  folders: [],
  files: ['quay/a.png', 'quay/b.dds'].map((path) => ({
    target: parseTarget(`program/assets/textures/${path}`),
    layer: 'l',
    sha256: '0'.repeat(64),
    size: 1,
    modified: 1,
    from: { kind: 'absent' },
    original: { kind: 'absent' },
  })),
};
const targets = state.files.map(({ target }) => target);
const log = (count: number): LogReading => readLog(`00014 harbour | add-on textures ${count} loaded\r\n`, rules);
const look = (value: string | undefined, reading?: LogReading, pending = 0) =>
  diagnose({ card, state, switches: switchStates(card, targets, () => value), log: reading, pending });

describe('logs', () => {
  it('reads lines by the card’s rules, with CRLF and a byte order mark', () => {
    const reading = readLog(
      '\ufeff-- begins --\r\n00014 harbour | own textures 30 of 31\r\n00021 shoal   | missing assets/x.png\r\n',
      rules,
    );
    expect(reading).toMatchObject({ lines: 3, unknown: 1 });
    expect(reading.messages.map(({ first, says }) => [first, says])).toEqual([
      [2, 'The game loaded 30 of its own 31 textures.'],
      [3, 'The game misses assets/x.png.'],
    ]);
  });
  it('cuts a line of a megabyte before looking at it', () => {
    expect(readLog(`00014 shoal   | missing ${'x'.repeat(1_000_000)}`, rules).messages[0]?.text.length).toBeLessThan(
      5000,
    );
  });
});

describe('findings', () => {
  it('a switch that is off is the first thing, with its fix', () => {
    expect(look('0', log(0))[0]).toMatchObject({
      id: 'switch-off:addon-textures',
      level: 'wrong',
      fixes: [{ kind: 'edit', file: 'user/ferries.ini', edit: { path: ['Graphics', 'AddonTextures'], value: '1' } }],
    });
    expect(look(undefined)[0]?.evidence).toContain('not there');
  });
  it('a healthy game gives no alarm', () => {
    expect(look('1', log(2)).map(({ level }) => level)).toEqual(['good']);
    expect(look('1', log(2))[0]?.title).toBe('All 2 files of your packs were loaded');
  });
  it('tells none from some', () => {
    expect(look('1', log(0))[0]?.title).toBe('None of your packs’ 2 files was loaded');
    expect(look('1', log(1))[0]?.title).toBe('Only 1 of your packs’ 2 files were loaded');
  });
  it('a switch that no pack needs is no finding', () => {
    expect(
      diagnose({
        card,
        state: { format: 1, folders: [], files: [] },
        switches: switchStates(card, [], () => '0'),
        log: undefined,
        pending: 0,
      }),
    ).toEqual([]);
  });
});

describe('what is known besides files and logs', () => {
  const nothing = { unlisted: [], lost: [], advice: [], packs: [], fought: [], short: [], drifted: 0 };
  it('a warning about a pack names its files as they are called in the pack', () => {
    const warning: Warning = {
      code: 'program-inside',
      level: 'wrong',
      says: 'It brings a program.',
      next: 'Leave it out.',
      paths: ['program/run.exe'],
      files: 1,
    };
    const packs = [{ layer: 'l', name: 'Pack', warnings: [warning] }];
    expect(knownFindings({ ...nothing, packs }, [], card)[0]?.evidence).toBe('program/run.exe');
  });
  it('a warning that a check tells with its cure is not told twice', () => {
    const warning = (code: Warning['code']): Warning => ({
      code,
      level: 'wrong',
      says: 'S.',
      next: 'N.',
      paths: [],
      files: 0,
    });
    const packs = [{ layer: 'l', name: 'Pack', warnings: [warning('wrong-region'), warning('program-inside')] }];
    const told: Finding[] = [
      { id: 'wrong-id:OTTR', level: 'wrong', layer: 'l', title: 'T', evidence: 'E', cause: 'C', fixes: [] },
    ];
    const ids = (others: Finding[]) => knownFindings({ ...nothing, packs }, others, card).map(({ id }) => id);
    expect(ids(told)).toEqual(['warning:program-inside:l']);
    expect(ids([])).toEqual(['warning:wrong-region:l', 'warning:program-inside:l']);
    expect(ids(told.map((one) => ({ ...one, layer: 'another' })))).toHaveLength(2);
  });
  it('a disk too full for what waits: the packs that would make room, the largest first', () => {
    const short = [
      {
        disk: 'the disk',
        needed: 3 * 1024 ** 2,
        left: 1024 ** 2,
        packs: [
          { layer: 'l', name: 'Large', bytes: 2 * 1024 ** 2 },
          { layer: 's', name: 'Small', bytes: 1024 ** 2 },
        ],
      },
    ];
    expect(knownFindings({ ...nothing, short }, [], card)).toMatchObject([
      {
        id: 'no-room:the disk',
        level: 'wrong',
        evidence: 'It needs 3 MB on the disk; 1 MB are free.',
        fixes: [{ kind: 'take out', label: 'Take “Large” out (2 MB)', layer: 'l' }, { layer: 's' }],
      },
    ]);
    expect(knownFindings(nothing, [], card)).toEqual([]);
  });
});
