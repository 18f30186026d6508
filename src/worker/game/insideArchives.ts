import {
  baseName,
  decodeText,
  extensionOf,
  kindOf,
  openPack,
  readBytes,
  splitTarget,
  type Folder,
  type TargetPath,
  parseTarget,
} from '@/core';

/** Larger archives are not looked into, in bytes: their table of contents is not worth reading all of them. */
const LARGEST = 64 * 1024 * 1024;

/** So many archives of the game are looked into, and so many bytes: the app's own server sends each of them whole. */
const MOST = 40;

const MOST_BYTES = 256 * 1024 * 1024;

const NEVER = new Set(['picture', 'texture', 'sound', 'model', 'text', 'settings', 'program']);

/** A file's text; undefined where it is none, or cannot be read. */
export async function textIn(folder: Folder, path: string): Promise<string | undefined> {
  try {
    const bytes = await readBytes(folder, path);
    const utf16 = bytes[0] === 0xff || bytes[0] === 0xfe;
    if (!utf16 && bytes.subarray(0, 4096).includes(0)) return undefined;
    return decodeText(bytes).text;
  } catch {
    // What cannot be read says nothing of the game.
    return undefined;
  }
}

/** Does it begin like a ZIP (APPNOTE.TXT, 4.3.7: local file header)? */
async function isZip(blob: Blob): Promise<boolean> {
  const head = new Uint8Array(await blob.slice(0, 4).arrayBuffer());
  return head[0] === 0x50 && head[1] === 0x4b && head[2] === 3 && head[3] === 4;
}

/**
 * What lies inside the game's own archives, by target: ZIPs under any ending. One file of an ending is looked at first;
 * where it is none, the others of that ending are passed over. What cannot be read, is damaged or too large says
 * nothing.
 */
export async function insideArchives(
  folders: Readonly<Record<string, Folder>>,
  files: readonly string[],
): Promise<Map<string, readonly string[]>> {
  const found = new Map<string, readonly string[]>();
  const byEnding = new Map<string, string[]>();
  const room = { bytes: MOST_BYTES };
  for (const file of files) {
    if (NEVER.has(kindOf(file)) || extensionOf(file) === '') continue;
    const list = byEnding.get(extensionOf(file));
    if (list) list.push(file);
    else byEnding.set(extensionOf(file), [file]);
  }
  for (const [, list] of [...byEnding].sort(([a], [b]) => (a < b ? -1 : 1))) {
    for (const file of list.sort().slice(0, MOST)) {
      if (found.size >= MOST) return found;
      const paths = await pathsInside(folders, parseTarget(file), room);
      if (paths === 'no archive') break;
      if (paths) found.set(file, paths);
    }
  }
  return found;
}

async function pathsInside(
  folders: Readonly<Record<string, Folder>>,
  file: TargetPath,
  room: { bytes: number },
): Promise<string[] | 'no archive' | undefined> {
  const { root, path } = splitTarget(file);
  try {
    const folder = folders[root];
    const stat = await folder?.stat(path);
    if (!folder || !stat || stat.size < 22 || stat.size > Math.min(LARGEST, room.bytes)) return undefined;
    room.bytes -= stat.size;
    const blob = await folder.read(path);
    if (!(await isZip(blob))) return 'no archive';
    return (await openPack(blob, `${baseName(path)}.zip`)).entries.map((entry) => entry.path);
  } catch {
    // What cannot be read, or is damaged, says nothing of the game.
    return undefined;
  }
}
