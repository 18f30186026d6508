import { contentsOf, isLarge } from '../archives/contents';
import { SatchelError, reasonOf, throwIfAborted, type ErrorCode } from '../errors';
import type { Gone } from '../folder';
import { sha256 } from '../hash';
import { nameKey, parentOf, type TargetPath } from '../paths/paths';
import { Pool, WIDTH, type Progress } from '../progress';
import type { Asking, Stuck } from './asking';
import type { Chunks } from './large';
import type { DeployedFile, JournalStep, Kept, KeptOrAbsent, Plan, Workshop } from './model';
import { openOriginal } from './plainCopies';
import { swapFile, type Landed, type Put } from './swap';
import { placeOf, takeBack } from './takeBack';
import { listNamed, type Named } from './secondNames';
import { keepAside, keepNamed } from './vault';

/** Failures after which the player says how it goes on. */
const ASKED: ReadonlySet<ErrorCode> = new Set([
  'folder-refused',
  'folder-permission',
  'not-landed',
  'changed-meanwhile',
  'original-lost',
]);
const HOW: Partial<Record<ErrorCode, Stuck['how']>> = { 'changed-meanwhile': 'changed', 'original-lost': 'lost' };

/** A plan whose journal is open. */
interface Begun {
  plan: Plan;
  steps: readonly JournalStep[];
  records: ReadonlyMap<string, DeployedFile>;
  /** The versions that may go, step by step. */
  gone: readonly (Gone | undefined)[];
}

/** Carries out the steps of a plan whose journal is open. */
export class Application {
  /** Steps whose targets may have been written to. */
  readonly touched: JournalStep[] = [];
  readonly leftOut = new Set<TargetPath>();
  /** The second names, as they were found when all was written. */
  named: readonly Named[] = [];
  private readonly landed: DeployedFile[] = [];
  private done = 0;
  private readonly plan: Plan;
  private readonly steps: readonly JournalStep[];
  private readonly records: ReadonlyMap<string, DeployedFile>;
  private readonly gone: readonly (Gone | undefined)[];

  constructor(
    { plan, steps, records, gone }: Begun,
    private readonly workshop: Workshop,
    private readonly options: {
      signal: AbortSignal | undefined;
      onProgress: ((progress: Progress) => void) | undefined;
      asking: Asking;
    },
  ) {
    this.plan = plan;
    this.steps = steps;
    this.records = records;
    this.gone = gone;
  }

  async run(): Promise<DeployedFile[]> {
    const pool = new Pool(WIDTH);
    try {
      await this.work(pool);
      await pool.idle();
      for (const folder of Object.values(this.workshop.folders)) await folder.settle?.();
      throwIfAborted(this.options.signal);
      await this.checkNamed();
      return this.landed;
    } finally {
      // Whatever failed: nothing may still be writing when things are put back.
      await pool.settled();
    }
  }

  private async work(pool: Pool): Promise<void> {
    const { signal } = this.options;
    const { workshop } = this;
    const byPack = new Map<string, Map<string, number[]>>();
    for (const [i, { after }] of this.steps.entries()) {
      throwIfAborted(signal);
      if (after.kind === 'pack') {
        const pack = byPack.get(after.packId) ?? new Map<string, number[]>();
        byPack.set(after.packId, pack.set(after.path, [...(pack.get(after.path) ?? []), i]));
      } else if (after.kind === 'kept') {
        await pool.run(() => this.landKept(i, after), after.size);
      } else await pool.run(() => this.remove(i));
    }
    for (const [packId, wanted] of byPack) {
      const files = Array.from(wanted, ([path, indexes]) => ({ path, indexes }));
      const inPieces = ({ indexes: [first] }: (typeof files)[0]) => this.inPieces(first as number);
      for await (const file of contentsOf(await workshop.openPack(packId), files, inPieces, signal))
        for (const i of wanted.get(file.path) ?? []) {
          throwIfAborted(signal);
          if ('data' in file) await pool.run(() => this.land(i, file.data, file.sha256), file.data.length);
          else await pool.run(() => this.landPieces(i, file.pieces), (this.steps[i]?.after as { size: number }).size);
        }
    }
  }

  /** Is what a step writes too large to be held, and can its folder do without? */
  private inPieces(index: number): boolean {
    const { target, after } = this.steps[index] as JournalStep;
    const { folder } = placeOf(this.workshop, target);
    return (
      after.kind !== 'absent' && isLarge(after) && folder.readChunks !== undefined && folder.writeChunks !== undefined
    );
  }

