import type { z } from 'zod';
import { gatherBlob } from '../bytes';
import { SatchelError, reasonOf } from '../errors';
import { readBytes, readsBack, writeAndReadBack, type Folder } from '../folder';
import { sha256, sha256OfChunks } from '../hash';
import { LARGE } from '../bytes';
import { hashOfFile, piecesOf, piecesOfBlob, writePieces, type Chunks } from './large';
import {
  begunSchema,
  deployedStateSchema,
  landedSchema,
  ledgerEntrySchema,
  ledgerStepsSchema,
  nothingDeployed,
  type Begun,
  type DeployedState,
  type JournalStep,
  type Kept,
  type Landed,
  type LedgerEntry,
} from './model';

const underHash = (hash: string): string => `${hash.slice(0, 2)}/${hash}`;
/** Contents are kept under their hash: `objects/ab/abcd…`. */
export const objectPath = (hash: string): string => `objects/${underHash(hash)}`;
/** Where files that a deployment is about to replace have their second names until it has landed: `named/ab/abcd…`. */
export const namedPath = (hash: string): string => `named/${underHash(hash)}`;
const ledgerPath = (number: number, part: 'entry' | 'steps'): string =>
  `ledger/${String(number).padStart(6, '0')}.${part}.json`;

/** Where files are watched that were replaced: a program that had one open before can still write to it. */
export const LATE = 'late';
/**
 * A name of its own for each, since many may have the same bytes.
 *
 * @param number of the deployment that replaced it; 0 where there is none
 */
export const latePath = (number: number, hash: string): string =>
  `${LATE}/${number}-${hash}-${Date.now()}-${crypto.randomUUID().slice(0, 8)}`;

/**
 * A kept content that does not fit its name any more makes room for the one that does. A program that had the file open
 * may have written it: what it wrote is kept, and it may go on.
 */
export async function setAside(vault: Folder, hash: string): Promise<void> {
  const path = objectPath(hash);
  const now = vault.move && (await hashOfFile(vault, path));
  if (!vault.move || now === undefined || now === hash) return;
  await keepFile(vault, vault, path);
  await watchFile(vault, path, 0, now);
}

/** Gives a file of the vault a name under which it is watched. */
export async function watchFile(vault: Folder, path: string, number: number, hash: string): Promise<void> {
  await vault.move?.(path, latePath(number, hash));
}

/** Keeps bytes in the vault and reads them back. Returns only when the copy is known to be good. */
export async function keep(vault: Folder, bytes: Uint8Array<ArrayBuffer>, knownHash?: string): Promise<Kept> {
  const hash = knownHash ?? (await sha256(bytes));
  const path = objectPath(hash);
  const kept: Kept = { kind: 'kept', sha256: hash, size: bytes.length };
  if (await readsBack(vault, path, bytes)) return kept;
  await setAside(vault, hash);
  if (!(await writeAndReadBack(vault, path, bytes))) throw new SatchelError('original-not-kept', { path });
  return kept;
}

/**
 * The same for a content that is too large to hold.
 *
 * @param pieces give it from its beginning
 * @throws SatchelError `bad-memory` or `original-not-kept` where they have another hash
 */
export async function keepLarge(vault: Folder, pieces: Chunks, kept: Kept): Promise<Kept> {
  const path = objectPath(kept.sha256);
  if ((await hashOfFile(vault, path)) === kept.sha256) return kept;
  await setAside(vault, kept.sha256);
  const isKept = async (): Promise<boolean> => {
    if (vault.writeChunks) return (await writePieces(vault, path, pieces, { wanted: kept.sha256 })) !== undefined;
    await vault.write(path, await gatherBlob(pieces));
    return (await hashOfFile(vault, path)) === kept.sha256;
  };
  if (!(await isKept())) throw new SatchelError('original-not-kept', { path });
  return kept;
}

/** How often a large file is read anew that a program writes to meanwhile. */
const READINGS = 5;

/**
 * Keeps bytes that can be had piece by piece, from their beginning each time; another program may write to them at this
 * moment.
 */
