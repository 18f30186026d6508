import { nameKey } from '../paths/paths';
import { isAddedTo, isNear } from './keyInSentence';
import { bareKey, itemPath, type KnownKey } from './keyIndex';
import type { NameList } from './listsInFiles';
import {
  INTO,
  ITSELF,
  asksForALine,
  isAddedToList,
  isPlainlyAdded,
  bracketed,
  isPut,
  namesToList,
  separatorOf,
  toldSeparator,
  unique,
  withItems,
} from './listedNames';
import type { ReadSoFar } from './readSoFar';
import { NEVER, settingsTokens, type Token } from './settingsWords';

/** A key of a sentence to which something is added. */
interface Added {
  tokens: readonly Token[];
  /** The key among them; less than 0 where it is not named. */
  i: number;
  sentence: string;
  line: number;
}

/** What comes to lists: of items, in brackets, with signs between, or line by line. */
export class ListReader {
  constructor(private readonly known: ReadSoFar) {}

  /** What is added to a list: of items, in brackets, or with signs between. @returns whether the key is done with */
  added(added: Added, places: readonly KnownKey[]): boolean {
    const { tokens, i, sentence, line } = added;
    const [first] = places as [KnownKey];
    const adds = isAddedToList(tokens, i, sentence, first.items !== undefined);
    if (first.items) {
      if (adds) this.items(added, first);
      return true;
    }
    const more = adds || INTO.test(sentence) ? this.withMore(added, first) : undefined;
    if (more !== undefined) this.known.push(first, more, line);
    if (more !== undefined || !adds) return more !== undefined;
    const isList = (place: KnownKey) =>
      (separatorOf(place.value) ?? toldSeparator(sentence)) !== undefined || isAddedTo(tokens, i, place);
    if (!places.some((place) => isList(place) && this.separated(added, place))) return false;
    for (const place of places) this.separated(added, place);
    return true;
  }

  /** More items for a list that the file holds as such. */
  items({ tokens, i, sentence, line }: Added, place: KnownKey): void {
    const had = new Set((place.items ?? []).map(nameKey));
    const named = tokens.filter(
      (token, at) =>
        at !== i &&
        !had.has(token.key) &&
        !token.section &&
        !this.goesElsewhere(tokens, at, { i, place }) &&
        this.known.index.filesNamed(token.text).length === 0 &&
        (token.quoted || this.known.isOfPack(token.key)) &&
        this.known.index.keys(token.text).length === 0 &&
        !(this.known.index.isContainer(token.text) && place.path.some((above) => nameKey(above) === token.key)),
    );
    // What stands in quotes is what is to be written; the same word elsewhere in the sentence is the file.
    const near = named.filter((token) => isNear(tokens, token, i));
    const meant = near.length > 0 ? near : named;
    const quoted = meant.filter((token) => token.quoted);
    const all = meant.length === 0 && ITSELF.test(sentence) ? this.known.ownNames(place.items?.[0], sentence) : [];
    const own = all.filter((name) => !had.has(nameKey(name)));
    if (own.length > 0)
      return this.known.pushItems(
        place,
        own.map((value) => ({ value, line })),
      );
    // A line in quotes, sign and all: `- reef`.
    const items = unique(quoted.length > 0 ? quoted : meant, (token) => this.known.spelled(token).replace(/^-\s+/, ''));
    this.known.pushItems(
      place,
      items.map((value) => ({ value, line })),
    );
    const plain = items.length === 0 ? this.addedPlainly(tokens, i) : undefined;
    if (plain !== undefined && !had.has(nameKey(plain))) return this.known.pushItems(place, [{ value: plain, line }]);
    // What only says where the others go asks for nothing.
    if (items.length > 0 || BESIDE.test(sentence)) return;
    // What stands there already is so.
    const isSaid = (value: string) =>
      tokens.some(
        ({ key, quoted }, at) => at !== i && key === nameKey(value) && (quoted || this.known.packNames.has(key)),
      );
    const file = this.known.fileOf(place);
    (place.items ?? []).forEach((value, n) => {
      if (isSaid(value))
        this.known.found.push({ kind: 'key', file, path: itemPath(place, n), value, line, now: value });
    });
  }

  /** “Add mist to load”: the one word between the verb and the list; a small one only where the pack brings it. */
  private addedPlainly(tokens: readonly Token[], list: number): string | undefined {
    const verb = tokens.findIndex(({ key, quoted }, at) => at < list && !quoted && /^(?:add|append)$/.test(key));
    const [, item, to] = verb < 0 ? [] : tokens.slice(verb, verb + 3);
    if (!item || !/^(?:to|into)$/.test(to?.key ?? '') || list - verb > 4) return undefined;
    if (this.known.packNames.has(item.key)) return item.text;
    return !NEVER.has(item.key) && /^[\p{L}\p{N}_.-]{3,}$/u.test(item.text) ? item.text : undefined;
  }

