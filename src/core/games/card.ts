import { z } from 'zod';
import { checkPath } from '../paths/paths';

const id = z.string().regex(/^[a-z0-9][a-z0-9-]{0,63}$/, 'small letters, digits and dashes');
const safePath = z.string().refine((path) => checkPath(path).ok, 'a relative path with / between its parts');
/** `<root id>/<path>` */
const targetPath = z.string().regex(/^[a-z0-9][a-z0-9-]*\//).refine((path) => checkPath(path).ok, 'a target: <root id>/<path>');
const sentence = z.string().min(1).max(400);

const rootSchema = z.strictObject({
  id,
  title: z.string().min(1).max(80).describe('What the player calls it: "Program folder"'),
  markers: z.array(safePath).default([]).describe('Files or folders that are always in it; used to find it and to warn of a wrong one'),
});

const settingsKeySchema = z.strictObject({
  path: z.array(z.string().min(1)).min(1).max(8).describe('Section and key'),
  type: z.enum(['flag', 'number', 'text']),
  meaning: sentence,
});

const settingsFileSchema = z.strictObject({
  target: targetPath,
  dialect: z.enum(['ini']),
  title: z.string().min(1).max(80),
  keys: z.array(settingsKeySchema).default([]),
});

const switchSchema = z.strictObject({
  id,
  title: z.string().min(1).max(80),
  file: targetPath,
  path: z.array(z.string().min(1)).min(1).max(8),
  on: z.string().describe('The value the key must have'),
  off: z.string(),
  needs: z.array(z.string()).min(1).describe('Globs over targets: packs that deploy one of these need the switch'),
  why: sentence.describe('What happens when it is off, in one sentence'),
});

const logRuleSchema = z.strictObject({
  id,
  pattern: z.string().min(1).max(300).describe('A regular expression over one line; named groups become fields'),
  level: z.enum(['note', 'good', 'warning', 'error']),
  says: sentence.describe('What the line means; {field} is filled from the named groups'),
});

const logSchema = z.strictObject({
  target: targetPath,
  rules: z.array(logRuleSchema).default([]),
  loaded: z.strictObject({ rule: id, field: z.string() }).optional().describe('The rule and field that tell how many files of packs were loaded'),
  counts: z.array(z.string()).default([]).describe('Globs over targets: the deployed files which that number is compared with'),
});

/** How a game's folders work, as data. Every part but the title and one root is optional. */
export const gameCardSchema = z
  .strictObject({
    card: z.literal(1).describe('Version of this format'),
    id,
    title: z.string().min(1).max(80),
    roots: z.array(rootSchema).min(1).max(16),
    settings: z.array(settingsFileSchema).default([]),
    switches: z.array(switchSchema).default([]),
    log: logSchema.optional(),
    trial: z.enum(['gullwick']).optional().describe('Which built-in stand-in plays this game; demo games only'),
  })
  .superRefine((card, context) => {
    const roots = new Set(card.roots.map((root) => root.id));
    if (roots.size < card.roots.length) context.addIssue({ code: 'custom', message: 'two roots have one id', path: ['roots'] });
    const check = (target: string, path: (string | number)[]) => {
      if (!roots.has(target.slice(0, target.indexOf('/')))) context.addIssue({ code: 'custom', message: `no root of that id: ${target}`, path });
    };
    card.settings.forEach((file, i) => check(file.target, ['settings', i, 'target']));
    card.switches.forEach((one, i) => check(one.file, ['switches', i, 'file']));
    if (card.log) check(card.log.target, ['log', 'target']);
    card.log?.rules.forEach((rule, i) => {
      try {
        new RegExp(rule.pattern);
      } catch {
        context.addIssue({ code: 'custom', message: 'not a regular expression', path: ['log', 'rules', i, 'pattern'] });
      }
    });
  });

export type GameCard = z.infer<typeof gameCardSchema>;
export type GameSwitch = GameCard['switches'][number];
export type LogRule = z.infer<typeof logRuleSchema>;

/** The published JSON Schema (2020-12) of game cards. */
export const gameCardJsonSchema = (): Record<string, unknown> => ({
  ...z.toJSONSchema(gameCardSchema, { target: 'draft-2020-12', io: 'input' }),
  title: 'Tidy Satchel game card',
});

/** The card of a game about which nothing is known: one root, everything else learnt from the folder. */
export const plainCard = (id: string, title: string): GameCard =>
  gameCardSchema.parse({ card: 1, id, title, roots: [{ id: 'game', title: 'Game folder' }] });
