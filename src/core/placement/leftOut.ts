import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import type { GameTree } from '../names/gameTree';
import { extensionOf, isUnder, joinPath, nameKey, parentOf, type PackPath } from '../paths/paths';
import { forTheReader, isResultFolder, showsTheResult, type LeftOutReason } from '../placed/baggage';
import { packFolders } from '../placed/packFolders';

/** What stays out of the game when `strip` is laid over `base`, folder by folder. */
export function whatStaysOut(
  entries: readonly PackEntry[],
  { strip, base }: { strip: string; base: string },
  card: GameCard,
  tree: GameTree,
): { path: PackPath; why: LeftOutReason }[] {
  const living = new Set(card.settings.map((file) => nameKey(file.target)));
  const livingFolders = new Set([...living].map(parentOf));
  const out: { path: PackPath; why: LeftOutReason }[] = [];
  const baseKey = nameKey(base);
  const stripped = strip === '' ? 0 : strip.split('/').length;
  // A base that the game does not have is one that the player named, and an empty game folder teaches nothing: all is
  // meant.
  const anything = !tree.folders.has(baseKey) || tree.files.size === 0;
  const extensions = new Set([...(tree.files.get(baseKey)?.keys() ?? [])].map(extensionOf));
  for (const { path: folder, keys, files, fileKeys } of packFolders(entries)) {
    const shows = isResultFolder(folder);
    const under = isUnder(folder, strip);
    const insideKeys = under ? keys.slice(stripped) : [];
    const folderKey = joinPath(baseKey, ...insideKeys);
    const knownFolder = insideKeys.length > 0 && tree.folders.has(`${baseKey}/${insideKeys[0]}`);
    const verdict: FolderVerdict = {
      under,
      shows,
      folderKey,
      own: tree.folders.has(folderKey) ? (tree.files.get(folderKey) ?? NO_FILES) : undefined,
      atTop: insideKeys.length === 0,
      extensions,
      knownFolder,
      baseKey,
      anything,
    };
    const livingHere = livingFolders.has(folderKey) ? living : NOTHING;
    files.forEach(({ path }, i) => {
      const why = whyLeftOut(path, fileKeys[i] as string, verdict, livingHere);
      if (why) out.push({ path, why });
    });
  }
  return out;
}

const NOTHING: ReadonlySet<string> = new Set();

const NO_FILES: ReadonlyMap<string, string> = new Map();

interface FolderVerdict {
  under: boolean;
  shows: boolean;
  folderKey: string;
  /** The game's files in this very folder, undefined where it has no such folder. */
  own: ReadonlyMap<string, string> | undefined;
  atTop: boolean;
  /** Of the files directly in the base. */
  extensions: ReadonlySet<string>;
  knownFolder: boolean;
  baseKey: string;
  anything: boolean;
}

/** Files like it lie there, the game has such a folder, or all is meant. */
const isExpected = (path: string, { anything, atTop, extensions, knownFolder }: FolderVerdict): boolean =>
  anything || (atTop ? extensions.has(extensionOf(path)) : knownFolder);

/** A picture straight in a root of the game. */
const isShot = (path: string, { atTop, baseKey }: FolderVerdict): boolean =>
  atTop && !baseKey.includes('/') && extensionOf(path) === 'png';

function whyLeftOut(
  path: PackPath,
  fileKey: string,
  verdict: FolderVerdict,
  living: ReadonlySet<string>,
): LeftOutReason | undefined {
  const { under, shows, folderKey, own } = verdict;
  const reader = forTheReader(path);
  if (reader === 'system file') return reader;
  const picture = () => showsTheResult(path, shows);
  if (!under) return reader ?? (picture() ? 'picture of the result' : 'outside the placed folder');
  if (living.size > 0 && living.has(`${folderKey}/${fileKey}`)) return 'settings the game writes itself';
  // What the game has under the very same name is meant.
  if (own?.has(fileKey)) return undefined;
  if (reader) return reader;
  if (!own && picture()) return 'picture of the result';
  if (isExpected(path, verdict)) return undefined;
  return isShot(path, verdict) || picture() ? 'picture of the result' : 'no such folder in the game';
}
