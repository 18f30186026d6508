import { speaksOf } from '../inspect/readMeSentences';
import type { Statement } from '../games/statement';
import type { Family } from '../names/families';
import { gameFile } from '../names/gameTree';
import { idForm } from '../names/ids';
import { variantOf } from '../names/knowledge';
import { PLAYERS_NAMES, PROGRAM_FOLDER } from '../names/rootWords';
import { baseName, staysInside, joinPath, nameKey, parentOf } from '../paths/paths';
import { packFolders, sharedFolder } from '../placed/packFolders';
import { learntPlaces } from '../study/learned';
import { DEEPEST, nameIn, type Entrant } from './entrant';
import { FIT, WEIGHTS, sign, type Evidence } from './evidence';
import { FileOffers, MOST_NAMED } from './fileOffers';
import { idCandidates } from './idPlaces';
import { insidePlaces } from './insidePlaces';
import { loneThings } from './loneThings';
import { missedPlaces } from './missed';
import type { Offer, Proposed } from './offer';
import { waysOver } from './overTree';
import type { PackNode } from './packTree';
import { weighty } from './plans';
import { MOST_FILES, type Surroundings } from './surroundings';
import { toldPlaces } from './told';
import { fitFor } from './weigh';

/** The place that a folder of a pack is named for: “2 - Copy into My Games” for “my games”. As it is compared. */
const placeNamed = (name: string): string =>
  nameKey(name)
    .replace(/^\W*(?:\d{1,2}|[a-z])\s*[-_.)]\s*/, '')
    .replace(
      /^(?:(?:copy|put|place|goes?|extract|unzip|merge|files?|contents?)\s+)*(?:in|into|to|for|nach|in den|ins|en|dans)\s+/,
      '',
    )
    .replace(/^(?:the|your|den|das|la|el|le)\s+/, '');

/** A name without what parts its words: “Bramble Court” and “BrambleCourt” are one. */
const lettersOf = (name: string): string => nameKey(name).replace(/[^\p{L}\p{N}]/gu, '');

/** Does only the name of a note say so, not its text? */
const saidByName = (said: Statement['evidence'][number] | undefined): boolean =>
  said?.source.from === 'file' && said.source.line === undefined;

/** Collects candidates for every part of a pack. */
export class Offers {
  private readonly proposed = new Map<string, Map<string, Proposed>>();
  /** Archives of the game that hold paths of the pack. */
  private readonly knownInside = new Set<string>();
  /** Keys of folders for other ids than the one that the pack names. */
  others: readonly string[] = [];

  constructor(
    private readonly one: Entrant,
    private readonly around: Surroundings,
  ) {
    this.overTree();
    const files = new FileOffers(one, (node, offer) => this.propose(node, offer));
    for (const node of one.nodes.values()) {
      this.families(node);
      this.besideLone(node);
      this.roots(node);
      this.inside(node);
      files.of(node);
      this.variants(node);
    }
    this.told();
    this.ids();
    this.learnt();
    for (const statement of one.arena.statements) this.forPacks(statement);
    for (const wanted of one.wanted)
      for (const { node, to } of missedPlaces(wanted))
        this.propose(node, { to, mode: one.fileNames.has(node) ? 'loose' : 'over' });
    for (const wrapper of one.arena.wrappers) this.wrapped(wrapper);
    for (const { node, to, mode, inside, evidence } of one.arena.forced)
      this.propose(node, { to, mode, evidence, inside });
  }

  /** The candidates for one part. */
  of(path: string): Iterable<Proposed> {
    return this.proposed.get(path)?.values() ?? [];
  }

  private propose(node: string, { to, mode, evidence = [], inside }: Offer): void {
    const { tree } = this.one.arena;
    // A folder inside one of its own name is a level too deep.
    const isTwice = to.includes('/') && nameKey(baseName(to)) === nameKey(baseName(parentOf(to)));
    if ((isTwice && !tree.folders.has(nameKey(to))) || !staysInside(to)) return;
    // No folder can lie where a file is.
    if (inside === undefined && !this.one.fileNames.has(node) && gameFile(tree, nameKey(to)) !== undefined) return;
    const list = this.proposed.get(node) ?? new Map<string, Proposed>();
    this.proposed.set(node, list);
    const id = `${nameKey(to)}\n${inside ?? ''}\n${inside === undefined ? '' : 'in'}`;
    const known = list.get(id);
    if (known) known.evidence.push(...evidence);
    else list.set(id, { to, inside, mode, evidence: [...evidence] });
  }

