import type { SettingsDocument } from './document';

/** One wanted change of one key. Without a value the key is to go. */
export interface Edit {
  path: string[];
  value?: string;
}

/** An edit that was made, with what stood there before: all that is needed to take it back. */
export interface AppliedEdit extends Edit {
  before?: string;
  /** The edit made one more of what a list holds, and the key in it: the path of that is so long. */
  made?: number | undefined;
}

/** A key's path as one text, by which keys are told apart. */
export const pathId = (path: readonly string[]): string => path.join('\n');

const put = (document: SettingsDocument, path: readonly string[], value: string | undefined): SettingsDocument =>
  value === undefined ? document.remove(path) : document.set(path, value);

/** Makes edits in order. Those whose value stands already are recorded too, so that the ledger can tell. */
export function applySettings(
  document: SettingsDocument,
  edits: readonly Edit[],
): { document: SettingsDocument; applied: AppliedEdit[] } {
  const applied: AppliedEdit[] = [];
  for (const edit of edits) {
    const before = document.get(edit.path);
    const made = before === undefined ? thingMade(document, edit) : undefined;
    applied.push({ ...edit, ...(before === undefined ? {} : { before }), ...(made === undefined ? {} : { made }) });
    if (before !== edit.value) document = put(document, edit.path, edit.value);
  }
  return { document, applied };
}

const startsWith = (path: readonly string[], start: readonly string[]): boolean =>
  start.every((name, i) => path[i] === name);

/** Objects of a list and elements beside each other are told by numbers: `2`, `ship#3`. */
const NUMBERED = /(?:^|#)\d+$/;

/** How long the path is of the thing that an edit makes, to put its key into. */
function thingMade(document: SettingsDocument, { path, value }: Edit): number | undefined {
  const length = path.slice(0, -1).findLastIndex((name) => NUMBERED.test(name)) + 1;
  const thing = path.slice(0, length);
  const isThere = length === 0 || document.entries().some((entry) => startsWith(entry.path, thing));
  return isThere || value === undefined ? undefined : length;
}

/** The key of a thing goes with the thing, where that was made for it and nobody has put anything else into it. */
function withoutMade(document: SettingsDocument, { path, made }: AppliedEdit): SettingsDocument | undefined {
  const thing = path.slice(0, made);
  const inIt = document.entries().filter((entry) => startsWith(entry.path, thing));
  return made === undefined || inIt.length !== 1 ? undefined : document.remove(thing);
}

/**
 * Takes edits back, last first. A key that somebody changed since is left as it is and reported: what the player or
 * the game wrote afterwards is theirs.
 */
export function takeBackSettings(
  document: SettingsDocument,
  applied: readonly AppliedEdit[],
): { document: SettingsDocument; left: AppliedEdit[] } {
  const left: AppliedEdit[] = [];
  for (const edit of [...applied].reverse()) {
    if (document.get(edit.path) === edit.value)
      document = withoutMade(document, edit) ?? put(document, edit.path, edit.before);
    else left.push(edit);
  }
  return { document, left };
}
