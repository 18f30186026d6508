/* eslint-disable max-lines --
   one class: candidates of all mechanisms compete over the same state; what weighs them stands in files of its own */
import type { PackEntry } from '../archives/pack';
import { namesOfIdsIn } from '../games/statement';
import { speaksOf } from '../inspect/sentences';
import type { Step } from '../inspect/step';
import { kindOf } from '../media/kinds';
import { gameFile } from '../names/gameTree';
import { idForm } from '../names/ids';
import { ADDITIONS, type Family } from '../names/families';
import { variantOf, type Knowledge } from '../names/knowledge';
import {
  baseName,
  staysInside,
  extensionOf,
  isUnder,
  joinPath,
  nameKey,
  parentOf,
  stemOf,
  type TargetPath,
} from '../paths/paths';
import { packFolders } from '../placed/packFolders';
import { learntPlaces } from '../study/learned';
import type { Arena } from './arena';
import { FIT, TOLD_ASTRAY, WEIGHTS, hasSign, pointsOf, sign, type Evidence } from './evidence';
import { idCandidates } from './idPlaces';
import { insidePlaces } from './insidePlaces';
import { missedAt, missedPlaces, wantedByTheLog, type Wanted } from './missed';
import type { PlacementMode } from './modes';
import { sharedFolder, waysOver } from './overTree';
import { namedByFile, packTree, relOf, type PackNode } from './packTree';
import { MOST_COMPARED, combine, distinct, weighty, type Candidate, type Plan } from './plans';
import { toldOf, toldPlaces } from './told';
import { fitFor, isAstray, overlapOf, weighFile, weighFolder, weighTwins } from './weigh';

const NO_OVERLAP = { exact: 0, rare: 0, total: 0 };

/** Parts deeper than this are placed with what they lie in. */
const DEEPEST = 6;

const MOST_NODES = 400;

/** Files of the kind in a folder for packs count this share of all files of the ending, however few there are. */
const OWN_KIND = 0.75;

/** Of larger packs fewer parts are looked at by themselves: what counts there is the whole. */
const MANY_ENTRIES = 5000;

/** Of each part so many candidates stay in the race. */
const KEPT = 6;

/** In fuller folders no neighbour is looked for. */
const MOST_NEIGHBOURS = 500;

/** Shorter words in a pack's name name no folder. */
const SHORTEST_NAME = 4;

/** From this share of what such things have on, a folder is one of them. */
const ONE_OF_THEM = 0.95;

/** Shorter names come up in any speech. */
const SHORTEST_SPOKEN = 3;

/** Files straight in a folder that are looked at one by one. */
const MOST_FILES = 60;

interface Proposed {
  to: TargetPath;
  inside?: string | undefined;
  mode: PlacementMode;
  evidence: Evidence[];
}

/** Collects candidates for every part of a pack, weighs them, and finds the best ways to place all of it. */
class Competition {
  private readonly top: PackNode;
  private readonly shared: string;
  private readonly proposed = new Map<string, Map<string, Proposed>>();
  private readonly nodes = new Map<string, PackNode>();
  private readonly fileNames: ReadonlySet<string>;
  private readonly spoken = new Map<Family, Set<string>>();
  /** Archives of the game that hold paths of the pack. */
  private readonly knownInside = new Set<string>();
  /** Keys of folders for other ids than the one that the pack names. */
  private others: readonly string[] = [];

  private readonly arena: Arena;
  private readonly wanted: readonly Wanted[];
  /** The pack's name and its read-me, as far as they are looked through. */
  private readonly speech: string;
  /** Words of the pack's name. */
  private readonly packWords: ReadonlySet<string>;
  /** What ids are called. */
  private readonly called: ReadonlyMap<string, string>;

