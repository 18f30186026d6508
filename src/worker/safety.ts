import {
  ORIGINAL, SatchelError, checkDeployed, compareBackup, copyOriginals, isUnder, makeBackup, minded, nameKey, pick, readLedgerSteps, removeBackup, reverseDifferences, settingsRestoration, squashSteps, takeAsOriginals, takeAsOwn,
  type BackupComparison, type Difference, type NamedBackup, type Plan, type TargetPath, type WorkOptions,
} from '@/core';
import type { Stack } from '@/storage/memory';
import type { RestoreScope, SafetyCommand, SafetyView } from './api';
import { mainFolder } from './onBridge';
import type { DeployWork, Picture, Session } from './session';

/** What the player sees while it is done. */
export const SAFETY_TITLES: Record<SafetyCommand['do'], string> = {
  'take as mine': 'Keeping your version', 'take as original': 'Taking the new originals', 'check deployed': 'Reading every deployed file', 'drop own': 'Dropping your version', restore: 'Putting it back',
  'make backup': 'Making the backup', 'restore backup': 'Restoring the backup', 'forget backup': 'Forgetting the backup', 'copy originals': 'Copying the originals',
};

/** Carries it out. @returns what came of it, in words, where that is not to be seen otherwise */
export async function runSafetyCommand(session: Session, command: SafetyCommand, options: DeployWork): Promise<string | undefined> {
  const { workshop } = session;
  session.forgetListing();
  switch (command.do) {
    case 'take as mine': {
      const taken = await takeAsOwn(workshop, command.targets as TargetPath[], 'own');
      const keys = new Set(taken.map(({ target }) => nameKey(target)));
      return void (await session.saveStack({ layers: session.withOwn([...session.ownLayer().files.filter(({ target }) => !keys.has(nameKey(target))), ...taken]) }));
    }
    case 'take as original':
      return void (await takeAsOriginals(workshop, command.targets as TargetPath[]));
    case 'drop own':
      return void (await session.saveStack({ layers: session.withOwn(session.ownLayer().files.filter(({ target }) => target !== command.target)) }));
    case 'check deployed': {
      const { files, drifted } = await checkDeployed(workshop, options);
      return drifted.length === 0 ? `All ${files.toLocaleString('en')} deployed files were read: each is as it was written.` : `${files.toLocaleString('en')} deployed files were read: ${drifted.length.toLocaleString('en')} ${drifted.length === 1 ? 'differs' : 'differ'} from what was written.`;
    }
    case 'restore':
      return restoreScope(session, command.scope, options);
    case 'make backup':
      return void (await makeBackup(workshop, { id: crypto.randomUUID(), name: command.name, targets: command.targets as TargetPath[] }));
    case 'restore backup':
      return restoreBackup(session, backupOf(session, command.id), options);
    case 'forget backup':
      return void (await removeBackup(workshop.vault, command.id));
    case 'copy originals': {
      const { copies: copied } = await copyOriginals(workshop, options);
      return `${copied.toLocaleString('en')} ${copied === 1 ? 'original lies' : 'originals lie'} in the backup folder, each read back and checked.`;
    }
  }
}

function backupOf(session: Session, id: string): NamedBackup {
  const found = session.picture.backups.find((one) => one.id === id);
  if (!found) throw new SatchelError('unknown-thing', { what: 'backup of that name' });
  return found;
}

export const comparisonOf = (session: Session, id: string): Promise<BackupComparison[]> => compareBackup(session.workshop, backupOf(session, id));

/** The stack in which a part of the game is as it was without packs. */
function stackWithout(session: Session, scope: RestoreScope): Partial<Stack> {
  const { layers, picks } = session.stack;
  if (scope.what === 'pack') return { layers: layers.map((layer) => (layer.id === scope.layer ? { ...layer, on: false } : layer)) };
  const within = (target: string) => (scope.what === 'file' ? nameKey(target) === nameKey(scope.at) : isUnder(nameKey(target), nameKey(scope.at)));
  const own = session.ownLayer().files.filter(({ target }) => !within(target));
  // What the player decided for a part of it would win over the wider decision.
  const wider = picks.filter(({ scope: kind, at }) => kind === 'kind' || !within(at));
  return { picks: pick(wider, scope.what, scope.at as TargetPath, ORIGINAL), layers: session.withOwn(own, layers.filter((layer) => layer.kind !== 'edits' || !within(layer.file))) };
}

/** Plans that were looked at, for as long as the stack and the folders are as they are. */
const previewed = new WeakMap<Picture, Map<string, Promise<Plan>>>();

/** What putting back one file, one folder or one pack would do, and nothing else that is waiting. */
export function restorePlan(session: Session, scope: RestoreScope): Promise<Plan> {
  const known = previewed.get(session.picture) ?? new Map<string, Promise<Plan>>();
  previewed.set(session.picture, known);
  const key = JSON.stringify(scope);
  const plan = known.get(key) ?? computeRestore(session, scope);
  known.set(key, plan);
  return plan;
}

async function computeRestore(session: Session, scope: RestoreScope, options: WorkOptions = {}): Promise<Plan> {
  const plan = await session.planWith(stackWithout(session, scope), options);
  const concerns = concernOf(session, scope, plan);
  return { ...plan, steps: plan.steps.filter(({ target }) => concerns(target)), forget: plan.forget.filter(concerns), drifted: plan.drifted.filter(({ target }) => concerns(target)), refused: [] };
}

