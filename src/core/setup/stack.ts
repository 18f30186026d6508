import { z } from 'zod';
import { packFormatSchema, packNoticeSchema } from '../archives/pack';
import { placementSchema } from '../placed/placement';
import { orderRuleSchema, pickSchema } from '../layers/rules';
import { decisionSchema } from '../merge/mergeFile';
import { DIALECTS } from '../settings/dialects';
import { asTarget } from '../paths/targetSchema';

/*
 * What the player wants in one game, as it is remembered and carried: packs, merges, own files and edits in their
 * order, and everything that was decided about them.
 */

const targetPath = asTarget(z.string());

const tagSchema = z.object({ monogram: z.string().min(1).max(2), colour: z.number().int().nonnegative() });

const packLayerSchema = z.object({
  kind: z.literal('pack'),
  id: z.string(),
  packId: z.string(),
  name: z.string(),
  on: z.boolean(),
  placement: placementSchema,
  confidence: z.enum(['sure', 'likely', 'ask', 'chosen']),
  /** How its parts were placed, for the player to read. */
  parts: z.array(
    z.object({
      mode: z.enum(['over', 'own-folder', 'title', 'zipped', 'inside', 'loose', 'edits', 'converted', 'chosen']),
      from: z.string(),
      to: targetPath,
      files: z.number(),
      reason: z.string(),
      evidence: z.array(z.object({ says: z.string(), weight: z.number(), line: z.number().optional() })).optional(),
    }),
  ),
  tag: tagSchema,
  /** Steps of its read-me that the player has done, by their text. */
  ticked: z.array(z.string()).optional(),
  /** Set for a pack that was merged out of others: the layers it was made of, which are still here. */
  mergedFrom: z.array(z.string()).optional(),
});
export type PackLayer = z.infer<typeof packLayerSchema>;

const editsLayerSchema = z.object({
  kind: z.literal('edits'),
  id: z.string(),
  name: z.string(),
  on: z.boolean(),
  file: targetPath,
  edits: z.array(z.object({ path: z.array(z.string()).min(1), value: z.string().optional() })),
});
export type EditsLayer = z.infer<typeof editsLayerSchema>;

/** One file put together out of what several packs make of it. */
const mergeLayerSchema = z.object({
  kind: z.literal('merge'),
  id: z.string(),
  name: z.string(),
  on: z.boolean(),
  target: targetPath,
  /** The layers whose files are merged. */
  sources: z.array(z.string()),
  decisions: z.array(decisionSchema),
});
export type MergeLayer = z.infer<typeof mergeLayerSchema>;

/** Files of the player's own, above all packs and merges. */
const ownLayerSchema = z.object({
  kind: z.literal('own'),
  id: z.literal('own'),
  name: z.string(),
  on: z.boolean(),
  files: z.array(z.object({ target: targetPath, sha256: z.string().regex(/^[0-9a-f]{64}$/), size: z.number() })),
});
export type OwnLayer = z.infer<typeof ownLayerSchema>;

const runSchema = z.object({
  at: z.number(),
  after: z.number(),
  loaded: z.number().optional(),
  counted: z.number(),
  mark: z.object({ lines: z.number(), characters: z.number(), crc: z.number() }).optional(),
  messages: z.array(
    z.object({ rule: z.string(), level: z.enum(['warning', 'error']), says: z.string(), count: z.number() }),
  ),
});

/**
 * What the player wants in one game: packs, merges and edits, the lowest first, and where the last trial run stands.
 */
export const stackSchema = z.object({
  layers: z.array(z.discriminatedUnion('kind', [packLayerSchema, mergeLayerSchema, ownLayerSchema, editsLayerSchema])),
  /** Which layer wins where the order is not to decide, and which layers lie above which. */
  picks: z.array(pickSchema).default([]),
  order: z.array(orderRuleSchema).default([]),
  /** Settings files that the player writes for themselves; their lines are edits. */
  ownFiles: z.array(z.object({ target: targetPath, dialect: z.enum(DIALECTS) })).default([]),
  /** Named sets of the player's own edits. */
  sets: z
    .array(
      z.object({
        id: z.string(),
        name: z.string(),
        at: z.number(),
        files: z.array(
          z.object({
            file: targetPath,
            edits: z.array(z.object({ path: z.array(z.string()).min(1), value: z.string().optional() })),
          }),
        ),
      }),
    )
    .default([]),
  /** Values that the player tried, the latest last, with notes. */
  tried: z
    .array(
      z.object({
        file: targetPath,
        path: z.array(z.string()).min(1),
        value: z.string(),
        note: z.string(),
        at: z.number(),
      }),
    )
    .default([]),
  /** How often the game dropped an edit, by file and key. */
  drops: z.record(z.string(), z.number()).default({}),
  /** The launch line, where no file keeps it. */
  launchLine: z.string().optional(),
  /** Memory of the player's machine in bytes, as the player said. */
  machineMemory: z.number().optional(),
  /** The last starts of the game, the latest last. */
  runs: z.array(runSchema).default([]),
  /** Findings that the player set aside as harmless. */
  aside: z.array(z.object({ id: z.string(), says: z.string(), note: z.string() })).default([]),
  /** Only some packs are in, to find out what fails; `before` says which were in use. */
  apart: z
    .object({
      why: z.enum(['halving', 'alone']),
      before: z.array(z.object({ id: z.string(), on: z.boolean() })),
      suspects: z.array(z.string()),
      answers: z.array(z.object({ on: z.array(z.string()), failed: z.boolean() })),
    })
    .optional(),
  /** Packs whose files are not at hand: what was decided about them waits until they are brought in again. */
  waiting: z
    .array(
      z.object({
        layer: packLayerSchema,
        /** The layer that lay right below it. */
        below: z.string().optional(),
        /** The download: its name, size and SHA-256. */
        file: z.string(),
        size: z.number(),
        sha256: z.string(),
      }),
    )
    .default([]),
  /** Number of the deployment that was the latest when the last trial run was done. */
  triedAfter: z.number().optional(),
});
export type Stack = z.infer<typeof stackSchema>;
export const emptyStack: Stack = stackSchema.parse({ layers: [] });

/**
 * A download that was brought in. `size` and `sha256` are the download's own; what is kept of it may be another ZIP.
 */
export const packNoteSchema = z.object({
  id: z.string(),
  game: z.string(),
  file: z.string(),
  size: z.number(),
  sha256: z.string(),
  added: z.number(),
  format: packFormatSchema.default('zip'),
  /** What was worth knowing when it was unpacked, which its plain ZIP does not show. */
  notices: z.array(packNoticeSchema).optional(),
  /** The kept archive, for packs that go into a game unopened. */
  kept: z.object({ size: z.number(), crc32: z.number() }).optional(),
  /** It lies beside the game's originals, under a second name, and not in the browser. */
  there: z.literal(true).optional(),
  /** The text of the page that it came from, as the player pasted it. */
  page: z.string().optional(),
  /** Where it came from, as the download's own mark says or the player. */
  origin: z.string().max(2000).optional(),
  /** Its version, and what is to be remembered, as the player wrote it. */
  version: z.string().max(100).optional(),
  remember: z.string().max(4000).optional(),
  /** The player's own heading that it stands under in the stack. */
  heading: z.string().max(100).optional(),
});

/** What of a note the player wrote. */
export const WRITTEN = ['page', 'origin', 'version', 'remember', 'heading'] as const;
export type Written = Partial<Record<(typeof WRITTEN)[number], string>>;
export type PackNote = z.infer<typeof packNoteSchema>;
