import {
  ORIGINAL, canBeDrawn, countKinds, guide, layersNeeding, leftOutOf, nameKey, placeEdits, placeFiles, stepActions, wholeTarget,
  type Failure, type GuideFacts, type ImageInfo, type PlacedFile, type Plan, type StepAction,
} from '@/core';
import type { Game, PackLayer } from '@/storage/memory';
import type { CheckView, ClosedGame, GameView, PackView, PlanView, ProposalView, SettingsMore, SwitchView } from './api';
import { askedBy } from './asked';
import { checkView } from './checking';
import { PAGE } from './packs';
import type { Session } from './session';
import { mergeSources } from './overlaps';
import { mainFolder } from './onBridge';
import { updateEffects } from './safety';
import { proposalViews, settingsViews, wantedIn } from './settings';
import { settingsMore } from './settingsMore';

/** Pictures of a pack that are shown small. */
const PICTURES = 12;
/** Conflicts and changes that are sent to be shown; the figures count all. */
const LISTED = 300;

export function planView(session: Session, plan: Plan): PlanView {
  const counts = Object.fromEntries(stepActions.map((action) => [action, 0])) as Record<StepAction, number>;
  for (const { action } of plan.steps) counts[action]++;
  return {
    counts, bytes: plan.steps.reduce((sum, { size }) => sum + size, 0), total: plan.steps.length, unchanged: plan.unchanged, drifted: { total: plan.drifted.length, some: plan.drifted.slice(0, LISTED).map((one) => ({ ...one, name: session.nameOf(one.layer) })), effects: plan === session.picture.plan ? updateEffects(session) : [] },
    leftAlone: plan.leftAlone, refused: plan.refused,
  };
}

/** A few pictures from all over a pack, rather than the first ones, which are often alike. */
function sample(paths: string[]): string[] {
  if (paths.length <= PICTURES) return paths;
  // Steps of the golden ratio fall in no pattern with names that repeat.
  const picked = Array.from({ length: PICTURES }, (_, i) => Math.floor(((i * 0.618034) % 1) * paths.length));
  return [...new Set(picked)].sort((a, b) => a - b).map((i) => paths[i] as string);
}

/** What the pictures of a pack are, taken together. */
function textureSummary(images: ReadonlyMap<string, ImageInfo>): PackView['textures'] {
  const formats = new Map<string, number>();
  let bytesInMemory = 0;
  let largest = 0;
  for (const { format, bytesInMemory: bytes, width, height } of images.values()) {
    formats.set(format, (formats.get(format) ?? 0) + 1);
    bytesInMemory += bytes;
    largest = Math.max(largest, width, height);
  }
  return { files: images.size, bytesInMemory, largest, formats: [...formats].map(([format, files]) => ({ format, files })).sort((a, b) => b.files - a.files) };
}

/** How many of the files that stand in for the game's own have the very same bytes, as far as the plan has found out. */
function identicalFiles(session: Session, layer: PackLayer, replacing: readonly PlacedFile[]): number {
  const planned = new Set(session.picture.plan.steps.map(({ target }) => nameKey(target)));
  const deployed = new Set(session.picture.state.files.map(({ target }) => nameKey(target)));
  if (!layer.on || layer.confidence === 'ask') return 0;
  return replacing.filter(({ target }) => {
    const key = nameKey(target);
    return !planned.has(key) && !deployed.has(key) && session.picture.resolution.owned.get(key)?.providers.at(-1)?.layer === layer.id;
  }).length;
}

