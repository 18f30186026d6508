import {
  ORIGINAL,
  SatchelError,
  compareTexts,
  decodeText,
  inspectImage,
  isText,
  isUnder,
  kindOf,
  nameKey,
  sha256,
  splitTarget,
  standingsOf,
  type DiffLine,
  type TargetPath,
} from '@/core';
import type { ContentFrom, FileStory, StoryVersion } from '../contract';
import { claimedOf, contentAt } from './content';
import { drawPicture } from './drawing';
import { mergeSources } from './mergeSources';
import type { Session } from './session';

/** Larger files are told by their size and checksum alone. */
const LARGEST_READ = 64 * 1024 ** 2;

/** Pixels a side of a picture that is compared. */
const COMPARED_SIDE = 640;

/** Who brings a file, who wins, and what was there before. */
export async function fileStory(session: Session, target: TargetPath): Promise<FileStory> {
  const claimed = claimedOf(session, target);
  const { state, merges } = session.picture;
  const standings = claimed ? standingsOf(claimed, mergeSources(session)) : [];
  const versions: StoryVersion[] = [];
  for (const [i, claim] of (claimed?.claims ?? []).entries()) {
    const bytes =
      claim.file.size <= LARGEST_READ ? await readOrNothing(() => contentAt(session, target, claim.layer)) : undefined;
    const note = session.notes.find(({ id }) => id === claim.packId);
    versions.push({
      from: claim.layer,
      name: session.nameOf(claim.layer),
      tag: session.packLayers().find(({ id }) => id === claim.layer)?.tag,
      standing: standings[i]?.standing,
      path: claim.file.path,
      date: note?.added,
      ...(await facts(bytes, claim.file.size)),
    });
  }
  const record = state.files.find((file) => nameKey(file.target) === nameKey(target));
  const { root, path } = splitTarget(target);
  const stat = await session.workshop.folders[root]?.stat(path);
  const original = await readOrNothing(() => contentAt(session, target, ORIGINAL));
  const base: StoryVersion = {
    from: ORIGINAL,
    name: `${session.game.card.title}, as it was`,
    tag: undefined,
    standing: undefined,
    path: target,
    date: record ? undefined : stat?.modified,
    ...(await facts(original, original?.length ?? 0)),
  };
  const now = stat
    ? { size: stat.size, date: stat.modified, by: record ? session.nameOf(record.layer) : undefined }
    : undefined;
  const picks = session.stack.picks.filter(({ scope, at }) =>
    scope === 'kind'
      ? kindOf(target) === at
      : scope === 'file'
        ? nameKey(at) === nameKey(target)
        : isUnder(nameKey(target), nameKey(at)),
  );
  const texts = versions.filter(({ from }) => !merges.some(({ note }) => note.id === from));
  return {
    target,
    kind: kindOf(target),
    versions: [...versions].reverse(),
    original: original ? base : undefined,
    winner: claimed?.winner?.layer,
    now,
    picks,
    merge: merges.find(({ note }) => nameKey(note.target) === nameKey(target))?.note.id,
    isText: texts.length > 0 && texts.every(({ text }) => text) && (original === undefined || isText(original)),
  };
}

/** What is damaged has a size and nothing else to be told here. */
async function readOrNothing(
  read: () => Promise<Uint8Array<ArrayBuffer> | undefined>,
): Promise<Uint8Array<ArrayBuffer> | undefined> {
  try {
    return await read();
  } catch (error) {
    if (error instanceof SatchelError) return undefined;
    throw error;
  }
}

async function facts(
  bytes: Uint8Array<ArrayBuffer> | undefined,
  size: number,
): Promise<Pick<StoryVersion, 'size' | 'sha256' | 'picture' | 'text'>> {
  if (!bytes) return { size, sha256: undefined, picture: undefined, text: false };
  const image = inspectImage(bytes);
  return {
    size,
    sha256: await sha256(bytes),
    picture: image && { width: image.width, height: image.height, format: image.format },
    text: !image && isText(bytes),
  };
}

/** A picture as one layer has it, drawn for being compared. */
export async function pictureAt(session: Session, target: TargetPath, from: ContentFrom): Promise<Blob | undefined> {
  const bytes = await contentAt(session, target, from);
  return bytes && drawPicture(bytes, target, COMPARED_SIDE);
}

/** Two versions of a text line by line. */
export async function compareAt(
  session: Session,
  target: TargetPath,
  a: ContentFrom,
  b: ContentFrom,
): Promise<DiffLine[]> {
  const [left, right] = await Promise.all([contentAt(session, target, a), contentAt(session, target, b)]);
  if ((left && !isText(left)) || (right && !isText(right)))
    throw new SatchelError('not-text', { path: target, why: 'it holds other things than text' });
  return compareTexts(left ? decodeText(left).text : '', right ? decodeText(right).text : '');
}
