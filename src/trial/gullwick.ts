import { createCRC32 } from 'hash-wasm';
import type { Folder, Progress } from '@/core';
import { gameValue, textOf } from './reading';

/** The folders that Gullwick Ferries reads and writes. */
export interface GullwickFolders {
  program: Folder;
  user: Folder;
}

const PNG = [0x89, 0x50, 0x4e, 0x47];
const DDS = [0x44, 0x44, 0x53, 0x20];

type Say = (voice: 'harbour' | 'shoal' | 'wreck', what: string) => void;

/**
 * Starts Gullwick Ferries, as far as loading goes: reads its settings and its list of contents, loads every texture it
 * finds, and writes load.log. It knows the two folders and nothing else.
 */
export async function runGullwick(
  { program, user }: GullwickFolders,
  options: { signal?: AbortSignal; onProgress?: (progress: Progress) => void } = {},
): Promise<void> {
  const log = new Log();
  log.lines.push('-- Gullwick Ferries 2.4.1, casting off --');
  const settings = await textOf(user, 'ferries.ini');
  if (settings === undefined) {
    log.say('wreck', 'no ferries.ini in the user folder');
    return write(user, log.lines);
  }
  log.say('harbour', 'reads user/ferries.ini');
  await sortCommands(user);
  // A model that the game cannot understand ends it without a word.
  if (!(await understandsModels(program))) return user.remove('load.log');
  const own = await ownTextures(program);
  const loaded = await loadTextures(program, own, options);
  await tell(loaded, own, { program, settings, log });
  log.lines.push('-- moored --');
  await write(user, log.lines);
}

/** What the game says while it loads, each line with its time. */
class Log {
  readonly lines: string[] = [];
  private clock = 0;

  readonly say: Say = (voice, what) => {
    this.lines.push(`${String(this.clock).padStart(5, '0')} ${voice.padEnd(8)}| ${what}`);
    this.clock += 7;
  };
}

/** Checksums of the game's own textures, by their paths in small letters. */
async function ownTextures(program: Folder): Promise<Map<string, number>> {
  const own = new Map<string, number>();
  for (const line of ((await textOf(program, 'assets/contents.lst')) ?? '').split('\n')) {
    const [sum, ...path] = line.split(' ');
    if (sum && path.length > 0) own.set(path.join(' ').toLowerCase(), Number.parseInt(sum, 16));
  }
  return own;
}

async function understandsModels(program: Folder): Promise<boolean> {
  for await (const { path } of program.list('assets/models'))
    if (path.endsWith('.mesh') && !((await textOf(program, path)) ?? '').startsWith('mesh 1')) return false;
  return true;
}

interface Textures {
  /** The game's own, as they came; and how many of others. */
  own: number;
  others: number;
  /** Of the game's own the paths that are not there; and those of files that are no pictures. */
  missing: string[];
  broken: string[];
}

async function loadTextures(
  program: Folder,
  own: ReadonlyMap<string, number>,
  options: { signal?: AbortSignal; onProgress?: (progress: Progress) => void },
): Promise<Textures> {
  const textures: string[] = [];
  for await (const { path } of program.list('assets/textures')) if (/\.(png|dds)$/i.test(path)) textures.push(path);
  textures.sort();
  const crc = await createCRC32();
  const there = new Set(textures.map((path) => path.toLowerCase()));
  const found: Textures = {
    own: 0,
    others: 0,
    missing: [...own.keys()].filter((path) => !there.has(path)),
    broken: [],
  };
  for (const [i, path] of textures.entries()) {
    if (options.signal?.aborted) throw new DOMException('stopped', 'AbortError');
    const data = new Uint8Array(await (await program.read(path)).arrayBuffer());
    crc.init();
    crc.update(data);
    if (own.get(path.toLowerCase()) === Number.parseInt(crc.digest('hex'), 16)) found.own++;
    else if (![PNG, DDS].some((magic) => magic.every((byte, at) => data[at] === byte))) found.broken.push(path);
    else found.others++;
    if (i % 50 === 0)
      options.onProgress?.({ phase: 'The game is loading', done: i, total: textures.length, unit: 'files' });
  }
  return found;
}

interface Telling {
  program: Folder;
  settings: string;
  log: Log;
}

async function tell(
  { own: ownLoaded, others, missing, broken }: Textures,
  own: ReadonlyMap<string, number>,
  { program, settings, log: { say } }: Telling,
): Promise<void> {
  const switched = gameValue(settings, 'Graphics', 'AddonTextures') ?? '0';
  // What is drawn from inside the program where a texture of its own was replaced and the switch is off.
  say('harbour', `own textures ${switched === '1' ? ownLoaded : own.size - missing.length} of ${own.size}`);
  say('harbour', `add-on textures ${others} found, AddonTextures is ${switched}`);
  for (const path of missing) say('shoal', `missing ${path}`);
  for (const path of broken) say('shoal', `cannot read ${path}`);
  await loadAddons(program, gameValue(settings, 'General', 'AddonFolders') ?? '', say);
  await loadTexts(program, say);
  await loadPaints(program, say);
  say('harbour', `add-on textures ${switched === '1' ? others : 0} loaded`);
}

