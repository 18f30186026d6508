import { compareRuns, countedFiles, diagnose, foldByCause, knownFindings, loadedFiles, traceMessages } from '@/core';
import type { CheckView, PackView, BeyondKeys } from '../contract';
import type { Session } from '../game/session';
import { lastStart, logView, rulesOf, traceInput } from './after';
import { apartView } from './apartView';
import { beforeStart } from './beforeStart';
import { foughtOver, replacedFiles, shortOfRoom } from './facts';

/** Everything the check page shows. */
export async function checkView(session: Session, packs: readonly PackView[], more: BeyondKeys): Promise<CheckView> {
  const { picture, game, stack } = session;
  const tried = stack.triedAfter === (picture.ledger[0]?.number ?? 0);
  // A real game is started by the player: its log counts where it is from after the latest deployment.
  const fresh =
    picture.log !== undefined &&
    (game.card.trial === undefined ? picture.log.modified >= (picture.ledger[0]?.at ?? 0) : tried);
  const reading = fresh ? lastStart(picture) : undefined;
  const silent = game.card.trial !== undefined && tried && picture.log === undefined;
  const known = await beforeStart(session);
  const traced = reading ? traceMessages(reading.messages, await traceInput(session, rulesOf(session))) : [];
  const facts = {
    unlisted: more.needs,
    lost: more.lost,
    advice: more.memory.advice,
    fought: foughtOver(session),
    short: await shortOfRoom(session),
    drifted: picture.plan.drifted.length,
    packs: packs
      .filter(({ on }) => on)
      .map(({ layer, name, placement }) => ({ layer, name, warnings: placement.warnings })),
  };
  const all = diagnose({
    card: game.card,
    state: picture.state,
    switches: picture.switches,
    log: reading,
    pending: picture.plan.steps.length,
    silent,
    found: [...traced, ...known, ...knownFindings(facts, known, game.card)],
  });
  const asideIds = new Set(stack.aside.map(({ id }) => id));
  const [last, earlier] = [stack.runs.at(-1), stack.runs.at(-2)];
  return {
    canTry: game.card.trial !== undefined,
    findings: foldByCause(all.filter(({ id }) => !asideIds.has(id))),
    aside: stack.aside.filter(({ id }) => all.some((finding) => finding.id === id)),
    counted: countedFiles(game.card, picture.state),
    loaded: loadedFiles(game.card, reading),
    fresh,
    silent,
    log: picture.log && logView(game.card.log?.target ?? '', picture.log.reading, picture.log.text, picture.log.since),
    runs: stack.runs,
    replaced: replacedFiles(session),
    changes: last && earlier ? compareRuns(earlier, last) : [],
    apart: apartView(session),
  };
}
