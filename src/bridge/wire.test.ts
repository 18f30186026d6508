import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { z } from 'zod';
import { SatchelError, stepActions, type FileStat, type FolderChanges } from '@/core';
import {
  FILES_A_LINE,
  answerSchema,
  chooseSchema,
  downloadListSchema,
  failureSchema,
  fromChangeLines,
  fromListPiece,
  givenFolderSchema,
  idSchema,
  listEndSchema,
  newsSchema,
  roomSchema,
  runSchema,
  statSchema,
  statsSchema,
  takeSchema,
  takenSchema,
  takingNewsSchema,
  toChangeLines,
  toListPiece,
  unpackSchema,
} from './wire';

/** What goes between page and server: all that either of them says comes through whole, and nothing else does. */

const SHA = 'a1'.repeat(32);
const ID = '0123456789abcdef';
const long = (length: number) => 'x'.repeat(length);
const failure = new SatchelError('folder-refused', { path: 'a', why: 'the disk is full' }).failure;
const progress = { phase: 'Writing', done: 1, total: 2, unit: 'files' };
const workplace = { main: ID, roots: { game: { folder: ID, hidden: [] } }, packs: [{ id: 'p-1', name: 'p.zip' }] };
const run = (work: unknown, more: object = {}) => ({ ...workplace, run: 'run_1', work, ...more });
const deploy = {
  do: 'deploy',
  title: 'Lanterns',
  layers: [],
  plan: { steps: [], forget: ['game/old.txt'] },
  coming: [{ id: 'p-1', size: 5 }],
};
const entry = {
  number: 3,
  at: 1,
  title: 'Lanterns',
  counts: Object.fromEntries(stepActions.map((action) => [action, 1])),
  bytes: 9,
  landed: 2,
  milliseconds: 5,
  layers: [],
  leftOut: ['game/a'],
};
const minded = { copiedThrough: 3, readAt: 4, mishaps: [] };

const WHOLE: [name: string, schema: z.ZodType, ...values: unknown[]][] = [
  ['a folder', givenFolderSchema, { id: ID, name: 'game', path: '/game', backup: '/b' }],
  ['a folder chosen', givenFolderSchema, { id: ID, name: 'game', path: '/game', backup: '/b', chosen: true }],
  ['a choice', chooseSchema, { what: 'game' }, { what: 'downloads', near: long(200) }],
  ['downloads', downloadListSchema, { path: '/d', files: [{ name: 'a.zip', size: 1, modified: 2, settled: true }] }],
  ['a download to take', takeSchema, { name: long(300), copy: true }, { size: 1, sha256: SHA }],
  [
    'one taken',
    takenSchema,
    ...['shared', 'second name', 'copied'].map((how) => ({ size: 1, sha256: SHA, crc32: 2, how })),
  ],
  [
    'a download to unpack',
    unpackSchema,
    { parts: [long(300)], name: long(300), password: long(1000) },
    { parts: Array.from({ length: 1000 }, () => 'x'), name: '' },
    { size: 1, sha256: SHA, name: long(300) },
  ],
  ['a file', statSchema, { path: 'a', size: 1, modified: 2 }, { path: 'a', size: 1, modified: 2, readOnly: true }],
  ['files by name', statsSchema, [{ path: 'a', size: 1, modified: 2 }, null]],
  ['the end of a list', listEndSchema, { end: true, links: ['a'] }],
  ['room', roomSchema, { disk: 'a disk', left: 1 }],
  ['a name', idSchema, 'a', 'A_b-9', long(64)],
  [
    'a run',
    runSchema,
    run(deploy),
    run({ do: 'recover' }),
    run({ do: 'mind' }),
    run({ do: 'mind' }, { roots: { user: { folder: ID, inside: 'in/side', hidden: ['a'] } } }),
  ],
  ['a failure', failureSchema, failure],
  [
    'news of unpacking',
    takingNewsSchema,
    { progress },
    { progress: { ...progress, unit: 'bytes' } },
    { unpacked: null },
    { unpacked: { size: 1, sha256: SHA, kept: { size: 1, crc32: 2 }, format: '7z', notices: [] } },
    { failure },
  ],
  [
    'news of a run',
    newsSchema,
    { progress },
    { stuck: { target: 'game/a', why: 'it is running' } },
    { stuck: { target: 'game/a', why: 'it is another', how: 'changed' } },
    { stuck: { target: 'game/a', why: 'it is away', how: 'lost' } },
    { entry },
    { minded },
    { recovered: true },
    ...['finished', 'taken-back', 'never-began'].map((outcome) => ({
      recovered: true,
      recovery: { outcome, title: 't', steps: 1, setAside: ['game/a'] },
    })),
    { failure },
  ],
  ['an answer', answerSchema, ...['again', 'leave', 'leave all', 'take back'].map((answer) => ({ run: 'r', answer }))],
];

