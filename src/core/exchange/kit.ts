import { z } from 'zod';
import { packFormatSchema, packNoticeSchema } from '../archives/pack';
import { gatherBlob } from '../bytes';
import { gameCardSchema } from '../games/card';
import { statementSchema } from '../games/statement';
import { checkPath, staysInside } from '../paths/paths';
import type { WorkOptions } from '../progress';
import { placesIn } from '../setup/places';
import { setUpSchema, wayToPlaySchema } from '../setup/setUp';
import { WRITTEN, packNoteSchema, stackSchema, type PackNote, type Stack } from '../setup/stack';
import { jsonFile, openBag, piecesIn, readTag, writeBag, type BagFile } from './bagZip';
import { withoutHome, withoutPrivate } from './private';

/*
 * The kit: one file that carries how somebody plays a game to another machine, or to a friend. A bag (`bagZip.ts`) with
 * the decisions as JSON, the JSON's schema beside it, the player's own files, and the packs, or only their hashes.
 */

const hash = z.string().regex(/^[0-9a-f]{64}$/);

const kitPackSchema = z.object({
  /** As layers name it. */
  id: z.string().min(1),
  /** The download as it came: its name, size and SHA-256. */
  file: z.string().min(1).max(400),
  size: z.number().int().min(0),
  sha256: hash,
  format: packFormatSchema,
  notices: z.array(packNoticeSchema).optional(),
  /** Text of the page that it came from. */
  page: z
    .string()
    .max(64 * 1024)
    .optional(),
  origin: packNoteSchema.shape.origin,
  version: packNoteSchema.shape.version,
  remember: packNoteSchema.shape.remember,
  heading: packNoteSchema.shape.heading,
  /** The archive in this kit, a ZIP: its size and checksums. */
  inside: z.object({ size: z.number().int().min(0), sha256: hash, crc32: z.number() }).optional(),
});
export type KitPack = z.infer<typeof kitPackSchema>;

const kitSchema = z.object({
  format: z.literal('tidy satchel kit'),
  version: z.literal(1),
  /** Milliseconds since 1970-01-01 UTC. */
  at: z.number(),
  title: z.string().min(1).max(200),
  card: gameCardSchema,
  statements: z.array(statementSchema),
  way: wayToPlaySchema,
  sets: stackSchema.shape.sets,
  aside: stackSchema.shape.aside,
  setUps: z.array(setUpSchema),
  packs: z.array(kitPackSchema),
});
export type Kit = z.infer<typeof kitSchema>;

/** The published JSON Schema (2020-12) of `data/kit.json`. */
export const kitJsonSchema = (): Record<string, unknown> => ({
  ...z.toJSONSchema(kitSchema, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' }),
  title: 'Tidy Satchel kit',
});

const KIT = 'data/kit.json';
/** Bytes of JSON. */
const LARGEST_KIT = 64 * 1024 * 1024;
const packPath = ({ id }: Pick<KitPack, 'id'>): string => `data/packs/${id.replace(/[^\w-]/g, '_')}.zip`;
const ownPath = (of: string): string => `data/own/${of}`;

/** Every text in data without the player's home folder in any path. */
function scrubbed<T>(value: T): T {
  if (typeof value === 'string') return withoutHome(value) as T;
  if (Array.isArray(value)) return value.map(scrubbed) as T;
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, scrubbed(one as unknown)])) as T;
}

/** A pack for a kit: what is known of it, and its archive where it is to be inside. */
export interface PackForKit {
  note: PackNote;
  archive?: { blob: Blob; sha256: string; crc32: number };
}

const kitPack = ({ note, archive }: PackForKit): KitPack => ({
  id: note.id,
  file: note.file,
  size: note.size,
  sha256: note.sha256,
  format: note.format,
  ...(note.notices ? { notices: note.notices } : {}),
  ...Object.fromEntries(
    WRITTEN.flatMap((name) => {
      const text = note[name];
      return text === undefined ? [] : [[name, withoutPrivate(text)]];
    }),
  ),
  ...(archive ? { inside: { size: archive.blob.size, sha256: archive.sha256, crc32: archive.crc32 } } : {}),
});

/**
 * Writes a kit.
 *
 * @param what.own contents of the player's own files, by their SHA-256
 */
