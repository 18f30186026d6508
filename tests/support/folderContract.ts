import { SatchelError, readBytes, readsBack, sha256, statAndHash, writeAndReadBack, type Folder } from '@/core';

/** One thing that every Folder must do. `run` throws where it does not. */
export interface ContractCase {
  name: string;
  run(folder: Folder): Promise<void>;
}

const bytes = (...values: number[]): Uint8Array => Uint8Array.from(values);
const must = (holds: boolean, what: string): void => {
  if (!holds) throw new Error(what);
};
const equal = (a: Uint8Array, b: Uint8Array): boolean => a.length === b.length && a.every((byte, i) => byte === b[i]);
const paths = async (folder: Folder, under?: string): Promise<string[]> => {
  const found: string[] = [];
  for await (const { path } of folder.list(under)) found.push(path);
  return found.sort();
};
const rejects = async (promise: Promise<unknown>, code: string): Promise<void> => {
  const thrown: unknown = await promise.then(
    () => undefined,
    (error: unknown) => error,
  );
  must((thrown as { code?: string } | undefined)?.code === code, `expected ${code}, got ${String(thrown)}`);
};

/** What a folder tells of changes: files with their sizes, and folders that hold none any more. */
async function told(folder: Folder, since?: string) {
  const changes = await folder.changes?.(since);
  if (!changes) throw new Error('nothing is told');
  const { now, whole, folders, gone } = changes;
  return {
    now,
    whole,
    files: folders.flatMap(({ files }) => files.map(({ path, size }) => `${path} ${size}`)).sort(),
    empty: [...gone, ...folders.filter(({ files }) => files.length === 0).map(({ path }) => path)],
  };
}

/**
 * The contract that all adapters pass. Each case begins with an empty folder. Plain code, so that it runs in a browser
 * too.
 */
