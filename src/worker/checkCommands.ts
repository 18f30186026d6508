import { ORIGINAL, SatchelError, baseName, decide, decodeText, halve, isNeeded, joinPath, keepInVault, moveTo, nameKey, openPack, openSettings, splitTarget, target, type Fix, type HalvingStep, type OwnFile, type Pack, type TargetPath } from '@/core';
import type { CheckCommand } from './api';
import { dialectOf } from './merging';
import type { Session } from './session';
import { noteEdits, runSettingsCommand } from './settingsCommands';
import { contentAt } from './story';

export const CHECK_TITLES: Record<CheckCommand['do'], string> = { fix: 'Changing the layers', 'set aside': 'Setting it aside', 'take up': 'Taking it up again', halve: 'Choosing the first half', alone: 'Leaving the others out', answer: 'Choosing the next ones', 'end apart': 'Putting the packs back' };

/** Who brings a file now or after the next deployment, and as what. */
function providerOf(session: Session, of: string): { layer: string; path: string; packId: string } | undefined {
  const winner = session.picture.resolution.owned.claim(nameKey(of))?.winner;
  return winner && winner.packId !== '' && !winner.kept ? { layer: winner.layer, path: winner.file.path, packId: winner.packId } : undefined;
}

async function moveFiles(session: Session, moves: readonly { from: TargetPath; to: TargetPath }[]): Promise<void> {
  const byLayer = new Map<string, { path: string; to: TargetPath }[]>();
  for (const { from, to } of moves) {
    const provider = providerOf(session, from);
    if (!provider) throw new SatchelError('unknown-thing', { what: `file of a pack at ${from}` });
    byLayer.set(provider.layer, [...(byLayer.get(provider.layer) ?? []), { path: provider.path, to }]);
  }
  for (const [id, files] of byLayer) await session.replaceLayer(id, (layer) => ({ ...layer, placement: files.reduce((placement, { path, to }) => moveTo(placement, path, to, 'exact'), layer.placement) }));
}

/** Changes the layers as a finding proposes. Nothing is written: the plan shows it first. */
async function applyFix(session: Session, fix: Fix): Promise<void> {
  switch (fix.kind) {
    case 'edit':
      return noteEdits(session, fix.file, [fix.edit]);
    case 'list':
      return runSettingsCommand(session, { do: 'list', file: fix.file, path: fix.path, item: fix.item, on: true });
    case 'move':
      return moveFiles(session, fix.moves);
    case 'leave out': {
      const provider = providerOf(session, fix.target);
      if (!provider) throw new SatchelError('unknown-thing', { what: `file of a pack at ${fix.target}` });
      const { pack } = await session.openPack(provider.packId);
      return session.replaceLayer(provider.layer, (layer) => ({ ...layer, placement: decide(layer.placement, pack.entries, provider.path, false) }));
    }
    case 'take in': {
      const { pack } = await session.openPack(session.layer(fix.layer).packId);
      return session.replaceLayer(fix.layer, (layer) => ({ ...layer, placement: decide(layer.placement, pack.entries, fix.path, true) }));
    }
    case 'stand-in': {
      const bytes = await contentAt(session, fix.copy, 'now');
      if (!bytes) throw new SatchelError('folder-missing-file', { path: fix.copy });
      return putOwn(session, [{ to: fix.to, bytes }]);
    }
    case 'unpack': {
      const archive = await contentAt(session, fix.archive, 'now');
      if (!archive) throw new SatchelError('folder-missing-file', { path: fix.archive });
      // A game's own archive is no more to be trusted than a download, and its ending may be the game's own.
      const pack = await openPack(new Blob([archive]), `${baseName(fix.archive)}.zip`);
      return putOwn(session, inside(pack, fix.to));
    }
    case 'fill':
      return putOwn(session, [{ to: fix.target, bytes: await filled(session, fix.target) }]);
    case 'add file':
      return putOwn(session, [{ to: fix.to, bytes: new TextEncoder().encode(fix.text) }]);
    case 'take out':
      return session.saveStack({ layers: session.stack.layers.map((layer) => (layer.id === fix.layer ? { ...layer, on: false } : layer)) });
    case 'deploy':
    case 'go':
      return;
  }
}

/** A pack's text file with every key that the game's own has and it has not. */
async function filled(session: Session, of: TargetPath): Promise<Uint8Array<ArrayBuffer>> {
  const provider = providerOf(session, of);
  const [bytes, original] = [provider && (await contentAt(session, of, provider.layer)), await contentAt(session, of, ORIGINAL)];
  const dialect = dialectOf(session, of);
  if (!bytes || !original || dialect === undefined) throw new SatchelError('cannot-merge', { path: of, why: 'only one of the two is there' });
  const { text, encode } = decodeText(bytes);
  let document = openSettings(text, dialect);
  for (const { path, value } of openSettings(decodeText(original).text, dialect).entries()) if (document.get(path) === undefined) document = document.set(path, value);
  const whole = encode(document.text);
  if (!whole) throw new SatchelError('cannot-merge', { path: of, why: 'the pack’s file cannot hold all of the game’s letters' });
  return whole;
}

