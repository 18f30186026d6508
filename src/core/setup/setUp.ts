import { z } from 'zod';
import type { LivingTarget, Resolution } from '../layers/layers';
import { byPath, type TargetPath } from '../paths/paths';
import { pathId } from '../settings/edits';
import { stackSchema, type PackLayer, type Stack } from './stack';

/** What of a stack is the way to play: packs with places and order, merges, own files, edits, and choices. */
export const wayToPlaySchema = stackSchema.pick({
  layers: true,
  picks: true,
  order: true,
  ownFiles: true,
  launchLine: true,
});
export type WayToPlay = z.infer<typeof wayToPlaySchema>;

/** A way to play under a name. */
export const setUpSchema = z.object({
  id: z.string().min(1),
  name: z.string().min(1).max(80),
  at: z.number(),
  stack: wayToPlaySchema,
});
export type SetUp = z.infer<typeof setUpSchema>;

export const wayToPlay = ({ layers, picks, order, ownFiles, launchLine }: Stack): WayToPlay => ({
  layers,
  picks,
  order,
  ownFiles,
  ...(launchLine === undefined ? {} : { launchLine }),
});

/**
 * A stack that plays another way. Packs of that way which are not at hand any more are left out; packs that it does not
 * know stay at hand, switched off.
 *
 * @returns the stack, and the packs in use that are not at hand
 */
export function playedAs(
  now: Stack,
  way: WayToPlay,
  isHere: (packId: string) => boolean,
): { stack: Stack; gone: PackLayer[] } {
  const packs = way.layers.filter((layer) => layer.kind === 'pack');
  const here = packs.filter(({ packId }) => isHere(packId));
  const known = new Set(here.map(({ id }) => id));
  const others = now.layers.filter((layer) => layer.kind === 'pack' && !known.has(layer.id));
  // A search for what fails was about the packs as they were.
  const { launchLine: _, apart: _apart, ...rest } = now;
  return {
    stack: {
      ...rest,
      ...way,
      layers: [
        ...here,
        ...others.map((layer) => ({ ...layer, on: false })),
        ...way.layers.filter(({ kind }) => kind !== 'pack'),
      ],
    },
    gone: packs.filter(({ on, packId }) => on && !isHere(packId)),
  };
}

/** One file that two ways to play treat differently: the layers that win it, where any does. */
export interface OtherFile {
  target: TargetPath;
  a: string | undefined;
  b: string | undefined;
}

/** One key of a settings file that two ways to play want otherwise; undefined: no wish. */
export interface OtherKey {
  target: TargetPath;
  path: string[];
  a: string | undefined;
  b: string | undefined;
}

/** What two ways to play come to in the game: files that another layer wins, and keys that are wanted otherwise. */
export const otherIn = (a: Resolution, b: Resolution): { files: OtherFile[]; keys: OtherKey[] } => ({
  files: otherFiles(a, b),
  keys: otherKeys(a, b),
});

function otherFiles(a: Resolution, b: Resolution): OtherFile[] {
  const targets = (of: Resolution) => new Map(Array.from(of.owned.claimed(), (one) => [one.key, one]));
  const [inA, inB] = [targets(a), targets(b)];
  const all = new Map([...inA, ...inB]);
  const files = [...all.values()].flatMap(({ key, target }) => {
    const [from, to] = [inA.get(key)?.winner, inB.get(key)?.winner];
    return isSameWinner(from, to) ? [] : [{ target, a: from?.layer, b: to?.layer }];
  });
  return files.sort((x, y) => byPath(x.target, y.target));
}

type Winner = { layer: string; file: { path: string } } | undefined;
const isSameWinner = (a: Winner, b: Winner): boolean => a?.layer === b?.layer && a?.file.path === b?.file.path;

function otherKeys(a: Resolution, b: Resolution): OtherKey[] {
  return [...new Set([...a.living.keys(), ...b.living.keys()])].flatMap((key) => {
    const [one, other] = [a.living.get(key), b.living.get(key)];
    const target = one?.target ?? other?.target;
    const [was, is] = [wishedFor(one), wishedFor(other)];
    return [...new Set([...was.keys(), ...is.keys()])].flatMap((id): OtherKey[] => {
      const [from, to] = [was.get(id), is.get(id)];
      const path = from?.path ?? to?.path;
      if (target === undefined || !path || valueOf(from) === valueOf(to)) return [];
      return [{ target, path, a: valueOf(from), b: valueOf(to) }];
    });
  });
}

/** The wish for each key that counts: the last. */
const wishedFor = (of: LivingTarget | undefined): Map<string, LivingTarget['edits'][number]> =>
  new Map((of?.edits ?? []).map((edit) => [pathId(edit.path), edit]));
/** A key that is to go has the empty value. */
const valueOf = (edit: { value?: string } | undefined): string | undefined => edit && (edit.value ?? '');
