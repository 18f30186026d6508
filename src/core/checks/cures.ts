import { baseName, joinPath, parentOf, staysInside, type TargetPath } from '../paths/paths';
import { slugOf } from '../placement/context';
import { MOST_MOVES, type Cure } from './finding';
import type { Trouble, TroubleKind, TroubleOf } from './trouble';
import type { Names } from './wordsFor';

type CuresFor = { [Kind in TroubleKind]: (trouble: TroubleOf<Kind>, names: Names) => Cure[] };

const NONE = (): Cure[] => [];
const LOOK_AT_PLAN = (): Cure[] => [{ kind: 'deploy' }];
const takeOut = (layer: string | undefined): Cure[] => (layer === undefined ? [] : [{ kind: 'take out', layer }]);

const move = (moves: { from: TargetPath; to: TargetPath }[]): Cure[] =>
  moves.length === 0 || moves.length > MOST_MOVES ? [] : [{ kind: 'move', moves }];

/** Files that keep their way from one folder into another one. */
const moveAll = (files: readonly TargetPath[], from: string, to: TargetPath): Cure[] =>
  move(files.map((file) => ({ from: file, to: joinPath(to, file.slice(from.length + 1)) })));

/**
 * For a file that is named like one of the game's texts and so hides it: the pack's gets a name of its own, or what it
 * lacks is added to it.
 */
const ofHiding = ({ target, layer }: { target: TargetPath; layer: string }, { nameOf }: Names): Cure[] => [
  {
    kind: 'move',
    moves: [{ from: target, to: joinPath(parentOf(target), `${slugOf(nameOf(layer))}-${baseName(target)}`) }],
  },
  { kind: 'fill', target },
];

function ofReference({ meant, near, brings, layer }: TroubleOf<'refers to nothing'>): Cure[] {
  if (!near || !staysInside(meant)) return takeOut(layer);
  const cure: Cure[] =
    brings === undefined
      ? [{ kind: 'stand-in', copies: [{ copy: near.path, to: meant }] }]
      : move([{ from: near.path, to: meant }]);
  return [...cure, ...takeOut(layer)];
}

function ofMissing({ wanted, owner, first, brings, meant, leftOut, standIn }: TroubleOf<'missing'>): Cure[] {
  const cures: Cure[] = [];
  if (first && brings !== undefined && (brings === owner || first.kind !== 'folder' || meant))
    cures.push(...move([{ from: first.path, to: wanted }]));
  if (leftOut) cures.push({ kind: 'take in', files: [leftOut] });
  if (standIn) cures.push({ kind: 'stand-in', copies: [{ copy: standIn, to: wanted }] });
  return cures;
}

/** The value of the one that gets its way first, then each other one once. */
function ofFight({ file, path, wants }: TroubleOf<'fought over'>): Cure[] {
  const values = new Set([wants.at(-1)?.value, ...wants.map(({ value }) => value)]);
  return [...values].flatMap((value): Cure[] =>
    value === undefined ? [] : [{ kind: 'edit', file, edit: { path, value } }],
  );
}

/** So many of the largest packs are offered to be taken out. */
const MOST_PACKS = 3;

/** What can be done about each kind of trouble, the best first. */
const CURES: CuresFor = {
  'straight-in': ({ layer, into, files }, { nameOf }) => moveAll(files, into, joinPath(into, slugOf(nameOf(layer)))),
  'add-on too deep': ({ files, inner, at }) => moveAll(files, inner, at),
  'no manifest': ({ layer, at, marker }, { nameOf }) => [
    { kind: 'add file', to: joinPath(at, marker), text: `name = ${nameOf(layer)}\r\nversion = 1.0\r\n` },
  ],
  unzipped: () => [{ kind: 'go', step: 'place' }],
  'bad manifest': ({ layer }) => takeOut(layer),
  'id taken': ({ layer }) => takeOut(layer),
  'hides texts': ofHiding,
  'refers to nothing': ofReference,
  sealed: ({ archive, opens }) => [{ kind: 'unpack', archive, to: opens }],
  'too high': ({ here, inner, files }) =>
    moveAll(
      files.map(({ target }) => target),
      here,
      inner,
    ),
  'too deep': ({ inner, twice, files }) => moveAll(files, twice, inner),
  'id inside': ({ here, into, files }) => moveAll(files, here, into),
  'wrong id': ({ right, base, files }) =>
    right === undefined ? [{ kind: 'go', step: 'place' }] : moveAll(files, base, right.goal),
  'out of range': ({ file, path, better }) =>
    better === undefined ? [{ kind: 'go', step: 'settings' }] : [{ kind: 'edit', file, edit: { path, value: better } }],
  'no such folder': ({ file, section, key, near }) =>
    near === undefined
      ? [{ kind: 'go', step: 'settings' }]
      : [{ kind: 'edit', file, edit: { path: [section, key], value: near } }],
  'not listed': ({ file, path, item }) => [{ kind: 'list', file, path, item }],
  'lost edit': LOOK_AT_PLAN,
  'too much memory': ({ file, path }) => [{ kind: 'edit', file, edit: { path, value: '0' } }],
  'fought over': ofFight,
  'switch off': ({ file, path, on }) => [{ kind: 'edit', file, edit: { path: [...path], value: on } }],
  warning: ({ layer }) => [{ kind: 'go', step: 'place' }, ...takeOut(layer)],
  'too little room': ({ packs }) => packs.slice(0, MOST_PACKS).flatMap(({ layer }) => takeOut(layer)),
  drift: LOOK_AT_PLAN,
  pending: LOOK_AT_PLAN,
  silent: NONE,
  'ended early': NONE,
  loaded: NONE,
  'said loaded': NONE,
  said: NONE,
  'one more': NONE,
  'names a pack': ({ layer }) => takeOut(layer),
  'own file': NONE,
  capitals: ({ layer, there, wanted }) => [...move([{ from: there, to: wanted }]), ...takeOut(layer)],
  unusable: ({ layer, there }) => [{ kind: 'leave out', targets: [there] }, ...takeOut(layer)],
  missing: ofMissing,
  'missing text': NONE,
  'texts hidden': ofHiding,
};

/** What can be done about what was found, the best first; without words for it. */
export const curesOf = (trouble: Trouble, names: Names): Cure[] =>
  (CURES[trouble.kind] as (one: Trouble, names: Names) => Cure[])(trouble, names);
