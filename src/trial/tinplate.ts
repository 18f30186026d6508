import type { Folder, Progress } from '@/core';
import { gameValue, textOf } from './reading';

export interface TinplateFolders {
  player: Folder;
  user: Folder;
}

interface Options {
  signal?: AbortSignal;
  onProgress?: (progress: Progress) => void;
}

/** Textures of the title's own, which lie in the paintbox from the start. */
const OWN = new Set(['CB-2041/swap/oven.png']);

/**
 * Starts Tinplate with every title on its shelf: looks for each title's pictures in `paintbox/<id>/swap`, and for its
 * patches, and writes tinplate.log. It knows the folders and nothing else.
 */
export async function runTinplate({ user }: TinplateFolders, { signal, onProgress }: Options = {}): Promise<void> {
  const lines: string[] = [];
  let tick = 0;
  const say: Say = (kind, what) => void lines.push(`(${String(tick++).padStart(3, '0')}) ${kind} ${what}`);
  say('ok', 'Tinplate 0.9 opens its tin');
  const settings = (await textOf(user, 'tinplate.ini')) ?? '';
  const { ids, sealed } = await titlesOn(user);
  for (const id of sealed)
    if (!ids.includes(id) && (await picturesOf(user, id)).length > 0)
      say('hm', `${id} is sealed, its paintbox stays shut`);
  let painted = 0;
  for (const [i, id] of ids.entries()) {
    if (signal?.aborted) throw new DOMException('stopped', 'AbortError');
    onProgress?.({ phase: 'Tinplate opens titles', done: i, total: ids.length, unit: 'files' });
    const own = (await textOf(user, `titles/${id}.ini`)) ?? '';
    const isOn = (section: string, key: string) =>
      (gameValue(own, section, key) ?? gameValue(settings, section, key) ?? '0') === '1';
    if (isOn('Textures', 'LoadPaintbox')) painted += await paint(user, id, say);
    await patch(user, id, isOn('Patches', 'UsePatches') && isOn('Patches', 'UseList'), say);
  }
  const switched = gameValue(settings, 'Textures', 'LoadPaintbox') ?? '0';
  say('ok', `${painted} pictures painted over, LoadPaintbox is ${switched}`);
  await user.write('tinplate.log', new TextEncoder().encode(`${lines.join('\n')}\n`));
}

type Say = (kind: 'ok' | 'hm' | 'no', what: string) => void;

/** Titles that can be opened, and sealed ones. */
async function titlesOn(user: Folder): Promise<{ ids: string[]; sealed: string[] }> {
  const [ids, sealed]: [string[], string[]] = [[], []];
  for await (const { path } of user.list('shelf'))
    for (const [ending, list] of [
      ['.title', ids],
      ['.tub', sealed],
    ] as const)
      if (path.endsWith(ending)) list.push(path.slice('shelf/'.length, -ending.length));
  return { ids: ids.sort(), sealed: sealed.sort() };
}

async function picturesOf(user: Folder, id: string): Promise<string[]> {
  const pictures: string[] = [];
  for await (const { path } of user.list(`paintbox/${id}/swap`)) pictures.push(path.slice('paintbox/'.length));
  return pictures.sort();
}

/** @returns how many pictures of a title were painted over */
async function paint(user: Folder, id: string, say: Say): Promise<number> {
  const pictures = await picturesOf(user, id);
  let painted = 0;
  for (const path of pictures) {
    const isInner = path.slice(`${id}/swap/`.length).includes('/');
    if (isInner || (OWN.has(path) && pictures.length === 1)) continue;
    const head = new Uint8Array(await (await user.read(`paintbox/${path}`)).slice(0, 4).arrayBuffer());
    if (head[0] === 0x89 && head[1] === 0x50) painted++;
    else if (/\.(png|dds)$/i.test(path)) say('no', `cannot paint paintbox/${path}`);
  }
  return painted;
}

async function patch(user: Folder, id: string, used: boolean, say: Say): Promise<void> {
  const codes = await textOf(user, `titles/${id}.codes`);
  if (codes === undefined) return;
  const on = [...codes.matchAll(/^\+ /gm)].length;
  const all = [...codes.matchAll(/^[+-] /gm)].length;
  say(used ? 'ok' : 'hm', `${id}: ${used ? on : 0} of ${all} patches in use`);
}
