import localforage from 'localforage';
import { z } from 'zod';
import { givenFolderSchema } from '@/bridge/wire';
import {
  DATA_VERSION,
  checkVersion,
  emptyStack,
  gameCardSchema,
  historySchema,
  noHistory,
  packNoteSchema,
  reasonOf,
  setUpSchema,
  stackSchema,
  statementSchema,
  type History,
  type ImageInfo,
  type PackNote,
  type SetUp,
  type Stack,
} from '@/core';

const app = localforage.createInstance({ name: 'tidy-satchel', storeName: 'app' });
const archives = localforage.createInstance({ name: 'tidy-satchel', storeName: 'archives' });

const VERSION = 'version';

/** The browser's own objects are only checked to be there. */
const handleSchema = z.custom<FileSystemDirectoryHandle>(
  (value) => typeof value === 'object' && value !== null && 'getDirectoryHandle' in value,
);

/** What a card that was taken in from a file brought. */
const takenCardSchema = z.object({
  /** Whose card it is, and the file that it came in. */
  title: z.string(),
  file: z.string(),
  /** Sentences that it brought, by their keys, and those that went for it, in words. */
  came: z.array(z.string()),
  went: z.array(z.string()),
});
export type TakenCard = z.infer<typeof takenCardSchema>;

/** A game as the player set it up. Folders kept in the browser have no handle. */
const gameSchema = z.object({
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
  /** The card that was taken in last from a file. */
  taken: takenCardSchema.optional(),
  /** What its folders and its log looked like when it was studied last. */
  studied: z.string().optional(),
});
export type Game = z.infer<typeof gameSchema>;

const imageSchema = z.object({
  format: z.string().transform((format) => format as ImageInfo['format']),
  width: z.number(),
  height: z.number(),
  mipLevels: z.number(),
  bytesInMemory: z.number(),
});

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
  /**
   * Checks that no newer app has written here, and brings what an older one wrote up to this version.
   *
   * @param onlyLook nothing is written
   * @throws SatchelError `newer-data`
   */
  takeOver: async (onlyLook: boolean): Promise<void> => {
    const written = checkVersion((await app.getItem(VERSION)) ?? undefined, 'what this browser remembers of the app');
    if (written < DATA_VERSION && !onlyLook) await app.setItem(VERSION, DATA_VERSION);
  },
  games: (aside: SetAside[]): Promise<Game[]> => recall('games', z.array(gameSchema), [], aside),
  setGames: (games: Game[]): Promise<unknown> => app.setItem('games', games),
  current: async (): Promise<string | undefined> =>
    z
      .string()
      .optional()
      .catch(undefined)
      .parse((await app.getItem('current')) ?? undefined),
  setCurrent: (id: string): Promise<unknown> => app.setItem('current', id),
  stack: (game: string, aside: SetAside[]): Promise<Stack> => recall(`stack:${game}`, stackSchema, emptyStack, aside),
  setStack: (game: string, stack: Stack): Promise<unknown> => app.setItem(`stack:${game}`, stack),
  /** The stack as it was deployed, by the deployment's number: the way back to that state. */
  snapshot: (game: string, number: number, aside: SetAside[]): Promise<Stack | undefined> =>
    recall<Stack | undefined>(`state:${game}:${number}`, stackSchema, undefined, aside),
  setSnapshot: (game: string, number: number, stack: Stack): Promise<unknown> =>
    app.setItem(`state:${game}:${number}`, stack),
  snapshots: async (game: string): Promise<number[]> =>
    (await app.keys()).flatMap((key) =>
      key.startsWith(`state:${game}:`) ? [Number(key.slice(`state:${game}:`.length))] : [],
    ),
  removeSnapshots: async (game: string): Promise<void> => {
    for (const number of await memory.snapshots(game)) await app.removeItem(`state:${game}:${number}`);
  },
  /** What was decided, step by step, for going back and forth. */
  history: (game: string, aside: SetAside[]): Promise<History> =>
    recall<History>(`history:${game}`, historySchema, noHistory, aside),
  setHistory: (game: string, history: History): Promise<unknown> => app.setItem(`history:${game}`, history),
  /** Ways to play that the player keeps under names. */
  setUps: (game: string, aside: SetAside[]): Promise<SetUp[]> =>
    recall<SetUp[]>(`setups:${game}`, z.array(setUpSchema), [], aside),
  setSetUps: (game: string, setUps: readonly SetUp[]): Promise<unknown> => app.setItem(`setups:${game}`, setUps),
  /** Which writing of the set-up on the disk this browser knows. */
  mark: async (game: string): Promise<string | undefined> =>
    z
      .string()
      .optional()
      .catch(undefined)
      .parse((await app.getItem(`mark:${game}`)) ?? undefined),
  setMark: (game: string, mark: string): Promise<unknown> => app.setItem(`mark:${game}`, mark),
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
  setPictures: (id: string, pictures: Map<string, ImageInfo>): Promise<unknown> =>
    app.setItem(`pictures:${id}`, pictures),
};
