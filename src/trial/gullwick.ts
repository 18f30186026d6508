import { createCRC32 } from 'hash-wasm';
import type { Folder, Progress } from '@/core';

/** The folders that Gullwick Ferries reads and writes. */
export interface GullwickFolders {
  program: Folder;
  user: Folder;
}

const PNG = [0x89, 0x50, 0x4e, 0x47];
const DDS = [0x44, 0x44, 0x53, 0x20];

/**
 * Starts Gullwick Ferries, as far as loading goes: reads its settings and its list of contents, loads every texture it
 * finds, and writes load.log. It knows the two folders and nothing else.
 */
export async function runGullwick({ program, user }: GullwickFolders, options: { signal?: AbortSignal; onProgress?: (progress: Progress) => void } = {}): Promise<void> {
  const lines: string[] = [];
  let clock = 0;
  const say = (voice: 'harbour' | 'shoal' | 'wreck', what: string) => {
    lines.push(`${String(clock).padStart(5, '0')} ${voice.padEnd(8)}| ${what}`);
    clock += 7;
  };
  lines.push('-- Gullwick Ferries 2.4.1, casting off --');
  const settings = await textOf(user, 'ferries.ini');
  if (settings === undefined) {
    say('wreck', 'no ferries.ini in the user folder');
    return write(user, lines);
  }
  say('harbour', 'reads user/ferries.ini');
  await sortCommands(user);
  const switched = gameValue(settings, 'Graphics', 'AddonTextures') ?? '0';

  const own = new Map<string, number>();
  for (const line of ((await textOf(program, 'assets/contents.lst')) ?? '').split('\n')) {
    const [sum, ...path] = line.split(' ');
    if (sum && path.length > 0) own.set(path.join(' ').toLowerCase(), Number.parseInt(sum, 16));
  }

  const textures: string[] = [];
  for await (const { path } of program.list('assets/textures')) if (/\.(png|dds)$/i.test(path)) textures.push(path);
  textures.sort();
  const crc = await createCRC32();
  let ownLoaded = 0;
  let others = 0;
  const broken: string[] = [];
  for (const [i, path] of textures.entries()) {
    if (options.signal?.aborted) throw new DOMException('stopped', 'AbortError');
    const data = new Uint8Array(await (await program.read(path)).arrayBuffer());
    crc.init();
    crc.update(data);
    if (own.get(path.toLowerCase()) === Number.parseInt(crc.digest('hex'), 16)) ownLoaded++;
    else if (![PNG, DDS].some((magic) => magic.every((byte, at) => data[at] === byte))) broken.push(path);
    else others++;
    if (i % 50 === 0) options.onProgress?.({ phase: 'The game is loading', done: i, total: textures.length, unit: 'files' });
  }
  const there = new Set(textures.map((path) => path.toLowerCase()));
  const missing = [...own.keys()].filter((path) => !there.has(path));

  // What is drawn from inside the program where a texture of its own was replaced and the switch is off.
  say('harbour', `own textures ${switched === '1' ? ownLoaded : own.size - missing.length} of ${own.size}`);
  say('harbour', `add-on textures ${others} found, AddonTextures is ${switched}`);
  for (const path of missing) say('shoal', `missing ${path}`);
  for (const path of broken) say('shoal', `cannot read ${path}`);
  say('harbour', `add-on textures ${switched === '1' ? others : 0} loaded`);
  lines.push('-- moored --');
  await write(user, lines);
}

/**
 * At every start the game sorts its commands by name, and throws out those that it has not seen before: it notes them, so that
 * they stay when they are put in a second time.
 */
async function sortCommands(user: Folder): Promise<void> {
  const text = await textOf(user, 'autorun.cfg');
  if (text === undefined) return;
  const seen = new Set(((await textOf(user, 'autorun.seen')) ?? '').split(/\r?\n/).filter(Boolean));
  const nameOf = (line: string) => line.trim().split(/\s+/).slice(0, 2).join(' ').toLowerCase();
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  const kept = lines.filter((line) => seen.has(nameOf(line))).sort((a, b) => (nameOf(a) < nameOf(b) ? -1 : 1));
  const fresh = lines.map(nameOf).filter((name) => !seen.has(name));
  const save = (path: string, all: readonly string[]) => user.write(path, new TextEncoder().encode(all.map((line) => `${line}\r\n`).join('')));
  if (fresh.length > 0) await save('autorun.seen', [...seen, ...fresh].sort());
  if (kept.join('\n') !== lines.join('\n')) await save('autorun.cfg', kept);
}

const write = (user: Folder, lines: string[]): Promise<void> => user.write('load.log', new TextEncoder().encode(`${lines.join('\r\n')}\r\n`));

async function textOf(folder: Folder, path: string): Promise<string | undefined> {
  return (await folder.stat(path)) ? (await folder.read(path)).text() : undefined;
}

/** The game's own way of reading its settings: names in any case, the first of equal keys counts, blanks around do not. */
function gameValue(text: string, section: string, key: string): string | undefined {
  let inside = false;
  for (const raw of text.split(/\r?\n/)) {
    const line = raw.trim();
    if (line.startsWith('[')) inside = line.toLowerCase() === `[${section.toLowerCase()}]`;
    else if (inside && !line.startsWith(';')) {
      const cut = line.indexOf('=');
      if (cut > 0 && line.slice(0, cut).trim().toLowerCase() === key.toLowerCase()) return line.slice(cut + 1).trim();
    }
  }
  return undefined;
}
