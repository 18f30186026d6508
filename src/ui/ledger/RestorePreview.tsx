'use client';

import { useEffect, useState } from 'react';
import { PlanFigures } from '@/ui/deploy/PlanFigures';
import { StepRows } from '@/ui/deploy/StepRows';
import { useEscape } from '@/ui/shared/useEscape';
import { useEngine } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { many } from '@/ui/shared/format';
import type { RestoreScope } from '@/core';
import type { PlanView } from '@/worker/contract';

/** What putting a part back would do, and doing it. */
export function RestorePreview({ scope, onClose }: { scope: RestoreScope; onClose(): void }) {
  useEscape(onClose);
  const { act, busy, snapshot } = useEngine();
  const [plan, setPlan] = useState<PlanView>();
  const revision = snapshot?.revision;
  const key = JSON.stringify(scope);
  useEffect(() => {
    let current = true;
    void act((engine) => engine.ask({ ask: 'preview restore', scope: JSON.parse(key) as RestoreScope })).then(
      (found) => current && setPlan(found),
    );
    return () => {
      current = false;
    };
  }, [act, key, revision]);
  if (!plan) return null;
  return (
    <>
      <PlanFigures plan={plan} />
      {plan.total > 0 && (
        <div style={{ height: '12rem' }}>
          <StepRows label="What putting it back does" query={{ view: 'restore', scope, search: '' }} />
        </div>
      )}
      <div className="row-of">
        {plan.total > 0 ? (
          <Button
            size="sm"
            variant="danger"
            disabled={busy}
            onClick={() => void act((engine) => engine.change({ do: 'restore', scope }))}
          >
            Put back {many(plan.total, 'file')}
          </Button>
        ) : (
          <span className="quiet">Nothing of it is in the game’s folders.</span>
        )}
        <Button size="sm" variant="outline-secondary" onClick={onClose}>
          Leave it as it is
        </Button>
      </div>
    </>
  );
}
