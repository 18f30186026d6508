import { nameKey } from '../paths/paths';
import type { SettingsDocument } from '../settings/document';
import { numberedSections } from '../settings/numbered';
import { commandLine, oneMoreCommand } from './commandLines';
import { bareKey, type KnownFile } from './keyIndex';
import { newMember } from './newMembers';
import { isNoRequest } from './noRequest';
import type { ReadSoFar } from './readSoFar';
import type { SettingProposal } from './settingProposal';
import { AsWritten } from './settingsAsWritten';
import type { SentenceReader } from './settingsInSentences';
import { afterArrow, isNumber, isSwitch, settingsTokens, unquoted } from './settingsWords';

/** Lines belong to a section that the sentence so many lines above speaks of. */
const MOST_LINES_BELOW = 8;

const LIST_ITEM = /^\s*(?:[-*•]|\d{1,2}[.)])\s+\p{L}/u;

/** `"sharp" looks awful, "smooth" is the one to use.`: a value in quotes, and a sentence with another one. */
const GOES_ON = /^"[^"]*",?\s+\p{L}[^"]*"[^"]*"[^"]*[.!?)]$/u;

const BETWEEN_SENTENCES = /(?<=[.!?])\s+(?=\p{Lu}|\d)/u;

type Line = { text: string; line: number };
type Numbered = Extract<SettingProposal, { kind: 'numbered section' }>;

/** Reads lines that stand for themselves, in the form of the file that they are for. */
export class LineReader {
  private readonly written: AsWritten;

  constructor(
    private readonly known: ReadSoFar,
    private readonly sentences: SentenceReader,
  ) {
    this.written = new AsWritten(known);
  }

