import {
  Resolver,
  type ComputedMerge,
  type Layer,
  type Listing,
  type LogReading,
  type Placement,
  type MergeLayer,
} from '@/core';

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
  listed: { listing: Listing; at: number; took: number } | undefined;
  /** It was looked at before. */
  looked = false;
  /** What the game itself writes, as it was seen last. */
  outside = '';
  /** What lies inside the game's own archives; found out when the first pack is placed. */
  inside: Promise<Map<string, readonly string[]>> | undefined;

  /** For what writes to the folders, or minds each file as it is now. */
  forgetListing(): void {
    this.listed = undefined;
  }
}
