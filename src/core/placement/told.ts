import type { PutStep, Step } from '../inspect/step';
import { baseName, isUnder, joinPath, nameKey, parentOf, quotedTarget } from '../paths/paths';
import { WEIGHTS, type Evidence } from './evidence';
import type { Candidate } from './plans';

const same = (a: string, b: string): boolean => nameKey(a) === nameKey(b);
const below = (path: string, folder: string): boolean => isUnder(nameKey(path), nameKey(folder));

/**
 * Where a folder or file of the pack comes to lie when a candidate is taken; undefined where the candidate says nothing
 * of it.
 */
function landingOf(what: string, { node, to, file }: Candidate): { path: string; within: boolean } | undefined {
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
    const one = agrees(step, what, landed, candidate, isThere);
    if (one === 'exact') return one;
    if (found !== 'above') found = one;
  }
  return found;
}

function agrees(
  step: PutStep,
  what: string,
  { path, within }: { path: string; within: boolean },
  { inside, file, node }: Candidate,
  isThere: IsThere,
): Agreement {
  const { folders, files, contents, how, name } = step;
  // A folder that is named goes in as it is called, not what lies in it.
  if (
    inside !== undefined &&
    how === 'inside' &&
    step.what.includes(what) &&
    !contents &&
    node === what &&
    !same(baseName(inside), baseName(what))
  )
    return 'elsewhere';
  if (inside !== undefined)
    return how === 'inside' && (files.length === 0 || files.some((one) => below(path, one))) ? 'exact' : 'elsewhere';
  if (how === 'inside' && files.length > 0) return 'elsewhere';
  const called = name || baseName(what);
  if (step.ownFolder) {
    const container = step.what.length > 0 ? parentOf(path) : path;
    return folders.some((folder) => same(parentOf(container), folder)) && !isThere(container)
      ? 'exact'
      : folders.some((folder) => below(path, folder))
        ? 'above'
        : 'elsewhere';
  }
  for (const one of files) {
    if (same(path, one)) return 'exact';
    if (same(parentOf(path), parentOf(one))) return file || within ? 'above' : 'exact';
  }
  // It was to stand there under its own name, and would be laid over something else.
  if (
    how === 'beside' &&
    !contents &&
    step.what.length > 0 &&
    !folders.some((folder) => below(path, joinPath(folder, called)) || same(baseName(folder), called))
  ) {
    if (within || (!file && !folders.some((folder) => same(path, folder)))) return 'elsewhere';
  }
  for (const folder of folders) {
    if (same(path, joinPath(folder, called))) return 'exact';
    if (
      (contents || how === 'over' || step.what.length === 0 || same(baseName(folder), baseName(what))) &&
      same(path, folder)
    )
      return 'exact';
    if (within && below(path, folder)) return 'above';
    if (file && same(parentOf(path), folder)) return 'exact';
  }
  // A folder that is named goes in as it is called: laid over the one that is there it would be another thing.
  const isNamed = step.what.includes(what) && how === 'into' && !within && !file;
  if (isNamed && isThere(path) && folders.some((folder) => same(path, folder))) return 'elsewhere';
  if (folders.some((folder) => below(path, folder))) return 'above';
  // One of many folders of this name, and it is the same folder of another thing of the kind.
  const cousin = folders.some(
    (folder) => same(baseName(folder), baseName(path)) && same(parentOf(parentOf(folder)), parentOf(parentOf(path))),
  );
  return cousin ? 'above' : 'elsewhere';
}

/** What the read-me says of a candidate. */
export function toldOf(candidate: Candidate, steps: readonly Step[], top: string, isThere: IsThere): Evidence[] {
  const found: Evidence[] = [];
  for (const step of steps) {
    if (step.kind === 'do not') {
      const meant = [...step.folders, ...step.files].find((one) => below(candidate.to, one));
      if (meant !== undefined)
        found.push({
          weight: WEIGHTS.toldElsewhere,
          says: `The read-me says no to ${quotedTarget(meant)}.`,
          line: step.line,
        });
    }
    if (step.kind !== 'put') continue;
    const said = agreement(step, candidate, top, isThere);
    if (said === undefined) continue;
    const many = Math.max(step.folders.length, step.files.length, 1);
    const exact = WEIGHTS.told / Math.sqrt(many);
    if (said === 'exact') found.push({ weight: exact, says: `The read-me says so: “${step.text}”`, line: step.line });
    else if (said === 'above')
      found.push({
        weight: WEIGHTS.toldAbove / Math.sqrt(many),
        says: `The read-me names what lies above it: “${step.text}”`,
        line: step.line,
      });
    // A second place for all of it can be another way to say the same; a place for these files cannot.
    else
      found.push({
        weight: step.what.length > 0 ? WEIGHTS.toldElsewhere : WEIGHTS.toldElsewhere / 2,
        says: `The read-me names another place: “${step.text}”`,
        line: step.line,
      });
  }
  const best = found.filter(({ weight }) => weight > 0).sort((a, b) => b.weight - a.weight)[0];
  const worst = found.filter(({ weight }) => weight < 0).sort((a, b) => a.weight - b.weight)[0];
  // One sentence that says so outweighs another that speaks of something else.
  return best ? [best, ...(worst && best.weight < WEIGHTS.told / 2 ? [worst] : [])] : worst ? [worst] : [];
}

/** Places that the read-me names, as candidates: a thing of the pack and where it would lie. */
export function toldPlaces(
  steps: readonly Step[],
  top: string,
  isFile: (path: string) => boolean,
  packFolder: string,
): { node: string; to: string; inside?: string }[] {
  const found: { node: string; to: string; inside?: string }[] = [];
  for (const step of steps) {
    if (step.kind !== 'put') continue;
    for (const what of step.what.length > 0 ? step.what : [top]) {
      const file = isFile(what);
      const called = step.name || baseName(what);
      if (step.how === 'inside')
        for (const archive of step.files)
          found.push({ node: top, to: archive, inside: '' }, { node: '', to: archive, inside: '' });
      else
        for (const one of step.files) {
          if (file && (step.name !== undefined || same(baseName(one), baseName(what))))
            found.push({ node: what, to: one });
          else if (file) found.push({ node: what, to: joinPath(parentOf(one), called) });
          else found.push({ node: what, to: parentOf(one) });
        }
      for (const folder of step.folders) {
        if (step.ownFolder)
          found.push({ node: step.what.length > 0 ? parentOf(what) : what, to: joinPath(folder, packFolder) });
        if (called !== '') found.push({ node: what, to: joinPath(folder, called) });
        if (!file) found.push({ node: what, to: folder });
      }
    }
  }
  return found;
}
