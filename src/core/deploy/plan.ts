import { SatchelError, reasonOf, throwIfAborted, type ErrorCode } from '../errors';
import { zipWith } from '../exchange/zipWith';
import { readBytes, type FileStat, type Folder } from '../folder';
import { sha256 } from '../hash';
import type { OwnFile, OwnedTarget } from '../layers/layer';
import type { InsideTarget, LivingTarget, Resolution } from '../layers/layers';
import { baseName, byPath, nameKey, parentOf, splitTarget, target, type TargetPath } from '../paths/paths';
import { WIDTH, inParallel, type WorkOptions } from '../progress';
import { decodeText } from '../settings/encoding';
import { applySettings, takeBackSettings, type AppliedEdit } from '../settings/edits';
import type { Dialect } from '../settings/dialects';
import { openSettings } from '../settings/openSettings';
import { crc32OfFile, hashOfFile } from './large';
import type { Content, DeployedFile, DeployedState, KeptOrAbsent, Plan, PlanStep, Workshop } from './model';
import { hashInPack, placeOf } from './takeBack';
import { readKept } from './vault';

export interface PlanInput extends WorkOptions {
  resolution: Resolution;
  /** What the app itself put there, from the vault. */
  state: DeployedState;
  workshop: Workshop;
  /** The form of a living file. */
  dialectOf(target: TargetPath): Dialect | undefined;
  /** A layer's name, for reasons. */
  nameOf(layer: string): string;
  /** The game's files, where they were listed a moment ago. */
  listing?: Listing;
  /** Checksums of files of the game, found out by earlier plans: a file with the same size and date is not read again. */
  checksums?: Map<string, number>;
}

/**
 * Computes what must be done so that the folders hold what the layers say: desired minus actual.
 * Reads the folders, writes nothing. The same input gives the same plan, in whatever order folders are listed.
 */
export async function planDeployment(given: PlanInput): Promise<Plan> {
  const input = { ...given, checksums: given.checksums ?? new Map<string, number>() };
  const { resolution, state, workshop, signal, onProgress } = input;
  const actual = lookUp(given.listing ?? (await listFolders(workshop.folders, given)));
  const deployed = new Map(state.files.map((file) => [nameKey(file.target), file]));
  const plan: Plan = { steps: [], unchanged: 0, forget: [], drifted: [], leftAlone: [], refused: [] };
  const total = resolution.owned.size + deployed.size;
  let done = 0;
  const tick = () => {
    throwIfAborted(signal);
    if (++done % 500 === 0) onProgress?.({ phase: 'Comparing with the folder', done, total, unit: 'files' });
  };

  // A target that cannot be planned stays as it is, and keeps no other from being planned.
  const orRefuse = async (of: TargetPath, work: () => Promise<void>): Promise<void> => {
    const link = linkOf(of, actual);
    const why = link && `“${link.slice(link.indexOf('/') + 1)}” is a link to another place; the app writes to real folders only, so put these files into the folder that it leads to`;
    try {
      if (why === undefined) return await work();
    } catch (error) {
      if (!(error instanceof SatchelError) || !LEFT_OUT.has(error.code)) throw error;
      return void plan.refused.push({ target: of, why: reasonOf(error) });
    }
    plan.refused.push({ target: of, why });
  };
  for (const [key, record] of deployed) {
    if (record.living) continue;
    const now = actual.files.get(key);
    const note = { target: now?.target ?? record.target, layer: record.layer, deployed: { size: record.size, modified: record.modified } };
    if (!now) plan.drifted.push({ ...note, how: 'deleted', now: undefined });
    // One that cannot be read has another date than it had: somebody else changed it.
    else if (await hasDrifted(record, now, workshop).catch(isRefusal)) plan.drifted.push({ ...note, how: 'changed', now: { size: now.size, modified: now.modified } });
  }
  for (const { target: of } of plan.drifted) actual.drifted.add(nameKey(of));

  await fetchChecksums(resolution, deployed, actual, input);
  // Files are read side by side; the steps are sorted at the end.
  await inParallel(resolution.owned, WIDTH, async ([key, owned]) => {
    tick();
    if (!resolution.inside.has(key)) await orRefuse(owned.target, () => planOwned(key, owned, deployed.get(key), actual, input, plan));
  });
  for (const [key, record] of deployed) {
    tick();
    if (resolution.owned.has(key) || resolution.inside.has(key) || record.living) continue;
    await orRefuse(record.target, async () => planReturn(key, record, actual, input, plan));
  }
  for (const [key, inside] of resolution.inside)
    await orRefuse(inside.target, () => planInside(key, inside, resolution.owned.get(key), deployed.get(key), actual, input, plan));
  const livingKeys = new Set([...resolution.living.keys(), ...state.files.filter((file) => file.living).map((file) => nameKey(file.target))]);
  for (const key of livingKeys) {
    const [living, record] = [resolution.living.get(key), deployed.get(key)];
    await orRefuse((living ?? record)?.target as TargetPath, () => planLiving(key, living, record, actual, input, plan));
  }

  plan.steps.sort((a, b) => byPath(a.target, b.target));
  plan.drifted.sort((a, b) => byPath(a.target, b.target));
  plan.forget.sort(byPath);
  plan.refused.sort((a, b) => byPath(a.target, b.target));
  return plan;
}

