/* eslint-disable max-lines --
   one class: what it reads of a sentence depends on what it has read before; words and index stand in files of their
   own */
import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import { baseName, extensionOf, nameKey, parentOf, stemOf, type TargetPath } from '../paths/paths';
import { forTheReader } from '../placed/baggage';
import { placeFiles, type Placement } from '../placed/placement';
import type { SettingsDocument } from '../settings/document';
import { numberedSections } from '../settings/numbered';
import type { Statement } from '../games/statement';
import { ATTRIBUTE, TAG } from './instructions';
import { asksFor, clauseAfter, isGiven, isJoined, isNear, isToBe, namesAll, saysWhatIsThere } from './keyInSentence';
import { KeyIndex, bareKey, bareName, itemPath, type KnownKey } from './keyIndex';
import { asksForALine, bracketed, commandsMore, isPut, namesToList, unique, withItems } from './listedNames';
import { NOT_LESS, isNoRequest } from './noRequest';
import { launchOptionsIn } from './launchOptions';
import { speaksOf } from './sentences';
import { rowsAsSentences } from './settingsTables';
import { settingsUnits } from './settingsUnits';
import { isPair, turned, valueFor, valueOfIt } from './valuesNear';
import {
  ADDING,
  ASKS,
  AS_IT_COMES,
  EACH,
  NEVER,
  afterArrow,
  OLD,
  isNumber,
  isSwitch,
  settingsTokens,
  type Token,
} from './settingsWords';

/** A setting that a pack asks for, with the place where it belongs. Lists: the whole new value. */
export type SettingProposal =
  | { kind: 'key'; file: TargetPath; path: string[]; value: string; line: number; now?: string }
  | {
      kind: 'numbered section';
      file: TargetPath;
      section: string;
      keys: { key: string; value: string }[];
      line: number;
    }
  | { kind: 'launch option'; option: string; line: number };

export interface SettingsInput {
  card: GameCard;
  statements?: readonly Statement[];
  documents: readonly { target: TargetPath; document: SettingsDocument }[];
  readMe?: { path: string; text: string };
  entries?: readonly PackEntry[];
  placement?: Placement;
}

/** A longer text is read up to here, in characters. */
const LONGEST = 256 * 1024;
const MOST = 200;
/** Lines belong to a section that the sentence so many lines above speaks of. */
const MOST_LINES_BELOW = 8;
/** So many keys of one name are set by one sentence that says “each”. */
const MOST_AT_ONCE = 12;

/**
 * Finds the settings that a pack's read-me asks for, in the files where they are: by what a sentence names, never by
 * its wording alone. What names a key that is not there, or one that stands in several places, is not guessed.
 */
export function proposeSettings(input: SettingsInput): SettingProposal[] {
  const { readMe } = input;
  return readMe && !isContents(readMe.path, input)
    ? new SettingsReader(input, readMe.text.slice(0, LONGEST)).read()
    : [];
}

/** A text that goes into the game like the rest, and is not called like a read-me, speaks to nobody. */
function isContents(path: string, { entries = [], placement }: SettingsInput): boolean {
  return (
    placement !== undefined &&
    forTheReader(path) === undefined &&
    placeFiles(entries, placement).some((file) => file.path === path)
  );
}

/** A sentence as it was read. */
interface Read {
  tokens: readonly Token[];
  sentence: string;
  line: number;
  /** The files that it names. */
  named: readonly number[];
  keys: readonly { i: number; places: readonly KnownKey[] }[];
}

class SettingsReader {
  private readonly index: KeyIndex;
  private readonly found: SettingProposal[] = [];
  /** The files spoken of last, and how long ago. */
  private files: number[] = [];
  private section: string | undefined;
  private sectionLine = 0;
  private lastItem: string | undefined;
  /** The key that the sentence before spoke of. */
  private lastKey: readonly KnownKey[] | undefined;
  /** A name is to be added to a list, and the next line says which. */
  private listWaits = false;
  private lastList: KnownKey | undefined;
  private readonly packNames: Map<string, string>;

  constructor(
    private readonly input: SettingsInput,
    private readonly text: string,
  ) {
    this.index = new KeyIndex(input.documents);
    this.packNames = new Map();
    for (const { path } of (input.entries ?? []).slice(0, 5000)) {
      const name = baseName(path);
      this.packNames.set(nameKey(name), name);
      this.packNames.set(nameKey(stemOf(name)), stemOf(name));
      // What stands before all endings, where the game has names of two words: `chapel` of `chapel.room.json`.
      const [bare = ''] = name.split('.');
      if (bare.length >= 3) this.packNames.set(nameKey(bare), bare);
      for (const folder of parentOf(path).split('/')) if (folder !== '') this.packNames.set(nameKey(folder), folder);
    }
  }

  read(): SettingProposal[] {
    const isKey = (cell: string) => this.index.keys(cell).length > 0;
    const text = rowsAsSentences(this.text, isKey).replace(DOTS, (dots, name: string) =>
      this.index.keys(name).length > 0 ? `${name} = ` : dots,
    );
    // Where it speaks of one settings file alone, that is meant before it is named, too.
    const all = this.filesIn(settingsTokens(text.slice(0, LONGEST)), text);
    if (all.length === 1) this.files = all;
    for (const unit of settingsUnits(text, this.index.isCommandLine)) {
      if (this.found.length >= MOST) break;
      if (unit.code) this.readCode(unit.code);
      // What Markdown sets in bold is a name.
      else
        this.readSentence(
          unit.sentence
            .replace(/\*\*([^*\n]{1,80})\*\*/g, '“$1”')
            .replace(ELEMENT, (_, name: string, value: string) =>
              this.index.isElement(name) ? `“${value}”` : `“${name}” = “${value}”`,
            )
            .replace(ARROW, ' = ')
            .replace(NOT_LESS, (text) => `at least${blank(text).slice(8)}`),
          unit.line,
        );
    }
    return settled(this.found);
  }

