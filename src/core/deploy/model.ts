import { z } from 'zod';
import type { Folder } from '../folder';
import type { PackReader } from '../archives/pack';
import type { TargetPath } from '../paths/paths';
import { asTarget } from '../paths/targetSchema';

export const targetSchema = asTarget(z.string().regex(/^[^/]+\/./));
const shaSchema = z.string().regex(/^[0-9a-f]{64}$/);

/**
 * A content that can be had again at any time: out of a pack, or out of the vault. `absent` is the fact that there is
 * no file.
 */
const contentSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('absent') }),
  z.object({
    kind: z.literal('pack'),
    packId: z.string(),
    path: z.string(),
    size: z.number(),
    crc32: z.number().optional(),
  }),
  z.object({ kind: z.literal('kept'), sha256: shaSchema, size: z.number() }),
]);
export type Content = z.infer<typeof contentSchema>;
export const keptSchema = contentSchema.options[2];
export type Kept = Extract<Content, { kind: 'kept' }>;
export type KeptOrAbsent = Exclude<Content, { kind: 'pack' }>;
const keptOrAbsentSchema = z.discriminatedUnion('kind', [contentSchema.options[0], contentSchema.options[2]]);

const appliedEditSchema = z.object({
  path: z.array(z.string()),
  value: z.string().optional(),
  before: z.string().optional(),
  made: z.number().int().positive().optional(),
  layer: z.string(),
  /** Whose wish it was; unknown of what was deployed before this was noted. */
  kind: z.enum(['pack', 'edits']).optional(),
});

/** What the app put at a target, and what was there before: one line of the deployed state. */
const deployedFileSchema = z.object({
  target: targetSchema,
  layer: z.string(),
  sha256: shaSchema,
  /** Size and date as the folder told them after the write: how drift is found without reading. */
  size: z.number(),
  modified: z.number(),
  from: contentSchema,
  original: keptOrAbsentSchema,
  /** Computed contents: a fingerprint of what they were made of. */
  recipe: z.string().optional(),
  /** Living files only: the edits made, and the text that they were made on. */
  living: z.object({ edits: z.array(appliedEditSchema), base: keptOrAbsentSchema }).optional(),
});
export type DeployedFile = z.infer<typeof deployedFileSchema>;

export const deployedStateSchema = z.object({
  format: z.literal(1),
  files: z.array(deployedFileSchema),
  /** Folders that the app made and that go again when they are empty. */
  folders: z.array(targetSchema).default([]),
});
export type DeployedState = z.infer<typeof deployedStateSchema>;
export const nothingDeployed: DeployedState = { format: 1, files: [], folders: [] };

export const stepActions = ['add', 'replace', 'edit', 'restore', 'remove'] as const;
export type StepAction = (typeof stepActions)[number];

const seenSchema = z.object({ size: z.number(), modified: z.number() });
const livingSchema = z.object({ edits: z.array(appliedEditSchema), base: keptOrAbsentSchema });

/** A step of a plan as it goes from one program to another: what it writes lies in a pack or in the vault already. */
export const planStepSchema = z.object({
  action: z.enum(stepActions),
  target: targetSchema,
  /** Why, as a sentence for the player. */
  reason: z.string(),
  /** The layer that brings it; for `restore` and `remove` the layer that had brought it. */
  layer: z.string(),
  /** Bytes written; 0 for a removal. */
  size: z.number(),
  /** What the planner saw; a deployment stops where this no longer holds. */
  before: seenSchema.optional(),
  after: contentSchema,
  /** Taken out only to be put in again under another spelling of its name. */
  again: z.literal(true).optional(),
  /** Contents that lie in no pack. */
  made: z
    .object({
      /** Living files: what the state will remember. */
      living: livingSchema.optional(),
      /** What it was made of, so that the next plan need not make it again. */
      recipe: z.string().optional(),
      /** The state forgets the file: nothing of a layer is in it any more. */
      forget: z.literal(true).optional(),
    })
    .optional(),
});

