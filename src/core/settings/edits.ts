import type { SettingsDocument } from './document';

/** One wanted change of one key. Without a value the key is to go. */
export interface Edit {
  path: string[];
  value?: string;
}

/** An edit that was made, with what stood there before: all that is needed to take it back. */
export interface AppliedEdit extends Edit {
  before?: string;
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
    applied.push({ ...edit, ...(before === undefined ? {} : { before }) });
    if (before !== edit.value) document = put(document, edit.path, edit.value);
  }
  return { document, applied };
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
    if (document.get(edit.path) === edit.value) document = put(document, edit.path, edit.before);
    else left.push(edit);
  }
  return { document, left };
}
