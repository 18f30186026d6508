/*
 * Manifest lines of BagIt (RFC 8493, section 2.1.3): a hash, blanks, a name in which CR, LF and % are percent-encoded.
 */

export const encodeName = (name: string): string =>
  name.replace(/[%\r\n]/g, (one) => `%${one.charCodeAt(0).toString(16).toUpperCase().padStart(2, '0')}`);

const decodeName = (name: string): string =>
  name.replace(/%(0A|0D|25)/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));

/** Names with their SHA-256. @throws what `bad` makes where a line cannot be read */
export function readManifest(text: string, bad: (why: string) => Error): Map<string, string> {
  const found = new Map<string, string>();
  for (const line of text.split(/\r\n|\n|\r/)) {
    if (line === '') continue;
    const parts = /^([0-9a-f]{64})[ \t]+\*?(.+)$/i.exec(line);
    const path = parts && decodeName(parts[2] as string);
    if (!path || found.has(path)) throw bad('its manifest has a line that cannot be read, or names a file twice');
    found.set(path, (parts[1] as string).toLowerCase());
  }
  return found;
}