async function packView(session: Session, layer: PackLayer, deployed: number): Promise<PackView> {
  const { picture } = session;
  const { pack, tree, readMe, images, facts } = await session.openPack(layer.packId);
  const note = session.notes.find((one) => one.id === layer.packId);
  const { placement, confidence, parts } = layer;
  const { choices, questions } = await session.proposal(layer.packId, placement.decisions.answers);
  const whole = wholeTarget(placement);
  const placed = placeFiles(pack.entries, placement);
  const outside = placed.filter(({ inside }) => inside === undefined);
  const replacing = outside.filter((file) => picture.ownKeys.has(nameKey(file.target)));
  const count = whole === undefined ? placed.length : 1;
  const replaced = whole === undefined ? replacing.length : Number(picture.ownKeys.has(nameKey(whole)));
  return {
    layer: layer.id, packId: layer.packId, name: layer.name, file: note?.file ?? '', archiveSize: note?.size ?? 0, tag: layer.tag, on: layer.on,
    files: pack.entries.length, bytes: pack.entries.reduce((sum, { size }) => sum + size, 0), kinds: countKinds(pack.entries),
    notices: [...(note?.notices ?? []).filter(({ kind, path }) => !pack.notices.some((one) => one.kind === kind && one.path === path)), ...pack.notices],
    readMe: readMe?.path === PAGE ? undefined : readMe?.path, page: note?.page, format: note?.format ?? 'zip', facts, steps: [...(await askedBy(session, layer)).steps], textures: textureSummary(images),
    pictures: sample(pack.entries.map(({ path }) => path).filter(canBeDrawn)),
    firstFolders: tree.firstFolders(),
    placement: {
      confidence, parts, questions, choices, made: placement.made, moves: placement.decisions.moves,
      warnings: await session.warnings(layer),
      placed: count, leftOut: whole === undefined ? leftOutOf(placement, pack.entries).size : 0, replacing: replaced, fresh: count - replaced,
      identical: identicalFiles(session, layer, replacing),
      edits: placeEdits(placement).reduce((sum, { edits }) => sum + edits.length, 0),
      ownFolder: parts.find(({ mode }) => mode === 'own-folder')?.to,
    },
    overlaps: picture.overlaps.get(layer.id) ?? { wins: 0, loses: 0 },
    deployed,
    mergedFrom: (layer.mergedFrom ?? []).map(session.nameOf),
  };
}


/** Targets where packs want different things. What the player's own files cover was the player's choice. */
export const overlapping = ({ picture }: Session): number => [...picture.overlaps].reduce((sum, [layer, { wins }]) => sum + (layer === 'own' ? 0 : wins), 0);

function stackView(session: Session): GameView['stack'] {
  const { picture, stack, nameOf } = session;
  const name = (layer: string | undefined) => (layer === undefined ? undefined : nameOf(layer));
  return {
    order: stack.order.map((rule) => ({ ...rule, lowerName: nameOf(rule.lower), upperName: nameOf(rule.upper) })),
    picks: stack.picks.map((one) => ({ ...one, name: one.layer === ORIGINAL ? `${session.game.card.title}, as it was` : nameOf(one.layer) })),
    merges: picture.merges.map(({ note, outcome, sources }) => {
      const merge = outcome.ok ? outcome.merge : undefined;
      const conflicts = merge?.conflicts ?? [];
      return {
        id: note.id, target: note.target, name: note.name, sources: sources.map((layer) => ({ layer, name: nameOf(layer) })), why: outcome.ok ? undefined : outcome.why, way: merge?.way,
        conflicts: conflicts.slice(0, LISTED), total: conflicts.length, open: conflicts.filter(({ taken }) => taken === undefined).length, stale: merge?.stale ?? [], notices: merge?.notices ?? [],
      };
    }),
    overlapping: overlapping(session),
    changed: { total: picture.changed.length, some: picture.changed.slice(0, LISTED).map(({ target, from, to }) => ({ target, from: name(from), to: name(to) })) },
  };
}

async function packViews(session: Session): Promise<PackView[]> {
  const deployed = new Map<string, number>();
  for (const { layer, living } of session.picture.state.files) if (!living) deployed.set(layer, (deployed.get(layer) ?? 0) + 1);
  return Promise.all(session.packLayers().map((layer) => packView(session, layer, deployed.get(layer.id) ?? 0)));
}

function switchViews(session: Session): SwitchView[] {
  const { picture } = session;
  const files = () => [...[...picture.resolution.owned].map(([target, { providers }]) => ({ target, layers: providers.map(({ layer }) => layer) })), ...[...picture.resolution.living].map(([target, { edits }]) => ({ target, layers: edits.map(({ layer }) => layer).filter((layer) => !layer.startsWith('edits:')) }))];
  return picture.switches.map(({ game, value, on, neededBy }): SwitchView => {
    const wanted = wantedIn(session, game.file).get(game.path.join('\n')) ?? [];
    const edited = wanted.at(-1)?.value === game.on;
    const mine = wanted.some(({ layer }) => layer.startsWith('edits:'));
    return { id: game.id, title: game.title, file: game.file as SwitchView['file'], path: [...game.path], value, wanted: game.on, on, edited, mine, pending: edited && !on, neededBy, packs: neededBy > 0 ? layersNeeding(game, files()) : [], why: game.why, after: game.after };
  });
}

