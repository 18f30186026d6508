import {
  FileTree,
  SatchelError,
  decodeText,
  inspectPictures,
  openPack,
  liesAsSettings,
  readMeRank,
  statedFacts,
  textsWanted,
  withWhole,
  type GameCard,
  type ImageInfo,
  type Pack,
  type StatedFact,
} from '@/core';
import { memory } from '@/storage/memory';

/** What the text of a pasted page is called where a pack has no read-me. */
export const PAGE = '(its page)';

/** How much of a read-me is looked through, in characters. */
const READ_ME_BYTES = 256 * 1024;

/** A pack with everything that is known of it. */
export interface Opened {
  pack: Pack;
  tree: FileTree;
  /** Manifests and settings files. */
  texts: Map<string, string>;
  /** With the text of the page that it came from behind it, where the player pasted that. */
  readMe: { path: string; text: string } | undefined;
  /** The line at which the page's text begins. */
  pageFrom: number | undefined;
  images: Map<string, ImageInfo>;
  facts: StatedFact[];
}

/** A text of a pack; undefined where it is damaged: that is found and told when the pack is deployed. */
async function readQuietly(pack: Pack, path: string): Promise<string | undefined> {
  try {
    return decodeText(await pack.read(path)).text;
  } catch (error) {
    if (error instanceof SatchelError && error.code === 'damaged') return undefined;
    throw error;
  }
}

/** Opened packs, each opened once. */
export class OpenPacks {
  private readonly packs = new Map<string, Promise<Opened>>();
  /** How often a pack was opened or forgotten: what is known of them may be otherwise since. */
  private times = 0;

  constructor(
    private readonly card: GameCard,
    private readonly archive: (id: string) => Promise<Blob | undefined>,
    private readonly page: (id: string) => string | undefined = () => undefined,
  ) {}

  async get(id: string, file: string): Promise<Opened> {
    let found = this.packs.get(id);
    if (!found) {
      found = this.open(id, file);
      this.times++;
      this.packs.set(id, found);
      found.catch(() => this.packs.delete(id));
    }
    return found;
  }

  private async open(id: string, file: string): Promise<Opened> {
    const blob = await this.archive(id);
    if (!blob) throw new SatchelError('source-missing', { name: file, path: file });
    const pack = withWhole(await openPack(blob, file), blob);
    const texts = new Map<string, string>();
    for (const path of textsWanted(pack.entries, this.card)) {
      const text = await readQuietly(pack, path);
      if (text !== undefined) texts.set(path, text);
    }
    const best = pack.entries
      .map(({ path, size }) => ({ path, size, rank: readMeRank(path) }))
      .filter(({ path, rank, size }) => rank > 0 && size < 16 * 1024 * 1024 && !liesAsSettings(path, this.card))
      .sort((a, b) => b.rank - a.rank || (a.path < b.path ? -1 : 1))[0];
    const said = best && (await readQuietly(pack, best.path));
    const own =
      best && said !== undefined
        ? { path: best.path, text: said.slice(0, READ_ME_BYTES).replace(/^\ufeff/, '') }
        : undefined;
    const page = this.page(id);
    const readMe = page === undefined ? own : { path: own?.path ?? PAGE, text: own ? `${own.text}\n\n${page}` : page };
    const pageFrom = page === undefined ? undefined : own ? own.text.split(/\r\n|\n|\r/).length + 2 : 1;
    let images = await memory.pictures(id);
    if (!images) {
      images = await inspectPictures(pack);
      await memory.setPictures(id, images);
    }
    return {
      pack,
      tree: new FileTree(pack.entries),
      texts,
      readMe,
      pageFrom,
      images,
      facts: statedFacts({ name: file, entries: pack.entries, card: this.card, texts, ...(readMe ? { readMe } : {}) }),
    };
  }

  /** Changes whenever a pack is opened or forgotten. */
  get opened(): number {
    return this.times;
  }

  forget(id: string): void {
    this.times++;
    this.packs.delete(id);
  }
}
