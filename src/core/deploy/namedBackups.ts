import { z } from 'zod';
import { SatchelError } from '../errors';
import type { Folder } from '../folder';
import { sha256 } from '../hash';
import { byPath, nameKey, type TargetPath } from '../paths/paths';
import { decodeText } from '../settings/encoding';
import type { Dialect } from '../settings/dialects';
import { pathId, takeBackSettings } from '../settings/edits';
import { openSettings } from '../settings/openSettings';
import { hashOfFile } from './large';
import { keptSchema, targetSchema, type DeployedState, type PlanStep, type Workshop } from './model';
import { placeOf } from './takeBack';
import { keepFile, readJson, readKept, writeJson } from './vault';

/** Some files as they were when the player gave them a name: "before I tried the wide view". */
const namedBackupSchema = z.object({
  id: z.string().regex(/^[\w-]+$/),
  name: z.string().min(1).max(120),
  at: z.number(),
  files: z.array(z.object({ target: targetSchema, content: keptSchema })).min(1),
});
export type NamedBackup = z.infer<typeof namedBackupSchema>;

const pathOf = (id: string): string => `backups/${id}.json`;

/** Keeps files as they are now under a name. @throws SatchelError `folder-missing-file` */
export async function makeBackup(
  workshop: Workshop,
  { id, name, targets }: { id: string; name: string; targets: readonly TargetPath[] },
): Promise<NamedBackup> {
  const files: NamedBackup['files'] = [];
  for (const target of [...targets].sort(byPath)) {
    const { folder, path } = placeOf(workshop, target);
    files.push({ target, content: await keepFile(workshop.vault, folder, path) });
  }
  const backup = namedBackupSchema.parse({ id, name: name.trim().slice(0, 120), at: workshop.now(), files });
  await writeJson(workshop.vault, pathOf(id), backup);
  return backup;
}

/** All of them, the latest first. */
export async function listBackups(vault: Folder): Promise<NamedBackup[]> {
  const found: NamedBackup[] = [];
  for await (const { path } of vault.list('backups')) {
    const backup = await readJson(vault, path, namedBackupSchema, 'a backup');
    if (backup) found.push(backup);
  }
  return found.sort((a, b) => b.at - a.at);
}

export const removeBackup = (vault: Folder, id: string): Promise<void> => vault.remove(pathOf(id));

/** How a file is now, against a backup of it. */
export interface BackupComparison {
  target: TargetPath;
  now: 'same' | 'changed' | 'gone';
  /** Bytes. */
  size: number;
}

/** Compares a backup with the folders as they are. */
export const compareBackup = (workshop: Workshop, { files }: NamedBackup): Promise<BackupComparison[]> =>
  Promise.all(
    files.map(async ({ target, content }): Promise<BackupComparison> => {
      const { folder, path } = placeOf(workshop, target);
      const stat = await folder.stat(path);
      const same = stat?.size === content.size && (await hashOfFile(folder, path)) === content.sha256;
      return { target, now: !stat ? 'gone' : same ? 'same' : 'changed', size: content.size };
    }),
  );

/**
 * The step that brings a settings file back as it was in a backup, byte for byte. Edits of layers that stand in it with
 * their value go on being known, so that they can be taken back later.
 *
 * @returns undefined where the backup does not hold the file, or it is so already
 */
export async function settingsRestoration(
  workshop: Workshop,
  backup: NamedBackup,
  { target, dialect }: { target: TargetPath; dialect: Dialect },
  state: DeployedState,
): Promise<PlanStep | undefined> {
  const content = backup.files.find((file) => nameKey(file.target) === nameKey(target))?.content;
  if (!content) throw new SatchelError('folder-missing-file', { path: target });
  const { folder, path } = placeOf(workshop, target);
  const now = await folder.stat(path);
  if (now && (await hashOfFile(folder, path)) === content.sha256) return undefined;
  const record = state.files.find((file) => nameKey(file.target) === nameKey(target));
  const step = {
    action: now ? 'replace' : 'add',
    target,
    layer: record?.layer ?? '',
    size: content.size,
    before: now && { size: now.size, modified: now.modified },
    reason: `It comes back as it was in “${backup.name}”.`,
    after: content,
  } as const;
  if (!record?.living) return { ...step, made: { forget: true } };
  const decoded = decodeText(await readKept(workshop.vault, content));
  const { document, left } = takeBackSettings(openSettings(decoded.text, dialect), record.living.edits);
  const lost = new Set(left.map(({ path }) => pathId(path)));
  const edits = record.living.edits.filter(({ path }) => !lost.has(pathId(path)));
  const base = decoded.encode(document.text);
  if (edits.length === 0 || !base) return { ...step, made: { forget: true } };
  return {
    ...step,
    made: { base, living: { edits, base: { kind: 'kept', sha256: await sha256(base), size: base.length } } },
  };
}
