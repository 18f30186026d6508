import { closeSync, readlinkSync } from 'node:fs';

/** Folders held open at a time: those of second names, of which there are 256, and a few of the game's. */
const MOST = 288;
/** Unused ones are let go after this time (milliseconds). */
const IDLE = 250;

interface Held {
  fd: number;
  users: number;
  /** Still found under its name; otherwise it closes with its last user. */
  listed: boolean;
}

/**
 * Folders that are held open for a moment, since the next file often lies in the same one. Linux only: a held folder
 * counts only while it still lies where it was opened, which is asked of the folder itself at each use.
 */
export class HeldFolders {
  /** By real path, the longest unused first. */
  private readonly open = new Map<string, Held>();
  private timer: NodeJS.Timeout | undefined;

  /** @returns the folder at a real path where it is held, to be given back with `release` */
  find(real: string): Held | undefined {
    const held = this.open.get(real);
    if (!held) return undefined;
    if (readlinkSync(`/proc/self/fd/${held.fd}`) !== real) {
      this.drop(real, held);
      return undefined;
    }
    held.users++;
    this.open.delete(real);
    this.open.set(real, held);
    return held;
  }

  /** Takes over an open folder. */
  keep(real: string, fd: number): Held {
    const before = this.open.get(real);
    if (before) this.drop(real, before);
    const held: Held = { fd, users: 1, listed: true };
    this.open.set(real, held);
    for (const [path, one] of this.open) {
      if (this.open.size <= MOST) break;
      this.drop(path, one);
    }
    return held;
  }

  release(held: Held): void {
    held.users--;
    if (held.users === 0 && !held.listed) closeSync(held.fd);
    this.timer ??= setTimeout(() => this.letGo(), IDLE).unref();
  }

  private letGo(): void {
    this.timer = undefined;
    for (const [path, held] of this.open) if (held.users === 0) this.drop(path, held);
  }

  private drop(path: string, held: Held): void {
    this.open.delete(path);
    held.listed = false;
    if (held.users === 0) closeSync(held.fd);
  }
}
