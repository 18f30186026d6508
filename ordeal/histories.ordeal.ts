import 'fake-indexeddb/auto';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { SatchelError } from '@/core';
import { askServer } from '../tests/support/server';
import { Seat, blob, eachInItsBrowser, reloaded } from '../tests/support/seat';
import { dice, report, treeOf } from './trial';

const HISTORIES = Number(process.env.ORDEAL_HISTORIES ?? '25');
const COMMANDS = 30;
/** What only packs hold. */
const PACK = 'out of a pack';
/** Where packs and the other program meet: files of the game, and names that nobody has yet. */
const PLACES = [
  'assets/water/deep.dat',
  'assets/water/shore.dat',
  'assets/text/harbour.txt',
  'assets/boats/heron.dat',
  'assets/new/a.dat',
  'assets/new/b.dat',
];
const INI = 'game.ini';
const OWN: Record<string, string> = {
  'quay.exe': 'program',
  ...Object.fromEntries(PLACES.slice(0, 4).map((place) => [place, `own ${place}\nline\nthe end\n`])),
  'assets/boats/swan.dat': 'own swan',
  [INI]: '[Graphics]\r\nAddon=0\r\n\r\n[Sound]\r\nVolume=70\r\n',
};

const top = mkdtempSync(path.join(tmpdir(), 'satchel-histories-'));
const games = Array.from({ length: HISTORIES }, (_, i) => path.join(top, `game ${i}`));
for (const game of games)
  for (const [file, text] of Object.entries(OWN)) {
    mkdirSync(path.dirname(path.join(game, file)), { recursive: true });
    writeFileSync(path.join(game, file), text);
  }
process.env.SATCHEL_FOLDERS = JSON.stringify({ folders: games, backup: path.join(top, 'backup') });
const KEY = 'a secret of the trial';
process.env.SATCHEL_SECRET = KEY;

eachInItsBrowser();
const total = { commands: 0, refused: 0, landed: 0, losses: 0, between: 0 };
afterAll(() => {
  report({
    name: 'random histories of the engine beside another program',
    tries: total.commands,
    losses: total.losses,
    between: total.between,
    note: `${HISTORIES} histories, ${total.landed} deployments landed, ${total.refused} commands refused`,
  });
  rmSync(top, { recursive: true, force: true });
});

const hashOf = (text: string): string => createHash('sha256').update(Buffer.from(text, 'latin1')).digest('hex');
/** Everything that the app keeps, by its SHA-256. */
const keptHashes = (): Set<string> =>
  new Set(
    Object.entries(treeOf(path.join(top, 'backup')))
      .filter(([name]) => !name.endsWith('/'))
      .map(([, text]) => hashOf(text)),
  );

/** Another program, which knows nothing of the app. */
class Outside {
  private count = 0;
  /** What it wrote last, or that it deleted it. */
  readonly last = new Map<string, string | undefined>();
  volume = '70';
  constructor(
    private readonly roll: (below: number) => number,
    private readonly game: string,
  ) {}

  act(): void {
    const file = PLACES[this.roll(PLACES.length)] as string;
    const at = path.join(this.game, file);
    const how = this.roll(4);
    if (how === 0) {
      if (existsSync(at)) this.last.set(file, undefined);
      rmSync(at, { force: true });
      return;
    }
    const text = `another program ${++this.count} ${'.'.repeat(this.roll(30))}`;
    mkdirSync(path.dirname(at), { recursive: true });
    writeFileSync(how === 1 ? `${at}.new` : at, text);
    if (how === 1) renameSync(`${at}.new`, at);
    this.last.set(file, text);
  }

  /** Changes a key of the game's settings that no pack and no player touches. */
  set(): void {
    this.volume = String(this.roll(100));
    const text = readFileSync(path.join(this.game, INI), 'latin1');
    writeFileSync(path.join(this.game, INI), text.replace(/^Volume=\d+/m, `Volume=${this.volume}`), 'latin1');
  }
}

