import type { PackEntry } from '../archives/pack';
import { kindOf } from '../media/kinds';
import { gameFile } from '../names/gameTree';
import { nameKey, parentOf, stemOf } from '../paths/paths';
import type { Context } from './context';
import { LEVELS, hasSign, pointsOf } from './evidence';
import { liesOver, signatureOf, weighty, type Candidate, type Plan } from './plans';

/** As good as the best, within this factor. */
const NEARLY = 1.25;

/** Is the best plan clear, and by how much? Something is only laid over what is there where more than names agree. */
export function confidenceOf(
  plans: readonly Plan[],
  entries: readonly PackEntry[],
  context: Context,
): 'sure' | 'likely' | 'ask' {
  const [best] = plans;
  if (!best) return 'ask';
  const matter = weighty(entries);
  const own = signatureOf(best, matter);
  const second = plans.find((plan) => signatureOf(plan, matter) !== own);
  const ahead = best.points - (second?.points ?? 0);
  const onlyNames = best.items.some((item) => !agreesBeyondNames(item, best)) && liesOver(best, entries, context.tree);
  const which = best.items.some(({ evidence }) => hasSign(evidence, 'whichOne'));
  if (onlyNames || which || best.items.every((item) => saysLittle(item, context))) return 'ask';
  // Nothing is laid over something that could just as well be one more of its kind beside it.
  const fresh = plans.find(
    (plan) =>
      plan !== best && plan.items.every(({ mode }) => mode === 'own-folder') && !liesOver(plan, entries, context.tree),
  );
  if (fresh && fresh.points * NEARLY > best.points && liesOver(best, entries, context.tree)) return 'ask';
  // That files of its ending lie in several folders says of none of them that it is meant.
  const byEnding =
    best.items.every(
      (item) =>
        item.file &&
        item.evidence.every(
          ({ weight, kind, line }) =>
            weight <= 0 || kind === 'form' || kind === 'forPacks' || (kind === undefined && line === undefined),
        ),
    ) && !best.items.some(({ to }) => gameFile(context.tree, nameKey(to)) !== undefined);
  if (byEnding && second && second.points * 2 > best.points && entries.length === 1 && ahead < LEVELS.sure.ahead)
    return 'ask';
  if (best.points >= LEVELS.sure.points && ahead >= LEVELS.sure.ahead) return 'sure';
  return best.points >= LEVELS.likely.points && ahead >= LEVELS.likely.ahead ? 'likely' : 'ask';
}

/**
 * A picture or a sound that only lies where others of its ending lie: the game reads it where something names it, and
 * nothing does. A name of the form that they all have is such a thing.
 */
function saysLittle({ file, node, evidence, to }: Candidate, { tree }: Context): boolean {
  if (
    !file ||
    !['picture', 'texture', 'sound'].includes(kindOf(node)) ||
    evidence.some(({ line }) => line !== undefined)
  )
    return false;
  if (hasSign(evidence, 'card', 'missed', 'spokenOf', 'ownId', 'learnt', 'learntOnce')) return false;
  if (gameFile(tree, nameKey(to)) !== undefined) return false;
  return !/[\d_-]/.test(stemOf(node)) || !hasSign(evidence, 'form');
}

/**
 * A folder that agrees, a read-me, an id, several files of one place: more than a name that two files happen to share.
 */
const agreesBeyondNames = ({ evidence, file, to }: Candidate, { items }: Plan): boolean =>
  pointsOf(evidence) >= LEVELS.likely.points &&
  (!file ||
    !parentOf(to).includes('/') ||
    hasSign(evidence, 'spokenOf', 'card', 'missed') ||
    evidence.some(({ line }) => line !== undefined) ||
    items.filter((other) => other.file && parentOf(other.to) === parentOf(to)).length > 1);
