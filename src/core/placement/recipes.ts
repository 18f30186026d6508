import picomatch from 'picomatch';
import type { PackEntry } from '../archives/pack';
import type { PlaceMode, Recipe } from '../games/card';
import { foldersAbove, isUnder, joinPath, type TargetPath } from '../paths/paths';
import { emptyResult, slugOf, type Context, type PoolResult } from './context';
import { statedVersion } from '../inspect/stated';

/**
 * An id that no other pack is likely to have, the same each time for the same pack. FNV-1a, 32 bits, over names and
 * sizes.
 */
function idFor(entries: readonly PackEntry[], name: string): string {
  let hash = 0x811c9dc5;
  for (const { path, size, crc32 } of entries)
    for (const char of `${path}\n${size}\n${crc32 ?? ''}\n`)
      hash = Math.imul(hash ^ (char.codePointAt(0) as number), 0x01000193);
  return `${slugOf(name)}-${(hash >>> 0).toString(16).padStart(8, '0')}`;
}

/** The wrapper under which all wanted paths of a recipe are found; undefined where they are not. */
function wrapperOf(entries: readonly PackEntry[], { has }: Recipe): string | undefined {
  const tops = ['', ...foldersAbove(entries.slice(0, 2000).map(({ path }) => path))];
  for (const top of tops.sort((a, b) => a.length - b.length).slice(0, 50)) {
    const inside = entries
      .filter(({ path }) => isUnder(path, top))
      .map(({ path }) => (top === '' ? path : path.slice(top.length + 1)));
    if (
      has.every((glob) => {
        const fits = picomatch(glob, { nocase: true, dot: true });
        return inside.some((path) => fits(path));
      })
    )
      return top;
  }
  return undefined;
}

/**
 * Converts another edition's layout by the card's recipe: moved, renamed, with the manifest that this edition needs.
 */
export function placeConverted(entries: readonly PackEntry[], context: Context): PoolResult | undefined {
  for (const recipe of context.card.recipes) {
    const top = wrapperOf(entries, recipe);
    const place = context.card.places.find(({ id }) => id === recipe.place);
    if (top !== undefined && place && place.mode !== 'loose') return convert(entries, recipe, { top, place }, context);
  }
  return undefined;
}

type Goal = Exclude<PlaceMode, { mode: 'loose' }>;

function intoOf(place: Goal, name: string): TargetPath {
  if (place.mode === 'kept-zipped') return joinPath(place.into, `${slugOf(name)}.zip`);
  return place.mode === 'into-archive' ? place.archive : joinPath(place.into, slugOf(name));
}

function convert(
  entries: readonly PackEntry[],
  recipe: Recipe,
  { top, place }: { top: string; place: Goal },
  context: Context,
): PoolResult {
  const result = emptyResult();
  const into = intoOf(place, context.name);
  const inArchive = place.mode === 'kept-zipped' || place.mode === 'into-archive';
  const inside = entries.filter(({ path }) => isUnder(path, top));
  const isFile = (at: string) => inside.some(({ path }) => path === at);
  for (const { from, to } of [{ from: '', to: '' }, ...recipe.moves]) {
    const at = joinPath(top, from);
    if (inArchive) result.rules.push({ as: 'inside', from: at, to: into, inner: to });
    else result.rules.push({ as: isFile(at) ? 'file' : 'files', from: at, to: joinPath(into, to) });
  }
  for (const { files } of recipe.drops) {
    const drop = picomatch(files, { nocase: true, dot: true });
    for (const { path } of inside)
      if (drop(top === '' ? path : path.slice(top.length + 1))) result.leftOut.push({ path, why: 'cannot carry over' });
  }
  if (recipe.manifest) {
    const { file } = recipe.manifest;
    result.made.push({
      ...(inArchive ? { target: into, inside: file } : { target: joinPath(into, file) }),
      ...manifestOf(recipe.manifest, inside, context),
    });
  }
  result.parts.push({
    mode: 'converted',
    from: top,
    to: into,
    files: inside.length - result.leftOut.length,
    reason: `It is laid out for ${recipe.from}. ${recipe.title}: ${changesOf(recipe).join(', ')}.`,
  });
  result.rest = entries.filter(({ path }) => !isUnder(path, top));
  return result;
}

/** What a recipe does, in words. */
const changesOf = ({ moves, manifest }: Recipe): string[] => [
  ...moves.map(({ from, to }) => (to === '' ? `the contents of “${from}” move up` : `“${from}” becomes “${to}”`)),
  ...(manifest ? [`a “${manifest.file}” is written`] : []),
];

/** The manifest that this edition needs. */
function manifestOf(
  { file, template }: NonNullable<Recipe['manifest']>,
  inside: readonly PackEntry[],
  { name, title }: Context,
): { text: string; why: string } {
  const values: Record<string, string> = {
    id: idFor(inside, name),
    title: JSON.stringify(title).slice(1, -1),
    version: statedVersion(name) ?? '1.0.0',
  };
  return {
    text: template.replace(/\{(id|title|version)\}/g, (_, word: string) => values[word] as string),
    why: `Written new, since this edition of the game looks for a “${file}”.`,
  };
}
