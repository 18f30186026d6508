import { countOf } from '@/core';

export { countOf as many, figure as count, oneOr, shownPlace as place, sizeOf as size } from '@/core';

/** Date and time of a deployment. */
export const moment = (at: number): string =>
  new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

/** How long something will still take, no finer than it can be known. */
export function timeLeft(milliseconds: number): string {
  const seconds = milliseconds / 1000;
  if (seconds < 5) return 'a few seconds left';
  if (seconds < 55) return `about ${Math.ceil(seconds / 5) * 5} seconds left`;
  const minutes = Math.round(seconds / 60);
  return minutes < 60 ? `about ${countOf(Math.max(1, minutes), 'minute')} left` : 'more than an hour left';
}
