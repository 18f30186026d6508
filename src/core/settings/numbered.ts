import type { SettingsDocument } from './document';
import type { Edit } from './edits';

/** A section whose name ends in a number, with its keys in order. */
export interface NumberedSection {
  number: number;
  /** As it is written: `hull 3`. */
  section: string;
  keys: { key: string; value: string }[];
}

/**
 * The sections `[stem N]` of a file, by number. Of equal numbers the game reads one; both are given.
 *
 * @param stem what stands before the number: `hull`
 */
export function numberedSections(document: SettingsDocument, stem: string): NumberedSection[] {
  const found = new Map<string, NumberedSection>();
  for (const { path, value } of document.entries()) {
    const [section = '', key, more] = path;
    if (key === undefined || more !== undefined) continue;
    const fit = /^(.*?)[ \t]*(\d{1,6})$/.exec(section);
    if (!fit || (fit[1] ?? '').trim().toLowerCase() !== stem.trim().toLowerCase()) continue;
    const known = found.get(section) ?? { number: Number(fit[2]), section, keys: [] };
    known.keys.push({ key, value });
    found.set(section, known);
  }
  return [...found.values()].sort((a, b) => a.number - b.number);
}

/** The number that the next section takes. Common practice: after 0 to 9 comes 10; gaps are not filled. */
export const nextNumber = (sections: readonly NumberedSection[], first = 0): number =>
  sections.reduce((highest, { number }) => Math.max(highest, number), first - 1) + 1;

/** Edits that add a section with the next free number. */
export function addNumbered(
  document: SettingsDocument,
  stem: string,
  keys: readonly { key: string; value: string }[],
): Edit[] {
  const sections = numberedSections(document, stem);
  const like = sections.at(-1)?.section.replace(/\d+$/, '') ?? `${stem} `;
  return keys.map(({ key, value }) => ({ path: [`${like}${nextNumber(sections)}`, key], value }));
}

/** Edits that take one section out. */
export const removeNumbered = (section: NumberedSection): Edit[] =>
  section.keys.map(({ key }) => ({ path: [section.section, key] }));

/**
 * Edits that close the gaps: each section takes the place of the one that is missing before it, in order.
 *
 * @returns nothing where the numbers follow one another already
 */
export function renumber(document: SettingsDocument, stem: string, first = 0): Edit[] {
  const sections = numberedSections(document, stem);
  const edits = new Map<string, Edit>();
  const put = (path: string[], value?: string) =>
    edits.set(path.join('\n').toLowerCase(), value === undefined ? { path } : { path, value });
  const wanted = sections.map((section, i) => ({
    section,
    name: section.section.replace(/\d+$/, String(first + i)),
    moves: section.number !== first + i,
  }));
  for (const { section, moves } of wanted) if (moves) for (const { key } of section.keys) put([section.section, key]);
  for (const { section, name, moves } of wanted)
    if (moves) for (const { key, value } of section.keys) put([name, key], value);
  return [...edits.values()];
}
