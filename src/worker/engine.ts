import {
  SatchelError, formOf, saidAs, tell, freeRoot, joinCards, learn, rootTitle, saysWherePacksGo, setStanding, studyGame, type Statement, baseName, byHand, decide, exportBag, gameCardSchema, importBag, listFolders, noDecisions, toFailure, unpackBag, zipFolder,
  type ArchivePart, type Failure, type FileStat, type GameCard, type LedgerEntry, type LogRule, type Progress, type Recovery, type Stuck, type StuckAnswer, type TargetPath, type WorkOptions,
} from '@/core';
import type { GivenFolder } from '@/bridge/wire';
import { textIn } from './insideArchives';
import { BridgeFolder, chooseDownloads, chooseFolder, forgetDownloads, forgetFolder, givenFolders, setBridgeKey } from '@/folders/bridge';
import { PickedFolder, type PickedHandle } from '@/folders/picked';
import { memory, type Game, type SetAside, type TakenCard } from '@/storage/memory';
import { runGullwick } from '@/trial/gullwick';
import { runHedgerow } from '@/trial/hedgerow';
import { runTinplate } from '@/trial/tinplate';
import type { CheckCommand, ClosedGame, DownloadsView, EngineApi, GameView, GivenLog, Intake, Job, SafetyCommand, ServerState, SettingsCommand, Snapshot, StackCommand, TellingPreview } from './api';
import { CHECK_TITLES, runCheckCommand } from './checkCommands';
import { cameOf, noteRun, readGiven, reportOf } from './checking';
import { knowBetter } from './knowBetter';
import { demoGames, fetchDemo, seedDemo } from './demoGame';
import { downloadsView, lookAtDownloads, takeDownloads } from './downloads';
import { bringIn, replaceRelease } from './intake';
import { withoutLayer } from './ordering';
import { answerQuestion, moveByHand, placeAt, proposeWith } from './placing';
import { SAFETY_TITLES, runSafetyCommand } from './safety';
import { Questions } from './questions';
import { Session, type DeployWork } from './session';
import { SETTINGS_TITLES, runSettingsCommand } from './settingsCommands';
import { COMMAND_TITLES, runStackCommand } from './stackCommands';
import { changedCard, effectOf, followCard, lessCard, sentenceAt, takenCard, toldGame, untoldGame } from './telling';
import { Minding, type MindingNews } from './minding';
import { mainFolder } from './onBridge';
import { closedGame, gameView } from './views';

/** Progress is passed on at most this often, in milliseconds. */
const PACE = 80;
const LOCK = 'tidy-satchel';
/** How long to wait (milliseconds) before something is tried again that could not be done. */
const PATIENCE = 2000;

/** The core behind the worker: takes commands one after the other, keeps the one picture, tells the interface. */
export class Engine extends Questions implements EngineApi {
  private games: Game[] = [];
  private session: Session | undefined;
  private view: GameView | undefined;
  private revision = 0;
  private readOnly = false;
  private ready = false;
  private closed: ClosedGame | undefined;
  private server: ServerState = 'here';
  private recovery: Recovery | undefined;
  /** The game's own files as they were at the last look; `heard` is what came of its last start. */
  private outside: string | undefined;
  private heard: Snapshot['heard'];
  private watching: ReturnType<typeof setTimeout> | undefined;
  private readonly minding = new Minding((session, news) => this.hearOfMinding(session, news));
  private trouble: Failure[] = [];
  private queue: Promise<unknown> = Promise.resolve();
  private running: AbortController | undefined;
  /** The question that a deployment waits with. */
  private stuck: ((answer: StuckAnswer) => void) | undefined;
  private onSnapshot: (snapshot: Snapshot) => void = () => undefined;
  private onJob: (job: Job | undefined) => void = () => undefined;

  async start(onSnapshot: (snapshot: Snapshot) => void, onJob: (job: Job | undefined) => void, key: string): Promise<void> {
    this.onSnapshot = onSnapshot;
    this.onJob = onJob;
    setBridgeKey(key);
    await this.exclude();
    await this.load();
    this.watch();
  }

  async setKey(key: string): Promise<void> {
    setBridgeKey(key);
    if (this.server === 'key') await this.lookForServer();
  }

  /** While the app's own server does not answer, or a game cannot be opened, it is tried again and again. */
  private watch(): void {
    this.watching = setTimeout(() => {
      const waits = this.server !== 'here' || (this.closed !== undefined && this.closed.how !== 'permission');
      void (waits ? this.lookForServer() : Promise.resolve()).finally(() => this.watch());
    }, PATIENCE);
  }

