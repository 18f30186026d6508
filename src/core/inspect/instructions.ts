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

/**
 * Finds what a read-me tells the player to set. Only lines that stand for themselves count for keys: prose with an
 * equals sign is none.
 *
 * @example readInstructions('[Graphics]\nAddonTextures=1') // [{ kind: 'key', section: 'Graphics', key:
 * 'AddonTextures', value: '1', line: 2 }]
 */
export function readInstructions(text: string): Instruction[] {
  const found: Instruction[] = [];
  let section: string | undefined;
  let numbered: Extract<Instruction, { kind: 'numbered section' }> | undefined;
  const lines = text
    .replace(/^\ufeff/, '')
    .split(/\r\n|\n|\r/)
    .slice(0, 5000);
  lines.forEach((whole, i) => {
    const line = i + 1;
    if (whole.length > LONGEST_LINE) return;
    const header = SECTION.exec(whole);
    if (header) {
      section = (header[1] as string).trim();
      const base = NUMBERED.exec(section)?.[1];
      numbered = base === undefined ? undefined : { kind: 'numbered section', section: base, keys: [], line };
      if (numbered) found.push(numbered);
      return;
    }
    const key = KEY.exec(whole);
    if (key) {
      const [, name = '', value = ''] = key;
      if (numbered) numbered.keys.push({ key: name, value });
      else found.push({ kind: 'key', ...(section === undefined ? {} : { section }), key: name, value, line });
      return;
    }
    // Prose ends what a header began.
    if (/[a-z]{3,}\s+[a-z]{2,}/i.test(whole)) {
      section = undefined;
      numbered = undefined;
    }
    for (const [, element = '', attributes = ''] of whole.matchAll(TAG))
      for (const [, attribute = '', value = ''] of attributes.matchAll(ATTRIBUTE))
        if (!['version', 'encoding', 'xmlns'].includes(attribute))
          found.push({ kind: 'attribute', element, attribute, value, line });
    const speaksOfOptions =
      /\b(launch|start(ing)?[- ](option|parameter)|command[- ]line|option|parameter|shortcut)/i.test(whole) ||
      /^\s*(--?|\+)[a-z][\w-]*/i.test(whole);
    if (speaksOfOptions)
      for (const [, option = ''] of whole.matchAll(OPTION))
        if (/^[-+]/.test(option) && option.replace(/^[-+]+/, '').length > 1)
          found.push({ kind: 'launch option', option: option.replace(/[.,;:)]+$/, ''), line });
  });
  return found.filter((one) => one.kind !== 'numbered section' || one.keys.length > 0).slice(0, 200);
}
