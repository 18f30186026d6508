import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  ORIGINAL,
  Resolver,
  kindOf,
  nameKey,
  parseTarget,
  type Layer,
  type MadeFile,
  type PackPath,
  type Pick,
  type PlacedFile,
  type Resolution,
} from '@/core';

/** One layer's claim, in plain values. */
interface Claim {
  layer: string;
  packId: string;
  target: string;
  size: number;
  crc32: number | undefined;
  text: string | undefined;
  sha256: string | undefined;
}

/** Where something would lie, with the files of an archive of the game among it. */
const targets = fc.constantFrom('p/x.png', 'p/X.png', 'p/y.txt', 'p/f/x.png', 'p/f/z.ini', 'q/z.ini');
const archive = parseTarget('p/core.zip');

const plainFiles = fc.array(
  fc.record({ at: targets, size: fc.integer({ min: 1, max: 2 }), crc32: fc.constantFrom(undefined, 7, 8) }),
  { maxLength: 5 },
);
const insideFiles = fc.array(fc.constantFrom('in/a', 'in/A', 'in/b'), { maxLength: 2 });
const filesArb: fc.Arbitrary<readonly PlacedFile[]> = fc.tuple(plainFiles, insideFiles).map(([plain, inside]) => [
  ...plain.map(({ at, size, crc32 }, i) => ({
    path: `${i}` as PackPath,
    size,
    target: parseTarget(at),
    ...(crc32 === undefined ? {} : { crc32 }),
  })),
  ...inside.map((path, i) => ({ path: `in${i}` as PackPath, size: 3 + i, target: archive, inside: path })),
]);
const madeArb: fc.Arbitrary<readonly MadeFile[]> = fc.array(
  fc.oneof(
    fc.record({ target: targets.map(parseTarget), text: fc.constantFrom('m', 'made'), why: fc.constant('so') }),
    fc.record({
      target: fc.constant(archive),
      inside: fc.constantFrom('in/a', 'in/c'),
      text: fc.constant('made inside'),
      why: fc.constant('so'),
    }),
  ),
  { maxLength: 2 },
);
const editsArb = fc.array(
  fc.record({
    file: fc.constantFrom('p/f/z.ini', 'q/z.ini').map(parseTarget),
    edits: fc.array(fc.record({ path: fc.constant<string[]>(['k']), value: fc.constantFrom('1', '2') }), {
      maxLength: 2,
    }),
  }),
  { maxLength: 2 },
);

/** What layers are made of: a few lists, since a layer is known by them. */
const pool = fc.record({
  files: fc.array(filesArb, { minLength: 3, maxLength: 3 }),
  made: fc.array(madeArb, { minLength: 2, maxLength: 2 }),
  edits: fc.array(editsArb, { minLength: 2, maxLength: 2 }),
  merged: fc.array(fc.uniqueArray(targets, { selector: nameKey, maxLength: 2 }), { minLength: 2, maxLength: 2 }),
  own: fc.array(fc.uniqueArray(targets, { selector: nameKey, maxLength: 2 }), { minLength: 2, maxLength: 2 }),
});
type Pool = typeof pool extends fc.Arbitrary<infer T> ? T : never;

/** All layers that there can be, each id in a few versions, made once. */
function layersOf({ files, made, edits, merged, own }: Pool): Map<string, Layer[]> {
  const packs = ['a', 'b', 'c'].map((id): [string, Layer[]] => [
    id,
    files.flatMap((list) =>
      made.flatMap((some) =>
        ['pack 1', 'pack 2'].map((packId, i): Layer => ({
          kind: 'pack',
          id,
          name: id,
          packId,
          files: list,
          ...(some.length > 0 ? { made: some } : {}),
          ...(i === 0 ? { edits: edits[0] ?? [] } : {}),
        })),
      ),
    ),
  ]);
  const merges = merged.map((list, i): Layer => ({
    kind: 'merge',
    id: 'm',
    name: 'm',
    files: list.map((at) => ({ target: parseTarget(at), bytes: new TextEncoder().encode(`merged ${i}`) })),
  }));
  const owns = own.map((list, i): Layer => ({
    kind: 'own',
    id: 'o',
    name: 'o',
    files: list.map((at) => ({ target: parseTarget(at), sha256: `hash ${i}`, size: 2 })),
  }));
  const mine = edits.flatMap((some) =>
    some.map((one): Layer => ({ kind: 'edits', id: 'e', name: 'e', file: one.file, edits: one.edits })),
  );
  return new Map([...packs, ['m', merges], ['o', owns], ['e', mine]]);
}

