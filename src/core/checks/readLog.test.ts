import { writeFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  compareRuns,
  linesBefore,
  markOf,
  ofLastStart,
  decodeText,
  fittingRules,
  makeReport,
  readLog,
  readLongLog,
  ruleFromLine,
  troublesOf,
  type LogRule,
  type Run,
} from '@/core';
import { withoutHome } from '../exchange/private';
import { gullwickCard } from '@/demo/gullwickCard';
import { tinplateCard } from '@/demo/tinplate';
import { has, runTool, temporaryFolder } from '../../../tests/support/tools';

const rules: LogRule[] = [
  { id: 'missing', pattern: '^\\d+ missing (?<file>\\S+)$', level: 'warning', says: 'Missing: {file}' },
  { id: 'failed', pattern: '^\\d+ failed', level: 'error', says: 'It failed' },
];

describe('logs', () => {
  it.skipIf(!has('grep'))('law: each rule knows as many lines as grep counts', () => {
    const folder = temporaryFolder();
    const line = fc.oneof(
      fc.constantFrom(
        '12 missing a.png',
        '13 missing b.png',
        '7 failed badly',
        'all is well',
        '',
        '  at x',
        'missing 12',
        '1 missing a b',
      ),
      fc.stringMatching(/^[ -~]{0,20}$/),
    );
    fc.assert(
      fc.property(fc.array(line, { maxLength: 40 }), (lines) => {
        const text = lines.map((one) => `${one}\n`).join('');
        writeFileSync(path.join(folder, 'log'), text);
        const { messages, lines: counted } = readLog(text, rules);
        const count = (id: string) =>
          messages.filter(({ rule }) => rule === id).reduce((sum, one) => sum + one.count, 0);
        const grep = (pattern: string) =>
          Number(runTool('sh', ['-c', `grep -cE '${pattern}' log || true`], { cwd: folder }).toString());
        expect(counted).toBe(lines.length);
        expect([count('missing'), count('failed')]).toEqual([
          grep('^[0-9]+ missing [^[:space:]]+$'),
          grep('^[0-9]+ failed'),
        ]);
      }),
      { numRuns: 60 },
    );
  });

  it('folds what is said again, with the first and the last line, and keeps what goes on below', async () => {
    const text =
      '1 missing a.png\r\n   at load (core:12)\r\n   at start\r\n2 missing a.png\r\n   at load\r\n3 missing b.png\r\nhello\r\n';
    const reading = readLog(text, rules);
    expect(
      reading.messages.map(({ says, count, first, last, trace }) => [says, count, first, last, trace.length]),
    ).toEqual([
      ['Missing: a.png', 2, 1, 4, 2],
      ['Missing: b.png', 1, 6, 6, 0],
    ]);
    expect([reading.lines, reading.unknown, reading.unknownLines]).toEqual([7, 1, [{ line: 7, text: 'hello' }]]);
    expect(await readLongLog(text, rules)).toEqual(reading);
  });

  it('takes colours out (ECMA-48), reads UTF-16, lone CR, and cuts lines of a megabyte', () => {
    expect(readLog('\u001b[1;31m1 missing a.png\u001b[0m\n', rules).messages[0]?.fields.file).toBe('a.png');
    const utf16 = Buffer.from('\ufeff1 missing ä.png\r\n', 'utf16le');
    expect(readLog(decodeText(utf16).text, rules).messages[0]?.fields.file).toBe('ä.png');
    expect(readLog('1 failed\r2 failed\r', rules).messages[0]?.count).toBe(2);
    expect(readLog(`${'x'.repeat(1_000_000)}\n1 failed\n`, rules)).toMatchObject({
      lines: 2,
      unknown: 1,
      messages: [{ count: 1 }],
    });
    expect(
      readLog('1 missing __proto__\n1 missing constructor\n', rules).messages.map(({ fields }) => fields.file),
    ).toEqual(['__proto__', 'constructor']);
  });

  it('a cancelled reading stops', async () => {
    const stop = new AbortController();
    stop.abort();
    await expect(readLongLog('1 failed\n'.repeat(50_000), rules, { signal: stop.signal })).rejects.toMatchObject({
      code: 'cancelled',
    });
  });

  it('finds by trying whose log it is', () => {
    const sets = [
      { title: 'Gullwick', rules: gullwickCard.log?.rules ?? [] },
      { title: 'Tinplate', rules: tinplateCard.log?.rules ?? [] },
    ];
    expect(fittingRules('(000) ok 7 pictures painted over, LoadPaintbox is 1\n', sets)?.title).toBe('Tinplate');
    expect(fittingRules('nothing known\n', sets)).toBeUndefined();
  });
});

describe('a rule out of a line', () => {
  it('law: knows the line it was made of, whatever stands in it, and finds what was marked', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[ -~]{4,40}$/), fc.nat(), fc.nat(), (line, a, b) => {
        const [start, end] = [
          Math.min(a % line.length, b % line.length),
          Math.max(a % line.length, b % line.length) + 1,
        ];
        const rule = ruleFromLine(line, [{ start, end, name: 'part' }], { id: 'own', level: 'note', says: '{part}' });
        expect(new RegExp(rule.pattern).exec(line)?.groups?.part).toBeDefined();
      }),
      { numRuns: 500 },
    );
  });
  it('knows the same line with another name and another number', () => {
    const rule = ruleFromLine('00012 cannot open (a.png)', [{ start: 19, end: 24, name: 'file' }], {
      id: 'own',
      level: 'warning',
      says: 'Cannot open {file}',
    });
    expect(readLog('00977 cannot open (deep/b.dds)\n', [rule]).messages[0]).toMatchObject({
      says: 'Cannot open deep/b.dds',
      fields: { file: 'deep/b.dds' },
    });
    expect(rule.about).toEqual({ kind: 'file', field: 'file' });
  });
});

