import { baseName, nameKey, parentOf, stemOf, type TargetPath } from '../paths/paths';
import type { SettingsDocument } from '../settings/document';
import { MOST_ENTRIES, commandsOf, isEmptyList, isList, isPluralOf, namesOf, type NameList } from './listsInFiles';
import { NEVER, isOneQuoted, isSwitch, type Token, unquoted } from './settingsWords';

/** A value of one of the game's settings files. */
export interface KnownKey {
  file: number;
  path: string[];
  value: string;
  /** The key's own name as it is looked for: without `@` and a number of repetition. */
  name: string;
  /** A list whose items are named by numbers, or are elements of one name: all of them. */
  items?: string[];
  /** What it is called by, as it is spelled, where that is not the last of its path: `<option name="Tide" …>`. */
  spelled?: string;
  /** The name of those elements. */
  element?: string;
  /** The number of the first item: `1=rooms`, `2=drinks`. */
  from?: number;
}

export interface KnownFile {
  target: TargetPath;
  document: SettingsDocument;
  name: string;
}

/** Where an item of a list stands, counted from 0. */
export const itemPath = (
  { path, element, from = 0 }: Pick<KnownKey, 'path' | 'element' | 'from'>,
  item: number,
): string[] => [...path, element === undefined ? String(from + item) : item === 0 ? element : `${element}#${item + 1}`];

