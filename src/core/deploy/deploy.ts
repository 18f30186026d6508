import { SatchelError, reasonOf, throwIfAborted } from '../errors';
import { readBytes, type Folder } from '../folder';
import { sha256 } from '../hash';
import { byPath, nameKey, splitTarget, type TargetPath } from '../paths/paths';
import { inParallel, type Progress, type WorkOptions } from '../progress';
import { Lanes } from './lanes';
import type { Content, DeployedFile, DeployedState, JournalStep, KeptOrAbsent, LedgerEntry, Plan, PlanStep, Workshop } from './model';
import { closeJournal, keep, readJournal, readKept, readLedger, readState, writeBegun, writeLanded, writeLedger, writeState } from './vault';

/** How many files are under way at a time. */
const WIDTH = 24;

export interface DeployOptions extends WorkOptions {
  /** What the ledger calls it: "Deploy", "Put everything back". */
  title: string;
  /** The layers that are in the folder afterwards. */
  layers: readonly { id: string; name: string }[];
}

/**
 * Carries out a plan as one transaction: keeps and verifies what is there, writes the journal, writes every file, reads
 * every file back. Where anything fails, or the signal says stop, everything is put back as it was.
 *
 * @returns the line of the ledger, `landed` counting the files that read back as written
 * @throws SatchelError `changed-since-plan`, `original-not-kept`, `journal-open`, `not-begun` (nothing was written);
 *   `taken-back`, `cancelled` (everything is as before); `left-open` (the journal stays; `recover` at the next start)
 */
export async function deploy(plan: Plan, workshop: Workshop, { title, layers, signal, onProgress }: DeployOptions): Promise<LedgerEntry> {
  const { vault } = workshop;
  const began = workshop.now();
  const { state, records, steps } = await begin(plan, workshop, { title, began, signal, onProgress });
  const touched: JournalStep[] = [];
  let files: DeployedFile[];
  try {
    files = await applyAll(plan.steps, steps, records, workshop, touched, signal, onProgress);
  } catch (cause) {
    throw await undo(touched, workshop, cause);
  }

  // From here on everything is written and verified; only the book-keeping is left.
  const counts: LedgerEntry['counts'] = { add: 0, replace: 0, edit: 0, restore: 0, remove: 0 };
  for (const { action } of steps) counts[action]++;
  const newState = nextState(state, plan, files);
  try {
    const number = ((await readLedger(vault))[0]?.number ?? 0) + 1;
    const entry: LedgerEntry = {
      number, at: began, title, counts, layers: layers.map(({ id, name }) => ({ id, name })),
      bytes: plan.steps.reduce((sum, { size }) => sum + size, 0), landed: steps.length, milliseconds: workshop.now() - began,
    };
    await writeLanded(vault, { steps, state: newState, entry });
    await finish(vault, newState, entry, steps);
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
    const state = await readState(vault);
    const records = new Map(state.files.map((file) => [nameKey(file.target), file]));
    const kept = await keepAll(plan.steps, records, workshop, { ...(signal ? { signal } : {}), ...(onProgress ? { onProgress } : {}) });
    const steps: JournalStep[] = plan.steps.map(({ target, action, layer, after }, i) => ({ target, action, layer, after, before: kept[i] as Content }));
    throwIfAborted(signal);
    await writeBegun(vault, { at: began, title, steps });
    return { state, records, steps };
  } catch (cause) {
    throw cause instanceof SatchelError ? cause : new SatchelError('not-begun', { why: reasonOf(cause) }, { cause });
  }
}

async function finish(vault: Folder, state: DeployedState, entry: LedgerEntry, steps: readonly JournalStep[]): Promise<void> {
  await writeState(vault, state);
  await writeLedger(vault, entry, steps);
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
  if (journal.phase === 'none') return undefined;
  if (journal.phase === 'torn') {
    await closeJournal(workshop.vault);
    return { outcome: 'never-began', title: 'A deployment', steps: 0, setAside: [] };
  }
  if (journal.phase === 'landed') {
    await finish(workshop.vault, journal.state, journal.entry, journal.steps);
    return { outcome: 'finished', title: journal.entry.title, steps: journal.steps.length, setAside: [] };
  }
  const setAside = await takeBack(journal.steps, workshop, onProgress);
  await closeJournal(workshop.vault);
  return { outcome: 'taken-back', title: journal.title, steps: journal.steps.length, setAside };
}

