import { kindOf } from '../media/kinds';
import { gameFile } from '../names/gameTree';
import { tailedNames, withoutTail } from '../names/tailedNames';
import { baseName, extensionOf, nameKey, stemOf } from '../paths/paths';
import type { Entrant } from './entrant';
import { WEIGHTS, sign, type Evidence } from './evidence';
import { topHomes } from './homes';
import type { Offer } from './offer';
import type { PackNode } from './packTree';
import { MOST_FILES } from './surroundings';

/** Of the folders that a name names so many are looked at. */
export const MOST_NAMED = 6;

/** Candidates for the files that lie straight in a folder of the pack, each by itself. */
export class FileOffers {
  constructor(
    private readonly one: Entrant,
    private readonly propose: (node: string, offer: Offer) => void,
  ) {}

  of(node: PackNode): void {
    this.ofTheirKind(node);
    this.pairs(node);
    this.named(node);
    this.tailed(node);
  }

  /** One file among others. @param folder its key */
  private loose(path: string, folder: string, evidence: readonly Evidence[] = []): void {
    const { tree } = this.one.arena;
    const there = gameFile(tree, `${folder}/${nameKey(baseName(path))}`);
    const to = there ?? `${tree.folders.get(folder) as string}/${baseName(path)}`;
    this.propose(path, { to, mode: 'loose', evidence });
  }

  private ofTheirKind(node: PackNode): void {
    const { knowledge, tree } = this.one.arena;
    for (const { path } of node.files.slice(0, MOST_FILES)) {
      const name = nameKey(baseName(path));
      const homes = topHomes(knowledge, extensionOf(path));
      // A folder of that name in the pack speaks for itself.
      for (const folder of this.namedFolders(extensionOf(path)))
        if (!nameKey(path).split('/').includes(baseName(folder)))
          this.loose(path, folder, [
            { weight: WEIGHTS.packNames, says: `The pack’s name has “${baseName(folder)}” in it.` },
          ]);
      for (const folder of this.namedBeside(name))
        this.loose(path, folder, [
          { weight: WEIGHTS.packNames, says: `“${baseName(folder)}” is named, and has none of this name yet.` },
        ]);
      const byId = knowledge.ids.flatMap(({ files }) => files.get(stemOf(name)) ?? []);
      const weight = WEIGHTS.sameId / Math.sqrt(byId.length);
      for (const folder of byId) this.loose(path, folder, [{ weight, says: 'Another file of this id lies there.' }]);
      for (const folder of homes)
        for (const there of this.namesakes(path, folder))
          this.propose(path, {
            to: there,
            mode: 'loose',
            evidence: [sign('form', `Its name has “${stemOf(there)}” in it.`)],
          });
      const same = tree.foldersOfFile.get(name) ?? [];
      for (const folder of new Set([...homes, ...(typeof same === 'string' ? [same] : same.slice(0, 6))]))
        this.loose(path, folder);
    }
  }

  /**
   * `quieter theme.opus` for the game's `theme.opus`: a picture or a sound is only read under the name that the game
   * knows.
   */
  private namesakes(path: string, folder: string): string[] {
    const words = nameKey(stemOf(path)).split(' ');
    if (words.length < 2 || this.one.entries.length > 1 || !['picture', 'texture', 'sound'].includes(kindOf(path)))
      return [];
    const names = [...(this.one.arena.tree.files.get(folder)?.entries() ?? [])];
    return names
      .filter(
        ([name]) => extensionOf(name) === extensionOf(path) && stemOf(name).length > 3 && words.includes(stemOf(name)),
      )
      .slice(0, 2)
      .map(([, target]) => target);
  }

