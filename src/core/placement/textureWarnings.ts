import { largest } from '../lists';
import { kindOf } from '../media/kinds';
import { extensionOf } from '../paths/paths';
import { placeFiles } from '../placed/placement';
import { installedEdition } from './needWarnings';
import { few, type WarningFact, type WarningInput } from './warning';

export function textureWarnings({ card, entries, placement, gameFiles, images }: WarningInput): WarningFact[] {
  const edition = installedEdition(card, gameFiles);
  if (!edition) return [];
  const placed = placement.rules.some(({ as }) => as === 'whole') ? entries : placeFiles(entries, placement);
  const found: WarningFact[] = [];
  const { maxTexture, textureFormats } = edition;
  const large =
    maxTexture === undefined
      ? []
      : placed.filter(({ path }) => {
          const image = images.get(path);
          return image && Math.max(image.width, image.height) > maxTexture;
        });
  if (maxTexture !== undefined && large.length > 0) {
    const most = largest(
      large.map(({ path }) => Math.max(images.get(path)?.width ?? 0, images.get(path)?.height ?? 0)),
    );
    found.push({
      code: 'texture-too-large',
      level: 'wrong',
      edition: edition.title,
      most,
      limit: maxTexture,
      ...few(large),
    });
  }
  const odd =
    textureFormats === undefined
      ? []
      : placed.filter(
          ({ path }) =>
            ['picture', 'texture'].includes(kindOf(path)) &&
            !textureFormats.includes(extensionOf(path).replace('jpg', 'jpeg')),
        );
  if (textureFormats !== undefined && odd.length > 0)
    found.push({
      code: 'texture-format',
      level: 'wrong',
      edition: edition.title,
      formats: [...new Set(odd.map(({ path }) => extensionOf(path)))],
      reads: textureFormats,
      ...few(odd),
    });
  return found;
}