export const FOLDER_CONTRACT: ContractCase[] = [
  {
    name: 'gives back what was written, byte for byte',
    run: async (folder) => {
      const all = Uint8Array.from({ length: 70_000 }, (_, i) => (i * 7 + (i >> 8)) % 256);
      await folder.write('deep/er/bytes.bin', all);
      await folder.write('blob.bin', new Blob([all]));
      must(equal(await readBytes(folder, 'deep/er/bytes.bin'), all), 'bytes differ');
      must(equal(await readBytes(folder, 'blob.bin'), all), 'blob differs');
      must(
        equal(new Uint8Array(await (await folder.read('deep/er/bytes.bin')).arrayBuffer()), all),
        'read and readBytes differ',
      );
    },
  },
  {
    name: 'keeps nothing of the caller’s buffer',
    run: async (folder) => {
      const mine = bytes(1, 2, 3);
      await folder.write('a', mine);
      mine[0] = 9;
      must(equal(await readBytes(folder, 'a'), bytes(1, 2, 3)), 'the stored bytes changed');
    },
  },
  {
    name: 'holds an empty file',
    run: async (folder) => {
      await folder.write('empty', bytes());
      must((await folder.stat('empty'))?.size === 0, 'no stat of 0 bytes');
      must((await readBytes(folder, 'empty')).length === 0, 'not empty');
    },
  },
  {
    name: 'replaces the whole file',
    run: async (folder) => {
      await folder.write('a', bytes(1, 2, 3, 4));
      await folder.write('a', bytes(5));
      must(equal(await readBytes(folder, 'a'), bytes(5)), 'old bytes left');
      must((await folder.stat('a'))?.size === 1, 'old size left');
    },
  },
  {
    name: 'lists every file once, and those under a folder alone',
    run: async (folder) => {
      for (const path of ['a', 'b/c', 'b/d/e', 'bc']) await folder.write(path, bytes(1));
      must((await paths(folder)).join() === 'a,b/c,b/d/e,bc', `got ${(await paths(folder)).join()}`);
      must((await paths(folder, 'b')).join() === 'b/c,b/d/e', `under b: ${(await paths(folder, 'b')).join()}`);
      must((await paths(folder, 'nowhere')).join() === '', 'a missing folder lists something');
    },
  },
  {
    name: 'tells path, size and date as listed',
    run: async (folder) => {
      await folder.write('x/y', bytes(1, 2));
      const stat = await folder.stat('x/y');
      must(stat?.path === 'x/y' && stat.size === 2 && stat.modified > 0, `stat is ${JSON.stringify(stat)}`);
      for await (const listed of folder.list())
        must(JSON.stringify(listed) === JSON.stringify(stat), 'list and stat differ');
    },
  },
  {
    name: 'removes a file, and does not mind one that is missing',
    run: async (folder) => {
      await folder.write('x/y', bytes(1));
      await folder.remove('x/y');
      await folder.remove('x/y');
      await folder.remove('never/was');
      must((await folder.stat('x/y')) === undefined, 'still there');
      must((await paths(folder)).length === 0, 'still listed');
    },
  },
  {
    name: 'says that a file is missing',
    run: async (folder) => {
      must((await folder.stat('no/such')) === undefined, 'stat of nothing');
      await rejects(folder.read('no/such'), 'folder-missing-file');
    },
  },
  {
    name: 'where it can tell what has changed: as listed, then no more than what has changed, and asked by name',
    run: async (folder) => {
      if (!folder.changes || !folder.stats) return;
      await folder.write('one/a', bytes(1));
      await folder.write('two/deep/b', bytes(1, 2));
      const first = await told(folder);
      must(first.whole && first.files.join() === 'one/a 1,two/deep/b 2', `told ${first.files.join()}`);
      await folder.write('one/c', bytes(1, 2, 3));
      await folder.remove('two/deep/b');
      const later = await told(folder, first.now);
      must(!later.whole && later.files.join() === 'one/a 1,one/c 3', `told ${later.files.join()}`);
      must(later.empty.includes('two/deep'), 'what went is not told');
      const [a, none, c] = await folder.stats(['one/a', 'two/deep/b', 'one/c']);
      must(a?.size === 1 && none === undefined && c?.size === 3 && c.path === 'one/c', 'asked by name');
    },
  },
  {
    name: 'refuses a file where a file is a folder of its path',
    run: async (folder) => {
      await folder.write('a', bytes(1));
      await rejects(folder.write('a/b', bytes(2)), 'folder-refused');
      must(equal(await readBytes(folder, 'a'), bytes(1)), 'the file was harmed');
    },
  },
  {
    name: 'takes many writes at once',
    run: async (folder) => {
      await Promise.all(Array.from({ length: 60 }, (_, i) => folder.write(`many/${i}`, bytes(i, i + 1))));
      for (let i = 0; i < 60; i++)
        must(equal(await readBytes(folder, `many/${i}`), bytes(i, i + 1)), `file ${i} differs`);
    },
  },
  {
    name: 'keeps names as they are given',
    run: async (folder) => {
      for (const path of ['Größe/ä ö.txt', '日本/ファイル', 'a b/c (1).txt', '__proto__', 'constructor'])
        await folder.write(path, bytes(1));
      must((await paths(folder)).length === 5, `got ${(await paths(folder)).join()}`);
      must(equal(await readBytes(folder, '__proto__'), bytes(1)), '__proto__ differs');
    },
  },
  {
    name: 'removes a folder only when it is empty, where it knows of folders',
    run: async (folder) => {
      if (!folder.hasFolder || !folder.removeFolder) return;
      await folder.write('made/deep/file', bytes(1));
      must(await folder.hasFolder('made/deep'), 'a folder with a file is not there');
      must(!(await folder.hasFolder('made/other')), 'a folder that nobody made is there');
      must(!(await folder.removeFolder('made/deep')), 'a full folder was removed');
      must(!(await folder.removeFolder('made')), 'a folder with a folder in it was removed');
      must(equal(await readBytes(folder, 'made/deep/file'), bytes(1)), 'the file was harmed');
      await folder.remove('made/deep/file');
      must(await folder.hasFolder('made/deep'), 'an empty folder went by itself');
      must(await folder.removeFolder('made/deep'), 'an empty folder stayed');
      must(!(await folder.hasFolder('made/deep')) && (await folder.hasFolder('made')), 'the wrong folder went');
      must(await folder.removeFolder('made/never'), 'one that is not there counts as gone');
    },
  },
  {
    name: 'refuses a folder’s name for a file',
    run: async (folder) => {
      await folder.write('a/b', bytes(1));
      if (!folder.hasFolder) return;
      await rejects(folder.write('a', bytes(2)), 'folder-refused');
      must(equal(await readBytes(folder, 'a/b'), bytes(1)), 'the file was harmed');
    },
  },
  {
    // CRC-32 of “123456789”: ITU-T V.42; SHA-256 of “abc”: FIPS 180-4.
    name: 'tells checksums of many files at once, where it can',
    run: async (folder) => {
      if (!folder.digests) return;
      await folder.write('n/nine', new TextEncoder().encode('123456789'));
      await folder.write('abc', new TextEncoder().encode('abc'));
      must((await folder.digests('crc32', ['n/nine', 'no/such'])).join() === 'cbf43926,', 'CRC-32 differs');
      must(
        (await folder.digests('sha256', ['no', 'abc'])).join() ===
          ',ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad',
        'SHA-256 differs',
      );
    },
  },
  {
    name: 'where files can have second names: they show the same bytes, go one by one, and take no name that is taken',
    run: async (folder) => {
      if (!folder.link || !folder.move) return;
      await folder.write('own.bin', bytes(1, 2, 3));
      await folder.write('taken.bin', bytes(9));
      must(
        (await folder.link('own.bin', folder, 'deep/second.bin', true))?.path === 'deep/second.bin',
        'a sole file got no second name',
      );
      must(!(await folder.link('own.bin', folder, 'third.bin', true)), 'a file with two names passed as sole');
      must(!(await folder.link('own.bin', folder, 'taken.bin')), 'a second name took one that was there');
      must(!(await folder.link('missing.bin', folder, 'other.bin')), 'a missing file got a second name');
      // What is written under the one name does not show under the other.
      await folder.write('own.bin', bytes(4));
      must(
        equal(await readBytes(folder, 'deep/second.bin'), bytes(1, 2, 3)),
        'a write went through to the second name',
      );
      must(!(await folder.move('deep/second.bin', 'taken.bin')), 'a move replaced a file');
      must(await folder.move('deep/second.bin', 'new/place.bin'), 'a file was not moved');
      must(equal(await readBytes(folder, 'new/place.bin'), bytes(1, 2, 3)), 'other bytes after a move');
      must((await folder.stat('deep/second.bin')) === undefined, 'a moved file kept its old name');
      must(equal(await readBytes(folder, 'taken.bin'), bytes(9)), 'the file in the way changed');
    },
  },
  {
    name: 'where files can have second names: a folder moves with all that is in it, and takes no name that is taken',
    run: async (folder) => {
      if (!folder.move) return;
      await folder.write('from/one/a.bin', bytes(1));
      await folder.write('from/one/deep/b.bin', bytes(2));
      await folder.write('there/c.bin', bytes(3));
      await folder.write('file', bytes(4));
      for (const taken of ['there', 'file'])
        must(!(await folder.move('from/one', taken)), 'a folder took a name that is taken');
      must(equal(await readBytes(folder, 'from/one/a.bin'), bytes(1)), 'a folder went where it should not');
      must(await folder.move('from/one', 'new/two'), 'a folder was not moved');
      must(
        equal(await readBytes(folder, 'new/two/a.bin'), bytes(1)) &&
          equal(await readBytes(folder, 'new/two/deep/b.bin'), bytes(2)),
        'other bytes after a move',
      );
      must((await folder.stat('from/one/a.bin')) === undefined, 'a moved file kept its old name');
      // What is written there later goes to a new folder of the old name.
      await folder.write('from/one/a.bin', bytes(5));
      must(equal(await readBytes(folder, 'new/two/a.bin'), bytes(1)), 'the old name still leads to the moved folder');
    },
  },
  {
    name: 'where files come piece by piece: whole or not at all',
    run: async (folder) => {
      if (!folder.readChunks || !folder.writeChunks) return;
      await folder.writeChunks(
        'a/pieces.bin',
        (async function* () {
          yield bytes(1, 2);
          yield bytes(3);
        })(),
      );
      const breaksOff = async function* (): AsyncGenerator<Uint8Array> {
        yield bytes(7, 7, 7, 7);
        throw new Error('it broke off');
      };
      const thrown = await folder.writeChunks('a/pieces.bin', breaksOff()).then(
        () => false,
        () => true,
      );
      must(thrown, 'pieces that broke off passed');
      const found: number[] = [];
      for await (const piece of folder.readChunks('a/pieces.bin')) found.push(...piece);
      must(found.join() === '1,2,3', 'other bytes came back');
      must((await paths(folder)).join() === 'a/pieces.bin', 'something was left beside it');
      // More than any adapter reads at a time.
      const large = Uint8Array.from({ length: 9_000_001 }, (_, i) => (i * 31) >> 7);
      await folder.writeChunks(
        'large.bin',
        (async function* () {
          for (let at = 0; at < large.length; at += 3_333_333) yield large.subarray(at, at + 3_333_333);
        })(),
      );
      let at = 0;
      for await (const piece of folder.readChunks('large.bin')) {
        must(equal(piece, large.subarray(at, at + piece.length)), 'a large file came back with other bytes');
        at += piece.length;
      }
      must(at === large.length, 'a large file has another size');
    },
  },
  {
    name: 'looks and hashes, writes and reads back, in one where it can',
    run: async (folder) => {
      const written = await writeAndReadBack(folder, 'a/one.bin', bytes(1, 2, 3));
      const { stat, sha256: hash } = (await statAndHash(folder, 'a/one.bin')) ?? {};
      must(
        written !== undefined && written.path === 'a/one.bin' && written.size === 3,
        'it was not told what was written',
      );
      must(
        stat?.path === written?.path && stat?.size === 3 && stat.modified === written?.modified,
        'what is there is not what was written',
      );
      must(hash === undefined || hash === (await sha256(new Uint8Array([1, 2, 3]))), 'another hash was told');
      must((await writeAndReadBack(folder, 'a/one.bin', bytes(9)))?.size === 1, 'it was not written over');
      must(equal(await readBytes(folder, 'a/one.bin'), bytes(9)), 'other bytes came back');
      must((await statAndHash(folder, 'a/none.bin')) === undefined, 'there is no such file');
    },
  },
  {
    name: 'tells whether a file holds certain bytes',
    run: async (folder) => {
      await folder.write('held.bin', bytes(1, 2, 3));
      must((await readsBack(folder, 'held.bin', bytes(1, 2, 3)))?.size === 3, 'it does hold them');
      for (const other of [bytes(1, 2), bytes(1, 2, 4), bytes(1, 2, 3, 4), bytes()])
        must((await readsBack(folder, 'held.bin', other)) === undefined, 'it holds others');
      must((await readsBack(folder, 'missing.bin', bytes())) === undefined, 'a missing file holds nothing');
    },
  },
  {
    name: 'exchanges the version that is expected, and no other',
    run: async (folder) => {
      const swap = folder.swap?.bind(folder);
      if (!swap) return;
      const versionOf = async (...values: number[]) => ({
        size: values.length,
        sha256: await sha256(new Uint8Array(values)),
      });
      const refused = async (work: Promise<unknown>) => {
        const code = await work.then(
          () => 'done',
          (error: unknown) => (error instanceof SatchelError ? error.code : String(error)),
        );
        must(code === 'changed-meanwhile', `it was not refused: ${code}`);
      };
      const pieces = async function* () {
        yield bytes(7, 7);
        yield bytes(8);
      };
      must((await swap('deep/er/one.bin', bytes(1, 2, 3), undefined))?.size === 3, 'a new file was not written');
      await refused(swap('deep/er/one.bin', bytes(9), undefined));
      await refused(swap('deep/er/one.bin', bytes(9), await versionOf(1, 2, 4)));
      await refused(swap('deep/er/one.bin', bytes(9), await versionOf(1, 2)));
      await refused(swap('deep/er/one.bin', undefined, await versionOf(1, 2, 4)));
      await refused(swap('deep/er/none.bin', bytes(9), await versionOf(1)));
      must(equal(await readBytes(folder, 'deep/er/one.bin'), bytes(1, 2, 3)), 'another version went');
      must((await folder.stat('deep/er/none.bin')) === undefined, 'something came to lie where there was nothing');
      must((await swap('deep/er/one.bin', bytes(4, 5), await versionOf(1, 2, 3)))?.size === 2, 'it was not exchanged');
      must(
        (await swap('deep/er/one.bin', pieces(), await versionOf(4, 5)))?.size === 3,
        'it was not exchanged piece by piece',
      );
      must(equal(await readBytes(folder, 'deep/er/one.bin'), bytes(7, 7, 8)), 'other bytes came');
      const { modified, version } = (await folder.stat('deep/er/one.bin')) ?? {};
      await swap('deep/er/one.bin', undefined, {
        ...(await versionOf(7, 7, 8)),
        ...(modified === undefined ? {} : { modified }),
        ...(version === undefined ? {} : { version }),
      });
      must((await folder.stat('deep/er/one.bin')) === undefined, 'it was not taken away');
      await folder.endSwap?.('deep/er/one.bin', async () => Promise.reject(new Error('there was nothing to keep')));
      must((await folder.stat('deep/er/one.bin')) === undefined, 'it came back');
      for await (const { path } of folder.list()) must(!path.startsWith('deep/'), `${path} was left behind`);
    },
  },
];