  constructor(
    private readonly entries: readonly PackEntry[],
    arena: Arena,
  ) {
    // “Rename it to x.map”: the one file of that ending is meant.
    const meant = (step: Step): Step => {
      if (step.kind !== 'put' || step.what.length > 0 || !step.name?.includes('.')) return step;
      const fits = entries.filter(({ path }) => extensionOf(path) === extensionOf(step.name ?? ''));
      return fits.length === 1 ? { ...step, what: [fits[0]?.path as string] } : step;
    };
    // “Add it to main.box”, which is an archive of the game: inside it.
    const within = (step: Step): Step =>
      step.kind === 'put' &&
      step.how === 'into' &&
      step.folders.length === 0 &&
      step.files.length > 0 &&
      step.files.every((file) => arena.inside.has(file)) &&
      !step.what.some((one) => step.files.some((file) => nameKey(baseName(file)) === nameKey(baseName(one))))
        ? { ...step, how: 'inside' }
        : step;
    this.arena = { ...arena, steps: arena.steps.map(meant).map(within) };
    this.speech = `${arena.packFolder}\n${arena.said.slice(0, 65_536)}`;
    this.called = namesOfIdsIn(arena.statements);
    this.wanted = wantedByTheLog(entries, arena.missed, arena.tree, arena.roots[0]?.id ?? 'game');
    this.packWords = new Set(
      nameKey(arena.packFolder)
        .split(/[^\p{L}\p{N}]+/u)
        .filter((word) => word.length >= SHORTEST_NAME),
    );
    this.top = packTree(entries);
    this.shared = sharedFolder(entries);
    this.fileNames = new Set(entries.map(({ path }) => path));
    const queue = [this.top];
    const most = entries.length > MANY_ENTRIES ? MOST_NODES / 8 : MOST_NODES;
    for (let node = queue.shift(); node && this.nodes.size < most; node = queue.shift()) {
      this.nodes.set(node.path, node);
      if (node.depth < DEEPEST) queue.push(...node.children);
    }
    this.collect();
  }

  /** The best ways, best first. */
  plans(): Plan[] {
    return this.solve(this.top);
  }

  private propose(node: string, to: string, mode: PlacementMode, evidence: Evidence[] = [], inside?: string): void {
    // A folder inside one of its own name is a level too deep.
    if (
      to.includes('/') &&
      nameKey(baseName(to)) === nameKey(baseName(parentOf(to))) &&
      !this.arena.tree.folders.has(nameKey(to))
    )
      return;
    if (!staysInside(to)) return;
    // No folder can lie where a file is.
    if (inside === undefined && !this.fileNames.has(node) && gameFile(this.arena.tree, nameKey(to)) !== undefined)
      return;
    const list = this.proposed.get(node) ?? new Map<string, Proposed>();
    this.proposed.set(node, list);
    const id = `${nameKey(to)}\n${inside ?? ''}\n${inside === undefined ? '' : 'in'}`;
    const known = list.get(id);
    if (known) known.evidence.push(...evidence);
    else list.set(id, { to, inside, mode, evidence: [...evidence] });
  }

