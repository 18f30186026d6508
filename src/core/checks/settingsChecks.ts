import { isUnder, nameKey } from '../paths/paths';
import { numberedSections, type NumberedSection } from '../settings/numbered';
import { checkValue } from '../settings/values';
import { placeNamer, type BeforeInput } from './beforeInput';
import type { Finding, PresentFile } from './finding';
import { nearestNames } from './nearest';

export function settingsChecks(input: BeforeInput): Finding[] {
  const shown = placeNamer(input);
  const found: Finding[] = [];
  for (const { file, document } of input.settings) {
    for (const key of file.keys) {
      const value = document.get(key.path);
      const wrong = value === undefined ? undefined : checkValue(key, value);
      if (value === undefined || wrong === undefined) continue;
      const better =
        key.default ??
        (key.max !== undefined && Number(value) > key.max
          ? String(key.max)
          : key.min !== undefined && Number(value) < key.min
            ? String(key.min)
            : undefined);
      found.push({
        id: `out-of-range:${file.target} ${key.path.join(' ')}`,
        level: 'wrong',
        about: `${file.target} › ${key.path.join(' › ')}`,
        title: `${key.path.at(-1)} is ${value}: ${wrong}`,
        evidence: `${key.path.join(' › ')} in ${shown(file.target)}.`,
        cause: key.meaning,
        fixes:
          better === undefined
            ? [{ kind: 'go', label: 'Change it', step: 'settings' }]
            : [
                {
                  kind: 'edit',
                  label: `Set it to ${better}`,
                  file: file.target,
                  edit: { path: [...key.path], value: better },
                },
              ],
      });
    }
    const { numbered } = file;
    if (numbered?.folder === undefined || numbered.inside === undefined) continue;
    const inside = numbered.inside;
    const folders = foldersIn(input.files, inside);
    for (const section of numberedSections(document, numbered.section)) {
      const wrong = wrongFolder(section, numbered.folder, folders);
      if (wrong?.value === undefined) continue;
      const { key, value, near } = wrong;
      found.push({
        id: `no-folder:${file.target} ${section.section}`,
        level: 'wrong',
        about: `${file.target} › ${section.section}`,
        title: `[${section.section}] names a folder that is not there`,
        evidence: `${key}=${value} in ${shown(file.target)}; ${near === undefined ? `${shown(inside)} has no such folder` : `there is “${near}”`}.`,
        cause: 'The folder that a numbered section names must be there under that name, letter for letter.',
        fixes:
          near === undefined
            ? [{ kind: 'go', label: 'Look at the section', step: 'settings' }]
            : [
                {
                  kind: 'edit',
                  label: `Name “${near}”`,
                  file: file.target,
                  edit: { path: [section.section, key], value: near },
                },
              ],
      });
    }
  }
  return found;
}

/** Names of the folders right inside a folder, as they are spelled. */
export function foldersIn(files: readonly PresentFile[], folder: string): Set<string> {
  const found = new Set<string>();
  const key = nameKey(folder);
  for (const { target } of files) {
    if (!isUnder(nameKey(target), key)) continue;
    const [name, more] = target.slice(folder.length + 1).split('/');
    if (name !== undefined && more !== undefined) found.add(name);
  }
  return found;
}

/**
 * What is wrong with the folder that a numbered section names: none is named, or none is there under that name, letter
 * for letter. Undefined where all is well; `near` is the folder that may be meant.
 */
export function wrongFolder(
  section: NumberedSection,
  folderKey: string,
  folders: ReadonlySet<string>,
): { key: string; value: string | undefined; near: string | undefined } | undefined {
  const named = section.keys.find(({ key }) => nameKey(key) === nameKey(folderKey));
  if (!named || named.value === '') return { key: folderKey, value: undefined, near: undefined };
  if (folders.has(named.value)) return undefined;
  return {
    ...named,
    near: [...folders].find((one) => nameKey(one) === nameKey(named.value)) ?? nearestNames(named.value, folders)[0],
  };
}
