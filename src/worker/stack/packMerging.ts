import {
  SatchelError,
  baseName,
  joinPath,
  mergedPack,
  noDecisions,
  parentOf,
  placeEdits,
  placeFiles,
  planMerge,
  sha256,
  splitTarget,
  wholeTarget,
  type MergeEntry,
  type MergePlan,
  type Placement,
  type WorkOptions,
  type PackLayer,
  target,
} from '@/core';
import type { MergePreview } from '../contract';
import { keepPack } from '../game/keepPack';
import { setOrder } from '../game/order';
import type { Session } from '../game/session';
import { warningsOf } from '../game/proposals';

/** Packs that are to become one: what each brings, and where the result goes. */
interface Prepared {
  layers: PackLayer[];
  plan: MergePlan;
  placement: Placement;
  name: string;
}

/** @param container the name of the one folder that all go into, for packs that have folders of their own */
async function prepare(session: Session, ids: readonly string[], container: string | undefined): Promise<Prepared> {
  // In the order of the stack, whatever the order of choosing: of duplicates the higher pack's counts.
  const layers = session.packLayers().filter(({ id }) => ids.includes(id));
  const names = layers.map(({ name }) => name);
  const refuse = (why: string) => new SatchelError('cannot-merge', { path: names.join(' + '), why });
  if (layers.length < 2) throw refuse('it takes two packs');
  const open = layers.find(({ confidence }) => confidence === 'ask');
  if (open) throw refuse(`“${open.name}” is not placed yet`);
  const opened = await Promise.all(
    layers.map(async (layer) => ({ layer, pack: (await session.openPack(layer.packId)).pack })),
  );
  const name = `${names.join(' + ')} (merged)`.slice(0, 160);
  const wholes = layers.flatMap(({ placement }) => wholeTarget(placement) ?? []);
  const upper = wholes.at(-1);
  if (upper !== undefined) {
    if (wholes.length < layers.length) throw refuse('one stays zipped and another one does not');
    const to = joinPath(parentOf(upper), `${fileName(name)}.zip`);
    return {
      layers,
      name,
      plan: planMerge(opened.map(({ pack }) => pack.entries.map((entry) => ({ path: entry.path, entry })))),
      placement: { rules: [{ as: 'whole', from: '', to }], leftOut: [], made: [], decisions: noDecisions },
    };
  }
  const placed = opened.map(({ layer, pack }) => ({ layer, files: placeFiles(pack.entries, layer.placement) }));
  const inside = placed.find(
    ({ layer, files }) => files.some((file) => file.inside !== undefined) || layer.placement.made.length > 0,
  );
  if (inside) throw refuse(`“${inside.layer.name}” goes into an archive of the game, or is converted`);
  const edits = layers
    .flatMap(({ placement }) => placeEdits(placement))
    .map(({ file, edits: wanted }, i) => ({
      as: 'edits' as const,
      from: `settings ${i + 1}`,
      to: file,
      edits: wanted,
    }));
  if (container !== undefined) {
    const folders = layers.flatMap(({ parts }) => parts.find(({ mode }) => mode === 'own-folder')?.to ?? []);
    const [first] = folders;
    if (first === undefined || folders.length < layers.length) throw refuse('not each of them has a folder of its own');
    const to = joinPath(parentOf(first), fileName(container));
    const entries = placed.map(({ files }, i) =>
      files.map((entry): MergeEntry => ({
        path: entry.target.startsWith(`${folders[i]}/`)
          ? entry.target.slice((folders[i] as string).length + 1)
          : baseName(entry.target),
        entry,
      })),
    );
    return {
      layers,
      name,
      plan: planMerge(entries),
      placement: { rules: [{ as: 'files', from: '', to }, ...edits], leftOut: [], made: [], decisions: noDecisions },
    };
  }
  const roots = [...new Set(placed.flatMap(({ files }) => files.map(({ target }) => splitTarget(target).root)))].sort();
  const entries = placed.map(({ files }) =>
    files.map((entry): MergeEntry => ({
      path: roots.length === 1 ? splitTarget(entry.target).path : entry.target,
      entry,
    })),
  );
  const rules = roots.map((root) => ({
    as: 'files' as const,
    from: roots.length === 1 ? '' : root,
    to: target(root, ''),
  }));
  return {
    layers,
    name,
    plan: planMerge(entries),
    placement: { rules: [...rules, ...edits], leftOut: [], made: [], decisions: noDecisions },
  };
}

