import type { GameCard } from '../games/card';
import { isUnder, joinPath, nameKey, fillTarget, type TargetPath } from '../paths/paths';
import { within, type BeforeInput } from './beforeInput';
import { keyOf, type PresentFile } from './finding';
import { nearestNames } from './nearest';
import type { Trouble, TroubleOf } from './trouble';

type Titles = NonNullable<GameCard['titles']>;

/** The files of packs in one folder where ids of titles are expected. */
interface Group {
  folder: string;
  here: TargetPath;
  layer: string;
  files: { file: PresentFile; rest: string }[];
}

/** Which of the card's titles the player has: their folders, or the archives that hold them. */
interface Owned {
  titles: Titles;
  own: Titles['known'];
  /** The archive that keeps a title, where it is kept in one. */
  sealed(id: string): TargetPath | undefined;
}

/** Folders that have to bear the id of a title, and what lies in them. */
export function titleChecks(input: BeforeInput): Trouble[] {
  const { titles } = input.card;
  if (!titles) return [];
  const owned = whatIsOwned(titles, input.files);
  const groups = new Map<string, Group>();
  for (const one of within(input, titles.into)) {
    const folder = one.rest.slice(0, Math.max(0, one.rest.indexOf('/')));
    const group = groups.get(folder);
    if (group) group.files.push(one);
    else groups.set(folder, { folder, here: joinPath(titles.into, folder), layer: one.file.layer ?? '', files: [one] });
  }
  const fits = new RegExp(`^(?:${titles.pattern})$`, 'i');
  return [...groups.values()].flatMap((group): Trouble[] => {
    const mine = owned.own.find(({ id }) => nameKey(id) === nameKey(group.folder));
    if (mine) return insideTitle(group, mine, owned);
    return fits.test(group.folder) ? [wrongId(group, owned)] : [idInside(group, owned) ?? wrongId(group, owned)];
  });
}

function whatIsOwned(titles: Titles, files: readonly PresentFile[]): Owned {
  const present = new Set(files.map(keyOf));
  const isOpen = (id: string) => present.has(nameKey(titles.found.replace('{id}', id)));
  const sealed = (id: string) => {
    const archive = titles.sealed && fillTarget(titles.sealed.file, '{id}', id);
    return archive !== undefined && !isOpen(id) && present.has(nameKey(archive)) ? archive : undefined;
  };
  return { titles, own: titles.known.filter(({ id }) => isOpen(id) || sealed(id) !== undefined), sealed };
}

const goalOf = ({ into, inner }: Titles, id: string): TargetPath => joinPath(into, id, inner);

/** What is wrong inside the folder of a title that the player has. */
function insideTitle({ folder, here, layer, files }: Group, title: Titles['known'][number], owned: Owned): Trouble[] {
  const { titles } = owned;
  const found: Trouble[] = [];
  const archive = owned.sealed(title.id);
  const base = { level: 'wrong' as const, layer };
  if (titles.sealed && archive !== undefined)
    found.push({
      ...base,
      kind: 'sealed',
      id: `sealed:${title.id}`,
      about: archive,
      title: title.title,
      archive,
      opens: titles.sealed.opens,
      here,
      files: files.length,
      why: titles.sealed.why,
    });
  if (titles.inner === '') return found;
  const inner = goalOf(titles, title.id);
  const outside = files.filter(({ file }) => !isUnder(nameKey(file.target), nameKey(inner)));
  if (outside.length > 0)
    found.push({
      ...base,
      kind: 'too high',
      id: `too-high:${folder}`,
      about: here,
      here,
      inner,
      name: titles.inner,
      files: outside.map(({ file, rest }) => ({ target: file.target, rest })),
    });
  const twice = joinPath(inner, titles.inner);
  const deep = files.filter(
    ({ file: { target } }) => isUnder(nameKey(target), nameKey(twice)) && target.length > twice.length,
  );
  if (deep.length > 0)
    found.push({
      ...base,
      kind: 'too deep',
      id: `too-deep:${folder}`,
      about: twice,
      inner,
      twice,
      files: deep.map(({ file }) => file.target),
    });
  return found;
}

/** The folder of a title that lies inside a folder of another name. */
function idInside({ folder, here, layer, files }: Group, { own, titles }: Owned): Trouble | undefined {
  const nested = files
    .map(({ rest }) => rest.split('/')[1] ?? '')
    .find((one) => own.some(({ id }) => nameKey(id) === nameKey(one)));
  if (nested === undefined) return undefined;
  return {
    kind: 'id inside',
    id: `too-deep:${folder}`,
    level: 'wrong',
    layer,
    about: here,
    folder,
    nested,
    here,
    into: titles.into,
    files: files.map(({ file }) => file.target),
  };
}

/** A folder whose name is no id of a title that the player has. */
function wrongId({ folder, here, layer, files }: Group, { own, titles }: Owned): TroubleOf<'wrong id'> {
  const known = titles.known.find(({ id }) => nameKey(id) === nameKey(folder));
  const same = own.find(({ title }) => title === known?.title) ?? (own.length === 1 ? own[0] : undefined);
  const ids = own.map(({ id }) => id);
  const right = (known ? undefined : nearestNames(folder, ids)[0]) ?? same?.id;
  const allInside =
    titles.inner !== '' && files.every(({ rest }) => nameKey(rest.split('/')[1] ?? '') === nameKey(titles.inner));
  return {
    kind: 'wrong id',
    id: `wrong-id:${folder}`,
    level: 'wrong',
    layer,
    about: here,
    folder,
    here,
    base: allInside ? joinPath(here, titles.inner) : here,
    files: files.map(({ file }) => file.target),
    region: known?.region,
    own: own.map(({ id, title }) => ({ id, title })),
    right: right === undefined ? undefined : { id: right, goal: goalOf(titles, right) },
  };
}
