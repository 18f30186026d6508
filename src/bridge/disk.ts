/* eslint-disable max-lines --
   one class: every way to a file goes through the same checks that it lies inside the folder, and those are private to
   it */
import { hash } from 'node:crypto';
import {
  closeSync,
  constants,
  createReadStream,
  linkSync,
  lstatSync,
  mkdirSync,
  openSync,
  readdirSync,
  readlinkSync,
  realpathSync,
  renameSync,
  statSync,
  writeFileSync,
  type Stats,
} from 'node:fs';
import { copyFile, open, rename, rmdir, statfs, unlink, writeFile, type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import {
  SatchelError,
  baseName,
  checkPath,
  inParallel,
  nameProblem,
  parentOf,
  reasonOf,
  type ChangesAsked,
  type FileStat,
  type Folder,
  type FolderChanges,
  type Gone,
  type Hashed,
  type Room,
} from '@/core';
import {
  ASIDE,
  HELD,
  LEADS_OUT,
  PART,
  SMALL,
  WINDOW,
  asideName,
  breathe,
  checkTarget,
  checkWritable,
  codeOf,
  diskName,
  fileStat,
  held,
  holdsSmall,
  isClosed,
  isMissing,
  isReadOnly,
  linkIfCan,
  lookAt,
  moveIfThere,
  moveUnlessThere,
  newPart,
  openFolder,
  orMissing,
  readSmall,
  refuse,
  refused,
  sweep,
  sweepAll,
  syncDisk,
  syncOne,
  unlinkIfThere,
  type Parent,
} from './diskCalls';
import {
  DEEPEST,
  FEW,
  HELPED,
  MOST_LINKS,
  SURE,
  checked,
  fillPart,
  folderStamp,
  identityOf,
  isVersion,
  tellsDates,
  writeAsTheyCome,
  type FolderStamp,
  type Seen,
} from './diskNames';
import { DiskIndex } from './diskIndex';
import { HeldFolders } from './heldFolders';
import './platform';

const { O_DIRECTORY, O_NOFOLLOW, O_NONBLOCK, O_RDONLY } = constants;

/** Another thread that hashes files of folders, too. @returns undefined where it has enough to do */
export type HashHelper = (root: string, of: string) => Promise<Hashed | undefined> | undefined;

let helper: HashHelper | undefined;

export function setHashHelper(hashes: HashHelper): void {
  helper = hashes;
}

/**
 * A folder on this computer's disk. Nothing outside of it is read or written: names are checked as in packs, links are
 * resolved and followed only where they stay inside, and on Linux every folder on the way is held open while it is
 * used, so that a link made in between changes nothing.
 */
export class DiskFolder implements Folder {
  /** Written, but perhaps still in the disk's cache. */
  private unsettled = new Set<string>();
  private readonly heldFolders = new HeldFolders();
  private identity: string | undefined;
  private askedAt = 0;
  private index: DiskIndex | undefined;
  private dates: ReturnType<typeof tellsDates> | undefined;

  private constructor(
    readonly root: string,
    private readonly own: boolean,
  ) {
    this.pin();
  }

  /** Takes the folder that lies there now for the one that is meant. */
  pin(): void {
    this.identity = identityOf(this.root);
    this.dates = undefined;
  }

  /** @throws SatchelError `folder-refused` where another folder has taken its place since */
  private checkRoot(): void {
    if (performance.now() - this.askedAt < SURE) return;
    const now = identityOf(this.root);
    if (now !== undefined && now !== this.identity)
      throw refuse(this.root, 'another folder has taken its place while the app used it');
    this.askedAt = performance.now();
  }

  /** @param of an existing folder @param own see `make` @throws SatchelError `folder-refused` */
  static open(of: string, own = false): DiskFolder {
    try {
      const real = realpathSync(of);
      if (!statSync(real).isDirectory()) throw refuse(of, 'it is not a folder');
      return new DiskFolder(real, own);
    } catch (error) {
      throw error instanceof SatchelError
        ? error
        : refuse(of, isMissing(error) ? 'there is no such folder' : reasonOf(error), error);
    }
  }

  /**
   * A folder of the app's own, made where it is not there: names of files that were read-only in the game can be taken
   * away in it.
   */
  static make(of: string): DiskFolder {
    mkdirSync(of, { recursive: true });
    return DiskFolder.open(of, true);
  }

  async *list(under = '', onLink?: (path: string) => void): AsyncGenerator<FileStat> {
    if (under !== '' && !checkPath(under).ok) throw refuse(under, 'its name is not one that can be used');
    yield* this.walk(under, 0, onLink);
  }

  changes(since: string | undefined, how: ChangesAsked = {}): Promise<FolderChanges> {
    this.index ??= new DiskIndex({
      look: (folder) => {
        // The date first: what comes while it is looked at has a later one.
        const stamp = this.stampOf(folder);
        const { files, ...seen } = folder === '' || this.own ? this.look(folder) : this.lookUnlessClosed(folder);
        return { ...seen, stamp, files: files.map(({ version: _, ...stat }) => stat) };
      },
      stampOf: (folder) => this.stampOf(folder),
    });
    return this.index.changes(since, how);
  }

  /** How a folder itself is; undefined where its disk cannot be trusted to tell when a name in it came or went. */
  private stampOf(folder: string): FolderStamp | undefined {
    const dates = (this.dates ??= tellsDates(this.root));
    if (!dates) return undefined;
    try {
      const parent = this.parent(folder, false, folder);
      if (!parent) return undefined;
      try {
        const stat = lookAt(parent, '.');
        // Another disk may lie inside.
        return stat?.dev === dates.disk ? folderStamp(stat) : undefined;
      } finally {
        parent.close();
      }
    } catch (error) {
      if (isClosed(error)) return undefined;
      throw error;
    }
  }

  async stats(paths: readonly string[]): Promise<(FileStat | undefined)[]> {
    this.checkRoot();
    const found: (FileStat | undefined)[] = [];
    for (const [i, of] of paths.entries()) {
      if (i % 200 === 0) await breathe();
      found.push(this.statInside(of));
    }
    return found;
  }

  private async *walk(folder: string, depth: number, onLink?: (path: string) => void): AsyncGenerator<FileStat> {
    if (depth > DEEPEST) return;
    const { files, folders, links } = depth === 0 || this.own ? this.look(folder) : this.lookUnlessClosed(folder);
    if (onLink) links.forEach(onLink);
    yield* files;
    // Other requests are answered between two folders.
    await new Promise((done) => setImmediate(done));
    for (const one of folders) yield* this.walk(one, depth + 1, onLink);
  }

  /**
   * A folder inside that this user may not look into, as systems keep some on each disk, holds nothing that the app
   * could use.
   */
  private lookUnlessClosed(folder: string): Seen {
    try {
      return this.look(folder);
    } catch (error) {
      if (!isClosed(error)) throw error;
      return { files: [], folders: [], links: [] };
    }
  }

  private look(folder: string): Seen {
    const files: FileStat[] = [];
    const folders: string[] = [];
    const links: string[] = [];
    const parent = this.parent(folder, false, folder);
    // Nothing where a game was would look as if somebody had deleted it all.
    if (!parent && folder === '') throw new SatchelError('folder-gone', { path: this.root });
    if (!parent) return { files, folders, links };
    try {
      for (const entry of readdirSync(parent.at('.'), { withFileTypes: true })) {
        const full = folder === '' ? entry.name : `${folder}/${entry.name}`;
        if (PART.test(entry.name)) sweep(parent, entry.name);
        else if (ASIDE.test(entry.name) || nameProblem(entry.name)) continue;
        else if (entry.isDirectory()) folders.push(full);
        else if (entry.isFile()) {
          const stat = lookAt(parent, entry.name);
          if (stat?.isFile()) files.push(fileStat(full, stat));
        } else if (entry.isSymbolicLink()) {
          // A link to a file inside counts as that file; one to a folder would show everything in it twice.
          const stat = this.statInside(full);
          if (stat) files.push(stat);
          else links.push(full);
        }
      }
    } finally {
      parent.close();
    }
    return { files, folders, links };
  }

  private statInside(of: string): FileStat | undefined {
    try {
      return this.statNow(of);
    } catch (error) {
      if (error instanceof SatchelError || isClosed(error)) return undefined;
      throw error;
    }
  }

  async stat(of: string): Promise<FileStat | undefined> {
    return this.statNow(of);
  }

  private statNow(of: string): FileStat | undefined {
    return this.use(of, false, (_parent, _name, stat) => {
      return stat?.isFile() ? fileStat(of, stat) : undefined;
    });
  }

  async read(of: string): Promise<Blob> {
    return new Blob([await this.readBytes(of)]);
  }

  async readBytes(of: string): Promise<Uint8Array<ArrayBuffer>> {
    await breathe();
    const small = this.use(of, false, (parent, name) => readSmall(parent.at(name), (bytes) => new Uint8Array(bytes)));
    if (small) return small;
    const { handle } = await this.openFile(of);
    try {
      const bytes = await handle.readFile();
      return new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    } catch (error) {
      throw refused(of, error);
    } finally {
      await handle.close();
    }
  }

  async holds(of: string, bytes: Uint8Array): Promise<FileStat | undefined> {
    await breathe();
    if (bytes.length > SMALL) return this.holdsLarge(of, bytes);
    return this.use(of, false, (parent, name) => holdsSmall(parent.at(name), of, bytes));
  }

  async statAndHash(of: string): Promise<Hashed | undefined> {
    const elsewhere = helper?.(this.root, of);
    if (elsewhere) return elsewhere;
    await breathe(helper && HELPED);
    return this.use(of, false, (parent, name, seen) => {
      if (!seen?.isFile()) return undefined;
      const small =
        seen.size > SMALL
          ? undefined
          : readSmall(parent.at(name), (bytes, stat) => ({ stat: fileStat(of, stat), sha256: hash('sha256', bytes) }));
      return small ?? { stat: fileStat(of, seen) };
    });
  }

  private async holdsLarge(of: string, bytes: Uint8Array): Promise<FileStat | undefined> {
    const stat = this.statNow(of);
    if (stat?.size !== bytes.length) return undefined;
    const { handle } = await this.openFile(of);
    try {
      const window = new Uint8Array(WINDOW);
      for (let at = 0; at < bytes.length;) {
        const { bytesRead } = await handle.read(window, 0, WINDOW, at);
        if (bytesRead === 0 || Buffer.compare(window.subarray(0, bytesRead), bytes.subarray(at, at + bytesRead)) !== 0)
          return undefined;
        at += bytesRead;
      }
      return stat;
    } catch (error) {
      throw refused(of, error);
    } finally {
      await handle.close();
    }
  }

  /** A file to be read piece by piece; the caller closes it. */
  async openFile(of: string): Promise<{ handle: FileHandle; size: number }> {
    const handle = await this.use(of, false, (parent, name) =>
      orMissing(open(parent.at(name), O_RDONLY | O_NOFOLLOW | O_NONBLOCK)),
    );
    if (!handle) throw new SatchelError('folder-missing-file', { path: of });
    const stat = await handle.stat();
    if (stat.isFile()) return { handle, size: stat.size };
    await handle.close();
    throw stat.isDirectory()
      ? new SatchelError('folder-missing-file', { path: of })
      : refuse(of, 'it is not a plain file');
  }

  async write(of: string, data: Blob | Uint8Array): Promise<void> {
    const bytes = data instanceof Blob ? new Uint8Array(await data.arrayBuffer()) : data;
    await breathe();
    if (bytes.length > SMALL) return this.swapIn(of, (part, mode) => writeFile(part, bytes, { flag: 'wx', mode }));
    this.writeSmall(of, bytes, () => undefined);
  }

  async writeAndReadBack(of: string, bytes: Uint8Array): Promise<FileStat | undefined> {
    if (bytes.length > SMALL) {
      await this.write(of, bytes);
      return this.holds(of, bytes);
    }
    await breathe();
    return this.writeSmall(of, bytes, (at) => holdsSmall(at, of, bytes));
  }

  /** @param then looks at what was written, at its path in the open folder */
  private writeSmall<T>(of: string, bytes: Uint8Array, then: (at: string) => T): T | undefined {
    return this.use(of, true, (parent, name, stat) => {
      const mode = checkTarget(of, stat);
      const part = newPart(parent);
      const at = parent.at(name);
      try {
        writeFileSync(part, bytes, { flag: 'wx', mode });
        this.checkStill(of);
        renameSync(part, at);
        this.unsettled.add(of);
      } catch (error) {
        unlinkIfThere(part);
        throw error;
      }
      return then(at);
    });
  }

  async *readChunks(of: string): AsyncGenerator<Uint8Array<ArrayBuffer>> {
    const { handle } = await this.openFile(of);
    try {
      for (;;) {
        const { bytesRead, buffer } = await handle.read(new Uint8Array(WINDOW), 0, WINDOW);
        if (bytesRead === 0) return;
        yield buffer.subarray(0, bytesRead);
      }
    } catch (error) {
      throw refused(of, error);
    } finally {
      await handle.close();
    }
  }

  async writeChunks(of: string, chunks: AsyncIterable<Uint8Array>): Promise<void> {
    await this.writeFrom(of, async (handle) => {
      await writeAsTheyCome(handle, chunks);
    });
  }

  /** Writes a file beside the old one and swaps the two when it is whole. */
  async writeFrom(of: string, fill: (handle: FileHandle) => Promise<void>): Promise<void> {
    await this.swapIn(of, (part, mode) => fillPart(part, mode, fill));
  }

  private async swapIn(of: string, make: (part: string, mode: number) => Promise<void>): Promise<void> {
    await this.use(of, true, async (parent, name, stat) => {
      const mode = checkTarget(of, stat);
      const part = newPart(parent);
      try {
        await make(part, mode);
        this.checkStill(of);
        await rename(part, parent.at(name));
        this.unsettled.add(of);
      } catch (error) {
        // What is left of a part file is swept up at the next start.
        await unlink(part).catch(() => undefined);
        throw error;
      }
    });
  }

  async swap(
    of: string,
    put: Uint8Array | AsyncIterable<Uint8Array> | undefined,
    gone: Gone | undefined,
  ): Promise<FileStat | undefined> {
    await breathe();
    return this.use(of, put !== undefined, async (parent, name, stat) => {
      if (stat?.isDirectory()) throw refuse(of, 'it is a folder');
      const mode = checkTarget(of, stat);
      const place = { parent, name, isFree: stat === undefined };
      if (!put) return void (await this.replace(of, place, undefined, gone));
      const part = newPart(parent);
      try {
        if (put instanceof Uint8Array) {
          if (put.length > SMALL) await writeFile(part, put, { flag: 'wx', mode });
          else writeFileSync(part, put, { flag: 'wx', mode });
        } else
          await fillPart(part, mode, async (handle) => {
            await writeAsTheyCome(handle, put);
          });
        this.checkStill(of);
        await this.replace(of, place, part, gone);
        this.unsettled.add(of);
      } catch (error) {
        unlinkIfThere(part);
        throw error;
      }
      if (!(put instanceof Uint8Array)) return fileStat(of, lookAt(parent, name) as Stats);
      return put.length > SMALL ? this.holdsLarge(of, put) : holdsSmall(parent.at(name), of, put);
    });
  }

  /**
   * The old file is moved aside before the new one takes its place, and looked at there: nobody can exchange it any
   * more.
   */
  private async replace(
    of: string,
    { parent, name, isFree }: { parent: Parent; name: string; isFree: boolean },
    part: string | undefined,
    gone: Gone | undefined,
  ): Promise<void> {
    const [at, aside] = [parent.at(name), parent.at(asideName(name))];
    if (lookAt(parent, asideName(name)))
      throw refuse(of, `another version of it lies beside it, as “${asideName(name)}”`);
    // Where nothing was seen and nothing is wanted, what comes meanwhile keeps the new file from its name.
    const moved = !(part && isFree && gone === undefined) && moveIfThere(at, aside);
    try {
      const fits = moved ? gone !== undefined && (await isVersion(aside, gone)) : gone === undefined;
      // What came to lie there in this moment is another version, too.
      if (!fits || (part && !moveUnlessThere(part, at))) throw new SatchelError('changed-meanwhile', { path: of });
      // What was moved aside is kept.
      if (moved) unlinkIfThere(aside);
    } catch (error) {
      // Where its name is taken, it stays aside; `endSwap` keeps it.
      if (moved) moveUnlessThere(aside, at);
      throw error;
    }
  }

  async endSwap(of: string, keep: Parameters<NonNullable<Folder['endSwap']>>[1]): Promise<void> {
    await this.use(of, false, async (parent, name) => {
      const aside = asideName(name);
      const stat = lookAt(parent, aside);
      if (!stat || moveUnlessThere(parent.at(aside), parent.at(name))) return;
      const { to, name: watched } = await keep(
        stat.size,
        () => createReadStream(parent.at(aside), { highWaterMark: WINDOW }) as AsyncIterable<Uint8Array>,
      );
      // On another disk there is no second name; its bytes are kept.
      if (to instanceof DiskFolder)
        to.inParent(watched, true, (above, last) => linkIfCan(parent.at(aside), above.at(last)));
      unlinkIfThere(parent.at(aside));
    });
  }

  async tidy(of: string): Promise<void> {
    this.inParent(of === '' ? 'any' : `${of}/any`, false, (parent) => {
      for (const name of readdirSync(parent.at('.'))) if (PART.test(name)) sweep(parent, name);
    });
  }

  async copy(of: string, to: Folder, toPath: string): Promise<boolean> {
    if (!(to instanceof DiskFolder)) return false;
    const copied = await this.use(of, false, async (source, sourceName, sourceStat) => {
      if (!sourceStat?.isFile()) return false;
      await to.swapIn(toPath, (part) =>
        copyFile(source.at(sourceName), part, constants.COPYFILE_EXCL | constants.COPYFILE_FICLONE),
      );
      return true;
    });
    return copied ?? false;
  }

  async remove(of: string): Promise<void> {
    await breathe();
    this.use(of, false, (parent, name, stat) => {
      if (!stat) return;
      if (stat.isDirectory()) throw refuse(of, 'it is a folder');
      if (!this.own) checkWritable(of, stat);
      unlinkIfThere(parent.at(name));
    });
  }

  /** Where the disk does that; where links lead out, the name is refused as everywhere. */
  async link(of: string, to: Folder, toPath: string, sole = false): Promise<FileStat | undefined> {
    if (!(to instanceof DiskFolder)) return undefined;
    return this.use(of, false, (source, sourceName, sourceStat) => {
      if (!sourceStat?.isFile() || (sole && (sourceStat.nlink > 1 || isReadOnly(sourceStat)))) return undefined;
      return to.inParent(toPath, true, (parent, name) => {
        const at = parent.at(name);
        try {
          // Fails where there is anything of that name, be it a link.
          linkSync(source.at(sourceName), at);
        } catch (error) {
          if (['EXDEV', 'EPERM', 'ENOTSUP', 'ENOSYS', 'EMLINK', 'EEXIST', 'ENOENT', 'EACCES'].includes(codeOf(error)))
            return undefined;
          throw error;
        }
        to.unsettled.add(toPath);
        if (!sole) return fileStat(toPath, sourceStat);
        const linked = lookAt(parent, name);
        // Another file may have come to lie under the first name meanwhile, or a third name have been given to this
        // one.
        if (linked?.ino === sourceStat.ino && linked.nlink === 2) return fileStat(toPath, linked);
        unlinkIfThere(at);
        return undefined;
      });
    });
  }

  async move(of: string, to: string): Promise<boolean> {
    const moved = this.use(of, false, (source, sourceName, sourceStat) => {
      if (!sourceStat?.isFile() && !sourceStat?.isDirectory())
        throw new SatchelError('folder-missing-file', { path: of });
      return this.use(to, true, (parent, name, stat) => {
        if (stat) return false;
        renameSync(source.at(sourceName), parent.at(name));
        this.unsettled.add(to);
        return true;
      });
    });
    return moved ?? false;
  }

  async hasFolder(of: string): Promise<boolean> {
    return this.use(of, false, (_parent, _name, stat) => stat?.isDirectory()) ?? false;
  }

  async removeFolder(of: string): Promise<boolean> {
    const gone = await this.use(of, false, async (parent, name) => {
      try {
        await rmdir(parent.at(name));
        return true;
      } catch (error) {
        if (isMissing(error)) return true;
        if (['ENOTEMPTY', 'EEXIST'].includes(codeOf(error)) && sweepAll(parent, name))
          return rmdir(parent.at(name)).then(
            () => true,
            () => false,
          );
        if (['ENOTEMPTY', 'EEXIST', 'EPERM', 'EACCES', 'EBUSY', 'ENOTDIR'].includes(codeOf(error))) return false;
        throw error;
      }
    });
    return gone ?? true;
  }

  async settle(): Promise<void> {
    const written = [...this.unsettled];
    if (written.length === 0) return;
    this.unsettled = new Set();
    if (written.length > FEW && (await syncDisk(this.root))) return;
    const folders = new Map(written.map((of) => [path.posix.dirname(of), of]));
    await inParallel(written, FEW, async (of) => this.use(of, false, (parent, name) => syncOne(parent.at(name))));
    if (process.platform !== 'win32')
      await inParallel(folders.values(), FEW, async (of) => this.use(of, false, (parent) => syncOne(parent.at('.'))));
  }

  async room(): Promise<Room> {
    const { bavail, bsize } = await statfs(this.root);
    return { disk: diskName(this.root), left: bavail * bsize };
  }

  /**
   * Does something in the folder that a file lies in. A link on the way is resolved first.
   *
   * @returns undefined where that folder is not there
   * @throws SatchelError `folder-refused`
   */
  private use<T>(
    of: string,
    make: boolean,
    work: (parent: Parent, name: string, stat: Stats | undefined) => T,
  ): T | undefined {
    const guarded = (error: unknown): never => {
      throw error instanceof SatchelError ? error : refused(of, error);
    };
    let real = checked(of);
    let parent: Parent | undefined;
    let stat: Stats | undefined;
    try {
      for (let links = 0; ; links++) {
        parent = this.parent(parentOf(real), make, of);
        if (!parent) return undefined;
        stat = lookAt(parent, baseName(real));
        if (!stat?.isSymbolicLink()) break;
        parent.close();
        parent = undefined;
        if (links > MOST_LINKS) throw refuse(of, 'links lead in a circle');
        real = this.resolveInside(real.split('/'), of).join('/');
      }
      const open = parent;
      const result = work(open, baseName(real), stat);
      if (!(result instanceof Promise)) {
        open.close();
        return result;
      }
      return result.catch(guarded).finally(() => open.close()) as T;
    } catch (error) {
      parent?.close();
      return guarded(error);
    }
  }

  /** The same for work that can do without a look at the name first: it follows no link. */
  private inParent<T>(of: string, make: boolean, work: (parent: Parent, name: string) => T): T | undefined {
    const path = checked(of);
    let parent: Parent | undefined;
    try {
      parent = this.parent(parentOf(path), make, of);
      return parent && work(parent, baseName(path));
    } catch (error) {
      throw error instanceof SatchelError ? error : refused(of, error);
    } finally {
      parent?.close();
    }
  }

  /** Opens a folder; undefined where it is missing and is not to be made. */
  private parent(folder: string, make: boolean, of: string): Parent | undefined {
    const names = () => (folder === '' ? [] : folder.split('/'));
    this.checkRoot();
    if (!HELD) return this.parentByPath(names(), make, of);
    const named = folder === '' ? this.root : this.root === '/' ? `/${folder}` : `${this.root}/${folder}`;
    const known = this.heldFolders.find(named);
    if (known) return this.lent(known);
    const fd = openFolder(named, of, make);
    if (fd === undefined) return make ? this.makeParent(names(), of) : undefined;
    // Where it really lies is asked of the folder that is open, not of its name, which may lead elsewhere a moment
    // later.
    const real = readlinkSync(`/proc/self/fd/${fd}`);
    // Where no link lies on the way, the name keeps meaning this folder for as long as it stays there.
    if (real === named) return this.lent(this.heldFolders.keep(real, fd));
    if (real === this.root || real.startsWith(this.root === '/' ? '/' : `${this.root}/`)) return held(fd);
    closeSync(fd);
    throw refuse(of, LEADS_OUT);
  }

  private lent(folder: ReturnType<HeldFolders['keep']>): Parent {
    return { at: (name) => `/proc/self/fd/${folder.fd}/${name}`, close: () => this.heldFolders.release(folder) };
  }

  /** Makes the folders that are missing, each in the one above it, which is open. */
  private makeParent(names: readonly string[], of: string): Parent {
    let fd = openSync(this.root, O_RDONLY | O_DIRECTORY);
    for (const [i, name] of names.entries()) {
      const above = fd;
      try {
        const next = `/proc/self/fd/${above}/${name}`;
        const stat = lstatSync(next, { throwIfNoEntry: false });
        if (stat && !stat.isDirectory() && !stat.isSymbolicLink())
          throw refuse(of, `“${names.slice(0, i + 1).join('/')}” is a file`);
        if (stat?.isSymbolicLink()) fd = this.openInside(names.slice(0, i + 1), of);
        else {
          if (!stat) mkdirSync(next, { recursive: true });
          fd = openSync(next, O_RDONLY | O_DIRECTORY | O_NOFOLLOW);
        }
      } finally {
        closeSync(above);
      }
    }
    return held(fd);
  }

  private openInside(names: readonly string[], of: string): number {
    const fd = openSync(path.join(this.root, ...names), O_RDONLY | O_DIRECTORY);
    if (readlinkSync(`/proc/self/fd/${fd}`).startsWith(`${this.root}/`)) return fd;
    closeSync(fd);
    throw refuse(of, LEADS_OUT);
  }

  /** The same where folders cannot be held: real paths are compared, before and after. */
  private parentByPath(names: readonly string[], make: boolean, of: string): Parent | undefined {
    const full = path.join(this.root, ...names);
    if (make) {
      for (let i = names.length; i > 0; i--) {
        const stat = statSync(path.join(this.root, ...names.slice(0, i)), { throwIfNoEntry: false });
        if (stat && !stat.isDirectory()) throw refuse(of, `“${names.slice(0, i).join('/')}” is a file`);
        if (!stat) continue;
        this.resolveInside(names.slice(0, i), of);
        break;
      }
      mkdirSync(full, { recursive: true });
    } else if (!statSync(full, { throwIfNoEntry: false })?.isDirectory()) return undefined;
    const real = path.join(this.root, ...this.resolveInside(names, of));
    return { at: (name) => path.join(real, name), close: () => undefined };
  }

  private checkStill(of: string): void {
    if (!HELD) this.resolveInside(of.split('/').slice(0, -1), of);
  }

  /**
   * Where names really lead, as names inside the folder.
   *
   * @throws SatchelError `folder-refused` where they lead out of it
   */
  private resolveInside(names: readonly string[], of: string): string[] {
    const real = realpathSync(path.join(this.root, ...names));
    const inside = path.relative(this.root, real);
    if (inside.startsWith('..') || path.isAbsolute(inside)) throw refuse(of, LEADS_OUT);
    return inside === '' ? [] : inside.split(path.sep);
  }
}