  // ------------------------------------------------------------------------------------------------ prose

  private readSentence(sentence: string, line: number): void {
    for (const option of launchOptionsIn(sentence, (key) => this.packNames.has(key)))
      this.found.push({ kind: 'launch option', option, line });
    if (this.readCommand(sentence, line)) return;
    if (/<\p{L}[^<>]*=\s*"/u.test(sentence)) this.readTags(sentence, line);
    const tokens = this.joined(
      settingsTokens(sentence.replace(AS_IT_COMES, blank)).flatMap((token) => this.opened(token)),
    );
    const named = this.filesIn(tokens, sentence);
    if (named.length > 0) this.files = named;
    const sections = tokens.filter((token) => token.section && this.index.isContainer(token.text));
    if (sections.length > 0) [this.section, this.sectionLine] = [sections[0]?.text, line];
    const keys = tokens.flatMap((token, i) => {
      const places = token.section || token.text === '=' ? [] : this.placesOf(tokens, i, named.length > 0);
      return places.length > 0 ? [{ i, places }] : [];
    });
    const before = this.found.length;
    const given = this.readEachItsOwn(tokens, keys, line);
    keys.forEach(({ i, places }, k) =>
      given.has(i)
        ? undefined
        : this.readKey(
            tokens,
            i,
            places,
            keys[k + 1]?.i ?? tokens.length,
            k === 0 ? 0 : clauseAfter(tokens, keys[k - 1]?.i ?? 0, i),
            sentence,
            line,
          ),
    );
    this.readBesideKeys({ tokens, sentence, line, named, keys }, this.found.length === before);
    this.remember(keys.at(-1)?.places ?? this.spokenOf(tokens), tokens, sentence);
    const item = tokens.find((token) => this.packNames.has(token.key) && extensionOf(token.text) !== '');
    if (item) this.lastItem = this.packNames.get(item.key);
  }

  /** What a sentence asks for otherwise than by a key with its value. @param nothing was found by its keys */
  private readBesideKeys({ tokens, sentence, line, named, keys }: Read, nothing: boolean): void {
    const before = this.found.length;
    const isOpen = () => nothing && this.found.length === before;
    if (isOpen() && ASKS.test(sentence)) this.readReplaced(tokens, named, line);
    if (isOpen() && keys.length === 0) this.readSpokenOf(tokens, named, sentence, line);
    if (isOpen() ? keys.length === 0 : named.length === 1) this.readNewKey(tokens, named, line, keys[0]?.places[0]);
    if (isOpen()) this.readListed(tokens, named, sentence, line);
    if (isOpen() && keys.length === 0) this.readOneMore(sentence, line);
    if (keys.length > 0) return;
    // “Put bees into the list in active.json”
    const only = named.length === 1 ? this.index.listIn(named[0] as number) : undefined;
    if (isOpen() && only && (OF_A_LIST.test(sentence) || namesAll(tokens, only)))
      this.readItems(tokens, -1, only, line);
    // “… you’ll find Cheats. Make it 1.”
    const [place] = this.lastKey ?? [];
    const value = isOpen() && place && ABOUT_IT.test(sentence) ? valueOfIt(tokens, place.value, this.index) : undefined;
    if (value !== undefined) for (const one of this.lastKey ?? []) this.push(one, value, line);
    // “… a list named folders; reef must be in it”
    if (isOpen() && this.lastList && IN_IT.test(sentence)) this.readItems(tokens, -1, this.lastList, line);
  }

  /** The last key of the files spoken of that a sentence has as a word, though it asks for nothing. */
  private spokenOf(tokens: readonly Token[]): readonly KnownKey[] | undefined {
    return tokens
      .filter(({ section, key }) => !section && !NEVER.has(key))
      .map(({ text }) => this.index.called(text).filter(({ file }) => this.files.includes(file)))
      .findLast((places) => places.length > 0);
  }

  /** What the next sentence may call “it”. “It says false.” speaks of the same. */
  private remember(places: readonly KnownKey[] | undefined, tokens: readonly Token[], sentence: string): void {
    const spoken = places ? this.narrow(places, tokens, sentence) : [];
    this.lastList = spoken.find(({ items }) => items) ?? (places ? undefined : this.listNamed(tokens));
    if (places) this.lastKey = spoken.filter(({ items }) => !items);
    else if (!/^(?:it|this|that|er|sie|es) /i.test(sentence)) this.lastKey = undefined;
  }

  /** “app.json knows two, tub and skip”: the list of which a sentence names all. */
  private listNamed(tokens: readonly Token[]): KnownKey | undefined {
    const only = this.files.length === 1 ? this.index.listIn(this.files[0] as number) : undefined;
    const words = new Set(tokens.map(({ key }) => key));
    return only?.items && only.items.length > 1 && only.items.every((item) => words.has(nameKey(item)))
      ? only
      : undefined;
  }

  /** “Width and Height are 1920 and 1080”: as many values behind keys beside each other, each gets its own. */
  private readEachItsOwn(
    tokens: readonly Token[],
    keys: readonly { i: number; places: readonly KnownKey[] }[],
    line: number,
  ): Set<number> {
    const done = new Set<number>();
    for (let from = 0; from < keys.length; from++) {
      let to = from;
      while (keys[to + 1] && isJoined(tokens, (keys[to] as { i: number }).i, (keys[to + 1] as { i: number }).i)) to++;
      const run = keys.slice(from, to + 1);
      from = to;
      if (run.length < 2) continue;
      const end = keys[to + 1]?.i ?? tokens.length;
      const values = tokens
        .slice((run.at(-1) as { i: number }).i + 1, end)
        .filter(({ text, quoted }) => quoted || isNumber(text) || isSwitch(text));
      const meant = run.map(({ places }) => this.narrow(places, tokens, '')[0]);
      if (values.length !== run.length || meant.some((place) => place === undefined || place.items)) continue;
      run.forEach(({ i }, n) => {
        done.add(i);
        this.push(meant[n] as KnownKey, (values[n] as Token).text, line);
      });
    }
    return done;
  }

  /** A line in quotes (“skin dusk”, `"allow": false`) is read as what stands in it, where that names a key. */
  private opened(token: Token): Token[] {
    // “Width/Height”
    const parts = token.quoted ? [] : token.text.split('/');
    if (parts.length > 1 && parts.every((part) => this.index.keys(part).length > 0))
      return parts.map((text, i) => ({ ...token, text, key: nameKey(text), fresh: i === 0 && token.fresh }));
    if (!token.quoted || !/[\s=:[\]]/.test(token.text) || token.text.length > 120) return [token];
    const inner = settingsTokens(token.text);
    const isLine = /^[\p{L}_][\w.:-]{0,60}\s*=\s*\S+$/u.test(token.text);
    if (
      !isLine &&
      !inner.some(({ text, section }) => section || (inner.length > 1 && this.index.keys(text).length > 0))
    )
      return [token];
    // The name of a key that is written as a line is none in quotes.
    return inner.map((one, i) => {
      const isName = one.text === '=' || one.section || (isLine && inner[i + 1]?.text === '=');
      return { ...one, quoted: one.quoted || !isName, start: token.start + one.start };
    });
  }

  /** Words that are a key's name taken apart (“harbour lights” for `harbour_lights`) are that name. */
  private joined(tokens: readonly Token[]): Token[] {
    const found: Token[] = [];
    for (let i = 0; i < tokens.length; i++) {
      const first = tokens[i] as Token;
      let [name, end]: [string | undefined, number] = [undefined, i];
      for (let to = i + 1; to < i + 4 && tokens[to]?.fresh === false && !tokens[to]?.section && !first.quoted; to++) {
        const meant = this.index.inWords(tokens.slice(i, to + 1).map(({ text }) => text));
        if (meant !== undefined) [name, end] = [meant, to];
      }
      found.push(name === undefined ? first : { ...first, text: name, key: nameKey(name) });
      i = end;
    }
    return found;
  }

  private filesIn(tokens: readonly Token[], sentence: string): number[] {
    const found = tokens.flatMap((token) => (token.section ? [] : this.index.filesNamed(token.text)));
    if (found.length === 0) {
      // A name with blanks in it, or without quotes.
      const low = nameKey(sentence);
      this.index.files.forEach(({ name }, i) => {
        if (name.includes(' ') && low.includes(name)) found.push(i);
      });
    }
    return [...new Set(found)];
  }

  /** The keys that a word can mean here; none where it is only a word. */
  private placesOf(tokens: readonly Token[], i: number, here: boolean): readonly KnownKey[] {
    const token = tokens[i] as Token;
    if (this.index.filesNamed(token.text).length > 0) return [];
    const all = this.index.called(token.text);
    if (all.length === 0) return [];
    const scoped = this.files.length > 0 ? all.filter(({ file }) => this.files.includes(file)) : [];
    const around = (at: number) => tokens[at]?.key ?? '';
    const called =
      /^(?:keys?|options?|values?|settings?|lines?|entry|switch|parameter|wert|schlüssel|zeile|option|eintrag|valor|clave|línea|valeur|clé|ligne|number|tag|attribute)$/;
    const strong =
      token.quoted ||
      /[_\d.]|\p{Ll}\p{Lu}/u.test(token.text) ||
      tokens[i + 1]?.text === '=' ||
      isPair(token, tokens[i + 1], tokens[i + 2]) ||
      called.test(around(i - 1)) ||
      called.test(around(i + 1)) ||
      (called.test(around(i - 2)) && /^(?:of|for|de|von|named|called|the|behind|after)$/.test(around(i - 1))) ||
      (all.length === 1 &&
        (isGiven(tokens, i) || isToBe(tokens, i, all[0] as KnownKey) || saysWhatIsThere(tokens, all[0] as KnownKey)));
    const { section } = this;
    // Spelled as the key is, in the section that is spoken of.
    const there =
      i > 0 &&
      section !== undefined &&
      /\p{Lu}/u.test(token.text) &&
      all.some(({ path }) => path.at(-1) === token.text && path.some((name) => nameKey(name) === nameKey(section)));
    if (NEVER.has(token.key) && !strong && !there) return [];
    const cased =
      all.some(({ path }) => bareName(path.at(-1) ?? '') === token.text) &&
      /^\p{Lu}/u.test(token.text) &&
      // At the beginning of a sentence every word has a capital.
      (i > 0 ||
        /^(?:must|should|has|needs|says?|counts?|wants?|tells?|decides?|muss|soll|sollte|debe|tiene|doit)$/.test(
          around(i + 1),
        ));
    // An ordinary word is a key where the file is named beside it, or something is asked for.
    if (scoped.length > 0 && (here || strong || cased || asksFor(tokens, i))) return scoped;
    return strong || cased ? all : [];
  }

  private readKey(
    tokens: readonly Token[],
    i: number,
    places: readonly KnownKey[],
    until: number,
    since: number,
    sentence: string,
    line: number,
  ): void {
    const narrowed = this.narrow(places, tokens, sentence);
    const [first] = narrowed;
    if (!first || isNoRequest(sentence, tokens[i]?.start ?? 0, tokens[i]?.text.length ?? 0)) return;
    if (this.readAdded(tokens.slice(0, until), i, narrowed, sentence, line)) return;
    const value = valueFor({ tokens, sentence, key: i, until, since, now: first.value }, this.index);
    if (value === undefined) return;
    for (const place of narrowed) this.push(place, value, line);
    // What comes next is about the same file.
    if (this.files.length === 0 && narrowed.length === 1) this.files = [first.file];
  }

  /** What is added to a list: of items, in brackets, or with signs between. @returns whether the key is done with */
  private readAdded(
    tokens: readonly Token[],
    i: number,
    places: readonly KnownKey[],
    sentence: string,
    line: number,
  ): boolean {
    const [first] = places as [KnownKey];
    const adds = ADDING.test(sentence) || IS_IN.test(sentence);
    if (first.items) {
      if (adds) this.readItems(tokens, i, first, line);
      return true;
    }
    const more = adds || INTO.test(sentence) ? this.withMore(tokens, i, first) : undefined;
    if (more !== undefined) this.push(first, more, line);
    if (more !== undefined || !adds) return more !== undefined;
    const isList = (place: KnownKey) => {
      const separator = listOf(place.value);
      return separator !== undefined && this.readListItem(tokens, i, place, separator, line);
    };
    if (!places.some(isList)) return false;
    for (const place of places) this.readListItem(tokens, i, place, listOf(place.value) ?? ',', line);
    return true;
  }

  /** Of several places the one that is meant; all of them where each is; none where that is not said. */
  private narrow(places: readonly KnownKey[], tokens: readonly Token[], sentence: string): readonly KnownKey[] {
    if (places.length < 2) return places;
    const words = new Set(tokens.map(({ text }) => bareKey(text)));
    const isCalled = (place: KnownKey) => words.has(bareKey(this.index.nameOf(place) ?? ''));
    const mentioned = (place: KnownKey) =>
      Number(isCalled(place)) +
      place.path
        .slice(0, -1)
        .filter(
          (above) =>
            words.has(bareKey(above)) ||
            nameKey(sentence).includes(`[${bareKey(above)}]`) ||
            (this.section !== undefined && bareKey(above) === bareKey(this.section)),
        ).length;
    const most = Math.max(...places.map(mentioned));
    const best = places.filter((place) => mentioned(place) === most);
    // “both Use entries”
    const named = tokens.findIndex(({ key }) => key === best[0]?.name);
    if (
      best.length <= MOST_AT_ONCE &&
      named > 0 &&
      EACH.test(tokens[named - 1]?.key ?? '') &&
      !best.some(({ items }) => items)
    )
      return best;
    const lists = best.filter(({ items }) => items);
    const kept = lists.length > 0 && ADDING.test(sentence) ? lists : best.filter(({ items }) => !items);
    const byFile = new Map<number, KnownKey[]>();
    for (const place of kept) byFile.set(place.file, [...(byFile.get(place.file) ?? []), place]);
    const alone = [...byFile].flatMap(([file, some]) =>
      some.length === 1 ? [{ file, place: some[0] as KnownKey }] : [],
    );
    if (alone.length < 2) return alone.length === 1 && byFile.size === 1 ? alone.map(({ place }) => place) : [];
    const files = this.meantFiles(
      alone.map(({ file }) => file),
      sentence,
    );
    return alone.filter(({ file }) => files.includes(file)).map(({ place }) => place);
  }

  /** Of several files the ones that are spoken of: by their folder, by where the pack goes, or each of them. */
  private meantFiles(files: readonly number[], sentence: string): number[] {
    const names = new Set(files.map((file) => this.index.files[file]?.name));
    const target = (file: number) => nameKey(this.index.files[file]?.target ?? '');
    if (names.size > 1) {
      const shallow = Math.min(...files.map((file) => target(file).split('/').length));
      const top = files.filter((file) => target(file).split('/').length === shallow);
      return top.length === 1 ? top : [];
    }
    const folder = (file: number) => baseName(this.index.folderOf(file));
    const spoken = (text: string) => files.filter((file) => folder(file).length > 1 && speaksOf(text, folder(file)));
    for (const text of [sentence, this.text]) {
      const some = spoken(text);
      if (some.length > 0 && some.length < files.length) return some;
    }
    const goals = (this.input.placement?.rules ?? []).map(({ to }) => nameKey(to));
    const there = files.filter((file) =>
      goals.some(
        (to) =>
          `${to}/`.startsWith(`${this.index.folderOf(file)}/`) || `${this.index.folderOf(file)}/`.startsWith(`${to}/`),
      ),
    );
    if (there.length > 0 && there.length < files.length) return there;
    const { profiles } = this.input.card;
    const people =
      profiles && files.every((file) => nameKey(parentOf(this.index.folderOf(file))) === nameKey(profiles.folder));
    return people || EACH.test(sentence) ? [...files] : [];
  }

  /** More items for a list that the file holds as such. */
  private readItems(tokens: readonly Token[], i: number, place: KnownKey, line: number): void {
    const had = new Set((place.items ?? []).map(nameKey));
    const first = place.items?.length ?? 0;
    const named = tokens.filter(
      (token, at) =>
        at !== i &&
        !had.has(token.key) &&
        !token.section &&
        this.index.filesNamed(token.text).length === 0 &&
        (token.quoted || this.isOfPack(token.key)) &&
        this.index.keys(token.text).length === 0 &&
        !(this.index.isContainer(token.text) && place.path.some((above) => nameKey(above) === token.key)),
    );
    // What stands in quotes is what is to be written; the same word elsewhere in the sentence is the file.
    const near = named.filter((token) => isNear(tokens, token, i));
    const meant = near.length > 0 ? near : named;
    const quoted = meant.filter((token) => token.quoted);
    const items = [...new Map((quoted.length > 0 ? quoted : meant).map((token) => [token.key, token.text])).values()];
    items.forEach((value, n) =>
      this.found.push({ kind: 'key', file: this.fileOf(place), path: itemPath(place, first + n), value, line }),
    );
    // What stands there already is so.
    if (items.length === 0)
      (place.items ?? []).forEach((value, n) => {
        if (
          tokens.some(
            (token, at) => at !== i && token.key === nameKey(value) && (token.quoted || this.packNames.has(token.key)),
          )
        )
          this.found.push({
            kind: 'key',
            file: this.fileOf(place),
            path: itemPath(place, n),
            value,
            line,
            now: value,
          });
      });
  }

  /** A list in brackets, `["base"]`, with what a sentence adds to it; undefined where it is none, or adds nothing. */
  private withMore(tokens: readonly Token[], key: number, { value }: KnownKey): string | undefined {
    const had = bracketed(value);
    if (!had) return undefined;
    const named = tokens.filter(
      (token, at) =>
        at !== key &&
        !token.section &&
        token.text !== '=' &&
        (token.quoted || this.isOfPack(token.key)) &&
        this.index.filesNamed(token.text).length === 0 &&
        !isPut(tokens, token) &&
        !had.has(nameKey(token.text)),
    );
    const quoted = named.filter((token) => token.quoted);
    return withItems(value, unique(quoted.length > 0 ? quoted : named));
  }

  private readListItem(tokens: readonly Token[], i: number, place: KnownKey, separator: string, line: number): boolean {
    const had = new Set(place.value.split(separator).map((item) => nameKey(item.trim().replaceAll('"', ''))));
    let value = place.value;
    let there = false;
    tokens.forEach((token, at) => {
      if (at === i || token.section || token.text === '=' || this.index.filesNamed(token.text).length > 0) return;
      const bare = token.text.replace(/^[,;|:]\s*/, '');
      const led = bare !== token.text;
      if (at !== i && (token.quoted || led || this.packNames.has(token.key)) && had.has(nameKey(bare))) there = true;
      if (
        had.has(nameKey(bare)) ||
        bare === '' ||
        (!token.quoted && !led && !this.packNames.has(token.key) && !/[\\/]/.test(token.text)) ||
        (!token.quoted && isPut(tokens, token)) ||
        this.index.keys(bare).length > 0
      )
        return;
      had.add(nameKey(bare));
      const gap = /[,;|]\s/.test(place.value) ? `${separator} ` : separator;
      value += led && token.text.startsWith(separator) ? token.text : gap + bare;
    });
    if (value !== place.value || there) this.push(place, value, line);
    return value !== place.value || there;
  }

  /** “Unsigned content has to be allowed in app.json”: a switch told by its words, in the file that is named. */
  private readSpokenOf(tokens: readonly Token[], named: readonly number[], sentence: string, line: number): void {
    const [file, other] = named;
    if (file === undefined || other !== undefined || isNoRequest(sentence, sentence.length, 0)) return;
    const place = this.index.spokenOf(
      file,
      tokens.map(({ key }) => key),
    );
    const value = place && isSwitch(place.value) ? turned(sentence, place.value) : undefined;
    if (place && value !== undefined) this.push(place, value, line);
  }

  /** “Write orchard on a new line of modules.lst”: one more name in a file that lists names. */
  private readListed(tokens: readonly Token[], named: readonly number[], sentence: string, line: number): void {
    const [file, other] = named.length > 0 ? named : this.files;
    const known = file === undefined || other !== undefined ? undefined : this.index.namesIn(file);
    const target = this.index.files[file ?? -1]?.target;
    if (!known || !target || !(this.listWaits || asksForALine(sentence))) return;
    const names = tokens.filter(
      ({ text, key, quoted, section }) =>
        !section && this.index.filesNamed(text).length === 0 && (quoted || this.isOfPack(key)),
    );
    const meant = namesToList(tokens, names, known);
    this.listWaits = meant.length === 0;
    const had = new Map(known.map((name) => [nameKey(name), name]));
    for (const name of meant) {
      const before = had.get(nameKey(name));
      const now = before === undefined ? {} : { now: '' };
      this.found.push({ kind: 'key', file: target, path: [before ?? name], value: '', line, ...now });
    }
  }

  /** One more command of a kind that the file has several of. @returns whether the sentence asks for one */
  private readOneMore(sentence: string, line: number): boolean {
    const [file, other] = this.files;
    const target = this.index.files[file ?? -1]?.target;
    if (file === undefined || other !== undefined || !target) return false;
    const lists = this.index.listsOfCommands(file);
    const asked = commandsMore(sentence, lists, this.isOfPack).filter(
      ({ at, length }) => !isNoRequest(sentence, at, length),
    );
    for (const { command, name } of asked) {
      const had = lists.get(command)?.find((one) => nameKey(one) === nameKey(name));
      const now = had === undefined ? {} : { now: '' };
      this.found.push({ kind: 'key', file: target, path: [command, had ?? name], value: '', line, ...now });
    }
    return asked.length > 0;
  }

  /** A word that names something in the pack, and is not only a small word. */
  private readonly isOfPack = (key: string): boolean => this.packNames.has(key) && !NEVER.has(key);

  /** “name it in place of gong.opus”: a value that is there goes, another comes. */
  private readReplaced(tokens: readonly Token[], named: readonly number[], line: number): void {
    tokens.forEach((token, i) => {
      const places = this.index
        .holding(token.text)
        .filter(({ file }) => (named.length > 0 ? named.includes(file) : this.files.includes(file)));
      const [place] = places;
      if (!place || places.length !== 1) return;
      const old = [tokens[i - 1], tokens[i - 2], tokens[i - 3]].some(
        (word) => word !== undefined && OLD.test(word.key),
      );
      if (!old) return;
      const fresh = tokens.find(
        (other, at) =>
          at !== i &&
          (this.packNames.has(other.key) ||
            (other.quoted &&
              this.index.holding(other.text).length === 0 &&
              this.index.keys(other.text).length === 0)) &&
          this.index.filesNamed(other.text).length === 0,
      );
      const value = fresh ? (this.packNames.get(fresh.key) ?? fresh.text) : this.lastItem;
      if (value !== undefined && extensionOf(value) === extensionOf(token.text)) this.push(place, value, line);
    });
  }

  /** `K=V` in a sentence, for a key that the one file spoken of does not have yet. */
  private readNewKey(tokens: readonly Token[], named: readonly number[], line: number, beside?: KnownKey): void {
    const files = named.length > 0 ? named : this.files;
    if (files.length !== 1) return;
    const file = this.index.files[files[0] as number];
    tokens.forEach((token, i) => {
      const value = tokens[i + 2];
      if (
        tokens[i + 1]?.text !== '=' ||
        !value ||
        value.text === '=' ||
        token.text === '=' ||
        token.section ||
        token.quoted ||
        !file
      )
        return;
      if (this.index.called(token.text).length > (beside ? 0 : this.index.keys(token.text).length)) return;
      const section =
        tokens.find((one) => one.section)?.text ??
        (beside?.path.length === 2 ? beside.path[0] : named.length > 0 ? undefined : this.section);
      this.pushNew(files[0] as number, section, token.text, value.text, line);
    });
  }

  // -------------------------------------------------------------------------------------------------- lines

  /** “CHEAT=1 in game.cfg and all is yours.”: what goes on as a sentence is no part of the value. */
  private withoutProse(value: string): string {
    // “Rats=0, of course.”
    const plain = /^("[^"]*"|[^\s",]+),\s+\p{L}.*[.!?]$/u.exec(value)?.[1];
    if (plain !== undefined && (plain.startsWith('"') || isNumber(plain) || isSwitch(plain))) return plain;
    // “speed = 1.5 (larder.ini)”
    const [, told, where = ''] = /^("[^"]*"|[^\s"(]+)\s*\(([^)]*)\)\.?$/.exec(value) ?? [];
    if (told !== undefined && where.split(/[\s,;]+/).some((word) => this.index.filesNamed(word).length > 0))
      return told;
    const cut =
      /^("[^"]*"|[^\s"]+)\s+(?:in|under|inside|and|to|for|if|then|so|or|which|that|will|makes?|gives?|und|oder|für|damit|y|o|para|et|ou|pour)\s/iu.exec(
        value,
      )?.[1];
    if (cut === undefined) return value;
    return /[.!?]$/.test(value) ||
      value.split(/\s+/).some((word) => this.index.filesNamed(word.replace(/[,;:.!?)]+$/, '')).length > 0)
      ? cut
      : value;
  }

  private readCode(lines: readonly { text: string; line: number }[]): void {
    const [first] = lines;
    if (!first) return;
    if (this.readBlock(lines)) return;
    let section: string | undefined;
    let numbered: Extract<SettingProposal, { kind: 'numbered section' }> | undefined;
    for (const { text: written, line } of lines) {
      const text = afterArrow(written);
      const header = /^\s*\[([^\]]{1,80})\]\s*$/.exec(text)?.[1]?.trim();
      if (header !== undefined) {
        numbered = this.numberedFor(header, line);
        section = header;
        if (numbered) this.found.push(numbered);
        continue;
      }
      if (/^\s*</.test(text)) {
        this.readTags(text, line);
        continue;
      }
      const key = /^\s*(?:set\w?\s+)?"?([^\s="“”][^="]{0,60}?)"?\s*=\s*(.*?)\s*$/.exec(text);
      if (!key) {
        if (!this.readCommand(text, line, true) && !this.readOneMore(text.trim(), line)) this.readSentence(text, line);
        continue;
      }
      const [, name = '', raw = ''] = key;
      if (/\S\s+\S/.test(raw) && isNoRequest(text, text.indexOf(name), name.length)) continue;
      const value = this.withoutProse(raw.replace(/\s+[;#].*$/, ''));
      if (numbered) numbered.keys.push({ key: name, value });
      else this.putLine(section, name, value, line);
    }
  }

  /**
   * `set r_bloom 0` for the one file spoken of, which has such commands.
   *
   * @param isLine it stands in a line of its own: then it may be one that the file has
   */
  private readCommand(text: string, line: number, isLine = false): boolean {
    const [, word = '', name = '', value = ''] =
      /^\s*([\p{L}_]\w*)\s+([\p{L}_][\w.]*)\s+("[^"]*"|\S+)\s*$/u.exec(text) ?? [];
    const file = this.files.length === 1 ? this.index.files[this.files[0] as number] : undefined;
    if (!file || word === '') return false;
    const known = file.document.entries().filter(({ path }) => path.length === 2 && path[0] === word);
    const there = known.find(({ path }) => path[1] === name);
    if (known.length === 0 || (there && !isLine)) return false;
    this.found.push({
      kind: 'key',
      file: file.target,
      path: [word, name],
      value: value.replace(/^"(.*)"$/, '$1'),
      line,
      ...(there ? { now: there.value } : {}),
    });
    return true;
  }

  private putLine(section: string | undefined, name: string, value: string, line: number): void {
    const all = this.index
      .keys(name)
      .filter(
        ({ items, path }) =>
          !items && (section === undefined || path.slice(0, -1).some((above) => bareKey(above) === bareKey(section))),
      );
    const scoped = this.files.length > 0 ? all.filter(({ file }) => this.files.includes(file)) : all;
    const places = scoped.length > 0 ? scoped : all;
    const tokens = settingsTokens(`${section ?? ''} ${name}`);
    const meant = this.narrow(places, tokens, section === undefined ? '' : `[${section}]`);
    for (const place of meant) this.push(place, value, line);
    if (places.length > 0) return;
    const files =
      this.files.length === 1
        ? this.files
        : this.index.files.flatMap(({ document }, i) =>
            section !== undefined &&
            document.entries().some(({ path }) => path.length > 1 && bareKey(path[0] as string) === bareKey(section))
              ? [i]
              : [],
          );
    // “Add below [Packs]:”, and the lines right after it.
    const home = section ?? (line - this.sectionLine <= MOST_LINES_BELOW ? this.section : undefined);
    if (files.length === 1) this.pushNew(files[0] as number, home, name, value, line);
  }

  /** `<harbour>east</harbour>` in a line of its own, where the file has several of them. */
  private readElement(text: string, line: number): void {
    const [, name = '', item = ''] = /^\s*<([\p{L}_][\w.-]*)>([^<>\n]{1,120})<\/\1>\s*$/u.exec(text) ?? [];
    const [list, other] = name === '' ? [] : this.index.listsOf(name, this.files);
    if (list && !other && !list.items?.some((one) => nameKey(one) === nameKey(item)))
      this.found.push({
        kind: 'key',
        file: this.fileOf(list),
        path: itemPath(list, list.items?.length ?? 0),
        value: item,
        line,
      });
  }

  private readTags(text: string, line: number): void {
    this.readElement(text, line);
    for (const [, element = '', attributes = ''] of text.matchAll(TAG))
      for (const [, attribute = '', value = ''] of attributes.matchAll(ATTRIBUTE)) {
        const places = this.index
          .keys(attribute)
          .filter(({ path }) => path.at(-1) === `@${attribute}` && bareKey(path.at(-2) ?? '') === bareKey(element));
        const scoped = this.files.length > 0 ? places.filter(({ file }) => this.files.includes(file)) : places;
        for (const place of this.narrow(scoped.length > 0 ? scoped : places, [], text)) this.push(place, value, line);
      }
  }

  /** Lines in the form of a file that is spoken of: braces, JSON. */
  private readBlock(lines: readonly { text: string; line: number }[]): boolean {
    const text = lines.map((one) => one.text).join('\n');
    if (!/[{}]|^\s*"[^"]+"\s*:/m.test(text)) return false;
    const scope = this.files.length > 0 ? this.files : this.index.files.map((_, i) => i);
    const pairs = [
      ...text.matchAll(/"?([\w.-]+)"?\s*[:=]?\s+("[^"]*"|[^\s{}",]+)\s*,?\s*(?=$|[}\n])/gm),
      ...text.matchAll(/"([^"]+)"\s*:\s*("[^"]*"|[^\s{}",]+)/g),
    ];
    let any = this.readListBlock(text, scope, lines[0]?.line ?? 1);
    for (const [whole, name = '', value = ''] of pairs) {
      const places = this.index.keys(name).filter(({ file, items }) => scope.includes(file) && !items);
      const line =
        lines.find((one) => one.text.includes(whole.trim().split('\n')[0] ?? ''))?.line ?? lines[0]?.line ?? 1;
      for (const place of this.narrow(places, settingsTokens(text.replace(/[{}:,]/g, ' ')), text)) {
        this.push(place, value.replace(/^"(.*)"$/, '$1'), line);
        any = true;
      }
    }
    return any;
  }

  /** `"order": ["base", "reef"]` for a list that holds `base`: what is more in it comes to it. */
  private readListBlock(text: string, scope: readonly number[], line: number): boolean {
    let any = false;
    for (const [, name = '', inside = ''] of text.matchAll(/"([^"\n]{1,80})"\s*:\s*\[([^[\]{}]{0,2000})\]/g)) {
      const items = [...inside.matchAll(/"([^"]*)"|([^\s,"]+)/g)].map(([, quoted, bare = '']) => quoted ?? bare);
      const [list, other] = this.index.keys(name).filter((place) => scope.includes(place.file) && place.items);
      const had = list?.items ?? [];
      const isMore = had.every((item, n) => items[n] === item || items[n] === '...' || items[n] === '…');
      if (!list || other || !isMore) continue;
      items
        .slice(had.length)
        .forEach((value, n) =>
          this.found.push({ kind: 'key', file: this.fileOf(list), path: itemPath(list, had.length + n), value, line }),
        );
      any = true;
    }
    return any;
  }

  /** `[coat X]`, `[coat.XX]`, or a number that is not there yet, where the file has such sections. */
  private numberedFor(
    header: string,
    line: number,
  ): Extract<SettingProposal, { kind: 'numbered section' }> | undefined {
    const fit =
      /^(.*?\p{L}[\p{L}\p{N}]*?)[ .:_-]*(\d+|N{1,3}|X{1,3}|Y|Z|#+|\?+|n{1,3}|x{1,3}|\.{2,3}|…|<[^>]*>|_+)$/u.exec(
        header,
      );
    if (!fit) return undefined;
    const [, stem = '', mark = ''] = fit;
    const bare = nameKey(stem);
    const literal = /^\d+$/.test(mark);
    const stems = (document: SettingsDocument) => {
      for (const separator of ['', ' ', '.', '_', '-']) {
        const sections = numberedSections(document, stem + separator);
        if (sections.length > 0) return sections;
      }
      return [];
    };
    const files = this.index.files.flatMap(({ document }, i) => (stems(document).length > 0 ? [i] : []));
    const scoped = files.filter((file) => this.files.includes(file));
    const meant = scoped.length > 0 ? scoped : files;
    const chosen = meant.length > 1 ? this.meantFiles(meant, this.text) : meant;
    const [file] = chosen.length > 0 ? chosen : literal ? [] : this.files.length === 1 ? this.files : [];
    const known = file === undefined ? undefined : this.index.files[file];
    if (!known || chosen.length > 1 || bare === '') return undefined;
    const sections = stems(known.document);
    if (literal && (sections.some(({ number }) => number === Number(mark)) || sections.length === 0)) return undefined;
    return {
      kind: 'numbered section',
      file: known.target,
      section: sections.at(-1)?.section.replace(/\d+$/, '').trim() ?? stem,
      keys: [],
      line,
    };
  }

  // ------------------------------------------------------------------------------------------------ results

  private fileOf(place: KnownKey): TargetPath {
    return (this.index.files[place.file] as { target: TargetPath }).target;
  }

  private push(place: KnownKey, value: string, line: number): void {
    const now = place.value;
    const written = /^".*"$/.test(now) && !/^".*"$/.test(value) ? `"${value}"` : value;
    this.found.push({ kind: 'key', file: this.fileOf(place), path: [...place.path], value: written, line, now });
  }

  private pushNew(file: number, section: string | undefined, name: string, value: string, line: number): void {
    const known = this.index.files[file];
    if (!known || !/^[\p{L}_][\p{L}\p{N}_.:-]*$/u.test(name)) return;
    const sections = [
      ...new Set(known.document.entries().flatMap(({ path }) => (path.length === 2 ? [path[0] as string] : []))),
    ];
    const home = section === undefined ? undefined : sections.find((one) => bareKey(one) === bareKey(section));
    if (section === undefined ? sections.length > 0 : home === undefined) return;
    this.found.push({ kind: 'key', file: known.target, path: home === undefined ? [name] : [home, name], value, line });
  }
}

