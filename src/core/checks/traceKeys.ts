import { isUnder, nameKey, type TargetPath, parseTarget } from '../paths/paths';
import { openSettings } from '../settings/openSettings';
import { oneOr } from '../words';
import { placeNamer } from './beforeInput';
import { hidingCures, type Finding } from './finding';
import type { GameAround } from './gameAround';
import { timesSaid, type LogMessage } from './logMessage';
import type { TraceInput } from './traceInput';

/** Keys that are named in the evidence. */
const NAMED = 3;

/**
 * A flood of missing keys has one cause: a file of that name which hides the game's own.
 */
export function traceKeys(
  keys: readonly { message: LogMessage; key: string }[],
  input: TraceInput,
  around: GameAround,
): Finding[] {
  if (keys.length === 0) return [];
  const rest = new Set(keys.map(({ key }) => key));
  const shown = placeNamer(input);
  const floods: Finding[] = [];
  for (const place of input.card.texts)
    for (const [target, text] of input.originals) {
      const layer = around.layerOf(target);
      if (!isUnder(target, nameKey(place.into)) || !target.endsWith(place.ending) || layer === undefined) continue;
      const hidden = openSettings(text, place.dialect)
        .entries()
        .map(({ path }) => path.join(' › '))
        .filter((key) => rest.has(key));
      if (hidden.length === 0) continue;
      for (const key of hidden) rest.delete(key);
      const here = around.spellingOf(target) ?? parseTarget(target);
      floods.push(hides(here, hidden, { layer, name: input.nameOf(layer), why: place.why, shown: shown(here) }));
    }
  const single = keys
    .filter(({ key }) => rest.has(key))
    .map(({ message, key }): Finding => ({
      id: `log:${message.rule}:${key}`,
      level: 'wrong',
      about: key,
      title: message.says,
      evidence: `Line ${message.first} of the log${timesSaid(message)}.`,
      cause: 'No text file in the game has this key.',
      fixes: [],
      shared: {
        key: `texts:${message.rule}`,
        title: '{n} texts are missing',
        cause: 'No text file in the game has these keys.',
      },
    }));
  return [...floods, ...single];
}

function hides(
  here: TargetPath,
  hidden: readonly string[],
  { layer, name, why, shown }: { layer: string; name: string; why: string; shown: string },
): Finding {
  const named = hidden
    .slice(0, NAMED)
    .map((key) => `“${key}”`)
    .join(', ');
  const more = hidden.length > NAMED ? ` and ${hidden.length - NAMED} more` : '';
  return {
    id: `hides:${nameKey(here)}`,
    level: 'wrong',
    about: here,
    layer,
    title: `${oneOr(hidden.length, 'A text is', `${hidden.length} texts are`)} missing, all for one reason`,
    evidence: `The log misses ${named}${more}; the game’s own ${shown} has them, and “${name}” replaces that file.`,
    cause: why,
    fixes: hidingCures(here, name),
  };
}