  /** Ends what goes on by itself; nothing is asked of it any more. */
  async end(): Promise<void> {
    clearTimeout(this.watching);
    await this.minding.halt();
  }

  /** Is the server there, and does it know this page? Where it is back, the game is opened again, or looked at. */
  private async lookForServer(): Promise<void> {
    const before = this.server;
    await this.hearServer();
    if (this.server !== 'here' || this.running) return before === this.server ? undefined : this.publish();
    if (!this.closed && before === 'here') return;
    await this.quietly(async () => {
      const game = this.games.find(({ id }) => id === this.closed?.id);
      if (game) await this.openGame(game, []);
      // What was done there while it was away is found out by opening the game anew: a deployment may be half-way.
      else if (this.session && mainFolder(this.session.game)) await this.openGame(this.session.game, []);
    });
  }

  private async hearServer(): Promise<void> {
    try {
      this.server = (await givenFolders()).closed ? 'key' : 'here';
    } catch (error) {
      if (toFailure(error).code !== 'server-gone') throw error;
      this.server = 'gone';
    }
  }

  /** After the changes that are waiting, and without a word while it goes on. */
  private quietly(work: () => Promise<void>): Promise<void> {
    const done = this.queue.then(async () => {
      await this.minding.halt();
      await work();
      this.publish();
    });
    this.queue = done.catch(() => undefined);
    return done.catch((error: unknown) => void this.trouble.push(toFailure(error)));
  }

  private hearOfMinding(session: Session, { progress, found }: MindingNews): void {
    if (this.session !== session || !this.view) return;
    const { copies } = this.view.safety;
    const known = copies.mishaps.length;
    this.view = { ...this.view, safety: { ...this.view.safety, copies: { ...(found ?? copies), progress } } };
    this.publish(false);
    // An original that was found to be another one changes what is deployed, and so the plan.
    if (found && found.mishaps.length > known) void this.quietly(() => this.look());
  }

  /** One tab writes. The others look, and take over when it is closed. */
  private exclude(): Promise<void> {
    return new Promise((decided) => {
      const patience = setTimeout(() => {
        this.readOnly = true;
        decided();
      }, 1200);
      void navigator.locks.request(LOCK, async () => {
        clearTimeout(patience);
        const waited = this.readOnly;
        this.readOnly = false;
        decided();
        if (waited) await this.load();
        await new Promise(() => undefined);
      });
    });
  }

  private async load(): Promise<void> {
    const aside: SetAside[] = [];
    this.games = await memory.games(aside);
    const current = await memory.current();
    const game = this.games.find(({ id }) => id === current) ?? this.games[0];
    if (game) await this.openGame(game, aside, { onProgress: this.teller('Opening the game', false) });
    this.onJob(undefined);
    this.ready = true;
    this.remember(aside);
    this.publish();
  }

  private remember(aside: SetAside[]): void {
    this.trouble.push(...aside.map(({ what, why }) => new SatchelError('bad-memory', { what: `${what}: ${why}` }).failure));
  }

  private async openGame(game: Game, aside: SetAside[], options: WorkOptions = {}): Promise<void> {
    await this.minding.halt();
    try {
      if (!(await Session.allowed(game))) {
        this.close(closedGame(game, mainFolder(game) ? 'not-started-with' : 'permission'));
        return;
      }
      const session = await Session.open(game, aside, this.readOnly);
      const lost = await session.dropLost(this.readOnly);
      await session.look(options);
      const view = await gameView(session);
      this.session = session;
      this.view = view;
      this.closed = undefined;
      this.server = 'here';
      this.trouble.push(...lost);
      if (session.recovery) this.recovery = session.recovery;
      if (this.readOnly) return;
      this.minding.soon(session);
      await this.getToKnow(session, options);
    } catch (error) {
      await this.hearServerOf(game);
      this.close(closedGame(game, 'failed', toFailure(error)));
    }
  }

  /** Studies the game again where it has changed since the last time. That it could not be is no reason to keep it shut. */
  private async getToKnow(session: Session, options: WorkOptions): Promise<void> {
    const better = await knowBetter(session, options).catch((error: unknown) => void this.trouble.push(toFailure(error)));
    if (!better) return;
    await this.saveGames(this.games.map((one) => (one.id === better.id ? better : one)));
    session.game = better;
    await session.look({ recent: true });
    this.view = await gameView(session);
  }

  private close(closed: ClosedGame): void {
    this.session = undefined;
    this.view = undefined;
    this.closed = closed;
  }

