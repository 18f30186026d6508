import { kindOf } from '../media/kinds';
import { baseName, extensionOf, nameKey, quotedTarget, stemOf } from '../paths/paths';
import { isLanguage } from './languages';
import type { Family } from './knowledge';
import { namingKeys, numberedIn, searchOrderIn, thingOf } from './settingsStudy';
import type { About, Statement } from './statement';
import type { Studied } from './studyGame';

/** So many of one kind are stated: the largest first. */
const MOST = 60;

const count = (n: number, one: string, many = `${one}s`): string => `${n.toLocaleString('en')} ${n === 1 ? one : many}`;

/** What a study says of a game, each with what it was read from. */
export function statementsOf(studied: Studied): Statement[] {
  return [...rootStatements(studied), ...familyStatements(studied), ...noteStatements(studied), ...endingStatements(studied), ...idStatements(studied), ...settingsStatements(studied), ...logStatements(studied), ...archiveStatements(studied), ...otherStatements(studied)];
}

const say = (id: string, about: About, says: string, evidence: Statement['evidence']): Statement =>
  ({ id: id.slice(0, 300), about, says: says.slice(0, 600), evidence: evidence.slice(0, 20), standing: 'found' });
const from = (target: string, says: string): Statement['evidence'][number] => ({ says: says.slice(0, 600), source: { from: 'folder', target } });

function rootStatements({ roots, programs }: Studied): Statement[] {
  return roots.map(({ id, title }, i) => {
    const program = i === 0 ? programs[0] : undefined;
    return say(`root:${id}`, { what: 'root', root: id, ...(program === undefined ? {} : { program }) },
      i === 0 ? `“${title}” is the game’s folder${program === undefined ? '' : `, with its program ${quotedTarget(program)}`}.` : `“${title}” is a folder of yours that the game uses.`,
      [from(program ?? id, program === undefined ? 'You picked it.' : 'A program lies in it.')]);
  });
}

