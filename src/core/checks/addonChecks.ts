import type { GameCard } from '../games/card';
import { baseName, isUnder, joinPath, nameKey, parentOf } from '../paths/paths';
import { within, type BeforeInput } from './beforeInput';
import { keyOf, type PresentFile } from './finding';
import type { Trouble } from './trouble';

type OwnFolderPlace = Extract<GameCard['places'][number], { mode: 'own-folder' }>;

interface Inside {
  file: PresentFile;
  rest: string;
}

/** Packs of which each has a folder of its own: what lies beside them, and folders without what makes them count. */
export function addonChecks(input: BeforeInput): Trouble[] {
  return input.card.places.flatMap((place) => {
    if (place.mode !== 'own-folder') return [];
    const ending = `/${nameKey(place.marker ?? '')}`;
    const markers = new Set(input.files.map(keyOf).filter((key) => key.endsWith(ending)));
    const { straight, folders } = byFolder(place, within(input, place.into));
    return [
      ...[...straight].map(([layer, files]): Trouble => ({
        kind: 'straight-in',
        id: `straight-in:${layer}`,
        level: 'wrong',
        layer,
        about: files[0]?.target ?? place.into,
        into: place.into,
        files: files.map(({ target }) => target),
        why: place.why,
      })),
      ...[...folders].flatMap(([folder, files]) => withoutMarker(place, folder, files, markers)),
    ];
  });
}

/** Files straight in a place, by the pack that brings them, and those in folders of their own. */
function byFolder(
  { parts }: OwnFolderPlace,
  files: readonly Inside[],
): { straight: Map<string, PresentFile[]>; folders: Map<string, Inside[]> } {
  const straight = new Map<string, PresentFile[]>();
  const folders = new Map<string, Inside[]>();
  for (const one of files) {
    const cut = one.rest.indexOf('/');
    const folder = one.rest.slice(0, Math.max(0, cut));
    const layer = one.file.layer ?? '';
    if (cut < 0 || parts.some((part) => nameKey(part) === nameKey(folder)))
      straight.set(layer, [...(straight.get(layer) ?? []), one.file]);
    else folders.set(folder, [...(folders.get(folder) ?? []), one]);
  }
  return { straight, folders };
}

/** What is wrong with a folder whose marker is not where the game looks for it. */
function withoutMarker(
  { into, marker, why }: OwnFolderPlace,
  folder: string,
  files: readonly Inside[],
  markers: ReadonlySet<string>,
): Trouble[] {
  if (marker === undefined) return [];
  const at = joinPath(into, folder);
  const wanted = joinPath(at, marker);
  if (markers.has(nameKey(wanted))) return [];
  const base = { level: 'wrong' as const, layer: files[0]?.file.layer ?? '', folder, at };
  const deeper = files.find(({ rest }) => nameKey(baseName(rest)) === nameKey(marker));
  if (!deeper)
    return [{ ...base, kind: 'no manifest', id: `no-manifest:${folder}`, about: wanted, marker, files: files.length }];
  const inner = joinPath(into, parentOf(deeper.rest));
  return [
    {
      ...base,
      kind: 'add-on too deep',
      id: `too-deep:${folder}`,
      about: inner,
      inner,
      wanted,
      has: deeper.file.target,
      files: files.filter(({ file }) => isUnder(nameKey(file.target), nameKey(inner))).map(({ file }) => file.target),
      why,
    },
  ];
}
