import { extensionOf, nameKey } from '../paths/paths';
import { beginsWithIt, toldOfIt } from './aboutIt';
import { asksFor, clauseAfter, onlyMeant, isContrary, isJoined, isOfList, isSaidToBe, valuesIn } from './keyInSentence';
import { bareKey, type KnownKey } from './keyIndex';
import { launchOptionsIn } from './launchOptions';
import { anotherCommand, commandLine, oneMoreCommand } from './commandLines';
import { asksForALine } from './listedNames';
import { isNoRequest } from './noRequest';
import { onlyOther, type Heard } from './onlyOther';
import type { ReadSoFar } from './readSoFar';
import { fileNamedBy, replaced } from './replacedValues';
import { sentenceTokens } from './sentenceTokens';
import { blockNamed, newMembers } from './newMembers';
import { nextOfSeries } from './seriesOfKeys';
import { AsWritten } from './settingsAsWritten';
import { ListReader } from './settingsInLists';
import { ASKS, IN_IT, NEVER, isNumber, isSwitch, type Token } from './settingsWords';
import { theSame, theseInOrder, toldTwice } from './toldAgain';
import { turned, valueFor } from './valuesNear';
import { isCasedAsKey, standsForKey } from './wordAsKey';

/** A sentence as it was read. */
interface Read {
  tokens: readonly Token[];
  sentence: string;
  line: number;
  /** The files that it names. */
  named: readonly number[];
  keys: readonly { i: number; places: readonly KnownKey[] }[];
}

/** Reads sentences, one after the other: each may speak of what the one before named. */
export class SentenceReader {
  private readonly lists: ListReader;
  private readonly written: AsWritten;
  private readonly heard: Heard[] = [];

  constructor(private readonly known: ReadSoFar) {
    this.lists = new ListReader(known);
    this.written = new AsWritten(known);
  }

