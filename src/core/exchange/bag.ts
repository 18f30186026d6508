import { z } from 'zod';
import { SatchelError, throwIfAborted } from '../errors';
import type { Folder } from '../folder';
import { byPath, nameKey } from '../paths/paths';
import type { WorkOptions } from '../progress';
import { deployedStateSchema, type DeployedFile, type DeployedState, type Kept } from '../deploy/model';
import { LARGE } from '../bytes';
import { keep, keepLarge, openKept, readState, writeState } from '../deploy/vault';
import { jsonFile, openBag, piecesIn, readTag, writeBag, type BagFile } from './bagZip';

/**
 * The backup bag: a ZIP laid out as BagIt (RFC 8493). The originals lie under `data/` as plain files under their
 * targets, so that `sha256sum -c manifest-sha256.txt` checks them and any unzip gives them back by hand. What the app
 * itself needs to put a game back with it stands in tag files under `satchel/`.
 */

const aboutSchema = z.object({
  format: z.literal(1),
  game: z.string().min(1).max(80),
  title: z.string().min(1).max(200),
  at: z.number(),
});

/** What a bag says of itself, once it has been verified. */
export interface Bag {
  about: z.infer<typeof aboutSchema>;
  state: DeployedState;
  /** Originals in it. */
  originals: number;
  bytes: number;
  /** One kept content, by its hash. */
  read(kept: Kept): Promise<Uint8Array<ArrayBuffer>>;
  /** The same, piece by piece. */
  chunks(kept: Kept): AsyncIterable<Uint8Array>;
}

const STATE = 'satchel/state.json';
const ABOUT = 'satchel/about.json';
const basePath = (hash: string): string => `satchel/bases/${hash}`;

const originalsOf = (state: DeployedState): { file: DeployedFile; original: Kept }[] =>
  state.files.flatMap((file) => (file.original.kind === 'kept' ? [{ file, original: file.original }] : []));
const basesOf = (state: DeployedState): Kept[] => [
  ...new Map(
    state.files.flatMap(({ living }) =>
      living?.base.kind === 'kept' ? [[living.base.sha256, living.base] as const] : [],
    ),
  ).values(),
];

/**
 * Writes everything that puts a game back into one archive: the originals of all that is deployed, and the record of
 * it.
 *
 * @throws SatchelError `bad-memory` where a kept original is not what it was
 */
export async function exportBag(
  vault: Folder,
  about: { game: string; title: string; at: number },
  options: WorkOptions = {},
): Promise<Blob> {
  const state = await readState(vault);
  const originals = originalsOf(state).sort((a, b) => byPath(a.file.target, b.file.target));
  const kept = (path: string, content: Kept): BagFile => ({
    path,
    sha256: content.sha256,
    size: content.size,
    open: () => openKept(vault, content),
  });
  return writeBag(
    {
      top: `${about.game.replace(/[^a-z0-9-]+/gi, '-')}-originals-${new Date(about.at).toISOString().slice(0, 10)}`,
      at: about.at,
      phase: 'Packing the originals',
      payload: originals.map(({ file, original }) => kept(`data/${file.target}`, original)),
      tags: [
        await jsonFile(STATE, state),
        await jsonFile(ABOUT, { format: 1, ...about }),
        ...basesOf(state).map((base) => kept(basePath(base.sha256), base)),
      ],
    },
    options,
  );
}

/**
 * Opens a bag and verifies all of it before anything in it is trusted.
 *
 * @throws PackError where the ZIP itself is not in order, SatchelError `bad-bag` with the reason
 */
export async function importBag(file: Blob, name: string, options: WorkOptions = {}): Promise<Bag> {
  const { pack, top, payload, tags, text, bad } = await openBag(file, name, options);
  const state = readTag(await text(STATE), deployedStateSchema, STATE, bad);
  const about = readTag(await text(ABOUT), aboutSchema, ABOUT, bad);
  const places = new Map<string, string>();
  const originals = originalsOf(state);
  for (const { file: record, original } of originals) {
    const path = `data/${record.target}`;
    if (payload.get(path) !== original.sha256)
      throw bad(`the original of “${record.target}” is not the one that was kept`);
    places.set(original.sha256, top + path);
  }
  for (const { sha256: hash } of basesOf(state)) {
    if (tags.get(basePath(hash)) !== hash) throw bad('the text under a settings edit is missing');
    places.set(hash, top + basePath(hash));
  }
  const twice = new Set<string>();
  for (const { target } of state.files)
    if (twice.size === twice.add(nameKey(target)).size) throw bad(`its record names “${target}” twice`);
  return {
    about,
    state,
    originals: originals.length,
    bytes: originals.reduce((sum, { original }) => sum + original.size, 0),
    read: (kept) => pack.read(places.get(kept.sha256) ?? ''),
    chunks: (kept) => piecesIn(pack, places.get(kept.sha256) ?? ''),
  };
}

/**
 * Takes a verified bag into a vault that knows of nothing deployed: afterwards the game can be put back, or packs be
 * deployed anew.
 *
 * @throws SatchelError `bag-not-needed` where the vault has a record of its own
 */
export async function unpackBag(bag: Bag, vault: Folder, { signal, onProgress }: WorkOptions = {}): Promise<void> {
  if ((await readState(vault)).files.length > 0) throw new SatchelError('bag-not-needed');
  const contents = [...originalsOf(bag.state).map(({ original }) => original), ...basesOf(bag.state)];
  let done = 0;
  for (const content of contents) {
    throwIfAborted(signal);
    if (content.size > LARGE) await keepLarge(vault, bag.chunks(content), content);
    else await keep(vault, await bag.read(content), content.sha256);
    onProgress?.({ phase: 'Keeping the originals', done: ++done, total: contents.length, unit: 'files' });
  }
  // The packs are not in the bag: what they brought is known by its hash, and kept before it is touched.
  await writeState(vault, {
    ...bag.state,
    files: bag.state.files.map((file) =>
      file.from.kind === 'pack' ? { ...file, from: { kind: 'kept', sha256: file.sha256, size: file.size } } : file,
    ),
  });
}
