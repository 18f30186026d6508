import type { GameCard } from '../games/card';
import { endsLikeArchive } from '../media/archiveEndings';
import { baseName, isUnder, joinPath, nameKey, type TargetPath } from '../paths/paths';
import { isWellFormed, openSettings } from '../settings/openSettings';
import { within, type BeforeInput } from './beforeInput';
import type { Trouble } from './trouble';

/** What lies unzipped where packs must stay zipped. */
export function zippedChecks(input: BeforeInput): Trouble[] {
  return input.card.places.flatMap((place): Trouble[] => {
    if (place.mode !== 'kept-zipped') return [];
    const byLayer = new Map<string, string[]>();
    for (const { file, rest } of within(input, place.into))
      if (rest.includes('/') || !endsLikeArchive(rest))
        byLayer.set(file.layer ?? '', [...(byLayer.get(file.layer ?? '') ?? []), rest]);
    return [...byLayer].map(([layer, inside]): Trouble => ({
      kind: 'unzipped',
      id: `unzipped:${layer}`,
      level: 'wrong',
      layer,
      about: joinPath(place.into, inside[0] ?? ''),
      into: place.into,
      inside,
      why: place.why,
    }));
  });
}

/** Manifests that cannot be read, and ids that two packs have. */
export const manifestChecks = (input: BeforeInput): Trouble[] =>
  input.card.manifests.flatMap((manifest) => oneManifest(manifest, input));

function oneManifest(manifest: GameCard['manifests'][number], input: BeforeInput): Trouble[] {
  const found: Trouble[] = [];
  const ids = new Map<string, { target: TargetPath; layer: string }>();
  for (const { target, layer } of input.files) {
    if (layer === undefined || nameKey(baseName(target)) !== nameKey(manifest.file)) continue;
    const text = input.texts.get(nameKey(target));
    if (text === undefined) continue;
    const base = { level: 'wrong' as const, layer, about: target, target };
    if (!isWellFormed(text, manifest.form)) {
      found.push({ ...base, kind: 'bad manifest', id: `bad-manifest:${target}`, form: manifest.form });
      continue;
    }
    const document = openSettings(text, manifest.form);
    const idTaken = manifest.fields.id
      ?.map((field) => document.get(field.split('.')))
      .find((value) => value !== undefined);
    if (idTaken === undefined) continue;
    const other = ids.get(nameKey(idTaken));
    if (other && other.layer !== layer)
      found.push({ ...base, kind: 'id taken', id: `id-taken:${idTaken}`, idTaken, other: other.target });
    else ids.set(nameKey(idTaken), { target, layer });
  }
  return found;
}

/** A file named like one of the game's own texts replaces it whole: what it does not have goes missing. */
export const textChecks = (input: BeforeInput): Trouble[] =>
  input.card.texts.flatMap((place) =>
    input.files.flatMap(({ target, layer }): Trouble[] => {
      const key = nameKey(target);
      if (layer === undefined || !isUnder(key, nameKey(place.into)) || !key.endsWith(place.ending)) return [];
      const [text, original] = [input.texts.get(key), input.originals.get(key)];
      if (text === undefined || original === undefined) return [];
      const keysOf = (of: string) =>
        openSettings(of, place.dialect)
          .entries()
          .map(({ path }) => path.join(' › '));
      const has = new Set(keysOf(text));
      const lost = keysOf(original).filter((one) => !has.has(one));
      if (lost.length === 0) return [];
      return [
        { kind: 'hides texts', id: `hides:${key}`, level: 'wrong', layer, about: target, target, lost, why: place.why },
      ];
    }),
  );
