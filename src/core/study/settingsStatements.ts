import type { Statement } from '../games/statement';
import { baseName, extensionOf, nameKey, quotedTarget } from '../paths/paths';
import type { Dialect } from '../settings/dialects';
import { countOf } from '../words';
import { from, say } from './say';
import { namedThings } from './namedThings';
import { numberedIn, searchOrderIn, thingOf, type FoundSettings } from './settingsStudy';
import type { Studied } from './studied';

/** What is found of the settings files: whose values they hold, and what turns packs on in them. */
export function settingsStatements(studied: Studied): Statement[] {
  const { settings, tree, profiles, roots } = studied;
  const things = new Set<string>();
  const found = settings
    .slice(0, MOST_FILES)
    .flatMap((file) => [
      ...ofWhom(file, studied, things),
      ...numberedSections(file, tree),
      ...searchOrder(file, tree, roots),
      ...thingsNamed(file, tree),
    ]);
  return profiles ? [...found, ofProfiles(profiles)] : found;
}

/** One of the values that each thing has, said once for all of them, or the player's own and the game's. */
function ofWhom(file: FoundSettings, studied: Studied, things: Set<string>): Statement[] {
  const { target, dialect } = file;
  const { profiles, knowledge, roots } = studied;
  const name = baseName(target);
  const thing = profiles ? undefined : thingOf(target, knowledge, roots[0]?.id ?? 'game');
  if (!thing) return [ofTheGame(file, studied, dialect)];
  const id = `things:${thing.folder}/${name}`;
  if (things.has(id)) return [];
  things.add(id);
  return [
    say(
      id,
      { what: 'values of things', folder: thing.folder, name },
      `“${name}” in each folder of ${quotedTarget(thing.folder)} holds the values of that one; a pack that brings the whole thing brings its own.`,
      [{ says: 'Each of the folders has one.', source: { from: 'file', target } }],
    ),
  ];
}

function ofTheGame({ target, document }: FoundSettings, { spoken }: Studied, dialect: Dialect): Statement {
  const says = document
    ? `Its text reads as settings (${countOf(document.entries().length, 'value')}).`
    : `It ends in .${extensionOf(target)}.`;
  return say(
    `settings:${target}`,
    { what: 'settings', file: target, dialect },
    `${quotedTarget(target)} is yours and the game’s: packs never replace it, only edit values.`,
    [...spokenEvidence(target, spoken), { says, source: { from: 'file', target } }],
  );
}

function numberedSections(file: FoundSettings, tree: Studied['tree']): Statement[] {
  const { target } = file;
  const numbered = numberedIn(file, tree);
  if (!numbered) return [];
  const { section, key, inside } = numbered;
  const names = key === undefined ? '' : `, and “${key}” names a folder in ${quotedTarget(inside ?? '')}`;
  return [
    say(
      `numbered:${target}`,
      {
        what: 'numbered',
        file: target,
        section,
        ...(key === undefined ? {} : { key }),
        ...(inside === undefined ? {} : { folder: inside }),
      },
      `Sections “[${section} …]” in ${quotedTarget(target)} are numbered${names}.`,
      [{ says: 'Sections that differ only in their number.', source: { from: 'file', target } }],
    ),
  ];
}

function searchOrder(file: FoundSettings, tree: Studied['tree'], roots: Studied['roots']): Statement[] {
  const { target } = file;
  const search = searchOrderIn(file, tree, roots);
  if (!search) return [];
  const { path, root, each } = search;
  return [
    say(
      `search:${target}`,
      { what: 'search', file: target, path, root, ...(each === undefined ? {} : { each }) },
      `“${path.join(' › ')}” in ${quotedTarget(target)} says where the game looks for files, one folder after the other.`,
      [{ says: 'It stands several times, and each value is a folder of the game.', source: { from: 'file', target } }],
    ),
  ];
}

function thingsNamed({ target, document }: FoundSettings, tree: Studied['tree']): Statement[] {
  const named = document ? namedThings(document, tree) : [];
  return named.slice(0, MOST_NAMED).map(({ path, folder, isList }) => {
    const key = path.length > 0 ? `“${path.at(-1) as string}” in ${quotedTarget(target)}` : quotedTarget(target);
    return say(
      `${isList ? 'list' : 'names'}:${target}:${path.join('/')}`.slice(0, 300),
      { what: isList ? 'list' : 'names', file: target, path, folder },
      isList
        ? `${key} lists what lies in ${quotedTarget(folder)}.`
        : `${key} names one of what lies in ${quotedTarget(folder)}.`,
      [
        {
          says: isList ? 'Each of its items lies there.' : 'Its value lies there, beside others.',
          source: { from: 'file', target },
        },
      ],
    );
  });
}
const MOST_NAMED = 20;

function ofProfiles({ folder, names }: NonNullable<Studied['profiles']>): Statement {
  const some = names.slice(0, 3).join(', ');
  return say(
    `profiles:${folder}`,
    { what: 'profiles', folder, names: names.slice(0, 100) },
    `Each folder in ${quotedTarget(folder)} is somebody’s: ${some}${names.length > 3 ? ' and others' : ''}.`,
    [from(folder, 'Each has the same settings file.')],
  );
}

const MOST_FILES = 200;

function spokenEvidence(target: string, spoken: Studied['spoken']): Statement['evidence'] {
  const found = spoken.get(nameKey(baseName(target)));
  return found
    ? [
        {
          says: `“${found.pack}” speaks of it: “${found.text}”.`,
          source: { from: 'read-me', pack: found.pack, line: found.line },
        },
      ]
    : [];
}
