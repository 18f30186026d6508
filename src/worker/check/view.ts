import { compareRuns, countedFiles, diagnose, foldByCause, knownFindings, loadedFiles, traceMessages } from '@/core';
import type { CheckView, PackView, BeyondKeys } from '../contract';
import type { Session } from '../game/session';
import { lastStart, logView, rulesOf, traceInput } from './after';
import { apartView } from './apartView';
import { beforeStart } from './beforeStart';
import { foughtOver, replacedFiles, shortOfRoom } from './facts';

/** Whether the log is from after the latest deployment, and whether the game ended without writing one. */
function whenTried({ picture, game, stack }: Session): { fresh: boolean; silent: boolean } {
  const [latest] = picture.ledger;
  const tried = stack.triedAfter === (latest?.number ?? 0);
  const isTrial = game.card.trial !== undefined;
  const { log } = picture;
  // A real game is started by the player: its log counts where it is from after the latest deployment.
  const fresh = log !== undefined && (isTrial ? tried : log.modified >= (latest?.at ?? 0));
  return { fresh, silent: isTrial && tried && log === undefined };
}

/** Everything the check page shows. */
export async function checkView(session: Session, packs: readonly PackView[], more: BeyondKeys): Promise<CheckView> {
  const { picture, game, stack } = session;
  const { fresh, silent } = whenTried(session);
  const reading = fresh ? lastStart(picture) : undefined;
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
