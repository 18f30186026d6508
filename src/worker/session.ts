import { insideArchives } from './insideArchives';
import {
  Resolver, SatchelError, WHOLE, baseName, editFates, extensionOf, linesBefore, listBackups, listFolders, deploy, emptyResolution, nameKey, locateRoots, missedFiles, objectPath, ofLastStart, onlySorted, openSettings, readKept, decodeText, placeEdits, placeFiles, placementWarnings, planDeployment, proposeAt, proposePlacements, readBytes, readLedger, readLongLog, readsByForm, readState, recover,
  resolveLayers, settingsTargets, splitTarget, switchStates, target, wholeTarget,
  type DeployOptions, type DeployedState, type Dialect, type Failure, type Folder, type Layer, type LedgerEntry, type Listing, type LocatedRoot, type LogReading, type MissedFile, type NamedBackup, type Placement, type PlacementInput, type Plan, type PlacementProposal, type Recovery, type Resolution, type Tally, type WinnerChange,
  type SettingsDocument, type SettingsFile, type SwitchState, type TargetPath, type Warning, type WorkOptions, type Workshop,
} from '@/core';
import { BridgeFolder, givenFolders } from '@/folders/bridge';
import { BrowserFolder } from '@/folders/browser';
import { SubFolder, WithoutFolder } from '@/folders/sub';
import { PickedFolder, isAllowed, type PickedHandle } from '@/folders/picked';
import { emptyStack, memory, type EditsLayer, type Game, type MergeLayer, type OwnLayer, type PackLayer, type PackNote, type SetAside, type Stack } from '@/storage/memory';
import type { SafetyView } from './api';
import { computeMerge, type ComputedMerge } from './merging';
import { deployOnBridge, mainFolder, recoverOnBridge } from './onBridge';
import { OpenPacks } from './packs';
import { packThere } from './packThere';
import { safetyView } from './safety';

const EMPTY = emptyResolution();

/** Files that are watched for what the game writes; each is a question to the disk. */
const MOST_WATCHED = 10;

/** More of a pasted page is not kept, in characters. */
const LONGEST_PAGE = 64 * 1024;

/** A listing that took longer (milliseconds) is good for as many times as long as it took. */
const LONG = 500;
const SHARE = 20;

/** What a deployment is given on the way: how to stop it, whom to tell, and whom to ask. */
export type DeployWork = WorkOptions & Pick<DeployOptions, 'onStuck'>;

/** Everything known about the game at one moment. Made anew after each change, never patched. */
export interface Picture {
  layers: Layer[];
  resolution: Resolution;
  state: DeployedState;
  plan: Plan;
  putBack: Plan;
  ledger: LedgerEntry[];
  switches: SwitchState[];
  settings: Map<string, SettingsDocument>;
  /** The card's settings files, one for each profile where there are several. */
  settingsFiles: SettingsFile[];
  /** Settings files with edits that the game has only put into another order since. */
  sorted: TargetPath[];
  /** Settings files that the disk says are read-only. */
  readOnly: ReadonlySet<string>;
  log: { reading: LogReading; text: string; /** When the game wrote it. */ modified: number; /** So many lines are of earlier starts. */ since: number } | undefined;
  overlaps: ReadonlyMap<string, Tally>;
  /** Deployments whose state can be gone back to. */
  snapshots: number[];
  /** Targets that another layer wins than before the latest change; empty after the first look. */
  changed: WinnerChange[];
  merges: ComputedMerge[];
  backups: NamedBackup[];
  safety: SafetyView;
  /** Every file of the game as it was without packs, as targets. */
  ownFiles: string[];
  /** Everything in the game's folders, by root. */
  listing: Listing;
  ownKeys: Set<string>;
  filesByRoot: Map<string, number>;
}

