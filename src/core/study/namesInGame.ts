import type { GameTree } from '../names/gameTree';
import { baseName, nameKey, parentOf, stemOf } from '../paths/paths';

/** A longer list of names is no list of what the game loads, in lines. */
const LONGEST = 500;

/** A file that is called like a list of what is loaded; of others one line alone says nothing. */
const LIST_NAME = /\.lst$|list|order|active|enabled|load|index|mods|plugins|add-?ons|packs/i;

/** What the files and folders of a game are called. */
export class NamesInGame {
  private stems: Set<string> | undefined;

  constructor(private readonly tree: GameTree) {}

  /**
   * Is a text a list of things in the game, one on each line and nothing else: of folders, or of files with or without
   * their endings? Lines that begin with a sign for remarks do not count; one that says that the thing is on may stand
   * before each.
   */
  areListed(name: string, text: string): boolean {
    const lines = text
      .replace(/^\ufeff/, '')
      .split(/\r\n|\n|\r/)
      .map((line) => line.trim())
      .filter((line) => line !== '' && !/^(?:;|#|\/\/)/.test(line));
    return (
      lines.length > (LIST_NAME.test(name) ? 0 : 1) &&
      lines.length <= LONGEST &&
      lines.every((line) => /^[*+-]?[\p{L}\p{N}_.][\p{L}\p{N}_.'’ &()\\/-]{1,120}$/u.test(line)) &&
      new Set(lines.map(nameKey)).size === lines.length &&
      lines.every((line) => this.has(line.replace(/^[*+-]/, '')))
    );
  }

  /** Is there a file, with or without its ending, or a folder of this name? */
  has(written: string): boolean {
    const path = nameKey(written.replaceAll('\\', '/'));
    const key = baseName(path);
    // `narrow/rose`: a folder of that name lies in one called so.
    const above = parentOf(path);
    if (above !== '' && !this.tree.foldersByName.has(baseName(above))) return false;
    if (this.tree.foldersByName.has(key) || this.tree.foldersOfFile.has(key)) return true;
    this.stems ??= new Set([...this.tree.foldersOfFile.keys()].map(stemOf));
    return this.stems.has(key);
  }
}
