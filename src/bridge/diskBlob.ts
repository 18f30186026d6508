import { closeSync, fdatasync, fsyncSync, openSync, readSync, rmSync, constants, fstatSync, writeSync } from 'node:fs';
import path from 'node:path';
import { SatchelError, readBlobAtOnceBy, type BlobSink } from '@/core';
import { FarBlob } from '@/folders/farBlob';
import { newPart } from './diskCalls';
import { TAKEN } from './diskNames';

/** A file that is open for reading. All threads of the server know it by the same number. */
export interface OpenFile {
  fd: number;
  size: number;
}

const { O_RDONLY, O_NOFOLLOW, O_NONBLOCK } = constants;

/** Opens a file for reading, never a link or a pipe. @throws what the system says */
export function openForReading(at: string): OpenFile & { modified: number } {
  const fd = openSync(at, O_RDONLY | O_NOFOLLOW | O_NONBLOCK);
  const stat = fstatSync(fd);
  if (!stat.isFile()) {
    closeSync(fd);
    throw new SatchelError('folder-refused', { path: path.basename(at), why: 'it is no file' });
  }
  const { size, mtimeMs } = stat;
  return { fd, size, modified: mtimeMs };
}

/** Reads what there is of files that lie one behind the other. @returns how many bytes there were */
function readAcross(files: readonly OpenFile[], start: number, into: Uint8Array): number {
  let [from, got] = [start, 0];
  for (const { fd, size } of files) {
    while (from < size && got < into.length) {
      const read = readSync(fd, into, got, Math.min(into.length - got, size - from), from);
      if (read === 0) throw new SatchelError('unexpected', { why: 'a file became shorter while it was read' });
      [from, got] = [from + read, got + read];
    }
    from = Math.max(0, from - size);
  }
  return got;
}

const filesOf = new WeakMap<Blob, readonly OpenFile[]>();

/** Files on the disk as one blob, which is read as it is asked for. */
export function diskBlob(files: readonly OpenFile[]): Blob {
  const blob = new FarBlob(
    files.reduce((sum, { size }) => sum + size, 0),
    async (start, end) => {
      const bytes = new Uint8Array(end - start);
      return bytes.subarray(0, readAcross(files, start, bytes));
    },
  );
  readBlobAtOnceBy(blob, (start, into) => readAcross(files, start, into));
  filesOf.set(blob, files);
  return blob;
}

/** What such a blob is made of, to be sent to another thread. */
export const diskFiles = (blob: Blob): readonly OpenFile[] => filesOf.get(blob) ?? [];

/** A blob that is written to a file as its bytes come. */
export class FileSink implements BlobSink {
  readonly at: string;
  private readonly fd: number;
  private loose = 0;

  /** @param folder where the file lies, under a name that is swept where this process is killed */
  constructor(folder: string) {
    this.at = newPart({ at: (name) => path.join(folder, name), close: () => undefined });
    this.fd = openSync(this.at, 'wx+');
  }

  add(piece: Uint8Array): void {
    for (let at = 0; at < piece.length;) at += writeSync(this.fd, piece, at);
    this.loose += piece.length;
    if (this.loose < TAKEN) return;
    this.loose = 0;
    // The disk takes it while more comes; `settle` waits for all of it, and says what is wrong.
    fdatasync(this.fd, () => undefined);
  }

  end(): Blob {
    return diskBlob([{ fd: this.fd, size: fstatSync(this.fd).size }]);
  }

  /** The disk has all of it. */
  settle(): void {
    fsyncSync(this.fd);
  }

  remove(): void {
    closeSync(this.fd);
    rmSync(this.at, { force: true });
  }
}