async function keepPieces(vault: Folder, size: number, pieces: () => Chunks): Promise<Kept> {
  if (size <= LARGE) return keep(vault, new Uint8Array(await (await gatherBlob(pieces())).arrayBuffer()));
  for (let readings = 1; ; readings++) {
    try {
      return await keepLarge(vault, pieces(), { kind: 'kept', sha256: await sha256OfChunks(pieces()), size });
    } catch (error) {
      if (!(error instanceof SatchelError && error.code === 'bad-memory') || readings === READINGS) throw error;
    }
  }
}

/** Keeps what an exchange that was cut off had moved aside. @returns the name under which it is watched */
export async function keepAside(
  vault: Folder,
  size: number,
  pieces: () => Chunks,
): Promise<{ to: Folder; name: string }> {
  const { sha256: hash } = await keepPieces(vault, size, pieces);
  return { to: vault, name: latePath(0, hash) };
}

/** Keeps a file of a folder as it is now, however large. @throws SatchelError `folder-missing-file` */
export async function keepFile(vault: Folder, folder: Folder, path: string): Promise<Kept> {
  const size = (await folder.stat(path))?.size ?? 0;
  if (size <= LARGE) return keep(vault, await readBytes(folder, path));
  return keepPieces(vault, size, piecesOf(folder, path, size) ?? piecesOfBlob(await folder.read(path)));
}

/**
 * Where a content may lie: while a deployment is under way, or being taken back, a second name may hold what the kept
 * contents lack, or hold damaged.
 */
const placesOf = (hash: string): string[] => [objectPath(hash), namedPath(hash)];

/** Reads kept bytes; they are checked against their hash. */
export async function readKept(
  vault: Folder,
  { sha256: hash }: Pick<Kept, 'sha256'>,
): Promise<Uint8Array<ArrayBuffer>> {
  for (const path of placesOf(hash)) {
    if (!(await vault.stat(path))) continue;
    const bytes = await readBytes(vault, path);
    if ((await sha256(bytes)) === hash) return bytes;
  }
  throw new SatchelError('bad-memory', { what: 'a kept original' });
}

/**
 * A kept content for an archive: where it is large as a blob, which browsers keep outside of the program's own memory.
 *
 * @throws as `readKept`
 */
export async function openKept(vault: Folder, kept: Kept): Promise<Blob | Uint8Array<ArrayBuffer>> {
  if (kept.size <= LARGE) return readKept(vault, kept);
  for (const path of placesOf(kept.sha256)) {
    if (!(await vault.stat(path))) continue;
    const blob = await vault.read(path);
    if ((await sha256(blob)) === kept.sha256) return blob;
  }
  throw new SatchelError('bad-memory', { what: 'a kept original' });
}

/**
 * How to get a large kept content's pieces; undefined where it is small or the vault gives none.
 *
 * @throws SatchelError `bad-memory` where the vault does not hold it
 */
export async function piecesOfKept(vault: Folder, kept: Kept): Promise<(() => Chunks) | undefined> {
  if (!piecesOf(vault, '', kept.size)) return undefined;
  for (const place of placesOf(kept.sha256))
    if ((await hashOfFile(vault, place)) === kept.sha256) return piecesOf(vault, place, kept.size);
  throw new SatchelError('bad-memory', { what: 'a kept original' });
}

/** Makes sure that a content which may lie under its second name only stays when those go. */
export async function keepNamed(vault: Folder, { sha256: hash }: Pick<Kept, 'sha256'>): Promise<void> {
  if (await vault.stat(namedPath(hash))) await keepFile(vault, vault, namedPath(hash));
}

/** One of the vault's own documents. @throws SatchelError `bad-memory` */
export async function readJson<T>(
  vault: Folder,
  path: string,
  schema: z.ZodType<T>,
  what: string,
): Promise<T | undefined> {
  if (!(await vault.stat(path))) return undefined;
  const text = await (await vault.read(path)).text();
  try {
    return schema.parse(JSON.parse(text));
  } catch (error) {
    throw new SatchelError('bad-memory', { what: `${what}: ${reasonOf(error).slice(0, 200)}` }, { cause: error });
  }
}

