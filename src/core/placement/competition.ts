import type { PackEntry } from '../archives/pack';
import { speaksOf } from '../inspect/sentences';
import type { Step } from '../inspect/steps';
import { baseName, extensionOf, isUnder, joinPath, nameKey, parentOf, type TargetPath } from '../paths/paths';
import { idForm } from '../study/ids';
import { learntPlaces } from '../study/learned';
import { refusedFolders, type Statement } from '../study/statement';
import { knowledgeOf, variantOf, type Family, type Knowledge } from '../study/knowledge';
import type { PlacementMode } from './context';
import { WEIGHTS, pointsOf, saturate, type Evidence } from './evidence';
import { gameFile, type GameTree } from './gameTree';
import { idCandidates } from './idPlaces';
import { sharedFolder, waysOver } from './overTree';
import { packFolders } from './packFolders';
import { packTree, relOf, type PackNode } from './packTree';
import { toldOf, toldPlaces } from './told';
import { fitFor, isAstray, overlapOf, weighFile, weighFolder } from './weigh';

/** One part of a pack and one place for it, with everything that was seen for and against. */
export interface Candidate {
  /** The folder or file of the pack. */
  node: string;
  file: boolean;
  to: TargetPath;
  /** Set where `to` is an archive of the game: the folder inside. */
  inside?: string | undefined;
  mode: PlacementMode;
  evidence: Evidence[];
  points: number;
  files: number;
}

/** A way to place all of a pack: a candidate for each of its parts. */
export interface Plan {
  items: Candidate[];
  points: number;
  /** Files for which no place is known. */
  left: PackEntry[];
}

/** What a competition is held with. */
export interface Arena {
  tree: GameTree;
  knowledge: Knowledge;
  steps: readonly Step[];
  inside: ReadonlyMap<string, readonly string[]>;
  roots: readonly { id: string; title: string }[];
  title: string;
  /** What is known of the game: refused statements count no more, learnt places do. */
  statements: readonly Statement[];
  /** Parts whose place the player has said. */
  forced: readonly { node: string; to: string; evidence: Evidence[] }[];
  /** The read-me. */
  said: string;
  /** The download's name as a folder would be called. */
  packFolder: string;
}

/** Parts deeper than this are placed with what they lie in. */
const DEEPEST = 6;
const MOST_NODES = 400;
/** Of larger packs fewer parts are looked at by themselves: what counts there is the whole. */
const MANY_ENTRIES = 5000;
/** Of each part so many candidates stay in the race. */
const KEPT = 6;
/** In fuller folders no neighbour is looked for. */
const MOST_NEIGHBOURS = 500;
/** Files straight in a folder that are looked at one by one. */
const MOST_FILES = 60;

interface Proposed {
  to: string;
  inside?: string | undefined;
  mode: PlacementMode;
  evidence: Evidence[];
}

/** Collects candidates for every part of a pack, weighs them, and finds the best ways to place all of it. */
export class Competition {
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

