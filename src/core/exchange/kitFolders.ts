import { SatchelError } from '../errors';
import type { GameCard } from '../games/card';
import { gameTreeOf } from '../names/gameTree';
import { ownTitles } from '../placement/titles';
import { inOtherRoot, inOtherRoots, placesIn } from '../setup/places';
import type { Kit } from './kit';

/** A folder that a kit writes to, and what is taken for it here. */
export interface KitFolder {
  /** One of the game's folders, or the folder of a title in it, as the kit's places begin. */
  id: string;
  title: string;
  /** What is most likely the same here. */
  here: string | undefined;
  /** All that could be meant. */
  options: { id: string; title: string }[];
}

/** What the kit's folders are compared with: the game's folders here, and the titles that it has. */
export interface FoldersHere {
  roots: readonly { id: string; title: string }[];
  /** The folder that holds one folder for each title, and the titles that are here. */
  titles?: { into: string; owned: readonly { id: string; title: string }[] } | undefined;
}

/** The same of a game. @param files all that it has without packs, as targets */
export function foldersHere({ roots, titles }: GameCard, files: readonly string[]): FoldersHere {
  const ids = roots.map(({ id }) => id);
  return { roots, titles: titles && { into: titles.into, owned: ownTitles(titles, gameTreeOf(ids, files)) } };
}

const placesOfKit = ({ way, setUps, sets }: Kit): string[] => [
  ...[way, ...setUps.map(({ stack }) => stack)].flatMap(placesIn),
  ...sets.flatMap(({ files }) => files.map(({ file }) => file)),
];

/**
 * The folders that a kit's decisions lead to: the game's folders, each with the one here of the same id, else of the
 * same title, else the only one that is left on both sides; and those of titles that are not here, each with the one
 * here that is called the same, as in another region.
 */
export function kitFolders(kit: Kit, here: FoldersHere): KitFolder[] {
  const used = new Set(placesOfKit(kit).map((place) => place.split('/')[0]));
  const wanted = kit.card.roots.filter(({ id }) => used.has(id));
  const options = here.roots.map(({ id, title }) => ({ id, title }));
  const found = new Map<string, string>();
  const left = () => options.filter(({ id }) => ![...found.values()].includes(id));
  const pair = (isSame: (one: { id: string; title: string }, other: { id: string; title: string }) => boolean) => {
    for (const one of wanted.filter(({ id }) => !found.has(id))) {
      const other = left().find((root) => isSame(one, root));
      if (other) found.set(one.id, other.id);
    }
  };
  pair((one, other) => one.id === other.id);
  pair((one, other) => one.title.toLowerCase() === other.title.toLowerCase());
  if (wanted.filter(({ id }) => !found.has(id)).length === 1 && left().length === 1) pair(() => true);
  return [...wanted.map(({ id, title }) => ({ id, title, here: found.get(id), options })), ...kitTitles(kit, here)];
}

/** Titles that the kit's places are for and that are not here, where others are. */
function kitTitles(kit: Kit, { titles }: FoldersHere): KitFolder[] {
  const from = kit.card.titles;
  if (!from || !titles || titles.owned.length === 0) return [];
  const ids = placesOfKit(kit).flatMap((place) =>
    place.startsWith(`${from.into}/`) ? [place.slice(from.into.length + 1).split('/')[0] ?? ''] : [],
  );
  const options = titles.owned.map(({ id, title }) => ({ id: `${titles.into}/${id}`, title: `${title} (${id})` }));
  return [...new Set(ids)]
    .filter((id) => !titles.owned.some((one) => one.id === id))
    .map((id) => {
      const called = from.known.find((one) => one.id === id)?.title;
      const same = titles.owned.find(({ title }) => called !== undefined && title === called);
      return {
        id: `${from.into}/${id}`,
        title: called === undefined ? id : `${called} (${id})`,
        here: same && `${titles.into}/${same.id}`,
        options,
      };
    });
}

/**
 * A kit's decisions in the folders that are here.
 *
 * @param chosen for each of the kit's folders the one here; titles that are left out stay as they are
 * @throws SatchelError `folder-not-given` where a folder of the game that it leads to has none here
 */
export function kitInFolders(kit: Kit, here: FoldersHere, chosen: ReadonlyMap<string, string>): Kit {
  const asked = kitFolders(kit, here);
  const answer = ({ id, options }: KitFolder) => options.find((one) => one.id === chosen.get(id))?.id;
  const missing = asked.filter((one) => !one.id.includes('/') && answer(one) === undefined);
  if (missing.length > 0)
    throw new SatchelError('folder-not-given', { names: missing.map(({ title }) => `“${title}”`).join(', ') });
  const ids = new Map(asked.flatMap((one) => [[one.id, answer(one)]].filter(isAnswered)));
  return {
    ...kit,
    way: inOtherRoots(kit.way, ids),
    setUps: kit.setUps.map((one) => ({ ...one, stack: inOtherRoots(one.stack, ids) })),
    sets: kit.sets.map((set) => ({
      ...set,
      files: set.files.map((file) => ({ ...file, file: inOtherRoot(file.file, ids) })),
    })),
  };
}

const isAnswered = (one: (string | undefined)[]): one is [string, string] => one[1] !== undefined;
