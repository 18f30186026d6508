import { endsLikeArchive } from '../media/archiveEndings';
import { baseName, isUnder, nameKey, type TargetPath } from '../paths/paths';
import { isWellFormed, openSettings } from '../settings/openSettings';
import { oneOr } from '../words';
import { at, list, placeNamer, within, type BeforeInput } from './beforeInput';
import { hidingCures, type Finding } from './finding';

export function zippedChecks(input: BeforeInput): Finding[] {
  const shown = placeNamer(input);
  return input.card.places.flatMap((place): Finding[] => {
    if (place.mode !== 'kept-zipped') return [];
    const byLayer = new Map<string, string[]>();
    for (const { file, rest } of within(input, place.into))
      if (rest.includes('/') || !endsLikeArchive(rest))
        byLayer.set(file.layer ?? '', [...(byLayer.get(file.layer ?? '') ?? []), rest]);
    return [...byLayer].map(([layer, rest]): Finding => ({
      id: `unzipped:${layer}`,
      level: 'wrong',
      layer,
      about: at(place.into, rest[0] ?? ''),
      title: `“${input.nameOf(layer)}” must stay zipped`,
      evidence: `${oneOr(rest.length, 'One file lies', `${rest.length} files lie`)} unzipped in ${shown(place.into)}: ${list(rest)}.`,
      cause: place.why,
      fixes: [{ kind: 'go', label: 'Place it again', step: 'place' }],
    }));
  });
}

export function manifestChecks(input: BeforeInput): Finding[] {
  const shown = placeNamer(input);
  const found: Finding[] = [];
  for (const manifest of input.card.manifests) {
    const ids = new Map<string, { target: TargetPath; layer: string }>();
    for (const { target, layer } of input.files) {
      const text =
        layer === undefined || nameKey(baseName(target)) !== nameKey(manifest.file)
          ? undefined
          : input.texts.get(nameKey(target));
      if (text === undefined || layer === undefined) continue;
      if (!isWellFormed(text, manifest.form)) {
        found.push({
          id: `bad-manifest:${target}`,
          level: 'wrong',
          layer,
          about: target,
          title: `The game cannot read ${shown(target)}`,
          evidence: `It is not ${manifest.form === 'json' ? 'JSON' : 'made of keys and values'}: a comma, a quote or a bracket is missing.`,
          cause: 'A pack whose manifest cannot be read is passed over.',
          fixes: [{ kind: 'take out', label: 'Take the pack out', layer }],
        });
        continue;
      }
      const document = openSettings(text, manifest.form);
      const id = manifest.fields.id
        ?.map((field) => document.get(field.split('.')))
        .find((value) => value !== undefined);
      const other = id === undefined ? undefined : ids.get(nameKey(id));
      if (id !== undefined && other && other.layer !== layer)
        found.push({
          id: `id-taken:${id}`,
          level: 'wrong',
          layer,
          about: target,
          title: `Two packs have the id “${id}”`,
          evidence: `${shown(other.target)} and ${shown(target)}.`,
          cause: 'The game loads one of them and passes over the other.',
          fixes: [{ kind: 'take out', label: `Take “${input.nameOf(layer)}” out`, layer }],
        });
      else if (id !== undefined) ids.set(nameKey(id), { target, layer });
    }
  }
  return found;
}

/** A file named like one of the game's own texts replaces it whole: what it does not have goes missing. */
export function textChecks(input: BeforeInput): Finding[] {
  const shown = placeNamer(input);
  const found: Finding[] = [];
  for (const place of input.card.texts)
    for (const { target, layer } of input.files) {
      const key = nameKey(target);
      if (layer === undefined || !isUnder(key, nameKey(place.into)) || !key.endsWith(place.ending)) continue;
      const [text, original] = [input.texts.get(key), input.originals.get(key)];
      if (text === undefined || original === undefined) continue;
      const has = new Set(
        openSettings(text, place.dialect)
          .entries()
          .map(({ path }) => path.join('\n')),
      );
      const lost = openSettings(original, place.dialect)
        .entries()
        .map(({ path }) => path.join(' › '))
        .filter((one) => !has.has(one.replaceAll(' › ', '\n')));
      if (lost.length === 0) continue;
      const name = input.nameOf(layer);
      found.push({
        id: `hides:${key}`,
        level: 'wrong',
        layer,
        about: target,
        title: `${oneOr(lost.length, 'One text', `${lost.length} texts`)} of the game will be missing`,
        evidence: `“${name}” brings a file named like the game’s own ${shown(target)}; the game’s has ${list(lost)}, and the pack’s has not.`,
        cause: place.why,
        fixes: hidingCures(target, name),
      });
    }
  return found;
}