/** The game's folders where they really are: a root can lie inside another one. */
async function locate(game: Game, given: Record<string, Folder>): Promise<{ folders: Record<string, Folder>; located: LocatedRoot[] }> {
  const at = (of: TargetPath) => {
    const { root, path } = splitTarget(of);
    return { folder: given[root], path };
  };
  const located = await locateRoots(game.card, {
    has: async (of) => (await at(of).folder?.stat(at(of).path)) !== undefined,
    read: async (of) => {
      const { folder, path } = at(of);
      return folder && (await folder.stat(path)) ? decodeText(await readBytes(folder, path)).text : undefined;
    },
  });
  const folders = { ...given };
  for (const { root, inside } of located) {
    const outer = inside && given[inside.root];
    if (!outer) continue;
    folders[root] = new SubFolder(outer, inside.path);
    folders[inside.root] = new WithoutFolder(folders[inside.root] ?? outer, [inside.path]);
  }
  return { folders, located };
}

/** How a dropped edit is counted. */
export const dropKey = (file: string, path: readonly string[]): string => [file, ...path].join('\n');

/** One game that is open: its folders, its vault, its stack. */
export class Session {
  readonly packs: OpenPacks;
  private readonly proposals = new Map<string, PlacementProposal>();
  private readonly resolver = new Resolver();
  /** What a pack's placement comes to, for as long as it stays as it is. */
  private readonly placed = new WeakMap<Placement, Layer>();
  picture!: Picture;
  private looked = false;
  private readLog: (NonNullable<Picture['log']> & { size: number }) | undefined;
  private readonly checksums = new Map<string, number>();
  private listed: { listing: Listing; at: number; took: number } | undefined;
  /** What the start found to be finished or taken back. */
  recovery: Recovery | undefined;

  private constructor(
    public game: Game,
    readonly workshop: Workshop,
    public stack: Stack,
    public notes: PackNote[],
    readonly located: LocatedRoot[],
  ) {
    this.packs = new OpenPacks(game.card, (id) => this.archive(id), (id) => this.notes.find((note) => note.id === id)?.page);
  }

  /** Are the game's folders free to use, as far as the browser and the app's server are concerned? */
  static async allowed(game: Game): Promise<boolean> {
    if (game.kind === 'bridge') {
      const { folders } = await givenFolders();
      // With another backup folder the app would not know what it had put there, and what was there before.
      return Object.values(game.given).every(({ id, backup }) => folders.some((one) => one.id === id && one.backup === backup));
    }
    const all = await Promise.all([...Object.values(game.handles), ...(game.backup ? [game.backup] : [])].map((handle) => isAllowed(handle as PickedHandle)));
    return all.every(Boolean);
  }

  static async open(game: Game, aside: SetAside[], readOnly: boolean): Promise<Session> {
    const given: Record<string, Folder> = {};
    for (const { id } of game.card.roots) {
      const handle = game.handles[id];
      const bridged = game.given[id];
      given[id] = bridged ? new BridgeFolder(bridged.id, 'game') : handle ? new PickedFolder(handle) : await BrowserFolder.open(`${game.id}-${id}`, { onlyLook: readOnly });
    }
    const { folders, located } = await locate(game, given);
    const main = mainFolder(game);
    const vault = main ? new BridgeFolder(main.id, 'vault') : await BrowserFolder.open(`${game.id}-vault`, { onlyLook: readOnly });
    const backup = main ? new BridgeFolder(main.id, 'backup') : game.backup && new PickedFolder(game.backup);
    const notes = (await memory.packs(aside)).filter((note) => note.game === game.id);
    const workshop: Workshop = { folders, vault, ...(backup ? { backup } : {}), now: () => Date.now(), openPack: async (id) => (await session.openPack(id)).pack };
    const session: Session = new Session(game, workshop, await memory.stack(game.id, aside), notes, located);
    if (!readOnly) session.recovery = await (main ? recoverOnBridge(session) : recover(workshop));
    return session;
  }

  /** Removes everything the app keeps of a game in the browser, its simulated folders included. */
  static async erase(game: Game): Promise<void> {
    for (const { id } of game.card.roots) await BrowserFolder.drop(`${game.id}-${id}`);
    await BrowserFolder.drop(`${game.id}-vault`);
    const all = await memory.packs([]);
    for (const note of all.filter((one) => one.game === game.id)) await memory.removeArchive(note.id);
    await memory.setPacks(all.filter((one) => one.game !== game.id));
    await memory.setStack(game.id, emptyStack);
    await memory.removeSnapshots(game.id);
  }

