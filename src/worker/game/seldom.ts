/** While many writes follow each other, one in so long is made (milliseconds). */
const EVERY = 1000;

/**
 * Writes whole lists, each under a name. While many packs come in, each of them changes lists that grow with every one:
 * then the last state is written now and then, and at the end.
 */
export class Seldom<Name extends string> {
  private readonly waiting = new Map<Name, () => Promise<unknown>>();
  private many = 0;
  private last = 0;

  /** @param order in which lists that wait are written: what another one speaks of comes before that */
  constructor(private readonly order: readonly Name[]) {}

  /** Writes now, or, while many come, before `whileMany` ends. @param write reads what is to be written when called */
  async write(what: Name, write: () => Promise<unknown>): Promise<void> {
    this.waiting.set(what, write);
    if (this.many === 0 || Date.now() - this.last >= EVERY) await this.writeWaiting();
  }

  /** All is written when this ends, whatever came of the work. */
  async whileMany<T>(work: () => Promise<T>): Promise<T> {
    this.many++;
    this.last = Date.now();
    try {
      return await work();
    } finally {
      this.many--;
      await this.writeWaiting();
    }
  }

  private async writeWaiting(): Promise<void> {
    for (const what of this.order) {
      const write = this.waiting.get(what);
      if (!write) continue;
      // Taken out before: what is changed while it is written waits anew.
      this.waiting.delete(what);
      try {
        await write();
      } catch (error) {
        if (!this.waiting.has(what)) this.waiting.set(what, write);
        throw error;
      }
    }
    this.last = Date.now();
  }
}
