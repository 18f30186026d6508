import { zipSync, type Zippable } from 'fflate';

/** Files by path. */
export type Files = Record<string, Uint8Array>;

/** Text as bytes. */
export const text = (value: string): Uint8Array => new TextEncoder().encode(value);

/** Text with CRLF line ends, as games on the desktop write it. */
export const crlf = (value: string): Uint8Array => text(value.replaceAll('\n', '\r\n'));

/** Every path moved under a folder. */
export const under = (folder: string, files: Files): Files => Object.fromEntries(Object.entries(files).map(([path, data]) => [`${folder}/${path}`, data]));

/** A ZIP with a fixed date, so that the same files give the same archive. */
export function zip(files: Files, level: 0 | 1 | 6 = 6): Uint8Array {
  const entries: Zippable = {};
  for (const [path, data] of Object.entries(files)) entries[path] = [data, { level, mtime: new Date(2025, 4, 17, 12, 0, 0) }];
  return zipSync(entries);
}
