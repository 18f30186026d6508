import { SatchelError, toFailure, type Progress, type Stuck, type StuckAnswer } from '@/core';
import { setBridgeKey } from '@/folders/bridge';
import type { CameOf, Commands, EngineApi, Job, Questions, Said, Snapshot } from '../contract';
import type { DeployWork } from '../game/carrier';
import { outside } from '../game/log';
import { mainFolder } from '../game/mainFolder';
import type { Session } from '../game/session';
import { COMMANDS } from './commands';
import { Games } from './games';
import { Minding, type MindingNews } from './minding';
import { QUESTIONS } from './questions';
import { teller } from './teller';
import { takeTurn } from './turn';

/** How long to wait (milliseconds) before something is tried again that could not be done. */
const PATIENCE = 2000;

/** One tab at work: takes changes one after the other, and tells the page what there is to see. */
export class Engine implements EngineApi {
  private readonly minding = new Minding((session, news) => this.hearOfMinding(session, news));
  private readonly games = new Games({
    halt: () => this.minding.halt(),
    soon: (session) => this.minding.soon(session),
  });
  private readonly desk = this.games.desk();
  private revision = 0;
  /** Why nothing of what is remembered could be opened. */
  private refusal: Error | undefined;
  private ready = false;
  /** The game's own files as they were at the last look. */
  private outside: string | undefined;
  private watching: ReturnType<typeof setTimeout> | undefined;
  private queue: Promise<unknown> = Promise.resolve();
  private running: AbortController | undefined;
  /** The question that a deployment waits with. */
  private stuck: ((answer: StuckAnswer) => void) | undefined;
  private onSnapshot: (snapshot: Snapshot) => void = () => undefined;
  private onJob: (job: Job | undefined) => void = () => undefined;

  async start(
    onSnapshot: (snapshot: Snapshot) => void,
    onJob: (job: Job | undefined) => void,
    key: string,
  ): Promise<void> {
    this.onSnapshot = onSnapshot;
    this.onJob = onJob;
    setBridgeKey(key);
    const { onlyLook } = await takeTurn(() => {
      this.games.onlyLook = false;
      return this.load();
    });
    this.games.onlyLook = onlyLook;
    await this.load();
    this.watch();
  }

  async setKey(key: string): Promise<void> {
    setBridgeKey(key);
    if (this.games.server === 'key') await this.lookForServer();
  }

  async change<Do extends keyof Commands>(command: { do: Do } & Said<Commands[Do]>): Promise<CameOf<Commands[Do]>> {
    const { title, canCancel = false, isNoDecision = false, run } = COMMANDS[command.do];
    const job = { title: typeof title === 'string' ? title : title(command), canCancel };
    const work = async (options: Required<DeployWork>) => run(this.desk, command, options);
    const result = this.queue.then(() =>
      this.run(job, isNoDecision ? work : (options) => this.games.noting(() => work(options))),
    );
    // Who waits for the result is told of a failure.
    this.queue = result.catch(() => undefined);
    return result;
  }

  async ask<Ask extends keyof Questions>(
    question: { ask: Ask } & Said<Questions[Ask]>,
  ): Promise<CameOf<Questions[Ask]>> {
    return QUESTIONS[question.ask](this.desk, question);
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
    const { games } = this;
    const { session } = games;
    if (!session || games.onlyLook || this.running || games.server !== 'here') return;
    if (session.game.card.trial !== undefined) return;
    // Where no log is known yet, whoever comes back to the page may have started the game, and it may have written one.
    const anew = back && session.game.card.log === undefined && session.picture.state.files.length > 0;
    // Where it cannot be looked at now, that is said elsewhere, and the next time is soon.
    const now = await outside(session).catch(() => undefined);
    const before = this.outside;
    this.outside = now;
    if (session !== games.session || this.running) return;
    if (!anew && (now === undefined || now === session.seen.outside || now !== before)) return;
    await this.quietly(async () => {
      if (session !== games.session) return;
      await games.look();
      if (anew) await games.getToKnow(session);
      // Where there is still no log, nobody can say that it was started.
      if (!anew || session.game.card.log !== undefined) await games.hearStart(session);
      await games.show(session);
      this.minding.soon(session);
    });
  }

  /** Ends what goes on by itself; nothing is asked of it any more. */
  async end(): Promise<void> {
    clearTimeout(this.watching);
    await this.minding.halt();
  }

