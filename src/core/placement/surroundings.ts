import { speaksOf } from '../inspect/readMeSentences';
import { ADDITIONS, type Family } from '../names/families';
import { gameFile } from '../names/gameTree';
import { idForm } from '../names/ids';
import { once, onceFor } from '../once';
import { baseName, extensionOf, isUnder, joinPath, nameKey, parentOf } from '../paths/paths';
import { SHORTEST_NAME, nameIn, numberOf, type Entrant } from './entrant';
import { FIT } from './evidence';
import { relOf, type PackNode } from './packTree';
import type { Candidate } from './plans';
import { overlapOf } from './overlap';
import { fitFor } from './weigh';

const NO_OVERLAP = { exact: 0, rare: 0, total: 0 };

/** From this share of what such things have on, a folder is one of them. */
const ONE_OF_THEM = 0.95;

/** Shorter names come up in any speech. */
const SHORTEST_SPOKEN = 3;

/** In fuller folders no neighbour is looked for. */
export const MOST_NEIGHBOURS = 500;

/** Files straight in a folder that are looked at one by one. */
export const MOST_FILES = 60;

/** A part of a pack that would be laid over a thing of a kind. */
interface Laid {
  to: string;
  path: string;
  node: PackNode | undefined;
  folder: string;
  family: Family;
}

/** What lies around a place of the game, and what that says of a part that would come to lie there. */
export class Surroundings {
  private readonly spoken = new Map<Family, Set<string>>();

  constructor(private readonly one: Entrant) {}

  /**
   * Would it be one more in a folder of things that another folder of the game has, too, with a file of the same name?
   */
  hasTwin(to: string): boolean {
    const { families } = this.one.arena.knowledge;
    const own = families.find(({ key }) => key === nameKey(parentOf(to)));
    return (
      own !== undefined &&
      families.some(
        (other) =>
          other !== own && [...other.core].some((feature) => feature.startsWith('F:') && own.core.has(feature)),
      )
    );
  }

  /** Are there files of this ending in a folder of the game? */
  isHome(path: string, folder: string): boolean {
    return (this.one.arena.knowledge.homes.get(extensionOf(path))?.get(nameKey(folder)) ?? 0) > 0;
  }

  /** Does a part hold a folder that is only for choosing, which would be made in the game, too? */
  carries({ to }: Candidate, node: PackNode | undefined): boolean {
    if (!node) return false;
    return this.one.arena.wrappers.some(
      (wrapper) =>
        wrapper !== node.path &&
        isUnder(wrapper, node.path) &&
        !this.one.arena.tree.folders.has(
          nameKey(joinPath(to, node.path === '' ? wrapper : wrapper.slice(node.path.length + 1))),
        ),
    );
  }

  /**
   * The thing of a kind that it would be laid over although the pack brings another one: by a new name, or without one.
   */
  neighbour(to: string, path: string, node: PackNode | undefined): string | undefined {
    const { knowledge, tree } = this.one.arena;
    const otherId = this.otherId(to, path);
    if (otherId !== undefined) return otherId;
    const folder = this.thingOf(nameKey(to));
    const family = folder === undefined ? undefined : knowledge.familyOf.get(folder);
    if (folder === undefined || !family) return undefined;
    const named = path.split('/').map(nameKey);
    const above = this.loneThingAbove(folder, path, named);
    if (above !== undefined) return tree.folders.get(above);
    if (named.includes(baseName(folder)) || (node && this.meantBy(node, family) === folder)) return undefined;
    // It says itself for which other one it is.
    const saysOther = named.some((name) => family.members.has(`${family.key}/${name}`));
    const laid = { to, path, node, folder, family };
    if (!saysOther && this.isPart(laid)) return undefined;
    if (saysOther || this.isOneOf(family, path)) return tree.folders.get(folder);
    return this.isMeantByFiles(laid) ? undefined : tree.folders.get(folder);
  }

  /** Another id than the one that it bears. */
  private otherId(to: string, path: string): string | undefined {
    for (const { form, names } of this.one.arena.knowledge.ids) {
      const own = path.split('/').find((name) => idForm(name) === form);
      const other = to.split('/').find((name) => names.has(nameKey(name)));
      if (own !== undefined && other !== undefined && nameKey(own) !== nameKey(other)) return other;
    }
    return undefined;
  }

  /** The only one of its kind so far is one of a kind all the same. */
  private loneThingAbove(folder: string, path: string, named: readonly string[]): string | undefined {
    for (let above = this.thingOf(parentOf(folder)); above !== undefined; above = this.thingOf(parentOf(above))) {
      const kind = this.one.arena.knowledge.familyOf.get(above);
      if (kind?.members.size === 1 && !named.includes(baseName(above)) && this.isOneOf(kind, path)) return above;
    }
    return undefined;
  }

