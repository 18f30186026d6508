import picomatch from 'picomatch';
import { baseName, nameKey, parentOf, staysInside } from '../paths/paths';
import { searchContainers, searchEntries } from '../settings/searchOrder';
import { move, placeNamer, type BeforeInput } from './beforeInput';
import { sharedMiss } from './byCause';
import type { Finding, Fix } from './finding';
import { NearestFiles, type Near } from './nearest';

/** What files refer to and nobody provides: materials and their textures, lists and their files. */
export function referenceChecks(input: BeforeInput): Finding[] {
  const shown = placeNamer(input);
  const found: Finding[] = [];
  if (input.card.references.length === 0) return found;
  const paths = input.files.map(({ target }) => target);
  const nearest = new NearestFiles(paths);
  const keys = new Set(paths.map(nameKey));
  const layerOf = new Map(input.files.map(({ target, layer }) => [target, layer]));
  const search = input.settings.flatMap(({ file, document }) => {
    if (!file.search) return [];
    const from = file.search.from;
    return searchContainers(
      searchEntries(document, file.search),
      paths.flatMap((path) => (path.startsWith(`${from}/`) ? [path.slice(from.length + 1)] : [])),
    ).map(({ folder }) => `${from}/${folder}`);
  });
  for (const { files: globs, pattern, needs, why } of input.card.references) {
    const fits = picomatch(globs, { nocase: true });
    const reads = new RegExp(pattern);
    for (const { target, layer } of input.files) {
      const text = fits(target) ? input.texts.get(nameKey(target)) : undefined;
      if (text === undefined) continue;
      // An add-on's own folder is the one above its parts.
      const own = parentOf(parentOf(target));
      text.split(/\r\n|\n|\r/).forEach((line, i) => {
        const name = reads.exec(line)?.groups?.name;
        if (name === undefined) return;
        const path = needs.replaceAll('{name}', name).replaceAll('{folder}', own);
        const wanted = path.includes('{search}')
          ? [own, ...search].map((folder) => path.replaceAll('{search}', folder))
          : [path];
        const there = wanted.find((one) => nearest.has(one));
        if (there !== undefined) return;
        const first = wanted[0] as string;
        const inCase = wanted.find((one) => keys.has(nameKey(one)));
        const near = (inCase === undefined ? wanted : [inCase])
          .flatMap((one) => nearest.find(one, 2))
          .sort((a, b) => a.far - b.far)[0];
        const set = input.card.contents.find(
          ({ marker, words }) =>
            !keys.has(nameKey(marker)) &&
            words.some((word) => nameKey(line).includes(nameKey(word)) || nameKey(name).includes(nameKey(word))),
        );
        const meant = inCase ?? first;
        const fixes: Fix[] = [];
        if (near && staysInside(meant) && layerOf.get(near.path) !== undefined)
          fixes.push(
            ...move(
              near.kind === 'case' || near.kind === 'spelling'
                ? `Rename it to ${baseName(meant)}`
                : `Put “${near.path.split('/').slice(-2).join('/')}” there`,
              [{ from: near.path, to: meant }],
            ),
          );
        else if (near && staysInside(meant))
          fixes.push({
            kind: 'stand-in',
            label: `Put a copy of “${near.path.split('/').slice(-2).join('/')}” there`,
            copies: [{ copy: near.path, to: meant }],
          });
        if (layer !== undefined) fixes.push({ kind: 'take out', label: `Take “${input.nameOf(layer)}” out`, layer });
        found.push({
          id: `refers:${nameKey(target)} ${nameKey(name)}`,
          level: 'wrong',
          ...(layer === undefined ? {} : { layer }),
          about: near?.path ?? meant,
          title: `${baseName(meant)} is asked for and not there`,
          evidence: `Line ${i + 1} of ${shown(target)} wants ${shown(meant)}.${near ? ` There is ${shown(near.path)}: ${NEAR_SAYS[near.kind]}.` : ''}`,
          cause: set ? `It comes from “${set.title}”, which you do not have. ${why}` : why,
          fixes,
          shared: sharedBy(near, meant, input, { layer, brings: near && layerOf.get(near.path) }),
        });
      });
    }
  }
  return found;
}

/** What is asked for and not there has its cause in the pack that has it elsewhere, else in the one that asks. */
function sharedBy(
  near: Near | undefined,
  meant: string,
  input: BeforeInput,
  { layer, brings }: { layer: string | undefined; brings: string | undefined },
): Finding['shared'] {
  if (near && brings !== undefined)
    return sharedMiss(near, meant, brings, { name: input.nameOf(brings), shown: placeNamer(input) });
  return near || layer === undefined
    ? undefined
    : { key: `asks:${layer}`, title: `{n} files that “${input.nameOf(layer)}” asks for are not there` };
}

/** How a near file differs, as part of a sentence. */
export const NEAR_SAYS = {
  case: 'other capitals',
  'hidden extension': 'a second extension that may be hidden',
  'one level off': 'one folder level off',
  extension: 'another extension',
  spelling: 'spelled a little differently',
  folder: 'the same name in another folder',
} as const;
