import { figure } from '../words';
import { SatchelError, reasonOf, throwIfAborted } from '../errors';
import type { Folder } from '../folder';
import { byPath, nameKey, type TargetPath } from '../paths/paths';
import type { WorkOptions } from '../progress';
import { Application } from './application';
import { Asking, type Stuck, type StuckAnswer } from './asking';
import { keepAll } from './keepAll';
import { foldersToMake, removeEmptyFolders } from './madeFolders';
import type {
  Content,
  DeployedFile,
  DeployedState,
  JournalStep,
  LayerNote,
  LedgerEntry,
  Plan,
  PlanStep,
  Workshop,
} from './model';
import { checkRoom } from './room';
import { adoptNamed, dropNamed, type Named } from './secondNames';
import { copyOriginals } from './plainCopies';
import { takeBack } from './takeBack';
import {
  closeJournal,
  keep,
  readJournal,
  readLedger,
  readState,
  writeBegun,
  writeLanded,
  writeLedger,
  writeState,
} from './vault';

export interface DeployOptions extends WorkOptions {
  /** What the ledger calls it: "Deploy", "Put everything back". */
  title: string;
  /** The layers that are in the folder afterwards. */
  layers: readonly LayerNote[];
  /** The plain copies of originals are made by `mindOriginals`, when nobody waits for it. */
  copiesLater?: boolean;
  /** Asked where a file cannot be written or removed; without it everything is taken back. */
  onStuck?(stuck: Stuck): Promise<StuckAnswer>;
}

/**
 * Carries out a plan as one transaction: keeps and verifies what is there, writes the journal, writes every file, reads
 * every file back. Where anything fails, or the signal says stop, everything is put back as it was.
 *
 * @returns the line of the ledger, `landed` counting the files that read back as written
 * @throws SatchelError `changed-since-plan`, `original-not-kept`, `journal-open`, `no-room-to-deploy`, `not-begun`
 * (nothing was
 *   written); `taken-back`, `cancelled` (everything is as before); `left-open` (the journal stays; `recover` at the
 * next start)
 */
export async function deploy(
  wanted: Plan,
  workshop: Workshop,
  { title, layers, signal, onProgress, onStuck, copiesLater }: DeployOptions,
): Promise<LedgerEntry> {
  const { vault } = workshop;
  const began = workshop.now();
  const asking = new Asking(onStuck, signal);
  const { plan, state, records, steps, folders, original, unread } = await begin(wanted, workshop, {
    title,
    began,
    signal,
    onProgress,
    asking,
  });
  const work = new Application({ plan, steps, records, gone: original.gone }, workshop, { signal, onProgress, asking });
  unread.forEach((target) => work.leftOut.add(target));
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
    const newState = {
      ...nextState(state, { ...plan, steps: plan.steps.filter(isDone) }, files),
      folders: await removeEmptyFolders([...new Set([...state.folders, ...folders])], workshop),
    };
    const number = ((await readLedger(vault))[0]?.number ?? 0) + 1;
    const entry: LedgerEntry = {
      number,
      at: began,
      title,
      counts,
      layers: [...layers],
      bytes: plan.steps.reduce((sum, step) => sum + (isDone(step) ? step.size : 0), 0),
      landed: done.length,
      milliseconds: workshop.now() - began,
      ...(work.leftOut.size > 0 ? { leftOut: [...work.leftOut].sort(byPath) } : {}),
    };
    await writeLanded(vault, { steps: done, state: newState, entry });
    await finish(workshop, { state: newState, entry, steps: done }, work.named);
    // It has landed whatever becomes of the copies; the next start makes what is missing, and the ledger says so.
    if (!copiesLater) await copyOriginals(workshop, onProgress ? { onProgress } : {}).catch(() => undefined);
    return entry;
  } catch (cause) {
    throw new SatchelError('left-open', { why: reasonOf(cause) }, { cause });
  }
}

interface BeginOptions {
  title: string;
  began: number;
  signal: AbortSignal | undefined;
  onProgress: WorkOptions['onProgress'];
  asking: Asking;
}

