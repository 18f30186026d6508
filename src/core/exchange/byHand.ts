import { oneOr } from '../words';
import { makeZip } from 'client-zip';
import { SatchelError, throwIfAborted } from '../errors';
import { contentsOf, isLarge } from '../archives/contents';
import { gatherBlob } from '../bytes';
import { fileContent } from '../deploy/large';
import type { Plan, PlanStep, Workshop } from '../deploy/model';
import { placeOf } from '../deploy/takeBack';
import { openKept } from '../deploy/vault';
import { byPath, joinPath, splitTarget, type TargetPath } from '../paths/paths';
import type { WorkOptions } from '../progress';

export interface ByHandOptions extends WorkOptions {
  /** What each root is called: with several, each has a folder of its own in the ZIPs. */
  titles: Readonly<Record<string, string>>;
  game: string;
  /** Milliseconds since 1970-01-01 UTC. */
  at: number;
}

const README = 'READ ME FIRST.txt';
const safe = (name: string): string => name.replace(/[<>:"/\\|?*]+/g, ' ').trim() || 'folder';

/**
 * A plan as two ZIPs, for folders that no program but the player's own hands may touch: one to unpack over the game's
 * folders, and one that takes it back. Files that have to be deleted by hand stand in the text at the top of each.
 *
 * @throws SatchelError `changed-since-plan`
 */
export async function byHand(
  plan: Plan,
  workshop: Workshop,
  options: ByHandOptions,
): Promise<{ deploy: Blob; restore: Blob }> {
  const roots = Object.keys(workshop.folders);
  const place = (target: TargetPath): string => {
    const { root, path } = splitTarget(target);
    return roots.length > 1 ? joinPath(safe(options.titles[root] ?? root), path) : path;
  };
  const writes = plan.steps.filter(({ after }) => after.kind !== 'absent');
  const replaced = plan.steps.filter(({ before }) => before !== undefined);
  const removes = plan.steps.filter(({ after }) => after.kind === 'absent').map(({ target }) => place(target));
  const added = plan.steps.filter(({ before }) => before === undefined).map(({ target }) => place(target));
  return {
    deploy: await zip(
      text('puts the packs in', { files: writes.length, deletes: removes, roots: roots.length }, options),
      contents(writes, workshop, options),
      place,
      options,
    ),
    restore: await zip(
      text(
        'puts everything back as it was before',
        { files: replaced.length, deletes: added, roots: roots.length },
        options,
      ),
      originals(replaced, workshop, options),
      place,
      options,
    ),
  };
}

interface InZip {
  files: number;
  deletes: string[];
  /** Folders of the game that it writes to. */
  roots: number;
}

function text(does: string, { files, deletes, roots }: InZip, { game }: ByHandOptions): string {
  const where = roots > 1 ? 'the folder of that name' : 'its folder';
  return [
    `This ${does} (${game}).`,
    '',
    '1. Close the game.',
    `2. Copy what is in here over ${where}: ${files} ${oneOr(files, 'file', 'files')}. Say yes when you are asked whether files are to be replaced.`,
    ...(deletes.length > 0
      ? [
          `3. Delete ${oneOr(deletes.length, 'this file', `these ${deletes.length} files`)}:`,
          ...deletes.sort(byPath).map((path) => `   ${path}`),
        ]
      : []),
    '',
    `This text itself does not belong in the game.`,
    '',
  ].join('\r\n');
}

async function zip(
  first: string,
  files: AsyncIterable<{ target: TargetPath; content: Blob | Uint8Array<ArrayBuffer> }>,
  place: (target: TargetPath) => string,
  { at }: ByHandOptions,
): Promise<Blob> {
  const lastModified = new Date(at);
  const entries = async function* () {
    yield { name: README, input: first, lastModified };
    for await (const { target, content } of files) yield { name: place(target), input: content, lastModified };
  };
  return gatherBlob(makeZip(entries()), 'application/zip');
}

/** What each step writes, pack by pack, so that each archive is read once. */
async function* contents(steps: readonly PlanStep[], workshop: Workshop, { signal, onProgress }: WorkOptions) {
  let done = 0;
  const tick = () => {
    done++;
    onProgress?.({ phase: 'Packing the files', done, total: steps.length, unit: 'files' });
  };
  const byPack = new Map<string, Map<string, PlanStep[]>>();
  for (const step of steps) {
    throwIfAborted(signal);
    const { after, made, target } = step;
    if (after.kind === 'pack') {
      const wanted = byPack.get(after.packId) ?? new Map<string, PlanStep[]>();
      byPack.set(after.packId, wanted.set(after.path, [...(wanted.get(after.path) ?? []), step]));
    } else if (after.kind === 'kept') {
      yield { target, content: made?.bytes ?? (await openKept(workshop.vault, after)) };
      tick();
    }
  }
  for (const [packId, wanted] of byPack) {
    const files = Array.from(wanted, ([path, [step]]) => ({ path, size: step?.size ?? 0 }));
    for await (const file of contentsOf(await workshop.openPack(packId), files, isLarge, signal)) {
      const content = 'data' in file ? file.data : await gatherBlob(file.pieces());
      for (const { target } of wanted.get(file.path) ?? []) {
        yield { target, content };
        tick();
      }
    }
  }
}

/** What lies there now. */
async function* originals(steps: readonly PlanStep[], workshop: Workshop, { signal, onProgress }: WorkOptions) {
  for (const [i, { target, before }] of steps.entries()) {
    throwIfAborted(signal);
    const { folder, path } = placeOf(workshop, target);
    const now = await folder.stat(path);
    if (now?.size !== before?.size || now?.modified !== before?.modified)
      throw new SatchelError('changed-since-plan', { path: target });
    yield { target, content: await fileContent(folder, path, now?.size ?? 0) };
    onProgress?.({ phase: 'Packing the originals', done: i + 1, total: steps.length, unit: 'files' });
  }
}