  /** After a failure: is the app's own server still there? */
  private async hearServerOf(game: Game | undefined): Promise<void> {
    if (game && mainFolder(game)) await this.hearServer();
  }

  private async look(options: WorkOptions & { recent?: boolean } = {}): Promise<void> {
    if (!this.session) return;
    await this.session.look(options);
    this.view = await gameView(this.session);
  }

  /** @param isNew whether rows that are shown have to be asked for again */
  private publish(isNew = true): void {
    if (isNew) this.revision++;
    this.onSnapshot({
      ready: this.ready, readOnly: this.readOnly, game: this.view, revision: this.revision, closed: this.closed, server: this.server, recovery: this.recovery, heard: this.heard, trouble: this.trouble,
      games: this.games.map(({ id, card, kind, given }) => ({ id, title: card.title, demo: kind === 'demo', folders: Object.values(given).map((folder) => folder.id) })),
    });
  }

  /** Hands progress on, no oftener than a player can read it. */
  private teller(title: string, canCancel: boolean): (progress: Progress) => void {
    let last = { phase: '', at: 0 };
    return (progress) => {
      const now = Date.now();
      const ended = progress.total > 0 && progress.done >= progress.total;
      if (!ended && progress.phase === last.phase && now - last.at < PACE) return;
      last = { phase: progress.phase, at: now };
      this.onJob({ title, canCancel, ...progress });
    };
  }

  /** Runs one change after the others: progress out, failures out, and a fresh picture at the end whatever happened. */
  private change<T>(title: string, canCancel: boolean, work: (options: Required<DeployWork>) => Promise<T>): Promise<T> {
    const run = async (): Promise<T> => {
      if (this.readOnly) throw new SatchelError('read-only-tab');
      await this.minding.halt();
      const controller = new AbortController();
      this.running = controller;
      const show = this.teller(title, canCancel);
      const onStuck = (stuck: Stuck) =>
        new Promise<StuckAnswer>((answer) => {
          this.stuck = answer;
          controller.signal.addEventListener('abort', () => answer('take back'), { once: true });
          this.onJob({ title, canCancel: false, phase: 'Waiting for you', done: 0, total: 0, unit: 'files', stuck });
        });
      const options = { signal: controller.signal, onProgress: show, onStuck };
      show({ phase: 'Getting ready', done: 0, total: 0, unit: 'files' });
      try {
        const result = await work(options);
        await this.look({ onProgress: show, recent: true });
        return result;
      } catch (error) {
        await this.hearServerOf(this.session?.game);
        // Where nothing can be looked at, what was seen last stays.
        if (this.server === 'here') await this.look().catch((second: unknown) => this.trouble.push(toFailure(second)));
        throw error;
      } finally {
        this.running = undefined;
        this.onJob(undefined);
        this.publish();
        if (this.session && this.server === 'here') this.minding.soon(this.session);
      }
    };
    const result = this.queue.then(run, run);
    this.queue = result.catch(() => undefined);
    return result;
  }

  protected get open(): Session {
    if (!this.session) throw new SatchelError('unknown-thing', { what: 'open game' });
    return this.session;
  }

  async answerStuck(answer: StuckAnswer): Promise<void> {
    this.stuck?.(answer);
    this.stuck = undefined;
  }

  async cancel(): Promise<void> {
    this.running?.abort();
  }

  /** Asked every few seconds while the page is in sight. What is still being written is waited for. */
  async lookOutside(back = false): Promise<void> {
    const { session } = this;
    if (!session || this.readOnly || this.running || this.server !== 'here' || session.game.card.trial !== undefined) return;
    // Where it cannot be looked at now, that is said elsewhere, and the next time is soon.
    // Where no log is known yet, whoever comes back to the page may have started the game, and it may have written one.
    const anew = back && session.game.card.log === undefined && session.picture.state.files.length > 0;
    const now = await session.outside().catch(() => undefined);
    const before = this.outside;
    this.outside = now;
    if (session !== this.session || this.running) return;
    if (!anew && (now === undefined || now === session.seenOutside || now !== before)) return;
    await this.quietly(async () => {
      if (session !== this.session) return;
      await session.look();
      if (anew) await this.getToKnow(session, {});
      // Where there is still no log, nobody can say that it was started.
      if (!anew || session.game.card.log !== undefined) await this.hearStart(session);
      this.view = await gameView(session);
      this.minding.soon(session);
    });
  }