function concernOf(session: Session, scope: RestoreScope, plan: Plan): (target: TargetPath) => boolean {
  if (scope.what !== 'pack') {
    const at = nameKey(scope.at);
    return scope.what === 'file' ? (target) => nameKey(target) === at : (target) => isUnder(nameKey(target), at);
  }
  const id = scope.layer;
  const mine = new Set(session.picture.state.files.filter(({ layer, living }) => layer === id || living?.edits.some((edit) => edit.layer === id)).map(({ target }) => nameKey(target)));
  // Merges that it was part of come out differently, too.
  const waiting = new Map(session.picture.plan.steps.map(({ target, after }) => [target, JSON.stringify(after)]));
  for (const { target, after } of plan.steps) if (waiting.get(target) !== JSON.stringify(after)) mine.add(nameKey(target));
  return (target) => mine.has(nameKey(target));
}

async function restoreScope(session: Session, scope: RestoreScope, options: DeployWork): Promise<undefined> {
  const plan = await computeRestore(session, scope, options);
  const title = scope.what === 'pack' ? `Put back “${session.nameOf(scope.layer)}”` : `Put back ${scope.at}`;
  await session.saveStack(stackWithout(session, scope));
  await session.look();
  await session.carryOut(plan, title, options);
}

/**
 * Files come back as they were in a backup. Settings files come back byte for byte, once; of other files that version is
 * from now on the player's own, above all packs.
 */
async function restoreBackup(session: Session, backup: NamedBackup, options: DeployWork): Promise<undefined> {
  const { workshop, picture } = session;
  const changed = new Set((await compareBackup(workshop, backup)).filter(({ now }) => now !== 'same').map(({ target }) => target));
  const settings = backup.files.filter(({ target }) => changed.has(target) && session.dialectOf(target));
  const others = backup.files.filter(({ target }) => changed.has(target) && !session.dialectOf(target));
  const steps: Plan['steps'] = [];
  for (const { target } of settings) {
    const step = await settingsRestoration(workshop, backup, target, session.dialectOf(target) ?? 'ini', picture.state);
    if (step) steps.push(step);
  }
  const restored = new Set([...settings, ...others].map(({ target }) => nameKey(target)));
  const own = [...session.ownLayer().files.filter(({ target }) => !restored.has(nameKey(target))), ...others.map(({ target, content }) => ({ target, sha256: content.sha256, size: content.size }))];
  // The player's edits of a file that comes back are part of what the player goes back from.
  const layers = session.stack.layers.filter((layer) => layer.kind !== 'edits' || !restored.has(nameKey(layer.file)));
  await session.saveStack({ layers: session.withOwn(own, layers) });
  await session.look();
  const ownKeys = new Set(others.map(({ target }) => nameKey(target)));
  steps.push(...session.picture.plan.steps.filter(({ target }) => ownKeys.has(nameKey(target))));
  await session.carryOut({ steps, unchanged: 0, forget: [], drifted: [], leftAlone: [], refused: [] }, `Restore “${backup.name}”`, options);
}

/** What differs between the states after two deployments; 0 is before the first one. */
export async function differences(session: Session, from: number, to: number): Promise<Difference[]> {
  const [low, high] = [Math.min(from, to), Math.max(from, to)];
  const numbers = session.picture.ledger.map(({ number }) => number).filter((number) => number > low && number <= high).sort((a, b) => a - b);
  const found = squashSteps(await Promise.all(numbers.map((number) => readLedgerSteps(session.workshop.vault, number))));
  return from <= to ? found : reverseDifferences(found);
}

/** How safely the originals lie. */
export async function safetyView(session: Session): Promise<SafetyView> {
  const { workshop, game } = session;
  const main = mainFolder(game);
  const storage = typeof navigator === 'undefined' ? undefined : navigator.storage;
  return {
    place: game.kind === 'demo' ? 'demo' : main ? 'disk' : 'browser',
    backup: main?.backup ?? game.backup?.name,
    room: await workshop.vault.room?.(),
    copies: { ...(await minded(workshop.vault)), progress: undefined },
    persisted: main !== undefined || (await storage?.persisted?.()) === true,
  };
}

/** What taking the drifted files as new originals would break. */
export function updateEffects(session: Session): string[] {
  const { plan, merges } = session.picture;
  const byLayer = new Map<string, number>();
  for (const { layer } of plan.drifted) byLayer.set(layer, (byLayer.get(layer) ?? 0) + 1);
  const keys = new Set(plan.drifted.map(({ target }) => nameKey(target)));
  const files = (count: number) => (count === 1 ? 'one of these files' : `${count.toLocaleString('en')} of these files`);
  return [
    ...[...byLayer].filter(([layer]) => layer !== 'own').map(([layer, count]) => `“${session.nameOf(layer)}” lies over ${files(count)}: if the game was updated, it may be made for the older version.`),
    ...merges.filter(({ note }) => keys.has(nameKey(note.target))).map(({ note }) => `“${note.name}” is computed again on the new original, and decisions in it may no longer fit.`),
  ];
}