  constructor(private readonly entries: readonly PackEntry[], arena: Arena) {
    // “Rename it to x.map”: the one file of that ending is meant.
    const meant = (step: Step): Step => {
      if (step.kind !== 'put' || step.what.length > 0 || !step.name?.includes('.')) return step;
      const fits = entries.filter(({ path }) => extensionOf(path) === extensionOf(step.name ?? ''));
      return fits.length === 1 ? { ...step, what: [fits[0]?.path as string] } : step;
    };
    this.arena = { ...arena, steps: arena.steps.map(meant) };
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
    if (to.includes('/') && nameKey(baseName(to)) === nameKey(baseName(parentOf(to))) && !this.arena.tree.folders.has(nameKey(to))) return;
    if (to === '' || to.split('/').some((name) => name === '')) return;
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
      this.proposeVariants(node);
    }
    for (const { node, to, inside } of toldPlaces(steps, this.shared, (path) => this.fileNames.has(path), this.arena.packFolder)) {
      if (inside !== undefined && this.knownInside.has(nameKey(to))) continue;
      const spelled = tree.folders.get(nameKey(to)) ?? gameFile(tree, nameKey(to)) ?? to;
      this.propose(node, spelled, inside !== undefined ? 'inside' : 'over', [], inside);
    }
    const { places, others } = idCandidates(this.entries, this.nodes, this.arena);
    for (const { node, to, evidence, mode } of places) this.propose(node, to, mode, evidence);
    this.others = others;
    const lone = sharedFolder(weighty(this.entries));
    for (const { folder, own, times, says } of learntPlaces(this.arena.statements, this.entries)) {
      if (!tree.folders.has(nameKey(folder))) continue;
      const name = lone === '' ? this.arena.packFolder : baseName(lone);
      this.propose(lone, own ? joinPath(folder, name) : folder, own ? 'own-folder' : 'over', [{ weight: times > 1 ? WEIGHTS.learnt : WEIGHTS.learntOnce, says: `Learnt: ${says}` }]);
    }
    for (const { node, to, evidence } of forced) this.propose(node, to, 'title', evidence);
  }

  private nameOf(node: PackNode, family?: Family): string {
    const clash = family && nameKey(node.name) === baseName(family.key);
    return node.path === '' || clash ? this.arena.packFolder : node.name;
  }

  private proposeFamilies(node: PackNode): void {
    const { tree, knowledge } = this.arena;
    if (node.count === 0 || node.depth > DEEPEST - 1) return;
    for (const family of knowledge.families) {
      const name = this.nameOf(node, family);
      if (fitFor(node, name, family, knowledge).fit < 0.3) continue;
      const to = `${family.folder}/${name}`;
      this.propose(node.path, tree.folders.get(nameKey(to)) ?? to, 'own-folder');
    }
  }

  private proposeRoots(node: PackNode): void {
    const { roots, title } = this.arena;
    const key = nameKey(node.name);
    if (node.path === '') return;
    roots.forEach((root, i) => {
      if (key !== nameKey(root.title) && key !== root.id && !(i === 0 && key === nameKey(title))) return;
      this.propose(node.path, root.id, 'over', [{ weight: WEIGHTS.rootName, says: `The folder is called like “${root.title}”.` }]);
    });
  }

  private proposeInside(node: PackNode): void {
    const { inside } = this.arena;
    if (inside.size === 0 || node.count === 0) return;
    for (const [archive, paths] of inside) {
      const known = insideIndex(paths);
      let exact = 0, near = 0;
      for (const folder of node.folders) {
        const rel = relOf(folder, node).join('/');
        const folderThere = rel !== '' && known.folders.has(rel);
        for (const file of folder.fileKeys) {
          if (known.files.has(joinPath(rel, file))) exact++;
          else if (folderThere) near++;
        }
      }
      const key = nameKey(node.name);
      const name = nameKey(baseName(archive));
      const stem = name.replace(/\.[^.]+$/, '');
      const called = node.path !== '' && (key === name || key === stem || ` ${key} `.includes(` ${name} `) || key.endsWith(`_${stem}`));
      this.proposeInner(node, archive, known);
      if (exact + near === 0 && !called) continue;
      const evidence: Evidence[] = [];
      const others = [...inside.keys()].length;
      if (exact > 0) evidence.push({ weight: WEIGHTS.insidePath * saturate(exact, 1) * ((exact + near) / node.count), says: `${exact === 1 ? 'One file' : `${exact} files`} of this path ${exact === 1 ? 'is' : 'are'} inside “${baseName(archive)}”.` });
      else if (near > 0) evidence.push({ weight: (WEIGHTS.insidePath / 2 / Math.sqrt(others)) * (near / node.count), says: `Its folders are inside “${baseName(archive)}”.` });
      const lost = 1 - (exact + near) / node.count;
      if (lost > 0 && !called) evidence.push({ weight: WEIGHTS.astray * lost, says: 'A part of it has no place inside.' });
      if (called) evidence.push({ weight: WEIGHTS.archiveName, says: `The folder is called after “${baseName(archive)}”.` });
      if (exact > 0) this.knownInside.add(nameKey(archive));
      this.propose(node.path, archive, 'inside', evidence, '');
    }
  }

  /** Files that lie loose in the pack under names that the archive has in one of its folders. */
  private proposeInner(node: PackNode, archive: string, known: { byName: Map<string, string[]> }): void {
    if (node.children.length > 0 || node.files.length === 0 || node.files.length > MOST_FILES) return;
    const homes = node.files.map(({ path }) => known.byName.get(nameKey(baseName(path))) ?? []);
    const inner = (homes[0] ?? []).find((folder) => folder !== '' && homes.every((some) => some.includes(folder)));
    if (inner === undefined || nameKey(node.name) === baseName(inner)) return;
    const weight = WEIGHTS.insidePath * WEIGHTS.sameName * saturate(homes.length, 1);
    this.propose(node.path, archive, 'inside', [{ weight, says: `Names of its files are inside “${baseName(archive)}”, in “${inner}”.` }], inner);
  }

  private proposeFiles(node: PackNode): void {
    const { knowledge, tree } = this.arena;
    for (const { path } of node.files.slice(0, MOST_FILES)) {
      const name = nameKey(baseName(path));
      const homes = topHomes(knowledge, extensionOf(path));
      const named = tree.foldersOfFile.get(name);
      const folders = [...homes, ...(named === undefined ? [] : typeof named === 'string' ? [named] : named.slice(0, 6))];
      const stem = name.replace(/\.[^.]+$/, '');
      const byId = knowledge.ids.flatMap(({ files }) => files.get(stem) ?? []);
      for (const folder of byId) this.propose(path, gameFile(tree, `${folder}/${name}`) ?? `${tree.folders.get(folder) as string}/${baseName(path)}`, 'loose', [{ weight: WEIGHTS.sameId / Math.sqrt(byId.length), says: 'Another file of this id lies there.' }]);
      for (const folder of new Set(folders)) {
        const spelled = tree.folders.get(folder) as string;
        this.propose(path, gameFile(tree, `${folder}/${name}`) ?? `${spelled}/${baseName(path)}`, 'loose');
      }
    }
  }

  /** A file and a folder of one name, where the game has such pairs. */
  private proposePairs(node: PackNode): void {
    const { knowledge, tree } = this.arena;
    for (const { path } of node.files.slice(0, MOST_FILES)) {
      const stem = nameKey(baseName(path)).replace(/\.[^.]+$/, '');
      const twin = node.children.find(({ name }) => nameKey(name) === stem);
      if (!twin) continue;
      for (const folder of topHomes(knowledge, extensionOf(path))) {
        const pairs = [...(tree.files.get(folder)?.keys() ?? [])].filter((file) => extensionOf(file) === extensionOf(path) && tree.folders.has(`${folder}/${file.replace(/\.[^.]+$/, '')}`));
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
    const { knowledge, tree, said, packFolder } = this.arena;
    const prefix = variantOf(nameKey(node.name));
    if (prefix === undefined || node.count === 0) return;
    const parents = [...(knowledge.variants.get(prefix) ?? [])].sort();
    const spoken = parents.filter((parent) => speaksOf(`${packFolder}\n${said.slice(0, 65_536)}`, baseName(parent)));
    for (const parent of parents.slice(0, 50)) {
      const weight = spoken.includes(parent) && spoken.length === 1 ? WEIGHTS.variant + WEIGHTS.spokenOf : WEIGHTS.variant / Math.sqrt(parents.length);
      this.propose(node.path, `${tree.folders.get(parent) as string}/${node.name}`, 'own-folder', [{ weight, says: `Folders called “${prefix} …” lie there.` }]);
    }
  }

  /** The candidates for one part, weighed, best first. */
  private candidates(path: string, node: PackNode | undefined): Candidate[] {
    const { tree, knowledge, steps } = this.arena;
    const found = [...(this.proposed.get(path)?.values() ?? [])].map((one): Candidate => {
      const name = node ? this.nameOf(node) : baseName(path);
      const made: Candidate = { node: path, file: !node, to: one.to as TargetPath, mode: one.mode, evidence: [], points: 0, files: node?.count ?? 1, ...(one.inside === undefined ? {} : { inside: one.inside }) };
      const seen = one.inside !== undefined ? [] : node ? weighFolder(node, name, one.to, tree, knowledge) : weighFile(path, one.to, tree, knowledge);
      const told = toldOf(made, steps, this.shared, (folder) => tree.folders.has(nameKey(folder)));
      // Where the read-me or the player says the very place, that its kind of file is new there says little.
      const clear = told.some(({ weight }) => weight > WEIGHTS.told / 2) || one.evidence.some(({ weight }) => weight === WEIGHTS.learnt || weight === WEIGHTS.learntOnce || weight === WEIGHTS.card);
      made.evidence = [...one.evidence, ...seen.map((seenOne) => (clear && isAstray(seenOne) ? { ...seenOne, weight: seenOne.weight * 0.05 } : seenOne)), ...told];
      const other = one.inside === undefined ? this.neighbour(one.to, path, node) : undefined;
      if (other !== undefined) made.evidence.push({ weight: WEIGHTS.neighbour, says: `“${other}” is another one of the kind: only names inside agree.` });
      const thing = other === undefined ? this.spokenOf(one.to, path) : undefined;
      if (thing !== undefined) made.evidence.push({ weight: WEIGHTS.spokenOf, says: `“${thing}” is spoken of.` });
      if (!node && other === undefined && this.neighbourSpokenOf(one.to, path)) made.evidence.push({ weight: WEIGHTS.spokenOf, says: 'The read-me speaks of a file that lies there.' });
      if (this.others.some((other) => isUnder(nameKey(one.to), other))) made.evidence.push({ weight: WEIGHTS.neighbour, says: 'Another one is named.' });
      made.points = pointsOf(made.evidence);
      return made;
    });
    return found.filter(({ points }) => points > 0).sort(byPoints).slice(0, KEPT);
  }

  /** The thing of a kind that it would be laid over although the pack brings another one: by a new name, or without one. */
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
    if (named.includes(called)) return undefined;
    // It says itself for which other one it is.
    if (named.some((name) => family.members.has(`${family.key}/${name}`))) return tree.folders.get(folder);
    for (let at = path; at !== ''; at = parentOf(at)) {
      const own = this.nodes.get(at);
      if (own && fitFor(own, this.nameOf(own), family, knowledge).fit > 0.5) return tree.folders.get(folder);
    }
    // The pack itself, unnamed: what lies under these very names in one member alone can mean that one.
    if (nameKey(packFolder) === called || folder !== nameKey(to) || !node || (node.path !== '' && node.depth > 1)) return undefined;
    if (this.spokenOf(to, path) !== undefined) return undefined;
    const { exact, rare, total } = overlapOf(node, to, tree);
    return exact > 0 && exact >= total * 0.6 && rare / exact > 0.6 ? undefined : tree.folders.get(folder);
  }

  /** The folder of the thing of a kind that a folder or file of the game is part of: the innermost. */
  private thingOf(key: string): string | undefined {
    let folder = key;
    while (folder.includes('/') && !this.arena.knowledge.familyOf.has(folder)) folder = parentOf(folder);
    return folder.includes('/') ? folder : undefined;
  }

  /** The one of many alike whose folder it is, where the pack's name or its read-me speaks of that one and of no other. */
  private spokenOf(to: string, node: string): string | undefined {
    const { knowledge, tree, said, packFolder } = this.arena;
    for (let folder = nameKey(to); folder.includes('/'); folder = parentOf(folder)) {
      const family = knowledge.familyOf.get(folder);
      if (!family || nameKey(baseName(node)) === baseName(folder)) continue;
      const known = this.spoken.get(family) ?? new Set([...family.members].filter((member) => baseName(member).length >= 4 && speaksOf(`${packFolder}\n${said.slice(0, 65_536)}`, baseName(member))));
      this.spoken.set(family, known);
      if (known.size === 1 && known.has(folder)) return baseName(tree.folders.get(folder) ?? folder);
    }
    return undefined;
  }

  /** Does the read-me speak of another file of this ending in the same folder of the game, by its full name? */
  private neighbourSpokenOf(to: string, path: string): boolean {
    const { tree, said } = this.arena;
    if (said === '') return false;
    const files = tree.files.get(nameKey(parentOf(to)));
    const ending = extensionOf(path);
    if (!files || files.size > MOST_NEIGHBOURS) return false;
    const low = nameKey(said.slice(0, 65_536));
    return [...files.keys()].some((file) => extensionOf(file) === ending && file !== nameKey(baseName(path)) && low.includes(file));
  }

  private solve(node: PackNode): Plan[] {
    const own = this.nodes.has(node.path) ? this.candidates(node.path, node).map((one): Plan => ({ items: [one], points: one.points, left: [] })) : [];
    if (node.depth >= DEEPEST || !this.nodes.has(node.path)) return own;
    const parts: { plans: Plan[]; entries: PackEntry[] }[] = node.children.map((child) => ({ plans: this.solve(child), entries: child.folders.flatMap(({ files }) => files) }));
    for (const file of node.files.slice(0, MOST_FILES)) parts.push({ plans: this.candidates(file.path, undefined).map((one): Plan => ({ items: [one], points: one.points, left: [] })), entries: [file] });
    const over = node.files.slice(MOST_FILES);
    if (over.length > 0) parts.push({ plans: [], entries: [...over] });
    const [only, second] = parts;
    const split = only && !second ? only.plans : combine(parts);
    return distinct([...own, ...split], node).slice(0, KEPT);
  }
}