  /** `Otter Bay.txt` among `Heron Reach (South).txt`: under the names that the game has for it, `Otter Bay (North)`. */
  private tailed(node: PackNode): void {
    const { knowledge, tree } = this.one.arena;
    for (const { path } of node.files.slice(0, MOST_FILES)) {
      const names = tailedNames(tree).get(nameKey(stemOf(path)));
      const ending = extensionOf(path);
      for (const folder of names ? topHomes(knowledge, ending) : []) {
        const there = [...(tree.files.get(folder)?.keys() ?? [])].filter((name) => extensionOf(name) === ending);
        if (!there.every((name) => withoutTail(stemOf(name)) !== undefined)) continue;
        for (const name of [...(names ?? [])].slice(0, MOST_NAMED))
          this.propose(path, {
            to: `${tree.folders.get(folder) as string}/${name}.${ending}`,
            mode: 'loose',
            evidence: [sign('form', `The files there have such names, and the game has “${name}”.`)],
          });
      }
    }
  }

  private readonly namedKnown = new Map<string, string[]>();
  /** Folders that the pack's name names, and that hold files of an ending. */
  private namedFolders(ending: string): string[] {
    const before = this.namedKnown.get(ending);
    if (before) return before;
    const { tree } = this.one.arena;
    const found = [...this.one.packWords].flatMap((word) =>
      (tree.foldersByName.get(word) ?? [])
        .filter(
          (folder) =>
            folder.includes('/') &&
            [...(tree.files.get(folder)?.keys() ?? [])].some((file) => extensionOf(file) === ending),
        )
        .slice(0, MOST_NAMED),
    );
    this.namedKnown.set(ending, found);
    return found;
  }

  /** Things that the pack's name names, where others of their kind have a file of a name and they have none. */
  private namedBeside(name: string): string[] {
    const { knowledge, tree } = this.one.arena;
    const have = tree.foldersOfFile.get(name) ?? [];
    const kinds = new Set(
      (typeof have === 'string' ? [have] : have.slice(0, MOST_NAMED)).flatMap(
        (one) => knowledge.familyOf.get(one) ?? [],
      ),
    );
    return [...kinds].flatMap(({ key, members }) =>
      [...this.one.packWords]
        .map((word) => `${key}/${word}`)
        .filter((folder) => members.has(folder) && tree.files.get(folder)?.has(name) === false),
    );
  }

  /** `Otter body.png` for the `body.png` of the one called `otter`. */
  private named(node: PackNode): void {
    const { knowledge, tree } = this.one.arena;
    for (const { path } of node.files.slice(0, MOST_FILES)) {
      const name = nameKey(baseName(path));
      for (const family of knowledge.families)
        for (const member of family.members) {
          const called = baseName(member);
          if (called.length < 3 || !name.startsWith(called) || !/^[ _.-]/.test(name.slice(called.length))) continue;
          const there = gameFile(tree, `${member}/${name.slice(called.length).replace(/^[ _.-]+/, '')}`);
          if (there === undefined) continue;
          const says = `It is named after “${called}” and one of its files.`;
          this.propose(path, { to: there, mode: 'loose', evidence: [{ weight: WEIGHTS.named, says }] });
        }
    }
  }

  /** A file and a folder of one name, where the game has such pairs. */
  private pairs(node: PackNode): void {
    const { knowledge, tree } = this.one.arena;
    for (const { path } of node.files.slice(0, MOST_FILES)) {
      const stem = nameKey(stemOf(path));
      const twin = node.children.find(({ name }) => nameKey(name) === stem);
      if (!twin) continue;
      for (const folder of topHomes(knowledge, extensionOf(path))) {
        const pairs = [...(tree.files.get(folder)?.keys() ?? [])].filter(
          (file) => extensionOf(file) === extensionOf(path) && tree.folders.has(`${folder}/${stemOf(file)}`),
        );
        if (pairs.length === 0) continue;
        const spelled = tree.folders.get(folder) as string;
        const evidence = [{ weight: WEIGHTS.pair, says: 'A file and a folder of one name lie together there.' }];
        this.propose(twin.path, { to: `${spelled}/${twin.name}`, mode: 'own-folder', evidence });
        this.propose(path, { to: `${spelled}/${baseName(path)}`, mode: 'loose', evidence });
      }
    }
  }
}
