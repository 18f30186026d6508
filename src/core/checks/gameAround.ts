import { once } from '../once';
import { baseName, extensionOf, joinPath, nameKey, parentOf, type TargetPath, target } from '../paths/paths';
import { shownPlace } from '../paths/search';
import { keyOf, type PresentFile } from './finding';
import { NearestFiles, type Near } from './nearest';
import { folderOwners, groupByExtension, groupByName, packFolders, type TraceInput } from './traceInput';

/** So many near files are looked at. */
const MOST_NEAR = 8;

/** The game as it was when it wrote a log, to be looked through for what the log names; most logs are clean. */
export class GameAround {
  private readonly nearest: NearestFiles<TargetPath>;
  private readonly layers: ReadonlyMap<string, string | undefined>;
  private readonly spelled: ReadonlyMap<string, TargetPath>;
  private readonly leftOut: readonly { layer: string; path: string; key: string; name: string }[];
  private readonly owners = once(() => folderOwners(this.input.files));
  private readonly ownByExtension = once((): ReadonlyMap<string, PresentFile[]> => groupByExtension(this.input.files));
  private readonly byName = once((): ReadonlyMap<string, TargetPath[]> => groupByName(this.input.files));
  private readonly folders = once(() => packFolders(this.input.files, this.input.nameOf));
  private readonly ownFolders = once(
    () =>
      new Set(
        this.input.files.flatMap(({ target, layer }) => (layer === undefined ? [nameKey(parentOf(target))] : [])),
      ),
  );
  private readonly homes = once(
    () => new Map(this.input.files.map(({ target }) => [nameKey(parentOf(target)), parentOf(target)])),
  );

  constructor(private readonly input: TraceInput) {
    const { files, leftOut } = input;
    this.nearest = new NearestFiles(files.map(({ target }) => target));
    this.layers = new Map(files.map((file) => [keyOf(file), file.layer]));
    this.spelled = new Map(files.map((file) => [keyOf(file), file.target]));
    this.leftOut = leftOut.map((one) => ({ ...one, key: nameKey(one.path), name: nameKey(baseName(one.path)) }));
  }

  nameOf = (layer: string): string => this.input.nameOf(layer);

  /** A target or folder as people read it. */
  shown = (of: string): string => shownPlace(of, this.input.card.roots);

  /** The layer that brings a target. */
  layerOf = (target: string): string | undefined => this.layers.get(nameKey(target));

  /** A target as it is spelled; undefined where nothing is there. */
  spellingOf = (target: string): TargetPath | undefined => this.spelled.get(nameKey(target));

  /** What a pack has and does not put in, of this name or path. */
  leftOutOf(wanted: TargetPath): { layer: string; path: string } | undefined {
    const [wantedKey, wantedName] = [nameKey(wanted), nameKey(baseName(wanted))];
    return this.leftOut.find(({ key, name }) => name === wantedName || wantedKey.endsWith(`/${key}`));
  }

  /**
   * Files that come near to one that is missing. What the same pack has lies nearer than what another one needs itself.
   */
  near(wanted: TargetPath, owner: string | undefined): Near<TargetPath>[] {
    const isOwners = ({ path }: Near<TargetPath>) => Number(this.layerOf(path) === owner);
    return this.nearest.find(wanted, MOST_NEAR).sort((a, b) => isOwners(b) - isOwners(a));
  }

  /** The one pack whose name or folder a text names. */
  packNamedIn(text: string): string | undefined {
    const low = nameKey(text).replace(/[^\p{L}\p{N}]+/gu, ' ');
    const named = new Set(
      [...this.folders()].flatMap(([name, layer]) => (` ${low} `.includes(` ${name} `) ? [layer] : [])),
    );
    return named.size === 1 ? [...named][0] : undefined;
  }

  /** The pack that has the most to do with a place: the one whose files lie nearest around it. */
  ownerOf(wanted: TargetPath): string | undefined {
    for (let folder = nameKey(parentOf(wanted)); folder.includes('/'); folder = parentOf(folder)) {
      const layer = this.owners().get(folder);
      if (layer !== undefined) return layer;
    }
    return undefined;
  }

  /** The pack to which the folder of a place belongs: it has files in it, and the game has none of its own there. */
  folderOwnerOf(wanted: TargetPath): string | undefined {
    const folder = nameKey(parentOf(wanted));
    return this.ownFolders().has(folder) ? undefined : this.owners().get(folder);
  }

  /** A path as a log writes it, without knowing the folder: the file of the game whose path ends in it. */
  whereNamed(path: string): TargetPath {
    const names = path.split('/');
    const { roots } = this.input.card;
    const same = this.byName().get(nameKey(baseName(path))) ?? [];
    // A whole path of the computer ends in one of the game.
    for (let from = 0; from < names.length; from++) {
      const key = nameKey(names.slice(from).join('/'));
      const found = same.find((one) => nameKey(one) === key || nameKey(one).endsWith(`/${key}`));
      if (found !== undefined && (from === 0 || from < names.length - 1)) return found;
    }
    // What is missing lies in a folder that is there.
    for (let from = 0; from < names.length - 1; from++)
      for (const { id } of roots) {
        const home = this.homes().get(nameKey(joinPath(id, names.slice(from, -1).join('/'))));
        if (home !== undefined) return joinPath(home, baseName(path));
      }
    return target(roots[0]?.id ?? 'game', /^[a-z]:$/i.test(names[0] as string) ? baseName(path) : path);
  }

  /** One of the game's own files of the same name in another folder, else of the same kind. */
  standInFor(wanted: TargetPath): TargetPath | undefined {
    const own = this.ownByExtension().get(extensionOf(wanted)) ?? [];
    const same = own.find(({ target }) => nameKey(baseName(target)) === nameKey(baseName(wanted)));
    return (same ?? own.find(({ target }) => nameKey(parentOf(target)) === nameKey(parentOf(wanted))))?.target;
  }
}
