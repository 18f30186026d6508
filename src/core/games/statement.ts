import { z } from 'zod';
import { nameKey } from '../paths/paths';

/** Where something was read, so that it can be opened there. */
const sourceSchema = z.discriminatedUnion('from', [
  z.strictObject({ from: z.literal('folder'), target: z.string() }),
  z.strictObject({ from: z.literal('file'), target: z.string(), line: z.number().int().positive().optional() }),
  z.strictObject({ from: z.literal('read-me'), pack: z.string(), line: z.number().int().positive() }),
  z.strictObject({ from: z.literal('log'), line: z.number().int().positive() }),
  z.strictObject({ from: z.literal('answer'), pack: z.string() }),
  z.strictObject({ from: z.literal('card') }),
]);

/** What a statement is about, with its blanks filled in: always things of the game, never code. */
const aboutSchema = z.discriminatedUnion('what', [
  z.strictObject({ what: z.literal('root'), root: z.string(), program: z.string().optional() }),
  z.strictObject({
    what: z.literal('family'),
    folder: z.string(),
    members: z.number().int(),
    marker: z.string().optional(),
  }),
  z.strictObject({ what: z.literal('ending'), ending: z.string(), folder: z.string(), files: z.number().int() }),
  z.strictObject({
    what: z.literal('for packs'),
    folder: z.string(),
    own: z.boolean(),
    /** What lies there is used instead of what is inside the game's archives, under the same path. */ instead: z
      .literal(true)
      .optional(),
  }),
  z.strictObject({ what: z.literal('archives'), folder: z.string(), files: z.number().int() }),
  z.strictObject({ what: z.literal('archive'), file: z.string(), files: z.number().int() }),
  z.strictObject({
    what: z.literal('ids'),
    form: z.string(),
    folder: z.string(),
    owned: z.array(z.string()),
    called: z.record(z.string(), z.string()).optional(),
  }),
  z.strictObject({ what: z.literal('profiles'), folder: z.string(), names: z.array(z.string()) }),
  z.strictObject({ what: z.literal('settings'), file: z.string(), dialect: z.string() }),
  z.strictObject({ what: z.literal('values of things'), folder: z.string(), name: z.string() }),
  z.strictObject({
    what: z.literal('numbered'),
    file: z.string(),
    section: z.string(),
    key: z.string().optional(),
    folder: z.string().optional(),
  }),
  z.strictObject({
    what: z.literal('search'),
    file: z.string(),
    path: z.array(z.string()),
    root: z.string(),
    each: z.string().optional(),
  }),
  z.strictObject({ what: z.literal('list'), file: z.string(), path: z.array(z.string()), folder: z.string() }),
  z.strictObject({ what: z.literal('names'), file: z.string(), path: z.array(z.string()), folder: z.string() }),
  z.strictObject({ what: z.literal('languages'), folder: z.string(), names: z.array(z.string()) }),
  z.strictObject({ what: z.literal('log'), file: z.string() }),
  z.strictObject({ what: z.literal('portable'), file: z.string() }),
  z.strictObject({ what: z.literal('textures'), file: z.string(), bytes: z.number().int(), files: z.number().int() }),
  z.strictObject({
    what: z.literal('place'),
    like: z.string(),
    folder: z.string(),
    own: z.boolean(),
    times: z.number().int(),
  }),
]);

/** Something that the app knows of a game: one sentence, why, and whether the player agrees. */
export const statementSchema = z.strictObject({
  id: z.string().min(1).max(300),
  about: aboutSchema,
  says: z.string().min(1).max(600),
  evidence: z.array(z.strictObject({ says: z.string().min(1).max(600), source: sourceSchema })).max(20),
  standing: z.enum(['found', 'confirmed', 'refused']),
});

export type Statement = z.infer<typeof statementSchema>;

export type About = Statement['about'];

const ANSWERED = new Set<About['what']>([
  'family',
  'for packs',
  'ending',
  'archives',
  'ids',
  'place',
  'settings',
  'list',
  'names',
]);
/** What is refused of these says nothing of the kind of things in their folder. */
const NAMING = new Set<About['what']>(['place', 'list', 'names']);

/** Does it change anything when the player says no? What only the game card's form can change is shown without that. */
export const canBeAnswered = ({ about }: Statement): boolean => ANSWERED.has(about.what);

/** The folders of which the player says that they hold no kind of thing. */
export const refusedFolders = (statements: readonly Statement[]): Set<string> =>
  new Set(
    statements.flatMap(({ about, standing }) =>
      standing === 'refused' && 'folder' in about && !NAMING.has(about.what) && about.folder !== undefined
        ? [nameKey(about.folder)]
        : [],
    ),
  );

/** What ids are called, by the key of the id, as far as the statements that hold say so. */
export const namesOfIdsIn = (statements: readonly Statement[]): Map<string, string> =>
  new Map(
    statements.flatMap(({ about, standing }) =>
      about.what === 'ids' && standing !== 'refused'
        ? Object.entries(about.called ?? {}).map(([id, title]) => [nameKey(id), title] as const)
        : [],
    ),
  );