const homesKnown = new WeakMap<Knowledge, Map<string, string[]>>();

/** The folders that hold most files of an ending: keys, the fullest first. */
function topHomes(knowledge: Knowledge, ending: string): string[] {
  const known = homesKnown.get(knowledge) ?? new Map<string, string[]>();
  homesKnown.set(knowledge, known);
  const before = known.get(ending);
  if (before) return before;
  const made = [...(knowledge.homes.get(ending) ?? [])].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1)).slice(0, 6).map(([folder]) => folder);
  known.set(ending, made);
  return made;
}

const byPoints = (a: Candidate, b: Candidate): number => b.points - a.points || a.to.length - b.to.length || (a.to < b.to ? -1 : 1);

const indexes = new WeakMap<readonly string[], InsideIndex>();

interface InsideIndex {
  files: Set<string>;
  folders: Set<string>;
  /** A file's own name to the folders inside that have it. */
  byName: Map<string, string[]>;
}

function insideIndex(paths: readonly string[]): InsideIndex {
  const known = indexes.get(paths);
  if (known) return known;
  const made: InsideIndex = { files: new Set(), folders: new Set(), byName: new Map() };
  for (const path of paths) {
    const key = nameKey(path);
    made.files.add(key);
    made.byName.set(baseName(key), [...(made.byName.get(baseName(key)) ?? []), parentOf(path)]);
    for (let folder = parentOf(key); folder !== '' && !made.folders.has(folder); folder = parentOf(folder)) made.folders.add(folder);
  }
  indexes.set(paths, made);
  return made;
}