  /** A list in brackets, `["base"]`, with what a sentence adds to it; undefined where it is none, or adds nothing. */
  private withMore({ tokens, i: key, sentence }: Added, place: KnownKey): string | undefined {
    const value = this.known.valueSoFar(place);
    const had = bracketed(value);
    if (!had) return undefined;
    const named = tokens.filter(
      (token, at) =>
        at !== key &&
        !token.section &&
        token.text !== '=' &&
        (token.quoted || this.known.isOfPack(token.key)) &&
        this.known.index.filesNamed(token.text).length === 0 &&
        !isPut(tokens, token) &&
        !had.has(nameKey(token.text)),
    );
    const quoted = named.filter((token) => token.quoted);
    const plain = named.length === 0 ? this.addedPlainly(tokens, key) : undefined;
    if (plain !== undefined && !had.has(nameKey(plain))) return withItems(value, [plain]);
    const all = named.length === 0 && ITSELF.test(sentence) ? this.known.ownNames([...had][0], sentence) : [];
    const own = all.filter((name) => !had.has(nameKey(name)));
    if (own.length > 0) return withItems(value, own);
    return withItems(
      value,
      unique(quoted.length > 0 ? quoted : named, (token) => this.known.spelled(token)),
    );
  }

  /** More items for a list with signs between. @returns whether the sentence names one, or one that is there */
  private separated({ tokens, i, sentence, line }: Added, place: KnownKey): boolean {
    const before = this.known.valueSoFar(place);
    const separator = separatorOf(before) ?? toldSeparator(sentence) ?? ',';
    const gap = /[,;|]\s/.test(before) ? `${separator} ` : separator;
    const had = new Set(before.split(separator).map((item) => nameKey(item.trim().replaceAll('"', ''))));
    let value = before;
    let there = false;
    // “the Dunes folder …, and add ;.\\dunes at the end”: what is written with the sign is what is to be written.
    const isSigned = tokens.some(({ text }) => text.length > 1 && text.startsWith(separator));
    tokens.forEach((token, at) => {
      if (isSigned && !token.text.startsWith(separator)) return;
      const bare = token.text.replace(/^[,;|:]\s*/, '');
      if (at === i || !this.couldBeItem(token, bare) || this.goesElsewhere(tokens, at, { i, place })) return;
      if (had.has(nameKey(bare))) {
        there ||= this.isNamed(token, bare);
        return;
      }
      if (bare === '' || (!token.quoted && isPut(tokens, token)) || this.known.index.keys(bare).length > 0) return;
      had.add(nameKey(bare));
      value += bare !== token.text && token.text.startsWith(separator) ? token.text : gap + bare;
    });
    const own = value === before && !there && ITSELF.test(sentence) ? this.known.ownNames([...had][0], sentence) : [];
    for (const name of own) if (!had.has(nameKey(name))) value += gap + name;
    if (value !== before || there) this.known.push(place, value, line);
    return value !== before || there;
  }

  /** “a to order.txt and b to the list”: the first place behind a word is another one than this list. */
  private goesElsewhere(tokens: readonly Token[], at: number, { i, place }: { i: number; place: KnownKey }): boolean {
    const to = tokens.findIndex(({ key, quoted }, n) => n > at && !quoted && GOES_TO.test(key));
    if (to < 0 || (i > at && i < to)) return false;
    for (const [n, { text, section }] of tokens.slice(to + 1, to + 4).entries()) {
      if (section) return false;
      const files = this.known.index.filesNamed(text);
      if (files.length > 0) return !files.includes(place.file);
      if (this.known.index.keys(text).length > 0) return to + 1 + n !== i;
    }
    return false;
  }

  /** In quotes, behind a sign of the list, or something of the pack. */
  private isNamed({ text, key, quoted }: Token, bare: string): boolean {
    return quoted || bare !== text || this.known.isOfPack(key);
  }

  private couldBeItem(token: Token, bare: string): boolean {
    if (token.section || token.text === '=' || this.known.index.filesNamed(token.text).length > 0) return false;
    return this.isNamed(token, bare) || /[\\/]/.test(token.text);
  }

  /** “Write orchard on a new line of modules.lst”, “add "orchard" to modules”: one more among names. */
  listed(read: Omit<Added, 'i'>, named: readonly number[]): void {
    const list = this.listMeant(read, named);
    if (!list) return;
    const isSaid = ({ quoted, key }: Token) => quoted && this.known.isOfPack(key);
    if (this.known.listWaits || asksForALine(read.sentence) || read.tokens.some(isSaid)) this.addNames(read, list);
    else if (BESIDE.test(read.sentence)) this.addNames(read, list, true);
  }

