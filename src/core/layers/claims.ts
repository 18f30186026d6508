/* eslint-disable max-lines --
   one class: all of it works on one index of numbers, which nobody outside may see half-changed */
import { IntList } from '../lists';
import { PathIndex } from '../paths/pathIndex';
import { nameKey, type TargetPath } from '../paths/paths';
import type { PlacedFile } from '../placed/placement';
import {
  GAME,
  NOTHING,
  contentsOf,
  differing,
  isSame,
  longestRise,
  printOf,
  targetOf,
  type Claimed,
  type FileLayer,
  type OwnedTargets,
  type Slot,
  type Tally,
  type WinnerChange,
} from './claim';
import { sameContent, type OwnedTarget, type Provider } from './layer';
import { ORIGINAL, PickBook, type Pick } from './rules';

/** Targets that may come out differently, and the slots that won them before. */
class Touched {
  private readonly is: Uint8Array;
  readonly ids = new IntList();
  readonly from = new IntList();

  /** @param before takes a target out of the counts, and says which slot won it */
  constructor(
    most: number,
    private readonly before: (id: number) => number,
  ) {
    this.is = new Uint8Array(most);
  }

  readonly touch = (id: number): void => {
    if (this.is[id] === 1) return;
    this.is[id] = 1;
    this.ids.push(id);
    this.from.push(this.before(id));
  };

  has(id: number): boolean {
    return this.is[id] === 1;
  }
}

/**
 * Which layer claims which target. Targets are numbered; the claims of each form a list. Taking in a layer, taking it
 * out or moving it costs only as much as it has files.
 */
export class ClaimIndex implements OwnedTargets {
  private readonly index = new PathIndex<TargetPath>();
  /** By target: its newest claim. */
  private readonly head = new IntList();
  /**
   * Four numbers for each claim: the next of the same target, its slot, its file in the slot, and a print of its
   * content (of two that differ the contents do, too). A claim is the place of the first.
   */
  private readonly claims = new IntList();
  private readonly slots: (Slot | undefined)[] = [];
  private readonly slotOfLayer = new Map<string, number>();
  private book = new PickBook([]);
  /** By slot: how many targets it wins over others, how many of its own others hide. */
  private readonly wins = new IntList();
  private readonly loses = new IntList();
  private owned = 0;

  /** Takes the stack as it is now. @returns the targets that another layer wins than before */
  update(stack: readonly FileLayer[], picks: readonly Pick[]): Iterable<WinnerChange> {
    const wanted = new Map(stack.map((layer) => [layer.id, layer]));
    const book = new PickBook(picks);
    const gone = [...this.slotOfLayer]
      .filter(([id, at]) => !isSame(this.slots[at]?.layer, wanted.get(id)))
      .map(([, at]) => at);
    const moved = this.movedSlots(stack);
    const claims = this.claimsWith(stack, new Set(gone));
    // Whatever is touched may come out differently; all else stays as it was.
    const names = this.slots.map((slot) => slot?.layer.id);
    const known = this.head.length;
    const touched = new Touched(claims, (id) => {
      if (id >= known) this.owned--;
      return id >= known || this.head.get(id) === NOTHING ? NOTHING : this.count(id, -1);
    });
    for (const at of [...gone, ...moved]) this.slots[at]?.ids.forEach(touched.touch);
    this.touchPicked(differing(this.book.picks, picks), touched.touch);

    this.book = book;
    for (const at of gone) this.takeOut(at);
    this.takeStack(stack, claims, touched.touch);
    if (picks.length > 0) for (let id = known; id < this.head.length; id++) touched.touch(id);

    const to = new IntList();
    to.reserve(touched.ids.length);
    for (let i = 0; i < touched.ids.length; i++) to.push(this.count(touched.ids.get(i), 1));
    this.slots.forEach((slot, at) => (names[at] ??= slot?.layer.id));
    return this.changes(touched, { to, names, known });
  }

  /** How many claims there will be at most. */
  private claimsWith(stack: readonly FileLayer[], gone: ReadonlySet<number>): number {
    const isKept = (id: string): boolean => {
      const at = this.slotOfLayer.get(id);
      return at !== undefined && !gone.has(at);
    };
    const filesOf = (layer: FileLayer): number =>
      layer.files.length + (layer.kind === 'pack' ? (layer.made?.length ?? 0) : 0);
    const fresh = stack.filter(({ id }) => !isKept(id));
    return fresh.reduce((sum, layer) => sum + filesOf(layer), this.claims.length / 4);
  }

