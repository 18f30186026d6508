import { nameKey } from '../paths/paths';
import { ATTRIBUTE, TAG } from './instructions';
import { bareKey, itemPath } from './keyIndex';
import { asksForALine } from './listedNames';
import { blank, type ReadSoFar } from './readSoFar';

/** An element that a sentence quotes as it is to be written: what stands in it is meant. */
export const ELEMENT = /<([A-Za-z_][\w.-]*)>([^<>\n]{1,80})<\/\1>/g;

/** Settings that are written as they stand in their file: commands and tags. */
export class AsWritten {
  constructor(private readonly known: ReadSoFar) {}

  /**
   * `set r_bloom 0` for the one file spoken of, which has such commands.
   *
   * @param isLine it stands in a line of its own: then it may be one that the file has
   */
  command(text: string, line: number, isLine = false): boolean {
    const [, word = '', name = '', value = ''] =
      /^\s*([\p{L}_]\w*)\s+([\p{L}_][\w.]*)\s+("[^"]*"|\S+)\s*$/u.exec(text) ?? [];
    const file = this.known.onlyFile;
    if (!file || word === '') return false;
    const commands = file.document.entries().filter(({ path }) => path.length === 2 && path[0] === word);
    const there = commands.find(({ path }) => path[1] === name);
    if (commands.length === 0 || (there && !isLine)) return false;
    this.known.found.push({
      kind: 'key',
      file: file.target,
      path: [word, name],
      value: value.replace(/^"(.*)"$/, '$1'),
      line,
      ...(there ? { now: there.value } : {}),
    });
    return true;
  }

  /**
   * “Add `<harbour>east</harbour>` and set x to 1”: elements of lists are added as they are written.
   *
   * @returns the sentence without them
   */
  elements(sentence: string, line: number): string {
    if (!asksForALine(sentence)) return sentence;
    return sentence.replace(ELEMENT, (whole) => {
      const before = this.known.found.length;
      this.element(whole, line);
      return this.known.found.length > before ? blank(whole) : whole;
    });
  }

  /** `<harbour>east</harbour>` in a line of its own, where the file has several of them. */
  private element(text: string, line: number): void {
    const [, name = '', item = ''] = /^\s*<([\p{L}_][\w.-]*)>([^<>\n]{1,120})<\/\1>\s*$/u.exec(text) ?? [];
    const [list, other] = name === '' ? [] : this.known.index.listsOf(name, this.known.files);
    if (list && !other && !list.items?.some((one) => nameKey(one) === nameKey(item)))
      this.known.found.push({
        kind: 'key',
        file: this.known.fileOf(list),
        path: itemPath(list, list.items?.length ?? 0),
        value: item,
        line,
      });
  }

  tags(text: string, line: number): void {
    this.element(text, line);
    for (const [, element = '', attributes = ''] of text.matchAll(TAG))
      for (const [, attribute = '', value = ''] of attributes.matchAll(ATTRIBUTE)) {
        const places = this.known.index
          .keys(attribute)
          .filter(({ path }) => path.at(-1) === `@${attribute}` && bareKey(path.at(-2) ?? '') === bareKey(element));
        const scoped =
          this.known.files.length > 0 ? places.filter(({ file }) => this.known.files.includes(file)) : places;
        for (const place of this.known.narrow(scoped.length > 0 ? scoped : places, [], text))
          this.known.push(place, value, line);
      }
  }
}
