import type { PackEntry } from '../archives/pack';
import { kindOf } from '../media/kinds';
import { baseName, extensionOf, nameKey, parentOf, quotedTarget } from '../paths/paths';
import { gameTreeOf } from '../names/gameTree';
import type { Placement } from '../placed/placement';
import { knowledgeOf } from '../names/knowledge';
import type { Statement } from '../games/statement';

/** What packs like this one have in common, in words: the endings of their files. Undefined where they say nothing. */
function likeOf(entries: readonly PackEntry[]): string | undefined {
  const endings = new Set(
    entries.filter(({ path }) => !['text', 'program'].includes(kindOf(path))).map(({ path }) => extensionOf(path)),
  );
  endings.delete('');
  return endings.size === 0 || endings.size > 4
    ? undefined
    : [...endings]
        .sort()
        .map((ending) => `.${ending}`)
        .join(', ');
}

/** Where all of a pack goes: one folder, or a folder of its own in one. */
function goalOf({ rules }: Placement): { folder: string; own: boolean } | undefined {
  const goals = new Map<string, { folder: string; own: boolean }>();
  for (const rule of rules) {
    if (rule.as !== 'files' && rule.as !== 'file') return undefined;
    const own = rule.as === 'files' && rule.from !== '' && nameKey(baseName(rule.from)) === nameKey(baseName(rule.to));
    const goal = { folder: rule.as === 'file' || own ? parentOf(rule.to) : (rule.to as string), own };
    goals.set(`${nameKey(goal.folder)} ${own}`, goal);
  }
  const [only, second] = [...goals.values()];
  return second ? undefined : only;
}

/**
 * Is the folder one of many alike, or is every ending at home in several folders? Then the next such pack can be for
 * another.
 */
function saysNothing(folder: string, like: string, gameFiles: readonly string[]): boolean {
  const roots = [...new Set(gameFiles.map((file) => file.slice(0, file.indexOf('/'))))];
  const { familyOf, homes } = knowledgeOf(gameTreeOf(roots, gameFiles));
  for (let at = nameKey(folder); at.includes('/'); at = parentOf(at)) if (familyOf.has(at)) return true;
  return like.split(', ').every((ending) => (homes.get(ending.slice(1))?.size ?? 0) > 1);
}

interface Lesson {
  entries: readonly PackEntry[];
  placement: Placement;
  pack: string;
  gameFiles: readonly string[];
  why?: string;
  line?: number;
}

const evidenceOf = ({ pack, why = 'You placed it there.', line }: Lesson): Statement['evidence'][number] => ({
  says: `${pack}: ${why}`.slice(0, 600),
  source: line === undefined ? { from: 'answer', pack } : { from: 'log', line },
});

const hasTaught = ({ evidence }: Statement, pack: string): boolean =>
  evidence.some(
    ({ source, says }) =>
      (source.from === 'answer' && source.pack === pack) || (source.from === 'log' && says.startsWith(`${pack}: `)),
  );

/**
 * What the player's answer teaches: packs like this one go there. Said twice it counts more. A pack without a common
 * kind, one that goes to several places, one for a single thing of many alike, and files of a kind that lies all over
 * the game teach nothing.
 *
 * @param why where it was learnt, as a sentence
 * @param line where it was learnt from the game's log: the line that says so
 * @returns the statements with the learnt one, or as they were
 */
export function learn(statements: readonly Statement[], lesson: Lesson): Statement[] {
  const { entries, placement, pack, gameFiles } = lesson;
  const like = likeOf(entries);
  const goal = goalOf(placement);
  if (like === undefined || goal === undefined || goal.folder === '' || saysNothing(goal.folder, like, gameFiles))
    return [...statements];
  const id = `place:${like}>${goal.own ? 'own:' : ''}${nameKey(goal.folder)}`.slice(0, 300);
  const before = statements.find((one) => one.id === id);
  // What was taken back stays so, and the same pack teaches once.
  if (before && (before.standing === 'refused' || hasTaught(before, pack))) return [...statements];
  const times = (before?.about.what === 'place' ? before.about.times : 0) + 1;
  const place = quotedTarget(goal.folder);
  const goes = goal.own ? `get a folder of their own in ${place}` : `go into ${place}`;
  const learnt: Statement = {
    id,
    about: { what: 'place', like, folder: goal.folder, own: goal.own, times },
    standing: 'found',
    says: `Packs with ${like} files ${goes}.`.slice(0, 600),
    evidence: [...(before?.evidence ?? []), evidenceOf(lesson)].slice(-20),
  };
  return [...statements.filter((one) => one.id !== id), learnt];
}

/** Takes back what was learnt, or anything else that was found: it stays refused until the player says otherwise. */
export const setStanding = (
  statements: readonly Statement[],
  id: string,
  standing: Statement['standing'],
): Statement[] => statements.map((one) => (one.id === id ? { ...one, standing } : one));

/** The places that were learnt for packs like this one. */
export function learntPlaces(
  statements: readonly Statement[],
  entries: readonly PackEntry[],
): { folder: string; own: boolean; times: number; says: string }[] {
  const like = likeOf(entries);
  return statements.flatMap(({ about, standing, says }) =>
    about.what === 'place' && standing !== 'refused' && about.like === like
      ? [{ folder: about.folder, own: about.own, times: standing === 'confirmed' ? 2 : about.times, says }]
      : [],
  );
}
