import { ZipDeflate, ZipPassThrough } from 'fflate';

/**
 * One file on its way into a ZIP. Marked as made on Unix (PKWARE APPNOTE 4.4.2): for names marked as MS-DOS, unzip would apply
 * a code page even to UTF-8.
 *
 * @param store keeps it as it is: what is packed already gains nothing from being packed again
 */
export function zipEntry(name: string, modified: Date, store: boolean): ZipDeflate | ZipPassThrough {
  const file = store ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 6 });
  file.mtime = modified;
  file.os = 3;
  file.attrs = (0o100644 << 16) >>> 0;
  return file;
}
