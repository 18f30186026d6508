import { asThings, type GuideFacts } from '@/core';
import type { CheckView, ProposalView, BeyondKeys, SwitchView } from '../contract';
import type { Session } from '../game/session';
import { overlapping } from '../stack/view';

/** What is shown of the steps, as far as the guide goes by it. */
interface Shown {
  switches: readonly SwitchView[];
  check: CheckView;
  deployedPacks: number;
  more: BeyondKeys;
  proposals: readonly ProposalView[];
}

export function guideFacts(session: Session, { switches, check, deployedPacks, more, proposals }: Shown): GuideFacts {
  const { picture } = session;
  const waiting = proposals.filter(({ set }) => !set);
  const healthy =
    check.fresh &&
    !check.silent &&
    check.findings.every((finding) => finding.level !== 'wrong' || finding.weight === 'light');
  return {
    packs: session.packLayers().length,
    shelf: session.game.kind === 'demo',
    unplaced: session.packLayers().filter((layer) => layer.on && layer.confidence === 'ask').length,
    overlaps: overlapping(session),
    undecided: picture.merges.reduce(
      (sum, { outcome }) =>
        sum + (outcome.ok ? outcome.merge.conflicts.filter(({ taken }) => taken === undefined).length : 0),
      0,
    ),
    switchesOff: switches.filter((one) => !one.on && !one.pending && one.neededBy > 0).length,
    unlisted: more.needs.length,
    asked: session.game.card.switches.length === 0 ? asThings(waiting).length + more.asks.length : 0,
    askedOff: session.game.card.switches.length === 0 ? waiting.filter((one) => one.flag).length : 0,
    lostEdits: more.lost.filter(({ fate }) => fate === 'dropped').length,
    changes: picture.plan.steps.length,
    deployedPacks,
    putBack: picture.ledger[0]?.layers.length === 0,
    checked: !check.fresh && !check.silent ? 'not yet' : healthy ? 'all well' : 'something wrong',
    trial: check.canTry,
  };
}