/** The file by which members are known: the one that most of them have. */
const markerOf = (family: Family): string | undefined =>
  [...family.core].filter((one) => one.startsWith('F:') && !/[*#]/.test(one)).sort((a, b) => (family.counts.get(b) ?? 0) - (family.counts.get(a) ?? 0) || (a < b ? -1 : 1))[0]?.slice(2);

function familyStatements({ knowledge, tree }: Studied): Statement[] {
  return [...knowledge.families].sort((a, b) => b.members.size - a.members.size || (a.key < b.key ? -1 : 1)).slice(0, MOST).map((family) => {
    const marker = markerOf(family);
    const members = [...family.members].sort().slice(0, 3).map((member) => quotedTarget(tree.folders.get(member) ?? member));
    return say(`family:${family.folder}`, { what: 'family', folder: family.folder, members: family.members.size, ...(marker === undefined ? {} : { marker }) },
      `Each thing of a kind has a folder of its own in ${quotedTarget(family.folder)}${marker === undefined ? '' : `, with a “${marker}” in it`}.`,
      [from(family.folder, `${members.join(', ')}${family.members.size > 3 ? ' and others' : ''} look alike.`)]);
  });
}

function noteStatements({ notes }: Studied): Statement[] {
  return notes.map(({ folder, own, instead, target, line, text }) => say(`for packs:${folder}`, { what: 'for packs', folder, own, ...(instead ? { instead: true as const } : {}) },
    instead ? `What lies in ${quotedTarget(folder)} is used instead of what is inside the game’s archives, under the same path.` : `${quotedTarget(folder)} is for packs${own ? '; each gets a folder of its own there' : ''}.`, [{ says: `The game’s own note says: “${text}”`, source: { from: 'file', target, line } }]));
}

function endingStatements({ knowledge, tree }: Studied): Statement[] {
  const found: Statement[] = [];
  const endings = [...knowledge.endings].filter(([ending, files]) => ending !== '' && files > 1).sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
  for (const [ending, files] of endings) {
    const homes = [...(knowledge.homes.get(ending) ?? [])].sort((a, b) => b[1] - a[1]);
    const [home] = homes;
    if (!home || home[1] * 10 < files * 8 || found.length >= MOST) continue;
    const folder = tree.folders.get(home[0]) ?? home[0];
    const archives = kindOf(`x.${ending}`) === 'archive';
    found.push(say(`ending:${ending}`, archives ? { what: 'archives', folder, files: home[1] } : { what: 'ending', ending, folder, files: home[1] },
      archives ? `Archives lie unopened in ${quotedTarget(folder)}.` : `Files that end in .${ending} lie in ${quotedTarget(folder)}.`, [from(folder, `${home[1].toLocaleString('en')} of ${files.toLocaleString('en')} of them.`)]));
  }
  return found;
}

function idStatements({ knowledge, tree, idNames }: Studied): Statement[] {
  return knowledge.ids.slice(0, 10).map(({ form, names, owned, containers }) => {
    const folder = tree.folders.get(containers[0] ?? '') ?? containers[0] ?? '';
    const own = [...owned].map((key) => names.get(key) ?? key).sort();
    const called = [...names.keys()].flatMap((key) => idNames.get(key) ?? []);
    return say(`ids:${form}`, { what: 'ids', form, folder, owned: own.slice(0, 200), ...(called.length > 0 ? { called: Object.fromEntries(called.map(({ id, title }) => [id, title])) } : {}) },
      `Names such as “${called[0]?.id ?? own[0] ?? ''}”${called[0] ? ` (“${called[0].title}”)` : ''} stand for things you have; each has its folder in ${quotedTarget(folder)}.`,
      [from(folder, `${count(own.length, 'name')} of this form ${own.length === 1 ? 'comes' : 'come'} up in more than one place.`),
        ...called.slice(0, 5).map(({ id, title, target, line }) => ({ says: `${id} is “${title}”.`, source: { from: 'file' as const, target, line } }))]);
  });
}

function settingsStatements({ settings, tree, profiles, knowledge, roots, spoken }: Studied): Statement[] {
  const found: Statement[] = [];
  const things = new Set<string>();
  for (const file of settings.slice(0, MOST_FILES)) {
    const { target, dialect } = file;
    const thing = profiles ? undefined : thingOf(target, knowledge, roots[0]?.id ?? 'game');
    const id = thing && `things:${thing.folder}/${baseName(target)}`;
    if (id !== undefined && !things.has(id)) found.push(say(id, { what: 'values of things', folder: thing?.folder ?? '', name: baseName(target) },
      `“${baseName(target)}” in each folder of ${quotedTarget(thing?.folder ?? '')} holds the values of that one; a pack that brings the whole thing brings its own.`, [{ says: 'Each of the folders has one.', source: { from: 'file', target } }]));
    if (id !== undefined) things.add(id);
    else found.push(say(`settings:${target}`, { what: 'settings', file: target, dialect }, `${quotedTarget(target)} is yours and the game’s: packs never replace it, only edit values.`,
      [...spokenEvidence(target, spoken), { says: file.document ? `Its text reads as settings (${count(file.document.entries().length, 'value')}).` : `It ends in .${extensionOf(target)}.`, source: { from: 'file', target } }]));
    const numbered = numberedIn(file, tree);
    if (numbered) found.push(say(`numbered:${target}`, { what: 'numbered', file: target, section: numbered.section, ...(numbered.key === undefined ? {} : { key: numbered.key }), ...(numbered.inside === undefined ? {} : { folder: numbered.inside }) },
      `Sections “[${numbered.section} …]” in ${quotedTarget(target)} are numbered${numbered.key === undefined ? '' : `, and “${numbered.key}” names a folder in ${quotedTarget(numbered.inside ?? '')}`}.`, [{ says: 'Sections that differ only in their number.', source: { from: 'file', target } }]));
    const search = searchOrderIn(file, tree, roots);
    if (search) found.push(say(`search:${target}`, { what: 'search', file: target, path: search.path, root: search.root, ...(search.each === undefined ? {} : { each: search.each }) },
      `“${search.path.join(' › ')}” in ${quotedTarget(target)} says where the game looks for files, one folder after the other.`, [{ says: 'It stands several times, and each value is a folder of the game.', source: { from: 'file', target } }]));
    for (const { path, list, folder } of namingKeys(file, tree).slice(0, 10)) if (list !== undefined) found.push(say(`list:${target}:${path.join('/')}`, { what: 'list', file: target, path, folder },
      `“${path.at(-1) ?? ''}” in ${quotedTarget(target)} lists folders of ${quotedTarget(folder)}.`, [{ says: 'Each of its items is a folder there.', source: { from: 'file', target } }]));
  }
  if (profiles) found.push(say(`profiles:${profiles.folder}`, { what: 'profiles', folder: profiles.folder, names: profiles.names.slice(0, 100) },
    `Each folder in ${quotedTarget(profiles.folder)} is somebody’s: ${profiles.names.slice(0, 3).join(', ')}${profiles.names.length > 3 ? ' and others' : ''}.`, [from(profiles.folder, 'Each has the same settings file.')]));
  return found;
}
const MOST_FILES = 200;

function spokenEvidence(target: string, spoken: Studied['spoken']): Statement['evidence'] {
  const found = spoken.get(nameKey(baseName(target)));
  return found ? [{ says: `“${found.pack}” speaks of it: “${found.text}”.`, source: { from: 'read-me', pack: found.pack, line: found.line } }] : [];
}

function archiveStatements({ inside }: Studied): Statement[] {
  return [...inside].sort(([a], [b]) => (a < b ? -1 : 1)).slice(0, MOST).map(([file, paths]) => say(`archive:${file}`, { what: 'archive', file, files: paths.length },
    `${quotedTarget(file)} is an archive that the game opens by itself; what belongs inside goes inside.`, [from(file, `${count(paths.length, 'file')} ${paths.length === 1 ? 'is' : 'are'} in it${paths[0] === undefined ? '' : `, such as “${paths[0]}”`}.`)]));
}

/** From so many pictures on their largest says something. */
const MANY_PICTURES = 20;

function otherStatements({ portable, textures }: Studied): Statement[] {
  const found: Statement[] = [];
  if (portable !== undefined) found.push(say(`portable:${portable}`, { what: 'portable', file: portable }, `With ${quotedTarget(portable)} beside the program the game keeps your files in its own folder.`, [from(portable, 'Its name says so.')]));
  if (textures && textures.files >= MANY_PICTURES) found.push(say('textures', { what: 'textures', file: textures.largest, bytes: textures.bytes, files: textures.files },
    `The largest of its ${textures.files.toLocaleString('en')} pictures has ${Math.max(1, Math.round(textures.bytes / 1024)).toLocaleString('en')} KB.`, [from(textures.largest, 'The largest one.')]));
  return found;
}

const PART_WORDS = { time: 'a time', level: 'how grave it is', place: 'the part of the game that speaks' } as const;

function logStatements({ logs, tree, logForm }: Studied): Statement[] {
  const found: Statement[] = [];
  const [log] = logs;
  if (log !== undefined) found.push(say(`log:${log}`, { what: 'log', file: log }, `${quotedTarget(log)} is the game’s log${logForm ? `; before each message stands ${logForm.parts.map((part) => PART_WORDS[part]).join(', then ')}` : ''}.`,
    [from(log, /log/i.test(baseName(log)) ? 'Its name says so.' : 'Line for line it tells a time and what happened then.'), ...(logForm ? [{ says: `“${logForm.example}”`, source: { from: 'file' as const, target: log, line: 1 } }] : [])]));
  const languages = languageFolders(tree.files);
  for (const { folder, names } of languages.slice(0, 5)) found.push(say(`languages:${folder}`, { what: 'languages', folder: tree.folders.get(folder) ?? folder, names: names.slice(0, 40) },
    `Languages lie in ${quotedTarget(tree.folders.get(folder) ?? folder)}: ${names.slice(0, 4).join(', ')}.`, [from(tree.folders.get(folder) ?? folder, 'Names that stand for languages.')]));
  return found;
}

/** So many languages no game speaks. */
const MOST_LANGUAGES = 80;

function languageFolders(files: Studied['tree']['files']): { folder: string; names: string[] }[] {
  const found: { folder: string; names: string[] }[] = [];
  for (const [folder, inside] of files) {
    // Folders of languages are small, and most folders are none.
    if (inside.size < 2 || inside.size > MOST_LANGUAGES) continue;
    const names = [...inside.keys()].map((name) => stemOf(name)).filter(isLanguage);
    if (names.length >= 2 && names.length * 2 >= inside.size) found.push({ folder, names: names.sort() });
  }
  return found.sort((a, b) => b.names.length - a.names.length || (a.folder < b.folder ? -1 : 1));
}

/** What was found now, with what the player said before: refused stays refused, confirmed stays confirmed, learnt stays learnt, even unseen. */
export function merged(found: readonly Statement[], answers: readonly Statement[]): Statement[] {
  const before = new Map(answers.map((answer) => [answer.id, answer]));
  const now = found.map((one) => {
    const answer = before.get(one.id);
    return answer && answer.standing !== 'found' ? { ...one, standing: answer.standing } : one;
  });
  const seen = new Set(now.map(({ id }) => id));
  return [...now, ...answers.filter(({ id, standing, about }) => (standing !== 'found' || about.what === 'place') && !seen.has(id))];
}