/**
 * At every start the game sorts its commands by name, and throws out those that it has not seen before: it notes them,
 * so that they stay when they are put in a second time.
 */
async function sortCommands(user: Folder): Promise<void> {
  const text = await textOf(user, 'autorun.cfg');
  if (text === undefined) return;
  const seen = new Set(((await textOf(user, 'autorun.seen')) ?? '').split(/\r?\n/).filter(Boolean));
  const nameOf = (line: string) => line.trim().split(/\s+/).slice(0, 2).join(' ').toLowerCase();
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  const kept = lines.filter((line) => seen.has(nameOf(line))).sort((a, b) => (nameOf(a) < nameOf(b) ? -1 : 1));
  const fresh = lines.map(nameOf).filter((name) => !seen.has(name));
  const save = (path: string, all: readonly string[]) =>
    user.write(path, new TextEncoder().encode(all.map((line) => `${line}\r\n`).join('')));
  if (fresh.length > 0) await save('autorun.seen', [...seen, ...fresh].sort());
  if (kept.join('\n') !== lines.join('\n')) await save('autorun.cfg', kept);
}

async function namesIn(folder: Folder, path: string): Promise<string[]> {
  const names: string[] = [];
  for await (const stat of folder.list(path)) names.push(stat.path.slice(path.length + 1));
  return names.sort();
}

/** Add-ons that the settings name, each in a folder of its own. What they do not name is not looked at. */
async function loadAddons(program: Folder, listed: string, say: Say): Promise<void> {
  const wanted = listed
    .split(',')
    .map((name) => name.trim())
    .filter(Boolean);
  const loaded: { title: string; needs: string; folder: string; files: string[] }[] = [];
  for (const name of wanted) {
    const folder = `addons/${name}`;
    const files = await namesIn(program, folder);
    if (files.length === 0) {
      say('shoal', `no add-on in ${folder}`);
      continue;
    }
    const about = await textOf(program, `${folder}/addon.txt`);
    if (about === undefined) {
      say('shoal', `missing ${folder}/addon.txt`);
      continue;
    }
    const field = (key: string) => new RegExp(`^\\s*${key}\\s*=\\s*(.*?)\\s*$`, 'mi').exec(about)?.[1] ?? '';
    if (!files.includes('icon.png')) say('shoal', `missing ${folder}/icon.png`);
    loaded.push({ title: field('name') || name, needs: field('needs'), folder, files });
  }
  for (const { title, needs, folder, files } of loaded) {
    if (needs !== '' && !loaded.some((other) => other.title.toLowerCase() === needs.toLowerCase()))
      say('shoal', `${title} wants ${needs}, which is not loaded`);
    for (const script of files.filter((file) => /^scripts\/.*\.txt$/.test(file)))
      for (const line of ((await textOf(program, `${folder}/${script}`)) ?? '').split(/\r?\n/)) {
        const part = /^\s*fit ([\w-]+)/.exec(line)?.[1];
        if (part !== undefined && !loaded.some((other) => other.files.includes(`textures/${part}.png`)))
          say('shoal', `missing ${folder}/textures/${part}.png`);
      }
    say('harbour', `add-on ${title} with ${files.filter((file) => file.startsWith('textures/')).length} textures`);
  }
}

/** Every text that the game shows must have its words in one of the text files. */
async function loadTexts(program: Folder, say: Say): Promise<void> {
  const words = new Set<string>();
  for (const name of await namesIn(program, 'assets/text'))
    if (name.endsWith('.lang'))
      for (const [, key = ''] of ((await textOf(program, `assets/text/${name}`)) ?? '').matchAll(
        /^[ \t]*([^\s#:"]+)[ \t]*:/gm,
      ))
        words.add(key);
  for (const key of ((await textOf(program, 'assets/text/keys.lst')) ?? '').split(/\r?\n/).filter(Boolean))
    if (!words.has(key)) say('shoal', `no words for ${key}`);
}

/** Each numbered hull of a fleet names its folder of paint, letter for letter. */
async function loadPaints(program: Folder, say: Say): Promise<void> {
  for (const file of await namesIn(program, 'vessels')) {
    if (!/^[^/]+\/fleet\.ini$/.test(file)) continue;
    const vessel = file.split('/')[0] ?? '';
    const paints = new Set((await namesIn(program, `vessels/${vessel}/paints`)).map((path) => path.split('/')[0]));
    let hull = '';
    for (const line of ((await textOf(program, `vessels/${file}`)) ?? '').split(/\r?\n/)) {
      hull = /^\[hull (\d+)\]/.exec(line)?.[1] ?? hull;
      const folder = /^folder=(.*)$/.exec(line)?.[1];
      if (folder !== undefined && !paints.has(folder))
        say('shoal', `hull ${hull} has no vessels/${vessel}/paints/${folder}/hull.png`);
    }
  }
}

const write = (user: Folder, lines: string[]): Promise<void> =>
  user.write('load.log', new TextEncoder().encode(`${lines.join('\r\n')}\r\n`));