/** One step of a plan: a target, what is there, what should be there. */
export type PlanStep = Omit<z.infer<typeof planStepSchema>, 'made'> & {
  /** Contents that lie in no pack: computed by the planner, kept before anything is written. */
  made?: z.infer<typeof planStepSchema>['made'] & {
    /** Not there where they are in the vault already. */
    bytes?: Uint8Array<ArrayBuffer>;
    /** Living files: the text under the edits, kept with them. */
    base?: Uint8Array<ArrayBuffer>;
  };
};

/** A deployed file that somebody else changed since. Settings files are none: others may write to them. */
export interface Drift {
  target: TargetPath;
  how: 'changed' | 'deleted';
  /** The layer that had brought it. */
  layer: string;
  /** As it is now; undefined where it was deleted. */
  now: { size: number; modified: number } | undefined;
  deployed: { size: number; modified: number };
}

/** plan = desired - what is there now. Sorted by target. */
export interface Plan {
  steps: PlanStep[];
  /** Files that already are as they should be. */
  unchanged: number;
  /** Lines of the deployed state that have nothing behind them any more. */
  forget: TargetPath[];
  /** Deployed files that somebody else changed since. */
  drifted: Drift[];
  /** Edits that are not taken back because the value was changed by somebody else since. */
  leftAlone: { target: TargetPath; path: string[] }[];
  /** Living files that cannot be edited, with the reason. */
  refused: { target: TargetPath; why: string }[];
}

/** Everything a deployment works with. */
export interface Workshop {
  /** The game's folders by root id. */
  folders: Readonly<Record<string, Folder>>;
  /** Where originals, journal, state and ledger are kept. Never a folder of the game. */
  vault: Folder;
  /** A folder that the player chose for plain copies of the originals, outside of the browser. */
  backup?: Folder;
  openPack(packId: string): Promise<PackReader>;
  /** Milliseconds since 1970-01-01 UTC. */
  now(): number;
}

const journalStepSchema = z.object({
  target: targetSchema,
  action: z.enum(stepActions),
  layer: z.string(),
  before: contentSchema,
  after: contentSchema,
  /** The second name in the vault of the very file that was there before, where it has one. */
  name: z.string().optional(),
});
export type JournalStep = z.infer<typeof journalStepSchema>;

/** A layer that was deployed; its kind is unknown of what was deployed before that was noted. */
export const layerNoteSchema = z.object({
  id: z.string(),
  name: z.string(),
  kind: z.enum(['pack', 'merge', 'own', 'edits']).optional(),
});
export type LayerNote = z.infer<typeof layerNoteSchema>;

/** One line of the ledger. */
export const ledgerEntrySchema = z.object({
  number: z.number().int().positive(),
  at: z.number(),
  title: z.string(),
  counts: z.record(z.enum(stepActions), z.number()),
  bytes: z.number(),
  landed: z.number(),
  milliseconds: z.number(),
  layers: z.array(layerNoteSchema),
  /** Steps that the player left out because their files could not be written. */
  leftOut: z.array(targetSchema).optional(),
});
export type LedgerEntry = z.infer<typeof ledgerEntrySchema>;

/** The journal of a deployment that has begun: folders may be half-way, the next start takes back. */
export const begunSchema = z.object({
  at: z.number(),
  title: z.string(),
  steps: z.array(journalStepSchema),
  /** Folders that are not there yet and will be made. */
  folders: z.array(targetSchema).default([]),
});
export type Begun = z.infer<typeof begunSchema>;

/** Written beside it when everything is written and verified: the next start only finishes the book-keeping. */
export const landedSchema = z.object({
  steps: z.array(journalStepSchema),
  state: deployedStateSchema,
  entry: ledgerEntrySchema,
});
export type Landed = z.infer<typeof landedSchema>;

export const ledgerStepsSchema = z.array(journalStepSchema);
