import { SatchelError, checkPath, moveTo, nameKey, placeFiles, target, type TargetPath } from '@/core';
import { proposeWith } from '../game/placing';
import type { Session } from '../game/session';
import { placementAt, proposalFor } from '../game/packProposal';

export async function answerQuestion(session: Session, id: string, question: string, answer: string[]): Promise<void> {
  const { decisions } = session.layer(id).placement;
  await proposeWith(session, id, { ...decisions, answers: { ...decisions.answers, [question]: answer } });
}

/** Puts one folder or file of a pack elsewhere, or back where the app had placed it. */
export async function moveByHand(session: Session, id: string, from: string, to: string | undefined): Promise<void> {
  const goal = to === undefined ? undefined : checkedTarget(session, to);
  const { packId, placement } = session.layer(id);
  const { questions } = await proposalFor(session, packId, placement.decisions.answers);
  // Moving one folder answers "where", not the other questions that are still open.
  const settled = goal !== undefined && !questions.some(({ open }) => open);
  await session.replaceLayer(id, (layer) => ({
    ...layer,
    confidence: layer.confidence === 'ask' && settled ? 'chosen' : layer.confidence,
    placement: moveTo(layer.placement, from, goal),
  }));
}

/** Places a pack as a whole where the player says. */
export async function placeAt(session: Session, id: string, strip: string, base: string): Promise<void> {
  const to = checkedTarget(session, base);
  const { packId, placement: before } = session.layer(id);
  const choice = (await proposalFor(session, packId, before.decisions.answers)).choices.find(
    (one) => one.strip === strip && one.base === base,
  );
  const placement = await placementAt(session, packId, strip, to);
  const { pack } = await session.openPack(packId);
  const placed = { ...placement, decisions: { ...before.decisions, moves: [] } };
  await session.replaceLayer(id, (layer) => ({
    ...layer,
    confidence: 'chosen',
    placement: placed,
    parts: [
      {
        mode: 'chosen',
        from: strip,
        to,
        files: placeFiles(pack.entries, placed).length,
        reason: choice?.reason ?? 'You chose this place.',
      },
    ],
  }));
}

/** A folder of the game as the player wrote it. @throws SatchelError `bad-target` */
function checkedTarget(session: Session, written: string): TargetPath {
  const plain = written.trim().replaceAll('\\', '/').replace(/\/+$/, '');
  // As it is shown, or as cards write it.
  const called = session.game.card.roots.find(
    ({ title }) => nameKey(plain) === nameKey(title) || nameKey(plain).startsWith(`${nameKey(title)}/`),
  );
  const [root = '', ...rest] = (called ? called.id + plain.slice(called.title.length) : plain).split('/');
  const checked = rest.length === 0 ? { ok: true as const } : checkPath(rest.join('/'));
  if (!checked.ok || !(root in session.workshop.folders))
    throw new SatchelError('bad-target', {
      path: written,
      why: checked.ok ? 'it must begin with one of the game’s folders' : checked.problem,
    });
  return target(root, rest.join('/'));
}