  /** What lies in a wrapper goes where its surroundings go, or over the part beside it that has files of its names. */
  private wrapped(wrapper: string): void {
    const { nodes } = this.one;
    for (const { to, mode, inside } of this.proposed.get(parentOf(wrapper))?.values() ?? [])
      this.propose(wrapper, { to, mode, inside });
    const namesIn = (node: PackNode | undefined) => new Set(node?.files.map(({ path }) => nameKey(baseName(path))));
    const names = [...namesIn(nodes.get(wrapper))];
    for (const beside of names.length === 0 ? [] : (nodes.get(parentOf(wrapper))?.children ?? [])) {
      const there = namesIn(beside);
      if (beside.path === wrapper || !names.every((name) => there.has(name))) continue;
      const says = `“${beside.name}” beside it has files of these names.`;
      for (const { to, mode, inside } of this.proposed.get(beside.path)?.values() ?? [])
        this.propose(wrapper, { to, mode, inside, evidence: [{ weight: WEIGHTS.samePath, says }] });
    }
  }

  private overTree(): void {
    const { tree } = this.one.arena;
    for (const { strip, base } of waysOver(packFolders(this.one.entries), tree)) {
      this.propose(strip, { to: base, mode: 'over' });
      // What stands beside other things in the same wrapper may be the only part that belongs there.
      for (const child of (this.one.nodes.get(strip)?.children ?? []).slice(0, MOST_FILES)) {
        const there = tree.folders.get(`${nameKey(base)}/${nameKey(child.name)}`);
        if (there !== undefined) this.propose(child.path, { to: there, mode: 'over' });
      }
    }
  }

  private told(): void {
    const { arena, shared, fileNames } = this.one;
    const { tree, steps, packFolder } = arena;
    for (const { node, to, inside } of toldPlaces(steps, {
      top: shared,
      isFile: (path) => fileNames.has(path),
      packFolder,
    })) {
      if (inside !== undefined && this.knownInside.has(nameKey(to))) continue;
      const spelled = tree.folders.get(nameKey(to)) ?? gameFile(tree, nameKey(to)) ?? to;
      this.propose(node, { to: spelled, mode: inside !== undefined ? 'inside' : 'over', inside });
    }
  }

  private ids(): void {
    const { entries, nodes, arena, called } = this.one;
    const { places, others } = idCandidates({ entries, nodes, arena, called });
    for (const { node, to, evidence, mode } of places) this.propose(node, { to, mode, evidence });
    this.others = others;
  }

  private learnt(): void {
    const { arena, entries } = this.one;
    const lone = sharedFolder(weighty(entries));
    for (const { folder, own, times, says } of learntPlaces(arena.statements, entries)) {
      if (!arena.tree.folders.has(nameKey(folder))) continue;
      const name = lone === '' ? arena.packFolder : baseName(lone);
      const evidence = [sign(times > 1 ? 'learnt' : 'learntOnce', `Learnt: ${says}`)];
      this.propose(lone, { to: own ? joinPath(folder, name) : folder, mode: own ? 'own-folder' : 'over', evidence });
    }
  }

  /** A folder that the game's own note names for packs. */
  private forPacks({ about, standing, evidence: [first] }: Statement): void {
    const { top, arena } = this.one;
    const isThere = about.what === 'for packs' && arena.tree.folders.has(nameKey(about.folder));
    if (!isThere || standing === 'refused') return;
    const noted = sign('noted', first?.says ?? 'The game’s own note says so.');
    if (about.instead) return this.instead(about.folder, noted);
    // A lone file is rather one more of its kind than a pack for a folder of its own. And a name says less than a text:
    // what is like other things of the game may belong with those.
    const loose = about.own && top.children.length === 0 && top.files.length === 1;
    const byName = saidByName(first);
    const evidence = [{ ...noted, weight: WEIGHTS.noted * (loose || byName ? 0.5 : 1) }];
    const itself = this.itself();
    const name = itself === '' ? arena.packFolder : itself;
    // A folder that goes into another one keeps its name.
    const into = about.own || itself !== '' ? joinPath(about.folder, baseName(name)) : about.folder;
    this.propose(itself, { to: into, mode: into === about.folder ? 'over' : 'own-folder', evidence });
  }

  /** Only what has a path inside the game's archives stands in for it, or loose files that one folder there has. */
  private instead(folder: string, noted: Evidence): void {
    for (const { exact, inner } of insidePlaces(this.one.top, this.one.arena.inside))
      if (inner !== '' || exact) this.propose('', { to: joinPath(folder, inner), mode: 'over', evidence: [noted] });
  }

  /** A lone folder that the game does not know is the thing itself; one that it knows is laid out like the game. */
  private itself(): string {
    const { top, arena } = this.one;
    const [only] = top.children;
    return only && only.count === top.count && !arena.tree.foldersByName.has(nameKey(only.name)) ? only.path : '';
  }