  /** Layers whose archive the browser has lost leave the stack; what is deployed stays until it is put back. */
  async dropLost(onlyLook: boolean): Promise<Failure[]> {
    const lost: PackLayer[] = [];
    for (const layer of this.packLayers()) if (!this.notes.some((note) => note.id === layer.packId) || !(await this.archive(layer.packId))) lost.push(layer);
    const layers = this.stack.layers.filter((layer) => !lost.some((one) => one === layer));
    if (onlyLook) this.stack = { ...this.stack, layers };
    else if (lost.length > 0) await this.saveStack({ layers });
    return lost.map(({ name }) => new SatchelError('source-missing', { name, path: 'its files' }).failure);
  }

  /** A pack's archive: what the browser keeps, or what lies beside the originals. */
  async archive(id: string): Promise<Blob | undefined> {
    const note = this.notes.find((one) => one.id === id);
    const { vault } = this.workshop;
    if (!note?.there || !(vault instanceof BridgeFolder)) return memory.archive(id);
    return packThere(vault, note);
  }

  openPack(id: string) {
    return this.packs.get(id, this.notes.find((note) => note.id === id)?.file ?? 'a pack');
  }

  dialectOf = (of: TargetPath): Dialect | undefined => {
    const key = nameKey(of);
    const known = this.game.card.settings.find(({ target }) => {
      const [before = '', after] = nameKey(target).split(/\{(?:profile|title)\}/);
      return after === undefined ? key === before : key.startsWith(before) && key.endsWith(after) && !key.slice(before.length, key.length - after.length).includes('/');
    });
    return (known ?? this.stack.ownFiles.find(({ target }) => nameKey(target) === key))?.dialect;
  };

  packLayers(): PackLayer[] {
    return this.stack.layers.filter((layer) => layer.kind === 'pack');
  }

  mergeLayers(): MergeLayer[] {
    return this.stack.layers.filter((layer) => layer.kind === 'merge');
  }

  layer(id: string): PackLayer {
    const found = this.packLayers().find((layer) => layer.id === id);
    if (!found) throw new SatchelError('unknown-thing', { what: 'pack of that name' });
    return found;
  }

  nameOf = (id: string): string => this.stack.layers.find((layer) => layer.id === id)?.name ?? this.picture?.ledger.flatMap(({ layers }) => layers).find((layer) => layer.id === id)?.name ?? 'A pack';

  async saveStack(change: Partial<Stack>): Promise<void> {
    this.stack = { ...this.stack, ...change };
    await memory.setStack(this.game.id, this.stack);
  }

  /** Puts another stack in the place of this one, for parts that go. */
  async replaceStack(stack: Stack): Promise<void> {
    this.stack = stack;
    await memory.setStack(this.game.id, stack);
  }

  replaceLayer(id: string, change: (layer: PackLayer) => PackLayer): Promise<void> {
    return this.saveStack({ layers: this.stack.layers.map((layer) => (layer.kind === 'pack' && layer.id === id ? change(layer) : layer)) });
  }

  async setEdits(file: TargetPath, change: (edits: EditsLayer['edits']) => EditsLayer['edits']): Promise<void> {
    const id = `edits:${file}`;
    const layers = this.stack.layers.filter((layer) => layer.id !== id);
    const before = this.stack.layers.find((layer): layer is EditsLayer => layer.kind === 'edits' && layer.id === id);
    const edits = change(before?.edits ?? []);
    // Settings edits lie above all packs.
    await this.saveStack({ layers: edits.length === 0 ? layers : [...layers, { kind: 'edits', id, name: 'Your settings', on: before?.on ?? true, file, edits }] });
  }

  /** Keeps the text of the page that a pack came from; it is read like its read-me. */
  async setPage(packId: string, text: string): Promise<void> {
    const page = text.trim().slice(0, LONGEST_PAGE);
    const change = (note: PackNote): PackNote => {
      const { page: _before, ...rest } = note;
      return note.id !== packId ? note : page === '' ? rest : { ...rest, page };
    };
    this.notes = this.notes.map(change);
    await memory.setPacks((await memory.packs([])).map(change));
    this.packs.forget(packId);
    for (const key of [...this.proposals.keys()]) if (key.startsWith(`${packId} `)) this.proposals.delete(key);
  }

