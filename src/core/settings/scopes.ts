import { nameKey, type TargetPath } from '../paths/paths';
import type { SettingsDocument } from './document';

/** A settings file that stands for all titles, for one title, or for one user profile. */
export interface ScopedFile {
  target: TargetPath;
  title: string;
  /** The file that it stands over: a value here counts more than the same key's there. */
  over?: TargetPath | undefined;
}

/** Files that stand over another one, those that lie right above it first. */
export const narrowerFiles = <T extends ScopedFile>(files: readonly T[], target: TargetPath): T[] => {
  const direct = files.filter(({ over }) => over !== undefined && nameKey(over) === nameKey(target));
  return [
    ...direct,
    ...direct.flatMap((one) =>
      narrowerFiles(
        files.filter((other) => other !== one),
        one.target,
      ),
    ),
  ];
};

/** Where a key’s value comes from in the end, for one file and all below it. */
export interface InEffect {
  value: string;
  from: TargetPath;
}

/** The value that counts for a file: its own, else that of the file it stands over. */
export function valueInEffect(
  files: readonly ScopedFile[],
  documents: ReadonlyMap<string, SettingsDocument>,
  target: TargetPath,
  path: readonly string[],
): InEffect | undefined {
  const seen = new Set<string>();
  for (
    let at: TargetPath | undefined = target;
    at !== undefined && !seen.has(at);
    at = files.find((file) => file.target === at)?.over
  ) {
    seen.add(at);
    const value = documents.get(at)?.get(path);
    if (value !== undefined) return { value, from: at };
  }
  return undefined;
}