  private families(node: PackNode): void {
    const { tree, knowledge } = this.one.arena;
    if (node.count === 0 || node.depth > DEEPEST - 1) return;
    for (const family of knowledge.families) {
      const meant = this.around.meantBy(node, family);
      if (meant !== undefined)
        this.propose(node.path, {
          to: tree.folders.get(meant) ?? meant,
          mode: 'over',
          evidence: [
            sign('spokenOf', `“${baseName(meant)}” is in its name, and it has a part of what such things have.`),
          ],
        });
      this.oneMore(node, family, meant);
    }
  }

  /** One more of a kind, in a folder of its own. @param meant the one of the kind that its name speaks of */
  private oneMore(node: PackNode, family: Family, meant: string | undefined): void {
    const { tree, knowledge } = this.one.arena;
    const name = nameIn(this.one, node, family);
    if (family.idForm !== undefined && idForm(name) !== family.idForm) return;
    const { fit, whole } = fitFor(node, name, family, knowledge);
    if (fit < FIT.considered) return;
    if (whole <= FIT.half) this.overEach(node, family);
    const to = `${family.folder}/${name}`;
    const there = tree.folders.get(nameKey(to));
    if (there !== undefined) return this.propose(node.path, { to: there, mode: 'over' });
    const says = `It has only a part of what such things have, and “${baseName(meant ?? '')}” is in its name.`;
    const evidence = meant === undefined ? [] : [{ weight: WEIGHTS.otherNames, says }];
    this.propose(node.path, { to, mode: 'own-folder', evidence });
  }

  /** Files that each of a few things has, and no more than half of one: they may be for any of these. */
  private overEach(node: PackNode, { members }: Family): void {
    const { tree } = this.one.arena;
    if (node.path === '' || members.size > MOST_NAMED || node.children.length > 0) return;
    for (const member of members) {
      const there = tree.files.get(nameKey(member));
      if (there && node.files.every(({ path }) => there.has(nameKey(baseName(path)))))
        this.propose(node.path, { to: tree.folders.get(nameKey(member)) ?? member, mode: 'over' });
    }
  }

  /** What is like the only thing of its kind, and is called otherwise, may be the second one. */
  private besideLone(node: PackNode): void {
    const { arena, speech } = this.one;
    const { tree, knowledge, packFolder } = arena;
    const name = node.path === '' ? packFolder : node.name;
    for (const lone of loneThings(node, tree, knowledge)) {
      const called = baseName(lone);
      if (nameKey(name) === called || speaksOf(speech, called)) continue;
      const to = `${tree.folders.get(parentOf(lone)) as string}/${name}`;
      const says = `“${baseName(tree.folders.get(lone) ?? lone)}”, the only one there, holds files of these names.`;
      this.propose(node.path, { to, mode: 'own-folder', evidence: [{ weight: WEIGHTS.family, says }] });
    }
  }

  private roots(node: PackNode): void {
    const { roots, title } = this.one.arena;
    if (node.path === '') return;
    const key = placeNamed(node.name);
    const letters = lettersOf(key);
    const isCalled = (name: string) => letters !== '' && lettersOf(name) === letters;
    const isPlayers = roots.length > 1 && node.path.split('/').some((name) => PLAYERS_NAMES.has(placeNamed(name)));
    const called = roots.filter((root, i) => {
      if (i === 0 && isPlayers) return false;
      if (key === root.id || isCalled(root.title)) return true;
      return i === 0 ? isCalled(title) || PROGRAM_FOLDER.exec(key)?.[0] === key : isPlayers && isCalled(title);
    });
    // A name that two of them have says less.
    for (const root of called) {
      const evidence = [
        { weight: WEIGHTS.rootName / called.length, says: `The folder is called like “${root.title}”.` },
      ];
      this.propose(node.path, { to: root.id, mode: 'over', evidence });
    }
  }

  private inside(node: PackNode): void {
    for (const { archive, inner, evidence, exact } of insidePlaces(node, this.one.arena.inside)) {
      if (exact) this.knownInside.add(nameKey(archive));
      this.propose(node.path, { to: archive, mode: 'inside', evidence, inside: inner });
    }
  }

  /** `coat.red` where the game has `coat` and `coat.blue` beside each other. */
  private variants(node: PackNode): void {
    const { knowledge, tree } = this.one.arena;
    const prefix = variantOf(nameKey(node.name));
    if (prefix === undefined || node.count === 0) return;
    const parents = [...(knowledge.variants.get(prefix) ?? [])].sort();
    const spoken = parents.filter((parent) => speaksOf(this.one.speech, baseName(parent)));
    for (const parent of parents.slice(0, 50)) {
      const weight =
        spoken.includes(parent) && spoken.length === 1
          ? WEIGHTS.variant + WEIGHTS.spokenOf
          : WEIGHTS.variant / Math.sqrt(parents.length);
      const to = `${tree.folders.get(parent) as string}/${node.name}`;
      const evidence = [{ weight, says: `Folders called “${prefix} …” lie there.` }];
      this.propose(node.path, { to, mode: 'own-folder', evidence });
    }
  }
}
