import type { PutStep, Step } from '../inspect/step';
import { baseName, isUnder, joinPath, nameKey, parentOf, quotedTarget } from '../paths/paths';
import { WEIGHTS, type Evidence } from './evidence';
import type { Candidate } from './plans';

const same = (a: string, b: string): boolean => nameKey(a) === nameKey(b);
const below = (path: string, folder: string): boolean => isUnder(nameKey(path), nameKey(folder));

/** Where something of the pack comes to lie; within: as a part of what is placed. */
interface Landed {
  path: string;
  within: boolean;
}

/**
 * Where a folder or file of the pack comes to lie when a candidate is taken; undefined where the candidate says nothing
 * of it.
 */
function landingOf(what: string, { node, to, file }: Candidate): Landed | undefined {
  if (file) return isUnder(node, what) ? { path: to, within: node !== what } : undefined;
  if (isUnder(what, node))
    return { path: joinPath(to, node === '' ? what : what.slice(node.length + 1)), within: false };
  return isUnder(node, what) ? { path: to, within: true } : undefined;
}

/** Is a folder of this path in the game? */
type IsThere = (folder: string) => boolean;

type Agreement = 'exact' | 'above' | 'elsewhere' | undefined;

function agreement(step: PutStep, candidate: Candidate, top: string, isThere: IsThere): Agreement {
  const whats = step.what.length > 0 ? step.what : [top];
  let found: Agreement;
  for (const what of whats) {
    const landed = landingOf(what, candidate);
    if (!landed) continue;
    const one = agrees({ step, what, isThere }, landed, candidate);
    if (one === 'exact') return one;
    if (found !== 'above') found = one;
  }
  return found;
}

/** A step of the read-me, and one of the things that it speaks of. */
interface Said {
  step: PutStep;
  what: string;
  isThere: IsThere;
}

function agrees(said: Said, landed: Landed, candidate: Candidate): Agreement {
  const { step } = said;
  if (candidate.inside !== undefined) return agreesInside(said, landed, candidate);
  if (step.how === 'inside' && step.files.length > 0) return 'elsewhere';
  if (step.ownFolder) return agreesOwnFolder(said, landed.path);
  const byFile = agreesFiles(step, landed, candidate);
  if (byFile !== undefined) return byFile;
  if (isBesideItself(said, landed, candidate)) return 'elsewhere';
  return agreesFolders(said, landed, candidate);
}

function agreesInside({ step, what }: Said, { path }: Landed, { node, inside = '' }: Candidate): Agreement {
  const { files, contents, how } = step;
  if (how !== 'inside') return 'elsewhere';
  // A folder that is named goes in as it is called, not what lies in it.
  const isNamed = step.what.includes(what) && !contents && node === what;
  if (isNamed && !same(baseName(inside), baseName(what))) return 'elsewhere';
  return files.length === 0 || files.some((one) => below(path, one)) ? 'exact' : 'elsewhere';
}

function agreesOwnFolder({ step, isThere }: Said, path: string): Agreement {
  const container = step.what.length > 0 ? parentOf(path) : path;
  if (step.folders.some((folder) => same(parentOf(container), folder)) && !isThere(container)) return 'exact';
  return step.folders.some((folder) => below(path, folder)) ? 'above' : 'elsewhere';
}

function agreesFiles({ files }: PutStep, { path, within }: Landed, { file }: Candidate): Agreement {
  for (const one of files) {
    if (same(path, one)) return 'exact';
    if (same(parentOf(path), parentOf(one))) return file || within ? 'above' : 'exact';
  }
  return undefined;
}

/** It was to stand there under its own name, and would be laid over something else. */
function isBesideItself({ step, what }: Said, { path, within }: Landed, { file }: Candidate): boolean {
  const { folders, contents, how, name } = step;
  if (how !== 'beside' || contents || step.what.length === 0) return false;
  const called = name || baseName(what);
  const isItsPlace = (folder: string) => below(path, joinPath(folder, called)) || same(baseName(folder), called);
  if (folders.some(isItsPlace)) return false;
  return within || (!file && !folders.some((folder) => same(path, folder)));
}

/** What lies in it goes there, or it is called like the folder that is named. */
const goesAsFolder = ({ contents, how, what: whats }: PutStep, what: string, folder: string): boolean =>
  contents || how === 'over' || whats.length === 0 || same(baseName(folder), baseName(what));

/** A folder that is named goes in as it is called, or what lies in it does: neither goes on to other folders there. */
function isApart({ step, what, isThere }: Said, folder: string, path: string): boolean {
  const { contents, how } = step;
  if (!step.what.includes(what) || contents || how !== 'into' || same(baseName(folder), baseName(what))) return false;
  const home = joinPath(folder, step.name || baseName(what));
  return !isThere(home) && !below(path, home) && !same(parentOf(path), folder);
}

function agreesFolders(said: Said, landed: Landed, candidate: Candidate): Agreement {
  const { step, what, isThere } = said;
  const { path, within } = landed;
  const { folders, how } = step;
  if (folders.some((folder) => isExactly(folder, said, landed, candidate))) return 'exact';
  const isBelow = (folder: string) => folder.includes('/') && below(path, folder) && !isApart(said, folder, path);
  if (within && folders.some(isBelow)) return 'above';
  const around = within ? belowOf(folders, path) : undefined;
  if (around) return around === 'root' ? undefined : 'elsewhere';
  // A folder that is named goes in as it is called: laid over the one that is there it would be another thing.
  const isNamed = step.what.includes(what) && how === 'into' && !within && !candidate.file;
  if (isNamed && isThere(path) && folders.some((folder) => same(path, folder))) return 'elsewhere';
  return agreesLoosely(folders, path);
}

