'use client';

import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { oneOr, count, many, moment, place, size } from '@/ui/shared/format';
import type { GameView } from '@/worker/contract';

type Decision = 'take as mine' | 'take as original';

/** One file that somebody else changed: whose it is from now on. */
function Drifted({
  one,
  onDecide,
}: {
  one: GameView['plan']['drifted']['some'][number];
  onDecide(what: Decision): void;
}) {
  const { busy } = useEngine();
  const { roots } = useGame();
  const { target, how, now, deployed, name } = one;
  return (
    <li className="row-of flex-nowrap">
      <span className="path grow" style={{ overflowWrap: 'anywhere' }}>
        {place(target, roots)}
      </span>
      <span className="small quiet flex-shrink-0">
        {how === 'deleted' || !now
          ? `deleted; “${name}” had brought it`
          : `${size(deployed.size)} from “${name}”, now ${size(now.size)} of ${moment(now.modified)}`}
      </span>
      {how === 'changed' && (
        <Button
          size="sm"
          variant="outline-secondary"
          className="flex-shrink-0"
          disabled={busy}
          onClick={() => onDecide('take as mine')}
        >
          Keep as mine
        </Button>
      )}
      <Button
        size="sm"
        variant="outline-secondary"
        className="flex-shrink-0"
        disabled={busy}
        onClick={() => onDecide('take as original')}
      >
        New original
      </Button>
    </li>
  );
}

/** Deployed files that somebody else changed since, and what to do about each. */
export function DriftPanel() {
  const { act, busy } = useEngine();
  const { plan, title } = useGame();
  const { total, some, effects } = plan.drifted;
  const decide = (what: Decision, targets: string[]) => void act((engine) => engine.change({ do: what, targets }));
  const all = some.map(({ target }) => target);
  const changed = some.filter(({ how }) => how === 'changed');
  return (
    <section className="sheet stackup" aria-label="Changed by others">
      <div>
        <h2>{many(total, 'deployed file was', 'deployed files were')} changed or deleted by another program since</h2>
        <p className="m-0 quiet">
          If you do nothing, deploying writes the packs’ files again; what is there now is kept in the app first. Was{' '}
          {title} updated, or did you change something yourself?
        </p>
      </div>
      <div className="row-of">
        <Button size="sm" variant="outline-primary" disabled={busy} onClick={() => decide('take as original', all)}>
          {title} was updated: take {oneOr(all.length, 'it', `all ${count(all.length)}`)} as new originals
        </Button>
        {changed.length > 0 && (
          <Button
            size="sm"
            variant="outline-secondary"
            disabled={busy}
            onClick={() =>
              decide(
                'take as mine',
                changed.map(({ target }) => target),
              )
            }
          >
            I changed {oneOr(changed.length, 'it', `these ${count(changed.length)}`)}: keep my versions
          </Button>
        )}
      </div>
      {effects.length > 0 && (
        <ul className="small m-0 ps-3" aria-label="What an update would mean">
          {effects.map((effect) => (
            <li key={effect}>{effect}</li>
          ))}
        </ul>
      )}
      <ul className="list-unstyled m-0 stackup drift" style={{ gap: '0.3rem' }}>
        {some.slice(0, 50).map((one) => (
          <Drifted key={one.target} one={one} onDecide={(what) => decide(what, [one.target])} />
        ))}
      </ul>
      {total > 50 && <p className="small quiet m-0">and {count(total - 50)} more</p>}
    </section>
  );
}