  /** Touches what choices of the player decide otherwise now. */
  private touchPicked(picks: readonly Pick[], touch: (id: number) => void): void {
    for (const { layer, scope, at: where } of picks) {
      const at = this.slotOfLayer.get(layer);
      if (at !== undefined) this.slots[at]?.ids.forEach(touch);
      if (layer === ORIGINAL)
        for (let id = 0; id < this.head.length; id++)
          if (scope !== 'file' || nameKey(where) === this.key(id)) touch(id);
    }
  }

  /** Layers that are known take their new places, the others come in. */
  private takeStack(stack: readonly FileLayer[], claims: number, touch: (id: number) => void): void {
    stack.forEach((layer, rank) => {
      const slot = this.slots[this.slotOfLayer.get(layer.id) ?? NOTHING];
      if (!slot) return;
      slot.layer = layer;
      slot.rank = rank;
    });
    this.index.reserve(claims);
    this.head.reserve(claims);
    this.claims.reserve(claims * 4);
    stack.forEach((layer, rank) => {
      if (!this.slotOfLayer.has(layer.id)) this.takeIn(layer, rank, touch);
    });
  }

  /** What came out differently; targets that nobody claimed before and nothing touched went to their one layer. */
  private changes(touched: Touched, how: { to: IntList; names: readonly (string | undefined)[]; known: number }) {
    const { to, names, known } = how;
    const { index } = this;
    const [end, first] = [this.head.length, (id: number) => names[this.slotOf(this.head.get(id))]];
    return {
      *[Symbol.iterator](): Iterator<WinnerChange> {
        for (let i = 0; i < touched.ids.length; i++) {
          const target = index.path(touched.ids.get(i));
          const change = { target, from: names[touched.from.get(i)], to: names[to.get(i)] };
          if (change.from !== change.to) yield change;
        }
        for (let id = known; id < end; id++)
          if (!touched.has(id)) yield { target: index.path(id), from: undefined, to: first(id) };
      },
    };
  }

  tallies(): ReadonlyMap<string, Tally> {
    return new Map(
      [...this.slotOfLayer].map(([layer, at]) => [layer, { wins: this.wins.get(at), loses: this.loses.get(at) }]),
    );
  }

  get size(): number {
    return this.owned;
  }

  has(key: string): boolean {
    const id = this.index.find(key);
    return id >= 0 && this.winner(id) >= 0;
  }

  get(key: string): OwnedTarget | undefined {
    const id = this.index.find(key);
    return id < 0 ? undefined : this.ownedTarget(id);
  }

  claim(key: string): Claimed | undefined {
    const id = this.index.find(key);
    return id < 0 || this.head.get(id) === NOTHING ? undefined : this.claimsOf(id);
  }

  *keys(): Iterable<string> {
    for (let id = 0; id < this.head.length; id++) if (this.winner(id) >= 0) yield this.key(id);
  }

  *[Symbol.iterator](): Iterator<[string, OwnedTarget]> {
    for (let id = 0; id < this.head.length; id++) {
      const owned = this.ownedTarget(id);
      if (owned) yield [this.key(id), owned];
    }
  }

  *claimed(): Iterable<Claimed> {
    for (let id = 0; id < this.head.length; id++) if (this.head.get(id) !== NOTHING) yield this.claimsOf(id);
  }

  /** What a layer puts into archives of the game. */
  insideOf(layer: string): readonly Provider[] {
    const at = this.slotOfLayer.get(layer);
    return (at === undefined ? undefined : this.slots[at])?.inside ?? [];
  }

  private ownedTarget(id: number): OwnedTarget | undefined {
    const { target, claims, winner } = this.claimsOf(id);
    return winner && { target, providers: [...claims.filter((claim) => claim !== winner), winner] };
  }

  private claimsOf(id: number): Claimed {
    const wins = this.winner(id);
    const all: number[] = [];
    for (let claim = this.head.get(id); claim !== NOTHING; claim = this.next(claim)) all.push(claim);
    all.sort((a, b) => this.rank(a) - this.rank(b));
    const claims = all.map((claim) => this.provider(claim));
    // The spelling is the winner's, or the highest layer's.
    const winner = claims[all.indexOf(wins)];
    return {
      key: this.key(id),
      target: (winner ?? claims.at(-1))?.file.target ?? this.index.path(id),
      claims,
      winner,
    };
  }

  private key(id: number): string {
    return nameKey(this.index.path(id));
  }

  private next(claim: number): number {
    return this.claims.get(claim);
  }

  private slotOf(claim: number): number {
    return this.claims.get(claim + 1);
  }

  private slot(claim: number): Slot {
    return this.slots[this.slotOf(claim)] as Slot;
  }

  private rank(claim: number): number {
    return this.slot(claim).rank;
  }