  private collect(): void {
    const { tree, steps, forced } = this.arena;
    for (const { strip, base } of waysOver(packFolders(this.entries), tree)) {
      this.propose(strip, base, 'over');
      // What stands beside other things in the same wrapper may be the only part that belongs there.
      for (const child of (this.nodes.get(strip)?.children ?? []).slice(0, MOST_FILES)) {
        const there = tree.folders.get(`${nameKey(base)}/${nameKey(child.name)}`);
        if (there !== undefined) this.propose(child.path, there, 'over');
      }
    }
    for (const node of this.nodes.values()) {
      this.proposeFamilies(node);
      this.proposeRoots(node);
      this.proposeInside(node);
      this.proposeFiles(node);
      this.proposePairs(node);
      this.proposeNamed(node);
      this.proposeVariants(node);
    }
    for (const { node, to, inside } of toldPlaces(
      steps,
      this.shared,
      (path) => this.fileNames.has(path),
      this.arena.packFolder,
    )) {
      if (inside !== undefined && this.knownInside.has(nameKey(to))) continue;
      const spelled = tree.folders.get(nameKey(to)) ?? gameFile(tree, nameKey(to)) ?? to;
      this.propose(node, spelled, inside !== undefined ? 'inside' : 'over', [], inside);
    }
    const { places, others } = idCandidates(this.entries, this.nodes, this.arena, this.called);
    for (const { node, to, evidence, mode } of places) this.propose(node, to, mode, evidence);
    this.others = others;
    const lone = sharedFolder(weighty(this.entries));
    for (const { folder, own, times, says } of learntPlaces(this.arena.statements, this.entries)) {
      if (!tree.folders.has(nameKey(folder))) continue;
      const name = lone === '' ? this.arena.packFolder : baseName(lone);
      this.propose(lone, own ? joinPath(folder, name) : folder, own ? 'own-folder' : 'over', [
        sign(times > 1 ? 'learnt' : 'learntOnce', `Learnt: ${says}`),
      ]);
    }
    for (const {
      about,
      standing,
      evidence: [first],
    } of this.arena.statements) {
      if (about.what !== 'for packs' || standing === 'refused' || !tree.folders.has(nameKey(about.folder))) continue;
      if (about.instead) {
        // Only what has a path inside the game's archives stands in for it, or loose files that one folder there has.
        for (const { exact, inner } of insidePlaces(this.top, this.arena.inside))
          if (inner !== '' || exact)
            this.propose('', joinPath(about.folder, inner), 'over', [
              sign('noted', first?.says ?? 'The game’s own note says so.'),
            ]);
        continue;
      }
      // A lone file is rather one more of its kind than a pack for a folder of its own.
      const loose = about.own && this.top.children.length === 0 && this.top.files.length === 1;
      const says = [
        {
          ...sign('noted', first?.says ?? 'The game’s own note says so.'),
          ...(loose ? { weight: WEIGHTS.noted / 2 } : {}),
        },
      ];
      // A lone folder that the game does not know is the thing itself; one that it knows is laid out like the game.
      const [top] = this.top.children;
      const itself =
        top !== undefined && top.count === this.top.count && !tree.foldersByName.has(nameKey(top.name)) ? top.path : '';
      this.propose(
        itself,
        about.own ? joinPath(about.folder, itself === '' ? this.arena.packFolder : itself) : about.folder,
        about.own ? 'own-folder' : 'over',
        says,
      );
    }
    for (const one of this.wanted)
      for (const { node, to } of missedPlaces(one)) this.propose(node, to, this.fileNames.has(node) ? 'loose' : 'over');
    // What lies in a wrapper goes where its surroundings go.
    for (const wrapper of this.arena.wrappers)
      for (const { to, mode, inside } of this.proposed.get(parentOf(wrapper))?.values() ?? [])
        this.propose(wrapper, to, mode, [], inside);
    for (const { node, to, mode, inside, evidence } of forced) this.propose(node, to, mode, evidence, inside);
  }

  private nameOf(node: PackNode, family?: Family): string {
    const clash = family && nameKey(node.name) === baseName(family.key);
    if (node.path !== '' && !clash) return node.name;
    return (family && namedByFile(node, family)) ?? this.arena.packFolder;
  }

  private proposeFamilies(node: PackNode): void {
    const { tree, knowledge } = this.arena;
    if (node.count === 0 || node.depth > DEEPEST - 1) return;
    for (const family of knowledge.families) {
      const name = this.nameOf(node, family);
      const meant = this.meantBy(node, family);
      if (meant !== undefined)
        this.propose(node.path, tree.folders.get(meant) ?? meant, 'over', [
          sign('spokenOf', `“${baseName(meant)}” is in its name, and it has a part of what such things have.`),
        ]);
      if (family.idForm !== undefined && idForm(name) !== family.idForm) continue;
      if (fitFor(node, name, family, knowledge).fit < FIT.considered) continue;
      const to = `${family.folder}/${name}`;
      const there = tree.folders.get(nameKey(to));
      this.propose(
        node.path,
        there ?? to,
        there === undefined ? 'own-folder' : 'over',
        meant !== undefined && there === undefined
          ? [
              {
                weight: WEIGHTS.otherNames,
                says: `It has only a part of what such things have, and “${baseName(meant)}” is in its name.`,
              },
            ]
          : [],
      );
    }
  }

  private proposeRoots(node: PackNode): void {
    const { roots, title } = this.arena;
    const key = nameKey(node.name);
    if (node.path === '') return;
    const called = roots.filter(
      (root, i) => key === nameKey(root.title) || key === root.id || (i === 0 && key === nameKey(title)),
    );
    // A name that two of them have says less.
    for (const root of called)
      this.propose(node.path, root.id, 'over', [
        { weight: WEIGHTS.rootName / called.length, says: `The folder is called like “${root.title}”.` },
      ]);
  }

  private proposeInside(node: PackNode): void {
    for (const { archive, inner, evidence, exact } of insidePlaces(node, this.arena.inside)) {
      if (exact) this.knownInside.add(nameKey(archive));
      this.propose(node.path, archive, 'inside', evidence, inner);
    }
  }

