import { z } from 'zod';
import { checkPath } from '../paths/paths';
import { asTarget } from '../paths/targetSchema';
import { DIALECTS } from '../settings/dialects';

export const id = z.string().regex(/^[a-z0-9][a-z0-9-]{0,63}$/, 'small letters, digits and dashes');

const safePath = z.string().refine((path) => checkPath(path).ok, 'a relative path with / between its parts');

/** `<root id>/<path>` */
export const targetPath = asTarget(
  z
    .string()
    .regex(/^[a-z0-9][a-z0-9-]*\//)
    .refine((path) => checkPath(path).ok, 'a target: <root id>/<path>'),
);

/** A folder as a target, or one of the game's folders itself by its id. */
export const folderOrRoot = targetPath.or(asTarget(id));

export const sentence = z.string().min(1).max(400);

export const globs = z.array(z.string().min(1).max(200)).min(1).max(50);

const elsewhereSchema = z.strictObject({
  marker: targetPath.optional().describe('While this file is there, the root is at `at`: a portable marker'),
  setting: z
    .strictObject({ file: targetPath, dialect: z.enum(DIALECTS), path: z.array(z.string().min(1)).min(1).max(8) })
    .optional()
    .describe('A key that holds the root’s place: a custom location'),
  at: targetPath.optional().describe('Where the root is then, inside another root'),
  why: sentence,
  moves: sentence.optional().describe('What would look lost after switching: settings, saves'),
});

export const rootSchema = z.strictObject({
  id,
  title: z.string().min(1).max(80).describe('What the player calls it: "Program folder"'),
  markers: z
    .array(safePath)
    .default([])
    .describe('Files or folders that are always in it; used to find it and to warn of a wrong one'),
  elsewhere: z
    .array(elsewhereSchema)
    .default([])
    .describe('When the root lies somewhere else; the first that holds counts'),
});

export const titlesSchema = z.strictObject({
  known: z
    .array(
      z.strictObject({
        id: z.string().min(1).max(40),
        title: z.string().min(1).max(80),
        region: z.string().min(1).max(40),
      }),
    )
    .max(500)
    .default([]),
  pattern: z
    .string()
    .min(1)
    .max(100)
    .describe('A regular expression that a whole folder name must fit to look like an id'),
  found: z.string().min(1).describe('A target with {id} in it: files that show which titles the player has'),
  sealed: z
    .strictObject({
      file: asTarget(z.string().min(1)).describe('A target with {id} in it: the title in one file'),
      opens: targetPath.describe('The folder that its contents belong in'),
      why: sentence,
    })
    .optional()
    .describe('A form of keeping a title that packs cannot work with'),
  into: targetPath.describe('The folder that holds one folder for each id'),
  inner: z.string().max(80).default('').describe('The folder inside an id’s folder that is really read'),
});

const placeBase = { id, title: z.string().min(1).max(80), why: sentence };

export const placeModeSchema = z.discriminatedUnion('mode', [
  z.strictObject({
    ...placeBase,
    mode: z.literal('own-folder'),
    into: targetPath,
    marker: z.string().min(1).max(80).optional().describe('The file that makes a folder an add-on'),
    parts: z.array(z.string().min(1).max(80)).default([]).describe('Folder names found inside an add-on'),
  }),
  z.strictObject({
    ...placeBase,
    mode: z.literal('kept-zipped'),
    into: targetPath,
    holds: globs.describe('Files at the top of an archive that show it must stay zipped'),
  }),
  z.strictObject({
    ...placeBase,
    mode: z.literal('into-archive'),
    archive: targetPath,
    entries: globs.describe('Globs over paths inside the archive'),
  }),
  z.strictObject({
    ...placeBase,
    mode: z.literal('loose'),
    files: globs.describe('Globs over file names'),
    into: targetPath,
    as: z.string().min(1).max(120).optional().describe('The fixed name that the game looks for'),
  }),
]);

export const editionSchema = z.strictObject({
  id,
  title: z.string().min(1).max(80),
  marker: targetPath.optional().describe('A file that shows which edition is installed'),
  maxTexture: z.number().int().positive().optional().describe('Largest side of a texture in pixels'),
  textureFormats: z
    .array(z.string().min(1).max(20))
    .optional()
    .describe('Formats that the edition can read: png, dds…'),
});

export const manifestSchema = z.strictObject({
  file: z.string().min(1).max(80).describe('Name of the manifest file'),
  form: z.enum(['json', 'ini']),
  fields: z
    .partialRecord(
      z.enum(['id', 'title', 'version', 'needs', 'patch', 'edition', 'resolution', 'for']),
      z.array(z.string().min(1)).min(1),
    )
    .describe('Where each fact stands'),
});

export const recipeSchema = z.strictObject({
  id,
  title: z.string().min(1).max(80),
  from: z.string().min(1).max(80).describe('The edition whose layout it recognises'),
  has: globs.describe('Paths that must all be in the pack, under any wrapper'),
  moves: z
    .array(z.strictObject({ from: z.string().default(''), to: z.string().default('') }))
    .default([])
    .describe('Folders and files that go elsewhere; "" is the top'),
  drops: z
    .array(z.strictObject({ files: z.string().min(1), why: sentence }))
    .default([])
    .describe('What cannot carry over'),
  manifest: z
    .strictObject({ file: z.string().min(1).max(80), template: z.string().min(1).max(2000) })
    .optional()
    .describe('Written new; {id}, {title} and {version} are filled in'),
  place: id.describe('The place that the result goes to'),
});

export const contentSetSchema = z.strictObject({
  id,
  title: z.string().min(1).max(80),
  marker: targetPath.describe('A file that is there when the player has it'),
  words: z.array(z.string().min(1).max(80)).default([]),
});