/** Failures about one file: it may not be read, or its original is damaged. */
const LEFT_OUT: ReadonlySet<ErrorCode> = new Set(['folder-refused', 'bad-memory']);
const isRefusal = (error: unknown): true => {
  if (error instanceof SatchelError && LEFT_OUT.has(error.code)) return true;
  throw error;
};

/** The folders as they are. Knows how they spell their names, so that new files join folders that are there. */
interface Actual {
  files: Map<string, FileStat & { target: TargetPath }>;
  /** Keys of deployed files that somebody else changed since. */
  drifted: Set<string>;
  /** Links by key, as they are spelled. */
  links: ReadonlyMap<string, TargetPath>;
  spell(wanted: TargetPath): TargetPath;
}

/** Files between two words about how far a listing is. */
const TELL = 100;

/** The game's folders as they are. */
export interface Listing {
  /** Every file, by root. */
  files: Readonly<Record<string, readonly FileStat[]>>;
  /** Links to folders, and those that lead nowhere or out. */
  links: readonly TargetPath[];
}

/** Lists them all. Nobody knows how many there will be, so progress tells no total. */
export async function listFolders(folders: Readonly<Record<string, Folder>>, { signal, onProgress }: WorkOptions = {}): Promise<Listing> {
  const listing: Record<string, FileStat[]> = {};
  const links: TargetPath[] = [];
  let done = 0;
  for (const [root, folder] of Object.entries(folders)) {
    const files: FileStat[] = [];
    for await (const stat of folder.list(undefined, (path) => links.push(target(root, path)))) {
      throwIfAborted(signal);
      files.push(stat);
      if (++done % TELL === 0) onProgress?.({ phase: 'Looking at the folders', done, total: 0, unit: 'files' });
    }
    listing[root] = files;
  }
  return { files: listing, links: links.sort(byPath) };
}

function lookUp(listing: Listing): Actual {
  const files: Actual['files'] = new Map();
  const spelling = new Map<string, string>();
  for (const [root, stats] of Object.entries(listing.files)) {
    for (const stat of stats) {
      const full = target(root, stat.path);
      files.set(nameKey(full), { ...stat, target: full });
      for (let path = parentOf(full); path !== '' && !spelling.has(nameKey(path)); path = parentOf(path)) spelling.set(nameKey(path), path);
    }
  }
  const spell = (wanted: TargetPath): TargetPath => {
    const file = files.get(nameKey(wanted));
    if (file) return file.target;
    for (let folder = parentOf(wanted); folder !== ''; folder = parentOf(folder)) {
      const known = spelling.get(nameKey(folder));
      if (known !== undefined) return (known + wanted.slice(folder.length)) as TargetPath;
    }
    return wanted;
  };
  return { files, drifted: new Set(), links: new Map(listing.links.map((link) => [nameKey(link), link])), spell };
}

/** The link that a target is, or lies behind. */
function linkOf(of: TargetPath, { links }: Actual): TargetPath | undefined {
  if (links.size === 0) return undefined;
  for (let up: string = of; up !== ''; up = parentOf(up)) {
    const link = links.get(nameKey(up));
    if (link !== undefined) return link;
  }
  return undefined;
}

const hashOfTarget = (workshop: Workshop, of: TargetPath): Promise<string | undefined> => {
  const { folder, path } = placeOf(workshop, of);
  return hashOfFile(folder, path);
};

type ActualFile = FileStat & { target: TargetPath };
const checksumKey = ({ target: of, size, modified }: ActualFile): string => `${of}\n${size}\n${modified}`;

