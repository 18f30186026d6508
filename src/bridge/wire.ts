import { z } from 'zod';
import {
  ERRORS,
  SatchelError,
  checkPath,
  joinPath,
  ledgerEntrySchema,
  mindedSchema,
  packFormatSchema,
  packNoticeSchema,
  planStepSchema,
  stuckAnswers,
  targetSchema,
  type ErrorCode,
  type Failure,
  type FileStat,
  type FolderChanges,
  layerNoteSchema,
} from '@/core';

/** The header in which the page sends the key that was in the address which the start printed. */
export const KEY_HEADER = 'x-satchel-key';

/** What goes between the page and this app's own server, checked on both sides. */

/** A folder that the server was started with. */
export const givenFolderSchema = z.object({
  id: z.string().regex(/^[0-9a-f]{16}$/),
  /** Its last name, and all of it. */
  name: z.string(),
  path: z.string(),
  /** Where the originals go. */
  backup: z.string(),
  /** The player chose it in the computer’s own dialog, and can take it away again. */
  chosen: z.literal(true).optional(),
});
export type GivenFolder = z.infer<typeof givenFolderSchema>;

/** Asks for a folder: what for, and a name that one of the usual places may have. */
export const chooseSchema = z.object({
  near: z.string().max(200).optional(),
  what: z.enum(['game', 'downloads']).default('game'),
});

/** The files of the downloads folder that can be packs, the newest first. */
export const downloadListSchema = z.object({
  path: z.string(),
  files: z.array(
    z.object({
      name: z.string(),
      size: z.number(),
      modified: z.number(),
      /** Nobody has written to it in the last moments. */ settled: z.boolean(),
    }),
  ),
});
export type DownloadList = z.infer<typeof downloadListSchema>;

/** Takes a download in as a pack: by its name, or what has this content now. */
export const takeSchema = z.union([
  z.object({ name: z.string().max(300), copy: z.boolean().default(false) }),
  z.object({ size: z.number(), sha256: z.string().regex(/^[0-9a-f]{64}$/) }),
]);
export const takenSchema = z.object({
  size: z.number(),
  sha256: z.string(),
  crc32: z.number(),
  /** It shares its bytes with the download, is another name of it, or was copied. */ how: z.enum([
    'shared',
    'second name',
    'copied',
  ]),
});
export type Taken = z.infer<typeof takenSchema>;

/** Unpacks a download that is no plain ZIP: by the names of its parts, or what has this content now. */
export const unpackSchema = z.union([
  z.object({
    parts: z.array(z.string().max(300)).min(1).max(1000),
    name: z.string().max(300),
    password: z.string().max(1000).optional(),
  }),
  z.object({ size: z.number(), sha256: z.string().regex(/^[0-9a-f]{64}$/), name: z.string().max(300) }),
]);
/** What it is, what was kept of it, and what was left out. */
const unpackedSchema = z.object({
  size: z.number(),
  sha256: z.string(),
  kept: z.object({ size: z.number(), crc32: z.number() }),
  format: packFormatSchema,
  notices: z.array(packNoticeSchema),
});
export type Unpacked = z.infer<typeof unpackedSchema>;

/** The folder itself, what the app remembers of it, or the plain copies of originals. */
export const PARTS = ['game', 'vault', 'backup'] as const;
export type BridgePart = (typeof PARTS)[number];

export const statSchema = z.object({
  path: z.string(),
  size: z.number(),
  modified: z.number(),
  readOnly: z.literal(true).optional(),
});

/** A piece of a list of files, by columns: checking thousands of objects one by one costs more than listing them. */
const listPieceSchema = z
  .object({
    paths: z.array(z.string()),
    sizes: z.array(z.number()),
    modified: z.array(z.number()),
    /** Which of them are read-only. */ readOnly: z.array(z.number()),
  })
  .refine(({ paths, sizes, modified }) => sizes.length === paths.length && modified.length === paths.length);

export const toListPiece = (stats: readonly FileStat[]): z.infer<typeof listPieceSchema> => ({
  paths: stats.map(({ path }) => path),
  sizes: stats.map(({ size }) => size),
  modified: stats.map(({ modified }) => modified),
  readOnly: stats.flatMap(({ readOnly }, i) => (readOnly ? [i] : [])),
});

/** The last line of a list: nothing is missing. */
export const listEndSchema = z.object({ end: z.literal(true), links: z.array(z.string()).default([]) });

/** @throws ZodError */
export const fromListPiece = (value: unknown): FileStat[] => statsOf(listPieceSchema.parse(value));

function statsOf({ paths, sizes, modified, readOnly }: z.infer<typeof listPieceSchema>): FileStat[] {
  const fixed = new Set(readOnly);
  return paths.map((path, i) => ({
    path,
    size: sizes[i] as number,
    modified: modified[i] as number,
    ...(fixed.has(i) ? { readOnly: true as const } : {}),
  }));
}

/** How many files were looked at, while that goes on. */
const lookedSchema = z.object({ looked: z.number() });
export type LookedSoFar = z.infer<typeof lookedSchema>;

/** The first line of an answer about what has changed. */
const changesHeadSchema = z.object({
  now: z.string(),
  whole: z.boolean(),
  gone: z.array(z.string()),
  links: z.array(z.string()),
});

