import type { SevenZipModule } from '7z-wasm/7zz.es6.js';
import { blockingReader, type BlockingReader } from '../bytes';
import { throwIfAborted } from '../errors';

/** One file of a download: the archive itself, or one of its volumes. */
export interface ArchivePart {
  name: string;
  data: Blob;
}

/** What to read, and how. */
export interface UnpackJob {
  /** The volume to begin with first. */
  parts: ArchivePart[];
  /** The form of archive as the library names it: `7z`, `rar`, `tar`, `gzip`… */
  type: string;
  password?: string;
}

/** How a run of the library ended. */
export interface UnpackOutcome {
  /** 0 well, 1 with warnings, 2 and above broken. */
  code: number;
  /** Lines of the listing, or nothing. */
  lines: string[];
  /** What it said about errors and warnings, in English. */
  messages: string[];
  /** It was ended because more came out than it may. */
  tooMuch?: true;
}

/**
 * The archive library for everything but plain ZIPs: 7z-wasm, 7-Zip compiled to WebAssembly. It runs without a break,
 * so the browser gives it a worker of its own through `setUnpacker`; elsewhere it runs where it is called.
 */
export interface Unpacker {
  list(job: UnpackJob, signal?: AbortSignal): Promise<UnpackOutcome>;
  /**
   * Unpacks into one stream of bytes, files one after the other in the order of the listing.
   *
   * @param what.wanted names as listed; all files where left out
   * @param what.limit more bytes than this end the run: a bomb never gets further
   * @param onBytes may give a promise: one that can wait sends no more until then
   */
  unpack(
    job: UnpackJob,
    what: { wanted?: readonly string[] | undefined; limit: number },
    onBytes: (bytes: Uint8Array<ArrayBuffer>) => void | Promise<void>,
    signal?: AbortSignal,
  ): Promise<UnpackOutcome>;
}

/** Where the library's wasm file comes from, where it cannot find it itself. */
let loadWasm: (() => Promise<ArrayBuffer>) | undefined;
export const setUnpackerWasm = (load: () => Promise<ArrayBuffer>): void => void (loadWasm = load);

let current: Unpacker;
/** The unpacker in use. */
export const unpacker = (): Unpacker => current;
/** Puts another unpacker in its place, for instance one that lives in a worker. */
export const setUnpacker = (other: Unpacker): void => void (current = other);

/** Thrown out of the library's run when it has written more than it may. */
class Enough extends Error {
  override readonly name = 'Enough';
}

let wasm: Promise<ArrayBuffer> | undefined;

async function start(lines: string[], messages: string[]): Promise<SevenZipModule> {
  if (loadWasm) wasm ??= loadWasm();
  // Loaded when the first archive needs it, and not by pages that only look.
  const { default: SevenZip } = await import('7z-wasm/7zz.es6.js');
  return SevenZip({
    print: (line) => void lines.push(line),
    printErr: (line) => void (line.trim() !== '' && messages.push(line.trim())),
    // Without this the library would set the exit code of the whole program.
    quit: (_code, status) => {
      // eslint-disable-next-line @typescript-eslint/only-throw-error -- how such a program ends itself
      throw status;
    },
    ...(wasm ? { wasmBinary: await wasm } : {}),
  });
}

const IN = '/in';

/**
 * Lays the parts where the library finds them: without reading them where they can be read as they are asked for,
 * elsewhere as bytes.
 */
async function layOut({ FS, WORKERFS }: SevenZipModule, parts: readonly ArchivePart[]): Promise<string> {
  const named = parts.map(({ name, data }) => ({ name: name.replaceAll(/[/\\]/g, '_'), data }));
  FS.mkdir(IN);
  if ('FileReaderSync' in globalThis) FS.mount(WORKERFS, { blobs: named }, IN);
  else
    for (const { name, data } of named) {
      const read = blockingReader(data);
      if (read) layAsItLies(FS, `${IN}/${name}`, data.size, read);
      else {
        const bytes = new Uint8Array(await data.arrayBuffer());
        const file = FS.open(`${IN}/${name}`, 'w+');
        FS.write(file, bytes, 0, bytes.length, 0, true);
        FS.close(file);
      }
    }
  return `${IN}/${named[0]?.name ?? ''}`;
}

