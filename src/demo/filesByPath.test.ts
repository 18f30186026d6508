import path from 'node:path';
import { writeFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { has, runTool, temporaryFolder } from '../../tests/support/tools';
import { text, zip, zipLarge } from './filesByPath';

const FILES = {
  'a/one.txt': text('one '.repeat(500)),
  'a/b/two.dat': Uint8Array.from({ length: 3000 }, (_, i) => (i * 7919) % 251),
  'empty.txt': text(''),
};

// Read by Info-ZIP's unzip, which checks every CRC-32: https://infozip.sourceforge.net/UnZip.html
describe.skipIf(!has('unzip'))('archives of the demo', () => {
  it.each([
    ['small ones', zip],
    ['large ones', zipLarge],
  ])('%s hold what was put in, and are the same each time', (_, make) => {
    const at = path.join(temporaryFolder(), 'made.zip');
    writeFileSync(at, make(FILES));
    expect(runTool('unzip', ['-tq', at]).toString()).toContain('No errors');
    for (const [name, bytes] of Object.entries(FILES))
      if (bytes.length > 0) expect(new Uint8Array(runTool('unzip', ['-p', at, name]))).toEqual(bytes);
    expect(make(FILES)).toEqual(new Uint8Array(make({ ...FILES })));
  });
});