/** A key's name without what only the form adds, as it is spelled. */
export const bareName = (name: string): string => name.replace(/^@/, '').replace(/#\d+$/, '');

/** The same as names are compared. */
export const bareKey = (name: string): string => nameKey(bareName(name));

/** The words of a name: `max_crates`, `maxCrates` and `Max-Crates` are two. */
const wordsOf = (name: string): string[] =>
  nameKey(name.replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2'))
    .split(/[\s_.-]+/)
    .filter((word) => word !== '');

/** What stands beside the name of an option. */
const VALUES = ['value', 'Value', 'VALUE', 'val', 'setting'];

/** The settings files of a game, prepared for being spoken of. */
export class KeyIndex {
  readonly files: KnownFile[];
  private readonly byName = new Map<string, KnownKey[]>();
  private readonly lists: KnownKey[] = [];
  private readonly byValue = new Map<string, KnownKey[]>();
  /** Names of several words, by those without what joins them: `harbour_lights`, `HarbourLights`. */
  private readonly byWords = new Map<string, string>();
  private readonly nameBlocks: NameList[] = [];
  private readonly containers = new Map<string, Set<number>>();
  private readonly folderNames: ReadonlySet<string>;

  constructor(documents: readonly { target: TargetPath; document: SettingsDocument }[]) {
    this.files = documents.map(({ target, document }) => ({ target, document, name: nameKey(baseName(target)) }));
    this.folderNames = new Set(documents.flatMap(({ target }) => nameKey(parentOf(target)).split('/').slice(1)));
    this.files.forEach((_, file) => this.addFile(file));
  }

  private addFile(file: number): void {
    const { document } = this.files[file] as KnownFile;
    // Names in lines are no keys to be set.
    if (this.namesIn(file)) return;
    const blocks = namesOf(document);
    this.nameBlocks.push(...blocks.map((list) => ({ ...list, file })));
    const inBlocks = new Set(blocks.map(({ path }) => path.join('\n')));
    const seen = { lists: new Map<string, KnownKey>(), elements: new Map<string, KnownKey>() };
    for (const { path, value } of document.entries().slice(0, MOST_ENTRIES)) {
      for (const above of path.slice(0, -1)) {
        const files = this.containers.get(bareKey(above)) ?? new Set<number>();
        this.containers.set(bareKey(above), files.add(file));
      }
      if (inBlocks.has(path.slice(0, -1).join('\n'))) continue;
      this.addKey({ file, path, value, name: bareKey(path.at(-1) ?? '') }, document, seen);
    }
  }

  private addKey(
    known: KnownKey,
    document: SettingsDocument,
    seen: Record<'lists' | 'elements', Map<string, KnownKey>>,
  ) {
    const { path, value } = known;
    const last = path.at(-1) ?? '';
    const element = /^([^@#]+?)(?:#\d+)?$/.exec(last)?.[1];
    if (element !== undefined && path.length > 1) this.addElement(known, element, seen.elements);
    // An item of a list is not called by its number: that is a value.
    if (/^\d+$/.test(last) && (path.length > 1 || isList(document))) this.addItem(known, seen.lists);
    else if (isEmptyList(document, known)) this.add(this.byName, known.name, { ...known, items: [], from: 0 });
    else this.add(this.byName, known.name, known);
    const words = wordsOf(last.replace(/^@/, ''));
    if (words.length > 1) this.byWords.set(words.join(' '), bareName(last));
    // As it is written, too: `Size W`.
    if (last.includes(' ')) this.byWords.set(nameKey(last), last);
    if (path.length > 1) this.addStandIns(known, last, document);
    const bare = nameKey(unquoted(value));
    if (bare.length >= 3 && !/^(?:[\d.]+|true|false|yes|no|off)$/.test(bare)) this.add(this.byValue, bare, known);
  }

  /** An item of a list, which bears the name of what it is in. */
  private addItem({ file, path, value }: KnownKey, lists: Map<string, KnownKey>): void {
    const above = path.slice(0, -1);
    const id = above.join('\n');
    // A file that is one list bears its own name.
    const name = bareKey(above.at(-1) ?? stemOf(this.files[file]?.name ?? ''));
    const list = lists.get(id) ?? { file, path: above, value: '', name, items: [], from: Number(path.at(-1)) };
    if (!lists.has(id)) {
      lists.set(id, list);
      this.add(this.byName, list.name, list);
    }
    list.items?.push(value);
  }

  /** Names that stand for a value beside them or below them. */
  private addStandIns(known: KnownKey, last: string, document: SettingsDocument): void {
    const { file, path, value } = known;
    // `<option name="rain" value="0"/>`: the name that an element is told by stands for its value.
    if (/^@?(?:name|id|key)$/i.test(last)) {
      const beside = VALUES.map((of) => [...path.slice(0, -1), `${last.startsWith('@') ? '@' : ''}${of}`]);
      // Or for the text of the element: `<option name="rain">0</option>`.
      const own = last.startsWith('@') ? path.slice(0, -1) : undefined;
      const at = [...beside, own].find((one) => one && document.get(one) !== undefined);
      const name = bareKey(value);
      if (at) this.add(this.byName, name, { file, path: at, value: document.get(at) ?? '', name, spelled: value });
    }
    // “dust is to be off” for `dust: { on: true }`.
    const above = bareKey(path.at(-2) ?? '');
    if (/^@?(?:on|enabled|active)$/i.test(last) && isSwitch(value) && !/^\d+$/.test(above))
      this.add(this.byName, above, { ...known, name: above });
  }

  /**
   * Elements of one name beside each other are a list that bears the name of what they are in; one alone is so where
   * that name says it: `<mods><mod>…`.
   */
  private addElement(known: KnownKey, element: string, seen: Map<string, KnownKey>): void {
    const above = known.path.slice(0, -1);
    const id = [...above, element].join('\n');
    const name = bareKey(above.at(-1) ?? '');
    const before = seen.get(id);
    if (before?.items) before.items.push(known.value);
    else if ((before && known.path.at(-1) !== element) || isPluralOf(name, nameKey(element))) {
      const items = [...(before ? [before.value] : []), known.value];
      const list = { file: known.file, path: above, value: '', name, items, element };
      seen.set(id, list);
      this.add(this.byName, name, list);
    } else seen.set(id, known);
  }

  private add(map: Map<string, KnownKey[]>, name: string, key: KnownKey): void {
    if (key.items) this.lists.push(key);
    const known = map.get(name);
    if (known) known.push(key);
    else map.set(name, [key]);
  }

  keys(name: string): readonly KnownKey[] {
    return this.byName.get(bareKey(name)) ?? [];
  }

  /** The key that is called so in plain words: “harbour lights”. */
  inWords(words: readonly string[]): string | undefined {
    return this.byWords.get(words.map(nameKey).join(' '));
  }

  /**
   * The one key of a file whose words are all in a sentence, in any order and form: “unsigned content is allowed” for
   * `allowUnsigned`.
   */
  spokenOf(file: number, said: readonly string[]): KnownKey | undefined {
    const isSaid = (word: string) =>
      word.length >= 3 && said.some((one) => one.startsWith(word) && one.length - word.length <= 4);
    const found = [...this.byWords].filter(([words]) => words.split(' ').every(isSaid));
    const places = found.flatMap(([, name]) => this.keys(name)).filter((key) => key.file === file && !key.items);
    return places.length === 1 ? places[0] : undefined;
  }

  /** Keys of a name, or of a name with those above it, with dots between: `graphics.quality`. */
  called(name: string): readonly KnownKey[] {
    const whole = this.keys(name);
    const parts = name.split('.').map(bareKey);
    const last = parts.pop();
    if (whole.length > 0 || last === undefined || parts.length === 0) return whole;
    return this.keys(last).filter(({ path }) =>
      parts.every((part, i) => bareKey(path.at(i - parts.length - 1) ?? '') === part),
    );
  }

  /** What the thing is called that a key belongs to: the name or id beside it. */
  nameOf({ file, path }: KnownKey): string | undefined {
    const above = path.slice(0, -1);
    return ['@name', '@id', 'name', 'id']
      .map((name) => this.files[file]?.document.get([...above, name]))
      .find((one) => one !== undefined);
  }

  /** Keys that hold a value. */
  holding(value: string): readonly KnownKey[] {
    return this.byValue.get(nameKey(value)) ?? [];
  }

  /** Keys of a file that hold a value, whatever that is. */
  withValue(file: number, value: string): KnownKey[] {
    const all = [...this.byName.values()].flat().filter((key) => key.file === file && !key.items);
    return all.filter((key) => nameKey(unquoted(key.value)) === nameKey(value));
  }

  /** Is this a section, or something that holds keys? */
  isContainer(name: string): boolean {
    return this.containers.has(bareKey(name));
  }

  /** Files of which a word speaks: by their name, or by a path that ends in it. */
  filesNamed(word: string): number[] {
    const key = nameKey(word.replaceAll('\\', '/')).replace(/^(?:\.{1,2}\/)+/, '');
    if (key.length < 3) return [];
    const names = key.split('/');
    // What stands before the game's own folders says where they lie on the computer.
    for (let from = 0; from < names.length; from++) {
      const end = `/${names.slice(from).join('/')}`;
      const found = this.files.flatMap(({ target }, i) => (`/${nameKey(target)}`.endsWith(end) ? [i] : []));
      if (found.length > 0 || this.folderNames.has(names[from] as string)) return found;
    }
    return [];
  }

  /** The one file of which a text has the name of a key as a word, but for small words; none where several have. */
  filesWithWordsOf(text: string): number[] {
    const words = new Set(text.match(/[\p{L}\p{N}_.-]{3,}/gu)?.map((word) => bareKey(word.replace(/[.-]+$/, ''))));
    const files = new Set(
      [...words].flatMap((word) => (NEVER.has(word) ? [] : this.keys(word).map(({ file }) => file))),
    );
    return files.size === 1 ? [...files] : [];
  }

  /** Is a file a list of names, one on each line, and nothing else? Undefined where it is not. */
  namesIn(file: number): NameList | undefined {
    const document = this.files[file]?.document;
    const whole = document && namesOf(document).find(({ path }) => path.length === 0);
    return whole && { ...whole, file };
  }

  /** The one block of names that a word calls, in the files given, or in any where there are none. */
  namesInBlock(name: string, files: readonly number[]): NameList | undefined {
    const called = this.nameBlocks.filter(
      ({ path, file }) => bareKey(path.at(-1) ?? '') === bareKey(name) && (files.length === 0 || files.includes(file)),
    );
    return called.length === 1 ? called[0] : undefined;
  }

  /** The one block of names that a file has. */
  onlyBlockIn(file: number): NameList | undefined {
    const [only, other] = this.nameBlocks.filter((one) => one.file === file);
    return other ? undefined : only;
  }

  /** Commands of a file that stand there several times, each with another name: `load heron`, `load tern`. */
  listsOfCommands(file: number): ReadonlyMap<string, readonly string[]> {
    const document = this.files[file]?.document;
    return document ? commandsOf(document).lists : new Map();
  }

  /** Is it an element of a list, or none that holds a value? What is to be written in it is one more item. */
  isElement(name: string): boolean {
    return (
      this.lists.some(({ element }) => element !== undefined && bareKey(element) === bareKey(name)) ||
      this.keys(name).every(({ items }) => items)
    );
  }

  /** Lists whose elements have a name, in the files given, or in all where there are none. */
  listsOf(name: string, files: readonly number[]): KnownKey[] {
    return this.lists.filter(
      ({ element, file }) =>
        element !== undefined && bareKey(element) === bareKey(name) && (files.length === 0 || files.includes(file)),
    );
  }

  /** The one list that a file holds, or of several the one of which something is said in quotes. */
  listIn(file: number, said: readonly Pick<Token, 'key' | 'quoted'>[] = []): KnownKey | undefined {
    const lists = this.lists.filter((list) => list.file === file);
    const [only, other] = lists.length > 1 ? lists.filter(({ items = [] }) => isOneQuoted(said, items)) : lists;
    return other ? undefined : only;
  }

  /** The folder that tells a file apart from others of its name. */
  folderOf(file: number): string {
    return nameKey(parentOf(this.files[file]?.target ?? ''));
  }
}
