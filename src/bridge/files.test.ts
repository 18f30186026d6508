import { createHash, randomBytes } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import { afterAll, describe, expect, it } from 'vitest';
import { DiskFolder } from './disk';
import { takePart } from './files';
import { PART_BYTES } from './wire';

const root = mkdtempSync(path.join(tmpdir(), 'satchel-parts-'));
afterAll(() => rmSync(root, { recursive: true, force: true }));
const folder = DiskFolder.open(root);
const PACK = 'packs/p.zip';

const put = (bytes: Uint8Array<ArrayBuffer>, said = bytes.length) => new Request('http://127.0.0.1/', { method: 'PUT', body: bytes, headers: { 'Content-Length': String(said) } });
const part = (bytes: Uint8Array<ArrayBuffer>, at: number, total: number, said?: number) => takePart(folder, PACK, { at, total }, put(bytes, said));
const names = async () => {
  const found: string[] = [];
  for await (const { path: of } of folder.list()) found.push(of);
  return found;
};

describe('a file that comes in parts', () => {
  it('law: cut anywhere, it is the same file, and has its name only when the last part has come', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: 5000 }), fc.array(fc.integer({ min: 1, max: 2000 }), { minLength: 1, maxLength: 8 }), async (total, cuts) => {
        await folder.remove(PACK);
        const whole = new Uint8Array(randomBytes(total));
        for (let at = 0, i = 0; at < total; i++) {
          expect(await folder.stat(PACK)).toBeUndefined();
          const end = Math.min(total, at + (cuts[i % cuts.length] as number));
          await part(whole.slice(at, end), at, total);
          at = end;
        }
        expect(createHash('sha256').update(readFileSync(path.join(root, PACK))).digest('hex')).toBe(createHash('sha256').update(whole).digest('hex'));
        expect(await names()).toEqual([PACK]);
      }),
      { numRuns: 40 },
    );
  });

  it('parts that are missing, too long or broken off are refused; from its beginning it can be sent again, over an older one', async () => {
    await part(Uint8Array.of(7), 0, 1);
    const refused = { code: 'folder-refused' };
    await part(Uint8Array.of(1, 2), 0, 5);
    await expect(part(Uint8Array.of(4), 3, 5)).rejects.toMatchObject(refused);
    await expect(part(Uint8Array.of(2), 1, 5)).rejects.toMatchObject(refused);
    await expect(part(Uint8Array.of(3, 4, 5, 6), 2, 5)).rejects.toMatchObject(refused);
    await expect(part(Uint8Array.of(3), 2, 5, 2)).rejects.toMatchObject({ ...refused, failure: { details: { why: 'not all of it came' } } });
    await expect(part(Uint8Array.of(3, 4, 5), 2, 5)).rejects.toMatchObject({ ...refused, failure: { details: { why: 'a part of it is missing' } } });
    await expect(part(new Uint8Array(1), 0, 2 ** 52)).rejects.toMatchObject({ ...refused, failure: { details: { why: 'the disk is full' } } });
    await expect(part(new Uint8Array(PART_BYTES + 1), 0, PART_BYTES + 1)).rejects.toMatchObject({ ...refused, failure: { details: { why: 'a part is too long' } } });
    // What was there before is there still.
    expect(readFileSync(path.join(root, PACK))).toEqual(Buffer.of(7));
    await part(Uint8Array.of(1, 2), 0, 3);
    await part(Uint8Array.of(3), 2, 3);
    expect(readFileSync(path.join(root, PACK))).toEqual(Buffer.of(1, 2, 3));
  });
});