/** Asks folders that are far away for all checksums that will be needed, instead of reading file by file. */
async function fetchChecksums(resolution: Resolution, deployed: ReadonlyMap<string, DeployedFile>, actual: Actual, { workshop, checksums }: PlanInput): Promise<void> {
  const wanted = new Map<string, ActualFile[]>();
  if (!Object.values(workshop.folders).some(({ digests }) => digests)) return;
  for (const [key, { providers }] of resolution.owned) {
    const now = actual.files.get(key);
    const file = providers.at(-1)?.file;
    if (!now || deployed.has(key) || file?.crc32 === undefined || file.size !== now.size || checksums?.has(checksumKey(now))) continue;
    const { root } = splitTarget(now.target);
    const list = wanted.get(root) ?? [];
    list.push(now);
    wanted.set(root, list);
  }
  for (const [root, files] of wanted) {
    const digests = await workshop.folders[root]?.digests?.('crc32', files.map(({ path }) => path));
    digests?.forEach((digest, i) => digest !== undefined && checksums?.set(checksumKey(files[i] as ActualFile), Number.parseInt(digest, 16)));
  }
}

/** CRC-32 of a file of the game. */
async function checksum(file: ActualFile, { workshop, checksums }: PlanInput): Promise<number | undefined> {
  const key = checksumKey(file);
  const known = checksums?.get(key);
  if (known !== undefined) return known;
  const { folder, path } = placeOf(workshop, file.target);
  const found = await crc32OfFile(folder, path);
  if (found !== undefined) checksums?.set(key, found);
  return found;
}

/** Did somebody else change a deployed file? Size and date first; where they differ, the hash decides. */
async function hasDrifted(record: DeployedFile, now: FileStat & { target: TargetPath }, workshop: Workshop): Promise<boolean> {
  if (now.size === record.size && now.modified === record.modified) return false;
  return now.size !== record.size || (await hashOfTarget(workshop, now.target)) !== record.sha256;
}

/** A content that lies in no pack: written where the file does not hold it yet. */
interface Made {
  bytes: Uint8Array<ArrayBuffer>;
  layer: string;
  reason: string;
  /** What it was made of, where making it costs much. */
  recipe?: string;
}

async function planMade({ bytes, layer, reason, recipe }: Made, key: string, wanted: TargetPath, record: DeployedFile | undefined, actual: Actual, input: PlanInput, plan: Plan): Promise<void> {
  const now = actual.files.get(key);
  const hash = await sha256(bytes);
  if (now && now.size === bytes.length && (await hashOfTarget(input.workshop, now.target)) === hash) return void plan.unchanged++;
  plan.steps.push({
    action: now ? 'replace' : 'add', target: actual.spell(wanted), layer, size: bytes.length, before: now && { size: now.size, modified: now.modified }, reason,
    after: { kind: 'kept', sha256: hash, size: bytes.length }, made: { bytes, ...(recipe === undefined ? {} : { recipe }) },
  });
}

/** A file of the player's own, which lies in the vault. */
async function planKept({ sha256: hash, size }: OwnFile, layer: string, key: string, wanted: TargetPath, record: DeployedFile | undefined, actual: Actual, input: PlanInput, plan: Plan): Promise<void> {
  const now = actual.files.get(key);
  const isThere = now && now.size === size && (record && !actual.drifted.has(key) ? record.sha256 === hash : (await hashOfTarget(input.workshop, now.target)) === hash);
  if (isThere) return void plan.unchanged++;
  plan.steps.push({
    action: now ? 'replace' : 'add', target: actual.spell(wanted), layer, size, before: now && { size: now.size, modified: now.modified },
    reason: 'It is a version of your own, kept in the app.', after: { kind: 'kept', sha256: hash, size },
  });
}