/** One thing that a player might do next. */
async function command(seat: Seat, roll: (below: number) => number, number: number): Promise<void> {
  const { engine } = seat;
  const { packs } = seat.game;
  const layer = packs[roll(Math.max(1, packs.length))]?.layer;
  const target = `game/${PLACES[roll(PLACES.length)] ?? ''}`;
  switch (roll(13)) {
    case 0:
    case 1: {
      const files = Object.fromEntries(
        PLACES.filter(() => roll(2) === 0).map((path) => [path, `${PACK} ${number}\nline of ${roll(3)}\nthe end\n`]),
      );
      if (Object.keys(files).length > 0 && packs.length < 6) await seat.bringIn(blob(files), `pack ${number}.zip`);
      return;
    }
    case 2:
      return layer === undefined
        ? undefined
        : engine.change({ do: 'switch packs', layers: [layer], on: roll(2) === 0 });
    case 3:
      return layer === undefined
        ? undefined
        : void (await engine.change({ do: 'move packs', layers: [layer], place: roll(packs.length) }));
    case 4:
      return layer === undefined
        ? undefined
        : void (await engine.change({
            do: 'pick',
            scope: 'file',
            at: target,
            layer: roll(3) === 0 ? undefined : layer,
          }));
    case 5:
      return layer === undefined ? undefined : engine.change({ do: 'take out', layers: [layer] });
    case 6:
      return void (await engine.change({ do: 'merge file', target: `game/${PLACES[2] ?? ''}` }));
    case 7:
      return engine.change({
        do: 'set edits',
        file: `game/${INI}`,
        edits: [{ path: ['Graphics', 'Addon'], value: String(roll(2)) }],
      });
    case 8:
      return engine.change({ do: 'drop edit', file: `game/${INI}`, path: ['Graphics', 'Addon'] });
    case 9:
      return void (await engine.change({
        do: 'take as mine',
        targets: seat.game.plan.drifted.some.slice(0, 1).map(({ target: drifted }) => drifted),
      }));
    case 10:
      return void (await engine.change({ do: 'restore', scope: { what: 'file', at: target } }));
    case 11:
      return void (await engine.change({ do: 'put all back' }));
    default:
      return void (await engine.change({ do: 'deploy' }));
  }
}

describe('random histories of the real engine beside another program: nothing that it wrote is lost, nothing of a pack stays', () => {
  it.each(games.map((game, i) => ({ game, i })))('history $i', async ({ game, i: history }) => {
    vi.stubGlobal('fetch', askServer(KEY));
    const roll = dice(`history ${history}`);
    const outside = new Outside(roll, game);
    const before = treeOf(game);
    let seat = await new Seat().start(KEY);
    const given = await seat.engine.ask({ ask: 'given folders' });
    await seat.engine.change({
      do: 'add game',
      title: 'Quay',
      folder: given.folders.find(({ path: of }) => of === game)?.id ?? '',
    });
    const lost: string[] = [];
    const lose = (what: string) => {
      lost.push(what);
      total.losses++;
      console.log(`history ${history}: ${what}`);
    };
    const answering = setInterval(
      () =>
        void (
          seat.jobs.at(-1)?.stuck &&
          seat.engine.answerStuck(roll(2) === 0 ? 'leave' : 'take back').catch(() => undefined)
        ),
      5,
    );
    try {
      for (let i = 0; i < COMMANDS; i++) {
        if (roll(4) === 0) {
          if (roll(4) === 0) outside.set();
          else outside.act();
        }
        if (roll(8) === 0) seat = await reloaded(KEY);
        else if (roll(2) === 0) await seat.engine.change({ do: 'look again' });
        const then = treeOf(game);
        total.commands++;
        try {
          await command(seat, roll, total.commands);
        } catch (error) {
          if (!(error instanceof SatchelError)) throw error;
          total.refused++;
          if (process.env.ORDEAL_TELL) console.log(error.message);
          const now = treeOf(game);
          if (Object.keys({ ...then, ...now }).some((file) => then[file] !== now[file])) {
            total.between++;
            lost.push(`command ${i}: refused (${error.message}), and not as before`);
          }
        }
      }
      total.landed += seat.game.ledger.length;
      for (const { layer } of seat.game.packs)
        await seat.engine.change({ do: 'switch packs', layers: [layer], on: false });
      await seat.engine.change({ do: 'put all back' }).catch(() => undefined);
      const [now, kept] = [treeOf(game), keptHashes()];
      for (const [file, text] of Object.entries(now)) {
        if (text.includes(PACK)) lose(`${file} is still a pack’s`);
        // A folder that the other program put something into is not only ours.
        else if (
          before[file] === undefined &&
          ![...outside.last.keys()].some((other) => (file.endsWith('/') ? other.startsWith(file) : other === file))
        )
          lose(`${file} was left behind`);
      }
      for (const [file, text] of outside.last)
        if (text !== undefined && now[file] !== text && !kept.has(hashOf(text)))
          lose(`what another program wrote to ${file} is gone`);
      for (const [file, text] of Object.entries(before))
        if (!outside.last.has(file) && file !== INI && now[file] !== text) lose(`${file} is not as it was`);
      if (now[INI] !== before[INI]?.replace('Volume=70', `Volume=${outside.volume}`))
        lose(`${INI} is ${JSON.stringify(now[INI])}`);
    } finally {
      clearInterval(answering);
    }
    expect(lost).toEqual([]);
  });
});
