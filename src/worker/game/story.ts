import {
  ORIGINAL,
  SatchelError,
  compareTexts,
  decodeText,
  inspectImage,
  inspectModel,
  isText,
  isUnder,
  kindOf,
  nameKey,
  sha256,
  soundType,
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

/** Pixels a side of a picture that is compared: large enough for nearly all to be seen as they are. */
const COMPARED_SIDE = 4096;

/** Who brings a file, who wins, and what was there before. */
export async function fileStory(session: Session, target: TargetPath): Promise<FileStory> {
  const claimed = claimedOf(session, target);
  const { merges } = session.picture;
  const versions = await versionsOf(session, target, claimed);
  const original = await readOrNothing(() => contentAt(session, target, ORIGINAL));
  const { record, stat } = await recordOf(session, target);
  const now = stat && {
    size: stat.size,
    date: stat.modified,
    by: record ? session.nameOf(record.layer) : undefined,
  };
  const texts = versions.filter(({ from }) => !merges.some(({ note }) => note.id === from));
  return {
    target,
    kind: kindOf(target),
    versions: [...versions].reverse(),
    original: original && {
      from: ORIGINAL,
      name: `${session.game.card.title}, as it was`,
      tag: undefined,
      standing: undefined,
      path: target,
      date: record ? undefined : stat?.modified,
      ...(await facts(original, original.length, target)),
    },
    winner: claimed?.winner?.layer,
    now,
    picks: session.stack.picks.filter((pick) => concerns(pick, target)),
    merge: merges.find(({ note }) => nameKey(note.target) === nameKey(target))?.note.id,
    isText: texts.length > 0 && texts.every(({ text }) => text) && (original === undefined || isText(original)),
  };
}

/** Each layer that has it, the lowest first. */
async function versionsOf(
  session: Session,
  target: TargetPath,
  claimed: ReturnType<typeof claimedOf>,
): Promise<StoryVersion[]> {
  if (!claimed) return [];
  const standings = standingsOf(claimed, mergeSources(session));
  const versions: StoryVersion[] = [];
  for (const [i, { layer, packId, file }] of claimed.claims.entries()) {
    const isRead = file.size <= LARGEST_READ;
    const bytes = isRead ? await readOrNothing(() => contentAt(session, target, layer)) : undefined;
    versions.push({
      from: layer,
      name: session.nameOf(layer),
      tag: session.packLayers().find(({ id }) => id === layer)?.tag,
      standing: standings[i]?.standing,
      path: file.path,
      date: session.notes.find(({ id }) => id === packId)?.added,
      ...(await facts(bytes, file.size, target)),
    });
  }
  return versions;
}

/** What was deployed there, and what lies there now. */
async function recordOf({ picture, workshop }: Session, target: TargetPath) {
  const record = picture.state.files.find((file) => nameKey(file.target) === nameKey(target));
  const { root, path } = splitTarget(target);
  return { record, stat: await workshop.folders[root]?.stat(path) };
}

/** Does a choice of the player decide about a file? */
function concerns({ scope, at }: Session['stack']['picks'][number], target: TargetPath): boolean {
  if (scope === 'kind') return kindOf(target) === at;
  return scope === 'file' ? nameKey(at) === nameKey(target) : isUnder(nameKey(target), nameKey(at));
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
  target: TargetPath,
): Promise<Pick<StoryVersion, 'size' | 'sha256' | 'picture' | 'model' | 'text'>> {
  if (!bytes) return { size, sha256: undefined, picture: undefined, model: undefined, text: false };
  const image = inspectImage(bytes, target);
  const model = image ? undefined : inspectModel(bytes, target);
  return {
    size,
    sha256: await sha256(bytes),
    picture: image && { width: image.width, height: image.height, format: image.format },
    model,
    text: !image && isText(bytes),
  };
}

/** A picture as one layer has it, drawn for being compared. */
export async function pictureAt(session: Session, target: TargetPath, from: ContentFrom): Promise<Blob | undefined> {
  const bytes = await contentAt(session, target, from);
  return bytes && drawPicture(bytes, target, COMPARED_SIDE);
}

/** A sound as one layer has it, for being played. */
export async function soundAt(session: Session, target: TargetPath, from: ContentFrom): Promise<Blob | undefined> {
  const type = soundType(target);
  if (type === undefined) return undefined;
  const bytes = await contentAt(session, target, from);
  return bytes && new Blob([bytes], { type });
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
