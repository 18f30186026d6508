import { SatchelError, reasonOf, throwIfAborted } from '../errors';
import { readBytes, readsBack, type Folder } from '../folder';
import { sha256 } from '../hash';
import { byPath, nameKey, type TargetPath } from '../paths/paths';
import { WIDTH, inParallel, type Progress, type WorkOptions } from '../progress';
import { adoptNamed, copyOriginal, noteCopies, type BackedUp } from './backup';
import { Lanes } from './lanes';
import { foldersToMake, removeEmptyFolders } from './madeFolders';
import type { Content, DeployedFile, DeployedState, JournalStep, KeptOrAbsent, LedgerEntry, Plan, PlanStep, Workshop } from './model';
import { checkRoom } from './room';
import { placeOf, takeBack } from './takeBack';
import { closeJournal, dropNamed, keep, keepByName, namedPath, readJournal, readKept, readLedger, readState, writeBegun, writeLanded, writeLedger, writeState } from './vault';

/** A file that the folder does not let the app write, while the deployment waits. */
export interface Stuck {
  target: TargetPath;
  /** Why, in the folder's words. */
  why: string;
}

/** What to do about it: try again, leave this file or all such files as they were, or take everything back. */
export const stuckAnswers = ['again', 'leave', 'leave all', 'take back'] as const;
export type StuckAnswer = (typeof stuckAnswers)[number];

export interface DeployOptions extends WorkOptions {
  /** What the ledger calls it: "Deploy", "Put everything back". */
  title: string;
  /** The layers that are in the folder afterwards. */
  layers: readonly { id: string; name: string }[];
  /** Asked where a file cannot be written or removed; without it everything is taken back. */
  onStuck?(stuck: Stuck): Promise<StuckAnswer>;
}

/**
 * Carries out a plan as one transaction: keeps and verifies what is there, writes the journal, writes every file, reads
 * every file back. Where anything fails, or the signal says stop, everything is put back as it was.
 *
 * @returns the line of the ledger, `landed` counting the files that read back as written
 * @throws SatchelError `changed-since-plan`, `original-not-kept`, `journal-open`, `no-room-to-deploy`, `not-begun` (nothing was
 *   written); `taken-back`, `cancelled` (everything is as before); `left-open` (the journal stays; `recover` at the next start)
 */
export async function deploy(plan: Plan, workshop: Workshop, { title, layers, signal, onProgress, onStuck }: DeployOptions): Promise<LedgerEntry> {
  const { vault } = workshop;
  const began = workshop.now();
  const { state, records, steps, folders, named } = await begin(plan, workshop, { title, began, signal, onProgress });
  const work = new Application(plan, steps, records, named, workshop, { signal, onProgress, onStuck });
  let files: DeployedFile[];
  try {
    files = await work.run();
  } catch (cause) {
    throw await undo(work.touched, folders, workshop, cause);
  }

  // From here on everything is written and verified; only the book-keeping is left.
  const isDone = ({ target }: { target: TargetPath }) => !work.leftOut.has(target);
  const done = steps.filter(isDone);
  const counts: LedgerEntry['counts'] = { add: 0, replace: 0, edit: 0, restore: 0, remove: 0 };
  for (const { action } of done) counts[action]++;
  try {
    const newState = { ...nextState(state, { ...plan, steps: plan.steps.filter(isDone) }, files), folders: await removeEmptyFolders([...new Set([...state.folders, ...folders])], workshop) };
    const number = ((await readLedger(vault))[0]?.number ?? 0) + 1;
    const entry: LedgerEntry = {
      number, at: began, title, counts, layers: layers.map(({ id, name }) => ({ id, name })),
      bytes: plan.steps.reduce((sum, step) => sum + (isDone(step) ? step.size : 0), 0), landed: done.length, milliseconds: workshop.now() - began,
      ...(work.leftOut.size > 0 ? { leftOut: [...work.leftOut].sort(byPath) } : {}),
    };
    await writeLanded(vault, { steps: done, state: newState, entry });
    await finish(workshop, newState, entry, done);
    return entry;
  } catch (cause) {
    throw new SatchelError('left-open', { why: reasonOf(cause) }, { cause });
  }
}