const place = (workshop: Workshop, target: TargetPath): { folder: Folder; path: string } => {
  const { root, path } = splitTarget(target);
  const folder = workshop.folders[root];
  if (!folder) throw new SatchelError('unknown-thing', { what: `folder “${root}”` });
  return { folder, path };
};

/** Makes sure that what every step is about to touch can be had again. Nothing in the game is changed here. */
async function keepAll(steps: readonly PlanStep[], records: Map<string, DeployedFile>, workshop: Workshop, { signal, onProgress }: WorkOptions): Promise<Content[]> {
  const result: Content[] = new Array<Content>(steps.length).fill({ kind: 'absent' });
  const total = steps.filter((step) => step.before).length;
  let done = 0;
  await inParallel([...steps.entries()], WIDTH, async ([i, step]) => {
    throwIfAborted(signal);
    const { folder, path } = place(workshop, step.target);
    const now = await folder.stat(path);
    if (now?.size !== step.before?.size || now?.modified !== step.before?.modified) throw new SatchelError('changed-since-plan', { path: step.target });
    if (step.made) {
      await keep(workshop.vault, step.made.bytes);
      if (step.made.base) await keep(workshop.vault, step.made.base);
    }
    if (!now) return;
    const bytes = await readBytes(folder, path);
    const hash = await sha256(bytes);
    const record = records.get(nameKey(step.target));
    // A deployed file still lies in its pack; everything else is kept here.
    result[i] = record?.sha256 === hash && record.from.kind === 'pack' ? record.from : await keep(workshop.vault, bytes, hash);
    onProgress?.({ phase: 'Keeping originals', done: ++done, total, unit: 'files' });
  });
  return result;
}

async function applyAll(
  planned: readonly PlanStep[], steps: readonly JournalStep[], records: Map<string, DeployedFile>, workshop: Workshop,
  touched: JournalStep[], signal: AbortSignal | undefined, onProgress: ((progress: Progress) => void) | undefined,
): Promise<DeployedFile[]> {
  const landed: DeployedFile[] = [];
  let done = 0;
  const tick = () => onProgress?.({ phase: 'Writing and reading back', done: ++done, total: steps.length, unit: 'files' });

  const land = async (index: number, bytes: Uint8Array<ArrayBuffer>, knownHash?: string) => {
    const step = steps[index] as JournalStep;
    touched.push(step);
    const { folder, path } = place(workshop, step.target);
    const [hash] = await Promise.all([knownHash ?? sha256(bytes), folder.write(path, bytes)]);
    const [stat, back] = await Promise.all([folder.stat(path), readBytes(folder, path)]);
    if (!stat || !sameBytes(bytes, back)) throw new SatchelError('not-landed', { path: step.target });
    const record = records.get(nameKey(step.target));
    const original: KeptOrAbsent = record ? record.original : step.before.kind === 'pack' ? { kind: 'absent' } : step.before;
    const made = planned[index]?.made;
    if (step.action !== 'restore' && !made?.forget)
      landed.push({
        target: step.target, layer: step.layer, sha256: hash, size: stat.size, modified: stat.modified, from: step.after, original,
        ...(made?.living ? { living: made.living } : {}), ...(made?.recipe ? { recipe: made.recipe } : {}),
      });
    tick();
  };

  const lanes = new Lanes(WIDTH);
  try {
    await work(lanes);
    await lanes.idle();
    throwIfAborted(signal);
    return landed;
  } finally {
    // Whatever failed: nothing may still be writing when things are put back.
    await lanes.settled();
  }

  async function work(lanes: Lanes): Promise<void> {
    const byPack = new Map<string, Map<string, number[]>>();
    for (const [i, { after, target }] of steps.entries()) {
      throwIfAborted(signal);
      if (after.kind === 'pack') {
        const pack = byPack.get(after.packId) ?? new Map<string, number[]>();
        byPack.set(after.packId, pack.set(after.path, [...(pack.get(after.path) ?? []), i]));
      } else if (after.kind === 'kept')
        await lanes.run(async () => land(i, await readKept(workshop.vault, after), after.sha256));
      else
        await lanes.run(async () => {
          touched.push(steps[i] as JournalStep);
          const { folder, path } = place(workshop, target);
          await folder.remove(path);
          if (await folder.stat(path)) throw new SatchelError('not-landed', { path: target });
          tick();
        });
    }
    for (const [packId, wanted] of byPack) {
      const pack = await workshop.openPack(packId);
      for await (const { path, data } of pack.readMany(wanted.keys(), signal ? { signal } : {})) {
        throwIfAborted(signal);
        for (const i of wanted.get(path) ?? []) await lanes.run(() => land(i, data));
      }
    }
  }
}