  private proposeFiles(node: PackNode): void {
    const { knowledge, tree } = this.arena;
    for (const { path } of node.files.slice(0, MOST_FILES)) {
      const name = nameKey(baseName(path));
      const homes = topHomes(knowledge, extensionOf(path));
      const named = tree.foldersOfFile.get(name);
      const folders = [
        ...homes,
        ...(named === undefined ? [] : typeof named === 'string' ? [named] : named.slice(0, 6)),
      ];
      const stem = stemOf(name);
      // A folder of that name in the pack speaks for itself.
      for (const folder of this.namedFolders(extensionOf(path)).filter(
        (one) => !nameKey(path).split('/').includes(baseName(one)),
      ))
        this.propose(
          path,
          gameFile(tree, `${folder}/${name}`) ?? `${tree.folders.get(folder) as string}/${baseName(path)}`,
          'loose',
          [{ weight: WEIGHTS.packNames, says: `The pack’s name has “${baseName(folder)}” in it.` }],
        );
      const byId = knowledge.ids.flatMap(({ files }) => files.get(stem) ?? []);
      for (const folder of byId)
        this.propose(
          path,
          gameFile(tree, `${folder}/${name}`) ?? `${tree.folders.get(folder) as string}/${baseName(path)}`,
          'loose',
          [{ weight: WEIGHTS.sameId / Math.sqrt(byId.length), says: 'Another file of this id lies there.' }],
        );
      for (const folder of homes)
        for (const there of this.namesakes(path, folder))
          this.propose(path, there, 'loose', [sign('form', `Its name has “${stemOf(there)}” in it.`)]);
      for (const folder of new Set(folders)) {
        const spelled = tree.folders.get(folder) as string;
        this.propose(path, gameFile(tree, `${folder}/${name}`) ?? `${spelled}/${baseName(path)}`, 'loose');
      }
    }
  }

  /**
   * `quieter theme.opus` for the game's `theme.opus`: a picture or a sound is only read under the name that the game
   * knows.
   */
  private namesakes(path: string, folder: string): string[] {
    const words = nameKey(stemOf(path)).split(' ');
    if (words.length < 2 || this.entries.length > 1 || !['picture', 'texture', 'sound'].includes(kindOf(path)))
      return [];
    const names = [...(this.arena.tree.files.get(folder)?.entries() ?? [])];
    return names
      .filter(
        ([name]) => extensionOf(name) === extensionOf(path) && stemOf(name).length > 3 && words.includes(stemOf(name)),
      )
      .slice(0, 2)
      .map(([, target]) => target);
  }

  private readonly namedKnown = new Map<string, string[]>();
  /** Folders that the pack's name names, and that hold files of an ending. */
  private namedFolders(ending: string): string[] {
    const before = this.namedKnown.get(ending);
    if (before) return before;
    const { tree } = this.arena;
    const found = [...this.packWords].flatMap((word) =>
      (tree.foldersByName.get(word) ?? [])
        .filter(
          (folder) =>
            folder.includes('/') &&
            [...(tree.files.get(folder)?.keys() ?? [])].some((file) => extensionOf(file) === ending),
        )
        .slice(0, KEPT),
    );
    this.namedKnown.set(ending, found);
    return found;
  }

  /** `Otter body.png` for the `body.png` of the one called `otter`. */
  private proposeNamed(node: PackNode): void {
    const { knowledge, tree } = this.arena;
    for (const { path } of node.files.slice(0, MOST_FILES)) {
      const name = nameKey(baseName(path));
      for (const family of knowledge.families)
        for (const member of family.members) {
          const called = baseName(member);
          if (called.length < 3 || !name.startsWith(called) || !/^[ _.-]/.test(name.slice(called.length))) continue;
          const there = gameFile(tree, `${member}/${name.slice(called.length).replace(/^[ _.-]+/, '')}`);
          if (there !== undefined)
            this.propose(path, there, 'loose', [
              { weight: WEIGHTS.named, says: `It is named after “${called}” and one of its files.` },
            ]);
        }
    }
  }

