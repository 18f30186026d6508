import { blobStore } from '../bytes';
import { PackError, SatchelError, throwIfAborted, type ErrorCode } from '../errors';
import type { WorkOptions } from '../progress';
import { sizeOf } from '../words';
import { boundAndCompare, checkWhole, linkNotice, mostBytes, safePackPath } from './bounds';
import type { Pack, PackEntry, PackFile, PackFormat, PackNotice } from './pack';
import { UnpackedBytes, checked } from './unpackedBytes';
import { unpacker, type UnpackJob, type UnpackOutcome } from './unpacker';

/** An entry with the name that the library knows it by. */
interface Listed extends PackEntry {
  raw: string;
  encrypted: boolean;
}

/** Opens any archive that the archive library knows: its listing now, its contents when they are asked for. */
export async function openForeign(
  job: UnpackJob,
  name: string,
  format: PackFormat,
  { signal, onProgress }: WorkOptions,
): Promise<Pack> {
  const archiveSize = job.parts.reduce((sum, { data }) => sum + data.size, 0);
  onProgress?.({ phase: 'Reading the list of contents', done: 0, total: 0, unit: 'files' });
  const outcome = await unpacker().list(job, signal);
  throwIfAborted(signal);
  if (outcome.code > 1) throw outcomeError(outcome, job, name);
  const { listed, links } = readListing(outcome.lines, name);
  if (listed.length === 0) throw new PackError('no-files', { name });
  const locked = listed.filter(({ encrypted }) => encrypted);
  if (locked.length > 0 && job.password === undefined) throw new PackError('encrypted', { name });
  const notices = [...boundAndCompare(listed, archiveSize, name), ...links];
  if (outcome.code === 1) if (outcome.code === 1) notices.push(oddArchive(outcome, listed));
  const files = new ForeignFiles(job, name, listed, links.length === 0);
  // A wrong password shows at the first file it is used on.
  const probe = locked.filter(({ size }) => size > 0).sort((a, b) => a.size - b.size)[0];
  if (probe) for await (const { pieces } of files.streams([probe])) for await (const piece of pieces) void piece;
  return {
    name,
    format,
    entries: listed.map(({ path, size, crc32: crc }) => ({ path, size, ...(crc === undefined ? {} : { crc32: crc }) })),
    notices,
    readMany: (paths, options) => files.readMany(paths, options),
    inOrder: async function* (options) {
      for await (const { file, pieces } of files.streams(listed, options)) yield { path: file.path, pieces };
    },
    read: async (path) => {
      for await (const { data } of files.readMany([path])) return data;
      throw new SatchelError('unexpected', { why: 'an archive entry gave nothing' });
    },
  };
}

const oddArchive = ({ messages }: UnpackOutcome, listed: readonly Listed[]): PackNotice => ({
  kind: 'odd-archive',
  path: listed[0]?.path as PackEntry['path'],
  says: `The archive is not quite in order (${messages.at(-1) ?? 'it has a warning'}); what was read was checked.`,
});

/** The contents of an archive that is listed already. */
class ForeignFiles {
  constructor(
    private readonly job: UnpackJob,
    private readonly name: string,
    private readonly listed: readonly Listed[],
    /** Nothing of the archive was left out of the list. */
    private readonly whole: boolean,
  ) {}

  /** Files in the order of the listing, each in pieces. */
  async *streams(
    files: readonly Listed[],
    { signal }: { signal?: AbortSignal } = {},
  ): AsyncGenerator<{ file: Listed; pieces: AsyncIterable<Uint8Array<ArrayBuffer>> }> {
    const isAll = this.whole && files.length === this.listed.length;
    const bytes = new UnpackedBytes(
      this.job,
      {
        names: isAll ? undefined : files.map(({ raw }) => raw),
        total: files.reduce((sum, { size }) => sum + size, 0),
      },
      (outcome, at) => outcomeError(outcome, this.job, this.name, at),
      signal,
    );
    try {
      for (const file of files) yield { file, pieces: checked(bytes.of(file), file, this.name) };
      await bytes.end();
    } finally {
      bytes.stop();
    }
  }

  async *readMany(paths: Iterable<string>, options: { signal?: AbortSignal } = {}): AsyncGenerator<PackFile> {
    const wanted = new Set(paths);
    const files = this.listed.filter(({ path }) => wanted.delete(path));
    for (const path of wanted) throw new SatchelError('unknown-thing', { what: `file “${path}” in “${this.name}”` });
    for (const file of files) checkWhole(file, this.name);
    for await (const { file, pieces } of this.streams(files, options)) {
      const data = new Uint8Array(file.size);
      let filled = 0;
      for await (const piece of pieces) {
        data.set(piece, filled);
        filled += piece.length;
      }
      yield { path: file.path, data };
    }
  }
}

