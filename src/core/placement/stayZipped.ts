import type { PackEntry } from '../archives/pack';
import { baseName, isUnder, parentOf, type TargetPath } from '../paths/paths';
import { shownPlace } from '../paths/search';
import { ask, emptyResult, type Context, type PoolResult } from './context';
import { LEVELS } from './evidence';
import { keptZipped, zippedAmong, type Zipped } from './keptZipped';
import { packBaggage } from './packBaggage';
import type { Plan } from './plans';

/** Whether the archive stays as it is; asked where both would do. */
export function stayZipped(
  entries: readonly PackEntry[],
  plan: Plan | undefined,
  context: Context,
): PoolResult | undefined {
  const zipped = keptZipped(entries, context);
  if (!zipped) return undefined;
  if (!plan && zipped.points < LEVELS.likely.points) return whereZipped(context);
  if (zipped.points <= 0 || !isWanted(zipped, plan, context)) return undefined;
  const { to, evidence, from } = zipped;
  const says = evidence.map((one) => one.says).join(' ');
  if (from !== undefined)
    return packedAnew(entries, { ...zipped, from }, `${says} It is packed anew without that folder.`, context);
  return {
    ...emptyResult(),
    confidence: zipped.points >= LEVELS.sure.points ? 'sure' : 'likely',
    rules: [{ as: 'whole', from: '', to }],
    parts: [{ mode: 'zipped', from: '', to, files: 1, reason: says, evidence }],
  };
}

/** A pack for which no place is known, in a game that has archives: it may be one more of them. */
function whereZipped(context: Context): PoolResult | undefined {
  const places = zippedAmong(context);
  const [answer] = askZipped(
    places.map((to) => ({
      id: to,
      label: places.length > 1 ? `Leave it zipped, in “${baseName(parentOf(to))}”` : 'Leave it zipped',
      to,
    })),
    undefined,
    context,
  );
  const to = places.find((one) => one === answer);
  if (to === undefined) return undefined;
  const reason = 'You said that it stays zipped.';
  return {
    ...emptyResult(),
    confidence: 'sure',
    rules: [{ as: 'whole', from: '', to }],
    parts: [{ mode: 'zipped', from: '', to, files: 1, reason, evidence: [] }],
  };
}

/** @param plan where it goes unpacked */
function askZipped(
  places: readonly { id: string; label: string; to: TargetPath }[],
  plan: Plan | undefined,
  context: Context,
): string[] {
  const shown = (place: string) => shownPlace(place, context.card.roots);
  const unpacked = plan ? shown(plan.items[0]?.to ?? '') : 'You choose where';
  return ask(
    context,
    {
      id: 'zipped',
      kind: 'one',
      title: 'Does it stay zipped?',
      why: 'Archives lie unopened in the game’s folders, and this one could be one of them.',
      options: [
        ...places.map(({ id, label, to }) => ({ id, label, says: shown(to) })),
        { id: 'unpacked', label: 'Unpack it', says: unpacked },
      ],
      suggested: [],
    },
    false,
  );
}

/** What lies in one folder of it becomes an archive; the rest stays out. */
function packedAnew(
  entries: readonly PackEntry[],
  { from, to, evidence }: Zipped & { from: string },
  reason: string,
  context: Context,
): PoolResult {
  const inside = entries.filter(({ path }) => isUnder(path, from));
  return {
    ...emptyResult(),
    confidence: 'likely',
    rules: [{ as: 'inside', from, to, inner: '' }],
    leftOut: entries
      .filter(({ path }) => !isUnder(path, from))
      .map(({ path }) => ({ path, why: packBaggage(path, context) ?? 'no place known for it' })),
    parts: [{ mode: 'zipped', from, to, files: inside.length, reason, evidence }],
  };
}

/** Does it stay zipped rather than go where the best plan says? The player is asked where that is not clear. */
function isWanted(zipped: Zipped, plan: Plan | undefined, context: Context): boolean {
  const ahead = zipped.points - (plan?.points ?? 0);
  if (isClear(zipped, plan) || zipped.points <= 1.5) return ahead >= 0 && zipped.points >= LEVELS.likely.points;
  const [answer] = askZipped([{ id: 'whole', label: 'Leave it zipped', to: zipped.to }], plan, context);
  return answer === 'whole' || (answer === undefined && ahead >= 0);
}

/** Is one of the two well ahead? Among the archives, or inside of one: these have little in common. */
function isClear({ points, renamed }: Zipped, plan: Plan | undefined): boolean {
  const other = plan?.points ?? 0;
  const isInside = plan?.items.some(({ inside }) => inside !== undefined) === true;
  const { ahead } = LEVELS[isInside ? 'sure' : 'likely'];
  return !renamed && Math.abs(points - other) >= ahead && Math.max(points, other) >= LEVELS.likely.points;
}
