/** A section whose name ends in a number: `[hull 3]`. */
const NUMBERED = /^([ \t]*\[[ \t]*)(.*?)([ \t]*)(\d{1,6})([ \t]*\][ \t]*)$/;

interface Section {
  name: string;
  stem: string;
  number: number;
  /** Its lines below the head, without what only looks different. */
  body: string;
}

function sectionsOf(text: string): Section[] {
  const found: Section[] = [];
  for (const line of text.split(/\r\n|\n|\r/)) {
    const head = NUMBERED.exec(line);
    if (head)
      found.push({
        name: `${head[2]}${head[3]}${head[4]}`,
        stem: (head[2] ?? '').toLowerCase(),
        number: Number(head[4]),
        body: '',
      });
    else if (/^[ \t]*\[.*\][ \t]*$/.test(line)) found.push({ name: '', stem: '', number: -1, body: '' });
    else {
      const last = found.at(-1);
      if (last && line.trim() !== '') last.body += `${line.trim()}\n`;
    }
  }
  return found.filter(({ number }) => number >= 0);
}

/**
 * Numbered sections that two versions of a text both added under one number are different things: those of the upper
 * one take the next free numbers. Common practice: after 0 to 9 comes 10.
 *
 * @returns the upper text with other heads where needed, and which
 */
export function renumberSections(
  base: string,
  lower: string,
  upper: string,
): { text: string; renamed: { from: string; to: string }[] } {
  const key = ({ stem, number }: Section) => `${stem} ${number}`;
  const [before, below, above] = [base, lower, upper].map((text) => sectionsOf(text)) as [
    Section[],
    Section[],
    Section[],
  ];
  const known = new Set(before.map(key));
  const taken = new Map(below.map((section) => [key(section), section]));
  const highest = new Map<string, number>();
  for (const { stem, number } of [...before, ...below, ...above])
    highest.set(stem, Math.max(highest.get(stem) ?? -1, number));
  const renamed = new Map<string, { from: string; to: string; number: number }>();
  for (const section of above) {
    const other = taken.get(key(section));
    if (known.has(key(section)) || !other || other.body === section.body || renamed.has(key(section))) continue;
    const number = (highest.get(section.stem) ?? 0) + 1;
    highest.set(section.stem, number);
    renamed.set(key(section), { from: section.name, to: section.name.replace(/\d+$/, String(number)), number });
  }
  if (renamed.size === 0) return { text: upper, renamed: [] };
  const text = upper.replace(/[^\r\n]+/g, (line) => {
    const head = NUMBERED.exec(line);
    const change = head && renamed.get(`${(head[2] ?? '').toLowerCase()} ${Number(head[4])}`);
    return change ? `${head[1]}${head[2]}${head[3]}${change.number}${head[5]}` : line;
  });
  return { text, renamed: [...renamed.values()].map(({ from, to }) => ({ from, to })) };
}
