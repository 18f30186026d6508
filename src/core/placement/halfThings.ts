import type { Knowledge } from '../names/knowledge';

/** The files that all things of a kind have, where these are several. Digits are one sign. */
export const kindsOf = ({ families }: Knowledge): string[][] =>
  families
    .filter(({ members }) => members.size > 1)
    .map(({ core }) => [...core].filter((one) => one.startsWith('F:') && !one.includes('*')).map((one) => one.slice(2)))
    .filter(({ length }) => length > 1);

/**
 * Do several folders all hold the same files, and these are no more than half of what each thing of a kind has? Then
 * they are no further things, but one part for one of them, as often as there are versions of it.
 *
 * @param folders what each holds, as paths below it
 */
export function areVersions([first, ...others]: readonly ReadonlySet<string>[], kinds: readonly string[][]): boolean {
  if (!first || others.some((one) => one.size !== first.size || [...first].some((path) => !one.has(path))))
    return false;
  const names = [...first].map((path) => path.replace(/\d+/g, '#'));
  return kinds.some((kind) => names.every((name) => kind.includes(name)) && names.length * 2 <= kind.length);
}