const REFUSED: [name: string, schema: z.ZodType, ...values: unknown[]][] = [
  [
    'a folder',
    givenFolderSchema,
    { name: 'game', path: '/', backup: '/' },
    { id: `${ID}0`, name: '', path: '', backup: '' },
  ],
  [
    'a folder of another id',
    givenFolderSchema,
    { id: `x${ID.slice(1)}`, name: '', path: '', backup: '' },
    { id: `0${ID}`, name: '', path: '', backup: '' },
  ],
  ['a choice', chooseSchema, { what: 'all' }, { near: long(201) }],
  ['downloads', downloadListSchema, { path: '/d' }, { path: '/d', files: [{ name: 'a.zip', size: 1, modified: 2 }] }],
  [
    'a download to take',
    takeSchema,
    {},
    { name: long(301) },
    { size: 1 },
    ...[`${SHA}0`, `0${SHA}`, SHA.slice(1), SHA.toUpperCase(), 'g'.repeat(64)].map((sha256) => ({ size: 1, sha256 })),
  ],
  ['one taken', takenSchema, { size: 1, sha256: SHA, crc32: 2, how: 'moved' }],
  [
    'a download to unpack',
    unpackSchema,
    { parts: [], name: 'x' },
    { parts: ['x'] },
    { parts: [long(301)], name: 'x' },
    { parts: ['x'], name: long(301) },
    { parts: ['x'], name: 'x', password: long(1001) },
    { parts: Array.from({ length: 1001 }, () => 'x'), name: 'x' },
    { size: 1, sha256: SHA, name: long(301) },
    ...[`${SHA}0`, `0${SHA}`, SHA.slice(1), 'g'.repeat(64)].map((sha256) => ({ size: 1, sha256, name: 'x' })),
  ],
  ['a file', statSchema, { path: 'a', size: '1', modified: 2 }, { path: 'a', size: 1, modified: 2, readOnly: false }],
  ['files by name', statsSchema, [undefined], [{ path: 'a' }]],
  ['the end of a list', listEndSchema, { end: false }, {}, { end: true, links: [1] }],
  ['room', roomSchema, { disk: 'a disk' }, { left: 1 }],
  ['a name', idSchema, '', long(65), '../a', 'a/b', 'a.b', 'a\n'],
  [
    'a run',
    runSchema,
    run({ do: 'format' }),
    run({ do: 'recover' }, { run: '../run' }),
    run({ do: 'recover' }, { main: 'x' }),
    run({ do: 'recover' }, { roots: { game: { folder: 'x' } } }),
    run({ do: 'recover' }, { roots: { game: { folder: ID, inside: '../out' } } }),
    run({ do: 'recover' }, { roots: { game: { folder: ID, hidden: [1] } } }),
    run({ do: 'recover' }, { packs: [{ id: '../p', name: 'p' }] }),
    run({ do: 'recover' }, { packs: [{ id: 'p', name: long(301) }] }),
    run({ ...deploy, title: undefined }),
    run({ ...deploy, layers: [{}] }),
    run({ ...deploy, plan: { steps: [{}], forget: [] } }),
    run({ ...deploy, plan: { steps: [], forget: ['nowhere'] } }),
    run({ ...deploy, coming: [{ id: '../p', size: 1 }] }),
    run({ ...deploy, coming: [{ id: 'p' }] }),
  ],
  [
    'a failure',
    failureSchema,
    { ...failure, code: 'made-up' },
    { ...failure, code: 'toString' },
    { ...failure, code: 7 },
    { ...failure, details: { path: 1 } },
    { ...failure, says: undefined },
    { ...failure, next: undefined },
  ],
  [
    'news of unpacking',
    takingNewsSchema,
    {},
    { progress: { ...progress, unit: 'miles' } },
    { progress: { ...progress, phase: undefined } },
    { progress: { ...progress, total: '2' } },
    { unpacked: {} },
    { unpacked: { size: 1, sha256: SHA, kept: {}, format: '7z', notices: [] } },
    { unpacked: { size: 1, sha256: SHA, kept: { size: 1, crc32: 2 }, format: 'exe', notices: [] } },
    { unpacked: { size: 1, sha256: SHA, kept: { size: 1, crc32: 2 }, format: '7z', notices: [{}] } },
    { failure: { code: 'made-up' } },
  ],
  [
    'news of a run',
    newsSchema,
    {},
    { progress: {} },
    { stuck: { target: 'nowhere', why: 'x' } },
    { stuck: { target: 'game/a' } },
    { stuck: { target: 'game/a', why: 'x', how: 'away' } },
    { entry: {} },
    { recovered: false },
    { recovery: { outcome: 'finished', title: 't', steps: 1, setAside: [] } },
    { recovered: true, recovery: { outcome: 'lost', title: 't', steps: 1, setAside: [] } },
    { recovered: true, recovery: {} },
    { minded: { copiedThrough: 'all' } },
    { failure: {} },
  ],
  ['an answer', answerSchema, { run: 'r', answer: 'format' }, { run: '../r', answer: 'leave' }, { answer: 'leave' }],
];

