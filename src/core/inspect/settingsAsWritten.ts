import { nameKey } from '../paths/paths';
import { ATTRIBUTE, TAG } from './instructions';
import { bareKey, type KnownKey } from './keyIndex';
import { bracketed } from './listedNames';
import { blank, type ReadSoFar } from './readSoFar';

/** An element that a sentence quotes as it is to be written: what stands in it is meant. */
export const ELEMENT = /<([A-Za-z_][\w.-]*)>([^<>\n]{1,80})<\/\1>/g;

/** Settings that are written as they stand in their file: commands, tags and lists. */
export class AsWritten {
  constructor(private readonly known: ReadSoFar) {}

  /** `<taxes>high</taxes>` for an element that holds a value. */
  private texts(text: string, line: number): void {
    for (const [, name = '', value = ''] of text.matchAll(ELEMENT)) {
      const { files, index } = this.known;
      const all = index.isElement(name) ? [] : index.keys(name);
      const scoped = all.filter(({ file }) => files.includes(file));
      for (const place of this.known.narrow(scoped.length > 0 ? scoped : all, [], text))
        this.known.push(place, value, line);
    }
  }

  tags(text: string, line: number): void {
    this.texts(text, line);
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

  /**
   * `"enabled": ["base", "salt"]`: a list as it is to be, where it still has all that it holds.
   *
   * @returns the text without it
   */
  lists(text: string, line: number, files: readonly number[]): string {
    return text.replace(LIST_AS_WRITTEN, (whole, _quote, name: string, list: string) => {
      const all = this.known.index.keys(name).filter(({ items, value }) => items ?? bracketed(value));
      const scoped = all.filter(({ file }) => files.includes(file));
      const [place, other] = scoped.length > 0 ? scoped : all;
      if (!place || other) return whole;
      const said = [...(bracketed(list, (one) => one) ?? [])];
      const had = new Set(place.items ? place.items.map(nameKey) : bracketed(place.value));
      const isWhole =
        said.some((one) => MORE.test(one)) || [...had].every((one) => said.some((item) => nameKey(item) === one));
      if (!isWhole) return whole;
      const fresh = said.filter((one) => one !== '' && !MORE.test(one) && !had.has(nameKey(one)));
      if (!place.items) this.known.push(place, list, line);
      else
        this.known.pushItems(
          place,
          fresh.map((value) => ({ value, line })),
        );
      return blank(whole);
    });
  }

  /** `fish = { "herring", "eel", "pike" }`: names as they are to be in a block that has nothing else. */
  names(text: string, line: number, files: readonly number[]): string {
    return text.replace(NAMES_AS_WRITTEN, (whole, name: string, list: string) => {
      const block = this.known.index.namesInBlock(name, files);
      const target = this.known.index.files[block?.file ?? -1]?.target;
      const said = list.split(',').map((one) => one.trim().replace(/^["']|["']$/g, ''));
      const had = new Set(block?.names.map(nameKey));
      if (!block || !target || ![...had].every((one) => said.some((item) => nameKey(item) === one))) return whole;
      for (const one of said)
        if (one !== '' && !MORE.test(one) && !had.has(nameKey(one)))
          this.known.found.push({ kind: 'key', file: target, path: [...block.path, one], value: '', line });
      return blank(whole);
    });
  }

  /** `workshop:` and, set in below it, `enabled: true`: keys below those that hold them, as the file has them. */
  nested(text: string): void {
    const above: { indent: number; name: string }[] = [];
    for (const [i, whole] of text.split(/\r\n|\n|\r/).entries()) {
      const [, blanks = '', name, said = ''] =
        /^([ \t]*)["']?([\w.-]{1,60})["']?[ \t]*:(?:[ \t]+(\S.{0,160}?))?[ \t]*$/.exec(whole) ?? [];
      if (name === undefined) {
        if (!/^[ \t]*(?:$|-[ \t]|#|\.{3}|…)/.test(whole)) above.length = 0;
        continue;
      }
      while ((above.at(-1)?.indent ?? -1) >= blanks.length) above.pop();
      const path = [...above.map((one) => one.name), name];
      above.push({ indent: blanks.length, name });
      const value = said.replace(/\s+#.*$|,$/, '').replace(/^(["'])(.*)\1$/, '$2');
      if (value === '' || path.length < 2) continue;
      const [place, other] = this.known.index
        .keys(name)
        .filter((one) => !one.items && one.path.slice(-path.length).join('\n') === path.join('\n'));
      if (place && !other && place.value !== value) this.known.push(place, value, i + 1);
    }
  }

  /** The lines `- base` and `- salt` below `load:`, where the list holds one of them: the others are to be there. */
  items(text: string): void {
    let list: KnownKey | undefined;
    let items: { value: string; line: number }[] = [];
    const end = () => {
      const had = new Set((list?.items ?? []).map(nameKey));
      const fresh = items.filter(({ value }) => !had.has(nameKey(value)));
      if (list && fresh.length < items.length) this.known.pushItems(list, fresh);
      items = [];
    };
    for (const [i, whole] of text.split(/\r\n|\n|\r/).entries()) {
      const value = /^\s*-\s+(["']?)([^"'\s#][^"'#]{0,80}?)\1\s*$/.exec(whole)?.[2];
      if (list && value !== undefined) items.push({ value, line: i + 1 });
      else {
        end();
        const lists = this.known.index.keys(/^\s*["']?([\w.-]+)["']?\s*:\s*$/.exec(whole)?.[1] ?? '');
        const [only, other] = lists.filter((one) => one.items);
        list = other ? undefined : only;
      }
    }
    end();
  }
}

const LIST_AS_WRITTEN =
  /(["']?)([\p{L}_][\w.-]{0,60})\1\s*(?:[:=]|(?<=\s)(?:becomes?|to|is|be|reads?)(?=\s))\s*(\[[^[\]{}]{0,2000}\])/gu;

const NAMES_AS_WRITTEN =
  /([\p{L}_][\w.-]{0,60})\s*=\s*\{\s*((?:"[^"{}\n]{1,80}"|[\p{L}_][\w.-]*)(?:\s*,\s*(?:"[^"{}\n]{1,80}"|[\p{L}_][\w.-]*|\.{3}))*)\s*,?\s*\}/gu;

/** “and so on”. */
const MORE = /^(?:\.{3}|…)$/;