/** An archive of the game with files of packs put into it: always made from the original, so that any of them can go again. */
async function planInside(key: string, { target: wanted, entries }: InsideTarget, owned: OwnedTarget | undefined, record: DeployedFile | undefined, actual: Actual, input: PlanInput, plan: Plan): Promise<void> {
  const { workshop } = input;
  const now = actual.files.get(key);
  const under = owned?.providers.at(-1);
  const inOrder = [...entries.values()].sort((a, b) => byPath(a.inside, b.inside));
  const parts = JSON.stringify([under && [under.packId, under.file.path], ...inOrder.map(({ packId, file, inside, made }) => [inside, packId, made ? decodeText(made).text : file.path, file.size, file.crc32])]);
  const recipe = await sha256(new TextEncoder().encode(parts));
  if (now && record?.recipe === recipe && !actual.drifted.has(key)) return void plan.unchanged++;
  try {
    const original = record ? record.original : now ? ('as it is' as const) : ({ kind: 'absent' } as const);
    const base = under ? await (await workshop.openPack(under.packId)).read(under.file.path) : original === 'as it is' ? await readBytesOf(workshop, wanted) : await bytesOf(workshop, original);
    const bytes = await zipWith(base, inOrder, async (packId, paths) => (await workshop.openPack(packId)).readMany(paths), wanted);
    const layer = inOrder.at(-1)?.layer ?? '';
    await planMade({ bytes, layer, recipe, reason: `“${input.nameOf(layer)}” puts files into this archive; the game’s own is kept first.` }, key, wanted, record, actual, input, plan);
  } catch (error) {
    if (error instanceof SatchelError && error.code !== 'cancelled') plan.refused.push({ target: wanted, why: reasonOf(error) });
    else throw error;
  }
}

async function planOwned(key: string, { target: wanted, providers }: OwnedTarget, record: DeployedFile | undefined, actual: Actual, input: PlanInput, plan: Plan): Promise<void> {
  const winner = providers.at(-1);
  if (!winner) return;
  const now = actual.files.get(key);
  const { file } = winner;
  if (winner.made) return planMade({ bytes: winner.made, layer: winner.layer, reason: winner.packId === '' ? `“${input.nameOf(winner.layer)}” holds what several packs change in it.` : `Written for “${input.nameOf(winner.layer)}”, since the game needs it.` }, key, wanted, record, actual, input, plan);
  if (winner.kept) return planKept(winner.kept, winner.layer, key, wanted, record, actual, input, plan);
  const after: Content = { kind: 'pack', packId: winner.packId, path: file.path, size: file.size, ...(file.crc32 === undefined ? {} : { crc32: file.crc32 }) };
  const step = (action: PlanStep['action'], reason: string) =>
    plan.steps.push({ action, target: actual.spell(wanted), reason, layer: winner.layer, size: file.size, before: now && { size: now.size, modified: now.modified }, after });
  const name = input.nameOf(winner.layer);

  if (!now) {
    step('add', record ? `“${name}” brings it; the deployed one was deleted by another program.` : `“${name}” brings it; the game has no such file.`);
    return;
  }
  if (!record) {
    if (now.size === file.size && file.crc32 !== undefined && (await checksum(now, input)) === file.crc32) plan.unchanged++;
    else step('replace', `“${name}” replaces the game’s own file, which is kept first.`);
    return;
  }
  // On disks that do not tell capitals apart a file keeps its old spelling when it is written again.
  if (record.original.kind === 'absent' && !actual.drifted.has(key) && baseName(now.target) !== baseName(wanted)) {
    plan.steps.push({ action: 'remove', target: now.target, reason: `Its name is to be spelled “${baseName(wanted)}”: it is taken out, and put in again at once.`, layer: winner.layer, size: 0, before: { size: now.size, modified: now.modified }, after: record.original, again: true });
    return;
  }
  if (actual.drifted.has(key)) {
    step('replace', `“${name}” brings it; another program has changed the deployed file since, and its version is kept first.`);
    return;
  }
  if (await sameAsDeployed(record, winner.packId, file, input.workshop)) plan.unchanged++;
  else step('replace', `“${name}” now lies above “${input.nameOf(record.layer)}” for this file.`);
}

/** Is what a layer wants the very content that was deployed? Another pack's checksum is a hint only, so its bytes are hashed. */
async function sameAsDeployed(record: DeployedFile, packId: string, file: { path: string; size: number; crc32?: number }, workshop: Workshop): Promise<boolean> {
  if (record.from.kind === 'pack' && record.from.packId === packId && record.from.path === file.path) return true;
  if (record.size !== file.size || (record.from.kind === 'pack' && record.from.crc32 !== file.crc32)) return false;
  return (await hashInPack({ packId, ...file }, workshop)) === record.sha256;
}

/** A deployed file that no layer wants any more: what was there before comes back. */
function planReturn(key: string, record: DeployedFile, actual: Actual, input: PlanInput, plan: Plan): void {
  const now = actual.files.get(key);
  const place = now?.target ?? record.target;
  const before = now && { size: now.size, modified: now.modified };
  const name = input.nameOf(record.layer);
  if (record.original.kind === 'kept')
    plan.steps.push({ action: 'restore', target: place, reason: `“${name}” no longer brings it; the game’s own file comes back.`, layer: record.layer, size: record.original.size, before, after: record.original });
  else if (now) plan.steps.push({ action: 'remove', target: place, reason: `“${name}” no longer brings it, and the game had no such file.`, layer: record.layer, size: 0, before, after: record.original });
  else plan.forget.push(record.target);
}

