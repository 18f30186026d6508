import type { Knowledge } from '../names/knowledge';

const homesKnown = new WeakMap<Knowledge, Map<string, string[]>>();

/** The folders that hold most files of an ending: keys, the fullest first. */
export function topHomes(knowledge: Knowledge, ending: string): string[] {
  const known = homesKnown.get(knowledge) ?? new Map<string, string[]>();
  homesKnown.set(knowledge, known);
  const before = known.get(ending);
  if (before) return before;
  const made = [...(knowledge.homes.get(ending) ?? [])]
    .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
    .slice(0, 6)
    .map(([folder]) => folder);
  known.set(ending, made);
  return made;
}
