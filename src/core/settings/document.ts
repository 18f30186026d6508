/** Where a value stands in a settings file: section and key, or key alone. */
export type SettingsPath = readonly string[];

export interface SettingsEntry {
  path: string[];
  value: string;
  /** Counted from 1. */
  line: number;
}

/**
 * A settings file as a value: never changed, always lossless. `openSettings(t).text === t` for every text, and a
 * change touches only the bytes it must.
 */
export interface SettingsDocument {
  readonly text: string;
  get(path: SettingsPath): string | undefined;
  entries(): SettingsEntry[];
  /**
   * The document with that value. A new key goes to the end of its section, a new section to the end of the file.
   *
   * @throws SatchelError `bad-value` where the file's form cannot hold the value
   */
  set(path: SettingsPath, value: string): SettingsDocument;
  /** The document without that key; unchanged where there is none. */
  remove(path: SettingsPath): SettingsDocument;
}

/** A change computed but not yet made: `length` characters at `offset` become `content`. */
export interface TextEdit {
  offset: number;
  length: number;
  content: string;
}

/** Makes computed changes. They must not overlap; order does not matter. */
export function applyEdits(text: string, edits: readonly TextEdit[]): string {
  let result = '';
  let at = 0;
  for (const { offset, length, content } of [...edits].sort((a, b) => a.offset - b.offset)) {
    result += text.slice(at, offset) + content;
    at = offset + length;
  }
  return result + text.slice(at);
}
