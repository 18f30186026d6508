'use client';

import { useState } from 'react';
import { openSteps } from '@/core';
import { useChosenPack, useGame } from '@/ui/engine';
import { count, many } from './format';
import { packsMeant } from './packSearch';
import { Search } from './Search';
import { Tag } from './Tag';

/** So many packs stand side by side without a search. */
const FEW = 12;

/** The packs as tags; the chosen one is looked at. */
export function PackPicker() {
  const { packs } = useGame();
  const { pack, choose } = useChosenPack();
  const [search, setSearch] = useState('');
  const fits = packsMeant(packs, search);
  // The one that is looked at is always among them, and the latest come first where not all can be shown.
  const shown =
    fits.length <= FEW ? fits : [...new Set([...fits.filter((one) => one === pack), ...fits.slice(-FEW).reverse()])];
  return (
    <div className="picks" role="group" aria-label="Packs">
      {packs.length > FEW && <Search label="Find a pack" value={search} onChange={setSearch} />}
      {shown.map((one) => (
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
      {fits.length > shown.length && <span className="small quiet">and {count(fits.length - shown.length)} more</span>}
      {fits.length === 0 && <span className="small quiet">No pack is called so.</span>}
    </div>
  );
}

/** Steps of its read-me that still wait for the player. */
function Open({ steps }: { steps: number }) {
  return steps === 0 ? null : <span className="small quiet">{many(steps, 'open step')}</span>;
}
