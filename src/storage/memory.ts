import localforage from 'localforage';
import { z } from 'zod';
import { givenFolderSchema } from '@/bridge/wire';
import { DIALECTS, decisionSchema, gameCardSchema, orderRuleSchema, packFormatSchema, packNoticeSchema, pickSchema, placementSchema, reasonOf, statementSchema, type ImageInfo } from '@/core';

const app = localforage.createInstance({ name: 'tidy-satchel', storeName: 'app' });
const archives = localforage.createInstance({ name: 'tidy-satchel', storeName: 'archives' });

const targetPath = z.string().transform((value) => value as import('@/core').TargetPath);

/** The browser's own objects are only checked to be there. */
const handleSchema = z.custom<FileSystemDirectoryHandle>((value) => typeof value === 'object' && value !== null && 'getDirectoryHandle' in value);

/** What a card that was taken in from a file brought. */
const takenCardSchema = z.object({
  /** Whose card it is, and the file that it came in. */
  title: z.string(), file: z.string(),
  /** Sentences that it brought, by their keys, and those that went for it, in words. */
  came: z.array(z.string()), went: z.array(z.string()),
});
export type TakenCard = z.infer<typeof takenCardSchema>;

/** A game as the player set it up. Folders kept in the browser have no handle. */
export const gameSchema = z.object({
  id: z.string().min(1),
  card: gameCardSchema,
  kind: z.enum(['demo', 'picked', 'bridge']),
  /** Directory handles by root id. */
  handles: z.record(z.string(), handleSchema).default({}),
  /** Where plain copies of the originals go, for folders that were picked. */
  backup: handleSchema.optional(),
  /** Folders that the app was started with, by root id. */
  given: z.record(z.string(), givenFolderSchema).default({}),
  /** What the app knows of the game, and what the player said of it. */
  statements: z.array(statementSchema).default([]),
  /** The card and the statements as they were before each of the last changes of the player's, the latest last. */
  past: z.array(z.object({ says: z.string(), card: gameCardSchema, statements: z.array(statementSchema), taken: takenCardSchema.optional() })).optional(),
  /** The card that was taken in last from a file. */
  taken: takenCardSchema.optional(),
  /** What its folders and its log looked like when it was studied last. */
  studied: z.string().optional(),
});
export type Game = z.infer<typeof gameSchema>;

const tagSchema = z.object({ monogram: z.string().min(1).max(2), colour: z.number().int().nonnegative() });

export const packLayerSchema = z.object({
  kind: z.literal('pack'),
  id: z.string(),
  packId: z.string(),
  name: z.string(),
  on: z.boolean(),
  placement: placementSchema,
  confidence: z.enum(['sure', 'likely', 'ask', 'chosen']),
  /** How its parts were placed, for the player to read. */
  parts: z.array(z.object({ mode: z.enum(['over', 'own-folder', 'title', 'zipped', 'inside', 'loose', 'edits', 'converted', 'chosen']), from: z.string(), to: targetPath, files: z.number(), reason: z.string(), evidence: z.array(z.object({ says: z.string(), weight: z.number(), line: z.number().optional() })).optional() })),
  tag: tagSchema,
  /** Steps of its read-me that the player has done, by their text. */
  ticked: z.array(z.string()).optional(),
  /** Set for a pack that was merged out of others: the layers it was made of, which are still here. */
  mergedFrom: z.array(z.string()).optional(),
});
export type PackLayer = z.infer<typeof packLayerSchema>;

export const editsLayerSchema = z.object({
  kind: z.literal('edits'),
  id: z.string(),
  name: z.string(),
  on: z.boolean(),
  file: targetPath,
  edits: z.array(z.object({ path: z.array(z.string()).min(1), value: z.string().optional() })),
});
export type EditsLayer = z.infer<typeof editsLayerSchema>;