  ownLayer(): OwnLayer {
    return this.stack.layers.find((layer) => layer.kind === 'own') ?? { kind: 'own', id: 'own', name: 'Your own files', on: true, files: [] };
  }

  /** The stack with other files of the player's own: they lie above packs and merges, below the edits. */
  withOwn(files: OwnLayer['files'], layers = this.stack.layers): Stack['layers'] {
    const others = layers.filter(({ kind }) => kind !== 'own');
    const edits = others.filter(({ kind }) => kind === 'edits');
    return [...others.filter(({ kind }) => kind !== 'edits'), ...(files.length > 0 ? [{ ...this.ownLayer(), files }] : []), ...edits];
  }

  private async sourceLayers(stack: Stack): Promise<Layer[]> {
    const layers: Layer[] = [];
    for (const layer of stack.layers) {
      if (!layer.on || layer.kind === 'merge') continue;
      if (layer.kind === 'own') layers.push(layer);
      else if (layer.kind === 'edits') layers.push({ kind: 'edits', id: layer.id, name: layer.name, file: layer.file, edits: layer.edits.map(({ path, value }) => ({ path, ...(value === undefined ? {} : { value }) })) });
      // What nobody placed stays out until the player has said where it belongs.
      else if (layer.confidence !== 'ask') layers.push(await this.packLayer(layer));
    }
    return layers;
  }

  private async packLayer({ id, name, packId, placement }: PackLayer): Promise<Layer> {
    const known = this.placed.get(placement);
    if (known?.id === id) return known;
    const { pack } = await this.openPack(packId);
    const whole = wholeTarget(placement);
    const note = this.notes.find((one) => one.id === packId);
    const layer: Layer = {
      kind: 'pack', id, name, packId, made: placement.made, edits: placeEdits(placement),
      files: whole === undefined ? placeFiles(pack.entries, placement) : [{ path: WHOLE, size: note?.kept?.size ?? note?.size ?? 0, target: whole, ...(note?.kept ? { crc32: note.kept.crc32 } : {}) }],
    };
    this.placed.set(placement, layer);
    return layer;
  }

  /** A stack's layers as they are resolved: merges lie above all packs, the player's own files above the merges, edits on top. */
  private async layersOf(stack: Stack, state: DeployedState): Promise<{ layers: Layer[]; merges: ComputedMerge[] }> {
    const sources = await this.sourceLayers(stack);
    const notes = stack.layers.filter((layer) => layer.kind === 'merge');
    const merges = await Promise.all(notes.map((merge) => computeMerge(this, merge, sources, state)));
    const of = (wanted: Layer['kind']) => sources.filter(({ kind }) => kind === wanted);
    return { layers: [...of('pack'), ...merges.flatMap(({ layer }) => (layer ? [layer] : [])), ...of('own'), ...of('edits')], merges };
  }

  /** The plan that the game's folders would have with another stack. */
  async planWith(change: Partial<Stack>, options: WorkOptions = {}): Promise<Plan> {
    const stack = { ...this.stack, ...change };
    const state = await readState(this.workshop.vault);
    const { layers } = await this.layersOf(stack, state);
    return planDeployment({ ...options, state, workshop: this.workshop, checksums: this.checksums, dialectOf: this.dialectOf, nameOf: this.nameOf, resolution: resolveLayers(layers, stack.picks) });
  }

  /**
   * Every file of the folders. Through a browser that takes a second for some thousands: where it took long, it is good for a
   * while, so that a change which writes nothing to the game need not wait for it.
   *
   * @param anew not even then
   */
  private async list(anew: boolean, options: WorkOptions): Promise<Listing> {
    const { listed } = this;
    if (!anew && listed && listed.took > LONG && Date.now() - listed.at < SHARE * listed.took) return listed.listing;
    const began = Date.now();
    const listing = await listFolders(this.workshop.folders, options);
    const at = Date.now();
    this.listed = { listing, at, took: at - began };
    return listing;
  }

