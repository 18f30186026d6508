import safeRegex from 'safe-regex2';
import { z } from 'zod';
import { DIALECTS } from '../settings/dialects';
import { folderOrRoot, id, sentence, targetPath } from './cardParts';

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

export const settingsFileSchema = z.strictObject({
  target: targetPath.describe('{profile} stands for each user profile, {title} for each title id of the player’s'),
  dialect: z.enum(DIALECTS),
  title: z.string().min(1).max(80),
  keys: z.array(settingsKeySchema).default([]),
  over: targetPath
    .optional()
    .describe('The settings file for everything, which this one stands over: a value here counts more'),
  numbered: z
    .strictObject({
      section: z.string().min(1).max(40),
      first: z.number().int().nonnegative().default(0),
      folder: z.string().min(1).max(80).optional().describe('The key that names a folder'),
      inside: targetPath.optional().describe('Where that folder lies'),
    })
    .optional()
    .describe('Sections whose names end in a number'),
  search: z
    .strictObject({
      entry: z.array(z.string().min(1)).min(1).max(8),
      each: z.string().min(1).max(20).optional().describe('The word that stands before a folder of containers'),
      from: id.describe('The root that the folders lie in'),
    })
    .optional()
    .describe('The file says where the game looks for files, in order'),
});

export const launchSchema = z.strictObject({
  file: targetPath
    .optional()
    .describe('The settings file that keeps the launch line; without one the player copies it'),
  path: z.array(z.string().min(1)).min(1).max(8).optional(),
  options: z
    .array(
      z.strictObject({
        option: z.string().min(2).max(60),
        meaning: sentence,
        names: folderOrRoot.optional().describe('The folder or root that holds the file which the option names'),
      }),
    )
    .default([]),
});

export const ownFilesSchema = z.strictObject({
  into: folderOrRoot,
  dialect: z.enum(DIALECTS),
  ending: z.string().regex(/^\.\w{1,10}$/),
  why: sentence.describe('How the game is told to read such a file'),
});

export const switchSchema = z.strictObject({
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

export const logRuleSchema = z.strictObject({
  id,
  pattern: z.string().min(1).max(300).describe('A regular expression over one line; named groups become fields'),
  level: z.enum(['note', 'good', 'warning', 'error']),
  says: sentence.describe('What the line means; {field} is filled from the named groups'),
  about: z
    .strictObject({
      kind: z.enum(['file', 'key']).describe('Does the field name a file, or a key of a text file?'),
      field: z.string().min(1).max(40),
      under: folderOrRoot.optional().describe('The folder or root that the file is looked for in'),
    })
    .optional()
    .describe('What the line names, so that it can be traced'),
});

export const logSchema = z.strictObject({
  target: targetPath,
  rules: z.array(logRuleSchema).default([]),
  trace: z.string().min(1).max(300).optional().describe('A regular expression for lines that belong to the one before'),
  loaded: z
    .strictObject({ rule: id, field: z.string() })
    .optional()
    .describe('The rule and field that tell how many files of packs were loaded'),
  ends: id.optional().describe('The rule for the line that a start which went well ends with'),
  counts: z
    .array(z.string())
    .default([])
    .describe('Globs over targets: the deployed files which that number is compared with'),
});

/** Can it be compiled, and read any line in a time that does not explode? Cards come from strangers, too. */
export function expressionProblem(pattern: string): string | undefined {
  try {
    new RegExp(pattern);
  } catch {
    // That it is none is the answer.
    return 'not a regular expression';
  }
  return safeRegex(pattern)
    ? undefined
    : 'a regular expression that could take forever: a repetition inside a repetition';
}