/** Everything before the first write to the game: keeps what is there, opens the journal. A failure here has changed nothing. */
async function begin(plan: Plan, workshop: Workshop, { title, began, signal, onProgress }: { title: string; began: number; signal: AbortSignal | undefined; onProgress: WorkOptions['onProgress'] }) {
  const { vault } = workshop;
  try {
    if ((await readJournal(vault)).phase !== 'none') throw new SatchelError('journal-open');
    await dropNamed(vault);
    await checkRoom(plan, workshop);
    const state = await readState(vault);
    const records = new Map(state.files.map((file) => [nameKey(file.target), file]));
    const { kept, named } = await keepAll(plan.steps, records, workshop, { ...(signal ? { signal } : {}), ...(onProgress ? { onProgress } : {}) });
    const steps: JournalStep[] = plan.steps.map(({ target, action, layer, after }, i) => ({ target, action, layer, after, before: kept[i] as Content }));
    const folders = await foldersToMake(plan.steps, workshop);
    throwIfAborted(signal);
    await writeBegun(vault, { at: began, title, steps, folders });
    return { state, records, steps, folders, named };
  } catch (cause) {
    throw cause instanceof SatchelError ? cause : new SatchelError('not-begun', { why: reasonOf(cause) }, { cause });
  }
}

async function finish(workshop: Workshop, state: DeployedState, entry: LedgerEntry, steps: readonly JournalStep[]): Promise<void> {
  const { vault } = workshop;
  await writeState(vault, state);
  await writeLedger(vault, entry, steps);
  await adoptNamed(workshop, state);
  await closeJournal(vault);
}

/** What a start found and did about a deployment that was cut off. */
export interface Recovery {
  /** `never-began`: it was cut off before the first file was written. */
  outcome: 'finished' | 'taken-back' | 'never-began';
  title: string;
  steps: number;
  /** Files that were neither as before nor as planned; their bytes were kept in the vault before they were put back. */
  setAside: TargetPath[];
}

/**
 * To be called at every start, before anything else touches the game: finishes a deployment that had landed, takes back
 * one that had not. Can itself be cut off and called again.
 *
 * @returns undefined where there was nothing to do
 */
export async function recover(workshop: Workshop, { onProgress }: WorkOptions = {}): Promise<Recovery | undefined> {
  const journal = await readJournal(workshop.vault);
  // Cut off before there was a journal, while files were being kept.
  if (journal.phase === 'none' || journal.phase === 'torn') await dropNamed(workshop.vault);
  if (journal.phase === 'none') return undefined;
  if (journal.phase === 'torn') {
    await closeJournal(workshop.vault);
    return { outcome: 'never-began', title: 'A deployment', steps: 0, setAside: [] };
  }
  if (journal.phase === 'landed') {
    await finish(workshop, journal.state, journal.entry, journal.steps);
    return { outcome: 'finished', title: journal.entry.title, steps: journal.steps.length, setAside: [] };
  }
  const setAside = await takeBack(journal.steps, workshop, onProgress);
  await removeEmptyFolders(journal.folders, workshop);
  await dropNamed(workshop.vault);
  await closeJournal(workshop.vault);
  return { outcome: 'taken-back', title: journal.title, steps: journal.steps.length, setAside };
}

/** Keeps contents that lie in no pack, so that a plan can do without their bytes. */
export async function keepMade(plan: Plan, vault: Folder): Promise<Plan> {
  const steps: PlanStep[] = [];
  for (const step of plan.steps) {
    if (!step.made) {
      steps.push(step);
      continue;
    }
    const { bytes, base, ...made } = step.made;
    if (bytes) await keep(vault, bytes);
    if (base) await keep(vault, base);
    steps.push({ ...step, made });
  }
  return { ...plan, steps };
}

/**
 * Makes sure that what every step is about to touch can be had again. Nothing in the game is changed here.
 *
 * @returns what was there before each step, and the steps before which a file was kept by giving it a second name
 */
