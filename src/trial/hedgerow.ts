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
  const say = (what: string) => void lines.push(`hall> ${what}`);
  const write = () => hall.write('hall.log', new TextEncoder().encode(`${lines.join('\r\n')}\r\n`));
  say('Hedgerow Hall 3.2 unlocks the gate');
  const limit = (await hall.stat('pocket.edition')) ? 512 : 2048;
  const core = await open(hall, 'core.hha');
  if (!core) {
    say('!! core.hha does not open');
    return write();
  }
  for (const wanted of ['rooms/porch.room', 'rooms/kitchen.room', 'text/en.lang'])
    if (!core[wanted]) say(`! core.hha lacks ${wanted}`);
  const packs: string[] = [];
  for await (const { path } of hall.list('packs')) packs.push(path);
  const gate = new Gate(limit, say);
  gate.rooms = Object.keys(core).filter((name) => name.endsWith('.room')).length;
  for (const [i, path] of packs.sort().entries()) {
    if (signal?.aborted) throw new DOMException('stopped', 'AbortError');
    onProgress?.({ phase: 'The hall opens packs', done: i, total: packs.length, unit: 'files' });
    // What is not zipped, or lies deeper, is not seen.
    if (/^packs\/[^/]+\.zip$/i.test(path)) gate.letIn(path, await open(hall, path));
  }
  gate.close();
  // The picture is loaded when the main menu is drawn: nothing is written after that.
  if (gate.tooLarge === undefined) say('welcome');
  return write();
}

type Archive = Record<string, Uint8Array>;

async function open(hall: Folder, path: string): Promise<Archive | undefined> {
  try {
    return unzipSync(new Uint8Array(await (await hall.read(path)).arrayBuffer()));
  } catch {
    // This game passes over what it cannot open.
    return undefined;
  }
}

interface About {
  id?: unknown;
  title?: unknown;
  needs?: unknown;
}

/** Packs as they come in, one after the other. */
class Gate {
  rooms = 0;
  /** A picture above the edition's limit. */
  tooLarge: string | undefined;
  private readonly ids = new Map<string, string>();
  private readonly titles = new Set<string>();
  private readonly needs: { path: string; need: string }[] = [];

  constructor(
    private readonly limit: number,
    private readonly say: (what: string) => void,
  ) {}

  letIn(path: string, files: Archive | undefined): void {
    const about = this.read(path, files);
    if (!files || !about) return;
    const id = String(about.id);
    if (this.ids.has(id)) {
      this.say(`! ${path} is passed over: ${this.ids.get(id) ?? ''} has the id ${id}`);
      return;
    }
    this.ids.set(id, path);
    this.titles.add(String(about.title).toLowerCase());
    if (Array.isArray(about.needs)) for (const need of about.needs) this.needs.push({ path, need: String(need) });
    const found = Object.keys(files).filter((name) => name.startsWith('rooms/') && name.endsWith('.room')).length;
    this.rooms += found;
    for (const [name, data] of Object.entries(files)) {
      const size = name.endsWith('.png') ? sizeOf(data) : undefined;
      if (size && Math.max(size.width, size.height) > this.limit) this.tooLarge ??= `${path}!/${name}`;
    }
    this.say(`pack ${id} with ${found} rooms`);
  }

  private read(path: string, files: Archive | undefined): About | undefined {
    const leaf = files?.['pack.leaf'];
    if (!leaf) {
      this.say(`! ${path} is no pack: ${files ? 'no pack.leaf at its top' : 'it does not open'}`);
      return undefined;
    }
    try {
      return JSON.parse(new TextDecoder().decode(leaf)) as About;
    } catch {
      // This game says so in its log.
      this.say(`! ${path} has a pack.leaf that cannot be read`);
      return undefined;
    }
  }

  close(): void {
    for (const { path, need } of this.needs)
      if (!this.titles.has(need.toLowerCase())) this.say(`! ${path} needs “${need}”, which is not here`);
    this.say(`${this.ids.size} packs, ${this.rooms} rooms`);
  }
}
