import {
  decodeText,
  nameKey,
  openSettings,
  readKept,
  type Dialect,
  type Plan,
  type Resolution,
  type SettingsDocument,
  type SettingsFile,
} from '@/core';
import type { Provider } from './content';
import type { Coming } from './picture';
import type { Session } from './session';

/** Larger files (bytes) of packs are not opened as settings before they are in the game. */
const LARGEST = 32 * 1024 * 1024;

/** What was opened, and in which form, by what lasts from look to look: the bytes, or the file of a pack. */
const opened = new WeakMap<object, { dialect: Dialect; document: SettingsDocument }>();

const contentOf = ({ made, kept, file }: Provider): object => made ?? kept ?? file;

function openedOf({ file: { dialect }, winner }: Brought): SettingsDocument | undefined {
  const found = opened.get(contentOf(winner));
  return found?.dialect === dialect ? found.document : undefined;
}

interface Brought {
  file: SettingsFile;
  winner: Provider;
}

/**
 * Settings files in whose place the next deployment puts one of a layer, as that layer brings them: what edits go onto
 * then. What cannot be read is told in the plan, and asked for again at the next look.
 */
export async function comingSettings(
  session: Session,
  settingsFiles: readonly SettingsFile[],
  { resolution, plan }: { resolution: Resolution; plan: Plan },
): Promise<Map<string, Coming>> {
  const brought = broughtBy(settingsFiles, resolution, plan);
  const packs = new Map<string, Brought[]>();
  for (const one of brought) {
    const { made, kept, packId, file } = one.winner;
    if (openedOf(one) || file.size > LARGEST) continue;
    if (made) note(one, made);
    else if (kept) note(one, await readKept(session.workshop.vault, kept).catch(() => undefined));
    else packs.set(packId, [...(packs.get(packId) ?? []), one]);
  }
  for (const [packId, files] of packs) await readFrom(session, packId, files).catch(() => undefined);
  return new Map(
    brought.flatMap((one) => {
      const document = openedOf(one);
      return document ? [[one.file.target, { document, layer: one.winner.layer }]] : [];
    }),
  );
}

/** Those of a layer that are not in the game yet. */
function broughtBy(settingsFiles: readonly SettingsFile[], { owned }: Resolution, plan: Plan): Brought[] {
  const brought = settingsFiles.flatMap((file) => {
    const winner = owned.claim(nameKey(file.target))?.winner;
    return winner ? [{ file, winner }] : [];
  });
  if (brought.length === 0) return [];
  const written = new Set(plan.steps.map(({ target }) => nameKey(target)));
  return brought.filter(({ file }) => written.has(nameKey(file.target)));
}

/** Reads files of one pack together: archives that are unpacked from their beginning are gone through once. */
async function readFrom(session: Session, packId: string, files: readonly Brought[]): Promise<void> {
  const byPath = new Map(files.map((one) => [one.winner.file.path as string, one]));
  const { pack } = await session.openPack(packId);
  for await (const { path, data } of pack.readMany(byPath.keys())) {
    const one = byPath.get(path);
    if (one) note(one, data);
  }
}

function note({ file: { dialect }, winner }: Brought, bytes: Uint8Array | undefined): void {
  if (bytes) opened.set(contentOf(winner), { dialect, document: openSettings(decodeText(bytes).text, dialect) });
}
