import { spawnSync } from 'node:child_process';
import { appendFileSync, mkdirSync, mkdtempSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { GameIndex, SatchelError } from '@/core';
import { DiskFolder } from './disk';
import { DiskIndex } from './diskIndex';

let top = '';
beforeEach(() => {
  top = mkdtempSync(path.join(realpathSync(tmpdir()), 'satchel-index-'));
});
afterEach(() => rmSync(top, { recursive: true, force: true }));

const sh = (command: string): string => {
  const { status, stdout, stderr } = spawnSync('sh', ['-ec', command], { cwd: top, encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
  return stdout;
};

/** What the system's own tool says (findutils, find(1), -printf): path, size, date in milliseconds. */
const asFound = (): string[] =>
  sh("find . -type f -printf '%P\\t%s\\t%T@\\n'")
    .split('\n')
    .filter(Boolean)
    .map((line) => {
      const [name, size, date] = line.split('\t') as [string, string, string];
      return `${name} ${size} ${Math.round(Number(date) * 1000)}`;
    })
    .sort();

/** One who was told everything once, and what has changed since. */
class Listener {
  private readonly index = new GameIndex({ files: { game: [] }, links: [] });
  private since: string | undefined;
  folders = 0;

  constructor(private readonly folder: DiskFolder) {}

  async hear(anew = false): Promise<string[]> {
    const changes = await this.folder.changes(this.since, { anew });
    this.since = changes.now;
    this.folders = changes.folders.length;
    this.index.mend('game', changes);
    return [...this.index].map(({ path: name, size, modified }) => `${name} ${size} ${modified}`).sort();
  }
}

/** Numbers that are the same for every run (mulberry32). */
const seeded = (seed: number) => () => {
  seed = (seed + 0x6d2b79f5) | 0;
  let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
};

describe('what has changed on a disk', () => {
  it('names that other programs make, move, copy with their dates and remove are heard at once', async () => {
    const random = seeded(7);
    const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T;
    const folders = ['a', 'a/b', 'a/b/c', 'd', 'D2/e f'];
    sh(
      `mkdir -p ${folders.map((one) => `'${one}'`).join(' ')}; for n in 1 2 3; do echo $n > a/f$n; echo $n > d/g$n; done`,
    );
    const folder = DiskFolder.open(top);
    const [one, late] = [new Listener(folder), new Listener(folder)];
    expect(await one.hear()).toEqual(asFound());
    for (let round = 0; round < 120; round++) {
      const [from, to] = [pick(folders), pick(folders)];
      const name = `n${Math.floor(random() * 6)}`;
      sh(
        pick([
          `mkdir -p '${to}'; echo ${round} > '${to}/${name}.new'; mv -f '${to}/${name}.new' '${to}/${name}'`,
          `rm -f '${from}/${name}'`,
          `mkdir -p '${to}'; [ ! -d '${from}' ] || cp -a '${from}/.' '${to}/' 2>/dev/null || true`,
          `rm -rf '${from}'`,
          `[ ! -d '${from}' ] || [ -e 'moved${round % 3}' ] || mv '${from}' 'moved${round % 3}'`,
          // Dates of folders that are set back hide nothing.
          `mkdir -p '${to}'; touch '${to}/${name}'; touch -d '2001-02-03 04:05:06' '${to}' '${to}/${name}'`,
          `rm -rf moved0`,
        ]),
      );
      expect(await one.hear(), `round ${round}`).toEqual(asFound());
      if (round % 40 === 39) expect(await late.hear(), `late in round ${round}`).toEqual(asFound());
    }
  });

  it('only folders in which something has changed are told, once they have come to rest', async () => {
    sh('for d in 1 2 3 4 5 6 7 8; do mkdir -p p/$d; echo x > p/$d/f; done; find . -exec touch -d "2020-01-01" {} +');
    const folder = DiskFolder.open(top);
    const one = new Listener(folder);
    await one.hear();
    expect(one.folders).toBe(8);
    await one.hear();
    expect(one.folders).toBe(0);
    writeFileSync(path.join(top, 'p/3/new'), 'new');
    expect(await one.hear()).toEqual(asFound());
    expect(one.folders).toBe(1);
  });

  it('a file written in place is heard by its name, and by whoever asks for everything anew', async () => {
    mkdirSync(path.join(top, 'deep'));
    for (const name of ['one', 'two']) writeFileSync(path.join(top, 'deep', name), 'x');
    const folder = DiskFolder.open(top);
    const one = new Listener(folder);
    await one.hear();
    appendFileSync(path.join(top, 'deep/one'), 'more');
    const [now, missing, outside] = await folder.stats(['deep/one', 'deep/three', '../deep/one']);
    expect(now).toMatchObject({ path: 'deep/one', size: 5 });
    expect([missing, outside]).toEqual([undefined, undefined]);
    expect(await one.hear(true)).toEqual(asFound());
  });

  it('tells how far it is while it looks at many folders', async () => {
    sh('for i in $(seq 200); do mkdir f$i; echo x > f$i/a; echo x > f$i/b; done');
    const told: number[] = [];
    const folder = DiskFolder.open(top);
    await folder.changes(undefined, { onLooked: (files) => told.push(files) });
    expect(told.length).toBeGreaterThan(1);
    expect(told.every((files, i) => files > (told[i - 1] ?? 0) && files <= 400)).toBe(true);
  });

  it('refuses where the folder is gone, and where another one has taken its place', async () => {
    const inside = path.join(top, 'game');
    mkdirSync(inside);
    writeFileSync(path.join(inside, 'a'), 'a');
    const folder = DiskFolder.open(inside);
    const { now } = await folder.changes(undefined);
    sh('mv game elsewhere');
    await expect(folder.changes(now)).rejects.toBeInstanceOf(SatchelError);
    sh('mkdir game; echo b > game/b');
    await new Promise((done) => setTimeout(done, 40));
    await expect(folder.changes(now)).rejects.toMatchObject({ code: 'folder-refused' });
  });

  it('a folder’s date that is set back to what it was hides nothing', async () => {
    sh('mkdir a; echo x > a/one; touch -d 2020-01-01 a');
    await new Promise((done) => setTimeout(done, 2600));
    const one = new Listener(DiskFolder.open(top));
    await one.hear();
    sh('echo y > a/two; touch -d 2020-01-01 a');
    expect(await one.hear()).toEqual(asFound());
  });
});

/** A disk with one file in each of its folders, told how it is. */
class StandIn {
  /** By folder: how large its file is. */
  readonly sizes = new Map<string, number>();
  looks = 0;
  /** When a name came or went last, in any of them. */
  changed = 0;

  readonly index = new DiskIndex({
    look: (folder) => {
      this.looks++;
      const size = this.sizes.get(folder);
      return {
        files: size === undefined ? [] : [{ path: `${folder}/file`, size, modified: 1 }],
        folders: folder === '' ? [...this.sizes.keys()] : [],
        links: [],
        stamp: this.stampOf(folder),
      };
    },
    stampOf: (folder) => this.stampOf(folder),
  });

  private stampOf(folder: string) {
    return { is: folder === '' ? [...this.sizes.keys()].join() : '', changed: this.changed };
  }
}

describe('the index of a disk', () => {
  afterEach(() => vi.useRealTimers());

  it('looks again into a folder that has changed right before, since a coarse clock may hide more; else not', async () => {
    const disk = new StandIn();
    disk.sizes.set('a', 1);
    disk.changed = Date.now() - 1000;
    await disk.index.changes(undefined, {});
    expect(disk.looks).toBe(2);
    await disk.index.changes(undefined, {});
    expect(disk.looks).toBe(4);
    disk.changed = Date.now() - 10_000;
    await disk.index.changes(undefined, {});
    await disk.index.changes(undefined, {});
    expect(disk.looks).toBe(6);
  });

  it('comes upon what was written in place, by and by', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] });
    vi.setSystemTime(1_000_000);
    const disk = new StandIn();
    for (let i = 0; i < 45; i++) disk.sizes.set(`f${i}`, 1);
    const { now } = await disk.index.changes(undefined, {});
    disk.sizes.set('f44', 7);
    expect((await disk.index.changes(now, {})).folders).toEqual([]);
    await vi.advanceTimersByTimeAsync(1000);
    const later = await disk.index.changes(now, {});
    expect(later.folders).toMatchObject([{ path: 'f44', files: [{ size: 7 }] }]);
    // One round, and not at once another one.
    const { looks } = disk;
    await vi.advanceTimersByTimeAsync(20_000);
    expect(disk.looks).toBe(looks);
  });

  it('tells everything to whoever asks for what lies too far back', async () => {
    const disk = new StandIn();
    for (let i = 0; i < 10_100; i++) disk.sizes.set(`f${i}`, 1);
    const { now } = await disk.index.changes(undefined, {});
    disk.sizes.clear();
    disk.sizes.set('last', 1);
    const later = await disk.index.changes(now, {});
    expect([later.whole, later.folders.map(({ path: at }) => at)]).toEqual([true, ['last']]);
    disk.sizes.set('more', 1);
    expect(await disk.index.changes(later.now, {})).toMatchObject({ whole: false, folders: [{ path: 'more' }] });
  });
});