const isExactly = (folder: string, { step, what }: Said, { path, within }: Landed, { file }: Candidate): boolean =>
  same(path, joinPath(folder, step.name || baseName(what))) ||
  (same(path, folder) && goesAsFolder(step, what, folder)) ||
  (file && !(within && below(path, folder)) && same(parentOf(path), folder));

/** All of the game lies below a root: that says nothing of a part by itself; of any other folder it does. */
function belowOf(folders: readonly string[], path: string): 'root' | 'folder' | undefined {
  const above = folders.filter((folder) => below(path, folder));
  if (above.some((folder) => folder.includes('/'))) return 'folder';
  return above.length === 0 ? undefined : above.length === folders.length ? 'root' : 'folder';
}

function agreesLoosely(folders: readonly string[], path: string): Agreement {
  if (folders.some((folder) => below(path, folder))) return 'above';
  // One of many folders of this name, and it is the same folder of another thing of the kind.
  const cousin = folders.some(
    (folder) => same(baseName(folder), baseName(path)) && same(parentOf(parentOf(folder)), parentOf(parentOf(path))),
  );
  return cousin ? 'above' : 'elsewhere';
}

interface ToldOfPack {
  /** The folder that all of it lies in. */
  top: string;
  isThere: IsThere;
  /** How many files of the pack lie in a folder of it; one for a file. */
  count(path: string): number;
}

/** A sentence on a part of what would be placed says so much of the whole. */
function shareOf({ what }: PutStep, { node, files }: Candidate, { count }: ToldOfPack): number {
  const parts = what.filter((one) => one !== node && isUnder(one, node));
  if (parts.length === 0 || what.includes(node)) return 1;
  return Math.min(1, parts.reduce((sum, part) => sum + count(part), 0) / files);
}

/** What the read-me says of a candidate. */
export function toldOf(candidate: Candidate, steps: readonly Step[], pack: ToldOfPack): Evidence[] {
  const found = steps.flatMap((step): Evidence[] => {
    if (step.kind === 'do not') return saysNo(candidate, step);
    const said = step.kind === 'put' ? agreement(step, candidate, pack.top, pack.isThere) : undefined;
    if (step.kind !== 'put' || said === undefined) return [];
    const { weight, ...one } = saidSo(step, said);
    return [{ ...one, weight: weight * shareOf(step, candidate, pack) }];
  });
  const best = found.filter(({ weight }) => weight > 0).sort((a, b) => b.weight - a.weight)[0];
  const worst = found.filter(({ weight }) => weight < 0).sort((a, b) => a.weight - b.weight)[0];
  // One sentence that says so outweighs another that speaks of something else.
  const isClear = best !== undefined && best.weight >= WEIGHTS.told / 2;
  return [...(best ? [best] : []), ...(worst && !isClear ? [worst] : [])];
}

function saysNo({ to }: Candidate, { folders, files, line }: Extract<Step, { kind: 'do not' }>): Evidence[] {
  const meant = [...folders, ...files].find((one) => below(to, one));
  if (meant === undefined) return [];
  return [{ weight: WEIGHTS.toldElsewhere, says: `The read-me says no to ${quotedTarget(meant)}.`, line }];
}

function saidSo({ what, folders, files, text, line }: PutStep, said: NonNullable<Agreement>): Evidence {
  const many = Math.sqrt(Math.max(folders.length, files.length, 1));
  if (said === 'exact') return { weight: WEIGHTS.told / many, says: `The read-me says so: “${text}”`, line };
  if (said === 'above')
    return { weight: WEIGHTS.toldAbove / many, says: `The read-me names what lies above it: “${text}”`, line };
  // A second place for all of it can be another way to say the same; a place for these files cannot.
  const weight = what.length > 0 ? WEIGHTS.toldElsewhere : WEIGHTS.toldElsewhere / 2;
  return { weight, says: `The read-me names another place: “${text}”`, line };
}

/** Places that the read-me names, as candidates: a thing of the pack and where it would lie. */
export function toldPlaces(steps: readonly Step[], pack: ToldPack): ToldPlace[] {
  return steps.flatMap((step) => {
    if (step.kind !== 'put') return [];
    const whats = step.what.length > 0 ? step.what : [pack.top];
    return whats.flatMap((what) => [...byFiles(step, what, pack), ...byFolders(step, what, pack)]);
  });
}

interface ToldPack {
  /** The folder that all of it lies in. */
  top: string;
  isFile(path: string): boolean;
  packFolder: string;
}

interface ToldPlace {
  node: string;
  to: string;
  inside?: string;
}

function byFiles({ files, how, name }: PutStep, what: string, { top, isFile }: ToldPack): ToldPlace[] {
  if (how === 'inside')
    return files.flatMap((archive) => [
      { node: top, to: archive, inside: '' },
      { node: '', to: archive, inside: '' },
    ]);
  return files.map((one) => {
    if (!isFile(what)) return { node: what, to: parentOf(one) };
    const isIt = name !== undefined || same(baseName(one), baseName(what));
    return { node: what, to: isIt ? one : joinPath(parentOf(one), baseName(what)) };
  });
}

function byFolders({ folders, ownFolder, name, ...step }: PutStep, what: string, pack: ToldPack): ToldPlace[] {
  const called = name || baseName(what);
  return folders.flatMap((folder) => [
    ...(ownFolder
      ? [{ node: step.what.length > 0 ? parentOf(what) : what, to: joinPath(folder, pack.packFolder) }]
      : []),
    ...(called !== '' ? [{ node: what, to: joinPath(folder, called) }] : []),
    ...(pack.isFile(what) ? [] : [{ node: what, to: folder }]),
  ]);
}
