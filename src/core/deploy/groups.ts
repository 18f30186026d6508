import { largest } from '../lists';
import { byPath, parentOf, type TargetPath } from '../paths/paths';
import type { StepAction } from './model';

/** One step as far as it is summed up: a step of a plan, or of a deployment that was. */
export interface Groupable {
  target: TargetPath;
  action: StepAction;
  layer: string;
  reason?: string | undefined;
}

/** Files that one thing happens to, for one reason, in one folder or below it. */
export interface StepSum {
  action: StepAction;
  reason: string | undefined;
  /** The folder that all of them lie in; the file itself where it is one. */
  at: string;
  files: number;
}

/** What becomes of the files of one layer. */
export interface StepGroup {
  layer: string;
  files: number;
  sums: StepSum[];
}

/** Lines that one action of one layer, for one reason, is told in at most. */
const MOST_FOLDERS = 6;

/** How many files a folder stands for, and one of them. */
interface Share {
  files: number;
  one: TargetPath;
}

/** Folders with how much happens in each, the deepest folded into what lies above them until few are left. */
function foldedFolders(targets: readonly TargetPath[]): Map<string, Share> {
  const add = (folders: Map<string, Share>, folder: string, { files, one }: Share) => {
    const there = folders.get(folder);
    if (there) there.files += files;
    else folders.set(folder, { files, one });
  };
  let folders = new Map<string, Share>();
  for (const one of targets) add(folders, parentOf(one), { files: 1, one });
  const depthOf = (folder: string) => folder.split('/').length;
  while (folders.size > MOST_FOLDERS) {
    const deepest = largest([...folders.keys()].map(depthOf));
    if (deepest <= 1) break;
    const folded = new Map<string, Share>();
    for (const [folder, share] of folders) add(folded, depthOf(folder) === deepest ? parentOf(folder) : folder, share);
    folders = folded;
  }
  return folders;
}

/**
 * Sums steps up by layer, by what is done for which reason, and by folder: what is new to the reader is said once, and
 * every step is counted in exactly one line.
 *
 * @param steps in any order
 * @returns layers in the order in which they come first, in each the lines with the most files first
 */
export function groupSteps(steps: readonly Groupable[]): StepGroup[] {
  const layers = new Map<string, Map<string, Groupable[]>>();
  for (const step of steps) {
    const kinds = layers.get(step.layer) ?? new Map<string, Groupable[]>();
    layers.set(step.layer, kinds);
    const kind = `${step.action} ${step.reason ?? ''}`;
    const alike = kinds.get(kind);
    if (alike) alike.push(step);
    else kinds.set(kind, [step]);
  }
  return [...layers].map(([layer, kinds]) => {
    const sums = [...kinds.values()].flatMap((alike): StepSum[] => {
      const [first] = alike;
      if (!first) return [];
      const { action, reason } = first;
      return [...foldedFolders(alike.map(({ target }) => target))].map(([folder, { files, one }]) => ({
        action,
        reason,
        at: files === 1 ? one : folder,
        files,
      }));
    });
    sums.sort((a, b) => b.files - a.files || byPath(a.at, b.at));
    return { layer, files: sums.reduce((sum, { files }) => sum + files, 0), sums };
  });
}