  read(lines: readonly Line[]): void {
    if (lines.length === 0) return;
    if (this.block(lines)) {
      // Items of the list that the block stands in are sentences.
      for (const { text, line } of lines) if (LIST_ITEM.test(text)) this.sentences.read(text, line);
      return;
    }
    let section: string | undefined;
    let numbered: Numbered | undefined;
    for (const { text: written, line } of lines) {
      const text = afterArrow(written);
      const header = /^\s*\[([^\]]{1,80})\]\s*$/.exec(text)?.[1]?.trim();
      if (header === undefined) this.line({ text, line }, section, numbered);
      else {
        section = header;
        numbered = this.numberedFor(header, line);
        if (numbered) this.known.found.push(numbered);
      }
    }
  }

  /** One line below a section, or below none. */
  private line({ text, line }: Line, section: string | undefined, numbered: Numbered | undefined): void {
    if (/^\s*</.test(text)) return this.tags(text, line);
    const [, name, raw = ''] = /^\s*(?:set\w?\s+)?"?([^\s="“”][^="]{0,60}?)"?\s*=\s*(.*?)\s*$/.exec(text) ?? [];
    if (name === undefined) {
      if (!commandLine(text, line, true, this.known) && !oneMoreCommand(text.trim(), line, this.known))
        this.sentences.read(text, line);
      return;
    }
    if (section === undefined && (GOES_ON.test(raw) || this.hasMore(raw))) return this.inSentences(text, line);
    if (/\S\s+\S/.test(raw) && isNoRequest(text, text.indexOf(name), name.length)) return;
    const value = this.withoutProse(name, raw.replace(/\s+[;#].*$/, ''));
    if (numbered) numbered.keys.push({ key: name, value });
    else this.put(section, name, value, line);
  }

  /** `<most>8</most> limits your trains. 16 works well.`: a line of tags may go on, and tell what is so already. */
  private tags(text: string, line: number): void {
    const [first = '', ...more] = text.split(BETWEEN_SENTENCES);
    const before = this.known.found.length;
    this.written.tags(first, line);
    if (more.length === 0) return;
    if (this.known.found.slice(before).every((one) => one.kind === 'key' && one.value === one.now)) {
      this.known.found.length = before;
      this.sentences.read(first, line);
    }
    for (const sentence of more) this.sentences.read(sentence, line);
  }

  /** “NightDigs=1 turns the lamps on. Tides=fast is wise.”: a line that goes on with other sentences. */
  private inSentences(text: string, line: number): void {
    for (const sentence of text.split(BETWEEN_SENTENCES)) this.sentences.read(sentence, line);
  }

  /** `Fog=0, Rain=1`, `wide="no" tall="yes"`: stands another key behind the value? */
  private hasMore(value: string): boolean {
    const others = [...value.matchAll(/[\s,;(]["'“]?([\p{L}_][\p{L}\p{N}_.-]*)["'”]?\s*=\s*\S/gu)];
    return others.some(([, name = '']) => this.known.index.keys(name).length > 0);
  }

  /** “CHEAT=1 in game.cfg and all is yours.”: what goes on as a sentence is no part of the value. */
  private withoutProse(name: string, value: string): string {
    // `whistle = "double" sounds better.`
    const inQuotes = /^("[^"]*")\s+\p{Ll}.*[.!?)]$/u.exec(value)?.[1];
    const first = inQuotes ?? this.plainFirst(name, value);
    if (first !== undefined) return first;
    const told = this.plainTold(value);
    if (told !== undefined) return told;
    const cut =
      /^("[^"]*"|[^\s"]+)\s+(?:in|under|inside|and|to|for|if|then|so|or|which|that|will|makes?|gives?|und|oder|für|damit|y|o|para|et|ou|pour)\s/iu.exec(
        value,
      )?.[1];
    if (cut === undefined) return value;
    return /[.!?]$/.test(value) ||
      value.split(/\s+/).some((word) => this.known.index.filesNamed(word.replace(/[,;:.!?)]+$/, '')).length > 0)
      ? cut
      : value;
  }

  /** A value, and behind a comma or in brackets what is said of it, or the file. */
  private plainTold(value: string): string | undefined {
    // “Rats=0, of course.”
    const plain = /^("[^"]*"|[^\s",]+),\s+\p{L}.*[.!?]$/u.exec(value)?.[1];
    if (plain !== undefined && (plain.startsWith('"') || isNumber(plain) || isSwitch(plain))) return plain;
    // “speed = 1.5 (larder.ini)”
    const [, told, where = ''] = /^("[^"]*"|[^\s"(]+)\s*\(([^)]*)\)\.?$/.exec(value) ?? [];
    const isFile = where.split(/[\s,;]+/).some((word) => this.known.index.filesNamed(word).length > 0);
    return isFile ? told : undefined;
  }

  /** “SkipIntro=1 saves you some time.”: where a number or a switch stands now, words are no part of it. */
  private plainFirst(name: string, value: string): string | undefined {
    const [, first = ''] = /^"?([^\s",]+)"?\s+\p{L}.*\s/u.exec(value) ?? [];
    const isPlain = (one: string) => isNumber(one) || isSwitch(one);
    const now = isPlain(first) ? this.known.index.keys(name).filter(({ items }) => !items) : [];
    return now.length > 0 && now.every((place) => isPlain(unquoted(place.value))) ? first : undefined;
  }

  private put(section: string | undefined, name: string, value: string, line: number): void {
    const all = this.known.index
      .called(name)
      .filter(
        ({ items, path }) =>
          !items && (section === undefined || path.slice(0, -1).some((above) => bareKey(above) === bareKey(section))),
      );
    const scoped = this.known.files.length > 0 ? all.filter(({ file }) => this.known.files.includes(file)) : all;
    const places = scoped.length > 0 ? scoped : all;
    const tokens = settingsTokens(`${section ?? ''} ${name}`);
    const meant = this.known.narrow(places, tokens, section === undefined ? '' : `[${section}]`);
    for (const place of meant) this.known.push(place, value, line);
    if (places.length > 0) return;
    const files =
      this.known.files.length === 1
        ? this.known.files
        : this.known.index.files.flatMap(({ document }, i) =>
            section !== undefined &&
            document.entries().some(({ path }) => path.length > 1 && bareKey(path[0] as string) === bareKey(section))
              ? [i]
              : [],
          );
    // “Add below [Packs]:”, and the lines right after it.
    const home = section ?? (line - this.known.sectionLine <= MOST_LINES_BELOW ? this.known.section : undefined);
    if (files.length === 1) this.known.pushNew(files[0] as number, { section: home, name, value, line });
  }

  /** Lines in the form of a file that is spoken of: braces, JSON. */
  private block(lines: readonly Line[]): boolean {
    const whole = lines.map((one) => one.text).join('\n');
    if (!/[{}]|^\s*"[^"]+"\s*:/m.test(whole)) return false;
    const scope = this.known.files.length > 0 ? this.known.files : this.known.index.files.map((_, i) => i);
    const first = lines[0]?.line ?? 1;
    const plain = this.written.names(whole, first, this.known.files);
    const text = this.written.lists(plain, first, scope);
    const pairs = [
      ...text.matchAll(/"?([\w.-]+)"?\s*[:=]?\s+("[^"]*"|[^\s{}",]+)\s*,?\s*(?=$|[}\n])/gm),
      ...text.matchAll(/"([^"]+)"\s*:\s*("[^"]*"|[^\s{}",]+)/g),
    ];
    let any = text !== whole;
    for (const [said, name = '', value = ''] of pairs) {
      const places = this.known.index.keys(name).filter(({ file, items }) => scope.includes(file) && !items);
      const line =
        lines.find((one) => one.text.includes(said.trim().split('\n')[0] ?? ''))?.line ?? lines[0]?.line ?? 1;
      if (this.known.index.keys(name).length === 0 && newMember(name, unquoted(value), line, this.known)) any = true;
      for (const place of this.known.narrow(places, settingsTokens(text.replace(/[{}:,]/g, ' ')), text)) {
        this.known.push(place, unquoted(value), line);
        any = true;
      }
    }
    return any;
  }

  /** `[coat X]`, `[coat.XX]`, or a number that is not there yet, where the file has such sections. */
  private numberedFor(header: string, line: number): Numbered | undefined {
    const [, stem = '', mark = ''] =
      /^(.*?\p{L}[\p{L}\p{N}]*?)[ .:_-]*(\d+|N{1,3}|X{1,3}|Y|Z|#+|\?+|n{1,3}|x{1,3}|\.{2,3}|…|<[^>]*>|_+)$/u.exec(
        header,
      ) ?? [];
    if (nameKey(stem) === '') return undefined;
    const literal = /^\d+$/.test(mark);
    const file = this.fileWith(stem, literal);
    if (!file) return undefined;
    const sections = sectionsOf(file.document, stem);
    if (literal && (sections.some(({ number }) => number === Number(mark)) || sections.length === 0)) return undefined;
    const section = sections.at(-1)?.section.replace(/\d+$/, '').trim() ?? stem;
    return { kind: 'numbered section', file: file.target, section, keys: [], line };
  }

  /** The file with such sections; where none has any and no number is said, the one that is spoken of. */
  private fileWith(stem: string, literal: boolean): KnownFile | undefined {
    const { index, files: spoken } = this.known;
    const files = index.files.flatMap(({ document }, i) => (sectionsOf(document, stem).length > 0 ? [i] : []));
    const scoped = files.filter((file) => spoken.includes(file));
    const meant = scoped.length > 0 ? scoped : files;
    const chosen = meant.length > 1 ? this.known.meantFiles(meant, this.known.text) : meant;
    if (chosen.length === 0) return literal ? undefined : this.known.onlyFile;
    return chosen.length === 1 ? index.files[chosen[0] as number] : undefined;
  }
}

/** Sections of a name with numbers behind it, whatever stands between. */
function sectionsOf(document: SettingsDocument, stem: string) {
  for (const separator of ['', ' ', '.', '_', '-']) {
    const sections = numberedSections(document, stem + separator);
    if (sections.length > 0) return sections;
  }
  return [];
}