  /** For what writes to the folders, or minds each file as it is now. */
  forgetListing(): void {
    this.listed = undefined;
  }

  /** Looks at everything anew. @param options.recent where it takes long, files may be as they were a moment ago */
  async look(options: WorkOptions & { recent?: boolean } = {}): Promise<void> {
    const { workshop, game } = this;
    // All at once: each may be a question to the app's own server.
    const [state, listing, ledger, backups, safety, snapshots] = await Promise.all([
      readState(workshop.vault), this.list(!options.recent, options), readLedger(workshop.vault), listBackups(workshop.vault), safetyView(this), memory.snapshots(game.id),
    ]);
    const log = await this.lookAtLog(listing);
    const { layers, merges } = await this.layersOf(this.stack, state);
    const { resolution, changed } = this.resolver.resolve(layers, this.stack.picks);
    const common = { ...options, state, workshop, listing, dialectOf: this.dialectOf, nameOf: this.nameOf, checksums: this.checksums };
    const plan = await planDeployment({ ...common, resolution });
    const putBack = await planDeployment({ ...common, resolution: EMPTY });
    const settings = new Map<string, SettingsDocument>();
    const brought = new Set(state.files.filter((file) => file.original.kind === 'absent').map((file) => nameKey(file.target)));
    const ownFiles: string[] = [];
    const filesByRoot = new Map<string, number>();
    for (const [root, files] of Object.entries(listing.files)) {
      for (const { path } of files) {
        const full = target(root, path);
        if (!brought.has(nameKey(full))) ownFiles.push(full);
      }
      filesByRoot.set(root, files.length);
    }
    const settingsFiles = [...settingsTargets(game.card, ownFiles), ...this.stack.ownFiles.map((own) => ({ ...own, title: `Of your own: ${baseName(own.target)}`, keys: [] }))];
    const readOnly = new Set<string>();
    for (const file of settingsFiles) {
      const text = await this.readTarget(file.target);
      if (text !== undefined && (await this.isReadOnly(file.target))) readOnly.add(file.target);
      if (text !== undefined) settings.set(file.target, openSettings(text, file.dialect));
    }
    const claimed = new Set([...resolution.owned.keys(), ...resolution.inside.keys(), ...state.files.filter(({ living }) => !living).map((file) => nameKey(file.target)), ...[...resolution.living].flatMap(([key, { edits }]) => (edits.some(({ layer }) => !layer.startsWith('edits:')) ? [key] : []))]);
    this.picture = {
      layers, resolution, state, plan, putBack, settings, settingsFiles, readOnly, sorted: await this.findSorted(state, settings), ownFiles, listing, filesByRoot, ledger, log, backups, safety,
      switches: switchStates(game.card, claimed, (one) => settings.get(one.file)?.get(one.path)),
      overlaps: resolution.overlaps, merges, snapshots,
      changed: this.looked ? [...changed] : [],
      ownKeys: new Set(ownFiles.map(nameKey)),
    };
    this.looked = true;
    this.seenOutside = await this.outside(this.readLog);
  }

  private async findSorted(state: DeployedState, settings: ReadonlyMap<string, SettingsDocument>): Promise<TargetPath[]> {
    const found: TargetPath[] = [];
    for (const { target: of, living, from } of state.files) {
      const now = settings.get(of)?.text;
      if (!living || from.kind !== 'kept' || now === undefined) continue;
      // A backup bag brings the originals back, not what was deployed over them.
      if (!(await this.workshop.vault.stat(objectPath(from.sha256)))) continue;
      if (onlySorted(decodeText(await readKept(this.workshop.vault, from)).text, now)) found.push(of);
    }
    return found;
  }