  private async load(): Promise<void> {
    try {
      await this.games.load({ onProgress: teller({ title: 'Opening the game', canCancel: false }, this.onJob) });
    } catch (error) {
      // Of what a newer app wrote nothing is touched, whatever is pressed.
      this.refusal = error instanceof Error ? error : new Error(String(error));
      throw error;
    }
    this.onJob(undefined);
    this.ready = true;
    this.publish();
  }

  /** While the app's own server does not answer, or a game cannot be opened, it is tried again and again. */
  private watch(): void {
    this.watching = setTimeout(() => {
      const { server, closed } = this.games;
      const waits = server !== 'here' || (closed !== undefined && closed.how !== 'permission');
      void (waits ? this.lookForServer() : Promise.resolve()).finally(() => this.watch());
    }, PATIENCE);
  }

  /** Is the server there, and does it know this page? Where it is back, the game is opened again, or looked at. */
  private async lookForServer(): Promise<void> {
    const { games } = this;
    const before = games.server;
    await games.hearServer();
    if (games.server !== 'here' || this.running) return before === games.server ? undefined : this.publish();
    if (!games.closed && before === 'here') return;
    await this.quietly(async () => {
      const game = games.all.find(({ id }) => id === games.closed?.id);
      if (game) await games.open(game, []);
      // What was done there while it was away is found out by opening the game anew: a deployment may be half-way.
      else if (games.session && mainFolder(games.session.game)) await games.open(games.session.game, []);
    });
  }

  /** After the changes that are waiting, and without a word while it goes on. */
  private quietly(work: () => Promise<void>): Promise<void> {
    const done = this.queue.then(async () => {
      await this.minding.halt();
      await work();
      this.publish();
    });
    // What went wrong is shown with what is to be seen.
    this.queue = done.catch((error: unknown) => void this.games.trouble.push(toFailure(error)));
    return this.queue as Promise<void>;
  }

  private hearOfMinding(session: Session, { progress, found }: MindingNews): void {
    const { games } = this;
    if (games.session !== session || !games.view) return;
    const { safety } = games.view;
    const known = safety.copies.mishaps.length;
    const copies = { ...(found ?? safety.copies), progress };
    games.view = { ...games.view, safety: { ...safety, copies } };
    this.publish(false);
    // An original that was found to be another one changes what is deployed, and so the plan.
    if (found && found.mishaps.length > known) void this.quietly(() => games.look());
  }

  /** @param isNew whether rows that are shown have to be asked for again */
  private publish(isNew = true): void {
    if (isNew) this.revision++;
    this.onSnapshot(this.games.snapshot(this.ready, this.revision));
  }

  /** Runs one change: progress out, failures out, and a fresh picture at the end whatever happened. */
  private async run<T>(
    job: Pick<Job, 'title' | 'canCancel'>,
    work: (options: Required<DeployWork>) => Promise<T>,
  ): Promise<T> {
    const { games } = this;
    if (this.refusal) throw this.refusal;
    if (games.onlyLook) throw new SatchelError('read-only-tab');
    await this.minding.halt();
    const controller = new AbortController();
    this.running = controller;
    const onProgress = teller(job, this.onJob);
    const onStuck = (stuck: Stuck) => this.askAbout(stuck, job, controller.signal);
    onProgress(GETTING_READY);
    try {
      const result = await work({ signal: controller.signal, onProgress, onStuck });
      await games.keepOnDisk();
      await games.look({ onProgress, recent: true });
      return result;
    } catch (error) {
      await games.hearServerOf(games.session?.game);
      // Where nothing can be looked at, what was seen last stays.
      if (games.server === 'here') await games.keepOnDisk();
      if (games.server === 'here') await games.look().catch((second: unknown) => games.trouble.push(toFailure(second)));
      throw error;
    } finally {
      this.running = undefined;
      this.onJob(undefined);
      this.publish();
      if (games.session && games.server === 'here') this.minding.soon(games.session);
    }
  }

  /** Waits for the player where a file cannot be written. */
  private askAbout(stuck: Stuck, { title }: Pick<Job, 'title'>, signal: AbortSignal): Promise<StuckAnswer> {
    return new Promise((answer) => {
      this.stuck = answer;
      signal.addEventListener('abort', () => answer('take back'), { once: true });
      this.onJob({ title, canCancel: false, ...GETTING_READY, phase: 'Waiting for you', stuck });
    });
  }
}

const GETTING_READY: Progress = { phase: 'Getting ready', done: 0, total: 0, unit: 'files' };