  /** Half of such a thing, in a folder called otherwise than the pack: “bright” in “Sail in red” is no ship. */
  private isPart({ to, path, node, folder, family }: Laid): boolean {
    const { wrappers, knowledge, packFolder } = this.one.arena;
    if (!node || folder !== nameKey(to) || nameKey(packFolder).startsWith(nameKey(node.name))) return false;
    const isMeant = wrappers.includes(path) || this.spokenOf(to, path) !== undefined;
    return isMeant && fitFor(node, nameIn(this.one, node), family, knowledge).whole <= FIT.half;
  }

  /** Nothing names the thing: may its files say that it is meant? */
  private isMeantByFiles({ to, path, node, folder, family }: Laid): boolean {
    const isPack = nameKey(this.one.arena.packFolder) === baseName(folder);
    const spoken = once(() => this.spokenOf(to, path) !== undefined);
    const isItself = folder === nameKey(to);
    const overlap = node ? overlapOf(node, to, this.one.arena.tree) : NO_OVERLAP;
    // Inside one of several such things that hold the like, unless it is spoken of, or files of this path say which.
    const isInside = node !== undefined && !isItself && overlap.exact === 0 && !isPack;
    // Of several whose names say nothing the one that happens to hold most of these files need not be meant.
    const nothingSays = isInside || family.idForm !== undefined;
    if (nothingSays && family.members.size > 1 && !spoken()) return false;
    // The pack itself, unnamed: what lies under these very names in one member alone can mean that one.
    const isTop = node !== undefined && (node.path === '' || node.depth <= 1);
    return isPack || !isItself || !isTop || spoken() || isMostlyOnlyThere(overlap);
  }

  /**
   * `owl voice` with a part of what such things have: the one called `owl` is meant, and it is no other one of the
   * kind.
   */
  meantBy(node: PackNode, family: Family): string | undefined {
    if (family.drawers) return undefined;
    const number = node.path === '' ? numberOf(this.one.arena.packFolder, family) : undefined;
    if (number !== undefined && family.members.has(`${family.key}/${number}`)) return `${family.key}/${number}`;
    const words = nameKey(node.path === '' ? this.one.arena.packFolder : node.name).split(/[^\p{L}\p{N}]+/u);
    const [one, ...more] =
      words.length < 2
        ? []
        : [...family.members].filter(
            (member) => baseName(member).length >= SHORTEST_SPOKEN && words.includes(baseName(member)),
          );
    if (one === undefined || more.length > 0) return undefined;
    const { fit, whole } = fitFor(node, nameIn(this.one, node), family, this.one.arena.knowledge);
    // With files of other names it may be one more of the kind that is only called alike.
    const { exact, total } = overlapOf(node, this.one.arena.tree.folders.get(one) ?? one, this.one.arena.tree);
    return fit > 0 && whole < ONE_OF_THEM && exact === total ? one : undefined;
  }

  /** Does a folder of the pack that a path lies in look like one more of a kind? */
  isOneOf(family: Family, path: string): boolean {
    for (let at = path; at !== ''; at = parentOf(at)) {
      const own = this.one.nodes.get(at);
      if (own && fitFor(own, nameIn(this.one, own), family, this.one.arena.knowledge).fit > FIT.oneOfAKind) return true;
    }
    return false;
  }

  /**
   * The id in whose folder it would lie although the player has several, no file there is replaced and nothing says
   * which is meant.
   */
  idFolder(to: string, path: string, node: PackNode | undefined): string | undefined {
    const { knowledge, tree } = this.one.arena;
    const names = to.split('/').slice(0, node ? undefined : -1);
    const own = path.split('/').map(nameKey);
    for (const { names: ids, owned } of knowledge.ids) {
      const id = names.find((name) => ids.has(nameKey(name)));
      if (id === undefined || owned.size < 2 || own.includes(nameKey(id)) || this.isSpokenOf(nameKey(id))) continue;
      const same = node ? overlapOf(node, to, tree).exact > 0 : gameFile(tree, nameKey(to)) !== undefined;
      if (!same) return id;
    }
    return undefined;
  }

  /** The folder for what players add that it would lie in: straight, or in a drawer of it, not in somebody's add-on. */
  addedTo(to: string): string | undefined {
    for (let folder = nameKey(parentOf(to)); folder.includes('/'); folder = parentOf(folder)) {
      if (ADDITIONS.has(baseName(folder))) return baseName(folder);
      if (this.one.arena.knowledge.familyOf.get(folder)?.drawers === false) return undefined;
    }
    return undefined;
  }