const bytesOf = async (workshop: Workshop, content: KeptOrAbsent): Promise<Uint8Array<ArrayBuffer>> => (content.kind === 'absent' ? new Uint8Array(0) : readKept(workshop.vault, content));

/** Edits go onto the file as it is now; what others changed in it since stays. */
async function planLiving(key: string, living: LivingTarget | undefined, record: DeployedFile | undefined, actual: Actual, input: PlanInput, plan: Plan): Promise<void> {
  const { workshop } = input;
  const now = actual.files.get(key);
  const wanted = now?.target ?? actual.spell((living ?? record)?.target as TargetPath);
  const dialect = input.dialectOf(wanted);
  const edits = living?.edits ?? [];
  const refuse = (why: string) => plan.refused.push({ target: wanted, why });
  if (!dialect) return void refuse('the form of this file is not known');

  const current = now ? await readBytesOf(workshop, wanted) : new Uint8Array(0);
  const untouched = record !== undefined && now !== undefined && (await sha256(current)) === record.sha256;
  const decoded = decodeText(untouched && record.living ? await bytesOf(workshop, record.living.base) : current);
  let base = openSettings(decoded.text, dialect);
  // The game has written the file since, and every edit still stands: there is nothing to do.
  const same = (one: AppliedEdit, other: { path: string[]; value?: string } | undefined) => other !== undefined && one.value === other.value && one.path.join('\n') === other.path.join('\n');
  if (record?.living && now && !untouched && edits.length === record.living.edits.length && record.living.edits.every((one, i) => same(one, edits[i]) && base.get(one.path) === one.value)) return void plan.unchanged++;
  let baseContent: KeptOrAbsent | undefined = untouched ? record.living?.base : undefined;
  if (record?.living && !untouched) {
    const back = takeBackSettings(base, record.living.edits);
    base = back.document;
    plan.leftAlone.push(...back.left.map(({ path }) => ({ target: wanted, path })));
  }
  if (!record && !now) baseContent = { kind: 'absent' };

  const { document, applied } = applySettings(base, edits);
  const bytes = decoded.encode(document.text);
  const baseBytes = decoded.encode(base.text);
  if (!bytes || !baseBytes) return void refuse('a value holds characters that this file’s encoding does not have');
  baseContent ??= { kind: 'kept', sha256: await sha256(baseBytes), size: baseBytes.length };

  const gone = edits.length === 0;
  const after: Content = gone && bytes.length === 0 && record?.original.kind === 'absent' ? { kind: 'absent' } : { kind: 'kept', sha256: await sha256(bytes), size: bytes.length };
  const changes = after.kind === 'absent' ? now !== undefined : !now || after.sha256 !== (await sha256(current));
  if (!changes) {
    if (gone && record) plan.forget.push(record.target);
    else plan.unchanged++;
    return;
  }
  const tagged = applied.map((edit, i) => ({ ...edit, layer: edits[i]?.layer ?? '' }));
  plan.steps.push({
    action: after.kind === 'absent' ? 'remove' : 'edit',
    target: wanted,
    reason: gone ? 'The edits in it are taken back.' : describeEdits(tagged),
    layer: edits.at(-1)?.layer ?? record?.layer ?? '',
    size: bytes.length,
    before: now && { size: now.size, modified: now.modified },
    after,
    ...(after.kind === 'absent' ? {} : { made: { bytes, base: baseBytes, ...(gone ? { forget: true as const } : { living: { edits: tagged, base: baseContent } }) } }),
  });
}

const readBytesOf = (workshop: Workshop, of: TargetPath): Promise<Uint8Array<ArrayBuffer>> => {
  const { folder, path } = placeOf(workshop, of);
  return readBytes(folder, path);
};

const describeEdits = (edits: { path: string[]; value?: string; before?: string }[]): string =>
  edits
    .filter((edit) => edit.before !== edit.value)
    .map(({ path, value, before }) => (value === undefined ? `${path.join(' › ')} is removed` : before === undefined ? `${path.join(' › ')} is new: ${value}` : `${path.join(' › ')}: ${before} becomes ${value}`))
    .join('; ') + '. The rest of the file stays as it is.';
