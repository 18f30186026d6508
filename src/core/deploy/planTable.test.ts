import { describe, expect, it } from 'vitest';
import { planAsCsv, planAsJson, type Plan, type TargetPath } from '@/core';
import { has, runTool } from '../../../tests/support/tools';

const plan: Plan = {
  steps: [
    {
      action: 'add',
      target: 'program/a, "quoted".png' as TargetPath,
      reason: '“P” brings it;\nthe game has no such file.',
      layer: 'l',
      size: 12,
      before: undefined,
      after: { kind: 'absent' },
    },
    {
      action: 'replace',
      target: 'program/ä.png' as TargetPath,
      reason: '=1+1',
      layer: 'l',
      size: 0,
      before: { size: 3, modified: 4 },
      after: { kind: 'absent' },
    },
  ],
  unchanged: 5,
  forget: [],
  drifted: [
    {
      target: 'program/x' as TargetPath,
      how: 'deleted',
      layer: 'l',
      now: undefined,
      deployed: { size: 1, modified: 2 },
    },
  ],
  leftAlone: [],
  refused: [],
};

describe('plans as files', () => {
  it.skipIf(!has('python3'))(
    'CSV: Python’s csv module reads what was written (RFC 4180; skipped where python3 is missing)',
    () => {
      const rows = JSON.parse(
        runTool(
          'python3',
          [
            '-c',
            'import csv, io, json, sys\nprint(json.dumps(list(csv.reader(io.StringIO(sys.stdin.read(), newline="")))))',
          ],
          { input: planAsCsv(plan, () => 'My Pack') },
        ).toString(),
      ) as string[][];
      expect(rows).toEqual([
        ['step', 'file', 'pack', 'bytes', 'why'],
        ['add', 'program/a, "quoted".png', 'My Pack', '12', '“P” brings it;\nthe game has no such file.'],
        ['replace', 'program/ä.png', 'My Pack', '0', "'=1+1"],
      ]);
    },
  );

  it('JSON: everything a person or a program needs', () => {
    expect(JSON.parse(planAsJson(plan, () => 'My Pack'))).toMatchObject({
      unchanged: 5,
      drifted: [{ target: 'program/x', how: 'deleted' }],
      steps: [{ action: 'add', pack: 'My Pack', bytes: 12 }, { before: { size: 3, modified: 4 } }],
    });
  });
});
