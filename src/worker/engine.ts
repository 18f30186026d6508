import {
  SatchelError, checkPath, decide, decodeText, gameCardSchema, kindOf, parentOf, plainCard, proposeAt, target, toFailure, zipFolder,
  type Failure, type LedgerEntry, type Progress, type Recovery, type TargetPath, type WorkOptions,
} from '@/core';
import { memory, type Game, type SetAside } from '@/storage/memory';
import { runGullwick } from '@/trial/gullwick';
import type { EngineApi, GameView, Job, RowsQuery, Row, Snapshot } from './api';
import { fetchDemo, seedDemo } from './demoGame';
import { bringIn } from './intake';
import { findRows } from './rows';
import { Session } from './session';
import { drawThumbnail } from './thumbnail';
import { gameView, waiting } from './views';

/** How much of a text file is shown, in bytes. */
const SHOWN_TEXT = 256 * 1024;
/** Progress is passed on at most this often, in milliseconds. */
const PACE = 80;
const LOCK = 'tidy-satchel';

/** The core behind the worker: takes commands one after the other, keeps the one picture, tells the interface. */
export class Engine implements EngineApi {
  private games: Game[] = [];
  private session: Session | undefined;
  private view: GameView | undefined;
  private revision = 0;
  private readOnly = false;
  private ready = false;
  private recovery: Recovery | undefined;
  private trouble: Failure[] = [];
  private queue: Promise<unknown> = Promise.resolve();
  private running: AbortController | undefined;
  private onSnapshot: (snapshot: Snapshot) => void = () => undefined;
  private onJob: (job: Job | undefined) => void = () => undefined;

  async start(onSnapshot: (snapshot: Snapshot) => void, onJob: (job: Job | undefined) => void): Promise<void> {
    this.onSnapshot = onSnapshot;
    this.onJob = onJob;
    await this.exclude();
    await this.load();
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
    if (game) await this.openGame(game, aside);
    this.ready = true;
    this.remember(aside);
    this.publish();
  }

  private remember(aside: SetAside[]): void {
    this.trouble.push(...aside.map(({ what, why }) => new SatchelError('bad-memory', { what: `${what}: ${why}` }).failure));
  }

  private async openGame(game: Game, aside: SetAside[]): Promise<void> {
    this.session = undefined;
    this.view = undefined;
    if (!(await Session.allowed(game))) {
      this.view = waiting(game);
      return;
    }
    try {
      this.session = await Session.open(game, aside, this.readOnly);
      this.trouble.push(...(await this.session.dropLost()));
      if (this.session.recovery) this.recovery = this.session.recovery;
      await this.look();
    } catch (error) {
      this.trouble.push(toFailure(error));
    }
  }

  private async look(options?: WorkOptions): Promise<void> {
    if (!this.session) return;
    await this.session.look(options);
    this.view = await gameView(this.session);
  }

  private publish(): void {
    this.revision++;
    this.onSnapshot({
      ready: this.ready, readOnly: this.readOnly, game: this.view, revision: this.revision, recovery: this.recovery, trouble: this.trouble,
      games: this.games.map(({ id, card, kind }) => ({ id, title: card.title, demo: kind === 'demo' })),
    });
  }

  /** Runs one change after the others: progress out, failures out, and a fresh picture at the end whatever happened. */
  private change<T>(title: string, canCancel: boolean, work: (options: Required<WorkOptions>) => Promise<T>): Promise<T> {
    const run = async (): Promise<T> => {
      if (this.readOnly) throw new SatchelError('read-only-tab');
      const controller = new AbortController();
      this.running = controller;
      let last = 0;
      const show = (progress: Progress) => {
        const now = Date.now();
        if (now - last < PACE && progress.done < progress.total) return;
        last = now;
        this.onJob({ title, canCancel, ...progress });
      };
      const options = { signal: controller.signal, onProgress: show };
      show({ phase: 'Getting ready', done: 0, total: 0, unit: 'files' });
      try {
        const result = await work(options);
        await this.look({ onProgress: show });
        return result;
      } catch (error) {
        await this.look().catch((second: unknown) => this.trouble.push(toFailure(second)));
        throw error;
      } finally {
        this.running = undefined;
        this.onJob(undefined);
        this.publish();
      }
    };
    const result = this.queue.then(run, run);
    this.queue = result.catch(() => undefined);
    return result;
  }