  /** Notes a start of a real game, which shows in its log, and what came of it. */
  private async hearStart(session: Session): Promise<void> {
    const { log } = session.picture;
    if (log && session.stack.runs.at(-1)?.at !== log.modified) await noteRun(session, log.modified);
    await this.getToKnow(session, {});
    this.heard = { at: Date.now(), ...cameOf(session) };
  }

  refresh(): Promise<void> {
    return this.change('Looking at the folders again', false, async (options) => {
      const game = this.games.find(({ id }) => id === this.closed?.id);
      if (!this.session && game) await this.openGame(game, [], options);
      const session = this.session;
      if (!session) return;
      await session.look(options);
      // A start of a real game shows in its log.
      if (session.game.card.trial !== undefined) return;
      const { log } = session.picture;
      if (log && session.stack.runs.at(-1)?.at !== log.modified) await noteRun(session, log.modified);
      await this.getToKnow(session, options);
    });
  }

  // Games

  openDemo(): Promise<void> {
    return this.change('Setting up the demo games', false, async (options) => {
      for (const id of await demoGames()) await this.addDemo(id, options);
      const first = this.games.find(({ kind }) => kind === 'demo');
      if (first) await this.choose(first, options);
    });
  }

  /** Sets up one of the demo's games, unless it is here. */
  private async addDemo(id: string, options: WorkOptions): Promise<Game> {
    const known = this.games.find((game) => game.id === id);
    if (known) return known;
    const card = gameCardSchema.parse(await (await fetchDemo(`${id}.json`)).json());
    const game: Game = { id: card.id, card, kind: 'demo', handles: {}, given: {}, statements: [] };
    await Session.erase(game);
    await seedDemo(game, options);
    await this.saveGames([...this.games, game]);
    return game;
  }

  resetDemo(): Promise<void> {
    return this.change('Starting the demo over', false, async (options) => {
      const game = this.games.find(({ id, kind }) => id === this.view?.id && kind === 'demo') ?? this.games.find(({ kind }) => kind === 'demo');
      if (!game) throw new SatchelError('unknown-thing', { what: 'demo game' });
      this.session = undefined;
      const place = this.games.indexOf(game);
      await this.saveGames(this.games.filter((other) => other !== game));
      const fresh = await this.addDemo(game.id, options);
      const others = this.games.filter((other) => other !== fresh);
      await this.saveGames([...others.slice(0, place), fresh, ...others.slice(place)]);
      await this.choose(fresh, options);
    });
  }

  private async saveGames(games: Game[]): Promise<void> {
    this.games = games;
    await memory.setGames(games);
  }

  /** Takes other facts about a game that is here, and opens it again. */
  private async changeGame(changed: Game, options: WorkOptions): Promise<void> {
    await this.saveGames(this.games.map((one) => (one.id === changed.id ? changed : one)));
    await this.choose(changed, options);
  }

  private async choose(game: Game, options: WorkOptions): Promise<void> {
    await memory.setCurrent(game.id);
    this.recovery = undefined;
    this.heard = undefined;
    this.trouble = [];
    const aside: SetAside[] = [];
    await this.openGame(game, aside, options);
    this.remember(aside);
  }

  /** A folder that the player picked, or one that the app was started with, and every file in it. */
  private async folderAt(where: FileSystemDirectoryHandle | string, options: WorkOptions): Promise<{ given: GivenFolder | undefined; handle: FileSystemDirectoryHandle | undefined; name: string; files: readonly FileStat[]; read(path: string): Promise<string | undefined> }> {
    const given = typeof where === 'string' ? (await givenFolders()).folders.find((folder) => folder.id === where) : undefined;
    if (typeof where === 'string' && !given) throw new SatchelError('bridge-closed');
    const handle = typeof where === 'string' ? undefined : where;
    const folder = given ? new BridgeFolder(given.id, 'game') : new PickedFolder(handle as PickedHandle);
    const { files: { folder: files = [] } } = await listFolders({ folder }, options);
    return { given, handle, name: given?.name ?? handle?.name ?? '', files, read: (path) => textIn(folder, path) };
  }

  addGame(title: string, where: FileSystemDirectoryHandle | string): Promise<void> {
    return this.change('Looking at the game’s folder', false, async (options) => {
      const id = `game-${Date.now().toString(36)}`;
      const { given, handle, name, files, read } = await this.folderAt(where, options);
      const called = title.trim().slice(0, 80) || name;
      const { card, statements } = await studyGame([{ id: 'game', title: called, files, read }], { title: called, ...options });
      const roots = card.roots.map((root) => ({ ...root, title: rootTitle(root.markers.length > 0) }));
      const game: Game = { id, card: { ...card, id, roots }, kind: given ? 'bridge' : 'picked', handles: handle ? { game: handle } : {}, given: given ? { game: given } : {}, statements };
      await this.saveGames([...this.games, game]);
      await this.choose(game, options);
    });
  }

