import type { Statement } from '../games/statement';
import { kindOf } from '../media/kinds';
import type { Family } from '../names/families';
import { quotedTarget } from '../paths/paths';
import { countOf, figure, oneOr } from '../words';
import { logStatements } from './logStatements';
import { MOST, from, say } from './say';
import { settingsStatements } from './settingsStatements';
import type { Studied } from './studied';

/** What a study says of a game, each with what it was read from. */
export function statementsOf(studied: Studied): Statement[] {
  return [
    ...rootStatements(studied),
    ...familyStatements(studied),
    ...noteStatements(studied),
    ...endingStatements(studied),
    ...idStatements(studied),
    ...settingsStatements(studied),
    ...logStatements(studied),
    ...archiveStatements(studied),
    ...otherStatements(studied),
  ];
}

function rootStatements({ roots, programs }: Studied): Statement[] {
  return roots.map(({ id, title }, i) => {
    const program = i === 0 ? programs[0] : undefined;
    return say(
      `root:${id}`,
      { what: 'root', root: id, ...(program === undefined ? {} : { program }) },
      i === 0
        ? `“${title}” is the game’s folder${program === undefined ? '' : `, with its program ${quotedTarget(program)}`}.`
        : `“${title}” is a folder of yours that the game uses.`,
      [from(program ?? id, program === undefined ? 'You picked it.' : 'A program lies in it.')],
    );
  });
}