  private file(claim: number): PlacedFile {
    return this.slot(claim).files[this.claims.get(claim + 2)] as PlacedFile;
  }

  private provider(claim: number): Provider {
    const { layer, made, files } = this.slot(claim);
    const at = this.claims.get(claim + 2);
    const content = made.get(at);
    return {
      layer: layer.id,
      packId: layer.kind === 'pack' ? layer.packId : '',
      file: files[at] as PlacedFile,
      ...(content ? { made: content } : {}),
      ...(layer.kind === 'own' ? { kept: layer.files[at] } : {}),
    };
  }

  /** The claim that wins a target. */
  private winner(id: number): number {
    let best = this.head.get(id);
    if (best === NOTHING) return NOTHING;
    if (this.book.picks.length > 0)
      for (const picked of this.book.find(this.key(id))) {
        if (picked === ORIGINAL) return GAME;
        for (let claim = best; claim !== NOTHING; claim = this.next(claim))
          if (this.slot(claim).layer.id === picked) return claim;
      }
    for (let claim = this.next(best); claim !== NOTHING; claim = this.next(claim))
      if (this.rank(claim) > this.rank(best)) best = claim;
    return best;
  }

  /** Takes a target into the tallies, or out of them. @returns the slot that wins it, less than 0 where none does */
  private count(id: number, by: 1 | -1): number {
    const head = this.head.get(id);
    if (head === NOTHING) return NOTHING;
    // Most targets have one claim only.
    const alone = this.next(head) === NOTHING;
    const wins = alone && this.book.picks.length === 0 ? head : this.winner(id);
    if (wins !== GAME) this.owned += by;
    const winner = wins === GAME ? NOTHING : this.slotOf(wins);
    if ((!alone || wins === GAME) && this.countHidden(id, wins, by) && winner !== NOTHING)
      this.wins.set(winner, this.wins.get(winner) + by);
    return winner;
  }

  /** Does the winner hide other content than its own? Counts it for those that are hidden. */
  private countHidden(id: number, wins: number, by: 1 | -1): boolean {
    let hides = false;
    for (let claim = this.head.get(id); claim !== NOTHING; claim = this.next(claim)) {
      if (
        claim === wins ||
        (wins >= 0 &&
          this.claims.get(claim + 3) === this.claims.get(wins + 3) &&
          sameContent(this.file(claim), this.file(wins)))
      )
        continue;
      hides = true;
      const at = this.slotOf(claim);
      this.loses.set(at, this.loses.get(at) + by);
    }
    return hides;
  }

  /** Layers that changed places: all that are not in the longest run that kept its order. */
  private movedSlots(stack: readonly FileLayer[]): number[] {
    const known = stack.flatMap(({ id }) => {
      const at = this.slotOfLayer.get(id);
      return at === undefined ? [] : [at];
    });
    const ranks = known.map((at) => this.slots[at]?.rank ?? 0);
    const kept = new Set(longestRise(ranks));
    return known.filter((_, i) => !kept.has(i));
  }

  private takeIn(layer: FileLayer, rank: number, touch: (id: number) => void): void {
    const { files, made, inside } = contentsOf(layer);
    const ids = this.index.addAll(files, targetOf);
    const at = this.slots.push({ layer, rank, files, ids, made, inside }) - 1;
    this.slotOfLayer.set(layer.id, at);
    this.wins.push(0);
    this.loses.push(0);
    for (let place = 0; place < ids.length; place++) {
      const id = ids[place] as number;
      if (id === this.head.length) {
        // Most targets have one claim and stay with it: counted as such until another one comes.
        this.owned++;
        this.head.push(this.claims.push4(NOTHING, at, place, printOf(files[place] as PlacedFile)));
        continue;
      }
      touch(id);
      const newest = this.head.get(id);
      // Of two files of one layer the later one counts.
      if (newest !== NOTHING && this.slotOf(newest) === at) {
        this.claims.set(newest + 2, place);
        this.claims.set(newest + 3, printOf(files[place] as PlacedFile));
      } else this.head.set(id, this.claims.push4(newest, at, place, printOf(files[place] as PlacedFile)));
    }
  }

  private takeOut(at: number): void {
    const slot = this.slots[at];
    if (!slot) return;
    for (const id of slot.ids) {
      let before = NOTHING;
      for (let claim = this.head.get(id); claim !== NOTHING; before = claim, claim = this.next(claim)) {
        if (this.slotOf(claim) !== at) continue;
        if (before === NOTHING) this.head.set(id, this.next(claim));
        else this.claims.set(before, this.next(claim));
        break;
      }
    }
    this.slots[at] = undefined;
    this.slotOfLayer.delete(slot.layer.id);
  }
}
