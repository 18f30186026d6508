/** Bytes that are read at a time where all of it is wanted. */
const PIECE = 4 * 1024 * 1024;

/** Reads bytes of something that lies elsewhere. `end` is where the next byte would be. */
export type ReadRange = (start: number, end: number) => Promise<Uint8Array<ArrayBuffer>>;

/**
 * A blob whose bytes lie elsewhere and are fetched as they are asked for (File API, 3). It cannot be sent to another
 * thread as it is: `here` fetches all of it.
 */
export class FarBlob extends Blob {
  constructor(
    private readonly length: number,
    private readonly read: ReadRange,
    private readonly from = 0,
  ) {
    super();
  }

  override get size(): number {
    return this.length;
  }

  override slice(start = 0, end = this.length): Blob {
    const at = (value: number) => Math.min(Math.max(value < 0 ? this.length + value : value, 0), this.length);
    const [first, last] = [at(start), at(end)];
    return new FarBlob(Math.max(0, last - first), this.read, this.from + first);
  }

  override async arrayBuffer(): Promise<ArrayBuffer> {
    if (this.length === 0) return new ArrayBuffer(0);
    return (await this.read(this.from, this.from + this.length)).buffer;
  }

  override async text(): Promise<string> {
    return new TextDecoder().decode(await this.arrayBuffer());
  }

  override stream(): ReadableStream<Uint8Array<ArrayBuffer>> {
    let at = 0;
    return new ReadableStream(
      {
        pull: async (controller) => {
          if (at >= this.length) return controller.close();
          const end = Math.min(at + PIECE, this.length);
          controller.enqueue(await this.read(this.from + at, this.from + end));
          at = end;
        },
      },
      { highWaterMark: 0 },
    );
  }

  /** All of it, as a blob that can go anywhere. */
  async here(): Promise<Blob> {
    const pieces: Blob[] = [];
    for (let at = 0; at < this.length; at += PIECE)
      pieces.push(new Blob([await this.slice(at, at + PIECE).arrayBuffer()]));
    return new Blob(pieces);
  }
}