  private get open(): Session {
    if (!this.session) throw new SatchelError('unknown-thing', { what: 'open game' });
    return this.session;
  }

  async cancel(): Promise<void> {
    this.running?.abort();
  }

  refresh(): Promise<void> {
    return this.change('Looking at the folders again', false, async () => {
      const game = this.games.find(({ id }) => id === this.view?.id);
      if (!this.session && game) await this.openGame(game, []);
    });
  }

  // Games

  openDemo(): Promise<void> {
    return this.change('Setting up the demo game', false, async (options) => {
      const card = gameCardSchema.parse(await (await fetchDemo('gullwick.json')).json());
      const known = this.games.find(({ id }) => id === card.id);
      const game: Game = known ?? { id: card.id, card, kind: 'demo', handles: {} };
      if (!known) {
        await Session.erase(game);
        await seedDemo(game, options);
        await this.saveGames([...this.games, game]);
      }
      await this.choose(game);
    });
  }

  resetDemo(): Promise<void> {
    return this.change('Starting the demo over', false, async (options) => {
      const game = this.games.find(({ kind }) => kind === 'demo');
      if (!game) throw new SatchelError('unknown-thing', { what: 'demo game' });
      this.session = undefined;
      await this.saveGames(this.games.filter((other) => other !== game));
      await Session.erase(game);
      await seedDemo(game, options);
      await this.saveGames([...this.games, game]);
      await this.choose(game);
    });
  }

  private async saveGames(games: Game[]): Promise<void> {
    this.games = games;
    await memory.setGames(games);
  }

  private async choose(game: Game): Promise<void> {
    await memory.setCurrent(game.id);
    this.recovery = undefined;
    this.trouble = [];
    const aside: SetAside[] = [];
    await this.openGame(game, aside);
    this.remember(aside);
  }

  addGame(title: string, handle: FileSystemDirectoryHandle): Promise<void> {
    return this.change('Setting up the game', false, async () => {
      const id = `game-${Date.now().toString(36)}`;
      const game: Game = { id, card: plainCard(id, title.trim().slice(0, 80) || handle.name), kind: 'picked', handles: { game: handle } };
      await this.saveGames([...this.games, game]);
      await this.choose(game);
    });
  }

  chooseGame(id: string): Promise<void> {
    return this.change('Opening the game', false, async () => {
      const game = this.games.find((one) => one.id === id);
      if (!game) throw new SatchelError('unknown-thing', { what: 'game of that name' });
      await this.choose(game);
    });
  }

  removeGame(id: string): Promise<void> {
    return this.change('Removing the game from the app', false, async () => {
      const game = this.games.find((one) => one.id === id);
      if (!game) return;
      if (this.view?.id === id && this.session && this.session.picture.state.files.length > 0) throw new SatchelError('still-deployed', { name: game.card.title });
      this.session = undefined;
      this.view = undefined;
      await this.saveGames(this.games.filter((one) => one.id !== id));
      await Session.erase(game);
      const next = this.games[0];
      if (next) await this.choose(next);
    });
  }

  async handles(): Promise<FileSystemDirectoryHandle[]> {
    return Object.values(this.games.find(({ id }) => id === this.view?.id)?.handles ?? {});
  }

  // Packs

  bringIn(file: Blob, name: string): Promise<{ layer: string; known: boolean }> {
    return this.change(`Bringing in “${name}”`, true, (options) => bringIn(this.open, file, name, options));
  }

  fetchFromShelf(file: string): Promise<{ layer: string; known: boolean }> {
    return this.change(`Fetching “${file}” from the shelf`, true, async (options) => {
      const response = await fetchDemo(file, options.signal);
      return bringIn(this.open, await response.blob(), file, options);
    });
  }

