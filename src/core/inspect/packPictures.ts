import type { Pack } from '../archives/pack';
import { inspectImage, type ImageInfo } from '../media/inspectImage';
import { kindOf } from '../media/kinds';
import { extensionOf } from '../paths/paths';
import type { WorkOptions } from '../progress';

/** More pictures than this are not looked at one by one. */
const MOST = 20_000;
/** Where whole files have to be read, pictures above this many bytes in all are not. */
const MOST_BYTES = 512 * 1024 ** 2;

/** A few bytes tell everything but a JPEG's size, which may stand behind its other parts. */
const headOf = (path: string): number => (/^jpe?g$/.test(extensionOf(path)) ? 64 * 1024 : 160);

/** Reads the headers of a pack's pictures and textures. Those that cannot be read are left out of the map. */
export async function inspectPictures(
  pack: Pack,
  { signal, onProgress }: WorkOptions = {},
): Promise<Map<string, ImageInfo>> {
  const found = new Map<string, ImageInfo>();
  const pictures = pack.entries
    .filter(({ path, size }) => size > 0 && ['picture', 'texture'].includes(kindOf(path)))
    .slice(0, MOST);
  if (!pack.peekMany && pictures.reduce((sum, { size }) => sum + size, 0) > MOST_BYTES) return found;
  const options = signal ? { signal } : {};
  let done = 0;
  for (const bytes of [160, 64 * 1024]) {
    const paths = pictures.map(({ path }) => path).filter((path) => headOf(path) === bytes);
    if (paths.length === 0) continue;
    for await (const { path, data } of pack.peekMany
      ? pack.peekMany(paths, bytes, options)
      : pack.readMany(paths, options)) {
      const info = inspectImage(data, path);
      if (info) found.set(path, info);
      if (++done % 50 === 0)
        onProgress?.({ phase: 'Looking at its pictures', done, total: pictures.length, unit: 'files' });
    }
  }
  return found;
}