  /** The game's log, read anew only where it has changed: it can have a million lines. */
  private async lookAtLog(listing: Listing): Promise<Picture['log']> {
    const { log } = this.game.card;
    if (!log) return undefined;
    const { root, path } = splitTarget(log.target as TargetPath);
    const stat = await this.workshop.folders[root]?.stat(path);
    if (!stat) return (this.readLog = undefined);
    if (this.readLog?.size === stat.size && this.readLog.modified === stat.modified) return this.readLog;
    const text = (await this.readTarget(log.target as TargetPath)) ?? '';
    const reading = await readLongLog(text, log.rules, { trace: log.trace, ...(readsByForm(log) ? { plain: { endings: await this.endings(listing) } } : {}) });
    const mark = this.stack.runs.filter(({ at }) => at !== stat.modified).at(-1)?.mark;
    this.readLog = { reading, text, size: stat.size, modified: stat.modified, since: await linesBefore(text, mark) };
    return this.readLog;
  }

  /** The endings of the game's files and of the packs: what ends otherwise in a log is hardly a file. */
  async endings({ files }: Listing): Promise<Set<string>> {
    const found = new Set<string>();
    for (const some of Object.values(files)) for (const { path } of some) found.add(extensionOf(path));
    for (const layer of this.packLayers()) for (const { path } of (await this.openPack(layer.packId)).pack.entries) found.add(extensionOf(path));
    return found;
  }

  /** What the game itself writes, as it was seen last, and as it is now: its log, and the settings files that were edited. */
  seenOutside = '';
  /** @param read the log as it was when it was read: what was written to it since is new */
  async outside(read?: { size: number; modified: number }): Promise<string> {
    const { log } = this.game.card;
    const edited = this.picture.state.files.filter(({ living }) => living).map(({ target: of }) => of as string).slice(0, MOST_WATCHED);
    const statOf = async (of: string) => {
      const { root, path } = splitTarget(of as TargetPath);
      return this.workshop.folders[root]?.stat(path);
    };
    const stats = await Promise.all([...(log ? [read ?? statOf(log.target)] : []), ...edited.map(statOf)]);
    return stats.map((stat) => (stat ? `${stat.size} ${stat.modified}` : '')).join('\n');
  }

  private async isReadOnly(of: TargetPath): Promise<boolean> {
    const { root, path } = splitTarget(of);
    return (await this.workshop.folders[root]?.stat(path))?.readOnly === true;
  }

  async readTarget(of: TargetPath): Promise<string | undefined> {
    const { root, path } = splitTarget(of);
    const folder = this.workshop.folders[root];
    if (!folder || !(await folder.stat(path))) return undefined;
    return decodeText(await readBytes(folder, path)).text;
  }

  /** What lies inside the game's own archives; found out when the first pack is placed. */
  private inside: Promise<Map<string, readonly string[]>> | undefined;

  /** What a pack is placed by. */
  async placementInput(packId: string, answers: Placement['decisions']['answers']): Promise<PlacementInput> {
    const { pack, texts, readMe } = await this.openPack(packId);
    const file = this.notes.find((note) => note.id === packId)?.file ?? pack.name;
    const { card, statements } = this.game;
    // A card that says how packs are placed says which archives they go into.
    const inside = card.places.length > 0 && statements.length === 0 ? new Map<string, readonly string[]>() : await (this.inside ??= insideArchives(this.workshop.folders, this.picture.ownFiles));
    return { entries: pack.entries, card, gameFiles: this.picture.ownFiles, name: file, texts, answers, readMe, statements, inside, missed: this.missed() };
  }

  /** What the game's log misses now. */
  private missed(): MissedFile[] {
    const { log } = this.game.card;
    const read = this.picture.log;
    return log && read ? missedFiles(ofLastStart(read.reading, read.since), log.rules) : [];
  }

  /** The app's proposal for a pack under the player's answers; remembered while the game is open. */
  async proposal(packId: string, answers: Placement['decisions']['answers'] = {}): Promise<PlacementProposal> {
    const key = `${packId} ${JSON.stringify(answers)}`;
    const known = this.proposals.get(key);
    if (known) return known;
    const made = proposePlacements(await this.placementInput(packId, answers));
    this.proposals.set(key, made);
    return made;
  }

  /** The placement of a pack at a place that the player chose. */
  async placementAt(packId: string, strip: string, base: TargetPath): Promise<Placement> {
    return proposeAt(await this.placementInput(packId, {}), strip, base);
  }