function guideFacts(session: Session, switches: SwitchView[], check: CheckView, deployedPacks: number, more: SettingsMore, proposals: readonly ProposalView[]): GuideFacts {
  const { picture } = session;
  const waiting = proposals.filter(({ set }) => !set);
  const healthy = check.fresh && !check.silent && check.findings.every((finding) => finding.level !== 'wrong');
  return {
    packs: session.packLayers().length,
    shelf: session.game.kind === 'demo',
    unplaced: session.packLayers().filter((layer) => layer.on && layer.confidence === 'ask').length,
    overlaps: overlapping(session),
    undecided: picture.merges.reduce((sum, { outcome }) => sum + (outcome.ok ? outcome.merge.conflicts.filter(({ taken }) => taken === undefined).length : 0), 0),
    switchesOff: switches.filter((one) => !one.on && !one.pending && one.neededBy > 0).length,
    unlisted: more.needs.length, asked: session.game.card.switches.length === 0 ? waiting.length + more.asks.length : 0, askedOff: session.game.card.switches.length === 0 ? waiting.filter((one) => one.flag).length : 0, lostEdits: more.lost.filter(({ fate }) => fate === 'dropped').length,
    changes: picture.plan.steps.length,
    deployedPacks,
    putBack: picture.ledger[0]?.layers.length === 0,
    checked: !check.fresh && !check.silent ? 'not yet' : healthy ? 'all well' : 'something wrong', trial: check.canTry,
  };
}

/** What the app has to be started with for a game. */
function bridgedView(game: Game): GameView['bridged'] {
  const main = mainFolder(game);
  // Each game has a folder of its own in it.
  return main && { folders: Object.values(game.given).map(({ path }) => path), backup: main.backup.replace(/[/\\][^/\\]+$/, '') };
}

/** Why a root is where it is, where that needs saying. */
function whyThere(session: Session, root: string): string | undefined {
  const located = session.located.find((one) => one.root === root);
  return located?.outside === undefined ? located?.why : `${located.why} It is “${located.outside}”, outside the folders that this app was given.`;
}

/** Everything the interface shows of a game, as plain data. */
export async function gameView(session: Session): Promise<GameView> {
  const { picture, game } = session;
  const files = picture.state.files.filter(({ living }) => !living);
  const switches = switchViews(session);
  const deployed = {
    // A merged file is as many packs as it is made of.
    packs: new Set(files.flatMap(({ layer }) => mergeSources(session)(layer) ?? (layer === 'own' ? [] : [layer]))).size,
    files: files.length,
    originals: picture.state.files.filter(({ original }) => original.kind === 'kept').length,
    edits: picture.state.files.reduce((sum, { living }) => sum + (living?.edits.length ?? 0), 0),
  };
  const packs = await packViews(session);
  const more = await settingsMore(session, packs);
  const check = await checkView(session, packs, more);
  const proposals = await proposalViews(session);
  return {
    id: game.id, title: game.card.title, demo: game.kind === 'demo', bridged: bridgedView(game),
    roots: game.card.roots.map(({ id, title }) => ({ id, title, files: picture.filesByRoot.get(id) ?? 0, where: game.given[id]?.path ?? game.handles[id]?.name ?? 'kept in this browser', why: whyThere(session, id) })),
    packs,
    guide: guide(guideFacts(session, switches, check, deployed.packs, more, proposals)),
    deployed, switches, check,
    plan: planView(session, picture.plan), putBack: planView(session, picture.putBack),
    settings: settingsViews(session), settingsMore: more, proposals, stack: stackView(session),
    ledger: picture.ledger, states: picture.snapshots, safety: picture.safety, own: session.ownLayer().files,
    backups: picture.backups.map(({ id, name, at, files: of }) => ({ id, name, at, files: of.length })),
  };
}

/** A game that cannot be opened now. */
export function closedGame(game: Game, how: ClosedGame['how'], failure?: Failure): ClosedGame {
  const folders = game.card.roots.flatMap(({ id }) => game.given[id]?.path ?? game.handles[id]?.name ?? []);
  return { id: game.id, title: game.card.title, folders, how, backup: bridgedView(game)?.backup, failure };
}
