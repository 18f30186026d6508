import { SatchelError } from '../errors';
import { byPath } from '../paths/paths';
import type { Dialect } from '../settings/dialects';
import type { SettingsDocument } from '../settings/document';
import { isWellFormed, openSettings } from '../settings/openSettings';
import { mergePieces } from './mergeText';

/** Called where both sides want different values for one key. @returns what counts; undefined: the key goes */
export type Settle = (
  path: string[],
  base: string | undefined,
  left: string | undefined,
  right: string | undefined,
) => string | undefined;

/**
 * Characters read in all: each change reads the text anew, and a huge file with many changes must not stop everything.
 */
const MOST_WORK = 1e9;

type Values = Map<string, { path: string[]; value: string }>;

const id = (path: readonly string[]): string => path.join('\n');

/** The values of a document by path; of equal keys the last one counts. */
function valuesOf(document: SettingsDocument): Values {
  return new Map(document.entries().map(({ path, value }) => [id(path), { path, value }]));
}

/**
 * Merges two versions of a settings text by their keys: a key that one side changed takes that side's value, one that
 * neither changed stays as it is. The lines are merged first, for both sides' comments and order; where they come to
 * other values, those are put right.
 *
 * @param versions.base undefined where there is no text that both come from
 * @returns the merged text; undefined where the form cannot hold what it should
 */
export function mergeKeys(versions: Versions, dialect: Dialect, settle: Settle): string | undefined {
  const wanted = wantedValues(versions, dialect, settle);
  const ground = groundOf(versions, dialect);
  const there = valuesOf(ground);
  const changes =
    [...wanted].filter(([key, { value }]) => there.get(key)?.value !== value).length +
    [...there.keys()].filter((key) => !wanted.has(key)).length;
  if (changes * ground.text.length > MOST_WORK) return undefined;
  try {
    let document = ground;
    for (const [key, { path }] of there) if (!wanted.has(key)) document = document.remove(path);
    for (const [key, { path, value }] of wanted)
      if (there.get(key)?.value !== value) document = document.set(path, value);
    return isWellFormed(document.text, dialect) && says(document, wanted) ? document.text : undefined;
  } catch (error) {
    if (error instanceof SatchelError && error.code === 'bad-value') return undefined;
    throw error;
  }
}

/** Both sides, and the text that they come from. */
interface Versions {
  base: string | undefined;
  left: string;
  right: string;
}

/** What counts of each key: the side that changed it, or what the player settles. */
function wantedValues({ base, left, right }: Versions, dialect: Dialect, settle: Settle) {
  const [mine, theirs, before] = [left, right, base ?? ''].map((text) => valuesOf(openSettings(text, dialect))) as [
    Values,
    Values,
    Values,
  ];
  const wanted: Values = new Map();
  const paths = new Map([...before, ...mine, ...theirs].map(([key, { path }]) => [key, path]));
  for (const [key, path] of [...paths].sort(([a], [b]) => byPath(a, b))) {
    const [b, l, r] = [before.get(key)?.value, mine.get(key)?.value, theirs.get(key)?.value];
    const value = l === r || r === b ? l : l === b ? r : settle(path, b, l, r);
    if (value !== undefined) wanted.set(key, { path, value });
  }
  return wanted;
}

/** The longer of two texts, whichever side it is on. */
const fuller = (a: string, b: string): string => {
  if (a.length !== b.length) return a.length > b.length ? a : b;
  return a < b ? a : b;
};

/** The lines of both sides, merged: where they are in each other's way the fuller ones, since values are put right. */
function groundOf({ base, left, right }: Versions, dialect: Dialect): SettingsDocument {
  const laid = mergePieces(base ?? '', left, right)
    .map((piece) => (piece.kind === 'settled' ? piece.text : fuller(piece.left, piece.right)))
    .join('');
  return openSettings(isWellFormed(laid, dialect) ? laid : (base ?? fuller(left, right)), dialect);
}

/** Does a document hold just these values? */
function says(document: SettingsDocument, wanted: ReadonlyMap<string, { value: string }>): boolean {
  const values = valuesOf(document);
  return values.size === wanted.size && [...values].every(([key, { value }]) => wanted.get(key)?.value === value);
}
