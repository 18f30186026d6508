import {
  chmodSync,
  existsSync,
  linkSync,
  lstatSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { SatchelError, type Gone } from '@/core';
import { MemoryFolder } from '../../tests/support/memoryFolder';
import { createHash } from 'node:crypto';
import { text as bytes } from '../../tests/support/bytes';
import { fresh, top } from '../../tests/support/diskFolder';
import { SMALL, asideName, versionOf } from './diskCalls';
import { DiskFolder } from './disk';

afterAll(() => rmSync(top, { recursive: true, force: true }));

const goneOf = (words: string): Gone => ({
  size: words.length,
  sha256: createHash('sha256').update(words).digest('hex'),
});
/** A game with `in/a.txt`, and what lies in its folder. */
function place(words = 'original') {
  const { root, folder, outside } = fresh();
  mkdirSync(path.join(root, 'in'));
  const at = path.join(root, 'in/a.txt');
  writeFileSync(at, words);
  return {
    root,
    folder,
    outside,
    at,
    now: () => readFileSync(at, 'utf8'),
    lying: () => readdirSync(path.dirname(at)).sort(),
  };
}
const large = (fill: number): Uint8Array => new Uint8Array(SMALL + 1).fill(fill);
const inPieces = async function* (...pieces: string[]) {
  for (const piece of pieces) yield bytes(piece);
};
const refusedFor = (why: string | RegExp) => ({
  code: 'folder-refused',
  failure: { details: { why: (typeof why === 'string' ? why : expect.stringMatching(why)) as string } },
});

describe('one file takes the place of another', () => {
  it.each([
    ['a small one', () => bytes('new'), 'new'],
    ['an empty one', () => bytes(''), ''],
    ['one in pieces', () => inPieces('n', 'e', 'w'), 'new'],
    ['a large one', () => large(65), 'A'.repeat(SMALL + 1)],
  ])('%s, with its rights, and nothing else is left', async (_, put, words) => {
    const { folder, at, now, lying } = place();
    chmodSync(at, 0o751);
    const landed = await folder.swap('in/a.txt', put(), goneOf('original'));
    expect(now() === words).toBe(true);
    const stat = lstatSync(at);
    expect(landed).toEqual({
      path: 'in/a.txt',
      size: words.length,
      modified: Math.round(stat.mtimeMs),
      version: versionOf(stat),
    });
    expect([stat.mode & 0o777, lying()]).toEqual([0o751, ['a.txt']]);
  });

  it.each([
    ['a small one', () => bytes('new')],
    ['one in pieces', () => inPieces('new')],
    ['a large one', () => large(65)],
    ['nothing', () => undefined],
  ])('%s comes in the place of no other version than the one that may go', async (_, put) => {
    const { folder, root, now, lying } = place();
    for (const gone of [goneOf('Original'), goneOf('longer than'), undefined])
      await expect(folder.swap('in/a.txt', put(), gone)).rejects.toMatchObject({
        code: 'changed-meanwhile',
        failure: { details: { path: 'in/a.txt' } },
      });
    expect([now(), lying()]).toEqual(['original', ['a.txt']]);
    // One that is gone is no version.
    await expect(folder.swap('in/b.txt', put(), goneOf('original'))).rejects.toMatchObject({
      code: 'changed-meanwhile',
    });
    expect(lying()).toEqual(['a.txt']);
    await expect(folder.swap('in', put(), goneOf('original'))).rejects.toMatchObject(refusedFor('it is a folder'));
    expect(readdirSync(root)).toEqual(['in']);
  });

  it.each([
    ['nothing was to be there', undefined],
    ['another version was', goneOf('original')],
  ])('what another program puts there while the new one is written stays, where %s', async (_, gone) => {
    const { folder, root, lying } = place();
    const at = path.join(root, 'in/new.txt');
    const meanwhile = async function* () {
      yield bytes('ne');
      writeFileSync(at, 'theirs');
      yield bytes('w');
    };
    await expect(folder.swap('in/new.txt', meanwhile(), gone)).rejects.toMatchObject({ code: 'changed-meanwhile' });
    expect([readFileSync(at, 'utf8'), lying()]).toEqual(['theirs', ['a.txt', 'new.txt']]);
  });

  it('the version that may go goes, where it was not there at the first look', async () => {
    const { folder, root, lying } = place();
    const at = path.join(root, 'in/late.txt');
    const meanwhile = async function* () {
      writeFileSync(at, 'original');
      yield bytes('new');
    };
    await folder.swap('in/late.txt', meanwhile(), goneOf('original'));
    expect([readFileSync(at, 'utf8'), lying()]).toEqual(['new', ['a.txt', 'late.txt']]);
  });

  it('nothing comes in its place: it goes; a folder that is not there is not made for that', async () => {
    const { folder, root, lying } = place();
    expect(await folder.swap('in/a.txt', undefined, goneOf('original'))).toBeUndefined();
    expect(lying()).toEqual([]);
    expect(await folder.swap('no/b.txt', undefined, undefined)).toBeUndefined();
    expect(readdirSync(root)).toEqual(['in']);
    await folder.swap('new/b.txt', bytes('new'), undefined);
    expect(readFileSync(path.join(root, 'new/b.txt'), 'utf8')).toBe('new');
  });

  it('the version that may go is known by its date, or by its bytes', async () => {
    const { folder, now } = place();
    const stat = await folder.stat('in/a.txt');
    await folder.swap('in/a.txt', bytes('second'), { ...goneOf('12345678'), version: stat?.version as string });
    expect(now()).toBe('second');
    await folder.swap('in/a.txt', bytes('third'), { ...goneOf('second'), version: 'another' });
    expect(now()).toBe('third');
  });

  it('where another version lies aside already, or it is read-only, it is refused', async () => {
    const { folder, at, now } = place();
    chmodSync(at, 0o444);
    for (const put of [bytes('new'), undefined])
      await expect(folder.swap('in/a.txt', put, goneOf('original'))).rejects.toMatchObject(
        refusedFor('it is read-only'),
      );
    chmodSync(at, 0o644);
    const aside = asideName('a.txt');
    writeFileSync(path.join(path.dirname(at), aside), 'theirs');
    for (const put of [bytes('new'), undefined])
      await expect(folder.swap('in/a.txt', put, goneOf('original'))).rejects.toMatchObject(
        refusedFor(`another version of it lies beside it, as “${aside}”`),
      );
    expect(now()).toBe('original');
    expect(readFileSync(path.join(path.dirname(at), aside), 'utf8')).toBe('theirs');
  });

  it('pieces that end with an error leave all as it was', async () => {
    const { folder, now, lying } = place();
    const broken = async function* () {
      yield bytes('half');
      throw new SatchelError('damaged', { name: 'x', why: 'y' });
    };
    await expect(folder.swap('in/a.txt', broken(), goneOf('original'))).rejects.toMatchObject({ code: 'damaged' });
    expect([now(), lying()]).toEqual(['original', ['a.txt']]);
  });
});

describe('what a swap that was cut off has left aside', () => {
  const cut = (words?: string) => {
    const one = place();
    const aside = path.join(path.dirname(one.at), asideName('a.txt'));
    writeFileSync(aside, 'aside');
    if (words === undefined) rmSync(one.at);
    else writeFileSync(one.at, words);
    return { ...one, aside };
  };
  const none = async () => {
    throw new Error('nothing is to be kept');
  };

  it('goes back to its name where there is none', async () => {
    const { folder, now, lying } = cut();
    await folder.endSwap('in/a.txt', none);
    expect([now(), lying()]).toEqual(['aside', ['a.txt']]);
    await folder.endSwap('in/a.txt', none);
    await folder.endSwap('no/a.txt', none);
    expect(lying()).toEqual(['a.txt']);
  });

  it('is kept where its name is taken: its bytes, and a second name of the file itself', async () => {
    const { folder, root, aside, now, lying } = cut('another');
    const { ino } = lstatSync(aside);
    const kept = vi.fn();
    const vault = DiskFolder.make(path.join(path.dirname(root), 'vault'));
    await folder.endSwap('in/a.txt', async (size, pieces) => {
      const read: Uint8Array[] = [];
      for await (const piece of pieces()) read.push(piece);
      kept(size, Buffer.concat(read).toString());
      return { to: vault, name: 'watched/a.txt' };
    });
    expect(kept.mock.calls).toEqual([[5, 'aside']]);
    expect([now(), lying()]).toEqual(['another', ['a.txt']]);
    expect(lstatSync(path.join(vault.root, 'watched/a.txt')).ino).toBe(ino);
  });

  it('has no second name in a folder of another kind, and stays where keeping it fails', async () => {
    const { folder, lying } = cut('another');
    await expect(folder.endSwap('in/a.txt', none)).rejects.toThrow();
    expect(lying()).toEqual([asideName('a.txt'), 'a.txt'].sort());
    await folder.endSwap('in/a.txt', async () => ({ to: new MemoryFolder(), name: 'x' }));
    expect(lying()).toEqual(['a.txt']);
  });
});

describe('second names, copies and moves', () => {
  const two = () => {
    const one = place();
    return { ...one, to: DiskFolder.make(path.join(path.dirname(one.root), 'vault')) };
  };

  it('a second name is the same file, and is told as it is there', async () => {
    const { folder, to, at } = two();
    const linked = await folder.link('in/a.txt', to, 'deep/er/b');
    const stat = lstatSync(path.join(to.root, 'deep/er/b'));
    expect([stat.ino, stat.nlink]).toEqual([lstatSync(at).ino, 2]);
    expect(linked).toEqual({
      path: 'deep/er/b',
      size: 8,
      modified: Math.round(stat.mtimeMs),
      version: versionOf(stat),
    });
  });

  it('a sole one, only of a file that has none and can be written', async () => {
    const { folder, to, at } = two();
    expect(await folder.link('in/a.txt', to, 'b', true)).toMatchObject({ path: 'b', size: 8 });
    expect(await folder.link('in/a.txt', to, 'c', true)).toBeUndefined();
    expect(await folder.link('in/a.txt', to, 'c')).toMatchObject({ path: 'c' });
    rmSync(path.join(to.root, 'b'));
    rmSync(path.join(to.root, 'c'));
    chmodSync(at, 0o444);
    expect(await folder.link('in/a.txt', to, 'd', true)).toBeUndefined();
    expect(await folder.link('in/a.txt', to, 'd')).toMatchObject({ path: 'd', readOnly: true });
    expect(readdirSync(to.root)).toEqual(['d']);
  });

  it('none where there is something of that name, of what is no file, or for a folder of another kind', async () => {
    const { folder, to } = two();
    writeFileSync(path.join(to.root, 'b'), 'theirs');
    expect(await folder.link('in/a.txt', to, 'b')).toBeUndefined();
    expect(readFileSync(path.join(to.root, 'b'), 'utf8')).toBe('theirs');
    for (const of of ['in', 'none', 'no/ne']) expect(await folder.link(of, to, 'new/c')).toBeUndefined();
    expect(await folder.link('in/a.txt', new MemoryFolder(), 'c')).toBeUndefined();
    expect(readdirSync(to.root)).toEqual(['b']);
    await expect(folder.link('in/a.txt', to, '../out')).rejects.toMatchObject({ code: 'folder-refused' });
  });

  it('a copy has the bytes and is another file', async () => {
    const { folder, to, at } = two();
    expect(await folder.copy('in/a.txt', to, 'deep/b')).toBe(true);
    const copy = path.join(to.root, 'deep/b');
    expect(readFileSync(copy, 'utf8')).toBe('original');
    expect(lstatSync(copy).ino).not.toBe(lstatSync(at).ino);
    for (const of of ['in', 'none', 'no/ne']) expect(await folder.copy(of, to, 'new/c')).toBe(false);
    expect(await folder.copy('in/a.txt', new MemoryFolder(), 'c')).toBe(false);
    expect(readdirSync(to.root)).toEqual(['deep']);
  });

  it('a move, of a file or a folder, unless there is something; nothing is made for what is not there', async () => {
    const { folder, root } = place();
    expect(await folder.move('in/a.txt', 'new/b.txt')).toBe(true);
    expect(readFileSync(path.join(root, 'new/b.txt'), 'utf8')).toBe('original');
    writeFileSync(path.join(root, 'in/c.txt'), 'c');
    expect(await folder.move('new/b.txt', 'in/c.txt')).toBe(false);
    expect(readFileSync(path.join(root, 'in/c.txt'), 'utf8')).toBe('c');
    expect(await folder.move('in', 'there/in')).toBe(true);
    expect(readdirSync(path.join(root, 'there/in'))).toEqual(['c.txt']);
    await expect(folder.move('new/none', 'x')).rejects.toMatchObject({
      code: 'folder-missing-file',
      failure: { details: { path: 'new/none' } },
    });
    expect(await folder.move('no/such/file', 'x')).toBe(false);
    expect(readdirSync(root).sort()).toEqual(['new', 'there']);
  });
});

describe('folders inside', () => {
  it('are made on the way, through links that stay inside, and not over files', async () => {
    const { folder, root, outside } = place();
    await folder.write('one/two/three/a', bytes('x'));
    symlinkSync('one', path.join(root, 'link'));
    await folder.write('link/new/b', bytes('y'));
    expect(readFileSync(path.join(root, 'one/new/b'), 'utf8')).toBe('y');
    await expect(folder.write('in/a.txt/deep/er/c', bytes('x'))).rejects.toMatchObject(
      refusedFor('“in/a.txt” is a file'),
    );
    symlinkSync(outside, path.join(root, 'one/out'));
    await expect(folder.write('one/out/new/c', bytes('x'))).rejects.toMatchObject(
      refusedFor('it is a link that leads out of the folder'),
    );
    expect(readdirSync(outside)).toEqual(['secret.txt']);
  });

  it('are there or not, and go where they are empty', async () => {
    const { folder, root } = place();
    mkdirSync(path.join(root, 'empty'));
    const there = (of: string) => folder.hasFolder(of);
    expect([
      await there('in'),
      await there('empty'),
      await there('in/a.txt'),
      await there('no'),
      await there('no/no'),
    ]).toEqual([true, true, false, false, false]);
    expect([
      await folder.removeFolder('empty'),
      await folder.removeFolder('in'),
      await folder.removeFolder('in/a.txt'),
      await folder.removeFolder('no'),
      await folder.removeFolder('no/no'),
    ]).toEqual([true, false, false, true, true]);
    expect([existsSync(path.join(root, 'in/a.txt')), existsSync(path.join(root, 'empty'))]).toEqual([true, false]);
  });

  it('what an ended process had begun in one is tidied away, and nothing else', async () => {
    const { folder, root } = place();
    for (const name of ['in/.satchel-99999999-1.part', '.satchel-99999999-2.part', `in/${asideName('x')}`])
      writeFileSync(path.join(root, name), 'half');
    await folder.tidy('in');
    expect(readdirSync(root).sort()).toEqual(['.satchel-99999999-2.part', 'in']);
    expect(readdirSync(path.join(root, 'in')).sort()).toEqual([asideName('x'), 'a.txt']);
    await folder.tidy('');
    await folder.tidy('no');
    expect(readdirSync(root)).toEqual(['in']);
  });

  it('are listed without what is the app’s own or cannot be used, and the links that are not followed are named', async () => {
    const { folder, root, outside } = place();
    for (const name of [asideName('x'), 'CON', 'aux.txt', 'name.', 'a:b']) writeFileSync(path.join(root, name), 'x');
    symlinkSync('in/a.txt', path.join(root, 'alias'));
    symlinkSync('in', path.join(root, 'other'));
    symlinkSync(outside, path.join(root, 'out'));
    const links: string[] = [];
    const files: string[] = [];
    for await (const { path: of, size } of folder.list('', (link) => links.push(link))) files.push(`${of} ${size}`);
    expect([files.sort(), links.sort()]).toEqual([
      ['alias 8', 'in/a.txt 8'],
      ['other', 'out'],
    ]);
    const changes = await folder.changes(undefined);
    expect(changes.folders.map(({ path: of, files: found }) => [of, found.map((one) => one.path)])).toEqual([
      ['', ['alias']],
      ['in', ['in/a.txt']],
    ]);
    expect(changes.folders[0]?.files[0]).not.toHaveProperty('version');
    expect([...changes.links].sort()).toEqual(['other', 'out']);
    for await (const { path: of } of folder.list('in')) expect(of).toBe('in/a.txt');
    await expect(folder.list('../out').next()).rejects.toMatchObject(
      refusedFor('its name is not one that can be used'),
    );
  });
});

describe('bytes of a file', () => {
  it('are held or not, small and large, with what it is then', async () => {
    const { folder, root, at } = place();
    expect(await folder.holds('in/a.txt', bytes('original'))).toMatchObject({ path: 'in/a.txt', size: 8 });
    expect(await folder.holds('in/a.txt', bytes('Original'))).toBeUndefined();
    const all = new Uint8Array(9_000_000).fill(7);
    writeFileSync(path.join(root, 'large'), all);
    expect(await folder.holds('large', all)).toMatchObject({ path: 'large', size: 9_000_000 });
    for (const spot of [0, 4_300_000, 8_999_999]) {
      const other = Uint8Array.from(all);
      other[spot] = 8;
      expect(await folder.holds('large', other), String(spot)).toBeUndefined();
    }
    expect(await folder.holds('large', all.subarray(1))).toBeUndefined();
    expect(await folder.holds('none', all)).toBeUndefined();
    expect(readFileSync(at, 'utf8')).toBe('original');
  });

  it('come in pieces of four megabytes, and are written as they come', async () => {
    const { folder, root } = place();
    const all = Buffer.alloc(9_000_000, 'piece by piece ');
    writeFileSync(path.join(root, 'large'), all);
    const pieces: Uint8Array[] = [];
    for await (const piece of folder.readChunks('large')) pieces.push(piece);
    expect(Buffer.concat(pieces).equals(all)).toBe(true);
    expect(pieces.map(({ length }) => length)).toEqual([4 * 1024 * 1024, 4 * 1024 * 1024, 9_000_000 - 8 * 1024 * 1024]);
    await folder.writeChunks('in/copy', folder.readChunks('large'));
    expect(readFileSync(path.join(root, 'in/copy')).equals(all)).toBe(true);
    expect((await folder.readBytes('large')).length).toBe(9_000_000);
    for (const of of ['none', 'in']) {
      await expect(folder.readBytes(of)).rejects.toMatchObject({ code: 'folder-missing-file' });
      await expect(folder.readChunks(of).next()).rejects.toMatchObject({
        code: 'folder-missing-file',
        failure: { details: { path: of } },
      });
    }
  });

  it('have the sum that sha256sum finds where they are small; of others it is told what they are', async () => {
    const { folder, root } = place();
    expect(await folder.statAndHash('in/a.txt')).toMatchObject({
      stat: { path: 'in/a.txt', size: 8 },
      sha256: goneOf('original').sha256,
    });
    writeFileSync(path.join(root, 'large'), large(1));
    const found = await folder.statAndHash('large');
    expect([found?.stat.size, found?.sha256]).toEqual([SMALL + 1, undefined]);
    for (const of of ['none', 'in', 'no/ne']) expect(await folder.statAndHash(of)).toBeUndefined();
  });

  it('are read back as they were written', async () => {
    const { folder, root } = place();
    for (const put of [bytes('small'), large(3)])
      expect(await folder.writeAndReadBack('new/b', put)).toMatchObject({ path: 'new/b', size: put.length });
    linkSync(path.join(root, 'in/a.txt'), path.join(root, 'second'));
    // The second name keeps the old bytes: nothing is written into a file that is there.
    await folder.write('in/a.txt', bytes('written'));
    expect(readFileSync(path.join(root, 'second'), 'utf8')).toBe('original');
    await folder.write('in/a.txt', large(5));
    expect(readFileSync(path.join(root, 'second'), 'utf8')).toBe('original');
    await folder.write('blob', new Blob(['of a blob']));
    expect(readFileSync(path.join(root, 'blob'), 'utf8')).toBe('of a blob');
    await expect(folder.write('in', bytes('x'))).rejects.toMatchObject(refusedFor('it is a folder'));
    await expect(folder.write('in', large(1))).rejects.toMatchObject(refusedFor('it is a folder'));
  });
});
