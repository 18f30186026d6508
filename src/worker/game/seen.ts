import {
  Resolver,
  type ComputedMerge,
  type DeployedState,
  type Layer,
  type GameIndex,
  type LogReading,
  type Placement,
  type MergeLayer,
  type Plan,
} from '@/core';

/** When something was looked at, and how long that took (milliseconds). */
export interface Looked {
  at: number;
  took: number;
}

/** A log that was read, and the file that it was read from. */
export interface ReadLog {
  reading: LogReading;
  text: string;
  /** Bytes of the file. */
  size: number;
  /** When the game wrote it. */
  modified: number;
  /** So many lines are of earlier starts. */
  since: number;
}

/** What was found out of an open game, kept until it may be otherwise. */
export class Seen {
  readonly resolver = new Resolver();
  /** What a pack's placement comes to, for as long as it stays as it is. */
  readonly placed = new WeakMap<Placement, Layer>();
  readonly merges = new WeakMap<MergeLayer, ComputedMerge<MergeLayer>>();
  /** Checksums of the game's files, by what they are told apart by. */
  readonly checksums = new Map<string, number>();
  log: ReadLog | undefined;
  /** Every file of the game's folders, as far as is known. */
  index: GameIndex | undefined;
  /** By root: what a folder that tells its changes wants to be told the next time. */
  readonly since = new Map<string, string>();
  /** What is deployed, as it was read from the file that was so large and so old then. */
  state: { size: number; modified: number; state: DeployedState } | undefined;
  private back: { from: readonly unknown[]; plan: Plan } | undefined;
  /** When folders were asked last what has changed. */
  heard: Looked | undefined;
  /** When folders that cannot tell their changes were listed last. */
  listed: Looked | undefined;
  /** When the files of packs were asked for by name last. */
  asked: Looked | undefined;
  /** It was looked at before. */
  looked = false;
  /** What the game itself writes, as it was seen last. */
  outside = '';
  /** What lies inside the game's own archives; found out when the first pack is placed. */
  inside: Promise<Map<string, readonly string[]>> | undefined;

  /**
   * The plan that puts everything back; the same one for as long as all that it comes from is.
   *
   * @param from what it comes from, to be compared one by one
   */
  async putBack(from: readonly unknown[], plan: () => Promise<Plan>): Promise<Plan> {
    if (!this.back || this.back.from.some((one, i) => one !== from[i])) this.back = { from, plan: await plan() };
    return this.back.plan;
  }

  /** For what writes to the folders, or minds each file as it is now. */
  lookAtFilesAgain(): void {
    this.heard = undefined;
    this.listed = undefined;
    this.asked = undefined;
    this.state = undefined;
  }
}
