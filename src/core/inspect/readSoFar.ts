import { forTheGame } from '../placed/baggage';
import { baseName, extensionOf, nameKey, parentOf, stemOf, type TargetPath } from '../paths/paths';
import { KeyIndex, bareKey, itemPath, type KnownFile, type KnownKey } from './keyIndex';
import type { NameList } from './listsInFiles';
import { speaksOf } from './readMeSentences';
import { ownOf, partNamesOf, placeOf, severalOf, wholeOf } from './ownOfPack';
import { rootSpokenOf } from '../names/rootWords';
import type { SettingProposal, SettingsInput } from './settingProposal';
import { ADDING, EACH, NEVER, OLD, type Token } from './settingsWords';

export const MOST = 200;
/** So many keys of one name are set by one sentence that says “each”. */
const MOST_AT_ONCE = 12;

/** As long as it was: places in the sentence stay. */
export const blank = (text: string): string => ' '.repeat(text.length);

/** What is known while a read-me is read for its settings: the keys, what it spoke of last, and what it asked. */
export class ReadSoFar {
  readonly index: KeyIndex;
  readonly found: SettingProposal[] = [];
  /** The files spoken of last, and how long ago. */
  files: number[] = [];
  section: string | undefined;
  sectionLine = 0;
  /** The block that something new comes into, and the line that says so. */
  within: { file: KnownFile; path: readonly string[]; line: number } | undefined;
  lastItem: string | undefined;
  /** The key that the sentence before spoke of. */
  lastKey: readonly KnownKey[] | undefined;
  /** The list to which a name is to be added that the next line says, and the line that asks for it. */
  listWaits: { list: NameList; line: number } | undefined;
  lastList: KnownKey | undefined;
  /** The sentence before asks for one more line, so the next may be nothing but what is to stand in it. */
  lineWaits = false;
  readonly packNames: Map<string, string>;
  /** What the pack brings, by its name in the game: its one folder, its one file, or itself where it stays whole. */
  private readonly own: string | undefined;
  /** The names of several files of one kind that are all that it brings; undefined where it brings something else. */
  private readonly several: readonly string[] | undefined;
  /** The folder of the game that it goes into by its own name. */
  readonly ownPlace: string | undefined;
  /** What the files in its one folder are called, without their endings. */
  private readonly partNames: ReadonlySet<string>;
  /** Is the pack nothing but texts for the reader? Then these speak of settings. */
  readonly isAllItIs: boolean;
  /** What was asked of each key so far. */
  private readonly asked = new Map<KnownKey, string>();
  /** What was asked to come to each list so far. */
  private readonly more = new Map<KnownKey, Set<string>>();

  constructor(
    private readonly input: SettingsInput,
    readonly text: string,
  ) {
    this.index = new KeyIndex(input.documents);
    this.packNames = new Map();
    const { entries: all = [], readMe } = input;
    const entries = all.filter(({ path }) => path !== readMe?.path);
    const whole = wholeOf(input);
    this.own = whole ?? ownOf(entries);
    this.several = this.own === undefined ? severalOf(entries) : undefined;
    this.partNames = partNamesOf(entries, input);
    this.ownPlace = this.own === undefined ? undefined : placeOf(this.own, entries, input);
    this.isAllItIs = all.length > 0 && forTheGame(entries).length === 0;
    const names = [...entries.slice(0, 5000).map(({ path }) => path), ...(whole === undefined ? [] : [whole])];
    for (const path of names) {
      const name = baseName(path);
      this.packNames.set(nameKey(name), name);
      this.packNames.set(nameKey(stemOf(name)), stemOf(name));
      // What stands before all endings, where the game has names of two words: `chapel` of `chapel.room.json`.
      const [bare = ''] = name.split('.');
      if (bare.length >= 3) this.packNames.set(nameKey(bare), bare);
      for (const folder of parentOf(path).split('/')) if (folder !== '') this.packNames.set(nameKey(folder), folder);
    }
  }

  /** What the pack brings, by its name: with its ending only where the names that it is to stand among have theirs. */
  ownName(like = ''): string | undefined {
    const { own } = this;
    if (own === undefined || !this.packNames.has(nameKey(stemOf(own)))) return own;
    return extensionOf(own) === extensionOf(like) ? own : stemOf(own);
  }

  /** The same, or those of the several files that it brings, where a sentence speaks of “their names”. */
  ownNames(like: string | undefined, sentence: string): string[] {
    const own = this.ownName(like);
    if (
      own !== undefined ||
      !/(?<!\p{L})(?:(?:their|all|ihre|sus|leurs) (?:names?|namen|nombres|noms)|(?:name|list|contain|include|mention|hold|know) (?:them|both))(?!\p{L})/iu.test(
        sentence,
      )
    )
      return own === undefined ? [] : [own];
    return (this.several ?? []).map((name) => (extensionOf(name) === extensionOf(like ?? '') ? name : stemOf(name)));
  }

  /** A word as the pack spells what it names; what stands in quotes is written so. */
  spelled({ text, key, quoted }: Token): string {
    return quoted ? text : (this.packNames.get(key) ?? text);
  }

  /** The one file that is spoken of. */
  get onlyFile() {
    const [file] = this.files;
    return this.files.length === 1 && file !== undefined ? this.index.files[file] : undefined;
  }