  /** What to know about a pack before it is deployed. */
  async warnings(layer: PackLayer): Promise<Warning[]> {
    const { pack, images, facts } = await this.openPack(layer.packId);
    const others = await Promise.all(this.packLayers().filter((one) => one !== layer && one.on).map(async ({ name, packId }) => ({ name, facts: (await this.openPack(packId)).facts })));
    return placementWarnings({ card: this.game.card, entries: pack.entries, placement: layer.placement, gameFiles: this.picture.ownFiles, images, facts, others });
  }

  async deploy(options: DeployWork): Promise<LedgerEntry> {
    const lost = editFates(this.picture.state, this.picture.settings).filter(({ fate }) => fate === 'dropped');
    let entry = await this.carryOut(this.picture.plan, 'Deploy', options);
    if (this.picture.plan.steps.some(({ again }) => again)) {
      await this.look(options);
      if (this.picture.plan.steps.length > 0) entry = await this.carryOut(this.picture.plan, 'Deploy, renamed files', options);
    }
    if (lost.length > 0) await this.saveStack({ drops: lost.reduce((drops, { file, path }) => ({ ...drops, [dropKey(file, path)]: (drops[dropKey(file, path)] ?? 0) + 1 }), this.stack.drops) });
    await memory.setSnapshot(this.game.id, entry.number, this.stack);
    return entry;
  }

  putBack(options: DeployWork): Promise<LedgerEntry> {
    return this.carryOut(this.picture.putBack, 'Put everything back', options, []);
  }

  /** Deploys a plan, here or, for folders of the app's own server, there. */
  async carryOut(plan: Plan, title: string, options: DeployWork, layers: readonly Layer[] = this.picture.layers): Promise<LedgerEntry> {
    const order = { title, layers: layers.map(({ id, name }) => ({ id, name })) };
    this.forgetListing();
    return mainFolder(this.game) ? deployOnBridge(this, plan, { ...options, ...order }) : deploy(plan, this.workshop, { ...options, ...order });
  }

  /**
   * Takes the stack as it was at an earlier deployment; nothing is written before the player deploys it.
   *
   * @returns names of packs that are not here any more
   */
  async goBack(number: number, aside: SetAside[]): Promise<string[]> {
    const then = await memory.snapshot(this.game.id, number, aside);
    if (!then) throw new SatchelError('unknown-thing', { what: `state after deployment ${number}` });
    const gone = then.layers.filter((layer) => layer.kind === 'pack' && layer.on && !this.notes.some(({ id }) => id === layer.packId)).map(({ name }) => name);
    const layers = then.layers.filter((layer) => layer.kind !== 'pack' || this.notes.some(({ id }) => id === layer.packId));
    // Packs that came later stay at hand, switched off.
    const later = this.packLayers().filter((layer) => !layers.some(({ id }) => id === layer.id)).map((layer) => ({ ...layer, on: false }));
    const packs = layers.filter(({ kind }) => kind === 'pack');
    await this.saveStack({ order: then.order, picks: then.picks, ownFiles: then.ownFiles, layers: [...packs, ...later, ...layers.filter(({ kind }) => kind !== 'pack')] });
    return gone;
  }

  /** Forgets archives that neither the stack nor anything deployed needs any more. */
  async forgetUnused(): Promise<void> {
    const state = await readState(this.workshop.vault);
    const needed = new Set([...this.packLayers().map((layer) => layer.packId), ...state.files.flatMap((file) => (file.from.kind === 'pack' ? [file.from.packId] : []))]);
    const gone = this.notes.filter((note) => !needed.has(note.id));
    if (gone.length === 0) return;
    const ids = new Set(gone.map((note) => note.id));
    this.notes = this.notes.filter((note) => !ids.has(note.id));
    await memory.setPacks((await memory.packs([])).filter((note) => !ids.has(note.id)));
    const { vault } = this.workshop;
    for (const { id, there } of gone) {
      if (there && vault instanceof BridgeFolder) await vault.removePack(id);
      await memory.removeArchive(id);
      this.packs.forget(id);
    }
  }
}
