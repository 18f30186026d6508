import type { z } from 'zod';
import { SatchelError, reasonOf } from '../errors';
import { readBytes, type Folder } from '../folder';
import { sha256 } from '../hash';
import {
  deployedStateSchema, journalSchema, ledgerEntrySchema, ledgerStepsSchema, nothingDeployed,
  type DeployedState, type Journal, type JournalStep, type Kept, type LedgerEntry,
} from './model';

/** Contents are kept under their hash: `objects/ab/abcd…`. */
const objectPath = (hash: string): string => `objects/${hash.slice(0, 2)}/${hash}`;
const ledgerPath = (number: number, part: 'entry' | 'steps'): string => `ledger/${String(number).padStart(6, '0')}.${part}.json`;

/** Keeps bytes in the vault and reads them back. Returns only when the copy is known to be good. */
export async function keep(vault: Folder, bytes: Uint8Array<ArrayBuffer>, knownHash?: string): Promise<Kept> {
  const hash = knownHash ?? (await sha256(bytes));
  const path = objectPath(hash);
  const good = async () => (await vault.stat(path)) !== undefined && (await sha256(await vault.read(path))) === hash;
  if (!(await good())) {
    await vault.write(path, bytes);
    if (!(await good())) throw new SatchelError('original-not-kept', { path });
  }
  return { kind: 'kept', sha256: hash, size: bytes.length };
}

/** Reads kept bytes; they are checked against their hash. */
export async function readKept(vault: Folder, { sha256: hash }: Kept): Promise<Uint8Array<ArrayBuffer>> {
  const bytes = await readBytes(vault, objectPath(hash));
  if ((await sha256(bytes)) !== hash) throw new SatchelError('bad-memory', { what: 'a kept original' });
  return bytes;
}

async function readJson<T>(vault: Folder, path: string, schema: z.ZodType<T>, what: string): Promise<T | undefined> {
  if (!(await vault.stat(path))) return undefined;
  const text = await (await vault.read(path)).text();
  try {
    return schema.parse(JSON.parse(text));
  } catch (error) {
    throw new SatchelError('bad-memory', { what: `${what}: ${reasonOf(error).slice(0, 200)}` }, { cause: error });
  }
}

const writeJson = (vault: Folder, path: string, value: unknown): Promise<void> =>
  vault.write(path, new TextEncoder().encode(JSON.stringify(value)) as Uint8Array<ArrayBuffer>);

export const readState = async (vault: Folder): Promise<DeployedState> => (await readJson(vault, 'state.json', deployedStateSchema, 'what is deployed')) ?? nothingDeployed;
export const writeState = (vault: Folder, state: DeployedState): Promise<void> => writeJson(vault, 'state.json', state);

export const readJournal = (vault: Folder): Promise<Journal | undefined> => readJson(vault, 'journal.json', journalSchema, 'the journal');
export const writeJournal = (vault: Folder, journal: Journal): Promise<void> => writeJson(vault, 'journal.json', journal);
export const closeJournal = (vault: Folder): Promise<void> => vault.remove('journal.json');

/** The ledger's lines, latest first. */
export async function readLedger(vault: Folder): Promise<LedgerEntry[]> {
  const paths: string[] = [];
  for await (const { path } of vault.list('ledger')) if (path.endsWith('.entry.json')) paths.push(path);
  const entries = await Promise.all(paths.map((path) => readJson(vault, path, ledgerEntrySchema, 'a line of the ledger')));
  return entries.filter((entry) => entry !== undefined).sort((a, b) => b.number - a.number);
}

/** Every step of one deployment. */
export const readLedgerSteps = async (vault: Folder, number: number): Promise<JournalStep[]> =>
  (await readJson(vault, ledgerPath(number, 'steps'), ledgerStepsSchema, 'a line of the ledger')) ?? [];

export async function writeLedger(vault: Folder, entry: LedgerEntry, steps: readonly JournalStep[]): Promise<void> {
  // The steps first: a line that can be seen always has them.
  await writeJson(vault, ledgerPath(entry.number, 'steps'), steps);
  await writeJson(vault, ledgerPath(entry.number, 'entry'), entry);
}