  /** A file and a folder of one name, where the game has such pairs. */
  private proposePairs(node: PackNode): void {
    const { knowledge, tree } = this.arena;
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
        this.propose(twin.path, `${spelled}/${twin.name}`, 'own-folder', evidence);
        this.propose(path, `${spelled}/${baseName(path)}`, 'loose', evidence);
      }
    }
  }

  /** `coat.red` where the game has `coat` and `coat.blue` beside each other. */
  private proposeVariants(node: PackNode): void {
    const { knowledge, tree } = this.arena;
    const prefix = variantOf(nameKey(node.name));
    if (prefix === undefined || node.count === 0) return;
    const parents = [...(knowledge.variants.get(prefix) ?? [])].sort();
    const spoken = parents.filter((parent) => speaksOf(this.speech, baseName(parent)));
    for (const parent of parents.slice(0, 50)) {
      const weight =
        spoken.includes(parent) && spoken.length === 1
          ? WEIGHTS.variant + WEIGHTS.spokenOf
          : WEIGHTS.variant / Math.sqrt(parents.length);
      this.propose(node.path, `${tree.folders.get(parent) as string}/${node.name}`, 'own-folder', [
        { weight, says: `Folders called “${prefix} …” lie there.` },
      ]);
    }
  }

  /** The candidates for one part, weighed, best first. */
  private candidates(path: string, node: PackNode | undefined): Candidate[] {
    const { tree, knowledge, steps } = this.arena;
    const beside = node ? [] : (this.nodes.get(parentOf(path))?.files ?? []).slice(0, MOST_NEIGHBOURS);
    const found = [...(this.proposed.get(path)?.values() ?? [])].map((one): Candidate => {
      const name = node ? this.nameOf(node) : baseName(path);
      const made: Candidate = {
        node: path,
        file: !node,
        to: one.to,
        mode: one.mode,
        evidence: [],
        points: 0,
        files: node?.count ?? 1,
        ...(one.inside === undefined ? {} : { inside: one.inside }),
      };
      const seen =
        one.inside !== undefined
          ? []
          : node
            ? weighFolder(node, name, one.to, tree, knowledge)
            : [...weighFile(path, one.to, tree, knowledge), ...weighTwins(path, one.to, beside, tree)];
      const told = toldOf(made, steps, this.shared, (folder) => tree.folders.has(nameKey(folder)));
      const missed = missedAt(this.wanted, made);
      // Where the read-me, the log or the player says the very place, that its kind of file is new there says little.
      const clear =
        told.some(({ weight }) => weight > WEIGHTS.told / 2) ||
        missed.length > 0 ||
        hasSign(one.evidence, 'learnt', 'learntOnce', 'card');
      made.evidence = [
        ...one.evidence,
        ...seen.map((seenOne) =>
          clear && isAstray(seenOne) ? { ...seenOne, weight: seenOne.weight * TOLD_ASTRAY } : seenOne,
        ),
        ...told,
        ...missed,
      ];
      const other = one.inside === undefined ? this.neighbour(one.to, path, node) : undefined;
      const oneId =
        other === undefined &&
        one.inside === undefined &&
        !hasSign(one.evidence, 'ownId', 'card', 'learnt', 'learntOnce') &&
        clear === false
          ? this.idFolder(one.to, path, node)
          : undefined;
      if (oneId !== undefined) made.evidence.push(sign('whichOne', `Nothing says that “${oneId}” is meant.`));
      const nameless =
        other !== undefined && knowledge.familyOf.get(this.thingOf(nameKey(one.to)) ?? '')?.idForm !== undefined;
      if (nameless)
        made.evidence.push(
          sign('whichOne', `Nothing says that “${baseName(this.thingOf(nameKey(one.to)) ?? '')}” is meant.`),
        );
      else if (other !== undefined)
        made.evidence.push({
          weight: WEIGHTS.neighbour,
          says: `“${other}” is another one of the kind: only names inside agree.`,
        });
      const thing = other === undefined ? this.spokenOf(one.to, path) : undefined;
      if (thing !== undefined) made.evidence.push(sign('spokenOf', `“${thing}” is spoken of.`));
      if (!node && other === undefined && this.neighbourSpokenOf(one.to, path))
        made.evidence.push(sign('spokenOf', 'The read-me speaks of a file that lies there.'));
      const added = one.inside === undefined && !hasSign(one.evidence, 'cardKind') ? this.addedTo(one.to) : undefined;
      // What players add does not lie among the game's own files of the kind.
      if (
        added !== undefined &&
        !node &&
        gameFile(tree, nameKey(one.to)) === undefined &&
        this.isHome(path, parentOf(one.to))
      )
        made.evidence.push({
          weight: WEIGHTS.ending * OWN_KIND,
          says: `Others of its kind that were added lie in “${baseName(parentOf(one.to))}”.`,
        });
      if (added !== undefined && node && this.hasTwin(one.to))
        made.evidence.push({
          weight: WEIGHTS.forPacks,
          says: `The game’s own of the kind lie elsewhere; those that were added lie in “${baseName(parentOf(one.to))}”.`,
        });
      if (added !== undefined)
        made.evidence.push({ weight: WEIGHTS.forPacks, says: `“${added}” is a name for what players add.` });
      if (this.carries(made, node))
        made.evidence.push({
          weight: WEIGHTS.astray,
          says: 'A folder that is only for choosing would be taken along.',
        });
      const closed =
        one.inside !== undefined ? undefined : node ? this.allClosedTo(node, one.to) : this.closedTo(path, one.to);
      if (closed !== undefined)
        made.evidence.push({
          weight: WEIGHTS.otherNames,
          says: `Each one like “${closed}” has files of the same names, and this is none of them.`,
        });
      const home = node && one.inside === undefined ? this.packNames(one.to, path) : undefined;
      if (home !== undefined)
        made.evidence.push({ weight: WEIGHTS.packNames, says: `The pack’s name has “${home}” in it.` });
      if (this.others.some((other) => isUnder(nameKey(one.to), other)))
        made.evidence.push({ weight: WEIGHTS.neighbour, says: 'Another one is named.' });
      made.points = pointsOf(made.evidence);
      return made;
    });
    return found
      .filter(({ points }) => points > 0)
      .sort(byPoints)
      .slice(0, KEPT);
  }

  /**
   * Would it be one more in a folder of things that another folder of the game has, too, with a file of the same name?
   */
  private hasTwin(to: string): boolean {
    const { families } = this.arena.knowledge;
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
  private isHome(path: string, folder: string): boolean {
    return (this.arena.knowledge.homes.get(extensionOf(path))?.get(nameKey(folder)) ?? 0) > 0;
  }

  /** Does a part hold a folder that is only for choosing, which would be made in the game, too? */
  private carries({ to }: Candidate, node: PackNode | undefined): boolean {
    if (!node) return false;
    return this.arena.wrappers.some(
      (wrapper) =>
        wrapper !== node.path &&
        isUnder(wrapper, node.path) &&
        !this.arena.tree.folders.has(
          nameKey(joinPath(to, node.path === '' ? wrapper : wrapper.slice(node.path.length + 1))),
        ),
    );
  }

  /**
   * The thing of a kind that it would be laid over although the pack brings another one: by a new name, or without one.
   */
  private neighbour(to: string, path: string, node: PackNode | undefined): string | undefined {
    const { knowledge, tree, packFolder } = this.arena;
    for (const { form, names } of knowledge.ids) {
      const own = path.split('/').find((name) => idForm(name) === form);
      const other = to.split('/').find((name) => names.has(nameKey(name)));
      if (own !== undefined && other !== undefined && nameKey(own) !== nameKey(other)) return other;
    }
    const folder = this.thingOf(nameKey(to));
    const family = folder === undefined ? undefined : knowledge.familyOf.get(folder);
    if (folder === undefined || !family) return undefined;
    const called = baseName(folder);
    const named = path.split('/').map(nameKey);
    // The only one of its kind so far is one of a kind all the same.
    for (let above = this.thingOf(parentOf(folder)); above !== undefined; above = this.thingOf(parentOf(above))) {
      const kind = knowledge.familyOf.get(above);
      if (kind?.members.size === 1 && !named.includes(baseName(above)) && this.isOneOf(kind, path))
        return tree.folders.get(above);
    }
    if (named.includes(called)) return undefined;
    if (node && this.meantBy(node, family) === folder) return undefined;
    // It says itself for which other one it is.
    if (named.some((name) => family.members.has(`${family.key}/${name}`))) return tree.folders.get(folder);
    if (this.isOneOf(family, path)) return tree.folders.get(folder);
    const { exact, rare, total } = node ? overlapOf(node, to, tree) : NO_OVERLAP;
    // Inside one of several such things that hold the like, unless it is spoken of, or files of this path say which.
    if (
      node &&
      folder !== nameKey(to) &&
      exact === 0 &&
      family.members.size > 1 &&
      nameKey(packFolder) !== called &&
      this.spokenOf(to, path) === undefined
    )
      return tree.folders.get(folder);
    // Of several whose names say nothing the one that happens to hold most of these files need not be meant.
    if (family.idForm !== undefined && family.members.size > 1 && this.spokenOf(to, path) === undefined)
      return tree.folders.get(folder);
    // The pack itself, unnamed: what lies under these very names in one member alone can mean that one.
    if (nameKey(packFolder) === called || folder !== nameKey(to) || !node || (node.path !== '' && node.depth > 1))
      return undefined;
    if (this.spokenOf(to, path) !== undefined) return undefined;
    return exact > 0 && exact >= total * 0.6 && rare / exact > 0.6 ? undefined : tree.folders.get(folder);
  }

  /**
   * `owl voice` with a part of what such things have: the one called `owl` is meant, and it is no other one of the
   * kind.
   */
  private meantBy(node: PackNode, family: Family): string | undefined {
    if (family.drawers) return undefined;
    const words = nameKey(node.path === '' ? this.arena.packFolder : node.name).split(/[^\p{L}\p{N}]+/u);
    const [one, ...more] =
      words.length < 2
        ? []
        : [...family.members].filter(
            (member) => baseName(member).length >= SHORTEST_SPOKEN && words.includes(baseName(member)),
          );
    if (one === undefined || more.length > 0) return undefined;
    const { fit, whole } = fitFor(node, this.nameOf(node), family, this.arena.knowledge);
    // With files of other names it may be one more of the kind that is only called alike.
    const { exact, total } = overlapOf(node, this.arena.tree.folders.get(one) ?? one, this.arena.tree);
    return fit > 0 && whole < ONE_OF_THEM && exact === total ? one : undefined;
  }

  /** Does a folder of the pack that a path lies in look like one more of a kind? */
  private isOneOf(family: Family, path: string): boolean {
    for (let at = path; at !== ''; at = parentOf(at)) {
      const own = this.nodes.get(at);
      if (own && fitFor(own, this.nameOf(own), family, this.arena.knowledge).fit > FIT.oneOfAKind) return true;
    }
    return false;
  }

  /**
   * The id in whose folder it would lie although the player has several, no file there is replaced and nothing says
   * which is meant.
   */
  private idFolder(to: string, path: string, node: PackNode | undefined): string | undefined {
    const { knowledge, tree } = this.arena;
    for (const { names, owned } of knowledge.ids) {
      const id = to
        .split('/')
        .slice(0, node ? undefined : -1)
        .find((name) => names.has(nameKey(name)));
      if (
        id === undefined ||
        owned.size < 2 ||
        path.split('/').some((name) => nameKey(name) === nameKey(id)) ||
        this.isSpokenOf(nameKey(id))
      )
        continue;
      const same = node ? overlapOf(node, to, tree).exact > 0 : gameFile(tree, nameKey(to)) !== undefined;
      if (!same) return id;
    }
    return undefined;
  }

  /** The folder for what players add that it would lie in: straight, or in a drawer of it, not in somebody's add-on. */
  private addedTo(to: string): string | undefined {
    for (let folder = nameKey(parentOf(to)); folder.includes('/'); folder = parentOf(folder)) {
      if (ADDITIONS.has(baseName(folder))) return baseName(folder);
      if (this.arena.knowledge.familyOf.get(folder)?.drawers === false) return undefined;
    }
    return undefined;
  }

  /**
   * The thing in whose folder a file would lie, where all things of that kind have files of the same names of this
   * ending, and it has another.
   */
  private closedTo(path: string, to: string): string | undefined {
    const folder = nameKey(parentOf(to));
    const family = this.arena.knowledge.familyOf.get(folder);
    const ending = extensionOf(path);
    if (!family || family.drawers || family.members.size < 2) return undefined;
    const names = [...family.core].filter((one) => one.startsWith('F:') && extensionOf(one) === ending);
    const there = [...(this.arena.tree.files.get(folder)?.keys() ?? [])].filter((name) => extensionOf(name) === ending);
    return names.length > 0 && there.length <= names.length && !there.includes(nameKey(baseName(to)))
      ? baseName(folder)
      : undefined;
  }

  /** The same for a folder: none of its files has a name that such things have. */
  private allClosedTo(node: PackNode, to: string): string | undefined {
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
  private packNames(to: string, path: string): string | undefined {
    const name = baseName(parentOf(to));
    const bare = nameKey(name).replace(/[^\p{L}\p{N}]/gu, '');
    if (bare.length < SHORTEST_NAME || !parentOf(to).includes('/') || nameKey(path).split('/').includes(nameKey(name)))
      return undefined;
    return this.packWords.has(bare) ? name : undefined;
  }

  /** The folder of the thing of a kind that a folder or file of the game is part of: the innermost. */
  private thingOf(key: string): string | undefined {
    let folder = key;
    const { familyOf } = this.arena.knowledge;
    while (folder.includes('/') && (familyOf.get(folder)?.drawers ?? true)) folder = parentOf(folder);
    return folder.includes('/') ? folder : undefined;
  }

  /**
   * The one of many alike whose folder it is, where the pack's name or its read-me speaks of that one and of no other.
   */
  private spokenOf(to: string, node: string): string | undefined {
    const { knowledge, tree } = this.arena;
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
  private isSpokenOf(member: string): boolean {
    return [member, this.called.get(member)].some(
      (name) =>
        name !== undefined &&
        name.length >= SHORTEST_SPOKEN &&
        this.mentions(nameKey(name)) &&
        speaksOf(this.speech, name),
    );
  }

  private lowSpeech: string | undefined;
  /** Could a name be spoken of? Of a kind there can be thousands, and few are. */
  private mentions(name: string): boolean {
    this.lowSpeech ??= nameKey(this.speech);
    return this.lowSpeech.includes(name.split(/[ _-]/)[0] as string);
  }

  /** Does the read-me speak of another file of this ending in the same folder of the game, by its full name? */
  private neighbourSpokenOf(to: string, path: string): boolean {
    const { tree } = this.arena;
    if (this.arena.said === '') return false;
    const files = tree.files.get(nameKey(parentOf(to)));
    const ending = extensionOf(path);
    if (!files || files.size > MOST_NEIGHBOURS) return false;
    const low = nameKey(this.speech);
    return [...files.keys()].some(
      (file) => extensionOf(file) === ending && file !== nameKey(baseName(path)) && low.includes(file),
    );
  }

  private solve(node: PackNode): Plan[] {
    const own = this.nodes.has(node.path)
      ? this.candidates(node.path, node).map((one): Plan => ({ items: [one], points: one.points, left: [] }))
      : [];
    if (node.depth >= DEEPEST || !this.nodes.has(node.path)) return own;
    const parts: { plans: Plan[]; entries: PackEntry[] }[] = node.children.map((child) => ({
      plans: this.solve(child),
      entries: child.folders.flatMap(({ files }) => files),
    }));
    for (const file of node.files.slice(0, MOST_FILES))
      parts.push({
        plans: this.candidates(file.path, undefined).map((one): Plan => ({
          items: [one],
          points: one.points,
          left: [],
        })),
        entries: [file],
      });
    const over = node.files.slice(MOST_FILES);
    if (over.length > 0) parts.push({ plans: [], entries: [...over] });
    const [only, second] = parts;
    const split = only && !second ? only.plans : combine(parts);
    return distinct(
      [...own, ...split],
      node.count > MOST_COMPARED ? [] : node.folders.flatMap(({ files }) => files),
    ).slice(0, KEPT);
  }
}

/** The competition for some files of a pack in a game: the best plans, best first. */
export const compete = (entries: readonly PackEntry[], arena: Arena): Plan[] => new Competition(entries, arena).plans();

const homesKnown = new WeakMap<Knowledge, Map<string, string[]>>();

/** The folders that hold most files of an ending: keys, the fullest first. */
function topHomes(knowledge: Knowledge, ending: string): string[] {
  const known = homesKnown.get(knowledge) ?? new Map<string, string[]>();
  homesKnown.set(knowledge, known);
  const before = known.get(ending);
  if (before) return before;
  const made = [...(knowledge.homes.get(ending) ?? [])]
    .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
    .slice(0, 6)
    .map(([folder]) => folder);
  known.set(ending, made);
  return made;
}

const byPoints = (a: Candidate, b: Candidate): number =>
  b.points - a.points || a.to.length - b.to.length || (a.to < b.to ? -1 : 1);
