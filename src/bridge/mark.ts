import { execFile } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { originOf, whereFromsMark, zoneMark, type DownloadMark } from '@/core';

/** What a program says that is asked about a file; undefined where there is none, or it has nothing to say. */
const said = (program: string, values: readonly string[]): Promise<string | undefined> =>
  new Promise((done) => {
    execFile(program, values, { timeout: 5000, maxBuffer: 64 * 1024 }, (error, out) => done(error ? undefined : out));
  });

/** Node cannot read what stands beside a file's content; the systems' own programs can. */
const READ_ATTRIBUTE =
  'import os, sys\nsys.stdout.buffer.write(os.getxattr(sys.argv[1], sys.argv[2], follow_symlinks=False))';
async function attribute(file: string, name: string): Promise<string | undefined> {
  return (
    (await said('getfattr', ['--absolute-names', '--no-dereference', '--only-values', '-n', name, '--', file])) ??
    said('python3', ['-I', '-c', READ_ATTRIBUTE, file, name])
  );
}

/** The mark of each system, where it leaves one. */
const MARKS: Partial<Record<NodeJS.Platform, (file: string) => Promise<DownloadMark>>> = {
  // Common extended attributes (freedesktop.org).
  linux: async (file) => ({
    page: await attribute(file, 'user.xdg.referrer.url'),
    file: await attribute(file, 'user.xdg.origin.url'),
  }),
  // The stream has no file of its own: reading it is reading nothing where the disk knows none.
  win32: async (file) => zoneMark(await readFile(`${file}:Zone.Identifier`, 'utf8').catch(() => '')),
  darwin: async (file) => whereFromsMark((await said('mdls', ['-raw', '-name', 'kMDItemWhereFroms', file])) ?? ''),
};

/** Where a download came from, as the system noted it; undefined where it did not. */
export async function markedOrigin(file: string): Promise<string | undefined> {
  const mark = await MARKS[process.platform]?.(file);
  return mark && originOf(mark);
}
