import {
  SatchelError,
  decodeText,
  nameKey,
  onceFor,
  readBytes,
  splitTarget,
  type Dialect,
  type LocatedRoot,
  type PlacementProposal,
  type TargetPath,
  type Workshop,
  type EditsLayer,
  type History,
  type MergeLayer,
  type OwnLayer,
  type PackLayer,
  type PackNote,
  type SetUp,
  type SetUpThere,
  type Stack,
} from '@/core';
import { BridgeFolder } from '@/folders/bridgeFolder';
import { memory, type Game } from '@/storage/memory';
import type { Carrier } from './carrier';
import { editsLayer } from './editsLayer';
import { OpenPacks, type Opened } from './openPacks';
import { packThere } from './packThere';
import type { Picture } from './picture';
import { Seldom } from './seldom';
import { Seen } from './seen';

const byId = onceFor((notes: readonly PackNote[]) => new Map(notes.map((note) => [note.id, note])));

/** What a session is made of. */
export interface SessionParts {
  game: Game;
  workshop: Workshop;
  stack: Stack;
  notes: PackNote[];
  history: History;
  setUps: readonly SetUp[];
  located: LocatedRoot[];
  carrier: Carrier;
}

/** One game that is open: its folders, its vault, its stack, and what it looked like when it was looked at last. */
export class Session {
  game: Game;
  stack: Stack;
  notes: readonly PackNote[];
  history: History;
  setUps: readonly SetUp[];
  /** What lies on the disk is another set-up than this one, or one of a newer version: nothing is written over it. */
  elsewhere: SetUpThere | 'newer' | undefined;
  /** The latest file there that this session knows of. */
  latestOnDisk: string | undefined;
  /** When what was decided was written to the disk last. */
  keptAt: number | undefined;
  readonly workshop: Workshop;
  readonly located: readonly LocatedRoot[];
  readonly carrier: Carrier;
  readonly packs: OpenPacks;
  /** How stack and notes are written. */
  readonly writing = new Seldom(['notes', 'stack']);
  /** What was found out and is remembered until it may be otherwise. */
  readonly seen = new Seen();
  readonly proposals = new Map<string, PlacementProposal>();
  picture!: Picture;

  constructor({ game, workshop, stack, notes, history, setUps, located, carrier }: SessionParts) {
    this.game = game;
    this.workshop = workshop;
    this.stack = stack;
    this.notes = notes;
    this.history = history;
    this.setUps = setUps;
    this.located = located;
    this.carrier = carrier;
    this.packs = new OpenPacks(
      game.card,
      (id) => this.archive(id),
      (id) => this.note(id)?.page,
    );
  }

  note(packId: string): PackNote | undefined {
    return byId(this.notes).get(packId);
  }

  /** A pack's archive: what the browser keeps, or what lies beside the originals. */
  async archive(packId: string): Promise<Blob | undefined> {
    const note = this.note(packId);
    const { vault } = this.workshop;
    if (!(vault instanceof BridgeFolder)) return memory.archive(packId);
    if (note?.there) return packThere(vault, note);
    // What was sent for a deployment is there, too: for a browser that has lost it, or never had it.
    return (await memory.archive(packId)) ?? (note && (await vault.packBlob(packId, note.kept?.size ?? note.size)));
  }

  /** What a pack's page said is read again. */
  forgetPage(packId: string): void {
    this.packs.forget(packId);
    for (const key of [...this.proposals.keys()]) if (key.startsWith(`${packId} `)) this.proposals.delete(key);
  }

  openPack(packId: string): Promise<Opened> {
    return this.packs.get(packId, this.note(packId)?.file ?? 'a pack');
  }