export async function exportKit(
  what: Pick<Kit, 'title' | 'at' | 'card' | 'statements' | 'way' | 'sets' | 'aside' | 'setUps'> & {
    packs: readonly PackForKit[];
    own: ReadonlyMap<string, Uint8Array<ArrayBuffer>>;
  },
  options: WorkOptions = {},
): Promise<Blob> {
  const { packs, own, ...decisions } = what;
  const kit: Kit = scrubbed({
    format: 'tidy satchel kit' as const,
    version: 1 as const,
    ...decisions,
    packs: packs.map(kitPack),
  });
  const payload: BagFile[] = [
    await jsonFile(KIT, kit),
    await jsonFile('data/kit.schema.json', kitJsonSchema()),
    ...Array.from(own, ([sha256, bytes]): BagFile => ({
      path: ownPath(sha256),
      sha256,
      size: bytes.length,
      open: () => bytes,
    })),
    ...packs.flatMap(({ note, archive }): BagFile[] =>
      archive
        ? [{ path: packPath(note), sha256: archive.sha256, size: archive.blob.size, open: () => archive.blob }]
        : [],
    ),
  ];
  const name = kit.title.replace(/[^\p{L}\p{N}-]+/gu, '-');
  const top = `${name}-kit-${new Date(what.at).toISOString().slice(0, 10)}`;
  return writeBag({ top, at: what.at, phase: 'Packing the kit', payload, tags: [] }, options);
}

/** A kit that was verified. */
export interface OpenKit {
  kit: Kit;
  /** A pack's archive, where it is inside. */
  archive(pack: KitPack): Promise<Blob | undefined>;
  /** Contents of the player's own files, by their SHA-256. */
  own(sha256: string): Promise<Uint8Array<ArrayBuffer>>;
}

/**
 * Opens a kit and verifies all of it: every file against its manifest, the decisions against their form, and each pack
 * and own file that they name against what is there.
 *
 * @throws PackError where the ZIP itself is not in order, SatchelError `bad-bag` with the reason
 */
export async function importKit(file: Blob, name: string, options: WorkOptions = {}): Promise<OpenKit> {
  const bag = await openBag(file, name, options);
  const { bad, payload, text } = bag;
  if (!payload.has(KIT)) throw bad('it holds no kit.json, so it is no kit');
  const size = bag.pack.entries.find(({ path }) => path === bag.top + KIT)?.size ?? 0;
  if (size > LARGEST_KIT) throw bad('its decisions are larger than any that this app writes');
  const kit = readTag(await text(KIT), kitSchema, KIT, bad);
  for (const place of [kit.way, ...kit.setUps.map(({ stack }) => stack)].flatMap(placesIn))
    if (!staysInside(place) || !checkPath(place).ok) throw bad(`it names a place that cannot be: “${place}”`);
  for (const pack of kit.packs)
    if (pack.inside && payload.get(packPath(pack)) !== pack.inside.sha256)
      throw bad(`the archive of “${pack.file}” is not the one that it names`);
  for (const sha256 of ownIn(kit.way))
    if (payload.get(ownPath(sha256)) !== sha256) throw bad('a file of the player’s own is missing');
  return {
    kit,
    archive: async (pack) => (pack.inside ? gatherBlob(piecesIn(bag.pack, bag.top + packPath(pack))) : undefined),
    own: (sha256) => bag.pack.read(bag.top + ownPath(sha256)),
  };
}

/** Contents of the player's own files that a way to play names. */
export const ownIn = ({ layers }: Pick<Stack, 'layers'>): string[] => [
  ...new Set(layers.flatMap((layer) => (layer.kind === 'own' ? layer.files.map(({ sha256 }) => sha256) : []))),
];

/**
 * What is known of the packs of a kit on this machine.
 *
 * @param notes of the packs that are here
 * @returns for each pack of the kit the one here with the same content, if any
 */
export const packsHere = (kit: Kit, notes: readonly PackNote[]): Map<string, PackNote> => {
  const bySha = new Map(notes.map((note) => [note.sha256, note]));
  return new Map(
    kit.packs.flatMap((pack) => (bySha.has(pack.sha256) ? [[pack.id, bySha.get(pack.sha256) as PackNote]] : [])),
  );
};

/** The kit's decisions with its packs under the ids that they have here. */
export function kitWithIds({ way, setUps }: Kit, idOf: ReadonlyMap<string, string>): Pick<Kit, 'way' | 'setUps'> {
  const renamed = <T extends Kit['way']>(of: T): T => ({
    ...of,
    layers: of.layers.map((layer) =>
      layer.kind === 'pack' ? { ...layer, packId: idOf.get(layer.packId) ?? layer.packId } : layer,
    ),
  });
  return { way: renamed(way), setUps: setUps.map((one) => ({ ...one, stack: renamed(one.stack) })) };
}
