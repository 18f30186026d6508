import { SatchelError, toFailure, type Failure, type Recovery, type WorkOptions } from '@/core';
import { givenFolders } from '@/folders/bridge';
import { memory, type Game, type SetAside } from '@/storage/memory';
import { knowBetter } from '../card/study';
import { cameOf, noteRun } from '../check/runs';
import type { ClosedGame, GameView, ServerState, Snapshot } from '../contract';
import { decidedIn, noteDecided } from '../game/decided';
import type { Desk } from '../game/desk';
import { look } from '../game/look';
import { mainFolder } from '../game/mainFolder';
import { keepOnDisk, meetDisk, takeFromDisk } from '../game/onDisk';
import { dropLost, isFree, openSession } from '../game/opening';
import type { Session } from '../game/session';
import { closedGame } from './closedGame';
import { gameView } from './view';

/** The games of a tab, and the one that is open in it. */
export class Games {
  all: readonly Game[] = [];
  session: Session | undefined;
  view: GameView | undefined;
  closed: ClosedGame | undefined;
  server: ServerState = 'here';
  recovery: Recovery | undefined;
  /** What came of the game's last start. */
  heard: Snapshot['heard'];
  trouble: Failure[] = [];
  /** The open game goes on from what lay on the disk, written then. */
  foundAt: number | undefined;
  /** Another tab writes. */
  onlyLook = false;

  /** @param between what goes on in an open game by itself: `halt` before another is opened, `soon` when it is */
  constructor(private readonly between: { halt(): Promise<void>; soon(session: Session): void }) {}

  /** @throws SatchelError `newer-data` */
  async load(options: WorkOptions): Promise<void> {
    const aside: SetAside[] = [];
    await memory.takeOver(this.onlyLook);
    this.all = await memory.games(aside);
    const current = await memory.current();
    const game = this.all.find(({ id }) => id === current) ?? this.all[0];
    if (game) await this.open(game, aside, options);
    this.tellAside(aside);
  }

  async open(game: Game, aside: SetAside[], options: WorkOptions = {}): Promise<void> {
    await this.between.halt();
    try {
      if (!(await isFree(game))) {
        this.close(closedGame(game, mainFolder(game) ? 'not-started-with' : 'permission'));
        return;
      }
      const { session, recovery } = await openSession(game, aside, this.onlyLook);
      const met = this.onlyLook ? undefined : await meetDisk(session);
      if (met?.goOn) {
        const same = await takeFromDisk(session, met.goOn);
        await this.save(this.replaced(same));
        this.foundAt = met.goOn.written.at;
        return await this.open(same, aside, options);
      }
      const lost = await dropLost(session, this.onlyLook);
      await look(session, options);
      const view = await gameView(session);
      this.session = session;
      this.view = view;
      this.closed = undefined;
      this.server = 'here';
      this.trouble.push(...lost, ...(met?.trouble ?? []));
      if (recovery) this.recovery = recovery;
      if (this.onlyLook) return;
      // What was decided right before the browser was ended may not have reached the disk.
      if (session.keptAt !== undefined) await this.keepOnDisk();
      this.between.soon(session);
      await this.getToKnow(session, options);
    } catch (error) {
      await this.hearServerOf(game);
      this.close(closedGame(game, 'failed', toFailure(error)));
    }
  }

  /** Writes what was decided beside the originals. That it could not be is told, and loses nothing that is here. */
  async keepOnDisk(): Promise<void> {
    const { session } = this;
    if (!session || this.onlyLook) return;
    await keepOnDisk(session).catch((error: unknown) => {
      const failure = toFailure(error);
      if (!this.trouble.some(({ says }) => says === failure.says)) this.trouble.push(failure);
    });
  }

  private close(closed: ClosedGame): void {
    this.session = undefined;
    this.view = undefined;
    this.closed = closed;
  }

  /**
   * Studies the game again where it has changed since the last time. That it could not be is no reason to keep it shut.
   */
  async getToKnow(session: Session, options: WorkOptions = {}): Promise<void> {
    const better = await knowBetter(session, options).catch(
      (error: unknown) => void this.trouble.push(toFailure(error)),
    );
    if (!better) return;
    await this.keep(session, better);
    await look(session, { recent: true });
    this.view = await gameView(session);
  }

  /** Looks at the open game anew, and at what is to be shown of it. */
  async look(options: WorkOptions & { recent?: boolean } = {}): Promise<void> {
    if (!this.session) return;
    await look(this.session, options);
    await this.show(this.session);
  }