async function keepAll(steps: readonly PlanStep[], records: Map<string, DeployedFile>, workshop: Workshop, { signal, onProgress }: WorkOptions): Promise<{ kept: Content[]; named: number[] }> {
  const kept: Content[] = new Array<Content>(steps.length).fill({ kind: 'absent' });
  const named: number[] = [];
  const copies: BackedUp[] = [];
  const total = steps.filter((step) => step.before).length;
  let done = 0;
  await inParallel([...steps.entries()], WIDTH, async ([i, step]) => {
    throwIfAborted(signal);
    const { folder, path } = placeOf(workshop, step.target);
    const now = await folder.stat(path);
    if (now?.size !== step.before?.size || now?.modified !== step.before?.modified) throw new SatchelError('changed-since-plan', { path: step.target });
    if (step.made?.bytes) await keep(workshop.vault, step.made.bytes);
    if (step.made?.base) await keep(workshop.vault, step.made.base);
    if (!now) return;
    const bytes = await readBytes(folder, path);
    const hash = await sha256(bytes);
    const record = records.get(nameKey(step.target));
    // A deployed file still lies in its pack; everything else is kept here.
    const from = record?.sha256 === hash && record.from.kind === 'pack' ? record.from : undefined;
    // Settings files are written to by others and are small: they are copied.
    const byName = from || step.made ? undefined : await keepByName(workshop.vault, { folder, path }, bytes, hash);
    if (byName) named.push(i);
    kept[i] = from ?? byName ?? (await keep(workshop.vault, bytes, hash));
    // What was kept by name is copied when it has landed: until then it is the game's own file.
    if (workshop.backup && !record && !byName) copies.push(await copyOriginal({ backup: workshop.backup, vault: workshop.vault }, step.target, hash, bytes));
    done++;
    onProgress?.({ phase: 'Keeping originals', done, total, unit: 'files' });
  }, ([, step]) => step.before?.size ?? 0);
  if (workshop.backup) await noteCopies(workshop.backup, copies);
  await workshop.vault.settle?.();
  await workshop.backup?.settle?.();
  return { kept, named };
}

function nextState(state: DeployedState, plan: Plan, landed: readonly DeployedFile[]): Omit<DeployedState, 'folders'> {
  const gone = new Set([...plan.steps.map(({ target }) => target), ...plan.forget].map(nameKey));
  const files = [...state.files.filter(({ target }) => !gone.has(nameKey(target))), ...landed];
  return { format: 1, files: files.sort((a, b) => byPath(a.target, b.target)) };
}

/** After a failure: puts everything back and gives the error to throw. */
async function undo(touched: readonly JournalStep[], folders: readonly TargetPath[], workshop: Workshop, cause: unknown): Promise<SatchelError> {
  const stopped = cause instanceof SatchelError && cause.code === 'cancelled';
  try {
    await takeBack(touched, workshop);
    await removeEmptyFolders(folders, workshop);
    await dropNamed(workshop.vault);
    await closeJournal(workshop.vault);
  } catch (second) {
    return new SatchelError('left-open', { why: `${reasonOf(cause)}; ${reasonOf(second)}` }, { cause });
  }
  return stopped ? cause : new SatchelError('taken-back', { why: reasonOf(cause) }, { cause });
}

/** Carries out the steps of a plan whose journal is open. */
class Application {
  /** Steps whose targets may have been written to. */
  readonly touched: JournalStep[] = [];
  readonly leftOut = new Set<TargetPath>();
  private readonly landed: DeployedFile[] = [];
  private done = 0;
  /** Questions are asked one after the other. */
  private asking: Promise<unknown> = Promise.resolve();
  private leaveAll = false;

  constructor(
    private readonly plan: Plan,
    private readonly steps: readonly JournalStep[],
    private readonly records: ReadonlyMap<string, DeployedFile>,
    /** Steps before which a file was kept by name. */
    private readonly named: readonly number[],
    private readonly workshop: Workshop,
    private readonly options: { signal: AbortSignal | undefined; onProgress: ((progress: Progress) => void) | undefined; onStuck: DeployOptions['onStuck'] | undefined },
  ) {}

  async run(): Promise<DeployedFile[]> {
    const lanes = new Lanes(WIDTH);
    try {
      await this.work(lanes);
      await lanes.idle();
      for (const folder of Object.values(this.workshop.folders)) await folder.settle?.();
      throwIfAborted(this.options.signal);
      await this.checkNamed();
      return this.landed;
    } finally {
      // Whatever failed: nothing may still be writing when things are put back.
      await lanes.settled();
    }
  }

  private async work(lanes: Lanes): Promise<void> {
    const { signal } = this.options;
    const { workshop } = this;
    const byPack = new Map<string, Map<string, number[]>>();
    for (const [i, { after }] of this.steps.entries()) {
      throwIfAborted(signal);
      if (after.kind === 'pack') {
        const pack = byPack.get(after.packId) ?? new Map<string, number[]>();
        byPack.set(after.packId, pack.set(after.path, [...(pack.get(after.path) ?? []), i]));
      } else if (after.kind === 'kept')
        await lanes.run(async () => this.land(i, await readKept(workshop.vault, after), after.sha256), after.size);
      else await lanes.run(() => this.remove(i));
    }
    for (const [packId, wanted] of byPack) {
      const pack = await workshop.openPack(packId);
      for await (const { path, data } of pack.readMany(wanted.keys(), signal ? { signal } : {})) {
        throwIfAborted(signal);
        for (const i of wanted.get(path) ?? []) await lanes.run(() => this.land(i, data), data.length);
      }
    }
  }

