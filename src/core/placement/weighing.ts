import { gameFile } from '../names/gameTree';
import { baseName, isUnder, nameKey, parentOf } from '../paths/paths';
import { nameIn, type Entrant } from './entrant';
import { TOLD_ASTRAY, WEIGHTS, hasSign, pointsOf, sign, type Evidence } from './evidence';
import { missedAt } from './missed';
import type { PackNode } from './packTree';
import type { Candidate } from './plans';
import type { Proposed } from './offer';
import type { Offers } from './offers';
import { MOST_NEIGHBOURS, Surroundings } from './surroundings';
import { toldOf } from './told';
import { isAstray, weighFolder } from './weigh';
import { weighFile, weighTwins } from './weighFile';

/** Of each part so many candidates stay in the race. */
export const KEPT = 6;

/** Files of the kind in a folder for packs count this share of all files of the ending, however few there are. */
const OWN_KIND = 0.75;

/** One candidate while it is weighed. */
interface Weighed {
  made: Candidate;
  one: Proposed;
  path: string;
  /** Undefined for a single file. */
  node: PackNode | undefined;
}

/** Weighs the candidates of each part: what speaks for and against each. */
export class Weighing {
  constructor(
    private readonly entrant: Entrant,
    private readonly around: Surroundings,
    private readonly offers: Offers,
  ) {}

  /** The candidates for one part, weighed, best first. */
  candidates(path: string, node: PackNode | undefined): Candidate[] {
    return [...this.offers.of(path)]
      .map((one) => this.weigh(path, node, one))
      .filter(({ points }) => points > 0)
      .sort(byPoints)
      .slice(0, KEPT);
  }

  private weigh(path: string, node: PackNode | undefined, one: Proposed): Candidate {
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
    const weighed: Weighed = { made, one, path, node };
    const clear = this.seenAndSaid(weighed);
    const other = one.inside === undefined ? this.around.neighbour(one.to, path, node) : undefined;
    made.evidence.push(
      ...this.whichOne(weighed, other, clear),
      ...this.spokenOf(weighed, other),
      ...this.added(weighed),
      ...this.outOfPlace(weighed),
    );
    made.points = pointsOf(made.evidence);
    return made;
  }

  /**
   * What the folders say of it, and what the read-me, the log and the player do. @returns whether these say the very
   * place
   */
  private seenAndSaid({ made, one }: Weighed): boolean {
    const { arena, nodes, shared, wanted } = this.entrant;
    const told = toldOf(made, arena.steps, {
      top: shared,
      isThere: (folder) => arena.tree.folders.has(nameKey(folder)),
      count: (part) => nodes.get(part)?.count ?? 1,
    });
    const missed = missedAt(wanted, made);
    const clear =
      told.some(({ weight }) => weight > WEIGHTS.told / 2) ||
      missed.length > 0 ||
      hasSign(one.evidence, 'learnt', 'learntOnce', 'card');
    // Where the very place is said, that its kind of file is new there says little.
    const seen = this.seen(made).map((seenOne) =>
      clear && isAstray(seenOne) ? { ...seenOne, weight: seenOne.weight * TOLD_ASTRAY } : seenOne,
    );
    made.evidence = [...one.evidence, ...seen, ...told, ...missed];
    return clear;
  }

  private seen({ node: path, to, inside, file }: Candidate): Evidence[] {
    const { nodes, arena } = this.entrant;
    const { tree, knowledge } = arena;
    if (inside !== undefined) return [];
    const node = file ? undefined : nodes.get(path);
    if (node) return weighFolder(node, nameIn(this.entrant, node), to, arena);
    const beside = (nodes.get(parentOf(path))?.files ?? []).slice(0, MOST_NEIGHBOURS);
    return [...weighFile(path, to, tree, knowledge), ...weighTwins(path, to, beside, tree)];
  }

  /** It would lie in the folder of one of several, or over another one of its kind. */
  private whichOne({ one, path, node }: Weighed, other: string | undefined, clear: boolean): Evidence[] {
    if (other !== undefined) {
      const thing = this.around.thingOf(nameKey(one.to)) ?? '';
      return this.entrant.arena.knowledge.familyOf.get(thing)?.idForm !== undefined
        ? [sign('whichOne', `Nothing says that “${baseName(thing)}” is meant.`)]
        : [{ weight: WEIGHTS.neighbour, says: `“${other}” is another one of the kind: only names inside agree.` }];
    }
    if (one.inside !== undefined || clear || hasSign(one.evidence, 'ownId', 'card', 'learnt', 'learntOnce')) return [];
    const id = this.around.idFolder(one.to, path, node);
    return id === undefined ? [] : [sign('whichOne', `Nothing says that “${id}” is meant.`)];
  }

  private spokenOf({ one, path, node }: Weighed, other: string | undefined): Evidence[] {
    if (other !== undefined) return [];
    const found: Evidence[] = [];
    const thing = this.around.spokenOf(one.to, path);
    if (thing !== undefined) found.push(sign('spokenOf', `“${thing}” is spoken of.`));
    if (!node && this.around.neighbourSpokenOf(one.to, path))
      found.push(sign('spokenOf', 'The read-me speaks of a file that lies there.'));
    return found;
  }

  /** It would lie in a folder for what players add. */
  private added({ one, path, node }: Weighed): Evidence[] {
    const added =
      one.inside === undefined && !hasSign(one.evidence, 'cardKind') ? this.around.addedTo(one.to) : undefined;
    if (added === undefined) return [];
    const folder = parentOf(one.to);
    const found: Evidence[] = [];
    // What players add does not lie among the game's own files of the kind.
    const isFresh = !node && gameFile(this.entrant.arena.tree, nameKey(one.to)) === undefined;
    if (isFresh && this.around.isHome(path, folder)) {
      const says = `Others of its kind that were added lie in “${baseName(folder)}”.`;
      found.push({ weight: WEIGHTS.ending * OWN_KIND, says });
    }
    if (node && this.around.hasTwin(one.to)) {
      const says = `The game’s own of the kind lie elsewhere; those that were added lie in “${baseName(folder)}”.`;
      found.push({ weight: WEIGHTS.forPacks, says });
    }
    found.push({ weight: WEIGHTS.forPacks, says: `“${added}” is a name for what players add.` });
    return found;
  }

  /** What else speaks against a place, and the pack's name, which may speak for it. */
  private outOfPlace({ made, one, path, node }: Weighed): Evidence[] {
    const found: Evidence[] = [];
    if (this.around.carries(made, node))
      found.push({ weight: WEIGHTS.astray, says: 'A folder that is only for choosing would be taken along.' });
    if (one.inside === undefined) {
      const closed = node ? this.around.allClosedTo(node, one.to) : this.around.closedTo(path, one.to);
      const says = `Each one like “${closed}” has files of the same names, and this is none of them.`;
      if (closed !== undefined) found.push({ weight: WEIGHTS.otherNames, says });
      const home = node && this.around.packNames(one.to, path);
      if (home !== undefined) found.push({ weight: WEIGHTS.packNames, says: `The pack’s name has “${home}” in it.` });
    }
    if (this.offers.others.some((other) => isUnder(nameKey(one.to), other)))
      found.push({ weight: WEIGHTS.neighbour, says: 'Another one is named.' });
    return found;
  }
}

const byPoints = (a: Candidate, b: Candidate): number =>
  b.points - a.points || a.to.length - b.to.length || (a.to < b.to ? -1 : 1);
