/** One item of a value that is a list, with its place in the value. */
interface Item {
  text: string;
  start: number;
  end: number;
}

function itemsOf(value: string, separator: string): Item[] {
  const found: Item[] = [];
  for (let at = 0; at <= value.length;) {
    const cut = value.indexOf(separator, at);
    const end = cut < 0 ? value.length : cut;
    const raw = value.slice(at, end);
    const start = at + (raw.length - raw.trimStart().length);
    if (raw.trim() !== '') found.push({ text: raw.trim(), start, end: start + raw.trim().length });
    if (cut < 0) break;
    at = cut + separator.length;
  }
  return found;
}

/** The items of a value that is a list. @example listItems('a, b', ',') // ['a', 'b'] */
export const listItems = (value: string, separator: string): string[] =>
  itemsOf(value, separator).map(({ text }) => text);

/** The separator between two items as this value writes it, with its blanks. */
function spelledSeparator(value: string, separator: string): string {
  const [first, second] = itemsOf(value, separator);
  return first && second ? value.slice(first.end, second.start) : separator;
}

/**
 * The list with one more item at its end; what was there stays as it was written. An item that is there already is not
 * put in twice.
 *
 * @example withItem('a; b', ';', 'c') // 'a; b; c'
 */
export function withItem(value: string, separator: string, item: string): string {
  const items = itemsOf(value, separator);
  if (items.some(({ text }) => text.toLowerCase() === item.toLowerCase())) return value;
  const last = items.at(-1);
  return last
    ? `${value.slice(0, last.end)}${spelledSeparator(value, separator)}${item}${value.slice(last.end)}`
    : item;
}

/** The list without an item; the others and what stands between them stay as they were. */
export function withoutItem(value: string, separator: string, item: string): string {
  const items = itemsOf(value, separator);
  const at = items.findIndex(({ text }) => text.toLowerCase() === item.toLowerCase());
  const gone = items[at];
  if (!gone) return value;
  const next = items[at + 1];
  const before = items[at - 1];
  if (next) return value.slice(0, gone.start) + value.slice(next.start);
  return before
    ? value.slice(0, before.end) + value.slice(gone.end)
    : value.slice(0, gone.start) + value.slice(gone.end);
}