  setBase(id: string, strip: string, base: string): Promise<void> {
    return this.change('Placing', false, async () => {
      const session = this.open;
      const [root = '', ...rest] = base.replace(/\/+$/, '').split('/');
      const checked = rest.length === 0 ? { ok: true as const } : checkPath(rest.join('/'));
      if (!checked.ok || !(root in session.workshop.folders)) throw new SatchelError('bad-target', { path: base, why: checked.ok ? 'it must begin with one of the game’s folders' : checked.problem });
      const { pack } = await session.openPack(session.layer(id).packId);
      const choice = (await session.proposal(session.layer(id).packId)).choices.find((one) => one.strip === strip && one.base === base);
      const placement = proposeAt({ entries: pack.entries, card: session.game.card, gameFiles: session.picture.ownFiles }, strip, target(root, rest.join('/')));
      await session.replaceLayer(id, (layer) => ({ ...layer, confidence: 'chosen', reason: choice?.reason ?? 'You chose this place.', placement: { ...placement, decisions: layer.placement.decisions } }));
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

  move(id: string, by: 1 | -1): Promise<void> {
    return this.change('Moving it', false, async () => {
      const session = this.open;
      const packs = session.packLayers();
      const from = packs.findIndex((layer) => layer.id === id);
      const [layer] = packs.splice(from, 1);
      if (!layer) return;
      packs.splice(Math.max(0, Math.min(packs.length, from + by)), 0, layer);
      await session.saveStack({ layers: [...packs, ...session.stack.layers.filter(({ kind }) => kind === 'edits')] });
    });
  }

  takeOut(id: string): Promise<void> {
    return this.change('Taking it out of the stack', false, async () => {
      await this.open.saveStack({ layers: this.open.stack.layers.filter((layer) => layer.id !== id) });
      await this.open.forgetUnused();
    });
  }

  // Settings

  setEdit(file: string, path: string[], value: string | undefined): Promise<void> {
    return this.change('Noting the edit', false, async () => {
      // A value that the file cannot hold is refused here, not in the next plan.
      if (value !== undefined) this.open.picture.settings.get(file)?.set(path, value);
      await this.open.setEdits(file as TargetPath, (edits) => [...edits.filter((edit) => edit.path.join('\n') !== path.join('\n')), { path, ...(value === undefined ? {} : { value }) }]);
    });
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
      const entry = await this.open.putBack(options);
      await this.open.forgetUnused();
      return entry;
    });
  }

  trialRun(): Promise<void> {
    return this.change('Trial run', true, async (options) => {
      const session = this.open;
      const { program, user } = session.workshop.folders;
      if (session.game.card.trial !== 'gullwick' || !program || !user) throw new SatchelError('unknown-thing', { what: 'trial run for this game' });
      await runGullwick({ program, user }, options);
      await session.saveStack({ triedAfter: session.picture.ledger[0]?.number ?? 0 });
    });
  }

  // Questions

  async rows(query: RowsQuery, offset: number, limit: number): Promise<{ total: number; rows: Row[] }> {
    const all = await findRows(this.open, query);
    return { total: all.length, rows: all.slice(offset, offset + limit).map((row) => row()) };
  }

  async gameFolders(): Promise<string[]> {
    const folders = new Set(this.open.game.card.roots.map(({ id }) => id));
    for (const file of this.open.picture.ownFiles) for (let folder = parentOf(file); folder !== '' && !folders.has(folder); folder = parentOf(folder)) folders.add(folder);
    return [...folders].sort();
  }

  async packFolders(id: string): Promise<string[]> {
    const { pack } = await this.open.openPack(this.open.layer(id).packId);
    const folders = new Set<string>(['']);
    for (const { path } of pack.entries) for (let folder = parentOf(path); !folders.has(folder); folder = parentOf(folder)) folders.add(folder);
    return [...folders].sort();
  }

  async readText(id: string, path: string): Promise<string> {
    const { pack } = await this.open.openPack(this.open.layer(id).packId);
    const entry = pack.entries.find((one) => one.path === path);
    if (!entry || entry.size > 64 * 1024 * 1024 || !['text', 'settings', 'other'].includes(kindOf(path))) throw new SatchelError('not-text', { path, why: 'it is not a short text' });
    const { text } = decodeText((await pack.read(path)).subarray(0, SHOWN_TEXT));
    return text.replace(/^\ufeff/, '');
  }

  async thumbnail(id: string, path: string): Promise<Blob | undefined> {
    const { pack } = await this.open.openPack(this.open.layer(id).packId);
    return drawThumbnail(pack, path);
  }

  exportFolders(): Promise<Blob> {
    return this.change('Packing a copy of the game folders', true, (options) => zipFolder(this.open.workshop.folders, options));
  }
}