  dialectOf = (of: TargetPath): Dialect | undefined => {
    const key = nameKey(of);
    const known = this.game.card.settings.find(({ target }) => {
      const [before = '', after] = nameKey(target).split(/\{(?:profile|title)\}/);
      return after === undefined
        ? key === before
        : key.startsWith(before) &&
            key.endsWith(after) &&
            !key.slice(before.length, key.length - after.length).includes('/');
    });
    return (known ?? this.stack.ownFiles.find(({ target }) => nameKey(target) === key))?.dialect;
  };

  packLayers(): PackLayer[] {
    return this.stack.layers.filter((layer) => layer.kind === 'pack');
  }

  mergeLayers(): MergeLayer[] {
    return this.stack.layers.filter((layer) => layer.kind === 'merge');
  }

  editsLayers(): EditsLayer[] {
    return this.stack.layers.filter((layer) => layer.kind === 'edits');
  }

  layer(id: string): PackLayer {
    const found = this.packLayers().find((layer) => layer.id === id);
    if (!found) throw new SatchelError('unknown-thing', { what: 'pack of that name' });
    return found;
  }

  nameOf = (id: string): string =>
    this.stack.layers.find((layer) => layer.id === id)?.name ??
    this.picture?.ledger.flatMap(({ layers }) => layers).find((layer) => layer.id === id)?.name ??
    'A pack';

  async saveStack(change: Partial<Stack>): Promise<void> {
    await this.replaceStack({ ...this.stack, ...change });
  }

  /** Puts another stack in the place of this one, for parts that go. */
  async replaceStack(stack: Stack): Promise<void> {
    this.stack = stack;
    await this.writing.write('stack', () => memory.setStack(this.game.id, this.stack));
  }

  /** Keeps these notes of the game's packs; those of packs of other games stay. */
  async saveNotes(notes: readonly PackNote[]): Promise<void> {
    this.notes = notes;
    await this.writing.write('notes', async () => {
      const others = (await memory.packs([])).filter(({ game }) => game !== this.game.id);
      await memory.setPacks([...others, ...this.notes]);
    });
  }

  async saveSetUps(setUps: readonly SetUp[]): Promise<void> {
    this.setUps = setUps;
    await memory.setSetUps(this.game.id, setUps);
  }

  replaceLayer(id: string, change: (layer: PackLayer) => PackLayer): Promise<void> {
    return this.saveStack({
      layers: this.stack.layers.map((layer) => (layer.kind === 'pack' && layer.id === id ? change(layer) : layer)),
    });
  }

  /** Changes the player's own edits of one settings file. They lie above all packs. */
  async setEdits(file: TargetPath, change: (edits: EditsLayer['edits']) => EditsLayer['edits']): Promise<void> {
    const before = this.editsLayers().find((layer) => layer.file === file);
    const layers = this.stack.layers.filter((layer) => layer !== before);
    const edits = change(before?.edits ?? []);
    await this.saveStack({
      layers: edits.length === 0 ? layers : [...layers, editsLayer(file, edits, before?.on)],
    });
  }

  ownLayer(): OwnLayer {
    return (
      this.stack.layers.find((layer) => layer.kind === 'own') ?? {
        kind: 'own',
        id: 'own',
        name: 'Your own files',
        on: true,
        files: [],
      }
    );
  }

  /** The stack with other files of the player's own: they lie above packs and merges, below the edits. */
  withOwn(files: OwnLayer['files'], layers = this.stack.layers): Stack['layers'] {
    const others = layers.filter(({ kind }) => kind !== 'own');
    const edits = others.filter(({ kind }) => kind === 'edits');
    return [
      ...others.filter(({ kind }) => kind !== 'edits'),
      ...(files.length > 0 ? [{ ...this.ownLayer(), files }] : []),
      ...edits,
    ];
  }

  /** The text of one file of the game as it is now; undefined where it is not there. */
  async readTarget(of: TargetPath): Promise<string | undefined> {
    const { root, path } = splitTarget(of);
    const folder = this.workshop.folders[root];
    if (!folder || !(await folder.stat(path))) return undefined;
    return decodeText(await readBytes(folder, path)).text;
  }
}
