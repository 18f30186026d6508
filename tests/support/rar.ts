import { crc32 } from 'node:zlib';

/**
 * Stored RAR archives by hand, since Debian has no free writer of them; bsdtar and 7z read them as a check on this
 * builder. Sources: "RAR 5.0 archive format" technical note (headers, vint); the RAR 4 technote (block and file
 * headers).
 */
const vint = (value: number): Buffer => {
  const bytes: number[] = [];
  do {
    bytes.push((value & 0x7f) | (value > 0x7f ? 0x80 : 0));
    value = Math.floor(value / 128);
  } while (value > 0);
  return Buffer.from(bytes);
};
const u16 = (value: number): Buffer => Buffer.from([value & 255, (value >> 8) & 255]);
const u32 = (value: number): Buffer => {
  const bytes = Buffer.alloc(4);
  bytes.writeUInt32LE(value >>> 0);
  return bytes;
};

export function rar5(files: Record<string, Uint8Array>): Buffer {
  const block = (body: Buffer, data: Uint8Array = Buffer.alloc(0)): Buffer => {
    const sized = Buffer.concat([vint(body.length), body]);
    return Buffer.concat([u32(crc32(sized)), sized, data]);
  };
  return Buffer.concat([
    Buffer.from([0x52, 0x61, 0x72, 0x21, 0x1a, 0x07, 0x01, 0x00]),
    block(Buffer.concat([vint(1), vint(0), vint(0)])),
    ...Object.entries(files).map(([name, data]) => {
      const bytes = Buffer.from(name);
      return block(
        Buffer.concat([
          vint(2),
          vint(2),
          vint(data.length),
          vint(4),
          vint(data.length),
          vint(0o100644),
          u32(crc32(data)),
          vint(0),
          vint(1),
          vint(bytes.length),
          bytes,
        ]),
        data,
      );
    }),
    block(Buffer.concat([vint(5), vint(0), vint(0)])),
  ]);
}

export function rar4(files: Record<string, Uint8Array>): Buffer {
  const block = (type: number, flags: number, body: Buffer, data: Uint8Array = Buffer.alloc(0)): Buffer => {
    const rest = Buffer.concat([Buffer.from([type]), u16(flags), u16(7 + body.length), body]);
    return Buffer.concat([u16(crc32(rest) & 0xffff), rest, data]);
  };
  return Buffer.concat([
    Buffer.from([0x52, 0x61, 0x72, 0x21, 0x1a, 0x07, 0x00]),
    block(0x73, 0, Buffer.alloc(6)),
    ...Object.entries(files).map(([name, data]) => {
      const bytes = Buffer.from(name);
      return block(
        0x74,
        0x8000,
        Buffer.concat([
          u32(data.length),
          u32(data.length),
          Buffer.from([3]),
          u32(crc32(data)),
          u32(0x5a216000),
          Buffer.from([20, 0x30]),
          u16(bytes.length),
          u32(0o100644),
          bytes,
        ]),
        data,
      );
    }),
    block(0x7b, 0x4000, Buffer.alloc(0)),
  ]);
}
