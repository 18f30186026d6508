import {
  SatchelError,
  WRITTEN,
  crc32OfBlob,
  foldersHere,
  keepBytes,
  kitWithIds,
  importKit,
  openPack,
  inOtherRoots,
  inspectPictures,
  isSameRelease,
  kitFolders,
  kitInFolders,
  ownIn,
  packsHere,
  parseCard,
  playedAs,
  readKept,
  sha256,
  settingsTargets,
  splitTarget,
  wayToPlay,
  whatChanged,
  withoutFiles,
  exportKit,
  type Kit,
  type KitPack,
  type OpenKit,
  type PackForKit,
  type PackNote,
  type Stack,
  type WorkOptions,
  type Written,
} from '@/core';
import { memory } from '@/storage/memory';
import type { KitPackView, KitView, Said, SetUpCommands } from '../contract';
import { decidedIn } from '../game/decided';
import type { Desk } from '../game/desk';
import { keepArchive } from '../game/keepPack';
import type { Session } from '../game/session';

/** The kit that was read last in a session, and waits to be taken. */
const read = new WeakMap<Session, OpenKit>();

/** How the game is played here, as one file. */
export async function saveKit(
  session: Session,
  withPacks: boolean,
  options: Required<WorkOptions>,
): Promise<{ name: string; blob: Blob }> {
  const { stack, game, setUps, workshop } = session;
  const at = Date.now();
  const inUse = new Set(
    [stack, ...setUps.map((one) => one.stack)].flatMap(({ layers }) =>
      layers.flatMap((layer) => (layer.kind === 'pack' ? [layer.packId] : [])),
    ),
  );
  const notes = session.notes.filter(({ id }) => inUse.has(id));
  const packs: PackForKit[] = [];
  for (const note of notes) packs.push(withPacks ? await packWithArchive(session, note, options) : { note });
  const own = new Map<string, Uint8Array<ArrayBuffer>>();
  for (const layer of stack.layers)
    if (layer.kind === 'own')
      for (const file of layer.files) own.set(file.sha256, await readKept(workshop.vault, file));
  const { title } = game.card;
  const { card, statements } = game;
  const { sets, aside } = stack;
  const blob = await exportKit(
    { title, at, card, statements, way: wayToPlay(stack), sets, aside, setUps: [...setUps], packs, own },
    options,
  );
  return { name: `${title.replace(/[<>:"/\\|?*]+/g, ' ')} kit ${new Date(at).toISOString().slice(0, 10)}.zip`, blob };
}

async function packWithArchive(session: Session, note: PackNote, options: WorkOptions): Promise<PackForKit> {
  const blob = await session.archive(note.id);
  if (!blob) return { note };
  const crc32 = note.kept?.crc32 ?? (await crc32OfBlob(blob, options));
  const asItCame = blob.size === note.size && note.format === 'zip';
  return { note, archive: { blob, sha256: asItCame ? note.sha256 : await sha256(blob, options), crc32 } };
}

/** Reads and verifies a kit, and says what taking it would mean here. */
export async function readKit(
  session: Session,
  file: File | Blob,
  name: string,
  options: WorkOptions,
): Promise<KitView> {
  const opened = await importKit(file, name, options);
  const { kit } = opened;
  read.set(session, opened);
  const { roots } = session.game.card;
  const folders = kitFolders(kit, hereIn(session));
  const here = packsHere(kit, session.notes);
  const used = new Set(kit.way.layers.flatMap((layer) => (layer.kind === 'pack' ? [layer.packId] : [])));
  const named = new Map(kit.way.layers.flatMap((layer) => (layer.kind === 'pack' ? [[layer.packId, layer.name]] : [])));
  const packs = kit.packs
    .filter(({ id }) => used.has(id))
    .map((pack): KitPackView => ({
      name: named.get(pack.id) ?? pack.file,
      file: pack.file,
      size: pack.size,
      sha256: pack.sha256,
      state: here.has(pack.id) ? 'here' : pack.inside ? 'inside' : 'missing',
      other: here.has(pack.id) ? undefined : session.notes.find((note) => isSameRelease(note.file, pack.file))?.file,
    }));
  const now = decidedIn(session);
  const idOf = new Map(Array.from(here, ([id, note]) => [id, note.id]));
  const way = inOtherRoots(kitWithIds(kit, idOf).way, idsHere(folders));
  const { stack } = playedAs(session.stack, way, () => true);
  return {
    folders,
    canTell: kit.card.roots.every(({ id }) => roots.some((root) => root.id === id)),
    title: kit.title,
    at: kit.at,
    otherGame: kit.title !== session.game.card.title,
    packs,
    setUps: kit.setUps.map((one) => one.name),
    says: whatChanged(now, { ...now, stack }).slice(0, MOST_SAID),
    differs: differencesHere(session, { ...kit, way }),
  };
}

const MOST_SAID = 40;

const hereIn = ({ game, picture }: Session) => foldersHere(game.card, picture.ownFiles);

const idsHere = (folders: readonly { id: string; here: string | undefined }[]): Map<string, string> =>
  new Map(folders.flatMap(({ id, here }) => (here === undefined ? [] : [[id, here]])));

