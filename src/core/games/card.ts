import { z } from 'zod';
import { target, type TargetPath } from '../paths/paths';
import { DIALECTS } from '../settings/dialects';
import {
  contentSetSchema,
  editionSchema,
  globs,
  id,
  manifestSchema,
  placeModeSchema,
  recipeSchema,
  rootSchema,
  sentence,
  targetPath,
  titlesSchema,
} from './cardParts';
import {
  expressionProblem,
  launchSchema,
  logRuleSchema,
  logSchema,
  ownFilesSchema,
  settingsFileSchema,
  switchSchema,
} from './settingsCard';

/** How a game's folders work, as data. Every part but the title and one root is optional. */
export const gameCardSchema = z
  .strictObject({
    card: z.literal(1).describe('Version of this format'),
    id,
    title: z.string().min(1).max(80),
    roots: z.array(rootSchema).min(1).max(16),
    settings: z.array(settingsFileSchema).default([]),
    switches: z.array(switchSchema).default([]),
    places: z
      .array(placeModeSchema)
      .default([])
      .describe('Ways of placing beyond laying a pack over the game’s folders'),
    titles: titlesSchema.optional(),
    profiles: z
      .strictObject({ folder: targetPath })
      .optional()
      .describe('The folder that holds one folder for each user profile'),
    editions: z.array(editionSchema).default([]),
    manifests: z.array(manifestSchema).default([]),
    recipes: z.array(recipeSchema).default([]),
    contents: z.array(contentSetSchema).default([]).describe('Content sets that packs may borrow from'),
    texts: z
      .array(
        z.strictObject({
          into: targetPath,
          ending: z.string().regex(/^\.\w{1,10}$/),
          dialect: z.enum(DIALECTS),
          why: sentence,
        }),
      )
      .default([])
      .describe('Folders whose text files are all read: one of a name that is there replaces that one whole'),
    references: z
      .array(
        z.strictObject({
          files: globs.describe('Globs over targets of files that refer to others'),
          pattern: z.string().min(1).max(300).describe('A regular expression over a line, with a group “name”'),
          needs: z
            .string()
            .min(1)
            .max(200)
            .describe(
              'The file it refers to: {name}, {folder} (the add-on’s own) and {search} (every folder of the search order) are filled in',
            ),
          why: sentence,
        }),
      )
      .default([]),
    launch: launchSchema.optional(),
    ownFiles: ownFilesSchema.optional().describe('Settings files that players write for themselves'),
    log: logSchema.optional(),
    trial: z
      .enum(['gullwick', 'tinplate', 'hedgerow'])
      .optional()
      .describe('Which built-in stand-in plays this game; demo games only'),
  })
  .superRefine((card, context) => {
    const roots = new Set(card.roots.map((root) => root.id));
    if (roots.size < card.roots.length)
      context.addIssue({ code: 'custom', message: 'two roots have one id', path: ['roots'] });
    const check = (target: string, path: (string | number)[]) => {
      if (!roots.has(target.slice(0, target.indexOf('/'))))
        context.addIssue({ code: 'custom', message: `no root of that id: ${target}`, path });
    };
    card.settings.forEach((file, i) => check(file.target, ['settings', i, 'target']));
    card.switches.forEach((one, i) => {
      check(one.file, ['switches', i, 'file']);
      if (one.after !== undefined && (one.after === one.id || !card.switches.some((other) => other.id === one.after)))
        context.addIssue({
          code: 'custom',
          message: `no other switch of that id: ${one.after}`,
          path: ['switches', i, 'after'],
        });
    });
    card.settings.forEach(
      (file, i) =>
        file.search &&
        !roots.has(file.search.from) &&
        context.addIssue({
          code: 'custom',
          message: `no root of that id: ${file.search.from}`,
          path: ['settings', i, 'search', 'from'],
        }),
    );
    if (card.ownFiles) check(`${card.ownFiles.into}/x`, ['ownFiles', 'into']);
    if (card.launch?.file !== undefined) check(card.launch.file, ['launch', 'file']);
    if (card.log) check(card.log.target, ['log', 'target']);
    card.places.forEach((place, i) => check(place.mode === 'into-archive' ? place.archive : place.into, ['places', i]));
    if (card.titles) check(card.titles.into, ['titles', 'into']);
    if (card.titles?.sealed)
      for (const part of ['file', 'opens'] as const) check(`${card.titles.sealed[part]}/`, ['titles', 'sealed', part]);
    if (card.profiles) check(card.profiles.folder, ['profiles', 'folder']);
    card.roots.forEach((root, i) =>
      root.elsewhere.forEach((one, j) =>
        [one.marker, one.at, one.setting?.file].forEach((path) => path && check(path, ['roots', i, 'elsewhere', j])),
      ),
    );
    const places = new Set(card.places.map((place) => place.id));
    card.recipes.forEach((recipe, i) => {
      if (!places.has(recipe.place))
        context.addIssue({
          code: 'custom',
          message: `no place of that id: ${recipe.place}`,
          path: ['recipes', i, 'place'],
        });
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

/** The first of the game's folders, where nothing says which. */
export const firstRoot = ({ roots }: Pick<GameCard, 'roots'>): TargetPath => target(roots[0]?.id ?? 'game', '');

/** Does a card say how its game's packs are placed? Then that was written or confirmed by somebody who knows. */
export const saysWherePacksGo = ({ places, titles, recipes }: GameCard): boolean =>
  places.length > 0 || titles !== undefined || recipes.length > 0;

/** The published JSON Schema (2020-12) of game cards. */
export const gameCardJsonSchema = (): Record<string, unknown> => ({
  ...z.toJSONSchema(gameCardSchema, { target: 'draft-2020-12', io: 'input' }),
  title: 'Tidy Satchel game card',
});

/** The card of a game about which nothing is known: one root, everything else learnt from the folder. */
export const plainCard = (id: string, title: string): GameCard =>
  gameCardSchema.parse({ card: 1, id, title, roots: [{ id: 'game', title: 'Game folder' }] });
