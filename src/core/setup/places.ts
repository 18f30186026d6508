import type { TargetPath } from '../paths/paths';
import type { PackLayer, Stack } from './stack';
import type { WayToPlay } from './setUp';

type Layer = Stack['layers'][number];

/** Every place of the game, and inside its archives, that decisions would write to. */
export function placesIn({ layers, ownFiles }: Pick<Stack, 'layers' | 'ownFiles'>): string[] {
  return [...layers.flatMap(placesOf), ...ownFiles.map(({ target }) => target)];
}

function placesOf(layer: Layer): string[] {
  switch (layer.kind) {
    case 'pack': {
      const { rules, made, decisions } = layer.placement;
      return [
        ...rules.flatMap((rule) => [rule.to, ...(rule.as === 'inside' && rule.inner !== '' ? [rule.inner] : [])]),
        ...made.flatMap(({ target, inside }) => [target, ...(inside === undefined ? [] : [inside])]),
        ...decisions.moves.map(({ to }) => to),
      ];
    }
    case 'edits':
      return [layer.file];
    case 'merge':
      return [layer.target];
    case 'own':
      return layer.files.map(({ target }) => target);
  }
}

/**
 * A place whose folder is called otherwise: what it begins with is replaced, the longest that is named.
 *
 * @param ids folders here, by what they are called in the place: ids of the game's folders, or folders in them
 */
export function inOtherRoot(place: string, ids: ReadonlyMap<string, string>): TargetPath {
  for (let end = place.length; end > 0; end = place.lastIndexOf('/', end - 1)) {
    const other = ids.get(place.slice(0, end));
    if (other !== undefined) return `${other}${place.slice(end)}` as TargetPath;
  }
  return place as TargetPath;
}

/** The same way to play in folders that have other ids here: every place in it is renamed. */
export function inOtherRoots<Way extends WayToPlay>(way: Way, ids: ReadonlyMap<string, string>): Way {
  const to = (place: string): TargetPath => inOtherRoot(place, ids);
  return {
    ...way,
    layers: way.layers.map((layer): Layer => {
      switch (layer.kind) {
        case 'pack':
          return packInOtherRoots(layer, to);
        case 'edits':
          return { ...layer, file: to(layer.file) };
        case 'merge':
          return { ...layer, target: to(layer.target) };
        case 'own':
          return { ...layer, files: layer.files.map((file) => ({ ...file, target: to(file.target) })) };
      }
    }),
    picks: way.picks.map((pick) => (pick.scope === 'kind' ? pick : { ...pick, at: to(pick.at) })),
    ownFiles: way.ownFiles.map((file) => ({ ...file, target: to(file.target) })),
  };
}

function packInOtherRoots(layer: PackLayer, to: (place: string) => TargetPath): PackLayer {
  const { rules, made, decisions } = layer.placement;
  // What was answered to a question is a place, or one of the question's own words.
  const answers = Object.entries(decisions.answers).map(([question, chosen]) => [question, chosen.map(to)]);
  return {
    ...layer,
    parts: layer.parts.map((part) => ({ ...part, to: to(part.to) })),
    placement: {
      ...layer.placement,
      rules: rules.map((rule) => ({ ...rule, to: to(rule.to) })),
      made: made.map((file) => ({ ...file, target: to(file.target) })),
      decisions: {
        ...decisions,
        moves: decisions.moves.map((move) => ({ ...move, to: to(move.to) })),
        answers: Object.fromEntries(answers) as Record<string, string[]>,
      },
    },
  };
}
