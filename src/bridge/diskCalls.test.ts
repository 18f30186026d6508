import {
  chmodSync,
  closeSync,
  existsSync,
  linkSync,
  lstatSync,
  openSync,
  readFileSync,
  readdirSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import type * as Fs from 'node:fs';
import path from 'node:path';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { coded } from '../../tests/support/system';
import { temporaryFolder } from '../../tests/support/tools';
import {
  ASIDE,
  PART,
  SMALL,
  asideName,
  breathe,
  checkTarget,
  checkWritable,
  codeOf,
  diskName,
  fileStat,
  held,
  holdsSmall,
  isClosed,
  isMissing,
  isReadOnly,
  linkIfCan,
  lookAt,
  moveIfThere,
  moveUnlessThere,
  newPart,
  orMissing,
  readSmall,
  refused,
  syncOne,
  unlinkIfThere,
  versionOf,
  type Parent,
} from './diskCalls';

/** The code with which the disk refuses the next calls of a kind. */
const { failing } = vi.hoisted(() => {
  const of: Record<string, string | undefined> = {};
  return { failing: of };
});
vi.mock('node:fs', async (real) => {
  const fs = await real<typeof Fs>();
  const instead =
    <A extends unknown[], R>(name: string, call: (...values: A) => R) =>
    (...values: A): R => {
      const code = failing[name];
      if (code !== undefined) throw Object.assign(new Error(`${code}: ${name}`), { code });
      return call(...values);
    };
  return {
    ...fs,
    linkSync: instead('link', fs.linkSync),
    renameSync: instead('rename', fs.renameSync),
    unlinkSync: instead('unlink', fs.unlinkSync),
    openSync: instead('open', fs.openSync),
  };
});
afterEach(() => {
  for (const name of Object.keys(failing)) failing[name] = undefined;
});

const parentAt = (folder: string): Parent => ({ at: (name) => path.join(folder, name), close: () => undefined });
/** A folder with a file of eight bytes. */
function place() {
  const top = temporaryFolder();
  writeFileSync(path.join(top, 'a'), 'original');
  return { top, a: path.join(top, 'a'), b: path.join(top, 'b'), parent: parentAt(top) };
}
const text = (at: string) => readFileSync(at, 'utf8');

describe('names of the app’s own in a game', () => {
  it.each([
    ['.satchel-1-2.part', PART, true],
    ['.satchel-123-000000001.part', PART, true],
    ['a.satchel-1-2.part', PART, false],
    ['.satchel-1-2.part.txt', PART, false],
    ['.satchel-a-2.part', PART, false],
    ['.satchel-1-b.part', PART, false],
    ['.satchel--2.part', PART, false],
    ['.satchel-1-2xpart', PART, false],
    [asideName('x'), ASIDE, true],
    [`a${asideName('x')}`, ASIDE, false],
    [`${asideName('x')}.txt`, ASIDE, false],
    ['.satchel-0123456789abcdef01234567.aside', ASIDE, true],
    ['.satchel-0123456789abcdef0123456.aside', ASIDE, false],
    ['.satchel-0123456789abcdef012345678.aside', ASIDE, false],
    ['.satchel-0123456789abcdef0123456g.aside', ASIDE, false],
  ])('%s', (name, pattern, fits) => {
    expect(pattern.test(name)).toBe(fits);
  });

  it('a name aside follows from the name, each from its own', () => {
    expect(asideName('a')).toBe(asideName('a'));
    expect(asideName('a')).not.toBe(asideName('b'));
  });

  it('a part is another one each time, of this process', () => {
    const { parent } = place();
    const [one, two] = [newPart(parent), newPart(parent)];
    expect(one).not.toBe(two);
    for (const at of [one, two]) expect(PART.exec(path.basename(at))?.[1]).toBe(String(process.pid));
  });
});

describe('what the system says', () => {
  it('has a code, or none', () => {
    expect([coded('EIO'), new Error('x'), 'EIO', { code: 'EIO' }, undefined].map(codeOf)).toEqual([
      'EIO',
      '',
      '',
      '',
      '',
    ]);
    expect(['EACCES', 'EPERM', 'ENOENT', 'EIO'].map((code) => isClosed(coded(code)))).toEqual([
      true,
      true,
      false,
      false,
    ]);
    expect(['ENOENT', 'EACCES'].map((code) => isMissing(coded(code)))).toEqual([true, false]);
  });

  it.each([
    ['EACCES', 'this user may not write it'],
    ['EPERM', 'it is read-only or another program uses it'],
    ['EBUSY', 'another program uses it'],
    ['ETXTBSY', 'it is running'],
    ['EROFS', 'the disk is read-only'],
    ['ENOSPC', 'the disk is full'],
    ['EDQUOT', 'the disk is full'],
    ['ENAMETOOLONG', 'its name is too long for this disk'],
    ['ENOTDIR', 'a file and a folder have the same name'],
    ['EISDIR', 'it is a folder'],
    ['EMFILE', 'too many files are open'],
    ['EIO', 'the disk reports an error'],
    ['ENODEV', 'the disk is gone'],
    ['EWHAT', 'EWHAT: so it is'],
  ])('%s in words', (code, why) => {
    const cause = coded(code);
    expect(refused('a.txt', cause)).toMatchObject({
      code: 'folder-refused',
      failure: { details: { path: 'a.txt', why } },
      cause,
    });
  });
});

describe('a file', () => {
  it('is told with what says that it is still the same', () => {
    const { a, parent } = place();
    utimesSync(a, 1, 1.0004);
    const stat = lstatSync(a);
    expect(fileStat('in/a', stat)).toEqual({ path: 'in/a', size: 8, modified: 1000, version: versionOf(stat) });
    chmodSync(a, 0o444);
    expect(fileStat('a', lstatSync(a)).readOnly).toBe(true);
    expect(lookAt(parent, 'a')?.ino).toBe(stat.ino);
    expect(lookAt(parent, 'b')).toBeUndefined();
    for (const [mode, readOnly] of [
      [0o444, true],
      [0o644, false],
      [0o464, false],
      [0o446, false],
      [0o555, true],
    ] as const) {
      chmodSync(a, mode);
      expect(isReadOnly(lstatSync(a)), mode.toString(8)).toBe(readOnly);
    }
  });

  it('may be replaced, unless it is read-only or a folder, and the new one has its rights', () => {
    const { a, top } = place();
    chmodSync(a, 0o751);
    expect([checkTarget('a', statSync(a)), checkTarget('a', undefined)]).toEqual([0o751, 0o666]);
    expect(() => checkTarget('in/a', statSync(top))).toThrow(/“in\/a” \(it is a folder\)/);
    chmodSync(a, 0o444);
    expect(() => checkTarget('in/a', statSync(a))).toThrow(/“in\/a” \(it is read-only\)/);
    chmodSync(top, 0o555);
    // A folder’s rights are another matter.
    expect(() => checkWritable('top', statSync(top))).not.toThrow();
    chmodSync(top, 0o755);
  });

  it('small ones are read at once, others are not', () => {
    const { top, a } = place();
    expect(readSmall(a, (bytes, { size }) => [Buffer.from(bytes).toString(), size])).toEqual(['original', 8]);
    expect(readSmall(path.join(top, 'no'), () => 'read')).toBeUndefined();
    expect(readSmall(top, () => 'read')).toBeUndefined();
    symlinkSync('a', path.join(top, 'link'));
    expect(() => readSmall(path.join(top, 'link'), () => 'read')).toThrow('ELOOP');
    const large = path.join(top, 'large');
    writeFileSync(large, new Uint8Array(SMALL));
    expect(readSmall(large, ({ length }) => length)).toBe(SMALL);
    writeFileSync(large, new Uint8Array(SMALL + 1));
    expect(readSmall(large, ({ length }) => length)).toBeUndefined();
    writeFileSync(large, '');
    expect(readSmall(large, ({ length }) => length)).toBe(0);
    const open = () => readdirSync('/proc/self/fd').length;
    const before = open();
    expect(() =>
      readSmall(a, () => {
        throw new Error('no use');
      }),
    ).toThrow('no use');
    expect(open()).toBe(before);
  });

  it('holds these very bytes, or not', () => {
    const { a } = place();
    expect(holdsSmall(a, 'in/a', Buffer.from('original'))).toMatchObject({ path: 'in/a', size: 8 });
    for (const other of ['original2', 'origina', 'Original', ''])
      expect(holdsSmall(a, 'in/a', Buffer.from(other))).toBeUndefined();
  });
});

describe('names that are given and taken', () => {
  /** The first comes to lie there, a second one does not. */
  const movesOnce = (a: string, b: string) => {
    expect(moveUnlessThere(a, b)).toBe(true);
    expect([existsSync(a), text(b)]).toEqual([false, 'original']);
    writeFileSync(a, 'another');
    expect(moveUnlessThere(a, b)).toBe(false);
    expect([text(a), text(b)]).toEqual(['another', 'original']);
  };

  it('a second one, where there is none of that name', () => {
    const { a, b, top } = place();
    linkIfCan(a, b);
    expect(lstatSync(b).ino).toBe(lstatSync(a).ino);
    writeFileSync(path.join(top, 'c'), 'other');
    linkIfCan(a, path.join(top, 'c'));
    expect(text(path.join(top, 'c'))).toBe('other');
    expect(() => linkIfCan(path.join(top, 'no'), path.join(top, 'd'))).toThrow('ENOENT');
  });

  // link(2), “Errors”: a disk without second names, another disk, too many of them.
  const withoutNames = ['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'ENOSYS', 'EMLINK', 'EXDEV'];
  it.each(withoutNames)('a disk without second names (%s)', (code) => {
    const { a, b } = place();
    failing.link = code;
    linkIfCan(a, b);
    expect(existsSync(b)).toBe(false);
    movesOnce(a, b);
  });

  it('another failure is said', () => {
    const { a, b } = place();
    failing.link = 'EIO';
    expect(() => linkIfCan(a, b)).toThrow('EIO');
    expect(() => moveUnlessThere(a, b)).toThrow('EIO');
    expect(text(a)).toBe('original');
  });

  it('a move, unless there is something of that name', () => {
    const { a, b } = place();
    movesOnce(a, b);
  });

  it('a move, if there is something', () => {
    const { a, b } = place();
    expect(moveIfThere(a, b)).toBe(true);
    expect([existsSync(a), text(b)]).toEqual([false, 'original']);
    expect(moveIfThere(a, b)).toBe(false);
    failing.rename = 'EBUSY';
    expect(() => moveIfThere(b, a)).toThrow('EBUSY');
  });

  it('one that goes, be it there or not', () => {
    const { a } = place();
    unlinkIfThere(a);
    unlinkIfThere(a);
    expect(existsSync(a)).toBe(false);
    failing.unlink = 'EBUSY';
    expect(() => unlinkIfThere(a)).toThrow('EBUSY');
  });

  it('work on what is missing comes to nothing, other failures are said', async () => {
    expect(await orMissing(Promise.resolve(1))).toBe(1);
    expect(await orMissing(Promise.reject(coded('ENOENT')))).toBeUndefined();
    await expect(orMissing(Promise.reject(coded('EIO')))).rejects.toThrow('EIO');
  });

  it('a small file that cannot be opened is said', () => {
    const { a } = place();
    failing.open = 'EMFILE';
    expect(() => readSmall(a, () => 'read')).toThrow('EMFILE');
  });
});

describe('the disk', () => {
  it('has one name for all its folders, that of the first that was asked about', () => {
    const [one, two] = [temporaryFolder(), temporaryFolder()];
    const name = diskName(one);
    expect(name).toMatch(/^the disk that holds “.+”$/);
    expect(diskName(two)).toBe(name);
  });

  it('settles what there is; what went or was exchanged needs no place on it', async () => {
    const { top, a } = place();
    linkSync(a, path.join(top, 'second'));
    symlinkSync('a', path.join(top, 'link'));
    for (const at of [a, top, path.join(top, 'no'), path.join(top, 'link')])
      await expect(syncOne(at)).resolves.toBeUndefined();
    await expect(syncOne(path.join(a, 'below'))).rejects.toThrow('ENOTDIR');
  });

  it('a folder that is held is closed by its number', () => {
    const { top } = place();
    const fd = openSync(top, 'r');
    const folder = held(fd);
    expect(text(folder.at('a'))).toBe('original');
    folder.close();
    expect(() => closeSync(fd)).toThrow('EBADF');
  });

  it('others are heard after some time, not after each file', async () => {
    await breathe(0);
    let heard = 0;
    setImmediate(() => heard++);
    await breathe(60_000);
    expect(heard).toBe(0);
    await breathe(0);
    expect(heard).toBe(1);
  });
});
