import { PackError, SatchelError, throwIfAborted } from '../errors';
import { crc32Stream } from '../hash';
import type { PackEntry } from './pack';
import { unpacker, type UnpackJob, type UnpackOutcome } from './unpacker';

/** Bytes that wait to be read before the library is asked to stand still. */
const AHEAD = 4 * 1024 * 1024;

/** One run of the archive library: the bytes of its files one behind the other, taken apart as they come. */
export class UnpackedBytes {
  private readonly waiting: Uint8Array<ArrayBuffer>[] = [];
  private held = 0;
  private wake: (() => void) | undefined;
  private drained: (() => void) | undefined;
  private readonly enough = new AbortController();
  private ended: { outcome: UnpackOutcome } | { error: unknown } | undefined;

  /**
   * @param wanted names as the library lists them, in that order, all files where left out; and the bytes that they
   *   come to: what gives more is ended
   * @param failure what is to be said of a run that did not end well, and of the file where it broke off
   */
  constructor(
    job: UnpackJob,
    { names, total }: { names: readonly string[] | undefined; total: number },
    private readonly failure: (outcome: UnpackOutcome, at?: string) => SatchelError,
    private readonly signal?: AbortSignal,
  ) {
    if (total === 0) {
      this.ended = { outcome: { code: 0, lines: [], messages: [] } };
      return;
    }
    const stop = signal ? AbortSignal.any([signal, this.enough.signal]) : this.enough.signal;
    unpacker()
      .unpack(job, { wanted: names, limit: total }, (bytes) => this.take(bytes), stop)
      .then(
        (outcome) => (this.ended = { outcome }),
        (error: unknown) => (this.ended = { error }),
      )
      .finally(() => this.wake?.());
  }

  private take(bytes: Uint8Array<ArrayBuffer>): void | Promise<void> {
    this.waiting.push(bytes);
    this.held += bytes.length;
    this.wake?.();
    return this.held < AHEAD ? undefined : new Promise((go) => (this.drained = go));
  }

  /** The next bytes, at most so many; undefined where there are no more. */
  private async next(most: number): Promise<Uint8Array<ArrayBuffer> | undefined> {
    for (;;) {
      throwIfAborted(this.signal);
      const [first] = this.waiting;
      if (first) {
        const piece = first.subarray(0, most);
        if (piece.length === first.length) this.waiting.shift();
        else this.waiting[0] = first.subarray(most);
        this.held -= piece.length;
        if (this.held < AHEAD) this.drained?.();
        return piece;
      }
      if (this.ended) return undefined;
      await new Promise<void>((resume) => (this.wake = resume));
    }
  }

  private failed(at?: string): unknown {
    const { ended } = this;
    if (!ended) return new SatchelError('unexpected', { why: 'the archive library stopped' });
    return 'error' in ended ? ended.error : this.failure(ended.outcome, at);
  }

  /** The bytes of the next file, which have to be read to their end. @throws as `openPack` */
  async *of({ path, size }: PackEntry): AsyncGenerator<Uint8Array<ArrayBuffer>> {
    for (let left = size; left > 0;) {
      const piece = await this.next(left);
      if (!piece) throw this.failed(path);
      left -= piece.length;
      yield piece;
    }
  }

  /** Waits until the run has ended. @throws as `openPack`, where it did not end well */
  async end(): Promise<void> {
    while (await this.next(AHEAD));
    if (this.ended && 'outcome' in this.ended && this.ended.outcome.code <= 1) return;
    throw this.failed();
  }

  /** A reader that has enough ends the run, and its memory with it. */
  stop(): void {
    this.enough.abort();
    this.drained?.();
  }
}

/** The same pieces; at the end their checksum is compared with the stated one. @throws PackError `damaged` */
export async function* checked(
  pieces: AsyncIterable<Uint8Array<ArrayBuffer>>,
  { path, crc32 }: PackEntry,
  name: string,
): AsyncGenerator<Uint8Array<ArrayBuffer>> {
  if (crc32 === undefined) {
    yield* pieces;
    return;
  }
  const check = await crc32Stream();
  for await (const piece of pieces) {
    check.update(piece);
    yield piece;
  }
  if (check.digest() !== crc32) throw new PackError('damaged', { name, why: `“${path}” has a wrong checksum` });
}