  read(sentence: string, line: number): void {
    for (const option of launchOptionsIn(sentence, (key) => this.known.packNames.has(key)))
      this.known.found.push({ kind: 'launch option', option, line });
    if (commandLine(sentence, line, false, this.known) || anotherCommand(sentence, line, this.known)) return;
    if (/<\p{L}[^<>]*=\s*"/u.test(sentence)) this.written.tags(sentence, line);
    const tokens = sentenceTokens(sentence, this.known);
    const named = this.known.filesIn(tokens, sentence);
    if (named.length > 0) this.known.files = named;
    const sections = tokens.filter((token) => token.section && this.known.index.isContainer(token.text));
    if (sections.length > 0) [this.known.section, this.known.sectionLine] = [sections[0]?.text, line];
    const keys = tokens.flatMap((token, i) => {
      const isWord = !token.section && token.text !== '=' && tokens[i - 1]?.text !== '=';
      const places = isWord ? this.placesOf(tokens, i, named.length > 0) : [];
      return places.length > 0 ? [{ i, places }] : [];
    });
    const read: Read = { tokens, sentence, line, named, keys };
    const before = this.known.found.length;
    const given = new Set([...this.eachItsOwn(read), ...toldTwice(read, this.known)]);
    const values = keys.map(({ i }, k) => (given.has(i) ? undefined : this.key(read, k)));
    this.shared(read, values);
    this.byOthers(read, before);
    this.besideKeys(read, this.known.found.length === before);
    this.lists.listedApart(read, named, before);
    const spoken = keys.findLast(({ i }) => tokens[i]?.quoted) ?? keys.at(-1);
    this.remember(spoken?.places ?? this.spokenOf(tokens), tokens, sentence);
    this.heard.push({ tokens, sentence, line, keys, isOpen: this.known.found.length === before });
    const item = tokens.find((token) => this.known.packNames.has(token.key) && extensionOf(token.text) !== '');
    if (item) this.known.lastItem = this.known.packNames.get(item.key);
  }

  /** What is told by what was told before, or comes into something. @param before so much was found before */
  private byOthers(read: Read, before: number): void {
    const { tokens, sentence, line, keys } = read;
    if (this.known.found.length === before) theSame(read, this.known);
    if (keys.length === 0) theseInOrder(read, this.heard.at(-1)?.keys ?? [], this.known);
    if (asksForALine(sentence)) blockNamed(tokens, line, this.known);
    if (this.known.found.length === before) newMembers(tokens, sentence, line, this.known);
  }

  /** When all is read. */
  end(): void {
    this.lists.atTheEnd();
    onlyOther(this.heard, this.known);
  }

  /** What a sentence asks for otherwise than by a key with its value. @param nothing was found by its keys */
  private besideKeys(read: Read, nothing: boolean): void {
    const { tokens, sentence, line, named, keys } = read;
    const before = this.known.found.length;
    const isOpen = () => nothing && this.known.found.length === before;
    if (isOpen() && ASKS.test(sentence)) replaced(tokens, named, line, this.known);
    if (isOpen() && keys.length === 0) this.spokenByWords(tokens, named, sentence, line);
    const isPlaced = named.length === 1 && (!isOpen() || tokens.some(({ section }) => section));
    if ((isOpen() && keys.length === 0) || isPlaced) this.newKey(tokens, named, line, keys[0]?.places[0]);
    if (isOpen()) this.lists.listed(read, named);
    this.withoutKeys(read, isOpen);
  }

  private withoutKeys(read: Read, isOpen: () => boolean): void {
    const { tokens, sentence, line, keys } = read;
    const isBare = keys.length === 0;
    if (isBare && isOpen() && !oneMoreCommand(sentence, line, this.known)) nextOfSeries(tokens, line, this.known);
    // “Make it "storm" and start any map.”
    if (isBare || beginsWithIt(sentence)) this.ofTheOneBefore(read, isOpen);
  }

  /** What a sentence without a key asks for the list of its file, or for what was spoken of before. */
  private ofTheOneBefore(read: Read, isOpen: () => boolean): void {
    const { line } = read;
    const { index, lastKey = [], lastList } = this.known;
    const only = this.listSpokenOf(read);
    if (isOpen() && only) this.lists.items({ ...read, i: -1 }, only);
    // “… you’ll find Cheats. Make it 1.”
    const [place] = lastKey;
    const value =
      isOpen() && place ? toldOfIt(read, place.value, this.known.valueSoFar(place) !== place.value, index) : undefined;
    if (value !== undefined) for (const one of lastKey) this.known.push(one, value, line);
    // “… a list named folders; reef must be in it”
    if (isOpen() && lastList && this.isItem(read)) this.lists.items({ ...read, i: -1 }, lastList);
  }

  /** “Put bees into the list in active.json”: the one list of the one file, where no block of it is spoken of. */
  private listSpokenOf({ tokens, sentence, line, named: [file, other] }: Read): KnownKey | undefined {
    if (file === undefined || other !== undefined || this.known.within?.line === line) return undefined;
    const only = this.known.index.listIn(file, tokens);
    return only && isOfList(tokens, sentence, only) ? only : undefined;
  }

  /** Speaks a sentence of the list before, or is nothing but the line that this is to get? */
  private isItem({ tokens, sentence }: Read): boolean {
    return IN_IT.test(sentence) || (this.known.lineWaits && tokens.length === 1);
  }

  /** The last key of the files spoken of that a sentence has as a word, though it asks for nothing. */
  private spokenOf(tokens: readonly Token[]): readonly KnownKey[] | undefined {
    return tokens
      .filter(({ section, key }) => !section && !NEVER.has(key))
      .map(({ text }) => this.known.index.called(text).filter(({ file }) => this.known.files.includes(file)))
      .findLast((places) => places.length > 0);
  }

  /** What the next sentence may call “it”: rather what is in quotes. “It says false.” speaks of the same. */
  private remember(places: readonly KnownKey[] | undefined, tokens: readonly Token[], sentence: string): void {
    const spoken = places ? this.known.narrow(places, tokens, sentence) : [];
    this.known.lastList = spoken.find(({ items }) => items) ?? (places ? undefined : this.listNamed(tokens, sentence));
    this.known.lineWaits = asksForALine(sentence);
    if (places) this.known.lastKey = spoken.filter(({ items }) => !items);
    else if (!SAME_STILL.test(sentence)) this.known.lastKey = undefined;
  }

  /** “app.json knows two, tub and skip”: the list of which a sentence names all. */
  private listNamed(tokens: readonly Token[], sentence: string): KnownKey | undefined {
    const only = this.known.files.length === 1 ? this.known.index.listIn(this.known.files[0] as number) : undefined;
    if (only && asksForALine(sentence) && isOfList(tokens, sentence, only)) return only;
    const words = new Set(tokens.map(({ key }) => key));
    return only?.items && only.items.length > 1 && only.items.every((item) => words.has(nameKey(item)))
      ? only
      : undefined;
  }

  /** “Width and Height are 1920 and 1080”: as many values behind keys beside each other, each gets its own. */
  private eachItsOwn({ tokens, keys, line }: Read): Set<number> {
    const done = new Set<number>();
    for (let from = 0; from < keys.length; from++) {
      let to = from;
      while (keys[to + 1] && isJoined(tokens, (keys[to] as { i: number }).i, (keys[to + 1] as { i: number }).i)) to++;
      const run = keys.slice(from, to + 1);
      from = to;
      if (run.length < 2) continue;
      const behind = valuesIn(tokens.slice((run.at(-1) as { i: number }).i + 1, keys[to + 1]?.i));
      // “1920 x 1080: Width and Height”
      const before = valuesIn(tokens.slice((keys[to - run.length]?.i ?? -1) + 1, run[0]?.i));
      const values = [behind, before].find((some) => some.length === run.length);
      const meant = run.map(({ places }) => this.known.narrow(places, tokens, '')[0]);
      if (!values || meant.some((place) => place === undefined || place.items)) continue;
      run.forEach(({ i }) => done.add(i));
      if (meant.every((place, n) => place?.value === values[n])) continue;
      values.forEach((value, n) => this.known.push(meant[n] as KnownKey, value, line));
    }
    return done;
  }

  /** “pieces and board become marble”: one value for keys beside each other. @param values those that keys got */
  private shared({ tokens, sentence, line, keys }: Read, values: (string | undefined)[]): void {
    for (let k = keys.length - 2; k >= 0; k--) {
      const [one, next, value] = [keys[k], keys[k + 1], values[k + 1]];
      if (!one || !next || value === undefined || values[k] !== undefined || !isJoined(tokens, one.i, next.i)) continue;
      const { start, text } = tokens[one.i] as Token;
      const places = this.known.narrow(one.places, tokens, sentence);
      const fits = ({ value: now, items }: KnownKey) =>
        !items && isNumber(now) === isNumber(value) && isSwitch(now) === isSwitch(value);
      if (!places.every(fits) || isNoRequest(sentence, start, text.length)) continue;
      for (const place of places) this.known.push(place, value, line);
      values[k] = value;
    }
  }

  /** The keys that a word can mean here; none where it is only a word. */
  private placesOf(tokens: readonly Token[], i: number, here: boolean): readonly KnownKey[] {
    const { index, files } = this.known;
    const token = tokens[i] as Token;
    if (index.filesNamed(token.text).length > 0) return [];
    const all = index.called(token.text);
    if (all.length === 0) return [];
    const scoped = files.length > 0 ? all.filter(({ file }) => files.includes(file)) : [];
    const strong = standsForKey(tokens, i, all) || this.isToldByFile(tokens, i, all);
    if (NEVER.has(token.key) && !strong && !(i > 0 && this.isInSection(token, all))) return [];
    const cased = strong || isCasedAsKey(tokens, i, all);
    // An ordinary word is a key where the file is named beside it, or something is asked for.
    const isMeant = here || cased || this.isAskedFor(tokens, i, scoped);
    if (scoped.length > 0 && isMeant) return scoped;
    return cased ? all : onlyMeant(tokens, all, this.known.isAllItIs);
  }

  /** “Set in game.ini has to be marble”: spelled as the key is, and its file right behind it. */
  private isToldByFile(tokens: readonly Token[], i: number, all: readonly KnownKey[]): boolean {
    const [, word, file] = tokens.slice(i, i + 3);
    if (i === 0 || !/^(?:in|im|en|dans|of|von|de)$/.test(word?.key ?? '') || !isCasedAsKey(tokens, i, all))
      return false;
    return this.known.index.filesNamed(file?.text ?? '').length > 0;
  }

  private isAskedFor(tokens: readonly Token[], i: number, places: readonly KnownKey[]): boolean {
    return asksFor(tokens, i) || isContrary(tokens, i, places) || (this.known.isAllItIs && isSaidToBe(tokens, i));
  }

  /** Spelled as the key is, in the section that is spoken of. */
  private isInSection({ text }: Token, all: readonly KnownKey[]): boolean {
    const { section } = this.known;
    if (section === undefined || !/\p{Lu}/u.test(text)) return false;
    return all.some(({ path }) => path.at(-1) === text && path.some((name) => nameKey(name) === nameKey(section)));
  }

  /** One of the keys of a sentence, with what stands around it up to the next one. @returns the value that it got */
  private key({ tokens, sentence, line, keys }: Read, k: number): string | undefined {
    const { i, places } = keys[k] as Read['keys'][number];
    // The name of a list's elements belongs to what is said of the list: “the company gets a line actor cora”.
    const isElement = ({ places: [one] }: Read['keys'][number]) =>
      places.some(({ element, file, path }) => {
        // And so does what the key lies in: “the colour of the lights”.
        const isAbove = one !== undefined && path.slice(0, -1).some((above) => bareKey(above) === one.name);
        return file === one?.file && (element === one.name || isAbove);
      });
    const until = keys.slice(k + 1).find((one) => !isElement(one))?.i ?? tokens.length;
    const since = k === 0 ? 0 : clauseAfter(tokens, keys[k - 1]?.i ?? 0, i);
    const narrowed = this.known.narrow(places, tokens, sentence);
    const [first] = narrowed;
    if (!first || this.isNotMeant(first, tokens[i] as Token, sentence)) return undefined;
    if (this.lists.added({ tokens: tokens.slice(0, until), i, sentence, line }, narrowed)) return undefined;
    const value =
      valueFor({ tokens, sentence, key: i, until, since, now: first.value }, this.known.index) ??
      fileNamedBy(first, tokens, sentence, this.known);
    if (value === undefined) return undefined;
    for (const place of narrowed) this.known.push(place, value, line);
    // What comes next is about the same file.
    if (this.known.files.length === 0 && narrowed.length === 1) this.known.files = [first.file];
    return value;
  }

  /** Left to the reader, or another value for who does without: “pests: none. If you miss them, pests: many”. */
  private isNotMeant(place: KnownKey, { start, text }: Token, sentence: string): boolean {
    return isNoRequest(sentence, start, text.length) || (OTHERWISE.test(sentence) && this.known.isAskedFor(place));
  }

  /** “Unsigned content has to be allowed in app.json”: a switch told by its words, in the file that is named. */
  private spokenByWords(tokens: readonly Token[], named: readonly number[], sentence: string, line: number): void {
    const [file, other] = named;
    if (file === undefined || other !== undefined || isNoRequest(sentence, sentence.length, 0)) return;
    const place = this.known.index.spokenOf(
      file,
      tokens.map(({ key }) => key),
    );
    const value = place && isSwitch(place.value) ? turned(sentence, place.value) : undefined;
    if (place && value !== undefined) this.known.push(place, value, line);
  }

  /** `K=V` in a sentence, for a key that the one file spoken of does not have yet. */
  private newKey(tokens: readonly Token[], named: readonly number[], line: number, beside?: KnownKey): void {
    const { index } = this.known;
    const [file, other] = named.length > 0 ? named : this.known.files;
    if (file === undefined || other !== undefined) return;
    const inSection = named.length > 0 ? undefined : this.known.section;
    const section = tokens.find((one) => one.section)?.text ?? (beside?.path.length === 2 ? beside.path[0] : inSection);
    tokens.forEach(({ text: name, section: isSection, quoted }, i) => {
      const value = tokens[i + 2]?.text;
      if (tokens[i + 1]?.text !== '=' || value === undefined || value === '=') return;
      if (name === '=' || isSection || quoted) return;
      if (index.called(name).length > (beside ? 0 : index.keys(name).length)) return;
      this.known.pushNew(file, { section, name, value, line });
    });
  }
}

/** “It says false.”, “0 is silent, 10 is loud.” */
const SAME_STILL = /^(?:(?:it|this|that|er|sie|es) |["“]?-?[\d.]+["”]? (?:is|means|=|ist|heißt|es|significa|est) )/i;
const OTHERWISE = /^(?:and |but |und |aber )?(?:if|should|wenn|falls|si) /i;
