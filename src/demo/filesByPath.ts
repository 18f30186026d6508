import { deflateRawSync } from 'node:zlib';
import { Zip, ZipPassThrough, gzipSync, zipSync, type Zippable } from 'fflate';

/** Files by path. */
export type Files = Record<string, Uint8Array>;

/** Text as bytes. */
export const text = (value: string): Uint8Array => new TextEncoder().encode(value);

/** Text with CRLF line ends, as games on the desktop write it. */
export const crlf = (value: string): Uint8Array => text(value.replaceAll('\n', '\r\n'));

/** Every path moved under a folder. */
export const under = (folder: string, files: Files): Files =>
  Object.fromEntries(Object.entries(files).map(([path, data]) => [`${folder}/${path}`, data]));

/** A ZIP with a fixed date, so that the same files give the same archive. */
export function zip(files: Files): Uint8Array {
  const entries: Zippable = {};
  for (const [path, data] of Object.entries(files)) entries[path] = [data, { mtime: DATE }];
  return zipSync(entries);
}
const DATE = new Date(2025, 4, 17, 12, 0, 0);

/** The same for hundreds of megabytes: Node's own Deflate is quicker. Each file's sizes stand behind it, too. */
export function zipLarge(files: Files): Uint8Array {
  const pieces: Uint8Array[] = [];
  const archive = new Zip((error, piece) => {
    if (error) throw error;
    pieces.push(piece);
  });
  for (const [path, data] of Object.entries(files)) {
    const entry = new Deflated(path);
    archive.add(entry);
    entry.push(data, true);
  }
  archive.end();
  return new Uint8Array(Buffer.concat(pieces));
}

/** A whole file at once. */
class Deflated extends ZipPassThrough {
  override compression = 8;
  override mtime = DATE;

  protected override process(data: Uint8Array, final: boolean): void {
    this.ondata(null, deflateRawSync(data, { level: 1 }), final);
  }
}

/** The folders of a game as one ZIP, each root under its id. */
export const zipRoots = (roots: Record<string, Files>): Uint8Array => {
  const all: Files = {};
  for (const [root, files] of Object.entries(roots)) Object.assign(all, under(root, files));
  return zip(all);
};

/** A tar (POSIX ustar, IEEE 1003.1 pax) packed with gzip, with a fixed date. */
export function tarGz(files: Files): Uint8Array {
  const blocks: Uint8Array[] = [];
  for (const [path, data] of Object.entries(files)) {
    const head = new Uint8Array(512);
    const put = (at: number, value: string) => head.set(text(value), at);
    put(0, path);
    put(100, '0000644\0');
    put(108, '0000000\0');
    put(116, '0000000\0');
    put(124, `${data.length.toString(8).padStart(11, '0')}\0`);
    put(136, '15011344740\0');
    put(148, '        ');
    put(156, '0');
    put(257, 'ustar\u000000');
    put(
      148,
      `${head
        .reduce((sum, byte) => sum + byte, 0)
        .toString(8)
        .padStart(6, '0')}\0 `,
    );
    blocks.push(head, data, new Uint8Array((512 - (data.length % 512)) % 512));
  }
  blocks.push(new Uint8Array(1024));
  const whole = new Uint8Array(blocks.reduce((sum, block) => sum + block.length, 0));
  let at = 0;
  for (const block of blocks) {
    whole.set(block, at);
    at += block.length;
  }
  return gzipSync(whole, { mtime: 0 });
}