  addFolder(title: string, where: FileSystemDirectoryHandle | string): Promise<string[]> {
    return this.change('Looking at the folder', false, async (options) => {
      const { game } = this.open;
      const { given, handle, name, files, read } = await this.folderAt(where, options);
      if (await isNested(game, given, handle)) throw new SatchelError('folder-twice', { name });
      const root = freeRoot(game.card);
      const found = await studyGame([{ id: root, title: title.trim().slice(0, 80) || name, files, read }], options);
      const reasons = found.statements.filter(({ about }) => about.what !== 'root').map(({ says }) => says);
      const changed: Game = { ...game, card: joinCards(game.card, found.card), statements: [...game.statements, ...found.statements], handles: { ...game.handles, ...(handle ? { [root]: handle } : {}) }, given: { ...game.given, ...(given ? { [root]: given } : {}) } };
      await this.changeGame(changed, options);
      return reasons;
    });
  }

  givenFolders(): Promise<{ folders: GivenFolder[]; closed: boolean; asks: boolean }> {
    return givenFolders();
  }

  chooseFolder(near?: string): Promise<GivenFolder | undefined> {
    return chooseFolder(near);
  }

  async forgetFolder(id: string): Promise<void> {
    const user = this.games.find(({ given }) => Object.values(given).some((folder) => folder.id === id));
    if (user) throw new SatchelError('folder-in-use', { name: user.card.title });
    await forgetFolder(id);
  }

  downloads(): Promise<DownloadsView | undefined> {
    return lookAtDownloads(this.session);
  }

  async chooseDownloads(): Promise<DownloadsView | undefined> {
    const list = await chooseDownloads();
    return list && downloadsView(list, this.session);
  }

  forgetDownloads(): Promise<void> {
    return forgetDownloads();
  }

  takeDownloads(names: string[], password?: string, copy = false): Promise<Intake> {
    return this.change('Taking downloads in', true, (options) => takeDownloads(this.open, names, password, copy, options));
  }

  setBackupFolder(handle: FileSystemDirectoryHandle): Promise<string | undefined> {
    return this.change('Copying the originals', false, async (options) => {
      const changed = { ...this.open.game, backup: handle };
      const inside = await Promise.all(Object.values(changed.handles).map((game) => game.resolve(handle)));
      if (inside.some((names) => names !== null)) throw new SatchelError('backup-in-game', { name: handle.name });
      await this.changeGame(changed, options);
      return runSafetyCommand(this.open, { do: 'copy originals' }, options);
    });
  }

  card(): Promise<GameCard> {
    return Promise.resolve(this.open.game.card);
  }

  setCard(value: unknown, file?: string): Promise<void> {
    return this.change('Taking the game card', false, async (options) => {
      const { game } = this.open;
      const card = { ...readCard(value), id: game.id };
      checkRoots(game, card);
      if (JSON.stringify(card) === JSON.stringify(game.card)) return this.changeGame(game, options);
      const says = file === undefined ? 'The card was written by hand.' : `The card of “${card.title}” was taken from “${file}”.`;
      await this.retell(toldGame(game, says, { card, ...(file === undefined ? {} : { taken: takenCard(game, card, file) }) }), options);
    });
  }

  takenCard(): Promise<TakenCard | undefined> {
    return Promise.resolve(this.open.game.taken);
  }

  chooseGame(id: string): Promise<void> {
    return this.change('Opening the game', false, async (options) => {
      const game = this.games.find((one) => one.id === id);
      if (!game) throw new SatchelError('unknown-thing', { what: 'game of that name' });
      await this.choose(game, options);
    });
  }

  removeGame(id: string): Promise<void> {
    return this.change('Removing the game from the app', false, async (options) => {
      const game = this.games.find((one) => one.id === id);
      if (!game) return;
      if (this.view?.id === id && this.session && this.session.picture.state.files.length > 0) throw new SatchelError('still-deployed', { name: game.card.title });
      this.session = undefined;
      this.view = undefined;
      await this.saveGames(this.games.filter((one) => one.id !== id));
      await Session.erase(game);
      const next = this.games[0];
      if (next) await this.choose(next, options);
    });
  }