/**
 * A file of the library's file system whose bytes are read as they are asked for. Emscripten, File System API: a node's
 * operations.
 */
function layAsItLies(FS: SevenZipModule['FS'], at: string, size: number, read: BlockingReader): void {
  FS.close(FS.open(at, 'w+'));
  const { node } = FS.lookupPath(at, {}) as unknown as {
    node: { node_ops: { getattr(of: unknown): object }; stream_ops: { llseek?: unknown } };
  };
  const { getattr } = node.node_ops;
  node.node_ops = { ...node.node_ops, getattr: (of) => ({ ...getattr(of), size }) };
  node.stream_ops = {
    ...node.stream_ops,
    read: (...[, buffer, offset, length, position]: [unknown, Uint8Array, number, number, number]): number =>
      read(position, buffer.subarray(offset, offset + length)),
    llseek: (stream: { position: number }, offset: number, whence: number): number =>
      ([0, stream.position, size][whence] as number) + offset,
  } as typeof node.stream_ops;
}

function runMain(module: SevenZipModule, values: string[]): number {
  try {
    return (module.callMain(values) as unknown as number | undefined) ?? 0;
  } catch (thrown) {
    if (thrown instanceof Enough) throw thrown;
    const { status } = (thrown ?? {}) as { status?: number };
    // Anything else is a trap inside the library: the archive made it fail.
    return typeof status === 'number' ? status : 2;
  }
}

const flagsOf = ({ type, password }: UnpackJob): string[] => [
  `-t${type}`,
  '-bsp0',
  '-sccUTF-8',
  '-scsUTF-8',
  `-p${password ?? ''}`,
];

/** The library, run where it is called. */
export const inlineUnpacker: Unpacker = {
  async list(job, signal) {
    const lines: string[] = [];
    const messages: string[] = [];
    const module = await start(lines, messages);
    const first = await layOut(module, job.parts);
    throwIfAborted(signal);
    const code = runMain(module, ['l', '-slt', ...flagsOf(job), first]);
    return { code, lines, messages };
  },

  async unpack(job, { wanted, limit }, onBytes, signal) {
    const messages: string[] = [];
    const module = await start([], messages);
    const first = await layOut(module, job.parts);
    const values = ['x', '-so', ...flagsOf(job), '-ssc', '-spd', first];
    if (wanted) {
      const list = new TextEncoder().encode(wanted.join('\n'));
      const file = module.FS.open('/wanted', 'w+');
      module.FS.write(file, list, 0, list.length);
      module.FS.close(file);
      values.push('-i@/wanted');
    }
    let written = 0;
    // The library writes to its standard output; this stands in for it, since the usual one goes character by
    // character.
    const { streams } = module.FS as unknown as { streams: { stream_ops: object }[] };
    const output = streams[1];
    if (!output) throw new Error('the archive library has no output');
    output.stream_ops = {
      ...output.stream_ops,
      write: (_stream: unknown, buffer: Uint8Array, offset: number, length: number): number => {
        written += length;
        if (written > limit) throw new Enough();
        throwIfAborted(signal);
        void onBytes(new Uint8Array(buffer.subarray(offset, offset + length)));
        return length;
      },
    };
    throwIfAborted(signal);
    try {
      const code = runMain(module, values);
      // A stop in the middle looks like a broken archive to the library.
      throwIfAborted(signal);
      return { code, lines: [], messages };
    } catch (thrown) {
      if (thrown instanceof Enough) return { code: 2, lines: [], messages, tooMuch: true };
      throw thrown;
    }
  },
};
current = inlineUnpacker;
