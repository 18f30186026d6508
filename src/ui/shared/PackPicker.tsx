'use client';

import { openSteps } from '@/core';
import { useChosenPack, useGame } from '@/ui/engine';
import { many } from './format';
import { Tag } from './Tag';

/** The packs as tags; the chosen one is looked at. */
export function PackPicker() {
  const { packs } = useGame();
  const { pack, choose } = useChosenPack();
  return (
    <div className="picks" role="group" aria-label="Packs">
      {packs.map((one) => (
        <button
          type="button"
          className="pick"
          key={one.layer}
          aria-pressed={one.layer === pack?.layer}
          onClick={() => choose(one.layer)}
        >
          <Tag tag={one.tag} />
          {one.name}
          <Open steps={openSteps(one.steps)} />
        </button>
      ))}
    </div>
  );
}

/** Steps of its read-me that still wait for the player. */
function Open({ steps }: { steps: number }) {
  return steps === 0 ? null : <span className="small quiet">{many(steps, 'open step')}</span>;
}
