import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { markedOrigin } from './mark';

/** Writes a mark as a browser does; false where this disk keeps none. */
function mark(file: string, name: string, value: string): boolean {
  const script = 'import os, sys\nos.setxattr(sys.argv[1], sys.argv[2], sys.argv[3].encode())';
  return spawnSync('python3', ['-c', script, file, name, value]).status === 0;
}
const fresh = (name: string): string => {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'satchel-mark-')), name);
  writeFileSync(file, 'x');
  return file;
};
const canMark = process.platform === 'linux' && mark(fresh('try'), 'user.xdg.origin.url', 'https://x.example/');

describe('the mark of a download', () => {
  it.skipIf(!canMark)(
    'says where it came from (attributes written by python3; skipped where the disk keeps none)',
    async () => {
      const file = fresh("boats; rm -rf '$HOME'.zip");
      expect(await markedOrigin(file)).toBeUndefined();
      mark(file, 'user.xdg.origin.url', 'https://cdn.example/boats.zip?token=1');
      expect(await markedOrigin(file)).toBe('https://cdn.example/boats.zip?token=1');
      mark(file, 'user.xdg.referrer.url', 'https://packs.example/boats/7');
      expect(await markedOrigin(file)).toBe('https://packs.example/boats/7');
      mark(file, 'user.xdg.referrer.url', 'javascript:alert(1)');
      expect(await markedOrigin(file)).toBe('https://cdn.example/boats.zip?token=1');
    },
  );

  it('of a file that is not there is none', async () => {
    expect(await markedOrigin(path.join(tmpdir(), 'satchel-not-there.zip'))).toBeUndefined();
  });
});
