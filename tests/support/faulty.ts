import { SatchelError, type FileStat, type Folder } from '@/core';

/**
 * How a fault shows: an error once; from then on for ever, as when the tab is closed; a write that keeps only half; the
 * storage full, or the permission taken back, from then on.
 */
export type FaultKind = 'once' | 'dead' | 'torn' | 'quota' | 'revoked';

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
    const strikes = this.kind === 'once' || this.kind === 'torn' ? this.calls === this.at : this.calls >= this.at;
    this.fired ||= strikes;
    return strikes;
  }
}

/** A folder that fails where it is told to. */
export class FaultyFolder implements Folder {
  constructor(
    private readonly inner: Folder,
    private readonly faults: Faults,
  ) {}

  /** The errors that the adapters throw. */
  private fault(what: string): Error {
    if (this.faults.kind === 'quota')
      return new SatchelError('folder-refused', { path: what, why: 'the browser’s storage is full' });
    if (this.faults.kind === 'revoked') return new SatchelError('folder-permission', { name: what });
    return new Error(`injected fault: ${what}`);
  }

  async *list(under?: string): AsyncGenerator<FileStat> {
    if (this.faults.strikes()) throw this.fault('list');
    yield* this.inner.list(under);
  }

  async stat(path: string): Promise<FileStat | undefined> {
    if (this.faults.strikes()) throw this.fault(`stat ${path}`);
    return this.inner.stat(path);
  }

  async read(path: string): Promise<Blob> {
    if (this.faults.strikes()) throw this.fault(`read ${path}`);
    return this.inner.read(path);
  }

  async write(path: string, data: Blob | Uint8Array): Promise<void> {
    if (this.faults.strikes()) {
      if (this.faults.kind === 'torn') {
        const bytes = data instanceof Blob ? new Uint8Array(await data.arrayBuffer()) : data;
        await this.inner.write(path, bytes.slice(0, Math.floor(bytes.length / 2)));
      }
      throw this.fault(`write ${path}`);
    }
    // Real folders take their time, and other writes go on meanwhile.
    await new Promise((done) => setImmediate(done));
    return this.inner.write(path, data);
  }

  async link(path: string, to: Folder, toPath: string, sole?: boolean): Promise<FileStat | undefined> {
    if (this.faults.strikes()) throw this.fault(`link ${path}`);
    return this.inner.link?.(path, to instanceof FaultyFolder ? to.inner : to, toPath, sole);
  }

  async move(path: string, toPath: string): Promise<boolean> {
    if (this.faults.strikes()) throw this.fault(`move ${path}`);
    return (await this.inner.move?.(path, toPath)) ?? false;
  }

  async remove(path: string): Promise<void> {
    if (this.faults.strikes()) throw this.fault(`remove ${path}`);
    return this.inner.remove(path);
  }

  async hasFolder(path: string): Promise<boolean> {
    if (this.faults.strikes()) throw this.fault(`hasFolder ${path}`);
    return this.inner.hasFolder?.(path) ?? true;
  }

  async removeFolder(path: string): Promise<boolean> {
    if (this.faults.strikes()) throw this.fault(`removeFolder ${path}`);
    return this.inner.removeFolder?.(path) ?? true;
  }
}