  async handles(): Promise<FileSystemDirectoryHandle[]> {
    const game = this.games.find(({ id }) => id === (this.closed ?? this.view)?.id);
    return [...Object.values(game?.handles ?? {}), ...(game?.backup ? [game.backup] : [])];
  }

  // Packs

  bringIn(files: ArchivePart[], password?: string): Promise<Intake> {
    const title = files.length === 1 ? `“${files[0]?.name}”` : `${files.length} files`;
    return this.change(`Bringing in ${title}`, true, (options) => bringIn(this.open, files, password, options));
  }

  fetchFromShelf(file: string, password?: string): Promise<Intake> {
    return this.change(`Fetching “${file}” from the shelf`, true, async (options) => {
      const response = await fetchDemo(file, options.signal);
      return bringIn(this.open, [{ name: file, data: await response.blob() }], password, options);
    });
  }

  openInside(id: string, path: string): Promise<Intake> {
    return this.change(`Opening “${path}”`, true, async (options) => {
      const { pack } = await this.open.openPack(this.open.layer(id).packId);
      return bringIn(this.open, [{ name: baseName(path), data: new Blob([await pack.read(path)]) }], undefined, options);
    });
  }

  replaceRelease(id: string, earlier: string): Promise<void> {
    return this.change('Putting it in the place of the earlier one', false, async () => {
      await replaceRelease(this.open, id, earlier);
      await this.open.forgetUnused();
    });
  }

  // Placing

  answer(id: string, question: string, answer: string[]): Promise<void> {
    return this.change('Placing', false, async () => {
      await answerQuestion(this.open, id, question, answer);
      if (question === 'place') await this.learnFrom(id);
    });
  }

  proposeAgain(id: string): Promise<void> {
    return this.change('Placing', false, () => proposeWith(this.open, id, noDecisions));
  }

  moveTo(id: string, from: string, to: string | undefined): Promise<void> {
    return this.change('Placing', false, () => moveByHand(this.open, id, from, to));
  }

  /** What the player's choice of a place teaches about packs like this one. A card that says how packs are placed knows better. */
  private async learnFrom(id: string): Promise<void> {
    const { game } = this.open;
    if (saysWherePacksGo(game.card) && game.statements.length === 0) return;
    const layer = this.open.layer(id);
    const { pack } = await this.open.openPack(layer.packId);
    const statements = learn(game.statements, { entries: pack.entries, placement: layer.placement, pack: layer.name, gameFiles: this.open.picture.ownFiles });
    if (statements.length !== game.statements.length || statements.some((one, i) => one !== game.statements[i])) await this.keepStatements(statements);
  }

  /** Notes what is known of the game; the open game goes on with it. */
  private async keepStatements(statements: Statement[]): Promise<void> {
    const changed = { ...this.open.game, statements };
    await this.saveGames(this.games.map((one) => (one.id === changed.id ? changed : one)));
    this.open.game = changed;
  }

  statements(): Promise<Statement[]> {
    return Promise.resolve(this.open.game.statements);
  }

  /** The player says that something the app knows is so, or is not. */
  setStanding(id: string, standing: Statement['standing']): Promise<void> {
    return this.change('Noting it', false, async (options) => {
      const { game } = this.open;
      const statement = game.statements.find((one) => one.id === id);
      if (!statement) throw new SatchelError('unknown-thing', { what: 'statement of that name' });
      const { about } = statement;
      const others = game.card.settings.filter(({ target }) => about.what !== 'settings' || target !== about.file);
      // A file that is none of the player's settings is placed and replaced like any other.
      const settings = about.what !== 'settings' ? game.card.settings : standing === 'refused' ? others : [...others, { target: about.file, dialect: about.dialect, title: baseName(about.file) }];
      const changed = toldGame(game, `${standing === 'refused' ? 'Not so' : 'So it is'}: ${statement.says}`, { statements: setStanding(game.statements, id, standing), card: readCard({ ...game.card, settings }) });
      await this.retell(changed, options);
    });
  }

  async previewTelling(form: string, values: Record<string, string>, at?: (string | number)[]): Promise<TellingPreview> {
    const { card } = this.open.game;
    const found = formOf(form);
    const told = found && tell(card, found, values, at);
    if (!told?.ok) return { wrong: { field: told?.field, why: told?.why ?? '' }, changes: [] };
    return { wrong: undefined, changes: await effectOf(this.open, told.card) };
  }

  tell(form: string, values: Record<string, string>, at?: (string | number)[]): Promise<void> {
    return this.change('Noting it', false, (options) => {
      const { game } = this.open;
      const found = formOf(form);
      return this.retell(toldGame(game, found ? saidAs(found, values) : form, { card: changedCard(game.card, form, values, at) }), options);
    });
  }