/**
 * Everything before the first write to the game: keeps what is there, opens the journal. A failure here has changed
 * nothing.
 */
async function begin(wanted: Plan, workshop: Workshop, { title, began, signal, onProgress, asking }: BeginOptions) {
  const { vault } = workshop;
  try {
    if ((await readJournal(vault)).phase !== 'none') throw new SatchelError('journal-open');
    await dropNamed(vault);
    await checkRoom(wanted, workshop);
    const state = await readState(vault);
    const records = new Map(state.files.map((file) => [nameKey(file.target), file]));
    const {
      steps: kept,
      unread,
      ...original
    } = await keepAll(wanted.steps, records, workshop, {
      ...(signal ? { signal } : {}),
      ...(onProgress ? { onProgress } : {}),
      asking,
    });
    const plan = { ...wanted, steps: kept };
    const steps: JournalStep[] = plan.steps.map(({ target, action, layer, after }, i) => ({
      target,
      action,
      layer,
      after,
      before: original.kept[i] as Content,
      ...(original.names[i] === undefined ? {} : { name: original.names[i] }),
    }));
    const folders = await foldersToMake(plan.steps, workshop);
    throwIfAborted(signal);
    await writeBegun(vault, { at: began, title, steps, folders });
    return { plan, state, records, steps, folders, original, unread };
  } catch (cause) {
    // A journal may have been written after all. Where this fails, the next start or the next deployment does it.
    await readJournal(vault)
      .then(({ phase }) => (phase === 'none' ? dropNamed(vault) : undefined))
      .catch(() => undefined);
    throw cause instanceof SatchelError ? cause : new SatchelError('not-begun', { why: reasonOf(cause) }, { cause });
  }
}

async function finish(
  { vault }: Workshop,
  { state, entry, steps }: { state: DeployedState; entry: LedgerEntry; steps: readonly JournalStep[] },
  named?: readonly Named[],
): Promise<void> {
  await writeState(vault, state);
  await writeLedger(vault, entry, steps);
  await adoptNamed(vault, entry, steps, named);
  // Without a journal, what still has only a second name is dropped.
  await vault.settle?.();
  await closeJournal(vault);
}

/** What a start found and did about a deployment that was cut off. */
export interface Recovery {
  /** `never-began`: it was cut off before the first file was written. */
  outcome: 'finished' | 'taken-back' | 'never-began';
  title: string;
  steps: number;
  /**
   * Files that another program has changed meanwhile: they stay as they are, the versions from before are kept in the
   * vault.
   */
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
    await finish(workshop, journal);
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

function nextState(state: DeployedState, plan: Plan, landed: readonly DeployedFile[]): Omit<DeployedState, 'folders'> {
  const gone = new Set([...plan.steps.map(({ target }) => target), ...plan.forget].map(nameKey));
  const files = [...state.files.filter(({ target }) => !gone.has(nameKey(target))), ...landed];
  return { format: 1, files: files.sort((a, b) => byPath(a.target, b.target)) };
}

/** Files that another program wrote to in between, and that stay as they are, as part of a sentence. */
function butFor([first, ...others]: readonly TargetPath[]): string {
  if (first === undefined) return '';
  return ` but “${first}”${others.length > 0 ? ` and ${figure(others.length)} more` : ''} (changed by another program meanwhile, and left so)`;
}

/** After a failure: puts everything back and gives the error to throw. */
async function undo(
  touched: readonly JournalStep[],
  folders: readonly TargetPath[],
  workshop: Workshop,
  cause: unknown,
): Promise<SatchelError> {
  const stopped = cause instanceof SatchelError && cause.code === 'cancelled';
  let changed: TargetPath[];
  try {
    changed = await takeBack(touched, workshop);
    await removeEmptyFolders(folders, workshop);
    await dropNamed(workshop.vault);
    await closeJournal(workshop.vault);
  } catch (second) {
    return new SatchelError('left-open', { why: `${reasonOf(cause)}; ${reasonOf(second)}` }, { cause });
  }
  if (stopped && changed.length === 0) return cause;
  return new SatchelError('taken-back', { why: reasonOf(cause), but: butFor(changed) }, { cause });
}