interface Placed {
  to: TargetPath;
  bytes: Uint8Array<ArrayBuffer>;
}

/** What lies in an archive, one file after the other, so that a large one is never held as a whole. */
async function* inside(pack: Pack, to: TargetPath): AsyncGenerator<Placed> {
  for await (const { path, data } of pack.readMany(pack.entries.map((entry) => entry.path))) yield { to: joinPath(to, path) as TargetPath, bytes: data };
}

/** Puts files into the game as the player's own. */
async function putOwn(session: Session, files: Iterable<Placed> | AsyncIterable<Placed>): Promise<void> {
  const kept: OwnFile[] = [];
  for await (const { to, bytes } of files) {
    const { root, path } = splitTarget(to);
    if (!(root in session.workshop.folders)) throw new SatchelError('unknown-thing', { what: `folder “${root}”` });
    const { sha256, size } = await keepInVault(session.workshop.vault, bytes);
    kept.push({ target: target(root, path), sha256, size });
  }
  const replaced = new Set(kept.map((one) => nameKey(one.target)));
  await session.saveStack({ layers: session.withOwn([...session.ownLayer().files.filter((file) => !replaced.has(nameKey(file.target))), ...kept]) });
}

/** Packs in use or not; one that came in since stays as it is. */
const setUse = (session: Session, on: ReadonlySet<string>, before: readonly { id: string }[]) => session.stack.layers.map((layer) => (layer.kind === 'pack' && before.some(({ id }) => id === layer.id) ? { ...layer, on: on.has(layer.id) } : layer));

async function takeStep(session: Session, apart: NonNullable<Session['stack']['apart']>): Promise<void> {
  const step: HalvingStep = halve(apart.suspects, apart.answers);
  const on = step.next === 'try' ? new Set(step.on) : new Set(apart.before.filter((one) => one.on).map(({ id }) => id));
  await session.saveStack({ apart, layers: setUse(session, on, apart.before) });
}

export async function runCheckCommand(session: Session, command: CheckCommand): Promise<void> {
  const { stack } = session;
  switch (command.do) {
    case 'fix':
      return applyFix(session, command.fix);
    case 'set aside':
      return session.saveStack({ aside: [...stack.aside.filter(({ id }) => id !== command.id), { id: command.id, says: command.says, note: command.note.trim().slice(0, 300) }] });
    case 'take up':
      return session.saveStack({ aside: stack.aside.filter(({ id }) => id !== command.id) });
    case 'halve': {
      const before = session.packLayers().map(({ id, on }) => ({ id, on }));
      return takeStep(session, { why: 'halving', before, suspects: before.filter(({ on }) => on).map(({ id }) => id), answers: [] });
    }
    case 'alone': {
      const before = stack.apart?.before ?? session.packLayers().map(({ id, on }) => ({ id, on }));
      const needed = await neededBy(session, command.layer);
      return session.saveStack({ apart: { why: 'alone', before, suspects: [command.layer], answers: [] }, layers: setUse(session, new Set([command.layer, ...needed]), before) });
    }
    case 'answer': {
      const { apart } = stack;
      const step = apart && halve(apart.suspects, apart.answers);
      if (!apart || step?.next !== 'try') return;
      return takeStep(session, { ...apart, answers: [...apart.answers, { on: step.on, failed: command.failed }] });
    }
    case 'end apart': {
      const out = new Set(command.without);
      const on = new Set((stack.apart?.before ?? []).filter((one) => one.on && !out.has(one.id)).map(({ id }) => id));
      await session.saveStack({ layers: setUse(session, on, stack.apart?.before ?? []) });
      const { apart: _, ...rest } = session.stack;
      return session.replaceStack(rest);
    }
  }
}

/** Packs that a pack says it needs, and those that they need. */
async function neededBy(session: Session, id: string): Promise<string[]> {
  const found: string[] = [];
  for (let waiting = [id]; waiting.length > 0; ) {
    const { facts } = await session.openPack(session.layer(waiting.pop() as string).packId);
    const needs = facts.filter(({ kind }) => kind === 'needs').map(({ value }) => value);
    for (const { id: other, name } of session.packLayers()) if (other !== id && !found.includes(other) && needs.some((need) => isNeeded(need, name))) {
      found.push(other);
      waiting.push(other);
    }
  }
  return found;
}
