import { describe, expect, it } from 'vitest';
import { ERRORS, SatchelError, packNoteSchema, type ErrorCode } from '@/core';
import type { Ask } from '@/folders/bridge';
import { BridgeFolder } from '@/folders/bridgeFolder';
import { packThere } from './packThere';

/** A server that has no such pack, and answers so when it is to find it again. */
const server = (answer: () => Response): { asked: string[]; vault: BridgeFolder } => {
  const asked: string[] = [];
  const how: Ask = async (address) => {
    const verb = /vault\/(\w+)/.exec(address)?.[1] ?? '';
    asked.push(verb);
    return verb === 'stat' ? Response.json(null) : answer();
  };
  return { asked, vault: new BridgeFolder('0123456789abcdef', 'vault', how) };
};

const note = (more: object) =>
  packNoteSchema.parse({
    id: 'p',
    game: 'g',
    file: 'x.7z',
    size: 10,
    sha256: 'a'.repeat(64),
    added: 1,
    there: true,
    ...more,
  });

const refused = (code: ErrorCode) => () =>
  Response.json({ failure: new SatchelError(code, {}).failure }, { status: 409 });

describe('a pack beside the originals that was deleted there', () => {
  it('a plain ZIP is taken again as it is, anything else unpacked again', async () => {
    const nothing = () => Response.json(null);
    const plain = server(nothing);
    expect(
      await packThere(plain.vault, note({ file: 'x.zip', format: 'zip', kept: { size: 10, crc32: 1 } })),
    ).toBeUndefined();
    expect(plain.asked).toEqual(['stat', 'take']);
    const other = server(() => new Response('{"unpacked":null}\n'));
    expect(await packThere(other.vault, note({ format: '7z', kept: { size: 90, crc32: 1 } }))).toBeUndefined();
    expect(other.asked).toEqual(['stat', 'unpack']);
    // A locked ZIP was unpacked, too: it is larger than it came.
    const locked = server(() => new Response('{"unpacked":null}\n'));
    await packThere(locked.vault, note({ file: 'x.zip', format: 'zip', kept: { size: 90, crc32: 1 } }));
    expect(locked.asked).toEqual(['stat', 'unpack']);
  });

  it.each(['encrypted', 'needs-copy', 'still-coming', 'folder-refused', 'damaged'] as const)(
    '%s: it is lost, and the game opens all the same',
    async (code) => {
      expect(Object.keys(ERRORS)).toContain(code);
      expect(await packThere(server(refused(code)).vault, note({ format: '7z' }))).toBeUndefined();
    },
  );

  it('where the server does not answer, nobody says that it is lost', async () => {
    const gone = server(() => {
      throw new SatchelError('server-gone');
    });
    await expect(packThere(gone.vault, note({ format: '7z' }))).rejects.toMatchObject({ code: 'server-gone' });
  });
});
