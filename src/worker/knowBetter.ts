import { joinCards, learn, loadedPacks, studyGame, target, type GameCard, type Statement, type WorkOptions } from '@/core';
import type { Game, PackLayer } from '@/storage/memory';
import { insideArchives, textIn } from './insideArchives';
import type { Session } from './session';

/** The read-mes of so many packs are looked at. */
const MOST_PACKS = 30;

/** Was the card written by somebody, or is it what a study came to? */
const isDescribed = ({ places, titles, recipes }: GameCard): boolean => places.length > 0 || titles !== undefined || recipes.length > 0;

/** What a game looks like from outside: when that is the same, studying it again finds nothing new. */
const signOf = ({ picture }: Session): string => `${picture.ownFiles.length} ${picture.log?.modified ?? ''}`;

/**
 * Studies a game again where its folders or its log are others than at the last study, and learns from what the game loaded.
 * What the player said stays; a settings file that the card has stays as it is.
 *
 * @returns the game with what is known now; undefined where it was looked at already
 */
export async function knowBetter(session: Session, options: WorkOptions): Promise<Game | undefined> {
  const { game, picture, workshop } = session;
  const sign = signOf(session);
  if (game.kind === 'demo' || isDescribed(game.card) || game.studied === sign) return undefined;
  const packs = session.stack.layers.filter((layer): layer is PackLayer => layer.kind === 'pack');
  const readMes = await Promise.all(packs.slice(0, MOST_PACKS).map(async ({ packId, name }) => ({ name, readMe: (await session.openPack(packId)).readMe })));
  const own = new Set(picture.ownFiles);
  const folders = game.card.roots.map(({ id, title }) => ({
    id, title, files: (picture.listing.files[id] ?? []).filter(({ path }) => own.has(target(id, path))),
    read: async (path: string) => { const folder = workshop.folders[id]; return folder && textIn(folder, path); },
  }));
  const inside = await insideArchives(workshop.folders, picture.ownFiles);
  const found = await studyGame(folders, { title: game.card.title, answers: game.statements, packs: readMes, inside, ...options });
  const statements = learntFromLog(session, packs, await entriesOf(session, packs), found.statements);
  return { ...game, studied: sign, statements, card: withNew(game, found) };
}

const entriesOf = async (session: Session, packs: readonly PackLayer[]) => new Map(await Promise.all(packs.slice(0, MOST_PACKS).map(async ({ packId }) => [packId, (await session.openPack(packId)).pack.entries] as const)));

/** A pack that the game loaded from where it lies teaches where packs like it go. */
function learntFromLog({ picture }: Session, packs: readonly PackLayer[], entries: Awaited<ReturnType<typeof entriesOf>>, before: Statement[]): Statement[] {
  const { log, state } = picture;
  if (!log) return before;
  const [last] = state.files.length === 0 ? [] : picture.ledger;
  // Only what the game wrote after the last deployment speaks of what is there now.
  if (!last || log.modified < last.at) return before;
  const loaded = loadedPacks(log.text, [...picture.ownFiles.map((file) => ({ target: file })), ...state.files.filter(({ living }) => !living)]);
  let statements = before;
  for (const layer of packs) {
    const said = loaded.get(layer.id);
    const files = entries.get(layer.packId);
    if (said && files) statements = learn(statements, { entries: files, placement: layer.placement, pack: layer.name, gameFiles: picture.ownFiles, why: `The game loaded it: “${said.text}”.`, line: said.line });
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