  untell(at: (string | number)[]): Promise<void> {
    return this.change('Noting it', false, (options) => {
      const { game } = this.open;
      return this.retell(toldGame(game, `Taken away: ${sentenceAt(game.card, at)}`, { card: lessCard(game.card, at) }), options);
    });
  }

  lastTold(): Promise<string | undefined> {
    return Promise.resolve(this.open.game.past?.at(-1)?.says);
  }

  undoTelling(): Promise<void> {
    return this.change('Taking it back', false, (options) => this.retell(untoldGame(this.open.game), options));
  }

  /** The game as it is told now; packs that the player has not placed follow. */
  private async retell(changed: Game, options: WorkOptions): Promise<void> {
    const effect = await effectOf(this.open, changed.card);
    await this.changeGame(changed, options);
    await followCard(this.open, effect.map(({ layer }) => layer));
  }

  setBase(id: string, strip: string, base: string): Promise<void> {
    return this.change('Placing', false, async () => {
      await placeAt(this.open, id, strip, base);
      await this.learnFrom(id);
    });
  }

  decide(id: string, path: string, takeIn: boolean): Promise<void> {
    return this.change('Placing', false, async () => {
      const session = this.open;
      const { pack } = await session.openPack(session.layer(id).packId);
      await session.replaceLayer(id, (layer) => ({ ...layer, placement: decide(layer.placement, pack.entries, path, takeIn) }));
    });
  }

  setOn(id: string, on: boolean): Promise<void> {
    return this.change(on ? 'Putting it in' : 'Leaving it out', false, () => this.open.replaceLayer(id, (layer) => ({ ...layer, on })));
  }

  changeStack(command: StackCommand): Promise<string | undefined> {
    return this.change(COMMAND_TITLES[command.do], command.do === 'merge packs', (options) => runStackCommand(this.open, command, options));
  }

  takeOut(id: string): Promise<void> {
    return this.change('Taking it out of the stack', false, async () => {
      await this.open.saveStack({ ...withoutLayer(this.open, id), layers: this.open.stack.layers.filter((layer) => layer.id !== id) });
      await this.open.forgetUnused();
    });
  }

  // Settings

  setEdit(file: string, path: string[], value: string | undefined): Promise<void> {
    return this.changeSettings({ do: 'edits', file, edits: [{ path, value }] });
  }

  changeSettings(command: SettingsCommand): Promise<void> {
    return this.change(SETTINGS_TITLES[command.do], false, () => runSettingsCommand(this.open, command));
  }

  dropEdit(file: string, path: string[]): Promise<void> {
    return this.change('Taking the edit back', false, () => this.open.setEdits(file as TargetPath, (edits) => edits.filter((edit) => edit.path.join('\n') !== path.join('\n'))));
  }

  // Deploying and checking

  deploy(): Promise<LedgerEntry> {
    return this.change('Deploying', true, async (options) => {
      this.recovery = undefined;
      // The plan is made again on the folders as they are now: what was shown a minute ago may have changed.
      await this.open.look(options);
      return this.open.deploy(options);
    });
  }

  putBack(): Promise<LedgerEntry> {
    return this.change('Putting everything back', true, async (options) => {
      this.recovery = undefined;
      await this.open.look(options);
      const entry = await this.open.putBack(options);
      await this.open.forgetUnused();
      return entry;
    });
  }

  keepSafe(command: SafetyCommand): Promise<string | undefined> {
    return this.change(SAFETY_TITLES[command.do], command.do.startsWith('restore') || command.do === 'check deployed', (options) => runSafetyCommand(this.open, command, options));
  }

