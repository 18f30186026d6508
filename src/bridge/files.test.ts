import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { expect, it, vi } from 'vitest';
import { LARGE } from '@/core';
import { DiskFolder } from './disk';
import { digestsOf } from './files';

it('tells checksums of files of any size, of which the large ones are never held whole', async () => {
  const root = mkdtempSync(path.join(tmpdir(), 'satchel-digests-'));
  try {
    const large = Buffer.alloc(LARGE + 5_000_001, 'Tidy Satchel ');
    writeFileSync(path.join(root, 'small'), 'a few bytes');
    writeFileSync(path.join(root, 'large'), large);
    const folder = DiskFolder.open(root);
    const whole = [vi.spyOn(folder, 'read'), vi.spyOn(folder, 'readBytes')];
    const names = ['large', 'missing', 'small'];
    // `sha256sum`, and the checksum that zlib puts near the end of a gzip file (RFC 1952, 2.3.1).
    const sums =
      execFileSync('sha256sum', ['large', 'small'], { cwd: root })
        .toString()
        .match(/^[0-9a-f]{64}/gm) ?? [];
    expect(await digestsOf(folder, 'sha256', names)).toEqual([sums[0], null, sums[1]]);
    const crc = (bytes: Buffer): string => gzipSync(bytes).subarray(-8).readUInt32LE(0).toString(16);
    expect(await digestsOf(folder, 'crc32', names)).toEqual([crc(large), null, crc(Buffer.from('a few bytes'))]);
    for (const read of whole) expect(read).not.toHaveBeenCalledWith('large');
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
});