/** One file put together out of what several packs make of it. */
export const mergeLayerSchema = z.object({
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
export const ownLayerSchema = z.object({
  kind: z.literal('own'),
  id: z.literal('own'),
  name: z.string(),
  on: z.boolean(),
  files: z.array(z.object({ target: targetPath, sha256: z.string().regex(/^[0-9a-f]{64}$/), size: z.number() })),
});
export type OwnLayer = z.infer<typeof ownLayerSchema>;

const runSchema = z.object({
  at: z.number(), after: z.number(), loaded: z.number().optional(), counted: z.number(),
  mark: z.object({ lines: z.number(), characters: z.number(), crc: z.number() }).optional(),
  messages: z.array(z.object({ rule: z.string(), level: z.enum(['warning', 'error']), says: z.string(), count: z.number() })),
});

/** What the player wants in one game: packs, merges and edits, the lowest first, and where the last trial run stands. */
export const stackSchema = z.object({
  layers: z.array(z.discriminatedUnion('kind', [packLayerSchema, mergeLayerSchema, ownLayerSchema, editsLayerSchema])),
  /** Which layer wins where the order is not to decide, and which layers lie above which. */
  picks: z.array(pickSchema).default([]),
  order: z.array(orderRuleSchema).default([]),
  /** Settings files that the player writes for themselves; their lines are edits. */
  ownFiles: z.array(z.object({ target: targetPath, dialect: z.enum(DIALECTS) })).default([]),
  /** Named sets of the player's own edits. */
  sets: z.array(z.object({ id: z.string(), name: z.string(), at: z.number(), files: z.array(z.object({ file: targetPath, edits: z.array(z.object({ path: z.array(z.string()).min(1), value: z.string().optional() })) })) })).default([]),
  /** Values that the player tried, the latest last, with notes. */
  tried: z.array(z.object({ file: targetPath, path: z.array(z.string()).min(1), value: z.string(), note: z.string(), at: z.number() })).default([]),
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
  apart: z.object({ why: z.enum(['halving', 'alone']), before: z.array(z.object({ id: z.string(), on: z.boolean() })), suspects: z.array(z.string()), answers: z.array(z.object({ on: z.array(z.string()), failed: z.boolean() })) }).optional(),
  /** Number of the deployment that was the latest when the last trial run was done. */
  triedAfter: z.number().optional(),
});
export type Stack = z.infer<typeof stackSchema>;
export const emptyStack: Stack = stackSchema.parse({ layers: [] });

/** A download that was brought in. `size` and `sha256` are the download's own; what is kept of it may be another ZIP. */
export const packNoteSchema = z.object({
  id: z.string(), game: z.string(), file: z.string(), size: z.number(), sha256: z.string(), added: z.number(),
  format: packFormatSchema.default('zip'),
  /** What was worth knowing when it was unpacked, which its plain ZIP does not show. */
  notices: z.array(packNoticeSchema).optional(),
  /** The kept archive, for packs that go into a game unopened. */
  kept: z.object({ size: z.number(), crc32: z.number() }).optional(),
  /** It lies beside the game's originals, under a second name, and not in the browser. */
  there: z.literal(true).optional(),
  /** The text of the page that it came from, as the player pasted it. */
  page: z.string().optional(),
});
export type PackNote = z.infer<typeof packNoteSchema>;

const imageSchema = z.object({ format: z.string().transform((format) => format as ImageInfo['format']), width: z.number(), height: z.number(), mipLevels: z.number(), bytesInMemory: z.number() });

/** Things that were remembered but could not be read; they were set aside under another name. */
export interface SetAside {
  what: string;
  why: string;
}

async function recall<T>(key: string, schema: z.ZodType<T>, empty: T, aside: SetAside[]): Promise<T> {
  const value = await app.getItem(key);
  if (value === null) return empty;
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  await app.setItem(`aside:${key}:${Date.now()}`, value);
  await app.removeItem(key);
  aside.push({ what: key, why: reasonOf(read.error).slice(0, 200) });
  return empty;
}

/** All that the app remembers, each thing checked on the way in. */
export const memory = {
  games: (aside: SetAside[]): Promise<Game[]> => recall('games', z.array(gameSchema), [], aside),
  setGames: (games: Game[]): Promise<unknown> => app.setItem('games', games),
  current: async (): Promise<string | undefined> => z.string().optional().catch(undefined).parse((await app.getItem('current')) ?? undefined),
  setCurrent: (id: string): Promise<unknown> => app.setItem('current', id),
  stack: (game: string, aside: SetAside[]): Promise<Stack> => recall(`stack:${game}`, stackSchema, emptyStack, aside),
  setStack: (game: string, stack: Stack): Promise<unknown> => app.setItem(`stack:${game}`, stack),
  /** The stack as it was deployed, by the deployment's number: the way back to that state. */
  snapshot: (game: string, number: number, aside: SetAside[]): Promise<Stack | undefined> => recall<Stack | undefined>(`state:${game}:${number}`, stackSchema, undefined, aside),
  setSnapshot: (game: string, number: number, stack: Stack): Promise<unknown> => app.setItem(`state:${game}:${number}`, stack),
  snapshots: async (game: string): Promise<number[]> => (await app.keys()).flatMap((key) => (key.startsWith(`state:${game}:`) ? [Number(key.slice(`state:${game}:`.length))] : [])),
  removeSnapshots: async (game: string): Promise<void> => {
    for (const number of await memory.snapshots(game)) await app.removeItem(`state:${game}:${number}`);
  },
  packs: (aside: SetAside[]): Promise<PackNote[]> => recall('packs', z.array(packNoteSchema), [], aside),
  setPacks: (packs: PackNote[]): Promise<unknown> => app.setItem('packs', packs),
  archive: async (id: string): Promise<Blob | undefined> => {
    const value: unknown = await archives.getItem(id);
    return value instanceof Blob ? value : undefined;
  },
  setArchive: (id: string, blob: Blob): Promise<unknown> => archives.setItem(id, blob),
  removeArchive: async (id: string): Promise<void> => {
    await archives.removeItem(id);
    await app.removeItem(`pictures:${id}`);
  },
  /** What is known of a pack's pictures. It can be found out again, so what cannot be read is forgotten. */
  pictures: async (id: string): Promise<Map<string, ImageInfo> | undefined> => {
    const read = z.map(z.string(), imageSchema).safeParse(await app.getItem(`pictures:${id}`));
    return read.success ? read.data : undefined;
  },
  setPictures: (id: string, pictures: Map<string, ImageInfo>): Promise<unknown> => app.setItem(`pictures:${id}`, pictures),
};
