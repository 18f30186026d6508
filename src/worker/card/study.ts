import {
  joinCards,
  learn,
  loadedPacks,
  saysWherePacksGo,
  studyGame,
  target,
  type GameCard,
  type PackEntry,
  type Statement,
  type WorkOptions,
  type PackLayer,
} from '@/core';
import type { Game } from '@/storage/memory';
import { insideArchives, textIn } from '../game/insideArchives';
import type { Session } from '../game/session';

/** The read-mes of so many packs are looked at. */
const MOST_PACKS = 30;

/** A pack of the stack, and what is in it. */
interface OpenedPack {
  layer: PackLayer;
  name: string;
  readMe: { path: string; text: string } | undefined;
  entries: readonly PackEntry[];
}

/** What a game looks like from outside: when that is the same, studying it again finds nothing new. */
const signOf = ({ picture }: Session): string => `${picture.ownFiles.length} ${picture.log?.modified ?? ''}`;

/**
 * Studies a game again where its folders or its log are others than at the last study, and learns from what the game
 * loaded. What the player said stays; a settings file that the card has stays as it is.
 *
 * @returns the game with what is known now; undefined where it was looked at already
 */
export async function knowBetter(session: Session, options: WorkOptions): Promise<Game | undefined> {
  const { game, picture, workshop } = session;
  const sign = signOf(session);
  if (game.kind === 'demo' || (saysWherePacksGo(game.card) && game.statements.length === 0) || game.studied === sign)
    return undefined;
  const packs: OpenedPack[] = [];
  // One after the other: each may have to be unpacked for its list.
  for (const layer of session.stack.layers
    .filter((one): one is PackLayer => one.kind === 'pack')
    .slice(0, MOST_PACKS)) {
    const { pack, readMe } = await session.openPack(layer.packId);
    packs.push({ layer, name: layer.name, readMe, entries: pack.entries });
  }
  const own = new Set(picture.ownFiles);
  const folders = game.card.roots.map(({ id, title }) => ({
    id,
    title,
    files: picture.index.filesOf(id).filter(({ path }) => own.has(target(id, path))),
    read: async (path: string) => {
      const folder = workshop.folders[id];
      return folder && textIn(folder, path);
    },
  }));
  const inside = await insideArchives(workshop.folders, picture.ownFiles);
  const found = await studyGame(folders, {
    title: game.card.title,
    answers: game.statements,
    packs,
    inside,
    ...options,
  });
  const statements = learntFromLog(session, packs, found.statements);
  return { ...game, studied: sign, statements, card: withNew(game, found) };
}

/** A pack that the game loaded from where it lies teaches where packs like it go. */
function learntFromLog({ picture }: Session, packs: readonly OpenedPack[], before: Statement[]): Statement[] {
  const { log, state } = picture;
  if (!log) return before;
  const [last] = state.files.length === 0 ? [] : picture.ledger;
  // Only what the game wrote after the last deployment speaks of what is there now.
  if (!last || log.modified < last.at) return before;
  const loaded = loadedPacks(log.text, [
    ...picture.ownFiles.map((file) => ({ target: file })),
    ...state.files.filter(({ living }) => !living),
  ]);
  let statements = before;
  for (const { layer, entries } of packs) {
    const said = loaded.get(layer.id);
    if (said)
      statements = learn(statements, {
        entries,
        placement: layer.placement,
        pack: layer.name,
        gameFiles: picture.ownFiles,
        why: `The game loaded it: “${said.text}”.`,
        line: said.line,
      });
  }
  return statements;
}

/** The card with what a study found for the first time. */
function withNew({ card, statements }: Game, found: { card: GameCard; statements: Statement[] }): GameCard {
  const before = new Set(statements.map(({ id }) => id));
  const known = new Set(card.settings.map(({ target: file }) => file));
  const fresh = found.card.settings.filter(({ target: file }) => !known.has(file) && !before.has(`settings:${file}`));
  const settings = card.settings.map((file) => {
    const now = found.card.settings.find((one) => one.target === file.target && one.dialect === file.dialect);
    return now ? { ...file, numbered: file.numbered ?? now.numbered, search: file.search ?? now.search } : file;
  });
  return joinCards({ ...card, settings }, { ...found.card, roots: [], settings: fresh });
}
