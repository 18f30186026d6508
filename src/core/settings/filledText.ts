import { decodeText } from './encoding';
import type { Dialect } from './dialects';
import { openSettings } from './openSettings';

/**
 * A text file with every key that another one has and it has not. What it has stays as it is, letter for letter.
 *
 * @param bytes the file to fill up
 * @param from the file that the keys come from
 * @returns undefined where its encoding cannot hold what is to come in
 */
export function filledText(
  bytes: Uint8Array<ArrayBuffer>,
  from: Uint8Array<ArrayBuffer>,
  dialect: Dialect,
): Uint8Array<ArrayBuffer> | undefined {
  const { text, encode } = decodeText(bytes);
  let document = openSettings(text, dialect);
  for (const { path, value } of openSettings(decodeText(from).text, dialect).entries())
    if (document.get(path) === undefined) document = document.set(path, value);
  return encode(document.text);
}