  exportByHand(): Promise<{ name: string; blob: Blob }[]> {
    return this.change('Packing it for your own hands', true, async (options) => {
      await this.open.look(options);
      const { game, workshop, picture } = this.open;
      const { deploy, restore } = await byHand(picture.plan, workshop, { ...options, game: game.card.title, titles: Object.fromEntries(game.card.roots.map(({ id, title }) => [id, title])), at: Date.now() });
      const name = game.card.title.replace(/[<>:"/\\|?*]+/g, ' ');
      return [{ name: `${name} put in.zip`, blob: deploy }, { name: `${name} take back.zip`, blob: restore }];
    });
  }

  trialRun(): Promise<void> {
    return this.change('Trial run', true, async (options) => {
      const session = this.open;
      const { program, user, player, hall } = session.workshop.folders;
      const { trial } = session.game.card;
      if (trial === 'gullwick' && program && user) await runGullwick({ program, user }, options);
      else if (trial === 'tinplate' && player && user) await runTinplate({ player, user }, options);
      else if (trial === 'hedgerow' && hall) await runHedgerow({ hall }, options);
      else throw new SatchelError('unknown-thing', { what: 'trial run for this game' });
      await session.saveStack({ triedAfter: session.picture.ledger[0]?.number ?? 0 });
      await session.look();
      await noteRun(session);
    });
  }

  checkCommand(command: CheckCommand): Promise<void> {
    return this.change(CHECK_TITLES[command.do], false, () => runCheckCommand(this.open, command));
  }

  addLogRule(rule: LogRule): Promise<void> {
    return this.change('Taking the rule', false, async (options) => {
      const { game } = this.open;
      const { log } = game.card;
      if (!log) throw new SatchelError('bad-card', { why: 'it names no log' });
      await this.changeGame({ ...game, card: readCard({ ...game.card, log: { ...log, rules: [rule, ...log.rules] } }) }, options);
    });
  }

  readGivenLog(name: string, log: Blob | string): Promise<GivenLog> {
    const others = this.games.map(({ card }) => ({ title: card.title, rules: card.log?.rules ?? [], trace: card.log?.trace }));
    return this.change('Reading the log', true, (options) => readGiven(this.open, others, name, log, options));
  }

  async report(): Promise<string> {
    if (!this.view) throw new SatchelError('unknown-thing', { what: 'open game' });
    return reportOf(this.open, { packs: this.view.packs, check: this.view.check, overlapping: this.view.stack.overlapping });
  }

  exportFolders(): Promise<Blob> {
    return this.change('Packing a copy of the game folders', true, (options) => zipFolder(this.open.workshop.folders, options));
  }

  goBack(number: number): Promise<string[]> {
    return this.change(`Going back to deployment ${number}`, false, () => {
      const aside: SetAside[] = [];
      return this.open.goBack(number, aside).finally(() => this.remember(aside));
    });
  }

  exportBag(): Promise<{ name: string; blob: Blob }> {
    return this.change('Packing the originals', true, async (options) => {
      const { game, workshop } = this.open;
      const at = Date.now();
      return { name: `${game.card.title} originals ${new Date(at).toISOString().slice(0, 10)}.zip`, blob: await exportBag(workshop.vault, { game: game.id, title: game.card.title, at }, options) };
    });
  }

  importBag(file: File): Promise<{ originals: number; title: string }> {
    return this.change('Taking the backup in', true, async (options) => {
      const bag = await importBag(file, file.name, options);
      await unpackBag(bag, this.open.workshop.vault, options);
      return { originals: bag.originals, title: bag.about.title };
    });
  }
}

/** @throws SatchelError `bad-card` where a card speaks of other folders than the game has here */
function checkRoots(game: Game, card: GameCard): void {
  if (game.kind === 'demo') return;
  const real = [...Object.keys(game.handles), ...Object.keys(game.given)];
  const [more] = card.roots.filter(({ id }) => !real.includes(id));
  if (more) throw new SatchelError('bad-card', { why: `it speaks of “${more.title}”, a folder that this game has not been given here. Add that folder on this page first` });
  const missing = real.filter((root) => !card.roots.some(({ id }) => id === root));
  if (missing.length > 0) throw new SatchelError('bad-card', { why: `it says nothing of ${missing.join(', ')}, a folder that this game has here` });
}

/** @throws SatchelError `bad-card`, naming the first places that are wrong */
function readCard(value: unknown): GameCard {
  const read = gameCardSchema.safeParse(value);
  if (read.success) return read.data;
  throw new SatchelError('bad-card', { why: read.error.issues.slice(0, 3).map(({ path, message }) => `${path.join('.') || 'the card'}: ${message}`).join('; ') });
}

/** Does a folder lie inside one that the game has, or around it? */
async function isNested(game: Game, given: GivenFolder | undefined, handle: FileSystemDirectoryHandle | undefined): Promise<boolean> {
  const within = (inner: string, outer: string) => inner === outer || inner.startsWith(`${outer}/`) || inner.startsWith(`${outer}\\`);
  if (given) return Object.values(game.given).some(({ path }) => within(given.path, path) || within(path, given.path));
  for (const other of Object.values(game.handles)) if (handle && ((await other.resolve(handle)) !== null || (await handle.resolve(other)) !== null)) return true;
  return false;
}