/** Folders in which something has changed, with all files directly in them, by their own names. */
const changedFoldersSchema = z.array(z.object({ folder: z.string(), files: listPieceSchema }));

/** What has changed, as lines: a list of 200,000 files is read while it comes. */
export function* toChangeLines({ folders, ...head }: FolderChanges): Generator<unknown> {
  yield head;
  let some: z.infer<typeof changedFoldersSchema> = [];
  let files = 0;
  for (const folder of folders) {
    const skip = folder.path === '' ? 0 : folder.path.length + 1;
    some.push({
      folder: folder.path,
      files: toListPiece(folder.files.map((file) => ({ ...file, path: file.path.slice(skip) }))),
    });
    files += folder.files.length;
    if (files < FILES_A_LINE) continue;
    yield some;
    [some, files] = [[], 0];
  }
  yield some;
  yield { end: true };
}

/** @throws ZodError @throws SatchelError `folder-refused` where it was cut off */
export async function fromChangeLines(
  lines: AsyncIterable<unknown>,
  onLooked?: (files: number) => void,
): Promise<FolderChanges> {
  let head: z.infer<typeof changesHeadSchema> | undefined;
  const folders: { path: string; files: FileStat[] }[] = [];
  for await (const line of lines) {
    if (!head) {
      const looked = lookedSchema.safeParse(line);
      if (looked.success) onLooked?.(looked.data.looked);
      else head = changesHeadSchema.parse(line);
    } else if (!Array.isArray(line)) return { ...head, folders };
    else
      for (const { folder, files } of changedFoldersSchema.parse(line))
        folders.push({
          path: folder,
          files: statsOf(files).map((file) => ({ ...file, path: joinPath(folder, file.path) })),
        });
  }
  throw new SatchelError('folder-refused', { path: '', why: 'the list of its files was cut off' });
}

/** A list is sent in pieces of about this many files. */
export const FILES_A_LINE = 500;

/** Files asked for by name; null for each that is not there. */
export const statsSchema = z.array(statSchema.nullable());

export const roomSchema = z.object({ disk: z.string(), left: z.number() });

/** Where a root of the game lies: in one of the given folders, or in a folder inside it. */
const rootPlaceSchema = z.object({
  folder: givenFolderSchema.shape.id,
  inside: z
    .string()
    .refine((path) => checkPath(path).ok)
    .optional(),
  hidden: z.array(z.string()).default([]),
});
export type RootPlace = z.infer<typeof rootPlaceSchema>;

/** What packs and runs are called. */
export const idSchema = z.string().regex(/^[\w-]{1,64}$/);
const workplaceSchema = z.object({
  /** The folder beside which the vault lies. */
  main: givenFolderSchema.shape.id,
  roots: z.record(z.string(), rootPlaceSchema),
  packs: z.array(z.object({ id: idSchema, name: z.string().max(300) })),
});
export type Workplace = z.infer<typeof workplaceSchema>;

/** A deployment to be carried out, or one that was cut off to be finished or taken back. */
export const runSchema = workplaceSchema.extend({
  run: idSchema,
  work: z.discriminatedUnion('do', [
    z.object({
      do: z.literal('deploy'),
      title: z.string(),
      layers: z.array(layerNoteSchema),
      plan: z.object({ steps: z.array(planStepSchema), forget: z.array(targetSchema) }),
      /** Packs that are being sent meanwhile. */
      coming: z.array(z.object({ id: idSchema, size: z.number() })).default([]),
    }),
    z.object({ do: z.literal('recover') }),
    /** Looks after the originals while nothing else is going on. */
    z.object({ do: z.literal('mind') }),
  ]),
});
export type Run = z.infer<typeof runSchema>;

export const failureSchema = z.object({
  code: z.custom<ErrorCode>((value) => typeof value === 'string' && Object.hasOwn(ERRORS, value)),
  says: z.string(),
  next: z.string(),
  details: z.record(z.string(), z.string()),
}) satisfies z.ZodType<Failure>;

const progressSchema = z.object({
  phase: z.string(),
  done: z.number(),
  total: z.number(),
  unit: z.enum(['files', 'bytes']),
});
/** One line of the answer to a download that is unpacked. */
export const takingNewsSchema = z.union([
  z.object({ progress: progressSchema }),
  z.object({ unpacked: unpackedSchema.nullable() }),
  z.object({ failure: failureSchema }),
]);
export type TakingNews = z.infer<typeof takingNewsSchema>;
const recoverySchema = z.object({
  outcome: z.enum(['finished', 'taken-back', 'never-began']),
  title: z.string(),
  steps: z.number(),
  setAside: z.array(targetSchema),
});

/** One line of the answer to a run. */
export const newsSchema = z.union([
  z.object({ progress: progressSchema }),
  z.object({ stuck: z.object({ target: targetSchema, why: z.string(), how: z.enum(['changed', 'lost']).optional() }) }),
  z.object({ entry: ledgerEntrySchema }),
  z.object({ recovery: recoverySchema.optional(), recovered: z.literal(true) }),
  z.object({ minded: mindedSchema }),
  z.object({ failure: failureSchema }),
]);
export type News = z.infer<typeof newsSchema>;

export const answerSchema = z.object({ run: idSchema, answer: z.enum(stuckAnswers) });
