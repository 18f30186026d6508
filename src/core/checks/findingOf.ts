import { cureLabel } from './cureWords';
import { curesOf } from './cures';
import type { Finding } from './finding';
import { sharedWords } from './sharedWords';
import type { Trouble } from './trouble';
import { troubleWords } from './troubleWords';
import type { Names } from './wordsFor';

/** What was found as the player reads it: its facts with their sentences and their cures. */
export function findingOf(trouble: Trouble, names: Names): Finding {
  const { id, level, weight, about, layer, shared } = trouble;
  return {
    id,
    level,
    ...(weight === undefined ? {} : { weight }),
    ...(about === undefined ? {} : { about }),
    ...(layer === undefined ? {} : { layer }),
    ...troubleWords(trouble, names),
    fixes: curesOf(trouble, names).map((cure) => ({ ...cure, label: cureLabel(cure, trouble, names) })),
    ...(shared === undefined ? {} : { shared: { key: shared.key, ...sharedWords(shared, names) } }),
  };
}
