import type { Folder } from '@/core';

/** A text file of a game; undefined where it is not there. */
export async function textOf(folder: Folder, path: string): Promise<string | undefined> {
  return (await folder.stat(path)) ? (await folder.read(path)).text() : undefined;
}

/**
 * How the made-up games read their settings: names in any case, the first of equal keys counts, blanks around do not.
 */
export function gameValue(text: string, section: string, key: string): string | undefined {
  let inside = false;
  for (const raw of text.split(/\r?\n/)) {
    const line = raw.trim();
    if (line.startsWith('[')) inside = line.toLowerCase() === `[${section.toLowerCase()}]`;
    else if (inside && !line.startsWith(';')) {
      const cut = line.indexOf('=');
      if (cut > 0 && line.slice(0, cut).trim().toLowerCase() === key.toLowerCase()) return line.slice(cut + 1).trim();
    }
  }
  return undefined;
}