/** Pictures beside a pack show what it looks like: that they have no place weighs little. */
const weightLeft = ({ path }: PackEntry): number => (/\.(?:png|jpe?g|webp|gif|bmp|txt|md|pdf|html?|url|rtf|docx?)$/i.test(path) ? 0.15 : 1);

/** Puts the plans of a folder's parts together: the best of each, and each second best in turn. */
function combine(parts: readonly { plans: Plan[]; entries: PackEntry[] }[]): Plan[] {
  const best = parts.map(({ plans }) => plans[0]);
  const join = (chosen: readonly (Plan | undefined)[]): Plan | undefined => {
    const items = chosen.flatMap((plan) => plan?.items ?? []);
    if (items.length === 0) return undefined;
    const left = parts.flatMap(({ entries }, i) => chosen[i]?.left ?? (chosen[i] ? [] : entries));
    let sum = 0, weights = 0, least = Infinity;
    chosen.forEach((plan) => {
      if (!plan) return;
      const weight = Math.sqrt(plan.items.reduce((count, { files }) => count + files, 0));
      sum += weight * plan.points;
      weights += weight;
      least = Math.min(least, plan.points);
    });
    const placed = items.reduce((count, { files }) => count + files, 0);
    const lost = left.reduce((count, entry) => count + weightLeft(entry), 0);
    const points = 0.5 * (sum / weights) + 0.5 * least + (WEIGHTS.astray * lost) / (placed + lost) - Math.min(1.5, 0.25 * (items.length - 1));
    return { items, points, left };
  };
  const plans = [join(best)];
  parts.forEach(({ plans: some }, i) => {
    for (const other of some.slice(1, 4)) plans.push(join(best.map((plan, at) => (at === i ? other : plan))));
  });
  return plans.filter((plan): plan is Plan => plan !== undefined && plan.points > 0);
}

