/** A number as it is read: 12,345. */
export const figure = (value: number): string => value.toLocaleString('en');

/** How many of something: “1 file”, “12,345 files”. @param many where it is not the one with an s */
export const countOf = (value: number, one: string, many = `${one}s`): string =>
  `${figure(value)} ${value === 1 ? one : many}`;

/** The word or sentence for one of something, or the one for any other number. */
export const oneOr = <Text extends string>(value: number, one: Text, other: Text): Text => (value === 1 ? one : other);

/**
 * Bytes where two sizes are compared, in one unit: whole MB (2^20 bytes). What is needed is rounded up, what is there
 * down.
 */
export const megabytes = (bytes: number, round: 'up' | 'down' = 'up'): string =>
  `${figure((round === 'up' ? Math.ceil : Math.floor)(bytes / 1024 ** 2))} MB`;

/** Bytes for people: 1,024 to a KB. */
export function sizeOf(bytes: number): string {
  if (bytes < 1024) return `${bytes} B`;
  const units = ['KB', 'MB', 'GB', 'TB'];
  let value = bytes / 1024;
  let unit = 0;
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1024;
    unit++;
  }
  return `${value < 10 ? value.toFixed(1) : figure(Math.round(value))} ${units[unit]}`;
}
