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
  type StatedFact,
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

interface Speaker {
  layer: string;
  name: string;
  facts: readonly StatedFact[];
}

interface Spoken {
  /** The stack that it was asked for, and how often packs had been opened then. */
  layers: object;
  opened: number;
  all: Promise<readonly Speaker[]>;
}

const spoken = new WeakMap<Session, Spoken>();

/** What the packs in use say of themselves: the same list for as long as none of it changes. */
function speakers(session: Session): Promise<readonly Speaker[]> {
  const { layers } = session.stack;
  const { opened } = session.packs;
  const before = spoken.get(session);
  if (before?.layers === layers && before.opened === opened) return before.all;
  const all = speakersNow(session, before?.all);
  spoken.set(session, { layers, opened, all });
  // A pack that could not be opened is tried again; who asked is told.
  all.catch(() => spoken.delete(session));
  return all;
}

async function speakersNow(session: Session, before: Spoken['all'] | undefined): Promise<readonly Speaker[]> {
  const now = await Promise.all(
    session
      .packLayers()
      .filter(({ on }) => on)
      .map(async ({ id, name, packId }) => ({ layer: id, name, facts: (await session.openPack(packId)).facts })),
  );
  // Where that list was not to be had, its callers were told.
  const known = await before?.catch(() => undefined);
  const isSame = ({ layer, name, facts }: Speaker, i: number): boolean =>
    layer === now[i]?.layer && name === now[i].name && facts === now[i].facts;
  return known?.length === now.length && known.every(isSame) ? known : now;
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
  const all = await speakers(session);
  const from = [card, gameFiles, images, facts, all];
  const before = warned.get(placement);
  if (before?.from.every((one, i) => one === from[i])) return before.warnings;
  const others = all.filter((one) => one.layer !== layer.id);
  const warnings = placementWarnings({ card, entries: pack.entries, placement, gameFiles, images, facts, others });
  warned.set(placement, { from, warnings });
  return warnings;
}
