import type { Stack } from './stack';

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

/** Does a place lie inside the folders of the game? Names that some systems refuse are no matter here. */
export const staysInside = (place: string): boolean =>
  !/[\u0000-\u001f\\]|^[a-z]:/i.test(place) && place.split('/').every((name) => name !== '' && !/^\.+$/.test(name));