/** Where a plan puts each file, in short: two plans of one mapping are one. */
export function mappingOf({ items }: Plan): string {
  return items.map(({ node, to, file, inside }) => {
    // A folder kept under its own name is the folder above laid over the one above.
    let [from, goal] = [node, to as string];
    while (!file && from !== '' && inside === undefined && nameKey(baseName(from)) === nameKey(baseName(goal)) && goal.includes('/')) [from, goal] = [parentOf(from), parentOf(goal)];
    return `${file ? parentOf(from) : from}>${file ? (baseName(from) === baseName(goal) ? parentOf(goal) : goal) : goal}${inside === undefined ? '' : '!'}`;
  }).filter((one, i, all) => all.indexOf(one) === i).sort().join('|');
}

/** Larger parts are told apart by their rules alone. */
const MOST_COMPARED = 600;

/** Where a plan puts every file, as one text: two plans that come to the same are one. */
export function signatureOf(plan: Plan, entries: readonly PackEntry[]): string {
  if (entries.length === 0 || entries.length > MOST_COMPARED) return mappingOf(plan);
  return nameKey(entries.map(({ path }) => {
    const item = plan.items.find((one) => (one.file ? one.node === path : isUnder(path, one.node)));
    return item ? `${item.file ? item.to : joinPath(item.to, item.node === '' ? path : path.slice(item.node.length + 1))}${item.inside === undefined ? '' : `!${item.inside}`}` : '';
  }).join('\n'));
}

