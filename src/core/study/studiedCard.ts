import { gameCardSchema, type GameCard } from '../games/card';
import type { Statement } from '../games/statement';
import type { Family } from '../names/families';
import { idForm } from '../names/ids';
import { baseName, isUnder, nameKey, parentOf } from '../paths/paths';
import { namesFoldersIn, namingKeys, numberedIn, searchOrderIn, thingOf, type FoundSettings } from './settingsStudy';
import type { Studied } from './studied';

/** Folders named after people: each has the same settings file, and their names are no ids. */
export function profilesOf({ knowledge, settings, tree, roots }: Studied): Studied['profiles'] {
  const held = new Map<Family, Set<string>>();
  for (const { target } of settings) {
    const folder = nameKey(parentOf(target));
    const family = knowledge.familyOf.get(folder);
    if (family) held.set(family, (held.get(family) ?? new Set()).add(folder));
  }
  for (const [family, members] of held) {
    const names = [...family.members].map((member) => baseName(tree.folders.get(member) ?? member));
    const inUser =
      !isUnder(family.folder, roots[0]?.id ?? 'game') || /(?:profiles?|players?|users?|saves?)$/i.test(family.folder);
    if (
      inUser &&
      members.size >= 2 &&
      members.size === family.members.size &&
      names.every((name) => idForm(name) === undefined)
    )
      return { folder: family.folder, names: names.sort(), family };
  }
  return undefined;
}

/** The statements that hold, as a card. */
export function cardOf(
  { roots, settings, programs, tree, profiles, knowledge }: Studied,
  statements: readonly Statement[],
  title?: string,
): GameCard {
  const holds = new Set(statements.filter(({ standing }) => standing !== 'refused').map(({ id }) => id));
  const first = roots[0];
  const log = statements.find((one) => one.about.what === 'log' && holds.has(one.id));
  const thing = (target: string) => thingOf(target, knowledge, first?.id ?? 'game');
  const told = settings.filter(
    ({ target }) =>
      holds.has(`settings:${target}`) || holds.has(`things:${thing(target)?.folder ?? ''}/${baseName(target)}`),
  );
  const files = told.map((file) => cardSettings(file, { tree, roots }, holds));
  const markers = programs.slice(0, 1).map((program) => program.slice(program.indexOf('/') + 1));
  const made = {
    card: 1 as const,
    id: idOf(title ?? first?.title ?? 'game'),
    title: (title ?? first?.title ?? 'Game').slice(0, 80),
    roots: roots.map(({ id, title: called }, i) => ({
      id,
      title: called.slice(0, 80) || id,
      ...(i === 0 && markers.length > 0 ? { markers } : {}),
    })),
    settings: files,
    ...(profiles && holds.has(`profiles:${profiles.folder}`) ? { profiles: { folder: profiles.folder } } : {}),
    ...(log && log.about.what === 'log' ? { log: { target: log.about.file } } : {}),
  };
  return wholeOrCareful(made);
}

/** One settings file, with what turns packs on in it. */
function cardSettings(
  file: FoundSettings,
  { tree, roots }: Pick<Studied, 'tree' | 'roots'>,
  holds: ReadonlySet<string>,
) {
  const { target, dialect, title } = file;
  const numbered = holds.has(`numbered:${target}`) ? numberedIn(file, tree) : undefined;
  const search = holds.has(`search:${target}`) ? searchOrderIn(file, tree, roots) : undefined;
  const keys = namingKeys(file, tree)
    .slice(0, 50)
    .map(({ path, list, folder }) => ({
      path,
      type: 'text' as const,
      ...(list === undefined ? {} : { list }),
      names: folder,
      meaning: namesFoldersIn(folder),
    }));
  return {
    target,
    dialect,
    title: title.slice(0, 80),
    keys: keys.filter(({ path }) => path.length <= 8 && path.every((name) => name !== '')),
    ...(search && search.path.length <= 8 ? { search: cardSearch(search) } : {}),
    ...(numbered ? { numbered: cardNumbered(numbered) } : {}),
  };
}

const cardSearch = ({ path, root, each }: NonNullable<ReturnType<typeof searchOrderIn>>) => ({
  entry: path,
  from: root,
  ...(each === undefined ? {} : { each }),
});

const cardNumbered = ({ section, first, key, inside }: NonNullable<ReturnType<typeof numberedIn>>) => ({
  section: section.slice(0, 40),
  first,
  ...(key === undefined || inside === undefined ? {} : { folder: key.slice(0, 80), inside }),
});

/** A card as it was put together, before it is known whether a card can hold all of it. */
interface Made {
  card: 1;
  id: string;
  title: string;
  roots: { id: string; title: string; markers?: string[] }[];
  settings: ReturnType<typeof cardSettings>[];
}

/** A name that a card cannot hold is left out of it rather than losing all the rest. */
function wholeOrCareful(made: Made): GameCard {
  const whole = gameCardSchema.safeParse(made);
  if (whole.success) return whole.data;
  const plain = made.settings.map(({ target, dialect, title }) => ({ target, dialect, title }));
  const settings = plain.filter(
    (file) => gameCardSchema.safeParse({ ...made, settings: [file], log: undefined, profiles: undefined }).success,
  );
  const again = gameCardSchema.safeParse({ ...made, settings });
  if (again.success) return again.data;
  const roots = made.roots.map(({ id, title }) => ({ id, title }));
  return gameCardSchema.parse({ card: 1, id: made.id, title: made.title, roots });
}

const idOf = (title: string): string =>
  title
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60) || 'game';
