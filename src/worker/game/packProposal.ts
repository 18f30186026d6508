import {
  missedFiles,
  ofLastStart,
  placementWarnings,
  proposeAt,
  proposePlacements,
  type MissedFile,
  type Placement,
  type PlacementInput,
  type PlacementProposal,
  type TargetPath,
  type Warning,
  type PackLayer,
} from '@/core';
import { insideArchives } from './insideArchives';
import type { Session } from './session';

type Answers = Placement['decisions']['answers'];

/** What a pack is placed by. */
export async function placementInput(session: Session, packId: string, answers: Answers): Promise<PlacementInput> {
  const { pack, texts, readMe } = await session.openPack(packId);
  const { card, statements } = session.game;
  const { ownFiles } = session.picture;
  // A card that says how packs are placed says which archives they go into.
  const inside =
    card.places.length > 0 && statements.length === 0
      ? new Map<string, readonly string[]>()
      : await (session.seen.inside ??= insideArchives(session.workshop.folders, ownFiles));
  return {
    entries: pack.entries,
    card,
    gameFiles: ownFiles,
    name: session.note(packId)?.file ?? pack.name,
    texts,
    answers,
    readMe,
    statements,
    inside,
    missed: missed(session),
  };
}

/** What the game's log misses now. */
function missed({ game, picture }: Session): MissedFile[] {
  const { log } = game.card;
  return log && picture.log ? missedFiles(ofLastStart(picture.log.reading, picture.log.since), log.rules) : [];
}

/** The app's proposal for a pack under the player's answers; remembered while the game is open. */
export async function proposalFor(session: Session, packId: string, answers: Answers = {}): Promise<PlacementProposal> {
  const key = `${packId} ${JSON.stringify(answers)}`;
  const known = session.proposals.get(key);
  if (known) return known;
  const made = proposePlacements(await placementInput(session, packId, answers));
  session.proposals.set(key, made);
  return made;
}

/** The placement of a pack at a place that the player chose. */
export async function placementAt(
  session: Session,
  packId: string,
  strip: string,
  base: TargetPath,
): Promise<Placement> {
  return proposeAt(await placementInput(session, packId, {}), strip, base);
}

interface Warned {
  from: readonly unknown[];
  warnings: Warning[];
}

const warned = new WeakMap<Placement, Warned>();

/** What to know about a pack before it is deployed; remembered until something that it comes from changes. */
export async function warningsOf(session: Session, layer: PackLayer): Promise<Warning[]> {
  const { pack, images, facts } = await session.openPack(layer.packId);
  const { placement } = layer;
  const { card } = session.game;
  const gameFiles = session.picture.ownFiles;
  const others = await Promise.all(
    session
      .packLayers()
      .filter((one) => one !== layer && one.on)
      .map(async ({ name, packId }) => ({ name, facts: (await session.openPack(packId)).facts })),
  );
  const from = [card, gameFiles, images, facts, ...others.flatMap((other) => [other.name, other.facts])];
  const before = warned.get(placement);
  if (before?.from.length === from.length && before.from.every((one, i) => one === from[i])) return before.warnings;
  const warnings = placementWarnings({ card, entries: pack.entries, placement, gameFiles, images, facts, others });
  warned.set(placement, { from, warnings });
  return warnings;
}