/** The files that matter: pictures and texts beside the rest go along or stay out. */
export const weighty = (entries: readonly PackEntry[]): readonly PackEntry[] => {
  const some = entries.filter((entry) => weightLeft(entry) === 1);
  return some.length > 0 ? some : entries;
};

function distinct(plans: readonly Plan[], node: PackNode): Plan[] {
  const seen = new Set<string>();
  const entries = node.count > MOST_COMPARED ? [] : node.folders.flatMap(({ files }) => files);
  const order = [...plans].sort((a, b) => b.points - a.points || a.items.length - b.items.length || (mappingOf(a) < mappingOf(b) ? -1 : 1));
  return order.filter((plan) => {
    const id = signatureOf(plan, entries);
    return !seen.has(id) && seen.add(id);
  });
}

/** Does it lie over files that are there? */
export function liesOver({ items }: Plan, entries: readonly PackEntry[], tree: GameTree): boolean {
  return items.some(({ node, to, file, inside }) => inside === undefined && (file ? gameFile(tree, nameKey(to)) !== undefined
    : entries.some(({ path }) => isUnder(path, node) && gameFile(tree, nameKey(joinPath(to, node === '' ? path : path.slice(node.length + 1)))) !== undefined)));
}

/** The competition for some files of a pack in a game. */
export const compete = (entries: readonly PackEntry[], arena: Omit<Arena, 'knowledge'>): Plan[] =>
  new Competition(entries, { ...arena, knowledge: without(knowledgeOf(arena.tree), refusedFolders(arena.statements)) }).plans();

/** What was studied, without the kinds that the player says are none. */
function without(knowledge: Knowledge, refused: ReadonlySet<string>): Knowledge {
  if (refused.size === 0) return knowledge;
  const families = knowledge.families.filter(({ key }) => !refused.has(key));
  const homes = new Map([...knowledge.homes].map(([ending, folders]) => [ending, new Map([...folders].filter(([folder]) => !refused.has(folder)))] as const));
  return { ...knowledge, families, homes, familyOf: new Map([...knowledge.familyOf].filter(([, family]) => families.includes(family))) };
}