/** What the kit counts on and is otherwise here. */
function differencesHere({ game, picture }: Session, { way, card }: Kit): string[] {
  const known = new Set([
    ...settingsTargets(game.card, picture.ownFiles).map(({ target }) => target),
    ...way.ownFiles.map(({ target }) => target),
  ]);
  const files = way.layers.flatMap((layer) => (layer.kind === 'edits' && !known.has(layer.file) ? [layer.file] : []));
  const says = files.map(
    (file) => `Its edits of “${splitTarget(file).path}” find no settings file of that name here; they wait for one.`,
  );
  if (JSON.stringify(card.places) !== JSON.stringify(game.card.places))
    says.push(
      'It was told other things about where packs of this game go. The places of its packs come along as they are.',
    );
  return says;
}

/** Takes the kit that was read: its packs, its decisions, its set-ups. What is missing waits for its files. */
export async function takeKit(
  desk: Desk,
  { knowledge, folders }: Said<SetUpCommands['take kit']>,
  options: Required<WorkOptions>,
): Promise<void> {
  const { open } = desk;
  const opened = read.get(open);
  if (!opened) throw new SatchelError('unknown-thing', { what: 'kit that was read' });
  const kit = kitInFolders(opened.kit, hereIn(open), new Map(Object.entries(folders)));
  // Before anything is taken: what it tells may not fit the folders here.
  const card = knowledge && parseCard({ ...kit.card, id: open.game.card.id, roots: open.game.card.roots });
  for (const hash of ownIn(kit.way)) await keepBytes(open.workshop.vault, await opened.own(hash), hash);
  const here = packsHere(kit, open.notes);
  const idOf = new Map(Array.from(here, ([id, note]) => [id, note.id]));
  for (const [i, pack] of kit.packs.entries()) {
    options.onProgress({ phase: 'Taking the packs', done: i, total: kit.packs.length, unit: 'files' });
    const archive = here.has(pack.id) ? undefined : await opened.archive(pack);
    if (archive) idOf.set(pack.id, await keepFromKit(open, pack, archive, options));
  }
  const { way, setUps } = kitWithIds(kit, idOf);
  const names = new Set(open.setUps.map(({ name }) => name));
  const free = (name: string): string => (names.has(name) ? free(`${name.slice(0, 70)}, from the kit`) : name);
  const added = setUps.map((one) => ({ ...one, id: crypto.randomUUID(), name: free(one.name) }));
  await open.saveSetUps([...open.setUps, ...added]);
  const { sets, aside } = open.stack;
  const now = { ...open.stack, sets: withOthers(sets, kit.sets), aside: withOthers(aside, kit.aside) };
  await open.replaceStack(stackWith(open, now, way, kit.packs));
  read.delete(open);
  if (card) await desk.changeGame({ ...open.game, card, statements: kit.statements }, options);
}

/** What is here, and what of the others is not. */
const withOthers = <T extends { id: string }>(here: readonly T[], others: readonly T[]): T[] => [
  ...here,
  ...others.filter(({ id }) => !here.some((one) => one.id === id)),
];

/** The stack that plays the kit's way; packs whose files are not here wait. */
function stackWith(session: Session, now: Stack, way: OpenKit['kit']['way'], packs: readonly KitPack[]): Stack {
  const isHere = (packId: string) => session.note(packId) !== undefined;
  const { stack } = playedAs(now, way, () => true);
  const lost = stack.layers.filter((layer) => layer.kind === 'pack' && !isHere(layer.packId));
  return withoutFiles(stack, new Set(lost.map(({ id }) => id)), packs);
}

const writtenIn = (pack: KitPack): Written =>
  Object.fromEntries(WRITTEN.flatMap((part) => (pack[part] === undefined ? [] : [[part, pack[part]]])));

/** Keeps a pack out of a kit. What says it is a download as it came is held to its hash. */
async function keepFromKit(
  session: Session,
  pack: KitPack,
  archive: Blob,
  options: Required<WorkOptions>,
): Promise<string> {
  const inside = pack.inside?.sha256 ?? '';
  const asItCame = pack.format === 'zip' && archive.size === pack.size;
  if (asItCame && inside !== pack.sha256)
    throw new SatchelError('bad-bag', { name: pack.file, why: 'its archive is not the download that it names' });
  const content = await openPack(archive, pack.file);
  const id = crypto.randomUUID();
  await keepArchive(id, archive, pack.file);
  await memory.setPictures(id, await inspectPictures(content, options));
  const note: PackNote = {
    id,
    game: session.game.id,
    file: pack.file,
    size: pack.size,
    // Of another archive than the download nobody can say here that it is what is in the download.
    sha256: asItCame ? pack.sha256 : inside,
    added: Date.now(),
    format: pack.format,
    ...(pack.notices ? { notices: pack.notices } : {}),
    ...writtenIn(pack),
    kept: { size: archive.size, crc32: await crc32OfBlob(archive, options) },
  };
  await session.saveNotes([...session.notes, note]);
  void session.carrier.sendAhead(id);
  return id;
}
