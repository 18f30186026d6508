import { randomUUID } from 'node:crypto';
import { sameStat, throwIfAborted, type ChangesAsked, type FileStat, type FolderChanges } from '@/core';
import { breathe } from './diskCalls';
import { DEEPEST, type FolderStamp, type Seen } from './diskNames';

/** What lies directly in a folder, and how the folder itself was then. */
interface Stamped extends Seen {
  /** Undefined where the disk does not tell. */
  stamp: FolderStamp | undefined;
}

/** How a folder is looked at. */
interface DiskLook {
  /** All that lies directly in it; '' is the folder itself. */
  look(folder: string): Stamped;
  /** The folder alone. */
  stampOf(folder: string): FolderStamp | undefined;
}

interface Known extends Stamped {
  /** When it was looked at. */
  at: number;
  /** The look at which something in it was otherwise. */
  version: number;
}

/**
 * Dates of folders are as coarse as two seconds on some disks: what came within so long (milliseconds) before a look
 * may not have been seen by it.
 */
const COARSE = 2500;
/** Folders between two moments in which other requests are answered. */
const AT_ONCE = 64;
/** Files written in place are looked for in the background, a few folders at a time (milliseconds). */
const BREATH = 50;
const FOLDERS_A_BREATH = 20;
/** Not more often than this (milliseconds). */
const ROUND = 30_000;
/** So many gone folders are remembered; who asks for what lies further back is told everything. */
const MOST_GONE = 10_000;

const sameFiles = (a: readonly FileStat[], b: readonly FileStat[]): boolean =>
  a.length === b.length && a.every((one, i) => sameStat(one, b[i] as FileStat));

const sameNames = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === b.length && a.every((one, i) => one === b[i]);

/**
 * What lies in a folder of the disk, kept and mended: a folder inside whose own date is as it was has the same names in
 * it, so that it need not be listed again. What was written in place changes no folder's date: that is looked for in
 * the background. Nothing is written on the ground of this: whoever writes looks at the file itself.
 */
export class DiskIndex {
  private readonly id = randomUUID();
  private readonly folders = new Map<string, Known>();
  /** Folders that went, with the look at which they were missed. */
  private gone: { path: string; version: number }[] = [];
  /** What lies further back than this look is forgotten. */
  private forgotten = 0;
  private version = 0;
  private queue: Promise<unknown> = Promise.resolve();
  private round: NodeJS.Timeout | undefined;
  private roundAt = 0;

  constructor(private readonly disk: DiskLook) {}

  /** See `Folder.changes`. */
  changes(since: string | undefined, how: ChangesAsked): Promise<FolderChanges> {
    const told = this.queue.then(async () => {
      await this.check(how);
      this.soon();
      return this.tell(since);
    });
    // Who waits is told.
    this.queue = told.catch(() => undefined);
    return told;
  }

  private tell(since: string | undefined): FolderChanges {
    const [id, version] = (since ?? '').split(' ');
    const from = id === this.id ? Number(version) : Number.NaN;
    const whole = !(from >= this.forgotten);
    const folders: { path: string; files: readonly FileStat[] }[] = [];
    const links: string[] = [];
    for (const [path, known] of this.folders) {
      for (const link of known.links) links.push(link);
      if (whole ? known.files.length > 0 : known.version > from) folders.push({ path, files: known.files });
    }
    return {
      now: `${this.id} ${this.version}`,
      whole,
      folders,
      gone: whole
        ? []
        : this.gone.flatMap(({ path, version: at }) => (at > from && !this.folders.has(path) ? [path] : [])),
      links,
    };
  }

  /** Looks at every folder, and into those that have changed. */
  private async check({ anew = false, onLooked, signal }: ChangesAsked): Promise<void> {
    const next = this.version + 1;
    const waiting = [''];
    let [done, looked] = [0, 0];
    for (let folder = waiting.pop(); folder !== undefined; folder = waiting.pop()) {
      if (folder.split('/').length > DEEPEST) continue;
      const known = anew ? undefined : this.folders.get(folder);
      const now = known && this.isAsBefore(folder, known) ? known : this.take(folder, next);
      for (let i = now.folders.length - 1; i >= 0; i--) waiting.push(now.folders[i] as string);
      if (now !== known) looked += now.files.length;
      if (++done % AT_ONCE !== 0) continue;
      if (looked > 0) onLooked?.(looked);
      throwIfAborted(signal);
      await breathe();
    }
  }

  private isAsBefore(folder: string, { stamp, at }: Known): boolean {
    if (!stamp || at - stamp.changed < COARSE) return false;
    const now = this.disk.stampOf(folder);
    return now !== undefined && now.is === stamp.is;
  }

  /** Looks into a folder. */
  private take(folder: string, version: number): Known {
    const before = this.folders.get(folder);
    const at = Date.now();
    const seen = this.disk.look(folder);
    const isSame = before !== undefined && sameFiles(before.files, seen.files) && sameNames(before.links, seen.links);
    if (before && !sameNames(before.folders, seen.folders)) {
      const still = new Set(seen.folders);
      for (const one of before.folders) if (!still.has(one)) this.drop(one, version);
    }
    if (!isSame) this.version = version;
    const known = { ...seen, at, version: isSame ? before.version : version };
    this.folders.set(folder, known);
    return known;
  }

  /** A folder is gone, with all in it. */
  private drop(folder: string, version: number): void {
    const known = this.folders.get(folder);
    if (!known) return;
    this.folders.delete(folder);
    this.version = version;
    this.gone.push({ path: folder, version });
    if (this.gone.length > MOST_GONE) {
      this.forgotten = this.gone[0]?.version ?? 0;
      this.gone = this.gone.filter((one) => one.version > this.forgotten);
    }
    for (const one of known.folders) this.drop(one, version);
  }

  /** Looks into all folders again, by and by, for files that were written in place. */
  private soon(): void {
    if (this.round !== undefined || Date.now() - this.roundAt < ROUND) return;
    const waiting = [...this.folders.keys()];
    const step = () => {
      this.round = undefined;
      const some = waiting.splice(0, FOLDERS_A_BREATH);
      const looked = this.queue.then(() => {
        for (const folder of some) if (this.folders.has(folder)) this.take(folder, this.version + 1);
      });
      // What cannot be looked at now is told to whoever asks next.
      this.queue = looked.catch(() => undefined);
      void this.queue.then(() => {
        if (waiting.length > 0) next();
        else this.roundAt = Date.now();
      });
    };
    const next = () => {
      this.round = setTimeout(step, BREATH);
      this.round.unref();
    };
    this.roundAt = Date.now();
    next();
  }
}