/** What one layer lays outside of archives, as it stands in its lists. */
function claimsOf(layer: Layer): Claim[] {
  const nothing = { packId: '', crc32: undefined, text: undefined, sha256: undefined };
  if (layer.kind === 'merge')
    return layer.files.map(({ target, bytes }) => ({
      ...nothing,
      layer: layer.id,
      target,
      size: bytes.length,
      text: new TextDecoder().decode(bytes),
    }));
  if (layer.kind === 'own')
    return layer.files.map(({ target, size, sha256 }) => ({ ...nothing, layer: layer.id, target, size, sha256 }));
  if (layer.kind === 'edits') return [];
  const by = { ...nothing, layer: layer.id, packId: layer.packId };
  return [
    ...layer.files
      .filter(({ inside }) => inside === undefined)
      .map(({ target, size, crc32 }) => ({ ...by, target, size, crc32 })),
    ...(layer.made ?? [])
      .filter(({ inside }) => inside === undefined)
      .map(({ target, text }) => ({ ...by, target, size: text.length, text })),
  ];
}

/** Layers that picks name for a target, the narrowest first; folders from the innermost on. */
function picked(key: string, picks: readonly Pick[]): string[] {
  const breadth = ({ scope, at }: Pick) => (scope === 'file' ? -1000 : scope === 'folder' ? -at.length : 1);
  return picks
    .filter(({ scope, at }) =>
      scope === 'file'
        ? nameKey(at) === key
        : scope === 'folder'
          ? key.startsWith(`${nameKey(at)}/`)
          : kindOf(key) === at,
    )
    .sort((one, two) => breadth(one) - breadth(two))
    .map(({ layer }) => layer);
}

const sameBytes = (a: Claim, b: Claim) => a.size === b.size && a.crc32 !== undefined && a.crc32 === b.crc32;

/** The same as a resolution says, by plain maps that are made anew. */
function plainly(stack: readonly Layer[], picks: readonly Pick[]) {
  const writers = new Map<string, Claim[]>();
  for (const layer of stack)
    for (const claim of claimsOf(layer)) {
      const key = nameKey(claim.target);
      const others = (writers.get(key) ?? []).filter((one) => one.layer !== layer.id);
      writers.set(key, [...others, claim]);
    }
  const owned: Record<string, { target: string; providers: Claim[] }> = {};
  const tallies: Record<string, { wins: number; loses: number }> = {};
  for (const { id, kind } of stack) if (kind !== 'edits') tallies[id] = { wins: 0, loses: 0 };
  const winners = new Map<string, string>();
  for (const [key, claims] of writers) {
    const wish = picked(key, picks).find((one) => one === ORIGINAL || claims.some(({ layer }) => layer === one));
    const winner = wish === ORIGINAL ? undefined : (claims.find(({ layer }) => layer === wish) ?? claims.at(-1));
    const hidden = claims.filter((one) => one !== winner && !(winner && sameBytes(one, winner)));
    for (const { layer } of hidden) (tallies[layer] as { loses: number }).loses++;
    if (!winner) continue;
    if (hidden.length > 0) (tallies[winner.layer] as { wins: number }).wins++;
    winners.set(key, winner.layer);
    owned[key] = { target: winner.target, providers: [...claims.filter((one) => one !== winner), winner] };
  }
  return { owned, tallies, winners, claimed: [...writers.keys()].sort() };
}

/** What goes into archives, and what is edited, with a pick for the game's own file respected. */
function beside(stack: readonly Layer[], picks: readonly Pick[], winners: ReadonlyMap<string, string>) {
  const toGame = (key: string) => picked(key, picks)[0] === ORIGINAL;
  const rank = (id: string | undefined) => stack.findIndex((layer) => layer.id === id);
  const inside: Record<string, string> = {};
  const living: Record<string, string[]> = {};
  for (const layer of stack) {
    const wishes = layer.kind === 'edits' ? [layer] : layer.kind === 'pack' ? (layer.edits ?? []) : [];
    for (const { file, edits } of wishes) {
      const key = nameKey(file);
      const winner = winners.get(key);
      if (toGame(key)) continue;
      const counts = layer.kind === 'edits' || winner === undefined || rank(layer.id) > rank(winner);
      if (!counts && !living[key]) continue;
      // A file without any edit in it is left alone where a pack brings it whole.
      const list = (living[key] ??= []);
      if (counts) list.push(...edits.map(({ value }) => `${layer.id} ${layer.kind} ${value}`));
    }
    if (layer.kind !== 'pack' || toGame(nameKey(archive))) continue;
    for (const { inside: path, size } of layer.files) if (path) inside[nameKey(path)] = `${layer.packId} ${size}`;
    for (const { inside: path, text } of layer.made ?? [])
      if (path) inside[nameKey(path)] = `${layer.packId} ${text.length} ${text}`;
  }
  for (const key of Object.keys(living)) if (living[key]?.length === 0 && winners.has(key)) delete living[key];
  return { inside, living };
}