  /**
   * The thing in whose folder a file would lie, where all things of that kind have files of the same names of this
   * ending, and it has another.
   */
  closedTo(path: string, to: string): string | undefined {
    const folder = nameKey(parentOf(to));
    const family = this.one.arena.knowledge.familyOf.get(folder);
    const ending = extensionOf(path);
    if (!family || family.drawers || family.members.size < 2) return undefined;
    const names = [...family.core].filter((one) => one.startsWith('F:') && extensionOf(one) === ending);
    const there = [...(this.one.arena.tree.files.get(folder)?.keys() ?? [])].filter(
      (name) => extensionOf(name) === ending,
    );
    return names.length > 0 && there.length <= names.length && !there.includes(nameKey(baseName(to)))
      ? baseName(folder)
      : undefined;
  }

  /** The same for a folder: none of its files has a name that such things have. */
  allClosedTo(node: PackNode, to: string): string | undefined {
    let thing: string | undefined;
    for (const folder of node.folders)
      for (const { path } of folder.files.slice(0, MOST_FILES)) {
        thing = this.closedTo(path, joinPath(to, ...relOf(folder, node), baseName(path)));
        if (thing === undefined) return undefined;
      }
    return thing;
  }

  /**
   * The folder that it would lie in, where the pack's name has that folder's name in it and the pack itself has no such
   * folder.
   */
  packNames(to: string, path: string): string | undefined {
    const name = baseName(parentOf(to));
    const bare = nameKey(name).replace(/[^\p{L}\p{N}]/gu, '');
    if (bare.length < SHORTEST_NAME || !parentOf(to).includes('/') || nameKey(path).split('/').includes(nameKey(name)))
      return undefined;
    return this.one.packWords.has(bare) ? name : undefined;
  }

  /** The folder of the thing of a kind that a folder or file of the game is part of: the innermost. */
  thingOf(key: string): string | undefined {
    let folder = key;
    const { familyOf } = this.one.arena.knowledge;
    while (folder.includes('/') && (familyOf.get(folder)?.drawers ?? true)) folder = parentOf(folder);
    return folder.includes('/') ? folder : undefined;
  }

  /**
   * The one of many alike whose folder it is, where the pack's name or its read-me speaks of that one and of no other.
   */
  spokenOf(to: string, node: string): string | undefined {
    const { knowledge, tree } = this.one.arena;
    for (let folder = nameKey(to); folder.includes('/'); folder = parentOf(folder)) {
      const family = knowledge.familyOf.get(folder);
      if (!family || nameKey(baseName(node)) === baseName(folder)) continue;
      const known =
        this.spoken.get(family) ?? new Set([...family.members].filter((member) => this.isSpokenOf(baseName(member))));
      this.spoken.set(family, known);
      if (known.size === 1 && known.has(folder)) return baseName(tree.folders.get(folder) ?? folder);
    }
    return undefined;
  }

  /** By its name, or by what an id is called. */
  isSpokenOf(member: string): boolean {
    return [member, this.one.called.get(member)].some(
      (name) =>
        name !== undefined &&
        name.length >= SHORTEST_SPOKEN &&
        this.mentions(nameKey(name)) &&
        speaksOf(this.one.speech, name),
    );
  }

  private readonly lowSpeech = once(() => nameKey(this.one.speech));
  /** Could a name be spoken of? Of a kind there can be thousands, and few are. */
  mentions(name: string): boolean {
    return this.lowSpeech().includes(name.split(/[ _-]/)[0] as string);
  }

  /** Does the read-me speak of another file of this ending in the same folder of the game, for more than its values? */
  neighbourSpokenOf(to: string, path: string): boolean {
    const { tree, settings } = this.one.arena;
    const folder = nameKey(parentOf(to));
    const files = tree.files.get(folder);
    if (this.one.arena.said === '' || !files || files.size > MOST_NEIGHBOURS) return false;
    const ending = extensionOf(path);
    const isOther = (file: string) => extensionOf(file) === ending && file !== nameKey(baseName(path));
    return this.spokenIn(files).some((file) => isOther(file) && !settings.has(`${folder}/${file}`));
  }

  /** The files of a folder that the read-me speaks of: asked for each part that could come to lie there. */
  private readonly spokenIn = onceFor((files: ReadonlyMap<string, string>) =>
    [...files.keys()].filter((file) => this.lowSpeech().includes(file)),
  );
}

/** Most files of a part have the path of a file there, and names that are rare in the game. */
const isMostlyOnlyThere = ({ exact, rare, total }: typeof NO_OVERLAP): boolean =>
  exact > 0 && exact >= total * 0.6 && rare / exact > 0.6;
