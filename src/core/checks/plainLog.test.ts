import { writeFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { missedFiles, readLog, readLongLog, traceMessages, type GameCard, type LogReading, parseTarget } from '@/core';
import { saidLoaded } from './plainLog';
import { has, runTool, temporaryFolder } from '../../../tests/support/tools';

const plain = { endings: new Set(['png', 'dds', 'json', 'lua']) };
const read = (text: string): LogReading => readLog(text, [], { plain });
const troubles = ({ messages }: LogReading) => messages.filter(({ level }) => level !== 'note');

/**
 * One start of a game: something is missing, something cannot be read, twice the same words about two things, and all
 * the rest is well.
 */
type Event = { level: 'info' | 'warn' | 'error'; place: string; says: string; below?: string[] };
const START: Event[] = [
  { level: 'info', place: 'core', says: 'starting up, build 1412' },
  { level: 'info', place: 'mods', says: 'loaded 3 mods' },
  { level: 'warn', place: 'textures', says: 'missing texture quay/lamp.png' },
  { level: 'error', place: 'textures', says: 'cannot read quay/boat.dds: bad header' },
  { level: 'error', place: 'scripts', says: 'script failed', below: ['  file ferry.lua', '  line 12'] },
  { level: 'error', place: 'scripts', says: 'script failed', below: ['  file crane.lua', '  line 7'] },
  { level: 'warn', place: 'textures', says: 'missing texture quay/lamp.png' },
  { level: 'info', place: 'core', says: 'finished with 0 errors' },
  { level: 'info', place: 'core', says: 'frame 60' },
  { level: 'info', place: 'core', says: 'frame 120' },
];
const pad = (n: number) => String(n).padStart(2, '0');
const FORMS: Record<string, (event: Event, n: number) => string> = {
  'time, thread and level in brackets': ({ level, says }, n) =>
    `[12:01:${pad(n)}] [main/${level.toUpperCase()}]: ${says}`,
  'date, level, module, a dash': ({ level, place, says }, n) =>
    `2026-01-02 12:01:${pad(n)},123 ${level.toUpperCase()} ${place} - ${says}`,
  'a letter and the place': ({ level, place, says }) => `${(level[0] as string).toUpperCase()}/${place}: ${says}`,
  'a counter and no level': ({ says }, n) => `(${String(n).padStart(6, '0')}) ${says}`,
  'JSON lines': ({ level, place, says, below }, n) =>
    JSON.stringify({ time: n, level, logger: place, msg: [says, ...(below ?? [])].join(' ') }),
  pairs: ({ level, says, below }, n) => `ts=${n} level=${level} msg="${[says, ...(below ?? [])].join(' ')}"`,
  'level and place padded in brackets': ({ level, place, says }) =>
    `[${{ info: 'Info   ', warn: 'Warning', error: 'Error  ' }[level]}: ${place.padStart(9)}] ${says}`,
  'a syslog number': ({ level, says }, n) =>
    `<${{ info: 6, warn: 4, error: 3 }[level]}>Jan 02 12:01:${pad(n)} game[12]: ${says}`,
  tabs: ({ level, place, says }, n) => `12.${n}45\t${level}\t${place}\t${says}`,
  'signs for levels': ({ level, says }) => `${{ info: '---', warn: '***', error: '!!!' }[level]} ${says}`,
  'seconds and place': ({ place, says }, n) => `${n}.532: ${place}: ${says}`,
  'bare sentences': ({ says }) => `${says[0]?.toUpperCase() ?? ''}${says.slice(1)}.`,
  semicolons: ({ level, place, says }, n) => `12:01:${pad(n)};${level.toUpperCase()};${place};${says}`,
  'an arrow': ({ level, says }, n) => `${n}ms ${level} > ${says}`,
};
const written = (form: (event: Event, n: number) => string, events: readonly Event[] = START): string =>
  events
    .flatMap((event, n) => [form(event, n), ...(/^JSON|^pairs/.test(nameOf(form)) ? [] : (event.below ?? []))])
    .join('\n') + '\n';
const nameOf = (form: (event: Event, n: number) => string): string =>
  Object.entries(FORMS).find(([, one]) => one === form)?.[0] ?? '';

describe('a log of a form that nobody described', () => {
  it.each(Object.entries(FORMS))(
    '%s: each different message with its own text, the same ones folded, its files found',
    (_, form) => {
      const reading = read(written(form));
      expect(troubles(reading).map(({ count, fields }) => [count, fields.file])).toEqual([
        [2, 'quay/lamp.png'],
        [1, 'quay/boat.dds'],
        [1, 'ferry.lua'],
        [1, 'crane.lua'],
      ]);
      expect(new Set(troubles(reading).map(({ says }) => says)).size).toBe(4);
      for (const { says } of troubles(reading)) expect(says).toMatch(/lamp\.png|boat\.dds|ferry\.lua|crane\.lua/);
      // Notes that differ in a number alone are one.
      expect(reading.messages.filter(({ text }) => text.includes('rame ')).map(({ count }) => count)).toEqual([2]);
      expect(saidLoaded(reading.messages)).toMatchObject({ count: 3, what: 'mods' });
      expect([reading.unknown, missedFiles(reading, []).map(({ path: file }) => file)]).toEqual([
        0,
        ['quay/lamp.png', 'quay/boat.dds', 'ferry.lua', 'crane.lua'],
      ]);
    },
  );

  it.skipIf(!has('grep'))(
    'law: each line that grep finds by a word of trouble stands in a message of trouble, in every form',
    () => {
      const folder = temporaryFolder();
      const says = fc.oneof(
        fc.constantFrom(
          'all is well',
          'missing a/b.png',
          'could not open c.dds',
          'fatal: out of memory',
          'exception in loader',
          'warning: slow disk',
          'done in 12 ms',
          'unable to find the shader',
          'invalid header in x.json',
        ),
        // “… 0 exception” would say that there was none.
        fc.stringMatching(/^[a-z]{3,8} [b-m1-9 ]{0,20}$/),
      );
      const event = fc.record({
        level: fc.constantFrom('info' as const, 'warn' as const, 'error' as const),
        place: fc.constantFrom('core', 'sound'),
        says,
        below: fc.option(
          fc.array(
            says.map((one) => `    ${one}`),
            { maxLength: 30 },
          ),
          { nil: undefined },
        ),
      });
      fc.assert(
        fc.property(fc.constantFrom(...Object.values(FORMS)), fc.array(event, { maxLength: 30 }), (form, events) => {
          const text = written(form, events);
          writeFileSync(path.join(folder, 'log'), text);
          const lines = runTool(
            'sh',
            [
              '-c',
              "grep -niE '(^|[^a-z])(missing|could not|fatal|exception|warning|unable|invalid)([^a-z]|$)' log || true",
            ],
            { cwd: folder },
          )
            .toString()
            .split('\n')
            .filter(Boolean);
          const known = troubles(read(text));
          const held = known.map((one) => [one.text, ...one.trace, one.says].join('\n')).join('\n');
          for (const line of lines)
            expect(held).toContain(
              line
                .slice(line.indexOf(':') + 1)
                .trim()
                .replace(/^.*(missing|could not|fatal|exception|warning|unable|invalid)/i, '$1')
                .replace(/["}.]+$/, ''),
            );
        }),
        { numRuns: 120 },
      );
    },
  );

  it('a word of trouble before a colon is no name of a place', () => {
    expect(
      troubles(read('1ms info > warning: slow disk\n2ms info > missing: a.png\n3ms info > audio: up\n')).map(
        ({ says }) => says,
      ),
    ).toEqual(['warning: slow disk', 'missing: a.png']);
    expect(troubles(read('0ms info > warning: slow disk\n'))).toHaveLength(1);
  });

  it('in other languages, with CRLF, and read in pieces', async () => {
    const text =
      '12:00:01 Datei nicht gefunden: quay/lamp.png\r\n12:00:02 alles gut\r\n12:00:03 keine Fehler\r\n12:00:04 no se pudo leer quay/boat.dds\r\n12:00:05 texture introuvable : quay/sail.png\r\n';
    expect(troubles(read(text)).map(({ fields }) => fields.file)).toEqual([
      'quay/lamp.png',
      'quay/boat.dds',
      'quay/sail.png',
    ]);
    expect(await readLongLog(text, [], { plain })).toEqual(read(text));
  });

  it('a rule of the player’s own comes first, and the rest is read by its form all the same', () => {
    const rule = {
      id: 'own-1',
      pattern: '^\\d+ lamp (?<n>\\d+) is dark$',
      level: 'warning' as const,
      says: 'Lamp {n} is dark',
    };
    const { messages } = readLog('1 lamp 4 is dark\n2 missing a.png\n3 lamp 4 is dark\n', [rule], { plain });
    expect(messages.map(({ rule: by, says, count }) => [by, says, count])).toEqual([
      ['own-1', 'Lamp 4 is dark', 2],
      ['plain', 'missing a.png', 1],
    ]);
  });

  it('no file is made of an address, a version or a class, and nothing is lost where there are very many', () => {
    expect(
      troubles(
        read('failed to reach https://example.org/news.json\nfailed in version 1.2.3\nfailed in core.Loader.start\n'),
      ).map(({ fields }) => fields.file),
    ).toEqual([undefined, undefined, undefined]);
    const many = read(Array.from({ length: 30_000 }, (_, i) => `missing thing${i}.png`).join('\n'));
    expect(many.messages.reduce((sum, { count }) => sum + count, 0)).toBe(30_000);
  });
});

describe('what such lines lead to', () => {
  const card = { roots: [{ id: 'game', title: 'Quay', writable: true }], texts: [] } as unknown as GameCard;
  const files = [
    { target: parseTarget('game/data/quay/lamps.png'), layer: 'a' },
    { target: parseTarget('game/data/quay/own.png') },
    { target: parseTarget('game/mods/Night Ferry/ferry.lua'), layer: 'b' },
  ];
  const trace = (text: string) =>
    traceMessages(read(text).messages, {
      card,
      rules: [],
      files,
      leftOut: [],
      originals: new Map(),
      nameOf: (layer) => ({ a: 'Lamps', b: 'Night Ferry' })[layer] ?? layer,
    });

  it('a file by a whole path of the computer, and one that is named alike', () => {
    const [finding] = trace('missing C:\\Games\\Quay\\data\\quay\\lamp.png\n');
    expect(finding).toMatchObject({
      about: 'game/data/quay/lamps.png',
      fixes: [
        { kind: 'move', moves: [{ from: 'game/data/quay/lamps.png', to: 'game/data/quay/lamp.png' }] },
        { kind: 'stand-in' },
      ],
    });
  });

  it('a pack by its folder', () => {
    expect(trace('could not start night_ferry: nothing to do\n')).toMatchObject([
      { layer: 'b', fixes: [{ kind: 'take out', layer: 'b' }] },
    ]);
  });

  it('two messages about one file stay two, so that setting one aside hides no other', () => {
    const found = trace('cannot read ferry.lua: line 3\ncannot read ferry.lua: line 9, too\n');
    expect(new Set(found.map(({ id }) => id)).size).toBe(2);
  });
});
