import { shownPlace } from '@/core';
import type { BeyondKeys } from '../contract';
import type { Session } from '../game/session';

/** Edits as one list, to be compared. */
const flat = (
  files: readonly { file: string; edits: readonly { path: string[]; value?: string | undefined }[] }[],
  shown: (file: string) => string,
): Map<string, string> =>
  new Map(
    files.flatMap(({ file, edits }) =>
      edits.map(({ path, value }) => [`${shown(file)}: ${path.join(' › ')}`, value ?? 'removed'] as const),
    ),
  );

export function setViews(session: Session): BeyondKeys['sets'] {
  const shown = (file: string) => shownPlace(file, session.game.card.roots);
  const mine = flat(
    session.stack.layers.filter((layer) => layer.kind === 'edits'),
    shown,
  );
  return session.stack.sets.map(({ id, name, at, files }) => {
    const then = flat(files, shown);
    const differences = [...new Set([...mine.keys(), ...then.keys()])]
      .filter((key) => mine.get(key) !== then.get(key))
      .sort()
      .map((key) => `${key}: ${mine.get(key) ?? 'not edited'} now, ${then.get(key) ?? 'not edited'} in the set`);
    return { id, name, at, edits: then.size, current: differences.length === 0, differences: differences.slice(0, 50) };
  });
}