/** A resolution as plain values. */
function told({ owned, overlaps, living, inside }: Resolution, keys: readonly string[]) {
  const claim = ({
    layer,
    packId,
    file,
    made,
    kept,
  }: NonNullable<ReturnType<typeof owned.get>>['providers'][number]) => ({
    layer,
    packId,
    target: file.target as string,
    size: file.size,
    crc32: file.crc32,
    text: made && new TextDecoder().decode(made),
    sha256: kept?.sha256,
  });
  const one = (of: ReturnType<typeof owned.get>) =>
    of && { target: of.target as string, providers: of.providers.map(claim) };
  return {
    owned: Object.fromEntries([...owned].map(([key, of]) => [key, one(of)])),
    size: owned.size,
    keys: [...owned.keys()].sort(),
    claimed: [...owned.claimed()].map(({ key }) => key).sort(),
    asked: keys.map((key) => [key, owned.has(key), one(owned.get(key))?.target, owned.claim(key)?.claims.length]),
    tallies: Object.fromEntries([...overlaps].sort()),
    living: Object.fromEntries(
      [...living].map(([key, { edits }]) => [key, edits.map(({ layer, kind, value }) => `${layer} ${kind} ${value}`)]),
    ),
    inside: Object.fromEntries(
      [...(inside.get(nameKey(archive))?.entries ?? [])].map(([key, { packId, file, made }]) => [
        key,
        `${packId} ${file.size}${made ? ` ${new TextDecoder().decode(made)}` : ''}`,
      ]),
    ),
  };
}

const pickArb: fc.Arbitrary<Pick> = fc
  .oneof(
    fc.record({ scope: fc.constant('file' as const), at: fc.oneof(targets, fc.constant('p/core.zip')) }),
    fc.record({ scope: fc.constant('folder' as const), at: fc.constantFrom('p', 'p/f', 'q') }),
    fc.record({ scope: fc.constant('kind' as const), at: fc.constantFrom('picture', 'text', 'settings') }),
  )
  .chain((where) => fc.constantFrom('a', 'b', 'm', 'o', ORIGINAL).map((layer) => ({ ...where, layer })));
const picksArb = fc.uniqueArray(pickArb, { selector: ({ scope, at }) => `${scope} ${nameKey(at)}`, maxLength: 3 });
const ids = ['a', 'b', 'c', 'm', 'o', 'e'];
const stateArb = fc.tuple(fc.shuffledSubarray(ids), fc.array(fc.nat(11), { minLength: 6, maxLength: 6 }), picksArb);

describe('layers of every kind', () => {
  it('law: after any history it says of every target what plain maps say, and what came out differently', () => {
    fc.assert(
      fc.property(pool, fc.array(stateArb, { minLength: 1, maxLength: 5 }), (made, history) => {
        const versions = layersOf(made);
        const resolver = new Resolver();
        let before: ReadonlyMap<string, string> = new Map();
        const keys = ['p/x.png', 'p/y.txt', 'p/f/x.png', 'p/f/z.ini', 'q/z.ini', 'never/there'];
        for (const [order, which, picks] of history) {
          const stack = order.flatMap((id) => {
            const some = versions.get(id) ?? [];
            return some.length === 0 ? [] : [some[(which[ids.indexOf(id)] ?? 0) % some.length] as Layer];
          });
          const { resolution, changed } = resolver.resolve(stack, picks);
          const { owned, tallies, winners, claimed } = plainly(stack, picks);
          const expected = {
            owned,
            size: winners.size,
            keys: [...winners.keys()].sort(),
            claimed,
            tallies,
            ...beside(stack, picks, winners),
          };
          const { asked, ...all } = told(resolution, keys);
          expect(all).toEqual(expected);
          for (const [key, has, target] of asked)
            expect([has, target]).toEqual([winners.has(key as string), owned[key as string]?.target]);
          expect([...changed].map(({ target, from, to }) => [nameKey(target), from, to]).sort()).toEqual(
            [...new Set([...before.keys(), ...winners.keys()])]
              .filter((key) => before.get(key) !== winners.get(key))
              .map((key) => [key, before.get(key), winners.get(key)])
              .sort(),
          );
          before = winners;
        }
      }),
      { numRuns: 600 },
    );
  });
});
