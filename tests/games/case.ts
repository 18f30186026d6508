/** A number is a file of so many bytes, a string a file with that text, `zip` an archive with those paths inside. */
export type Files = Record<string, string | number | { zip: string[] }>;

/**
 * From a path in the pack, or a folder of it with its `/`, or `**` for all of it, to where that goes; `''` is the pack
 * itself, unopened; `null` stays out, `'?'` is either way; `*` in a target is one new folder of any name.
 */
export type Targets = Record<string, string | null | string[]>;

/** A key of a settings file, or `(launch)` for an option the game is started with. */
export interface WantedSetting {
  file: string;
  path: string[];
  value: string;
}

export interface PackCase {
  name: string;
  why?: string;
  files: Files;
  expect: { mechanism: string; targets?: Targets; outcomes?: Targets[]; settings?: WantedSetting[] };
}

/** An invented game and packs for it, with what a careful person would do with them. */
export interface GameCase {
  name: string;
  roots: { id: string; title: string; files: Files }[];
  packs: PackCase[];
}
