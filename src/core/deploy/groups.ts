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

/** Folders with how much happens in each, the deepest folded into what lies above them until few are left. */
function foldedFolders(targets: readonly TargetPath[]): Map<string, TargetPath[]> {
  let folders = new Map<string, TargetPath[]>();
  for (const target of targets) {
    const folder = parentOf(target);
    const there = folders.get(folder);
    if (there) there.push(target);
    else folders.set(folder, [target]);
  }
  const depthOf = (folder: string) => folder.split('/').length;
  while (folders.size > MOST_FOLDERS) {
    const deepest = Math.max(...[...folders.keys()].map(depthOf));
    if (deepest <= 1) break;
    const folded = new Map<string, TargetPath[]>();
    for (const [folder, inside] of folders) {
      const at = depthOf(folder) === deepest ? parentOf(folder) : folder;
      const there = folded.get(at);
      if (there) there.push(...inside);
      else folded.set(at, [...inside]);
    }
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
    const sums = [...kinds.values()].flatMap(([first, ...rest]): StepSum[] => {
      if (!first) return [];
      const { action, reason } = first;
      return [...foldedFolders([first, ...rest].map(({ target }) => target))].map(([folder, inside]) => ({
        action,
        reason,
        at: inside.length === 1 ? (inside[0] ?? folder) : folder,
        files: inside.length,
      }));
    });
    sums.sort((a, b) => b.files - a.files || byPath(a.at, b.at));
    return { layer, files: sums.reduce((sum, { files }) => sum + files, 0), sums };
  });
}
