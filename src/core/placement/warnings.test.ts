import { describe, expect, it } from 'vitest';
import {
  closeVersions,
  gameCardSchema,
  noDecisions,
  placementWarnings,
  type ImageInfo,
  type PlaceRule,
  type StatedFact,
  parseTarget,
} from '@/core';
import { gullwickCard } from '@/demo/gullwickCard';
import { entriesOf, gameOf } from '../../../tests/support/placementCases';

const { card: hall, files: hallFiles } = gameOf('hedgerow');
const { card: tinplate, files: tinplateFiles } = gameOf('tinplate');
const image = (width: number, height = width): ImageInfo => ({
  format: 'png',
  width,
  height,
  mipLevels: 1,
  bytesInMemory: width * height * 4,
});
const files = (from: string, to: string): PlaceRule => ({ as: 'files', from, to: parseTarget(to) });

function codes(
  paths: string[],
  rules: PlaceRule[],
  more: Partial<Parameters<typeof placementWarnings>[0]> = {},
): string[] {
  const found = placementWarnings({
    card: hall,
    gameFiles: hallFiles,
    entries: entriesOf(paths),
    placement: { rules, leftOut: [], made: [], decisions: noDecisions },
    images: new Map(),
    facts: [],
    others: [],
    ...more,
  });
  for (const { says, next, files: count } of found) {
    expect(says).toMatch(/\.$/);
    expect(next).toMatch(/\.$/);
    expect(count).toBeGreaterThan(0);
  }
  return found.map(({ code }) => code);
}
const fact = (kind: StatedFact['kind'], value: string): StatedFact => ({ kind, value, where: 'pack.leaf' });

