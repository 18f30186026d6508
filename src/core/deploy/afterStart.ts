import type { TargetPath } from '../paths/paths';
import type { DeployedState } from './model';
import type { SettingsDocument } from '../settings/document';

/** What became of a deployed edit since. */
export interface EditFate {
  file: TargetPath;
  path: string[];
  value: string | undefined;
  layer: string;
  /** Whose wish it was. */
  kind: 'pack' | 'edits' | undefined;
  /**
   * `dropped`: the key is gone; `changed`: somebody wrote another value; `back`: a key that was taken out is there
   * again.
   */
  fate: 'stayed' | 'dropped' | 'changed' | 'back';
  now: string | undefined;
}

/** Looks which edits still stand in the files as they are now. Files that are gone have lost all of them. */
export function editFates(state: DeployedState, files: ReadonlyMap<string, SettingsDocument>): EditFate[] {
  return state.files.flatMap(({ target, living }) =>
    (living?.edits ?? []).map(({ path, value, layer, kind }): EditFate => {
      const now = files.get(target)?.get(path);
      return {
        file: target,
        path,
        value,
        layer,
        kind,
        now,
        fate: now === value ? 'stayed' : value === undefined ? 'back' : now === undefined ? 'dropped' : 'changed',
      };
    }),
  );
}

/** Was a file only put into another order: the same lines, each as often? */
export function onlySorted(before: string, after: string): boolean {
  if (before === after) return false;
  const lines = (text: string) =>
    text
      .split(/\r\n|\n|\r/)
      .filter((line) => line.trim() !== '')
      .sort()
      .join('\n');
  return lines(before) === lines(after);
}
