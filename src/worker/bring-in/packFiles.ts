import { SatchelError, decodeText, kindOf, soundType } from '@/core';
import type { Session } from '../game/session';

/** How much of a text file is shown, in bytes. */
const SHOWN_TEXT = 256 * 1024;

/** Larger files of a pack, in bytes, are neither shown nor played. */
const LARGEST = 64 * 1024 * 1024;

async function read(
  session: Session,
  { id, path }: { id: string; path: string },
  fits: boolean,
  why: string,
): Promise<Uint8Array<ArrayBuffer>> {
  const { pack } = await session.openPack(session.layer(id).packId);
  const entry = pack.entries.find((one) => one.path === path);
  if (!entry || entry.size > LARGEST || !fits) throw new SatchelError('not-text', { path, why });
  return pack.read(path);
}

/** A short text of a pack, as text. @throws SatchelError `not-text` */
export async function readText(session: Session, id: string, path: string): Promise<string> {
  const data = await read(
    session,
    { id, path },
    ['text', 'settings', 'other'].includes(kindOf(path)),
    'it is not a short text',
  );
  return decodeText(data.subarray(0, SHOWN_TEXT)).text.replace(/^\ufeff/, '');
}

/** A sound of a pack, to be heard. @throws SatchelError `not-text` */
export async function readSound(session: Session, id: string, path: string): Promise<Blob> {
  const type = soundType(path);
  const data = await read(session, { id, path }, type !== undefined, 'it is not a sound that can be played here');
  return new Blob([data], type === undefined ? {} : { type });
}
