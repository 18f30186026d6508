import type { Statement } from '../games/statement';
import { baseName, extensionOf, nameKey, quotedTarget } from '../paths/paths';
import { countOf } from '../words';
import { from, say } from './say';
import { namingKeys, numberedIn, searchOrderIn, thingOf } from './settingsStudy';
import type { Studied } from './studied';

export function settingsStatements({ settings, tree, profiles, knowledge, roots, spoken }: Studied): Statement[] {
  const found: Statement[] = [];
  const things = new Set<string>();
  for (const file of settings.slice(0, MOST_FILES)) {
    const { target, dialect } = file;
    const thing = profiles ? undefined : thingOf(target, knowledge, roots[0]?.id ?? 'game');
    const id = thing && `things:${thing.folder}/${baseName(target)}`;
    if (id !== undefined && !things.has(id))
      found.push(
        say(
          id,
          { what: 'values of things', folder: thing?.folder ?? '', name: baseName(target) },
          `“${baseName(target)}” in each folder of ${quotedTarget(thing?.folder ?? '')} holds the values of that one; a pack that brings the whole thing brings its own.`,
          [{ says: 'Each of the folders has one.', source: { from: 'file', target } }],
        ),
      );
    if (id !== undefined) things.add(id);
    else
      found.push(
        say(
          `settings:${target}`,
          { what: 'settings', file: target, dialect },
          `${quotedTarget(target)} is yours and the game’s: packs never replace it, only edit values.`,
          [
            ...spokenEvidence(target, spoken),
            {
              says: file.document
                ? `Its text reads as settings (${countOf(file.document.entries().length, 'value')}).`
                : `It ends in .${extensionOf(target)}.`,
              source: { from: 'file', target },
            },
          ],
        ),
      );
    const numbered = numberedIn(file, tree);
    if (numbered)
      found.push(
        say(
          `numbered:${target}`,
          {
            what: 'numbered',
            file: target,
            section: numbered.section,
            ...(numbered.key === undefined ? {} : { key: numbered.key }),
            ...(numbered.inside === undefined ? {} : { folder: numbered.inside }),
          },
          `Sections “[${numbered.section} …]” in ${quotedTarget(target)} are numbered${numbered.key === undefined ? '' : `, and “${numbered.key}” names a folder in ${quotedTarget(numbered.inside ?? '')}`}.`,
          [{ says: 'Sections that differ only in their number.', source: { from: 'file', target } }],
        ),
      );
    const search = searchOrderIn(file, tree, roots);
    if (search)
      found.push(
        say(
          `search:${target}`,
          {
            what: 'search',
            file: target,
            path: search.path,
            root: search.root,
            ...(search.each === undefined ? {} : { each: search.each }),
          },
          `“${search.path.join(' › ')}” in ${quotedTarget(target)} says where the game looks for files, one folder after the other.`,
          [
            {
              says: 'It stands several times, and each value is a folder of the game.',
              source: { from: 'file', target },
            },
          ],
        ),
      );
    for (const { path, list, folder } of namingKeys(file, tree).slice(0, 10))
      if (list !== undefined)
        found.push(
          say(
            `list:${target}:${path.join('/')}`,
            { what: 'list', file: target, path, folder },
            `“${path.at(-1) ?? ''}” in ${quotedTarget(target)} lists folders of ${quotedTarget(folder)}.`,
            [{ says: 'Each of its items is a folder there.', source: { from: 'file', target } }],
          ),
        );
  }
  if (profiles)
    found.push(
      say(
        `profiles:${profiles.folder}`,
        { what: 'profiles', folder: profiles.folder, names: profiles.names.slice(0, 100) },
        `Each folder in ${quotedTarget(profiles.folder)} is somebody’s: ${profiles.names.slice(0, 3).join(', ')}${profiles.names.length > 3 ? ' and others' : ''}.`,
        [from(profiles.folder, 'Each has the same settings file.')],
      ),
    );
  return found;
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
