import { asTargets } from '@/core';
import type { QueryOf, Row, RowsQuery, RowsQuestions } from '../contract';
import { planRows } from '../deploy/rows';
import type { QuestionsOf } from '../game/handlers';
import type { Picture } from '../game/picture';
import type { Session } from '../game/session';
import type { LazyRow } from '../game/stepRows';
import { presentRows } from '../ingame/inGame';
import { differenceRows, ledgerRows, restoreRows } from '../ledger/rows';
import { treeRows } from '../game/treeRows';
import { settingRows } from '../settings/rows';
import { overlapRows, relationRows } from '../stack/overlaps';

type Views = {
  [View in RowsQuery['view']]: (session: Session, query: QueryOf<View>) => readonly LazyRow[] | Promise<LazyRow[]>;
};

/** What each view shows. A view without an entry does not compile. */
const VIEWS: Views = {
  pack: treeRows,
  place: treeRows,
  plan: planRows,
  ledger: ledgerRows,
  restore: restoreRows,
  difference: differenceRows,
  settings: settingRows,
  overlaps: overlapRows,
  present: presentRows,
  relations: relationRows,
};

/** The rows that a query asks for, in order. */
const findRows = async <View extends RowsQuery['view']>(
  session: Session,
  query: QueryOf<View> & { view: View },
): Promise<readonly LazyRow[]> => VIEWS[query.view](session, query);

/** What looks for targets also finds them by the titles that the game's folders are shown with. */
const inTargets = (session: Session, query: RowsQuery): RowsQuery =>
  query.view === 'pack' || query.view === 'settings'
    ? query
    : { ...query, search: asTargets(query.search, session.game.card.roots) };

/** One list is asked for piece by piece while it is looked through: it is kept as long as the picture is the same. */
const found = new WeakMap<Picture, { key: string; rows: Promise<readonly LazyRow[]> }>();

export const rowsQuestions: QuestionsOf<RowsQuestions> = {
  rows: async ({ open }, { query, offset, limit }) => {
    const key = JSON.stringify(query);
    const before = found.get(open.picture);
    const { rows } = before?.key === key ? before : { rows: findRows(open, inTargets(open, query)) };
    found.set(open.picture, { key, rows });
    const all = await rows;
    return { total: all.length, rows: all.slice(offset, offset + limit).map((row): Row => row()) };
  },
};
