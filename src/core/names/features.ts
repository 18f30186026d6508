import { extensionOf, nameKey } from '../paths/paths';

/**
 * What a folder looks like from outside, as words that can be counted: `F:` a file straight in it (its own name and
 * numbers masked), `D:` a folder in it, `E:` an ending and the folder inside where files of that ending lie.
 */
export type Features = Map<string, number>;

/** How deep inside a folder files still say what kind of folder it is. */
export const FEATURE_DEPTH = 3;

/** So many names of files straight in a folder are looked at: markers are few, contents are many. */
const MOST_NAMES = 40;

/** A file's name with the folder's own name as `*` and numbers as `#`: what alike folders have in common. */
function maskName(file: string, folder: string): string {
  const masked = folder.length >= 2 ? file.replaceAll(folder, '*') : file;
  return masked.replace(/\d+/g, '#');
}

/** The endings of some names, each once. */
function endingsOf(names: Iterable<string>): Set<string> {
  const found = new Set<string>();
  for (const name of names) found.add(extensionOf(name));
  return found;
}

/**
 * Adds what one folder's files say of the folder `member`, which is it or lies above it.
 *
 * @param rel keys of the folders from `member` down to the files
 * @param member the key of the member's own name
 * @param here.files keys of the files' own names
 * @param here.endings those of the files, made once for all the folders above them
 */
export function addFeatures(
  into: Features,
  rel: readonly string[],
  member: string,
  { files, endings }: { files: Iterable<string>; endings: ReadonlySet<string> },
): void {
  const add = (feature: string) => into.set(feature, (into.get(feature) ?? 0) + 1);
  if (rel[0] !== undefined) add(`D:${maskName(rel[0], member)}`);
  else {
    let names = 0;
    for (const file of files) {
      if (names++ >= MOST_NAMES) break;
      add(`F:${maskName(file, member)}`);
    }
  }
  const where = rel.map((name) => maskName(name, member)).join('/');
  for (const ending of endings) {
    add(`E:${where}|${ending}`);
    // Whatever the folders inside are called: how deep files of the ending lie.
    if (rel.length > 0) add(`G:${rel.length}|${ending}`);
  }
}

/** The features of a folder of a pack. `name` is what the folder is called; `''` where it is the pack itself. */
export function featuresOf(
  name: string,
  folders: Iterable<{ rel: readonly string[]; fileKeys: readonly string[] }>,
): Features {
  const found: Features = new Map();
  for (const { rel, fileKeys } of folders)
    if (rel.length < FEATURE_DEPTH)
      addFeatures(found, rel, nameKey(name), { files: fileKeys, endings: endingsOf(fileKeys) });
  return found;
}
