import type { PackEntry } from '../archives/pack';
import { isUnder } from '../paths/paths';
import { shownPlace } from '../paths/search';
import { ask, emptyResult, type Context, type PoolResult } from './context';
import { LEVELS } from './evidence';
import { keptZipped } from './keptZipped';
import { packBaggage } from './packBaggage';
import type { Plan } from './plans';

/** Whether the archive stays as it is; asked where both would do. */
export function stayZipped(
  entries: readonly PackEntry[],
  plan: Plan | undefined,
  context: Context,
): PoolResult | undefined {
  const zipped = keptZipped(entries, context);
  if (!zipped || zipped.points <= 0) return undefined;
  const ahead = zipped.points - (plan?.points ?? 0);
  const clear =
    !zipped.renamed &&
    Math.abs(ahead) >= LEVELS.likely.ahead &&
    Math.max(zipped.points, plan?.points ?? 0) >= LEVELS.likely.points;
  if (!clear && zipped.points > 1.5) {
    const [answer] = ask(
      context,
      {
        id: 'zipped',
        kind: 'one',
        title: 'Does it stay zipped?',
        why: 'Archives lie unopened in the game’s folders, and this one could be one of them.',
        options: [
          { id: 'whole', label: 'Leave it zipped', says: shownPlace(zipped.to, context.card.roots) },
          {
            id: 'unpacked',
            label: 'Unpack it',
            says: plan ? shownPlace(plan.items[0]?.to ?? '', context.card.roots) : 'You choose where',
          },
        ],
        suggested: [],
      },
      false,
    );
    if (answer !== 'whole' && (answer !== undefined || ahead < 0)) return undefined;
  } else if (ahead < 0 || zipped.points < LEVELS.likely.points) return undefined;
  const says = zipped.evidence.map((one) => one.says).join(' ');
  if (zipped.from !== undefined) {
    const { from } = zipped;
    const inside = entries.filter(({ path }) => isUnder(path, from));
    return {
      ...emptyResult(),
      confidence: 'likely',
      rules: [{ as: 'inside', from, to: zipped.to, inner: '' }],
      leftOut: entries
        .filter(({ path }) => !isUnder(path, from))
        .map(({ path }) => ({ path, why: packBaggage(path, context) ?? 'no place known for it' })),
      parts: [
        {
          mode: 'zipped',
          from,
          to: zipped.to,
          files: inside.length,
          reason: `${says} It is packed anew without that folder.`,
          evidence: zipped.evidence,
        },
      ],
    };
  }
  return {
    ...emptyResult(),
    confidence: zipped.points >= LEVELS.sure.points ? 'sure' : 'likely',
    rules: [{ as: 'whole', from: '', to: zipped.to }],
    parts: [{ mode: 'zipped', from: '', to: zipped.to, files: 1, reason: says, evidence: zipped.evidence }],
  };
}
