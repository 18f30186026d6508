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
  if (saysTooLittle(best, entries, context) || couldBeFresh(best, plans, entries, context)) return 'ask';
  const couldBeOther = second !== undefined && second.points * 2 > best.points && ahead < LEVELS.sure.ahead;
  if (couldBeOther && entries.length === 1 && isByEnding(best, context)) return 'ask';
  if (best.points >= LEVELS.sure.points && ahead >= LEVELS.sure.ahead) return 'sure';
  return best.points >= LEVELS.likely.points && ahead >= LEVELS.likely.ahead ? 'likely' : 'ask';
}

/** It lies over something by names alone, nothing says which one is meant, or nothing speaks for it but its kind. */
function saysTooLittle(best: Plan, entries: readonly PackEntry[], context: Context): boolean {
  const onlyNames = best.items.some((item) => !agreesBeyondNames(item, best));
  if (onlyNames && liesOver(best, entries, context.tree)) return true;
  if (best.items.some(({ evidence }) => hasSign(evidence, 'whichOne'))) return true;
  return best.items.every((item) => saysLittle(item, context));
}

/** Nothing is laid over something that could just as well be one more of its kind beside it. */
function couldBeFresh(best: Plan, plans: readonly Plan[], entries: readonly PackEntry[], { tree }: Context): boolean {
  const isFresh = (plan: Plan) => plan !== best && plan.items.every(({ mode }) => mode === 'own-folder');
  const fresh = plans.find((plan) => isFresh(plan) && !liesOver(plan, entries, tree));
  return fresh !== undefined && fresh.points * NEARLY > best.points && liesOver(best, entries, tree);
}

/** That files of its ending lie in several folders says of none of them that it is meant. */
const isByEnding = ({ items }: Plan, { tree }: Context): boolean =>
  items.every(
    ({ file, evidence, to }) =>
      file &&
      gameFile(tree, nameKey(to)) === undefined &&
      evidence.every(
        ({ weight, kind, line }) =>
          weight <= 0 || kind === 'form' || kind === 'forPacks' || (kind === undefined && line === undefined),
      ),
  );

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
