import { z } from 'zod';
import { reasonOf } from '../errors';
import type { Folder } from '../folder';
import { gameCardSchema } from '../games/card';
import { statementSchema } from '../games/statement';
import { staysInside } from '../paths/paths';
import { placesIn } from './places';
import { setUpSchema } from './setUp';
import { packNoteSchema, stackSchema } from './stack';

/*
 * What the player decided in one game, as a file beside the originals: another browser, or one whose data was cleared,
 * goes on from it. Each writing is a file of its own, so that what was there before stays.
 */

const FOLDER = 'set-up';
/** So many of the latest are kept. */
const MOST_KEPT = 10;
/** A larger one was not written by this app. */
const LARGEST = 64 * 1024 * 1024;
const VERSION = 1;

const writtenSchema = z.object({
  format: z.literal('tidy satchel set-up'),
  version: z.literal(VERSION),
  /** Milliseconds since 1970-01-01 UTC. */
  at: z.number(),
  card: gameCardSchema,
  statements: z.array(statementSchema),
  stack: stackSchema,
  setUps: z.array(setUpSchema),
  packs: z.array(packNoteSchema.omit({ game: true })),
});
/** What was decided, as it lies on the disk. */
export type WrittenSetUp = z.infer<typeof writtenSchema>;

/** What lies on the disk: the latest that can be read, or something that a newer version of the app wrote. */
export type FoundSetUp = { is: 'newer' } | (FoundFiles & { is: 'nothing' }) | SetUpThere;
export interface SetUpThere extends FoundFiles {
  is: 'there';
  written: WrittenSetUp;
  /** The file that it was read from. */
  name: string;
}
interface FoundFiles {
  /** The latest file there, which may be a damaged one. */
  latest: string | undefined;
  damaged: { path: string; why: string }[];
}

/** Number and a part of its own: two that are written at once are two files. */
const NAME = /^set-up\/(\d{8})\.[0-9a-f]{8}\.json$/;
const numberOf = (path: string): number => Number(NAME.exec(path)?.[1]);

/** What was written, the latest first. */
async function namesIn(folder: Folder): Promise<string[]> {
  const names: string[] = [];
  for await (const { path } of folder.list(FOLDER)) if (NAME.test(path)) names.push(path);
  return names.sort().reverse();
}

/**
 * Writes what was decided beside what was written before, whole or not at all, and lets the oldest go.
 *
 * @param latest the latest that whoever writes knows of
 * @returns the file; undefined, and nothing is written, where somebody else has written since
 */
export async function writeSetUp(
  folder: Folder,
  setUp: Omit<WrittenSetUp, 'format' | 'version'>,
  latest: string | undefined,
): Promise<string | undefined> {
  const names = await namesIn(folder);
  if (names[0] !== latest) return undefined;
  const number = (names[0] === undefined ? 0 : numberOf(names[0])) + 1;
  const name = `${FOLDER}/${String(number).padStart(8, '0')}.${crypto.randomUUID().slice(0, 8)}.json`;
  const written: WrittenSetUp = { format: 'tidy satchel set-up', version: VERSION, ...setUp };
  await folder.write(name, new TextEncoder().encode(JSON.stringify(written)));
  for (const old of names.slice(MOST_KEPT - 1)) await folder.remove(old);
  return name;
}

/** Packs that anything written there names, by their ids. What cannot be read names none. */
export async function packsOnDisk(folder: Folder): Promise<Set<string>> {
  const found = new Set<string>();
  for (const name of await namesIn(folder)) {
    const { success, data } = await folder
      .read(name)
      .then(async (file) => namingSchema.safeParse(JSON.parse(await file.text())))
      .catch(() => namingSchema.safeParse(undefined));
    if (success) for (const { id } of data.packs) found.add(id);
  }
  return found;
}

const namingSchema = z.object({ packs: z.array(z.object({ id: z.string() })) });

/** The latest that can be read. A file that cannot be is named and left where it is; the one before it counts. */
export async function readSetUp(folder: Folder): Promise<FoundSetUp> {
  const names = await namesIn(folder);
  const latest = names[0];
  const damaged: { path: string; why: string }[] = [];
  for (const name of names) {
    try {
      const read = await readOne(folder, name);
      if (read === 'newer') return { is: 'newer' };
      return { is: 'there', written: read, name, latest, damaged };
    } catch (error) {
      damaged.push({ path: name, why: reasonOf(error).slice(0, 200) });
    }
  }
  return { is: 'nothing', latest, damaged };
}

async function readOne(folder: Folder, name: string): Promise<WrittenSetUp | 'newer'> {
  const data = await folder.read(name);
  if (data.size > LARGEST) throw new Error('it is too large');
  const read: unknown = JSON.parse(await data.text());
  if (isNewer(read)) return 'newer';
  const written = writtenSchema.parse(read);
  const bad = [written.stack, ...written.setUps.map(({ stack }) => stack)]
    .flatMap(placesIn)
    .find((place) => !staysInside(place));
  if (bad !== undefined) throw new Error(`it names a place that cannot be: “${bad}”`);
  return written;
}

const isNewer = (read: unknown): boolean => {
  const found = z.object({ format: z.literal('tidy satchel set-up'), version: z.number() }).safeParse(read);
  return found.success && found.data.version > VERSION;
};