/** Unpacks a single compressed stream (gzip, bzip2, xz, zstd) into a Blob that need not fit into memory at once. */
export async function unpackStream(job: UnpackJob, name: string, { signal, onProgress }: WorkOptions): Promise<Blob> {
  const packed = job.parts[0]?.data.size ?? 0;
  const limit = mostBytes(packed);
  const sink = blobStore().sink();
  let done = 0;
  const onBytes = (bytes: Uint8Array<ArrayBuffer>) => {
    sink.add(bytes);
    done += bytes.length;
    onProgress?.({ phase: 'Unpacking the archive inside', done, total: 0, unit: 'bytes' });
  };
  const outcome = await unpacker().unpack(job, { limit }, onBytes, signal);
  const unpacked = sink.end();
  if (outcome.tooMuch)
    throw new PackError('too-large', {
      name,
      why: `more than ${sizeOf(limit)} out of ${sizeOf(packed)}`,
    });
  if (outcome.code > 1) throw outcomeError(outcome, job, name);
  return unpacked;
}

type Printed = ReadonlyMap<string, string>;

const isLinkRecord = (record: Printed): boolean => {
  const mode = record.get('Mode') ?? record.get('Attributes') ?? '';
  return /(^|\s)l[rwxsStT-]{9}/.test(mode) || Boolean(record.get('Symbolic Link') || record.get('Hard Link'));
};

const isFolderRecord = (record: Printed): boolean =>
  record.get('Folder') === '+' || /^D/.test(record.get('Attributes') ?? '') || /^d/.test(record.get('Mode') ?? '');

function fileOf(record: Printed, path: PackEntry['path'], name: string): Listed {
  const size = Number(record.get('Size'));
  if (record.get('Size') === '' || !Number.isSafeInteger(size) || size < 0)
    throw new PackError('unsupported', { name, why: `it does not say how large “${path}” is` });
  const crc = record.get('CRC');
  return {
    path,
    raw: record.get('Path') ?? '',
    size,
    encrypted: record.get('Encrypted') === '+',
    ...(crc && /^[0-9A-F]{8}$/.test(crc) ? { crc32: Number.parseInt(crc, 16) } : {}),
  };
}

/** Reads what `l -slt` prints: records of `Key = value`, one line each, after a line of dashes. */
function readListing(lines: readonly string[], name: string): { listed: Listed[]; links: PackNotice[] } {
  const start = lines.indexOf('----------');
  const records: Map<string, string>[] = [];
  const links: PackNotice[] = [];
  for (const line of lines.slice(start < 0 ? lines.length : start + 1)) {
    const cut = line.indexOf(' = ');
    if (cut < 0) continue;
    const key = line.slice(0, cut);
    if (key === 'Path') records.push(new Map());
    records.at(-1)?.set(key, line.slice(cut + 3));
  }
  const listed: Listed[] = [];
  for (const record of records) {
    const isFolder = isFolderRecord(record);
    const raw = record.get('Path') ?? '';
    if (isFolder && /^\.?\/?$/.test(raw)) continue;
    const path = safePackPath(isFolder ? raw.replace(/[\\/]+$/, '') : raw, name);
    if (isLinkRecord(record)) links.push(linkNotice(path));
    else if (!isFolder) listed.push(fileOf(record, path, name));
  }
  return { listed, links };
}

/** What the library said, as one of our errors. */
function outcomeError({ messages }: UnpackOutcome, job: UnpackJob, name: string, at?: string): PackError {
  const said = messages.join('\n');
  const code: ErrorCode = /password|encrypted/i.test(said)
    ? job.password === undefined
      ? 'encrypted'
      : 'wrong-password'
    : /missing volume/i.test(said)
      ? 'split-volume'
      : /unsupported/i.test(said)
        ? 'unsupported'
        : 'damaged';
  const reason = /unexpected end|end of data/i.test(said)
    ? 'it ends too early, as after a download that stopped'
    : /data error|crc/i.test(said)
      ? 'what comes out of it does not fit its checksums'
      : /headers error|not archive|cannot open/i.test(said)
        ? 'its list of contents is missing or broken'
        : 'it cannot be unpacked to its end';
  return new PackError(code, {
    name,
    why:
      code === 'unsupported'
        ? 'with a method the archive library does not know'
        : at && code === 'damaged'
          ? `${reason} (at “${at}”)`
          : reason,
    missing: 'the next part',
  });
}