const jsonBytes = (value: unknown): Uint8Array<ArrayBuffer> => new TextEncoder().encode(JSON.stringify(value));
export const writeJson = (vault: Folder, path: string, value: unknown): Promise<void> =>
  vault.write(path, jsonBytes(value));

/** Where it is written what is deployed. */
export const STATE = 'state.json';
export const readState = async (vault: Folder): Promise<DeployedState> =>
  (await readJson(vault, STATE, deployedStateSchema, 'what is deployed')) ?? nothingDeployed;
export const writeState = (vault: Folder, state: DeployedState): Promise<void> => writeJson(vault, STATE, state);

const BEGUN = 'journal.begun.json';
const LANDED = 'journal.landed.json';

/**
 * What the last deployment left of its journal. `torn`: there is a journal, but it never was whole, so nothing was
 * written after it.
 */
export type Journal =
  { phase: 'none' } | { phase: 'torn' } | ({ phase: 'begun' } & Begun) | ({ phase: 'landed' } & Landed);

/**
 * Reads the journal. One that cannot be read was cut off while it was written: the step it stands for had not begun.
 */
export async function readJournal(vault: Folder): Promise<Journal> {
  const there = (await vault.stat(BEGUN)) !== undefined || (await vault.stat(LANDED)) !== undefined;
  if (!there) return { phase: 'none' };
  const landed = await readWhole(vault, LANDED, landedSchema);
  if (landed) return { phase: 'landed', ...landed };
  const begun = await readWhole(vault, BEGUN, begunSchema);
  return begun ? { phase: 'begun', ...begun } : { phase: 'torn' };
}

async function readWhole<T>(vault: Folder, path: string, schema: z.ZodType<T>): Promise<T | undefined> {
  try {
    return await readJson(vault, path, schema, 'the journal');
  } catch (error) {
    if (error instanceof SatchelError && error.code === 'bad-memory') return undefined;
    throw error;
  }
}

/** Returns when the journal is known to be whole: only then may the step begin that it stands for. */
async function writeWhole(vault: Folder, path: string, value: unknown): Promise<void> {
  const bytes = jsonBytes(value);
  await vault.write(path, bytes);
  await vault.settle?.();
  if (!(await readsBack(vault, path, bytes))) throw new SatchelError('bad-memory', { what: 'the journal' });
}

export const writeBegun = (vault: Folder, begun: Begun): Promise<void> => writeWhole(vault, BEGUN, begun);
export const writeLanded = (vault: Folder, landed: Landed): Promise<void> => writeWhole(vault, LANDED, landed);

export async function closeJournal(vault: Folder): Promise<void> {
  // The landed part goes last: without it, the begun part would be taken back.
  await vault.remove(BEGUN);
  await vault.remove(LANDED);
}

/** The ledger's lines, latest first. */
export async function readLedger(vault: Folder): Promise<LedgerEntry[]> {
  const paths: string[] = [];
  for await (const { path } of vault.list('ledger')) if (path.endsWith('.entry.json')) paths.push(path);
  const entries = await Promise.all(
    paths.map((path) => readJson(vault, path, ledgerEntrySchema, 'a line of the ledger')),
  );
  return entries.filter((entry) => entry !== undefined).sort((a, b) => b.number - a.number);
}

/** Every step of one deployment. */
export const readLedgerSteps = async (vault: Folder, number: number): Promise<JournalStep[]> =>
  (await readJson(vault, ledgerPath(number, 'steps'), ledgerStepsSchema, 'a line of the ledger')) ?? [];

export async function writeLedger(vault: Folder, entry: LedgerEntry, steps: readonly JournalStep[]): Promise<void> {
  // The steps first: a line that can be seen always has them.
  await writeJson(vault, ledgerPath(entry.number, 'steps'), steps);
  await writeJson(vault, ledgerPath(entry.number, 'entry'), entry);
  await vault.settle?.();
}