  async show(session: Session): Promise<void> {
    this.view = await gameView(session);
  }

  /** Notes a start of a real game, which shows in its log, and what came of it. */
  async hearStart(session: Session): Promise<void> {
    await this.noteStart(session);
    await this.getToKnow(session);
    this.heard = { at: Date.now(), ...cameOf(session) };
  }

  /** Does something, and notes what it decided in the open game, also where it failed half-way. */
  async noting<T>(work: () => Promise<T>): Promise<T> {
    const { session } = this;
    const before = session && { id: session.game.id, decisions: decidedIn(session) };
    try {
      return await work();
    } finally {
      // That it cannot be undone is told; what was done is done all the same.
      if (before && this.session?.game.id === before.id)
        await noteDecided(this.session, before.decisions).catch(
          (error: unknown) => void this.trouble.push(toFailure(error)),
        );
    }
  }

  private async noteStart(session: Session): Promise<void> {
    const { log } = session.picture;
    if (log && session.stack.runs.at(-1)?.at !== log.modified) await noteRun(session, log.modified);
  }

  async hearServer(): Promise<void> {
    try {
      this.server = (await givenFolders()).closed ? 'key' : 'here';
    } catch (error) {
      if (toFailure(error).code !== 'server-gone') throw error;
      this.server = 'gone';
    }
  }

  /** After a failure: is the app's own server still there? */
  async hearServerOf(game: Game | undefined): Promise<void> {
    if (game && mainFolder(game)) await this.hearServer();
  }

  private tellAside(aside: readonly SetAside[]): void {
    this.trouble.push(
      ...aside.map(({ what, why }) => new SatchelError('bad-memory', { what: `${what}: ${why}` }).failure),
    );
  }

  private async save(games: readonly Game[]): Promise<void> {
    this.all = games;
    await memory.setGames([...games]);
  }

  private replaced = (changed: Game): Game[] => this.all.map((one) => (one.id === changed.id ? changed : one));

  private async keep(session: Session, changed: Game): Promise<void> {
    await this.save(this.replaced(changed));
    session.game = changed;
  }

  private async choose(game: Game, options: WorkOptions): Promise<void> {
    await memory.setCurrent(game.id);
    this.recovery = undefined;
    this.heard = undefined;
    this.foundAt = undefined;
    this.trouble = [];
    const aside: SetAside[] = [];
    await this.open(game, aside, options);
    this.tellAside(aside);
  }

  private async lookAgain(options: WorkOptions): Promise<void> {
    const game = this.all.find(({ id }) => id === this.closed?.id);
    if (!this.session && game) await this.open(game, [], options);
    const { session } = this;
    if (!session) return;
    await look(session, { ...options, anew: true });
    if (session.game.card.trial !== undefined) return;
    await this.noteStart(session);
    await this.getToKnow(session, options);
  }

  private opened(): Session {
    if (!this.session) throw new SatchelError('unknown-thing', { what: 'open game' });
    return this.session;
  }

  /** What the steps may use. Its parts can be taken out of it one by one. */
  desk(): Desk {
    // eslint-disable-next-line @typescript-eslint/no-this-alias -- getters have a `this` of their own
    const games = this;
    return {
      get open() {
        return games.opened();
      },
      get opened() {
        return games.session;
      },
      get games() {
        return games.all;
      },
      get view() {
        return games.view;
      },
      get current() {
        return games.all.find(({ id }) => id === (games.closed ?? games.view)?.id);
      },
      saveGames: (all) => this.save(all),
      choose: (game, options) => this.choose(game, options),
      changeGame: async (changed, options) => {
        await this.save(this.replaced(changed));
        await this.choose(changed, options);
      },
      keepGame: (changed) => this.keep(this.opened(), changed),
      leave: () => {
        this.session = undefined;
        this.view = undefined;
      },
      lookAgain: (options) => this.lookAgain(options),
      tellAside: (aside) => this.tellAside(aside),
      forgetRecovery: () => {
        this.recovery = undefined;
      },
    };
  }

  /** What the page is shown. */
  snapshot(ready: boolean, revision: number): Snapshot {
    return {
      ready,
      revision,
      readOnly: this.onlyLook,
      game: this.view,
      closed: this.closed,
      server: this.server,
      recovery: this.recovery,
      heard: this.heard,
      foundAt: this.foundAt,
      trouble: this.trouble,
      games: this.all.map(({ id, card, kind, given }) => ({
        id,
        title: card.title,
        demo: kind === 'demo',
        folders: Object.values(given).map((folder) => folder.id),
      })),
    };
  }
}
