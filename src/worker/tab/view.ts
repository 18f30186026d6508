import { guide } from '@/core';
import { packViews } from '../bring-in/view';
import { checkView } from '../check/view';
import type { GameView } from '../contract';
import { mergeSources } from '../game/mergeSources';
import { planView } from '../game/planView';
import type { Session } from '../game/session';
import { whyThere } from '../game/whyThere';
import { ledgerView } from '../ledger/view';
import { beyondKeys } from '../settings/beyondKeys';
import { proposalViews } from '../settings/askedSettings';
import { switchViews } from '../settings/switches';
import { keptView } from '../setup/view';
import { settingsViews } from '../settings/view';
import { stackView } from '../stack/view';
import { bridgedView } from './closedGame';
import { guideFacts } from './guideFacts';

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
  const covered = packs.filter(
    ({ on, deployed: there, placement, overlaps }) =>
      deployed.packs > 0 && on && there === 0 && placement.placed > 0 && overlaps.loses >= placement.placed,
  ).length;
  const more = await beyondKeys(session, packs);
  const check = await checkView(session, packs, more);
  const proposals = await proposalViews(session);
  return {
    id: game.id,
    title: game.card.title,
    demo: game.kind === 'demo',
    bridged: bridgedView(game),
    roots: game.card.roots.map(({ id, title }) => ({
      id,
      title,
      files: picture.index.filesByRoot.get(id) ?? 0,
      where: game.given[id]?.path ?? game.handles[id]?.name ?? 'kept in this browser',
      why: whyThere(session, id),
    })),
    packs,
    guide: guide(guideFacts(session, { switches, check, deployedPacks: deployed.packs, more, proposals })),
    deployed: { ...deployed, covered },
    switches,
    check,
    plan: planView(session, picture.plan),
    putBack: planView(session, picture.putBack),
    settings: settingsViews(session),
    beyondKeys: more,
    proposals,
    stack: stackView(session),
    ...(await ledgerView(session)),
    own: session.ownLayer().files,
    ...keptView(session),
    history: {
      undo: session.history.past.at(-1)?.says,
      redo: session.history.future.at(-1)?.says,
      steps: session.history.past.length,
    },
  };
}
