import { endsLikeArchive } from './archiveEndings';
import { extensionOf } from '../paths/paths';

/** What a file is for, judged by its name alone. */
export type FileKind =
  'picture' | 'texture' | 'sound' | 'model' | 'text' | 'settings' | 'archive' | 'program' | 'other';

const EXTENSIONS: Record<Exclude<FileKind, 'other'>, string> = {
  picture: 'png jpg jpeg webp bmp gif tga',
  texture: 'dds ktx ktx2',
  sound: 'wav ogg oga mp3 flac opus',
  model: 'obj gltf glb mesh fbx',
  text: 'txt md rtf pdf html htm nfo url lang',
  settings: 'ini cfg xml json yaml yml conf toml',
  // Beside those that anybody's tool makes.
  archive: 'pak',
  program: 'exe dll bat cmd ps1 sh msi com scr vbs jar app',
};

const KIND_OF = new Map(
  Object.entries(EXTENSIONS).flatMap(([kind, list]) => list.split(' ').map((ext) => [ext, kind as FileKind] as const)),
);

/** The kind of a file, by its extension. */
export const kindOf = (path: string): FileKind =>
  KIND_OF.get(extensionOf(path)) ?? (endsLikeArchive(path) ? 'archive' : 'other');

/** Formats that browsers draw, and that the app unpacks for them; never SVG, which can hold scripts. */
export const canBeDrawn = (path: string): boolean =>
  ['png', 'jpg', 'jpeg', 'webp', 'bmp', 'gif', 'dds', 'ktx2', 'tga'].includes(extensionOf(path));

/** Sounds that browsers play, by their extension (IANA, media types). */
const SOUND_TYPES: Record<string, string> = {
  wav: 'audio/wav',
  ogg: 'audio/ogg',
  oga: 'audio/ogg',
  opus: 'audio/ogg',
  mp3: 'audio/mpeg',
  flac: 'audio/flac',
};

/** The media type of a sound; undefined where browsers do not play it. */
export const soundType = (path: string): string | undefined => SOUND_TYPES[extensionOf(path)];

/** How many files of each kind, and how many bytes, most files first. */
export function countKinds(
  files: Iterable<{ path: string; size: number }>,
): { kind: FileKind; files: number; bytes: number }[] {
  const counts = new Map<FileKind, { kind: FileKind; files: number; bytes: number }>();
  for (const { path, size } of files) {
    const kind = kindOf(path);
    const row = counts.get(kind) ?? { kind, files: 0, bytes: 0 };
    row.files++;
    row.bytes += size;
    counts.set(kind, row);
  }
  return [...counts.values()].sort((a, b) => b.files - a.files || (a.kind < b.kind ? -1 : 1));
}