function sameBytes(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

function nextState(state: DeployedState, plan: Plan, landed: readonly DeployedFile[]): DeployedState {
  const gone = new Set([...plan.steps.map(({ target }) => target), ...plan.forget].map(nameKey));
  const files = [...state.files.filter(({ target }) => !gone.has(nameKey(target))), ...landed];
  return { format: 1, files: files.sort((a, b) => byPath(a.target, b.target)) };
}

/** After a failure: puts everything back and gives the error to throw. */
async function undo(touched: readonly JournalStep[], workshop: Workshop, cause: unknown): Promise<SatchelError> {
  const stopped = cause instanceof SatchelError && cause.code === 'cancelled';
  try {
    await takeBack(touched, workshop);
    await closeJournal(workshop.vault);
  } catch (second) {
    return new SatchelError('left-open', { why: `${reasonOf(cause)}; ${reasonOf(second)}` }, { cause });
  }
  return stopped ? cause : new SatchelError('taken-back', { why: reasonOf(cause) }, { cause });
}

/** Brings every target back to what the journal says was there before. Works from any half-way state, any number of times. */
async function takeBack(steps: readonly JournalStep[], workshop: Workshop, onProgress?: WorkOptions['onProgress']): Promise<TargetPath[]> {
  const setAside: TargetPath[] = [];
  let done = 0;
  await inParallel(steps, WIDTH, async ({ target, before, after }) => {
    const { folder, path } = place(workshop, target);
    const now = (await folder.stat(path)) ? await readBytes(folder, path) : undefined;
    if (before.kind === 'absent') {
      if (now) {
        if (!(await isContent(now, after))) await aside(now, target);
        await folder.remove(path);
      }
    } else {
      const wanted = await fetchContent(before, workshop);
      if (!now || !sameBytes(now, wanted)) {
        if (now && !(await isContent(now, after))) await aside(now, target);
        await folder.write(path, wanted);
        if (!sameBytes(await readBytes(folder, path), wanted)) throw new SatchelError('not-landed', { path: target });
      }
    }
    onProgress?.({ phase: 'Putting back', done: ++done, total: steps.length, unit: 'files' });
  });
  return setAside.sort(byPath);

  async function aside(bytes: Uint8Array<ArrayBuffer>, target: TargetPath): Promise<void> {
    await keep(workshop.vault, bytes);
    setAside.push(target);
  }

  async function isContent(bytes: Uint8Array<ArrayBuffer>, content: Content): Promise<boolean> {
    if (content.kind === 'absent') return false;
    if (bytes.length !== content.size) return false;
    return content.kind === 'kept' ? (await sha256(bytes)) === content.sha256 : sameBytes(bytes, await fetchContent(content, workshop));
  }
}

async function fetchContent(content: Exclude<Content, { kind: 'absent' }>, workshop: Workshop): Promise<Uint8Array<ArrayBuffer>> {
  if (content.kind === 'kept') return readKept(workshop.vault, content);
  return (await workshop.openPack(content.packId)).read(content.path);
}