  /**
   * “Add a to order.txt and set Count to 2”: each list that is named gets what goes there, whatever else is asked.
   *
   * @param before so much was found before this sentence
   */
  listedApart({ tokens, sentence, line }: Omit<Added, 'i'>, named: readonly number[], before: number): void {
    const { index, found } = this.known;
    if (found.length === before || !asksForALine(sentence)) return;
    for (const file of named) {
      const list = index.namesIn(file);
      const target = index.files[file]?.target;
      if (!list || found.slice(before).some((one) => 'file' in one && one.file === target)) continue;
      const at = tokens.findIndex(({ text }) => index.filesNamed(text).includes(file));
      // From the goal before it, which is another list's.
      const isGoal = ({ text }: Token) => index.keys(text).length + index.filesNamed(text).length > 0;
      const from = tokens.findLastIndex((token, n) => n < at && isGoal(token)) + 1;
      this.addNames({ tokens: tokens.slice(from, at + 1), sentence, line }, list);
      this.known.listWaits = undefined;
    }
  }

  /** “It gets a line of its own in boats.list”, and no name was said: that of the pack's own folder. */
  atTheEnd(): void {
    const { listWaits } = this.known;
    if (listWaits) this.ownName(listWaits.list, listWaits.line);
  }

  /** The name of what the pack brings, for a list of others of its kind. */
  own(place: KnownKey, line: number): void {
    const name = this.known.ownName(place.items?.[0]);
    if (name === undefined) return;
    const added = { tokens: settingsTokens(`“${name}”`), i: -1, sentence: '', line };
    if (place.items) return this.items(added, place);
    const more = this.withMore(added, place);
    if (more === undefined) this.separated(added, place);
    else this.known.push(place, more, line);
  }

  /** The same for a list of names alone. */
  ownName(list: NameList, line: number): void {
    const name = this.known.ownName(list.names[0]);
    if (name !== undefined) this.addNames({ tokens: settingsTokens(`“${name}”`), sentence: '', line }, list);
  }

  /** @param beside only where one that is there is named, too, and not that one */
  private addNames({ tokens, line }: Omit<Added, 'i'>, list: NameList, beside = false): void {
    const { file, names, path } = list;
    const target = this.known.index.files[file]?.target;
    if (!target) return;
    const own = bareKey(path.at(-1) ?? '');
    const said = tokens.filter(
      ({ text, key, quoted, section }, at) =>
        !section &&
        key !== own &&
        this.known.index.filesNamed(text).length === 0 &&
        (quoted || this.known.isOfPack(key) || isPlainlyAdded(tokens, at, names)),
    );
    const isThere = ({ key }: Token) => names.some((name) => nameKey(name) === key);
    if (beside && !tokens.some(isThere)) return;
    const fresh = beside ? said.filter((token) => !isThere(token)) : said;
    const meant = namesToList(tokens, fresh, names, (token) => this.known.spelled(token));
    this.known.listWaits = meant.length === 0 ? { list, line } : undefined;
    const had = new Map(names.map((name) => [nameKey(name), name]));
    // “"dragline" behind "sieve"”: what is there beside what is not only says where.
    const more = meant.filter((name) => !had.has(nameKey(name)));
    for (const name of more.length > 0 ? more : meant) {
      const before = had.get(nameKey(name));
      const now = before === undefined ? {} : { now: '' };
      this.known.found.push({ kind: 'key', file: target, path: [...path, before ?? name], value: '', line, ...now });
    }
  }

  /** The names that a sentence speaks of: a block that it calls, or those of its one file. */
  private listMeant({ tokens }: Omit<Added, 'i'>, named: readonly number[]): NameList | undefined {
    const files = named.length > 0 ? named : this.known.files;
    const [block] = tokens.flatMap(({ text, section }) => {
      const called = section ? undefined : this.known.index.namesInBlock(text, files);
      return called ? [called] : [];
    });
    const [file, other] = files;
    if (block || file === undefined || other !== undefined) return block;
    return this.known.index.namesIn(file) ?? this.known.index.onlyBlockIn(file);
  }
}

/** “"otter" goes below "heron"” */
const BESIDE = /\b(?:below|under|beneath|above|before|next to|unter|über|vor|debajo de|antes de|sous|avant)\b/iu;

const GOES_TO = /^(?:to|into|in|zu|zur|zum|an|nach|a|al|en|à|au|dans)$/;
