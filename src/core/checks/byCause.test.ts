import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { foldByCause, readLog, traceMessages, type Finding, type PresentFile, parseTarget } from '@/core';
import { gullwickCard as card } from '@/demo/gullwickCard';
import { shiftOf } from './byCause';

const file = (target: string, layer?: string): PresentFile => ({
  target: parseTarget(target),
  ...(layer === undefined ? {} : { layer }),
});

/** What a log of these paths is led back to. */
const traced = (log: string, files: PresentFile[], leftOut: { layer: string; path: string }[] = []): Finding[] =>
  traceMessages(readLog(log, [], { plain: { endings: new Set(['png', 'lamp']) } }).messages, {
    card,
    rules: [],
    files,
    leftOut,
    originals: new Map(),
    nameOf: (layer) => ({ a: 'Lamps', b: 'Boats' })[layer] ?? layer,
  });
const numbers = Array.from({ length: 30 }, (_, i) => i + 1);
const missing = (folder: string): string => numbers.map((i) => `missing ${folder}/lamp${i}x.lamp\n`).join('');

describe('findings of one cause', () => {
  it('30 files that lie one level too deep are one finding, with its lines, its pack and one cure for all', () => {
    const files = [
      file('program/lamps/own.lamp'),
      ...numbers.map((i) => file(`program/lamps/more/lamp${i}x.lamp`, 'a')),
    ];
    const single = traced(missing('program/lamps'), files);
    expect(single).toHaveLength(30);
    const [finding, ...others] = foldByCause(single);
    expect(others).toEqual([]);
    expect(finding).toMatchObject({
      title: 'The game looks for 30 files of “Lamps” in another folder',
      cause: 'They lie in Program folder/lamps/more; the game looks for them in Program folder/lamps.',
      layer: 'a',
    });
    expect(finding?.seen?.map(({ evidence }) => evidence)).toEqual(
      numbers.map((i) => `Line ${i} of the log: missing program/lamps/lamp${i}x.lamp`),
    );
    const [cure] = finding?.fixes ?? [];
    expect(cure).toMatchObject({ kind: 'move', label: 'Put all 30 there' });
    expect(cure?.kind === 'move' && cure.moves).toEqual(
      numbers.map((i) => ({ from: `program/lamps/more/lamp${i}x.lamp`, to: `program/lamps/lamp${i}x.lamp` })),
    );
  });

  it('those of another pack, or of another step, are another', () => {
    const files = [
      file('program/lamps/own.lamp'),
      ...numbers.map((i) => file(`program/lamps/${i % 2 ? 'more' : 'old'}/lamp${i}x.lamp`, i < 11 ? 'a' : 'b')),
    ];
    const folded = foldByCause(traced(missing('program/lamps'), files));
    expect(folded.map(({ layer, seen }) => [layer, seen?.length])).toEqual([
      ['a', 5],
      ['a', 5],
      ['b', 10],
      ['b', 10],
    ]);
  });

  it('one is as it was, and one that is set aside is no part of the others', () => {
    const files = [file('program/lamps/own.lamp'), file('program/lamps/more/lamp1x.lamp', 'a')];
    const [single] = traced('missing program/lamps/lamp1x.lamp\n', files);
    expect(foldByCause([single as Finding])).toEqual([single]);
    const all = traced(missing('program/lamps'), [
      ...files,
      ...numbers.slice(1).map((i) => file(`program/lamps/more/lamp${i}x.lamp`, 'a')),
    ]);
    const [left] = foldByCause(all.filter(({ id }) => id !== all[4]?.id));
    expect(left?.seen).toHaveLength(29);
    expect(left?.seen?.some(({ id }) => id === all[4]?.id)).toBe(false);
  });

  it('what nobody has, and what was left out, is told by its own cause', () => {
    const log = `${missing('program/lamps')}${numbers.map((i) => `missing program/boats/wood${i}x.png\n`).join('')}`;
    const folded = foldByCause(
      traced(
        log,
        [file('program/boats/own.txt'), file('program/lamps/own.txt')],
        numbers.map((i) => ({ layer: 'b', path: `wood/wood${i}x.png` })),
      ),
    );
    expect(folded.map(({ title, fixes }) => [title, fixes.map(({ kind }) => kind)])).toEqual([
      ['30 files are missing in Program folder/lamps', []],
      ['30 files are missing that “Boats” has', ['take in']],
    ]);
  });

  it('no message is lost where a log has thousands', () => {
    const log = Array.from({ length: 3000 }, (_, i) => `missing program/lamps/lamp${i}x.lamp\n`).join('');
    const folded = foldByCause(traced(log, [file('program/lamps/own.lamp')]));
    expect(folded.length).toBeLessThan(5);
    expect(folded.reduce((sum, { seen = [0] }) => sum + seen.length, 0)).toBe(3000);
  });

  it('law: whatever is folded, each is told once, and every move of theirs is in the cure', () => {
    const shared = fc.option(fc.constantFrom('x', 'y', 'z'), { nil: undefined });
    const one = fc.record({ shared, level: fc.constantFrom('wrong' as const, 'note' as const), to: fc.nat(5) });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 12 }), (made) => {
        const findings = made.map(({ shared: key, level, to }, i): Finding => ({
          id: `id ${i}`,
          level,
          title: `title ${i}`,
          evidence: `seen ${i}`,
          cause: 'why',
          fixes: [
            {
              kind: 'move',
              label: 'Move it',
              moves: [{ from: parseTarget(`p/${i}`), to: parseTarget(`p/to${to}/${i}`) }],
            },
          ],
          ...(key === undefined ? {} : { shared: { key, title: '{n} of them' } }),
        }));
        const folded = foldByCause(findings);
        const told = folded.flatMap(({ id, seen }) => seen?.map((each) => each.id) ?? [id]);
        expect([...told].sort()).toEqual(findings.map(({ id }) => id).sort());
        const moves = (of: Finding[]) =>
          of.flatMap(({ fixes }) => fixes.flatMap((fix) => (fix.kind === 'move' ? fix.moves : [])));
        const byFrom = (all: { from: string; to: string }[]) => all.map(({ from, to }) => `${from} ${to}`).sort();
        expect(byFrom(moves(folded))).toEqual(byFrom(moves(findings)));
      }),
    );
  });
});

describe('the step between two places', () => {
  it('is what their ends do not have in common, but never the file’s own name', () => {
    expect(shiftOf('p/more/a/b.png', 'p/a/b.png')).toEqual(['p/more', 'p']);
    expect(shiftOf('p/x/a/b.png', 'q/A/B.png')).toEqual(['p/x', 'q']);
    expect(shiftOf('p/b.png', 'p/c/b.png')).toEqual(['p', 'p/c']);
    expect(shiftOf('p/a.png', 'p/a.png')).toEqual(['p', 'p']);
  });
});
