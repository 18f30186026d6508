/** A text file's bytes as text, with the way back. */
export interface DecodedText {
  text: string;
  encoding: 'utf-8' | 'utf-16le' | 'utf-16be' | 'one byte a character';
  /**
   * Exact inverse: `encode(text)` gives the bytes again. Undefined where a character cannot be written in this
   * encoding.
   */
  encode(text: string): Uint8Array<ArrayBuffer> | undefined;
}

const same = (a: Uint8Array, b: Uint8Array): boolean => a.length === b.length && a.every((byte, i) => byte === b[i]);

const utf8 = (text: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(text);

const utf16 =
  (littleEndian: boolean) =>
  (text: string): Uint8Array<ArrayBuffer> => {
    const bytes = new Uint8Array(text.length * 2);
    const view = new DataView(bytes.buffer);
    for (let i = 0; i < text.length; i++) view.setUint16(i * 2, text.charCodeAt(i), littleEndian);
    return bytes;
  };

const oneByte = (text: string): Uint8Array<ArrayBuffer> | undefined => {
  const bytes = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code > 0xff) return undefined;
    bytes[i] = code;
  }
  return bytes;
};

/**
 * Decodes a settings file so that not one byte can be lost: UTF-16 by its byte order mark, else UTF-8 where the bytes
 * are valid, else one character a byte. A byte order mark stays in the text as its first character.
 */
export function decodeText(bytes: Uint8Array): DecodedText {
  const marks = [bytes[0], bytes[1]];
  if ((marks[0] === 0xff && marks[1] === 0xfe) || (marks[0] === 0xfe && marks[1] === 0xff)) {
    const little = marks[0] === 0xff;
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const units: string[] = [];
    for (let i = 0; i + 1 < bytes.length; i += 2) units.push(String.fromCharCode(view.getUint16(i, little)));
    if (bytes.length % 2 === 0)
      return { text: units.join(''), encoding: little ? 'utf-16le' : 'utf-16be', encode: utf16(little) };
  }
  try {
    const text = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
    if (same(utf8(text), bytes)) return { text, encoding: 'utf-8', encode: utf8 };
  } catch {
    // Not UTF-8; the next form takes any bytes.
  }
  let text = '';
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return { text, encoding: 'one byte a character', encode: oneByte };
}
