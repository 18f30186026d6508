/** A number with thousands separated, the same on every machine. */
export const count = (value: number): string => value.toLocaleString('en');

/** Bytes for people: 1,024 to a KB. */
export function size(bytes: number): string {
  if (bytes < 1024) return `${bytes} B`;
  const units = ['KB', 'MB', 'GB', 'TB'];
  let value = bytes / 1024;
  let unit = 0;
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1024;
    unit++;
  }
  return `${value < 10 ? value.toFixed(1) : Math.round(value).toLocaleString('en')} ${units[unit]}`;
}

/** "1 file", "214 files". */
export const many = (value: number, one: string, more = `${one}s`): string => `${count(value)} ${value === 1 ? one : more}`;

/** A target or folder as it is shown: the root's own name first. */
export const place = (target: string, roots: readonly { id: string; title: string }[]): string => {
  const [root = '', ...rest] = target.split('/');
  return [roots.find(({ id }) => id === root)?.title ?? root, ...rest].join('/');
};

/** Date and time of a deployment. */
export const moment = (at: number): string => new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

/** How long something will still take, no finer than it can be known. */
export function timeLeft(milliseconds: number): string {
  const seconds = milliseconds / 1000;
  if (seconds < 5) return 'a few seconds left';
  if (seconds < 55) return `about ${Math.ceil(seconds / 5) * 5} seconds left`;
  const minutes = Math.round(seconds / 60);
  return minutes < 60 ? `about ${many(Math.max(1, minutes), 'minute')} left` : 'more than an hour left';
}