describe('warnings before anything is written', () => {
  it('textures above the edition’s limit, and only those; formats it cannot read', () => {
    const paths = ['a.png', 'b.png', 'c.webp'];
    expect(
      codes(paths, [files('', 'hall/x')], {
        images: new Map([
          ['a.png', image(2048)],
          ['b.png', image(16, 4096)],
        ]),
      }),
    ).toEqual(['texture-too-large', 'texture-format']);
    expect(codes(['a.png'], [files('', 'hall/x')], { images: new Map([['a.png', image(2048)]]) })).toEqual([]);
    // Without a marker it is not known which edition is there, and nothing is claimed.
    expect(codes(paths, [files('', 'hall/x')], { gameFiles: [], images: new Map([['b.png', image(9999)]]) })).toEqual(
      [],
    );
  });

  it('title ids of another region, unknown ones, and none where the player has the title', () => {
    const at = (id: string) =>
      codes(['x.png'], [files('', `user/paintbox/${id}/swap`)], { card: tinplate, gameFiles: tinplateFiles });
    expect(at('CB-2041')).toEqual([]);
    expect(at('cb-2041')).toEqual(['case-differs']);
    expect(at('CB-7041')).toEqual(['wrong-region']);
    expect(at('ZZ-0000')).toEqual(['unknown-id']);
  });

  it('a needed pack: missing, there under its name, its title or its id', () => {
    const need = (others: { name: string; facts: StatedFact[] }[], value = 'Rose porch 1.2') =>
      codes(['pack.leaf'], [files('', 'hall/x')], { facts: [fact('needs', value)], others });
    expect(need([])).toEqual(['needs-pack']);
    expect(need([{ name: 'Something Else', facts: [] }])).toEqual(['needs-pack']);
    expect(need([{ name: 'Rose Porch 1.2', facts: [] }])).toEqual([]);
    expect(need([{ name: 'download', facts: [fact('title', 'Rose porch')] }])).toEqual([]);
    expect(need([{ name: 'download', facts: [fact('id', 'rose-porch')] }], 'rose-porch')).toEqual([]);
  });

  it('a patch and its base: the resolution must be the same, the third version number may differ', () => {
    const pair = (mine: StatedFact[], theirs: StatedFact[], need = 'Oak') =>
      codes(['x.png'], [files('', 'hall/x')], {
        facts: [fact('needs', need), ...mine],
        others: [{ name: 'Oak', facts: theirs }],
      });
    expect(pair([fact('resolution', '512')], [fact('resolution', '1024')])).toEqual(['patch-mismatch']);
    expect(pair([fact('resolution', '512')], [fact('resolution', '512')])).toEqual([]);
    expect(pair([fact('version', '2.1.3')], [fact('version', '2.1.0')])).toEqual([]);
    expect(pair([fact('version', '2.2.0')], [fact('version', '2.1.0')])).toEqual(['patch-mismatch']);
    expect(pair([], [fact('version', '3.0')], 'Oak 2.1.0')).toEqual(['patch-mismatch']);
    expect(closeVersions('1.2', '1.2.9')).toBe(true);
    expect(closeVersions('1.2', '1.3')).toBe(false);
  });

  it('a content set that it borrows from: there or not', () => {
    const borrow = (gameFiles: string[]) =>
      codes(['x.png'], [files('', 'program/x')], {
        card: gullwickCard,
        gameFiles,
        facts: [fact('needs', 'the Parts Locker')],
      });
    expect(borrow(['program/addons/parts-locker/addon.txt'])).toEqual([]);
    expect(borrow(['program/other'])).toEqual(['needs-contents']);
  });

  it('an id that another pack has', () => {
    expect(
      codes(['x'], [files('', 'hall/x')], {
        facts: [fact('id', 'rose')],
        others: [{ name: 'Other', facts: [fact('id', 'rose')] }],
      }),
    ).toEqual(['id-taken']);
  });

  it('another edition, where no recipe converts it', () => {
    const { recipes: _, ...rest } = hall;
    const plain = gameCardSchema.parse(rest);
    expect(codes(['x'], [files('', 'hall/x')], { card: plain, facts: [fact('edition', 'Pocket edition')] })).toEqual([
      'other-edition',
    ]);
    expect(codes(['x'], [files('', 'hall/x')], { card: plain, facts: [fact('edition', 'Garden edition')] })).toEqual(
      [],
    );
  });

  it('programs inside: a note where they stay out, more where they go in', () => {
    const found = (rules: PlaceRule[]) =>
      placementWarnings({
        card: hall,
        gameFiles: hallFiles,
        entries: entriesOf(['run.exe', 'lib.dll']),
        placement: { rules, leftOut: [], made: [], decisions: noDecisions },
        images: new Map(),
        facts: [],
        others: [],
      });
    expect(found([])).toMatchObject([{ code: 'program-inside', level: 'note', files: 2 }]);
    expect(found([files('', 'hall/x')])).toMatchObject([{ code: 'program-inside', level: 'wrong' }]);
  });

  it.each(['x.json.txt', 'face.png.exe', 'a.ini.txt', 'b.PNG.SCR'])('a hidden second extension: %s', (name) => {
    expect(codes([name], [])).toContain('hidden-extension');
  });
  it.each(['x.json', 'notes.txt', 'v1.2.txt', 'archive.tar.gz', 'my.file.png'])('none in %s', (name) => {
    expect(codes([name], [])).not.toContain('hidden-extension');
  });

  it('names that differ from the game’s own only in case or in composition', () => {
    const gameFiles = ['hall/garden.edition', 'hall/rooms/Größe.room'];
    expect(codes(['Rooms/x.room'], [files('', 'hall')], { gameFiles })).toEqual(['case-differs']);
    expect(codes(['rooms/Gro\u0308ße.room'], [files('', 'hall')], { gameFiles })).toEqual(['case-differs']);
    expect(codes(['rooms/Größe.room', 'rooms/new.room'], [files('', 'hall')], { gameFiles })).toEqual([]);
  });

  it('two files of one pack that go to one place', () => {
    expect(codes(['a/x.room', 'b/X.room'], [files('a', 'hall/rooms'), files('b', 'hall/rooms')])).toEqual([
      'one-file-twice',
    ]);
  });

  it('a healthy pack gives none', () => {
    expect(
      codes(['rooms/new.room', 'pictures/a.png', 'readme.txt'], [files('', 'hall')], {
        images: new Map([['pictures/a.png', image(64)]]),
        facts: [fact('id', 'mine'), fact('edition', 'Garden edition')],
      }),
    ).toEqual([]);
  });
});
