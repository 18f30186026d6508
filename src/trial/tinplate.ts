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
  const say = (kind: 'ok' | 'hm' | 'no', what: string) =>
    lines.push(`(${String(tick++).padStart(3, '0')}) ${kind} ${what}`);
  say('ok', 'Tinplate 0.9 opens its tin');
  const settings = (await textOf(user, 'tinplate.ini')) ?? '';
  const ids: string[] = [];
  const sealed: string[] = [];
  for await (const { path } of user.list('shelf'))
    for (const [ending, list] of [
      ['.title', ids],
      ['.tub', sealed],
    ] as const)
      if (path.endsWith(ending)) list.push(path.slice('shelf/'.length, -ending.length));
  for (const id of sealed.filter((one) => !ids.includes(one)).sort())
    for await (const _ of user.list(`paintbox/${id}/swap`)) {
      say('hm', `${id} is sealed, its paintbox stays shut`);
      break;
    }
  let painted = 0;
  for (const [i, id] of ids.sort().entries()) {
    if (signal?.aborted) throw new DOMException('stopped', 'AbortError');
    onProgress?.({ phase: 'Tinplate opens titles', done: i, total: ids.length, unit: 'files' });
    const own = await textOf(user, `titles/${id}.ini`);
    const setting = (section: string, key: string) =>
      gameValue(own ?? '', section, key) ?? gameValue(settings, section, key) ?? '0';
    const pictures: string[] = [];
    for await (const { path } of user.list(`paintbox/${id}/swap`)) pictures.push(path.slice('paintbox/'.length));
    for (const path of pictures.sort()) {
      const inner = path.slice(`${id}/swap/`.length);
      if (inner.includes('/')) continue;
      if (OWN.has(path) && pictures.length === 1) continue;
      if (setting('Textures', 'LoadPaintbox') !== '1') continue;
      const head = new Uint8Array(await (await user.read(`paintbox/${path}`)).slice(0, 4).arrayBuffer());
      if (head[0] === 0x89 && head[1] === 0x50) painted++;
      else if (/\.(png|dds)$/i.test(path)) say('no', `cannot paint paintbox/${path}`);
    }
    const codes = await textOf(user, `titles/${id}.codes`);
    if (codes !== undefined) {
      const on = [...codes.matchAll(/^\+ /gm)].length;
      const all = [...codes.matchAll(/^[+-] /gm)].length;
      const used = setting('Patches', 'UsePatches') === '1' && setting('Patches', 'UseList') === '1';
      say(used ? 'ok' : 'hm', `${id}: ${used ? on : 0} of ${all} patches in use`);
    }
  }
  say(
    'ok',
    `${painted} pictures painted over, LoadPaintbox is ${gameValue(settings, 'Textures', 'LoadPaintbox') ?? '0'}`,
  );
  await user.write('tinplate.log', new TextEncoder().encode(`${lines.join('\n')}\n`));
}