/** The file by which members are known: the one that most of them have. */
const markerOf = (family: Family): string | undefined =>
  [...family.core]
    .filter((one) => one.startsWith('F:') && !/[*#]/.test(one))
    .sort((a, b) => (family.counts.get(b) ?? 0) - (family.counts.get(a) ?? 0) || (a < b ? -1 : 1))[0]
    ?.slice(2);

function familyStatements({ knowledge, tree }: Studied): Statement[] {
  return [...knowledge.families]
    .sort((a, b) => b.members.size - a.members.size || (a.key < b.key ? -1 : 1))
    .slice(0, MOST)
    .map((family) => {
      const marker = markerOf(family);
      const members = [...family.members]
        .sort()
        .slice(0, 3)
        .map((member) => quotedTarget(tree.folders.get(member) ?? member));
      return say(
        `family:${family.folder}`,
        {
          what: 'family',
          folder: family.folder,
          members: family.members.size,
          ...(marker === undefined ? {} : { marker }),
        },
        `Each thing of a kind has a folder of its own in ${quotedTarget(family.folder)}${marker === undefined ? '' : `, with a “${marker}” in it`}.`,
        [from(family.folder, `${members.join(', ')}${family.members.size > 3 ? ' and others' : ''} look alike.`)],
      );
    });
}

function noteStatements({ notes }: Studied): Statement[] {
  return notes.map(({ folder, own, instead, target, line, text }) =>
    say(
      `for packs:${folder}`,
      { what: 'for packs', folder, own, ...(instead ? { instead: true as const } : {}) },
      instead
        ? `What lies in ${quotedTarget(folder)} is used instead of what is inside the game’s archives, under the same path.`
        : `${quotedTarget(folder)} is for packs${own ? '; each gets a folder of its own there' : ''}.`,
      [
        {
          says: `The game’s own note says: “${text}”`,
          source: { from: 'file', target, ...(line === undefined ? {} : { line }) },
        },
      ],
    ),
  );
}

function endingStatements({ knowledge, tree }: Studied): Statement[] {
  const found: Statement[] = [];
  const endings = [...knowledge.endings]
    .filter(([ending, files]) => ending !== '' && files > 1)
    .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
  for (const [ending, files] of endings) {
    const homes = [...(knowledge.homes.get(ending) ?? [])].sort((a, b) => b[1] - a[1]);
    const [home] = homes;
    if (!home || home[1] * 10 < files * 8 || found.length >= MOST) continue;
    const folder = tree.folders.get(home[0]) ?? home[0];
    const archives = kindOf(`x.${ending}`) === 'archive';
    found.push(
      say(
        `ending:${ending}`,
        archives ? { what: 'archives', folder, files: home[1] } : { what: 'ending', ending, folder, files: home[1] },
        archives
          ? `Archives lie unopened in ${quotedTarget(folder)}.`
          : `Files that end in .${ending} lie in ${quotedTarget(folder)}.`,
        [from(folder, `${home[1].toLocaleString('en')} of ${figure(files)} of them.`)],
      ),
    );
  }
  return found;
}

function idStatements({ knowledge, tree, idNames }: Studied): Statement[] {
  return knowledge.ids.slice(0, 10).map(({ form, names, owned, containers }) => {
    const folder = tree.folders.get(containers[0] ?? '') ?? containers[0] ?? '';
    const own = [...owned].map((key) => names.get(key) ?? key).sort();
    const called = [...names.keys()].flatMap((key) => idNames.get(key) ?? []);
    return say(
      `ids:${form}`,
      {
        what: 'ids',
        form,
        folder,
        owned: own.slice(0, 200),
        ...(called.length > 0 ? { called: Object.fromEntries(called.map(({ id, title }) => [id, title])) } : {}),
      },
      `Names such as “${called[0]?.id ?? own[0] ?? ''}”${called[0] ? ` (“${called[0].title}”)` : ''} stand for things you have; each has its folder in ${quotedTarget(folder)}.`,
      [
        from(
          folder,
          `${countOf(own.length, 'name')} of this form ${oneOr(own.length, 'comes', 'come')} up in more than one place.`,
        ),
        ...called.slice(0, 5).map(({ id, title, target, line }) => ({
          says: `${id} is “${title}”.`,
          source: { from: 'file' as const, target, line },
        })),
      ],
    );
  });
}

function archiveStatements({ inside }: Studied): Statement[] {
  return [...inside]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .slice(0, MOST)
    .map(([file, paths]) =>
      say(
        `archive:${file}`,
        { what: 'archive', file, files: paths.length },
        `${quotedTarget(file)} is an archive that the game opens by itself; what belongs inside goes inside.`,
        [
          from(
            file,
            `${countOf(paths.length, 'file')} ${oneOr(paths.length, 'is', 'are')} in it${paths[0] === undefined ? '' : `, such as “${paths[0]}”`}.`,
          ),
        ],
      ),
    );
}

/** From so many pictures on their largest says something. */
const MANY_PICTURES = 20;

function otherStatements({ portable, textures }: Studied): Statement[] {
  const found: Statement[] = [];
  if (portable !== undefined)
    found.push(
      say(
        `portable:${portable}`,
        { what: 'portable', file: portable },
        `With ${quotedTarget(portable)} beside the program the game keeps your files in its own folder.`,
        [from(portable, 'Its name says so.')],
      ),
    );
  if (textures && textures.files >= MANY_PICTURES)
    found.push(
      say(
        'textures',
        { what: 'textures', file: textures.largest, bytes: textures.bytes, files: textures.files },
        `The largest of its ${figure(textures.files)} pictures has ${Math.max(1, Math.round(textures.bytes / 1024)).toLocaleString('en')} KB.`,
        [from(textures.largest, 'The largest one.')],
      ),
    );
  return found;
}

/**
 * What was found now, with what the player said before: refused stays refused, confirmed stays confirmed, learnt stays
 * learnt, even unseen.
 */
export function merged(found: readonly Statement[], answers: readonly Statement[]): Statement[] {
  const before = new Map(answers.map((answer) => [answer.id, answer]));
  const now = found.map((one) => {
    const answer = before.get(one.id);
    return answer && answer.standing !== 'found' ? { ...one, standing: answer.standing } : one;
  });
  const seen = new Set(now.map(({ id }) => id));
  return [
    ...now,
    ...answers.filter(({ id, standing, about }) => (standing !== 'found' || about.what === 'place') && !seen.has(id)),
  ];
}
