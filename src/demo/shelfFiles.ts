import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';

/** Made by scripts/make-demo.ts before the server starts. */
const FOLDER = path.join(process.cwd(), '.satchel/demo');

const TYPES: Record<string, string> = { '.zip': 'application/zip', '.json': 'application/json', '.wav': 'audio/wav' };

/** Opens one of the demo's files by its plain name; undefined where there is none. */
export async function openDownload(
  name: string,
): Promise<{ stream: ReadableStream<Uint8Array>; size: number; type: string } | undefined> {
  if (!/^[a-z0-9][a-z0-9.-]*\.(zip|json|wav|gz)$/.test(name)) return undefined;
  const file = path.join(/* turbopackIgnore: true */ FOLDER, name);
  try {
    const { size } = await stat(file);
    return {
      stream: Readable.toWeb(createReadStream(file)) as ReadableStream<Uint8Array>,
      size,
      type: TYPES[path.extname(name)] ?? 'application/octet-stream',
    };
  } catch {
    // There is no such download on the shelf.
    return undefined;
  }
}
