import { zipWith } from '../archives/zipWith';
import { sha256 } from '../hash';
import type { OwnedTarget } from '../layers/layer';
import type { InsideTarget } from '../layers/layers';
import { byPath } from '../paths/paths';
import { decodeText } from '../settings/encoding';
import { bytesOf, readBytesOf } from './lookUp';
import type { Planning, Spot } from './planInput';
import { orRefused, planMade } from './planMade';

/**
 * An archive of the game with files of packs put into it: always made from the original, so that any of them can go
 * again.
 */
export async function planInside(
  { entries }: InsideTarget,
  { owned, ...spot }: Spot & { owned: OwnedTarget | undefined },
  planning: Planning,
): Promise<void> {
  const { key, record, wanted } = spot;
  const { input, actual, plan } = planning;
  const { workshop } = input;
  const now = actual.files.get(key);
  const under = owned?.providers.at(-1);
  const inOrder = [...entries.values()].sort((a, b) => byPath(a.inside, b.inside));
  const parts = JSON.stringify([
    under && [under.packId, under.file.path],
    ...inOrder.map(({ packId, file, inside, made }) => [
      inside,
      packId,
      made ? decodeText(made).text : file.path,
      file.size,
      file.crc32,
    ]),
  ]);
  const recipe = await sha256(new TextEncoder().encode(parts));
  if (now && record?.recipe === recipe && !actual.drifted.has(key)) return void plan.unchanged++;
  await orRefused(wanted, planning, async () => {
    const original = record ? record.original : now ? ('as it is' as const) : ({ kind: 'absent' } as const);
    const base = under
      ? await (await workshop.openPack(under.packId)).read(under.file.path)
      : original === 'as it is'
        ? await readBytesOf(workshop, wanted)
        : await bytesOf(workshop, original);
    const bytes = await zipWith(
      base,
      inOrder,
      async (packId, paths) => (await workshop.openPack(packId)).readMany(paths),
      wanted,
    );
    const layer = inOrder.at(-1)?.layer ?? '';
    await planMade(
      {
        bytes,
        layer,
        recipe,
        reason: `“${input.nameOf(layer)}” puts files into this archive; the game’s own is kept first.`,
      },
      spot,
      planning,
    );
  });
}