  filesIn(tokens: readonly Token[], sentence: string): number[] {
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

  /** Of several places the one that is meant; all of them where each is; none where that is not said. */
  narrow(places: readonly KnownKey[], tokens: readonly Token[], sentence: string): readonly KnownKey[] {
    if (places.length < 2) return places;
    const named = this.bestNamed(places, tokens, sentence);
    // “both Use entries”
    const at = tokens.findIndex(({ key }) => key === named[0]?.name);
    const isEach = named.length <= MOST_AT_ONCE && at > 0 && EACH.test(tokens[at - 1]?.key ?? '');
    if (isEach && !named.some(({ items }) => items)) return named;
    const lists = named.filter(({ items }) => items);
    const kept =
      lists.length > 0 && ADDING.test(sentence)
        ? lists
        : withOldValue(
            named.filter(({ items }) => !items),
            tokens,
          );
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

  /** Those of which a sentence names the most of what they lie in. */
  private bestNamed(places: readonly KnownKey[], tokens: readonly Token[], sentence: string): KnownKey[] {
    const words = new Set(tokens.map(({ text }) => bareKey(text)));
    const low = nameKey(sentence);
    const section = this.section === undefined ? undefined : bareKey(this.section);
    const isNamed = (above: string) => words.has(above) || low.includes(`[${above}]`) || above === section;
    const mentioned = (place: KnownKey) =>
      Number(words.has(bareKey(this.index.nameOf(place) ?? ''))) +
      place.path.slice(0, -1).filter((above) => isNamed(bareKey(above))).length;
    const most = Math.max(...places.map(mentioned));
    return places.filter((place) => mentioned(place) === most);
  }

  /** Files in the folder of the program, or in the player's, where a sentence names one of the two. */
  private inRootSpokenOf(files: readonly number[], sentence: string): number[] {
    const [program] = this.input.card.roots;
    const said = program && rootSpokenOf(sentence);
    if (!program || said === undefined) return [];
    const isIn = (file: number) => this.index.files[file]?.target.startsWith(`${program.id}/`) === true;
    return files.filter((file) => isIn(file) === (said === 'program'));
  }

  /** Of several files the ones that are spoken of: by their folder, by where the pack goes, or each of them. */
  meantFiles(files: readonly number[], sentence: string): number[] {
    const names = new Set(files.map((file) => this.index.files[file]?.name));
    const target = (file: number) => nameKey(this.index.files[file]?.target ?? '');
    if (names.size > 1) {
      const shallow = Math.min(...files.map((file) => target(file).split('/').length));
      const top = files.filter((file) => target(file).split('/').length === shallow);
      return top.length === 1 ? top : [];
    }
    const ofRoot = this.inRootSpokenOf(files, sentence);
    if (ofRoot.length > 0 && ofRoot.length < files.length) return ofRoot;
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

  /**
   * A word that names something in the pack, and is not only a small word. What lies in the one folder that a pack
   * brings is named with its ending: `road.toml` in each road is no road.
   */
  readonly isOfPack = (key: string): boolean =>
    this.packNames.has(key) && !NEVER.has(key) && !(this.partNames.has(key) && key !== nameKey(this.own ?? ''));

  fileOf(place: KnownKey): TargetPath {
    return (this.index.files[place.file] as { target: TargetPath }).target;
  }

  /** The value of a key with what was asked of it so far: what comes to it comes to that. */
  valueSoFar(place: KnownKey): string {
    return this.asked.get(place) ?? place.value;
  }

  isAskedFor(place: KnownKey): boolean {
    return this.asked.has(place);
  }

  push(place: KnownKey, value: string, line: number): void {
    const now = place.value;
    const written = /^".*"$/.test(now) && !/^".*"$/.test(value) ? `"${value}"` : value;
    this.asked.set(place, written);
    this.found.push({ kind: 'key', file: this.fileOf(place), path: [...place.path], value: written, line, now });
  }

  /** More items behind those that a list holds and that were asked for before, each with the line that asks for it. */
  pushItems(list: KnownKey, items: readonly { value: string; line: number }[]): void {
    const file = this.fileOf(list);
    const more = this.more.get(list) ?? new Set<string>();
    this.more.set(list, more);
    for (const { value, line } of items) {
      if (more.has(nameKey(value))) continue;
      const path = itemPath(list, (list.items?.length ?? 0) + more.size);
      this.found.push({ kind: 'key', file, path, value, line });
      more.add(nameKey(value));
    }
  }

  /** A key that the file does not have yet, in a section of it where it has sections. */
  pushNew(file: number, { section, name, value, line }: NewKey): void {
    const known = this.index.files[file];
    if (!known) return;
    const sections = [
      ...new Set(known.document.entries().flatMap(({ path }) => (path.length === 2 ? [path[0] as string] : []))),
    ];
    const home = section === undefined ? undefined : sections.find((one) => bareKey(one) === bareKey(section));
    if (section === undefined ? sections.length > 0 : home === undefined) return;
    // A number is the name of a key only among such: `3=cheeses` below `2=drinks`.
    const beside = known.document.entries().flatMap(({ path }) => (path[0] === home ? [path[1] ?? ''] : []));
    const isNumber = /^\d{1,4}$/.test(name) && beside.some((one) => /^\d+$/.test(one));
    if (!isNumber && !/^[\p{L}_][\p{L}\p{N}_.:-]*$/u.test(name)) return;
    this.found.push({ kind: 'key', file: known.target, path: home === undefined ? [name] : [home, name], value, line });
  }
}

/** “Bells go from 6 to 8”: of several places those that hold what goes away; all where none does. */
function withOldValue(places: readonly KnownKey[], tokens: readonly Token[]): readonly KnownKey[] {
  const gone = new Set(tokens.flatMap(({ key }, i) => (OLD.test(tokens[i - 1]?.key ?? '') ? [key] : [])));
  const holding = places.filter(({ value }) => gone.has(nameKey(value)));
  return holding.length > 0 ? holding : places;
}

interface NewKey {
  section: string | undefined;
  name: string;
  value: string;
  line: number;
}
