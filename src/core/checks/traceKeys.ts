import { isUnder, nameKey, parseTarget } from '../paths/paths';
import { openSettings } from '../settings/openSettings';
import type { GameAround } from './gameAround';
import type { LogMessage } from './logMessage';
import type { TraceInput } from './traceInput';
import type { Trouble } from './trouble';

/**
 * A flood of missing keys has one cause: a file of that name which hides the game's own.
 */
export function traceKeys(
  keys: readonly { message: LogMessage; key: string }[],
  input: TraceInput,
  around: GameAround,
): Trouble[] {
  if (keys.length === 0) return [];
  const rest = new Set(keys.map(({ key }) => key));
  const floods: Trouble[] = [];
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
      floods.push({
        kind: 'texts hidden',
        id: `hides:${nameKey(here)}`,
        level: 'wrong',
        about: here,
        layer,
        target: here,
        hidden,
        why: place.why,
      });
    }
  const single = keys
    .filter(({ key }) => rest.has(key))
    .map(({ message, key }): Trouble => ({
      kind: 'missing text',
      id: `log:${message.rule}:${key}`,
      level: 'wrong',
      about: key,
      message,
      key,
      shared: { kind: 'texts', key: `texts:${message.rule}` },
    }));
  return [...floods, ...single];
}