  /**
   * A program that had a file open before it was replaced can still write to it, and then writes into the vault.
   *
   * @throws SatchelError `changed-since-plan` where one did; the very file, with what it wrote, is what is put back
   */
  private async checkNamed(): Promise<void> {
    if (!this.steps.some(({ name }) => name !== undefined)) return;
    this.named = await listNamed(this.workshop.vault);
    const found = new Map(this.named.map((one) => [one.path, one]));
    for (const [i, { name, target }] of this.steps.entries()) {
      if (name === undefined || this.leftOut.has(target)) continue;
      const [before, now] = [this.plan.steps[i]?.before, found.get(name)];
      if (now?.size !== before?.size || now?.modified !== before?.modified)
        throw new SatchelError('changed-since-plan', { path: target });
    }
  }

  private async remove(index: number): Promise<void> {
    await this.swap(index, undefined);
    this.tick();
  }

  private async land(index: number, bytes: Uint8Array<ArrayBuffer>, knownHash?: string): Promise<void> {
    const [hash, written] = await Promise.all([knownHash ?? sha256(bytes), this.swap(index, { bytes })]);
    if (written) this.note(this.steps[index] as JournalStep, index, hash, written.stat);
    this.tick();
  }

  private async landKept(index: number, kept: Kept): Promise<void> {
    const { target } = this.steps[index] as JournalStep;
    const written = await this.swap(index, () =>
      openOriginal(this.workshop, { target, content: kept }, this.inPieces(index)),
    );
    if (written) this.note(this.steps[index] as JournalStep, index, kept.sha256, written.stat);
    this.tick();
  }

  private async landPieces(index: number, pieces: () => Chunks, sha256?: string): Promise<void> {
    const written = await this.swap(index, { pieces, ...(sha256 ? { sha256 } : {}) });
    if (written) this.note(this.steps[index] as JournalStep, index, written.hash ?? '', written.stat);
    this.tick();
  }

  /** @returns undefined where the file went, or the step is left out */
  private swap(index: number, given: Put | (() => Promise<Put>) | undefined): Promise<Landed | undefined> {
    const { target } = this.steps[index] as JournalStep;
    const { folder, path } = placeOf(this.workshop, target);
    return this.orAsk(index, async () => {
      const put = typeof given === 'function' ? await given() : given;
      const landed = await swapFile(folder, path, put, this.gone[index]);
      if (put && !landed) throw new SatchelError('not-landed', { path: target });
      return landed;
    });
  }

  private note(step: JournalStep, index: number, hash: string, stat: { size: number; modified: number }): void {
    const record = this.records.get(nameKey(step.target));
    const original: KeptOrAbsent = record
      ? record.original
      : step.before.kind === 'pack'
        ? { kind: 'absent' }
        : step.before;
    const made = this.plan.steps[index]?.made;
    if (step.action !== 'restore' && !made?.forget)
      this.landed.push({
        target: step.target,
        layer: step.layer,
        sha256: hash,
        size: stat.size,
        modified: stat.modified,
        from: step.after,
        original,
        ...(made?.living ? { living: made.living } : {}),
        ...(made?.recipe ? { recipe: made.recipe } : {}),
      });
  }

  private tick(): void {
    this.done++;
    this.options.onProgress?.({
      phase: 'Writing and reading back',
      done: this.done,
      total: this.steps.length,
      unit: 'files',
    });
  }

  /**
   * Does what touches a target. Where the folder refuses, the player says how it goes on.
   *
   * @returns undefined where the step is left out
   */
  private async orAsk<T>(index: number, touch: () => Promise<T>): Promise<T | undefined> {
    const step = this.steps[index] as JournalStep;
    this.touched.push(step);
    for (;;) {
      try {
        return await touch();
      } catch (error) {
        const { asking } = this.options;
        if (!(error instanceof SatchelError) || !ASKED.has(error.code) || !asking.possible) throw error;
        const answer = await asking.ask({ target: step.target, why: reasonOf(error), how: HOW[error.code] });
        if (answer === 'take back') throw error;
        if (answer === 'again') continue;
        await this.leaveOut(index, error.code === 'changed-meanwhile');
        this.leftOut.add(step.target);
        return undefined;
      }
    }
  }

  /** A file that is left out is as it was; one that another program has changed stays as it is, be it deleted. */
  private async leaveOut(index: number, isChanged: boolean): Promise<void> {
    const { vault } = this.workshop;
    const step = this.steps[index] as JournalStep;
    if (isChanged) await this.keepChanged(step);
    else await takeBack([step], this.workshop);
    // It is in the game still: nobody may rely on its second name.
    if (step.name === undefined) return;
    await vault.remove(step.name);
    await vault.removeFolder?.(parentOf(step.name));
  }

  private async keepChanged(step: JournalStep): Promise<void> {
    const { vault } = this.workshop;
    const { folder, path } = placeOf(this.workshop, step.target);
    await folder.endSwap?.(path, (size, pieces) => keepAside(vault, size, pieces));
    if (step.before.kind === 'kept') await keepNamed(vault, step.before);
  }
}