/** `speed -> 2`: an arrow to a value is an equals sign. */
/** An element that a sentence quotes as it is to be written: what stands in it is meant. */
const ELEMENT = /<([A-Za-z_][\w.-]*)>([^<>\n]{1,80})<\/\1>/g;
const ARROW = /(?<=[\p{L}\p{N}_"”])\s*(?:-{1,4}>|={1,4}>|→)\s*(?=["“]|-?\d|(?:true|false|on|off|yes|no)(?!\p{L}))/giu;

/** “it is not shown before "almond" is in "shown"” */
const IS_IN = /["”»’'] (?:is|are|stands?|must be|has to be|ist|steht|está|est) (?:in|en|dans) ["“„«‘']/iu;

/** “fog ....... 0” */
const DOTS = /([\p{L}_][\p{L}\p{N}_.-]{0,60}?)[ \t]*\.{3,}[ \t]*(?=["“]?-?[\p{L}\p{N}])/gu;

const INTO = /\b(?:into|in die|in den|en la|dans la)\b/iu;
const OF_A_LIST = /\b(?:list|liste|lista|add|append|hinzufügen|ergänze|añade|agrega|ajoutez)\b/iu;

/** Speaks of the list before. */
const IN_IT =
  /\b(?:in|into|to|on) (?:it|this|that|there|the list)\b|\b(?:last|first) there\b|\b(?:follows|third|fourth|fifth|next|one more|dritte[rs]?|tercer[ao]?|troisième)\b|\b(?:darin|hinein|dort)\b|\b(?:en ella|allí)\b/iu;

/** Sets “it” to something. */
const ABOUT_IT =
  /\b(?:make|set|change|turn|put|edit|let|raise|increase|lower|reduce|bump)\s+(?:it|this|that)\b|\b(?:it|this|that) (?:must|should|has to|needs to|wants to|ought to) (?:be|say|read|become|show)\b|(?<!\p{L})(?:write|put|use|type|enter|schreibe\p{L}*|setze\p{L}*|escrib\p{L}*|pon|écri\p{L}*|mett\p{L}*)(?!\p{L})[^.;]*(?<!\p{L})(?:instead|there|stattdessen|dafür|en su lugar|à la place)(?!\p{L})|\b(?:setze|ändere|stelle) (?:ihn|es|sie|diesen wert)\b|\b(?:cámbialo|ponlo)\b|\b(?:mettez|changez)-le\b/iu;

/** As long as it was: places in the sentence stay. */
const blank = (text: string): string => ' '.repeat(text.length);

/** The separator of a value that is a list. */
const listOf = (value: string): string | undefined => [',', ';', '|'].find((one) => value.includes(one));

/** Said twice counts once: what differs from what is there, the last time. Sections without keys say nothing. */
function settled(found: readonly SettingProposal[]): SettingProposal[] {
  const byPlace = new Map<string, SettingProposal>();
  for (const one of found) {
    if (one.kind === 'numbered section' && one.keys.length === 0) continue;
    const id =
      one.kind === 'key'
        ? `${one.file}\n${one.path.join('\n')}`
        : one.kind === 'launch option'
          ? one.option
          : `${one.file}\n${one.section}\n${one.line}`;
    const before = byPlace.get(id);
    if (before?.kind === 'key' && one.kind === 'key' && one.value === one.now && before.value !== before.now) continue;
    byPlace.set(id, one);
  }
  return [...byPlace.values()].slice(0, MOST);
}