  /**
   * A program that had a file open before it was replaced can still write to it, and then writes into the vault.
   *
   * @throws SatchelError `changed-since-plan` where one did; what it wrote is what will be put back
   */
  private async checkNamed(): Promise<void> {
    const { vault } = this.workshop;
    let changed: TargetPath | undefined;
    for (const i of this.named) {
      const [planned, step] = [this.plan.steps[i] as PlanStep, this.steps[i] as JournalStep];
      if (step.before.kind !== 'kept' || this.leftOut.has(step.target)) continue;
      const path = namedPath(step.before.sha256);
      const now = await vault.stat(path);
      if (now?.size === planned.before?.size && now?.modified === planned.before?.modified) continue;
      step.before = await keep(vault, await readBytes(vault, path));
      await vault.remove(path);
      changed ??= step.target;
    }
    if (changed) throw new SatchelError('changed-since-plan', { path: changed });
  }

  private async remove(index: number): Promise<void> {
    const { target } = this.steps[index] as JournalStep;
    const { folder, path } = placeOf(this.workshop, target);
    await this.orAsk(index, async () => {
      await folder.remove(path);
      if (await folder.stat(path)) throw new SatchelError('not-landed', { path: target });
    });
    this.tick();
  }

  private async land(index: number, bytes: Uint8Array<ArrayBuffer>, knownHash?: string): Promise<void> {
    const step = this.steps[index] as JournalStep;
    const { folder, path } = placeOf(this.workshop, step.target);
    const written = await this.orAsk(index, async () => {
      const [hash] = await Promise.all([knownHash ?? sha256(bytes), folder.write(path, bytes)]);
      const [stat, isBack] = await Promise.all([folder.stat(path), readsBack(folder, path, bytes)]);
      if (!stat || !isBack) throw new SatchelError('not-landed', { path: step.target });
      return { hash, stat };
    });
    if (written) this.note(step, index, written.hash, written.stat);
    this.tick();
  }

  private note(step: JournalStep, index: number, hash: string, stat: { size: number; modified: number }): void {
    const record = this.records.get(nameKey(step.target));
    const original: KeptOrAbsent = record ? record.original : step.before.kind === 'pack' ? { kind: 'absent' } : step.before;
    const made = this.plan.steps[index]?.made;
    if (step.action !== 'restore' && !made?.forget)
      this.landed.push({
        target: step.target, layer: step.layer, sha256: hash, size: stat.size, modified: stat.modified, from: step.after, original,
        ...(made?.living ? { living: made.living } : {}), ...(made?.recipe ? { recipe: made.recipe } : {}),
      });
  }

  private tick(): void {
    this.done++;
    this.options.onProgress?.({ phase: 'Writing and reading back', done: this.done, total: this.steps.length, unit: 'files' });
  }

  /** Does what touches a target. Where the folder refuses, the player says how it goes on. @returns undefined where the step is left out */
  private async orAsk<T>(index: number, touch: () => Promise<T>): Promise<T | undefined> {
    const step = this.steps[index] as JournalStep;
    this.touched.push(step);
    for (;;) {
      try {
        return await touch();
      } catch (error) {
        const refused = error instanceof SatchelError && ['folder-refused', 'folder-permission', 'not-landed'].includes(error.code);
        if (!refused || !this.options.onStuck) throw error;
        const answer = await this.ask({ target: step.target, why: reasonOf(error) });
        if (answer === 'take back') throw error;
        if (answer === 'again') continue;
        await takeBack([step], this.workshop);
        this.leftOut.add(step.target);
        return undefined;
      }
    }
  }

  private ask(stuck: Stuck): Promise<StuckAnswer> {
    const asked = this.asking.then(async (): Promise<StuckAnswer> => {
      if (this.options.signal?.aborted) return 'take back';
      if (this.leaveAll) return 'leave';
      const answer = (await this.options.onStuck?.(stuck)) ?? 'take back';
      this.leaveAll ||= answer === 'leave all';
      return answer;
    });
    this.asking = asked.catch(() => undefined);
    return asked;
  }
}
