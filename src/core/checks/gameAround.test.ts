import { describe, expect, it } from 'vitest';
import { readLog, readLongLog, traceMessages, type Finding, parseTarget } from '@/core';
import { gullwickCard } from '@/demo/gullwickCard';

const RULE = {
  id: 'missing',
  pattern: '^missing (?<file>.+)$',
  level: 'error' as const,
  says: 'The game misses {file}.',
  about: { kind: 'file' as const, field: 'file', under: parseTarget('program') },
};
type Files = [target: string, layer?: string][];
const input = (files: Files, rules = [RULE]) => ({
  card: gullwickCard,
  rules,
  files: files.map(([target, layer]) => ({ target: parseTarget(target), ...(layer === undefined ? {} : { layer }) })),
  leftOut: [],
  originals: new Map<string, string>(),
  nameOf: (layer: string) => layer,
});
const missed = (file: string, files: Files): Finding | undefined =>
  traceMessages(readLog(`missing ${file}`, [RULE]).messages, input(files))[0];
const kinds = (finding: Finding | undefined) => finding?.fixes.map(({ kind }) => kind);

describe('a missing file, and whose files may be moved for it', () => {
  it('one of the same name that another pack needs for itself stays where it is', () => {
    const files: Files = [
      ['program/gear/hook.png', 'Gear'],
      ['program/tower/lamp.png', 'Towers'],
      ['program/quay/lamp.png', 'Towers'],
    ];
    expect(kinds(missed('gear/lamp.png', files))).not.toContain('move');
  });

  it('names the pack to which its folder belongs, and none where the game has files there itself', () => {
    const files: Files = [['program/gear/hook.png', 'Gear']];
    expect(missed('gear/lamp.png', files)?.layer).toBe('Gear');
    expect(missed('gear/lamp.png', [...files, ['program/gear/own.png']])?.layer).toBeUndefined();
  });

  it('one of the pack that has to do with the place is proposed', () => {
    const files: Files = [
      ['program/gear/hook.png', 'Gear'],
      ['program/tower/lamp.png', 'Towers'],
      ['program/other/lamp.png', 'Gear'],
    ];
    expect(missed('gear/lamp.png', files)?.fixes[0]).toMatchObject({
      kind: 'move',
      moves: [{ from: 'program/other/lamp.png', to: 'program/gear/lamp.png' }],
    });
  });
});

describe('a line without a file', () => {
  const files: Files = [
    ['program/mods/brasslamps/a.dat', 'Brass Lamps'],
    ['program/mods/tinboats/a.dat', 'Tin Boats'],
  ];
  const spoken = async (line: string) => {
    const { messages } = await readLongLog(line, [], { plain: { endings: new Set(['dat']) } });
    return traceMessages(messages, input(files, []))[0];
  };

  it('is of the pack that it names, and of none where it names two', async () => {
    expect(await spoken('ERROR: brasslamps would not start\n')).toMatchObject({ layer: 'Brass Lamps' });
    expect((await spoken('ERROR: brasslamps and tinboats do not get along\n'))?.layer).toBeUndefined();
  });
});
