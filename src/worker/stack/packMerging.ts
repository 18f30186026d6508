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
  type Pack,
  type PlaceRule,
  type PlacedFile,
  type Placement,
  type WorkOptions,
  type PackLayer,
  target,
} from '@/core';
import type { MergePreview } from '../contract';
import { keepPack } from '../game/keepPack';
import { setOrder } from '../game/stackOrder';
import type { Session } from '../game/session';
import { warningsOf } from '../game/packProposal';

/** Packs that are to become one: what each brings, and where the result goes. */
interface Prepared {
  layers: PackLayer[];
  plan: MergePlan;
  placement: Placement;
  name: string;
}

type Refuse = (why: string) => SatchelError;
type Opened = { layer: PackLayer; pack: Pack }[];
type PlacedIn = { layer: PackLayer; files: readonly PlacedFile[] }[];

/** @param container the name of the one folder that all go into, for packs that have folders of their own */
async function prepare(session: Session, ids: readonly string[], container: string | undefined): Promise<Prepared> {
  // In the order of the stack, whatever the order of choosing: of duplicates the higher pack's counts.
  const layers = session.packLayers().filter(({ id }) => ids.includes(id));
  const names = layers.map(({ name }) => name);
  const refuse: Refuse = (why) => new SatchelError('cannot-merge', { path: names.join(' + '), why });
  if (layers.length < 2) throw refuse('it takes two packs');
  const open = layers.find(({ confidence }) => confidence === 'ask');
  if (open) throw refuse(`“${open.name}” is not placed yet`);
  const opened = await Promise.all(
    layers.map(async (layer) => ({ layer, pack: (await session.openPack(layer.packId)).pack })),
  );
  const name = `${names.join(' + ')} (merged)`.slice(0, 160);
  const { entries, rules } = zippedTogether(opened, name, refuse) ?? unpackedTogether(opened, container, refuse);
  return {
    layers,
    name,
    plan: planMerge(entries),
    placement: { rules, leftOut: [], made: [], decisions: noDecisions },
  };
}

/** What each pack brings, and the rules by which all of it is placed. */
interface Together {
  entries: MergeEntry[][];
  rules: PlaceRule[];
}

/** Packs that stay zipped become one zipped pack; undefined where none of them does. */
function zippedTogether(opened: Opened, name: string, refuse: Refuse): Together | undefined {
  const wholes = opened.flatMap(({ layer }) => wholeTarget(layer.placement) ?? []);
  const upper = wholes.at(-1);
  if (upper === undefined) return undefined;
  if (wholes.length < opened.length) throw refuse('one stays zipped and another one does not');
  const to = joinPath(parentOf(upper), `${fileName(name)}.zip`);
  return {
    entries: opened.map(({ pack }) => pack.entries.map((entry) => ({ path: entry.path, entry }))),
    rules: [{ as: 'whole', from: '', to }],
  };
}

function unpackedTogether(opened: Opened, container: string | undefined, refuse: Refuse): Together {
  const placed = opened.map(({ layer, pack }) => ({ layer, files: placeFiles(pack.entries, layer.placement) }));
  const inside = placed.find(
    ({ layer, files }) => files.some((file) => file.inside !== undefined) || layer.placement.made.length > 0,
  );
  if (inside) throw refuse(`“${inside.layer.name}” goes into an archive of the game, or is converted`);
  const { entries, rules } = container === undefined ? byRoots(placed) : inOneFolder(placed, container, refuse);
  const edits = placed
    .flatMap(({ layer }) => placeEdits(layer.placement))
    .map(({ file, edits: wanted }, i) => ({
      as: 'edits' as const,
      from: `settings ${i + 1}`,
      to: file,
      edits: wanted,
    }));
  return { entries, rules: [...rules, ...edits] };
}

/** All of them in one folder, in place of the folders of their own. */
function inOneFolder(placed: PlacedIn, container: string, refuse: Refuse): Together {
  const folders = placed.flatMap(({ layer }) => layer.parts.find(({ mode }) => mode === 'own-folder')?.to ?? []);
  const [first] = folders;
  if (first === undefined || folders.length < placed.length) throw refuse('not each of them has a folder of its own');
  const within = (path: string, folder: string) =>
    path.startsWith(`${folder}/`) ? path.slice(folder.length + 1) : baseName(path);
  return {
    entries: placed.map(({ files }, i) =>
      files.map((entry) => ({ path: within(entry.target, folders[i] as string), entry })),
    ),
    rules: [{ as: 'files', from: '', to: joinPath(parentOf(first), fileName(container)) }],
  };
}

/** Each file where it goes now, root by root. */
function byRoots(placed: PlacedIn): Together {
  const roots = [...new Set(placed.flatMap(({ files }) => files.map(({ target: to }) => splitTarget(to).root)))].sort();
  const lone = roots.length === 1;
  return {
    entries: placed.map(({ files }) =>
      files.map((entry) => ({ path: lone ? splitTarget(entry.target).path : entry.target, entry })),
    ),
    rules: roots.map((root) => ({ as: 'files', from: lone ? '' : root, to: target(root, '') })),
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
