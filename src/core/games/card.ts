import safeRegex from 'safe-regex2';
import { z } from 'zod';
import { checkPath } from '../paths/paths';
import { DIALECTS } from '../settings/dialects';

const id = z.string().regex(/^[a-z0-9][a-z0-9-]{0,63}$/, 'small letters, digits and dashes');
const safePath = z.string().refine((path) => checkPath(path).ok, 'a relative path with / between its parts');
/** `<root id>/<path>` */
const targetPath = z.string().regex(/^[a-z0-9][a-z0-9-]*\//).refine((path) => checkPath(path).ok, 'a target: <root id>/<path>');
const sentence = z.string().min(1).max(400);

const globs = z.array(z.string().min(1).max(200)).min(1).max(50);

const elsewhereSchema = z.strictObject({
  marker: targetPath.optional().describe('While this file is there, the root is at `at`: a portable marker'),
  setting: z.strictObject({ file: targetPath, dialect: z.enum(DIALECTS), path: z.array(z.string().min(1)).min(1).max(8) }).optional().describe('A key that holds the root’s place: a custom location'),
  at: targetPath.optional().describe('Where the root is then, inside another root'),
  why: sentence,
  moves: sentence.optional().describe('What would look lost after switching: settings, saves'),
});

const rootSchema = z.strictObject({
  id,
  title: z.string().min(1).max(80).describe('What the player calls it: "Program folder"'),
  markers: z.array(safePath).default([]).describe('Files or folders that are always in it; used to find it and to warn of a wrong one'),
  elsewhere: z.array(elsewhereSchema).default([]).describe('When the root lies somewhere else; the first that holds counts'),
});

const titlesSchema = z.strictObject({
  known: z.array(z.strictObject({ id: z.string().min(1).max(40), title: z.string().min(1).max(80), region: z.string().min(1).max(40) })).max(500).default([]),
  pattern: z.string().min(1).max(100).describe('A regular expression that a whole folder name must fit to look like an id'),
  found: z.string().min(1).describe('A target with {id} in it: files that show which titles the player has'),
  sealed: z.strictObject({ file: z.string().min(1).describe('A target with {id} in it: the title in one file'), opens: targetPath.describe('The folder that its contents belong in'), why: sentence }).optional().describe('A form of keeping a title that packs cannot work with'),
  into: targetPath.describe('The folder that holds one folder for each id'),
  inner: z.string().max(80).default('').describe('The folder inside an id’s folder that is really read'),
});

const placeBase = { id, title: z.string().min(1).max(80), why: sentence };
const placeModeSchema = z.discriminatedUnion('mode', [
  z.strictObject({ ...placeBase, mode: z.literal('own-folder'), into: targetPath, marker: z.string().min(1).max(80).optional().describe('The file that makes a folder an add-on'), parts: z.array(z.string().min(1).max(80)).default([]).describe('Folder names found inside an add-on') }),
  z.strictObject({ ...placeBase, mode: z.literal('kept-zipped'), into: targetPath, holds: globs.describe('Files at the top of an archive that show it must stay zipped') }),
  z.strictObject({ ...placeBase, mode: z.literal('into-archive'), archive: targetPath, entries: globs.describe('Globs over paths inside the archive') }),
  z.strictObject({ ...placeBase, mode: z.literal('loose'), files: globs.describe('Globs over file names'), into: targetPath, as: z.string().min(1).max(120).optional().describe('The fixed name that the game looks for') }),
]);

const editionSchema = z.strictObject({
  id,
  title: z.string().min(1).max(80),
  marker: targetPath.optional().describe('A file that shows which edition is installed'),
  maxTexture: z.number().int().positive().optional().describe('Largest side of a texture in pixels'),
  textureFormats: z.array(z.string().min(1).max(20)).optional().describe('Formats that the edition can read: png, dds…'),
});

const manifestSchema = z.strictObject({
  file: z.string().min(1).max(80).describe('Name of the manifest file'),
  form: z.enum(['json', 'ini']),
  fields: z.partialRecord(z.enum(['id', 'title', 'version', 'needs', 'patch', 'edition', 'resolution', 'for']), z.array(z.string().min(1)).min(1)).describe('Where each fact stands'),
});

const recipeSchema = z.strictObject({
  id,
  title: z.string().min(1).max(80),
  from: z.string().min(1).max(80).describe('The edition whose layout it recognises'),
  has: globs.describe('Paths that must all be in the pack, under any wrapper'),
  moves: z.array(z.strictObject({ from: z.string().default(''), to: z.string().default('') })).default([]).describe('Folders and files that go elsewhere; "" is the top'),
  drops: z.array(z.strictObject({ files: z.string().min(1), why: sentence })).default([]).describe('What cannot carry over'),
  manifest: z.strictObject({ file: z.string().min(1).max(80), template: z.string().min(1).max(2000) }).optional().describe('Written new; {id}, {title} and {version} are filled in'),
  place: id.describe('The place that the result goes to'),
});

const contentSetSchema = z.strictObject({ id, title: z.string().min(1).max(80), marker: targetPath.describe('A file that is there when the player has it'), words: z.array(z.string().min(1).max(80)).default([]) });

const settingsKeySchema = z.strictObject({
  path: z.array(z.string().min(1)).min(1).max(8).describe('Section and key'),
  type: z.enum(['flag', 'number', 'text']),
  min: z.number().optional().describe('Of numbers: the least that the game takes'),
  max: z.number().optional().describe('Of numbers: the most that the game, or the screen, takes'),
  options: z.array(z.string().min(1).max(80)).min(1).max(60).optional().describe('The only values that the game takes'),
  default: z.string().max(200).optional().describe('What the game uses where the key is not there'),
  list: z.string().min(1).max(3).optional().describe('The value is a list; this stands between its items'),
  names: targetPath.optional().describe('The folder whose folders the value, or each item of the list, names'),
  costs: z.enum(['texture memory']).optional().describe('Turned on, it needs memory for all textures at once'),
  meaning: sentence,
});

const settingsFileSchema = z.strictObject({
  target: targetPath.describe('{profile} stands for each user profile, {title} for each title id of the player’s'),
  dialect: z.enum(DIALECTS),
  title: z.string().min(1).max(80),
  keys: z.array(settingsKeySchema).default([]),
  over: targetPath.optional().describe('The settings file for everything, which this one stands over: a value here counts more'),
  numbered: z.strictObject({ section: z.string().min(1).max(40), first: z.number().int().nonnegative().default(0), folder: z.string().min(1).max(80).optional().describe('The key that names a folder'), inside: targetPath.optional().describe('Where that folder lies') }).optional().describe('Sections whose names end in a number'),
  search: z.strictObject({ entry: z.array(z.string().min(1)).min(1).max(8), each: z.string().min(1).max(20).optional().describe('The word that stands before a folder of containers'), from: id.describe('The root that the folders lie in') }).optional().describe('The file says where the game looks for files, in order'),
});

const launchSchema = z.strictObject({
  file: targetPath.optional().describe('The settings file that keeps the launch line; without one the player copies it'),
  path: z.array(z.string().min(1)).min(1).max(8).optional(),
  options: z.array(z.strictObject({ option: z.string().min(2).max(60), meaning: sentence, names: targetPath.or(id).optional().describe('The folder or root that holds the file which the option names') })).default([]),
});

const ownFilesSchema = z.strictObject({ into: targetPath.or(id), dialect: z.enum(DIALECTS), ending: z.string().regex(/^\.\w{1,10}$/), why: sentence.describe('How the game is told to read such a file') });

const switchSchema = z.strictObject({
  id,
  title: z.string().min(1).max(80),
  file: targetPath,
  path: z.array(z.string().min(1)).min(1).max(8),
  on: z.string().describe('The value the key must have'),
  off: z.string(),
  after: id.optional().describe('The switch without which this one does nothing'),
  needs: z.array(z.string()).min(1).describe('Globs over targets: packs that deploy one of these need the switch'),
  why: sentence.describe('What happens when it is off, in one sentence'),
});

const logRuleSchema = z.strictObject({
  id,
  pattern: z.string().min(1).max(300).describe('A regular expression over one line; named groups become fields'),
  level: z.enum(['note', 'good', 'warning', 'error']),
  says: sentence.describe('What the line means; {field} is filled from the named groups'),
  about: z.strictObject({ kind: z.enum(['file', 'key']).describe('Does the field name a file, or a key of a text file?'), field: z.string().min(1).max(40), under: targetPath.or(id).optional().describe('The folder or root that the file is looked for in') }).optional().describe('What the line names, so that it can be traced'),
});

const logSchema = z.strictObject({
  target: targetPath,
  rules: z.array(logRuleSchema).default([]),
  trace: z.string().min(1).max(300).optional().describe('A regular expression for lines that belong to the one before'),
  loaded: z.strictObject({ rule: id, field: z.string() }).optional().describe('The rule and field that tell how many files of packs were loaded'),
  ends: id.optional().describe('The rule for the line that a start which went well ends with'),
  counts: z.array(z.string()).default([]).describe('Globs over targets: the deployed files which that number is compared with'),
});

/** Can it be compiled, and read any line in a time that does not explode? Cards come from strangers, too. */
function expressionProblem(pattern: string): string | undefined {
  try {
    new RegExp(pattern);
  } catch {
    return 'not a regular expression';
  }
  return safeRegex(pattern) ? undefined : 'a regular expression that could take forever: a repetition inside a repetition';
}

/** How a game's folders work, as data. Every part but the title and one root is optional. */
export const gameCardSchema = z
  .strictObject({
    card: z.literal(1).describe('Version of this format'),
    id,
    title: z.string().min(1).max(80),
    roots: z.array(rootSchema).min(1).max(16),
    settings: z.array(settingsFileSchema).default([]),
    switches: z.array(switchSchema).default([]),
    places: z.array(placeModeSchema).default([]).describe('Ways of placing beyond laying a pack over the game’s folders'),
    titles: titlesSchema.optional(),
    profiles: z.strictObject({ folder: targetPath }).optional().describe('The folder that holds one folder for each user profile'),
    editions: z.array(editionSchema).default([]),
    manifests: z.array(manifestSchema).default([]),
    recipes: z.array(recipeSchema).default([]),
    contents: z.array(contentSetSchema).default([]).describe('Content sets that packs may borrow from'),
    texts: z.array(z.strictObject({ into: targetPath, ending: z.string().regex(/^\.\w{1,10}$/), dialect: z.enum(DIALECTS), why: sentence })).default([]).describe('Folders whose text files are all read: one of a name that is there replaces that one whole'),
    references: z.array(z.strictObject({ files: globs.describe('Globs over targets of files that refer to others'), pattern: z.string().min(1).max(300).describe('A regular expression over a line, with a group “name”'), needs: z.string().min(1).max(200).describe('The file it refers to: {name}, {folder} (the add-on’s own) and {search} (every folder of the search order) are filled in'), why: sentence })).default([]),
    launch: launchSchema.optional(),
    ownFiles: ownFilesSchema.optional().describe('Settings files that players write for themselves'),
    log: logSchema.optional(),
    trial: z.enum(['gullwick', 'tinplate', 'hedgerow']).optional().describe('Which built-in stand-in plays this game; demo games only'),
  })
  .superRefine((card, context) => {
    const roots = new Set(card.roots.map((root) => root.id));
    if (roots.size < card.roots.length) context.addIssue({ code: 'custom', message: 'two roots have one id', path: ['roots'] });
    const check = (target: string, path: (string | number)[]) => {
      if (!roots.has(target.slice(0, target.indexOf('/')))) context.addIssue({ code: 'custom', message: `no root of that id: ${target}`, path });
    };
    card.settings.forEach((file, i) => check(file.target, ['settings', i, 'target']));
    card.switches.forEach((one, i) => {
      check(one.file, ['switches', i, 'file']);
      if (one.after !== undefined && (one.after === one.id || !card.switches.some((other) => other.id === one.after))) context.addIssue({ code: 'custom', message: `no other switch of that id: ${one.after}`, path: ['switches', i, 'after'] });
    });
    card.settings.forEach((file, i) => file.search && !roots.has(file.search.from) && context.addIssue({ code: 'custom', message: `no root of that id: ${file.search.from}`, path: ['settings', i, 'search', 'from'] }));
    if (card.ownFiles) check(`${card.ownFiles.into}/x`, ['ownFiles', 'into']);
    if (card.launch?.file !== undefined) check(card.launch.file, ['launch', 'file']);
    if (card.log) check(card.log.target, ['log', 'target']);
    card.places.forEach((place, i) => check(place.mode === 'into-archive' ? place.archive : place.into, ['places', i]));
    if (card.titles) check(card.titles.into, ['titles', 'into']);
    if (card.titles?.sealed) for (const part of ['file', 'opens'] as const) check(`${card.titles.sealed[part]}/`, ['titles', 'sealed', part]);
    if (card.profiles) check(card.profiles.folder, ['profiles', 'folder']);
    card.roots.forEach((root, i) => root.elsewhere.forEach((one, j) => [one.marker, one.at, one.setting?.file].forEach((path) => path && check(path, ['roots', i, 'elsewhere', j]))));
    const places = new Set(card.places.map((place) => place.id));
    card.recipes.forEach((recipe, i) => {
      if (!places.has(recipe.place)) context.addIssue({ code: 'custom', message: `no place of that id: ${recipe.place}`, path: ['recipes', i, 'place'] });
    });
    const checkExpression = (pattern: string | undefined, path: (string | number)[]) => {
      const message = pattern === undefined ? undefined : expressionProblem(pattern);
      if (message !== undefined) context.addIssue({ code: 'custom', message, path });
    };
    checkExpression(card.titles?.pattern, ['titles', 'pattern']);
    checkExpression(card.log?.trace, ['log', 'trace']);
    card.texts.forEach((one, i) => check(`${one.into}/x`, ['texts', i, 'into']));
    card.references.forEach((one, i) => checkExpression(one.pattern, ['references', i, 'pattern']));
    card.log?.rules.forEach((rule, i) => checkExpression(rule.pattern, ['log', 'rules', i, 'pattern']));
  });

export type GameCard = z.infer<typeof gameCardSchema>;
export type GameSwitch = GameCard['switches'][number];
export type PlaceMode = GameCard['places'][number];
export type TitleCard = NonNullable<GameCard['titles']>;
export type Edition = GameCard['editions'][number];
export type Recipe = GameCard['recipes'][number];
export type LogRule = z.infer<typeof logRuleSchema>;

/** Does a card say how its game's packs are placed? Then that was written or confirmed by somebody who knows. */
export const saysWherePacksGo = ({ places, titles, recipes }: GameCard): boolean => places.length > 0 || titles !== undefined || recipes.length > 0;

/** The published JSON Schema (2020-12) of game cards. */
export const gameCardJsonSchema = (): Record<string, unknown> => ({
  ...z.toJSONSchema(gameCardSchema, { target: 'draft-2020-12', io: 'input' }),
  title: 'Tidy Satchel game card',
});

/** The card of a game about which nothing is known: one root, everything else learnt from the folder. */
export const plainCard = (id: string, title: string): GameCard =>
  gameCardSchema.parse({ card: 1, id, title, roots: [{ id: 'game', title: 'Game folder' }] });
