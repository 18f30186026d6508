import { unzipSync } from 'fflate';
import type { Folder, Progress } from '@/core';

export interface HedgerowFolders {
  hall: Folder;
}

interface Options {
  signal?: AbortSignal;
  onProgress?: (progress: Progress) => void;
}

/** Width and height of a PNG, from its first chunk (W3C PNG, IHDR). */
const sizeOf = (data: Uint8Array): { width: number; height: number } | undefined =>
  data[1] === 0x50 && data.length > 24
    ? {
        width: new DataView(data.buffer, data.byteOffset).getUint32(16),
        height: new DataView(data.buffer, data.byteOffset).getUint32(20),
      }
    : undefined;

/**
 * Starts Hedgerow Hall: opens its core archive and every zipped pack by its own rules, and writes hall.log. A picture
 * above the edition's limit stops it at its main menu: the log ends there.
 */
export async function runHedgerow({ hall }: HedgerowFolders, { signal, onProgress }: Options = {}): Promise<void> {
  const lines: string[] = [];
  const say = (what: string) => lines.push(`hall> ${what}`);
  const write = () => hall.write('hall.log', new TextEncoder().encode(`${lines.join('\r\n')}\r\n`));
  say('Hedgerow Hall 3.2 unlocks the gate');
  const limit = (await hall.stat('pocket.edition')) ? 512 : 2048;
  const open = async (path: string): Promise<Record<string, Uint8Array> | undefined> => {
    try {
      return unzipSync(new Uint8Array(await (await hall.read(path)).arrayBuffer()));
    } catch {
      // This game passes over what it cannot open.
      return undefined;
    }
  };
  const core = await open('core.hha');
  if (!core) {
    say('!! core.hha does not open');
    return write();
  }
  for (const wanted of ['rooms/porch.room', 'rooms/kitchen.room', 'text/en.lang'])
    if (!core[wanted]) say(`! core.hha lacks ${wanted}`);
  const packs: string[] = [];
  for await (const { path } of hall.list('packs')) packs.push(path);
  const ids = new Map<string, string>();
  const titles = new Set<string>();
  const needs: { path: string; need: string }[] = [];
  let rooms = Object.keys(core).filter((name) => name.endsWith('.room')).length;
  let tooLarge: string | undefined;
  for (const [i, path] of packs.sort().entries()) {
    if (signal?.aborted) throw new DOMException('stopped', 'AbortError');
    onProgress?.({ phase: 'The hall opens packs', done: i, total: packs.length, unit: 'files' });
    // What is not zipped, or lies deeper, is not seen.
    if (!/^packs\/[^/]+\.zip$/i.test(path)) continue;
    const files = await open(path);
    const leaf = files?.['pack.leaf'];
    if (!files || !leaf) {
      say(`! ${path} is no pack: ${files ? 'no pack.leaf at its top' : 'it does not open'}`);
      continue;
    }
    let about: { id?: unknown; title?: unknown; needs?: unknown };
    try {
      about = JSON.parse(new TextDecoder().decode(leaf)) as typeof about;
    } catch {
      // This game says so in its log.
      say(`! ${path} has a pack.leaf that cannot be read`);
      continue;
    }
    const id = String(about.id);
    if (ids.has(id)) {
      say(`! ${path} is passed over: ${ids.get(id) ?? ''} has the id ${id}`);
      continue;
    }
    ids.set(id, path);
    titles.add(String(about.title).toLowerCase());
    if (Array.isArray(about.needs)) for (const need of about.needs) needs.push({ path, need: String(need) });
    const found = Object.keys(files).filter((name) => name.startsWith('rooms/') && name.endsWith('.room')).length;
    rooms += found;
    for (const [name, data] of Object.entries(files)) {
      const size = name.endsWith('.png') ? sizeOf(data) : undefined;
      if (size && Math.max(size.width, size.height) > limit) tooLarge ??= `${path}!/${name}`;
    }
    say(`pack ${id} with ${found} rooms`);
  }
  for (const { path, need } of needs)
    if (!titles.has(need.toLowerCase())) say(`! ${path} needs “${need}”, which is not here`);
  say(`${ids.size} packs, ${rooms} rooms`);
  // The picture is loaded when the main menu is drawn: nothing is written after that.
  if (tooLarge === undefined) say('welcome');
  return write();
}
