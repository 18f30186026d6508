'use client';

import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { place } from '@/ui/shared/format';

/** Who lies above whom, whatever is moved. */
function OrderRules() {
  const { stack } = useGame();
  const { act, busy } = useEngine();
  return (
    <>
      <h2>Order that always holds</h2>
      <ul className="reasons">
        {stack.order.map(({ lower, upper, lowerName, upperName, why }) => (
          <li className="between" key={`${lower} ${upper}`}>
            <span>
              <strong>{upperName}</strong> lies above <strong>{lowerName}</strong>
              {why && <span className="small quiet d-block">{why}</span>}
            </span>
            <Button
              size="sm"
              variant="outline-secondary"
              disabled={busy}
              aria-label={`Take away the rule that ${upperName} lies above ${lowerName}`}
              onClick={() => void act((engine) => engine.change({ do: 'drop rule', lower, upper }))}
            >
              Take away
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** Everything that was decided against the plain order, each to be taken back. */
export function Rules() {
  const { stack, roots } = useGame();
  const { act, busy } = useEngine();
  if (stack.order.length + stack.picks.length === 0)
    return (
      <p className="sheet quiet">
        The order of the stack decides everything. Choose a pack on the left to say that it always lies above another
        one, or a file in the picture to let another pack win it.
      </p>
    );
  return (
    <section className="sheet stackup" aria-label="Rules">
      {stack.order.length > 0 && <OrderRules />}
      {stack.picks.length > 0 && (
        <>
          <h2>Who wins, whatever the order</h2>
          <ul className="reasons">
            {stack.picks.map(({ scope, at, name }) => (
              <li className="between" key={`${scope} ${at}`}>
                <span>
                  <strong>{name}</strong> wins{' '}
                  {scope === 'kind' ? `every ${at}` : scope === 'folder' ? 'everything in ' : ''}
                  {scope !== 'kind' && <span className="path">{place(at, roots)}</span>}
                </span>
                <Button
                  size="sm"
                  variant="outline-secondary"
                  disabled={busy}
                  aria-label={`Let the order decide about ${at}`}
                  onClick={() => void act((engine) => engine.change({ do: 'pick', scope, at, layer: undefined }))}
                >
                  Let the order decide
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
