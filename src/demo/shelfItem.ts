/** One download on the stand-in shelf. */
export interface ShelfItem {
  /** The id of the game it is for. */
  game: string;
  file: string;
  /** The name the app will give it. */
  title: string;
  /** What its page would say, in one or two sentences. */
  blurb: string;
  build(): Uint8Array;
}
