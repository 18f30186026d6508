import type { FileStat, Folder } from '@/core';

/** How a fault shows: once; from then on for ever, as when the tab is closed; or a write that keeps only half. */
export type FaultKind = 'once' | 'dead' | 'torn';

/** Counts the calls of all folders that share it, and fails at one of them. */
export class Faults {
  calls = 0;
  fired = false;

  constructor(
    private readonly at: number,
    readonly kind: FaultKind,
  ) {}

  /** True where this call is to fail. */
  strikes(): boolean {
    this.calls++;
    const strikes = this.kind === 'dead' ? this.calls >= this.at : this.calls === this.at;
    this.fired ||= strikes;
    return strikes;
  }
}

const fault = (what: string): Error => new Error(`injected fault: ${what}`);

/** A folder that fails where it is told to. */
export class FaultyFolder implements Folder {
  constructor(
    private readonly inner: Folder,
    private readonly faults: Faults,
  ) {}

  async *list(under?: string): AsyncGenerator<FileStat> {
    if (this.faults.strikes()) throw fault('list');
    yield* this.inner.list(under);
  }

  async stat(path: string): Promise<FileStat | undefined> {
    if (this.faults.strikes()) throw fault(`stat ${path}`);
    return this.inner.stat(path);
  }

  async read(path: string): Promise<Blob> {
    if (this.faults.strikes()) throw fault(`read ${path}`);
    return this.inner.read(path);
  }

  async write(path: string, data: Blob | Uint8Array): Promise<void> {
    if (this.faults.strikes()) {
      if (this.faults.kind === 'torn') {
        const bytes = data instanceof Blob ? new Uint8Array(await data.arrayBuffer()) : data;
        await this.inner.write(path, bytes.slice(0, Math.floor(bytes.length / 2)));
      }
      throw fault(`write ${path}`);
    }
    // Real folders take their time, and other writes go on meanwhile.
    await new Promise((done) => setImmediate(done));
    return this.inner.write(path, data);
  }

  async remove(path: string): Promise<void> {
    if (this.faults.strikes()) throw fault(`remove ${path}`);
    return this.inner.remove(path);
  }
}
