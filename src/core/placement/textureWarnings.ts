import { largest } from '../lists';
import { kindOf } from '../media/kinds';
import { extensionOf } from '../paths/paths';
import { placeFiles } from '../placed/placement';
import { figure, oneOr } from '../words';
import { installedEdition } from './needWarnings';
import { few, type Warning, type WarningInput } from './warning';

export function textureWarnings({ card, entries, placement, gameFiles, images }: WarningInput): Warning[] {
  const edition = installedEdition(card, gameFiles);
  if (!edition) return [];
  const placed = placement.rules.some(({ as }) => as === 'whole') ? entries : placeFiles(entries, placement);
  const found: Warning[] = [];
  const { maxTexture, textureFormats } = edition;
  const large =
    maxTexture === undefined
      ? []
      : placed.filter(({ path }) => {
          const image = images.get(path);
          return image && Math.max(image.width, image.height) > maxTexture;
        });
  if (large.length > 0) {
    const most = largest(
      large.map(({ path }) => Math.max(images.get(path)?.width ?? 0, images.get(path)?.height ?? 0)),
    );
    found.push({
      code: 'texture-too-large',
      level: 'wrong',
      says: `${oneOr(large.length, 'One of its textures is', `${figure(large.length)} of its textures are`)} larger than the ${edition.title} can read: up to ${most} pixels, where ${maxTexture} are the limit.`,
      next: 'It can stop the game at its main menu. Look for a smaller edition of the pack, or leave these files out.',
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
  if (odd.length > 0)
    found.push({
      code: 'texture-format',
      level: 'wrong',
      says: `${oneOr(odd.length, 'One of its textures is', `${figure(odd.length)} of its textures are`)} in a format that the ${edition.title} cannot read (${[...new Set(odd.map(({ path }) => extensionOf(path)))].join(', ')}).`,
      next: `It reads ${textureFormats?.join(', ')}. Look for another edition of the pack.`,
      ...few(odd),
    });
  return found;
}
