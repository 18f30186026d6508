import { createHash } from 'node:crypto';
import { readFileSync, realpathSync, renameSync, statSync } from 'node:fs';
import path from 'node:path';
import { SatchelError } from '@/core';
import { z } from 'zod';
import { chosenFolder, isInside, noteChosen, refuseWholeDisk } from './chosen';
import { DiskFolder } from './disk';
import { Downloads } from './downloads';
import type { BridgePart, GivenFolder } from './wire';

/** What the start script hands over. */
const givenSchema = z.object({ folders: z.array(z.string().min(1)), backup: z.string().min(1) });
/** Folders that the player chose in this computer's own dialog; they lie beside the originals. */
const chosenSchema = z.object({
  format: z.literal(1),
  folders: z
    .array(
      z
        .string()
        .min(1)
        .refine((one) => path.isAbsolute(one)),
    )
    .max(500),
});
const CHOSEN = 'folders.json';

interface Given {
  note: GivenFolder;
  parts: Record<BridgePart, DiskFolder>;
}

const idOf = (real: string): string => createHash('sha256').update(real).digest('hex').slice(0, 16);

/** The folders of one server: those it was started with, and those that were chosen. */
class GivenFolders {
  readonly open = new Map<string, Given>();
  /** As the file was when it was read. */
  private stamp = '';
  private readonly backup: string;
  private readonly started: readonly string[];
  readonly downloads: Downloads;

  constructor(text: string) {
    const { folders, backup } = givenSchema.parse(JSON.parse(text));
    this.backup = backup;
    this.started = folders;
    this.downloads = new Downloads(backup, () => [...this.open.values()].map(({ note }) => note.path));
    for (const one of folders) this.take(one, false);
    this.look(true);
  }

  private take(folder: string, chosen: boolean): Given {
    const game = DiskFolder.open(folder);
    const id = idOf(game.root);
    const known = this.open.get(id);
    if (known) return known;
    const name = path.basename(game.root) || 'folder';
    const beside = path.join(this.backup, `${name} ${id.slice(0, 6)}`);
    const parts = { game, backup: DiskFolder.make(beside), vault: DiskFolder.make(path.join(beside, 'satchel')) };
    const games = [game.root, ...[...this.open.values()].map(({ note }) => note.path), ...this.started.flatMap(realOf)];
    // A link may lead there: checked where it really lies, before anything of the game is touched.
    for (const { root } of [parts.backup, parts.vault])
      if (games.some((other) => isInside(root, other))) throw new SatchelError('backup-in-game', { name: this.backup });
    const made: Given = {
      note: { id, name, path: game.root, backup: parts.backup.root, ...(chosen ? { chosen: true as const } : {}) },
      parts,
    };
    this.open.set(id, made);
    return made;
  }

  private get file(): string {
    return path.join(this.backup, CHOSEN);
  }

  /** What was chosen, as it stands in the file. What cannot be read is set aside, never written over. */
  private read(): string[] {
    let text: string;
    try {
      text = readFileSync(this.file, 'utf8');
    } catch {
      // Nothing was chosen yet.
      return [];
    }
    try {
      return chosenSchema.parse(JSON.parse(text)).folders;
    } catch {
      // A list that cannot be read is kept under another name, and begun anew.
      renameSync(this.file, `${this.file}.${Date.now()}.bad`);
      return [];
    }
  }

  private write(folders: readonly string[]): void {
    noteChosen(this.file, { format: 1, folders });
  }

  /** Looks at what was chosen, by another thread too. @param again those that were not there may be now */
  look(again: boolean): void {
    const stat = statSync(this.file, { throwIfNoEntry: false });
    const stamp = stat ? `${stat.mtimeMs} ${stat.size} ${stat.ino}` : '';
    if (stamp === this.stamp && !again) return;
    this.stamp = stamp;
    const wanted = new Set(this.read());
    for (const [id, { note }] of this.open) if (note.chosen && !wanted.has(note.path)) this.open.delete(id);
    // They are written down where they really lie: what leads elsewhere now is not what was chosen.
    for (const one of [...wanted].filter((folder) => realOf(folder)[0] === folder)) {
      try {
        this.take(one, true);
      } catch {
        // It is not there now, a disk that is not plugged in: it stays chosen, and is looked for each time the page
        // asks.
      }
    }
  }

  /**
   * Takes a folder in that the player chose in the dialog.
   *
   * @throws SatchelError `folder-twice`, `backup-in-game`, `whole-disk`, `folder-refused`
   */
  add(chosen: string): GivenFolder {
    const real = chosenFolder(chosen);
    const known = this.open.get(idOf(real));
    if (known) return known.note;
    refuseWholeDisk(real);
    if (isInside(real, this.backup))
      throw new SatchelError('folder-refused', { path: real, why: 'the app keeps originals there' });
    if (isInside(this.backup, real)) throw new SatchelError('backup-in-game', { name: this.backup });
    for (const { note } of this.open.values())
      if (isInside(real, note.path) || isInside(note.path, real))
        throw new SatchelError('folder-twice', { name: path.basename(real) });
    const { note } = this.take(real, true);
    this.write([...this.read(), real]);
    return note;
  }

  /**
   * Forgets a folder that was chosen; what lies in it and its originals stay.
   *
   * @returns false where none of that id was chosen
   */
  forget(id: string): boolean {
    const one = this.open.get(id);
    if (!one?.note.chosen) return false;
    this.write(this.read().filter((folder) => folder !== one.note.path));
    this.open.delete(id);
    return true;
  }
}

/** Where a folder really is; nothing where it is not. */
function realOf(folder: string): string[] {
  try {
    return [realpathSync(folder)];
  } catch {
    // It is not there: nothing is what is known of it.
    return [];
  }
}

let all: GivenFolders | undefined;
const folders = (): GivenFolders | undefined =>
  process.env.SATCHEL_FOLDERS ? (all ??= new GivenFolders(process.env.SATCHEL_FOLDERS)) : undefined;

/**
 * The folders this server may use: those it was started with (`--folder`), and those that its user chose in the
 * computer's own dialog. Nothing else on the disk can be asked for.
 *
 * @param again chosen ones that were not there may be now
 */
export function givenFolders(again = false): Map<string, Given> {
  const known = folders();
  known?.look(again);
  return known?.open ?? new Map<string, Given>();
}

/** Takes in a folder that was chosen by hand. @throws SatchelError see `GivenFolders.add` */
export function addChosen(chosen: string): GivenFolder {
  const known = folders();
  if (!known) throw new SatchelError('bridge-closed');
  return known.add(chosen);
}

export const forgetChosen = (id: string): boolean => folders()?.forget(id) === true;

/** The folder that downloads come into. @throws SatchelError `bridge-closed` */
export function downloads(): Downloads {
  const known = folders();
  if (!known) throw new SatchelError('bridge-closed');
  return known.downloads;
}
