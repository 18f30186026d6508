/** A line of a read-me that looks like a setting: kept with the pack as a proposal for the Settings step. */
export type Instruction =
  | { kind: 'key'; section?: string; key: string; value: string; line: number }
  | { kind: 'attribute'; element: string; attribute: string; value: string; line: number }
  | { kind: 'launch option'; option: string; line: number }
  | { kind: 'numbered section'; section: string; keys: { key: string; value: string }[]; line: number };

const SECTION = /^\s*\[([^\]\r\n]{1,80})\]\s*$/;
const KEY = /^\s*([A-Za-z_][\w.:-]{1,60})\s*=\s*("[^"]*"|[^\s;#][^;#]{0,120}?)\s*(?:[;#].*)?$/;
/** A tag with attributes, and one attribute of it. */
export const TAG = /<([A-Za-z_][\w.:-]*)((?:\s+[A-Za-z_][\w.:-]*\s*=\s*"[^"<]*")+)\s*\/?>/g;
export const ATTRIBUTE = /([A-Za-z_][\w.:-]*)\s*=\s*"([^"<]*)"/g;
const OPTION = /(?:^|[\s"“`'])((?:--?|\+)[A-Za-z][\w-]*(?:=[^\s"”`',;]+|\s(?=\d|[\w-]+[./\\]\w)[^\s"”`',;]+)?)/g;
const NUMBERED = /^(.*?\S)\s*(?:\d+|N|X|#|\?)$/;

/** Lines of a read-me longer than this are prose. In characters. */
const LONGEST_LINE = 300;

const SPEAKS_OF_OPTIONS = /\b(launch|start(ing)?[- ](option|parameter)|command[- ]line|option|parameter|shortcut)/i;
const BEGINS_WITH_OPTION = /^\s*(--?|\+)[a-z][\w-]*/i;

/**
 * Finds what a read-me tells the player to set. Only lines that stand for themselves count for keys: prose with an
 * equals sign is none.
 *
 * @example readInstructions('[Graphics]\nAddonTextures=1') // [{ kind: 'key', section: 'Graphics', key:
 * 'AddonTextures', value: '1', line: 2 }]
 */
export function readInstructions(text: string): Instruction[] {
  const reading = new Reading();
  const lines = text
    .replace(/^\ufeff/, '')
    .split(/\r\n|\n|\r/)
    .slice(0, 5000);
  lines.forEach((line, i) => line.length <= LONGEST_LINE && reading.take(line, i + 1));
  return reading.found.filter((one) => one.kind !== 'numbered section' || one.keys.length > 0).slice(0, 200);
}

/** Reads line by line; a section's line holds for those below it. */
class Reading {
  readonly found: Instruction[] = [];
  private section: string | undefined;
  private numbered: Extract<Instruction, { kind: 'numbered section' }> | undefined;

  take(text: string, line: number): void {
    const header = SECTION.exec(text)?.[1];
    if (header !== undefined) return this.begin(header.trim(), line);
    const [, key, value = ''] = KEY.exec(text) ?? [];
    if (key !== undefined) return this.takeKey(key, value, line);
    // Prose ends what a header began.
    if (/[a-z]{3,}\s+[a-z]{2,}/i.test(text)) {
      this.section = undefined;
      this.numbered = undefined;
    }
    this.takeTags(text, line);
    if (SPEAKS_OF_OPTIONS.test(text) || BEGINS_WITH_OPTION.test(text)) this.takeOptions(text, line);
  }

  private begin(section: string, line: number): void {
    this.section = section;
    const base = NUMBERED.exec(section)?.[1];
    this.numbered = base === undefined ? undefined : { kind: 'numbered section', section: base, keys: [], line };
    if (this.numbered) this.found.push(this.numbered);
  }

  private takeKey(key: string, value: string, line: number): void {
    const { section, numbered } = this;
    if (numbered) numbered.keys.push({ key, value });
    else this.found.push({ kind: 'key', ...(section === undefined ? {} : { section }), key, value, line });
  }

  private takeTags(text: string, line: number): void {
    for (const [, element = '', attributes = ''] of text.matchAll(TAG))
      for (const [, attribute = '', value = ''] of attributes.matchAll(ATTRIBUTE))
        if (!['version', 'encoding', 'xmlns'].includes(attribute))
          this.found.push({ kind: 'attribute', element, attribute, value, line });
  }

  private takeOptions(text: string, line: number): void {
    for (const [, option = ''] of text.matchAll(OPTION))
      if (/^[-+]/.test(option) && option.replace(/^[-+]+/, '').length > 1)
        this.found.push({ kind: 'launch option', option: option.replace(/[.,;:)]+$/, ''), line });
  }
}
