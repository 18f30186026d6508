import picomatch from 'picomatch';
import type { GameCard } from '../games/card';
import { nameKey, parentOf, type TargetPath } from '../paths/paths';
import { searchContainers, searchEntries } from '../settings/searchOrder';
import type { BeforeInput } from './beforeInput';
import { sharedMiss } from './byCause';
import { keyOf, type PresentFile } from './finding';
import { NearestFiles, type Near } from './nearest';
import type { SharedCause, Trouble } from './trouble';

/** The game's files, to be looked through for what others refer to. */
interface Around {
  input: BeforeInput;
  nearest: NearestFiles<TargetPath>;
  keys: ReadonlySet<string>;
  layerOf: ReadonlyMap<string, string | undefined>;
  /** Folders that the game searches, in its order. */
  search: readonly string[];
}

/** What one line of a file asks for. */
interface Asked {
  file: PresentFile;
  line: string;
  /** Counted from 1. */
  number: number;
  name: string;
  /** Where it may lie, the best place first. */
  wanted: [string, ...string[]];
  why: string;
}

/** What files refer to and nobody provides: materials and their textures, lists and their files. */
export function referenceChecks(input: BeforeInput): Trouble[] {
  if (input.card.references.length === 0) return [];
  const paths = input.files.map(({ target }) => target);
  const around: Around = {
    input,
    nearest: new NearestFiles(paths),
    keys: new Set(input.files.map(keyOf)),
    layerOf: new Map(input.files.map(({ target, layer }) => [target, layer])),
    search: searchedFolders(input, paths),
  };
  return input.card.references.flatMap((reference) => {
    const fits = picomatch(reference.files, { nocase: true });
    return input.files.flatMap((file) => {
      const text = fits(file.target) ? input.texts.get(nameKey(file.target)) : undefined;
      if (text === undefined) return [];
      return askedIn(text, file, reference, around.search).flatMap((asked) => missing(asked, around));
    });
  });
}

const searchedFolders = ({ settings }: BeforeInput, paths: readonly string[]): string[] =>
  settings.flatMap(({ file, document }) => {
    if (!file.search) return [];
    const from = file.search.from;
    return searchContainers(
      searchEntries(document, file.search),
      paths.flatMap((path) => (path.startsWith(`${from}/`) ? [path.slice(from.length + 1)] : [])),
    ).map(({ folder }) => `${from}/${folder}`);
  });

function askedIn(
  text: string,
  file: PresentFile,
  { pattern, needs, why }: GameCard['references'][number],
  search: readonly string[],
): Asked[] {
  const reads = new RegExp(pattern);
  // An add-on's own folder is the one above its parts.
  const own = parentOf(parentOf(file.target));
  return text.split(/\r\n|\n|\r/).flatMap((line, i): Asked[] => {
    const name = reads.exec(line)?.groups?.name;
    if (name === undefined) return [];
    const path = needs.replaceAll('{name}', name).replaceAll('{folder}', own);
    const inFolder = (folder: string) => path.replaceAll('{search}', folder);
    return [{ file, line, number: i + 1, name, wanted: [inFolder(own), ...search.map(inFolder)], why }];
  });
}

function missing({ file, line, number, name, wanted, why }: Asked, around: Around): Trouble[] {
  const { keys, nearest, layerOf, input } = around;
  if (wanted.some((one) => nearest.has(one))) return [];
  const inCase = wanted.find((one) => keys.has(nameKey(one)));
  const near = (inCase === undefined ? wanted : [inCase])
    .flatMap((one) => nearest.find(one, 2))
    .sort((a, b) => a.far - b.far)[0];
  const set = input.card.contents.find(
    ({ marker, words }) =>
      !keys.has(nameKey(marker)) &&
      words.some((word) => nameKey(line).includes(nameKey(word)) || nameKey(name).includes(nameKey(word))),
  );
  const meant = inCase ?? wanted[0];
  const brings = near && layerOf.get(near.path);
  const { target, layer } = file;
  return [
    {
      kind: 'refers to nothing',
      id: `refers:${nameKey(target)} ${nameKey(name)}`,
      level: 'wrong',
      ...(layer === undefined ? {} : { layer }),
      about: near?.path ?? meant,
      target,
      line: number,
      meant,
      near,
      brings,
      set: set?.title,
      why,
      shared: sharedBy(near, meant, layer, brings),
    },
  ];
}

/** What is asked for and not there has its cause in the pack that has it elsewhere, else in the one that asks. */
function sharedBy(
  near: Near | undefined,
  meant: string,
  layer: string | undefined,
  brings: string | undefined,
): SharedCause | undefined {
  if (near && brings !== undefined) return sharedMiss(near, meant, brings);
  return near || layer === undefined ? undefined : { kind: 'asks', key: `asks:${layer}`, layer };
}