/** A name that every disk takes. */
const fileName = (name: string): string =>
  name
    .replace(/[<>:"/\\|?*\u0000-\u001f]+/g, ' ')
    .trim()
    .replace(/[. ]+$/, '')
    .slice(0, 100) || 'merged';

/** What merging would give, before it is done: duplicates, and what does not fit together. */
export async function previewMerge(
  session: Session,
  ids: readonly string[],
  container: string | undefined,
): Promise<MergePreview> {
  const { layers, plan, name } = await prepare(session, ids, container);
  const said = (
    await Promise.all(
      layers.map(async (layer) =>
        (await warningsOf(session, layer))
          .filter(({ code }) => COMPATIBILITY.has(code))
          .map((warning) => ({ name: layer.name, warning })),
      ),
    )
  ).flat();
  return {
    name,
    files: plan.files.length,
    duplicates: plan.duplicates.map(({ path, sources, identical }) => ({
      path,
      identical,
      from: sources.map((source) => layers[source]?.name ?? ''),
    })),
    warnings: said.map(({ name: pack, warning }) => ({ ...warning, says: `“${pack}”: ${warning.says}` })),
    canShareFolder: layers.every(({ parts }) => parts.some(({ mode }) => mode === 'own-folder')),
  };
}

const COMPATIBILITY: ReadonlySet<string> = new Set([
  'patch-mismatch',
  'needs-pack',
  'needs-contents',
  'other-edition',
  'id-taken',
]);

/** Makes one pack of several. The packs stay in the stack, switched off, so that it can be taken apart again. */
export async function mergePacks(
  session: Session,
  ids: readonly string[],
  container: string | undefined,
  options: Required<WorkOptions>,
): Promise<string> {
  const { layers, plan, placement, name } = await prepare(session, ids, container);
  const packs = await Promise.all(layers.map(async ({ packId }) => (await session.openPack(packId)).pack));
  const pack = mergedPack(plan, packs, `${fileName(name)}.zip`);
  const recipe = JSON.stringify([
    'merged',
    layers.map(({ packId }) => packId),
    plan.files.map(({ path, source, entry }) => [path, source, entry.path]),
  ]);
  const { layer: id } = await keepPack(
    session,
    {
      pack,
      name: pack.name,
      size: pack.entries.reduce((sum, { size }) => sum + size, 0),
      sha256: await sha256(new TextEncoder().encode(recipe)),
    },
    options,
  );
  const sources = new Set(layers.map((layer) => layer.id));
  const files = plan.files.length;
  const place = placement.rules[0]?.to ?? target('', '');
  await session.saveStack({
    layers: session.stack.layers.map((layer) => {
      if (layer.kind !== 'pack') return layer;
      if (layer.id === id)
        return {
          ...layer,
          name,
          placement,
          confidence: 'chosen',
          mergedFrom: [...sources],
          parts: [
            {
              mode: 'chosen',
              from: '',
              to: place,
              files,
              reason: `Merged out of ${layers.map((one) => `“${one.name}”`).join(' and ')}; each file goes where it went before.`,
            },
          ],
        };
      return sources.has(layer.id) ? { ...layer, on: false } : layer;
    }),
  });
  // It lies where the highest of its sources lay.
  const order = session
    .packLayers()
    .map((layer) => layer.id)
    .filter((one) => one !== id);
  order.splice(order.lastIndexOf([...sources].at(-1) ?? '') + 1, 0, id);
  await setOrder(session, order);
  return id;
}

/** Takes a merged pack out again and puts its sources back to use. */
export async function takeApart(session: Session, id: string): Promise<void> {
  const { mergedFrom = [] } = session.layer(id);
  await session.saveStack({
    layers: session.stack.layers
      .filter((layer) => layer.id !== id)
      .map((layer) => (layer.kind === 'pack' && mergedFrom.includes(layer.id) ? { ...layer, on: true } : layer)),
  });
}