describe('what is said between page and server', () => {
  it.each(WHOLE)('%s comes through whole', (_, schema, ...values) => {
    for (const value of values) expect(schema.parse(value)).toEqual(value);
  });

  it.each(REFUSED)('%s that is none is refused', (_, schema, ...values) => {
    for (const value of values) expect(schema.safeParse(value).success, JSON.stringify(value)).toBe(false);
  });

  it('what was left out is as it is without', () => {
    expect(chooseSchema.parse({})).toEqual({ what: 'game' });
    expect(takeSchema.parse({ name: 'a' })).toEqual({ name: 'a', copy: false });
    expect(listEndSchema.parse({ end: true })).toEqual({ end: true, links: [] });
    const { coming: _, ...plain } = deploy;
    expect(runSchema.parse(run(plain)).work).toEqual({ ...deploy, coming: [] });
    expect(runSchema.parse(run({ do: 'mind' }, { roots: { game: { folder: ID } } })).roots).toEqual(workplace.roots);
  });
});

const files = fc.uniqueArray(
  fc.record({
    path: fc.stringMatching(/^[a-z]{1,6}(\/[a-z]{1,6}){0,3}$/),
    size: fc.nat(),
    modified: fc.nat(),
    readOnly: fc.boolean(),
  }),
  { selector: ({ path }) => path, maxLength: 40 },
);
const asStats = (made: { path: string; size: number; modified: number; readOnly: boolean }[]): FileStat[] =>
  made.map(({ readOnly, ...stat }) => (readOnly ? { ...stat, readOnly: true } : stat));
const lines = async function* (all: Iterable<unknown>) {
  for (const line of all) yield JSON.parse(JSON.stringify(line)) as unknown;
};

describe('lists of files, by columns', () => {
  it('law: come through as they were', () => {
    fc.assert(
      fc.property(files, (made) => {
        const stats = asStats(made);
        expect(fromListPiece(JSON.parse(JSON.stringify(toListPiece(stats))))).toEqual(stats);
      }),
    );
  });

  it.each([
    ['a size is missing', { paths: ['a'], sizes: [], modified: [1], readOnly: [] }],
    ['a date is missing', { paths: ['a'], sizes: [1], modified: [], readOnly: [] }],
    ['a column is missing', { paths: [], sizes: [], modified: [] }],
    ['a path is none', { paths: [1], sizes: [1], modified: [1], readOnly: [] }],
  ])('where %s nothing is made up', (_, piece) => {
    expect(() => fromListPiece(piece)).toThrow();
  });

  it('law: what has changed comes through as it was, a line for some hundreds of files', async () => {
    await fc.assert(
      fc.asyncProperty(files, fc.array(fc.string(), { maxLength: 3 }), fc.boolean(), async (made, names, whole) => {
        const folders = new Map<string, FileStat[]>([['', []]]);
        for (const stat of asStats(made)) {
          const folder = stat.path.split('/').slice(0, -1).join('/');
          folders.set(folder, [...(folders.get(folder) ?? []), stat]);
        }
        const changes: FolderChanges = {
          now: 'now',
          whole,
          gone: names,
          links: names,
          folders: [...folders].map(([path, found]) => ({ path, files: found })),
        };
        expect(await fromChangeLines(lines(toChangeLines(changes)))).toEqual(changes);
      }),
    );
  });

  it('each line has about five hundred files', () => {
    const folder = (path: string, count: number) => ({
      path,
      files: Array.from({ length: count }, (_, i) => ({ path: `${path}/${i}`, size: 1, modified: 1 })),
    });
    const changes = { now: 'n', whole: true, gone: [], links: [] };
    const counted = (...counts: number[]) =>
      [...toChangeLines({ ...changes, folders: counts.map((count, i) => folder(`f${i}`, count)) })].map((line) =>
        Array.isArray(line) ? line.length : '-',
      );
    expect(FILES_A_LINE).toBe(500);
    expect(counted(499, 1, 3)).toEqual(['-', 2, 1, '-']);
    expect(counted(499, 0)).toEqual(['-', 2, '-']);
    expect(counted(500, 500)).toEqual(['-', 1, 1, 0, '-']);
  });

  it('how far the look is is told before the rest, and what was cut off is said', async () => {
    const looked: number[] = [];
    const head = { now: 'n', whole: true, gone: [], links: [] };
    const found = await fromChangeLines(lines([{ looked: 5 }, { looked: 9 }, head, [], { end: true }]), (files) =>
      looked.push(files),
    );
    expect([looked, found]).toEqual([[5, 9], { ...head, folders: [] }]);
    expect(await fromChangeLines(lines([{ looked: 5 }, head, { end: true }]))).toEqual({ ...head, folders: [] });
    for (const cut of [[], [{ looked: 1 }], [head], [head, []]])
      await expect(fromChangeLines(lines(cut))).rejects.toMatchObject({
        code: 'folder-refused',
        failure: { details: { why: 'the list of its files was cut off' } },
      });
    await expect(fromChangeLines(lines([{ now: 'n' }]))).rejects.toThrow();
    await expect(fromChangeLines(lines([head, [{ folder: 'a', files: [] }]]))).rejects.toThrow();
  });
});
