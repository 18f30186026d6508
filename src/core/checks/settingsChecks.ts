import { isUnder, nameKey } from '../paths/paths';
import type { SettingsFile } from '../placement/settingsFiles';
import type { SettingsDocument } from '../settings/document';
import { numberedSections, type NumberedSection } from '../settings/numbered';
import { checkValue } from '../settings/values';
import type { BeforeInput } from './beforeInput';
import { keyOf, type PresentFile } from './finding';
import { nearestNames } from './nearest';
import type { Trouble } from './trouble';

/** Values that the game cannot use, and numbered sections that name a folder which is not there. */
export const settingsChecks = (input: BeforeInput): Trouble[] =>
  input.settings.flatMap(({ file, document }) => [
    ...valuesOutOfRange(file, document),
    ...sectionsWithoutFolder(file, document, input.files),
  ]);

const valuesOutOfRange = (file: SettingsFile, document: SettingsDocument): Trouble[] =>
  file.keys.flatMap((key): Trouble[] => {
    const value = document.get(key.path);
    const wrong = value === undefined ? undefined : checkValue(key, value);
    if (value === undefined || wrong === undefined) return [];
    return [
      {
        kind: 'out of range',
        id: `out-of-range:${file.target} ${key.path.join(' ')}`,
        level: 'wrong',
        about: `${file.target} › ${key.path.join(' › ')}`,
        file: file.target,
        path: [...key.path],
        value,
        wrong,
        meaning: key.meaning,
        better: key.default ?? nearestAllowed(key, Number(value)),
      },
    ];
  });

/** The end of the range that a number lies beyond. */
function nearestAllowed({ min, max }: SettingsFile['keys'][number], value: number): string | undefined {
  if (max !== undefined && value > max) return String(max);
  return min !== undefined && value < min ? String(min) : undefined;
}

function sectionsWithoutFolder(
  { target, numbered }: SettingsFile,
  document: SettingsDocument,
  files: readonly PresentFile[],
): Trouble[] {
  if (numbered?.folder === undefined || numbered.inside === undefined) return [];
  const { folder, inside } = numbered;
  const folders = foldersIn(files, inside);
  return numberedSections(document, numbered.section).flatMap((section): Trouble[] => {
    const wrong = wrongFolder(section, folder, folders);
    if (wrong?.value === undefined) return [];
    return [
      {
        kind: 'no such folder',
        id: `no-folder:${target} ${section.section}`,
        level: 'wrong',
        about: `${target} › ${section.section}`,
        file: target,
        section: section.section,
        key: wrong.key,
        value: wrong.value,
        inside,
        near: wrong.near,
      },
    ];
  });
}

/** Names of the folders right inside a folder, as they are spelled. */
export function foldersIn(files: readonly PresentFile[], folder: string): Set<string> {
  const found = new Set<string>();
  const key = nameKey(folder);
  for (const file of files) {
    if (!isUnder(keyOf(file), key)) continue;
    const [name, more] = file.target.slice(folder.length + 1).split('/');
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