describe('two starts', () => {
  const run = (messages: Run['messages']): Run => ({ at: 0, after: 1, counted: 1, messages });
  const message = (says: string, count: number): Run['messages'][number] => ({
    rule: 'r',
    level: 'warning',
    says,
    count,
  });
  it('are compared message by message', () => {
    const changes = compareRuns(
      run([message('a', 1), message('b', 5), message('c', 2)]),
      run([message('b', 2), message('c', 2), message('d', 1)]),
    );
    expect(changes.map(({ says, change }) => [says, change])).toEqual([
      ['d', 'new'],
      ['c', 'still there'],
      ['b', 'fewer'],
      ['a', 'gone'],
    ]);
  });
  it.each([
    ['goes on with what was there', '[10:01] a\n[10:02] b\n', '[10:01] a\n[10:02] b\n[11:00] c\n', 2],
    ['was written anew', '[10:01] a\n[10:02] b\n', '[11:01] a\n[11:02] b\n[11:03] c\n', 0],
    ['says no time, so that it can be the same one anew', 'a\nb\n', 'a\nb\nc\n', 0],
  ])('a log that %s', async (_, before, now, lines) => {
    expect(await linesBefore(now, await markOf(before, readLog(before, [])))).toBe(lines);
    const { messages } = ofLastStart(
      readLog(now.replace('b', 'b failed').replace('c', 'c failed'), [], { plain: {} }),
      lines,
    );
    expect(messages.filter(({ level }) => level === 'error').length).toBe(lines === 0 ? 2 : 1);
  });
  it('only warnings and errors are remembered', () => {
    expect(
      troublesOf(
        readLog('1 missing a\nfine\n', [...rules, { id: 'ok', pattern: 'fine', level: 'good', says: 'fine' }]).messages,
      ),
    ).toEqual([{ rule: 'missing', level: 'warning', says: 'Missing: a', count: 1 }]);
  });
});

describe('the report', () => {
  it.each([
    ['C:\\Users\\Ada Lovelace\\Games\\x', '~\\Games\\x'],
    ['/home/ada/games', '~/games'],
    ['/Users/ada/Library', '~/Library'],
    ['"C:/users/ada/x"', '"~/x"'],
    ['/root/.config', '~/.config'],
    ['program/home/x', 'program~'],
    ['no path', 'no path'],
  ])('%s becomes %s', (from, to) => {
    expect(withoutHome(from)).toBe(to);
  });
  it('has what the player noted of packs, without what is their own', () => {
    const pack = { file: 'b.zip', on: true, files: 1, deployed: 1, wins: 0, loses: 0 };
    const report = makeReport({
      app: 'Tidy Satchel',
      game: 'G',
      at: 0,
      packs: [
        {
          name: 'Boats',
          ...pack,
          version: '2.1',
          origin: 'https://ada:pw@packs.example/boats?id=7&token=s3cret',
          remember: 'Asked ada@mail.example. # Not with <b>Rope</b>',
        },
        { name: 'Rope', ...pack },
      ],
      overlaps: 0,
      edits: [],
      aside: [],
      loaded: undefined,
      counted: 0,
      findings: [],
      log: undefined,
    });
    expect(report).toContain(
      '- Boats: version 2.1; from https://packs.example/boats?id=7; Asked (an address). \\# Not with \\<b\\>Rope\\</b\\>',
    );
    expect(report).not.toContain('- Rope:');
  });

  it('law: no name of a home folder is left, and no line of a log makes another heading or HTML', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[A-Za-z]{3,12}$/), fc.stringMatching(/^[ -~]{0,30}$/), (name, odd) => {
        fc.pre(!/users|home|settings/i.test(name));
        const text = `C:\\Users\\${name}zq\\game\\a.png ${odd}\n# not a heading <script>`;
        const report = makeReport({
          app: 'Tidy Satchel',
          game: 'G',
          at: 0,
          packs: [],
          overlaps: 0,
          edits: [],
          aside: [],
          loaded: undefined,
          counted: 0,
          findings: [{ id: 'x', level: 'wrong', title: text, evidence: text, cause: text, fixes: [] }],
          log: { target: 'a.log', lines: 1, messages: [{ says: text, level: 'error', count: 1, text }] },
        });
        expect(report).not.toContain(`${name}zq`);
        expect(report.split('\n').filter((line) => line.startsWith('#'))).toEqual([
          '# G',
          '## Packs, the lowest first',
          '## Edits',
          '## Findings',
          '## Log: `a.log`, 1 lines',
        ]);
        expect(report.replace(/(?<![`\\])(`+)(?!`)[^\n]*?[^`]\1(?!`)/g, '')).not.toMatch(/(^|[^\\])<script/);
      }),
      { numRuns: 200 },
    );
  });
});
