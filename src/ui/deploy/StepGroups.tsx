'use client';

import { useEffect, useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { count, many, place } from '@/ui/shared/format';
import { Tag } from '@/ui/shared/Tag';
import type { StepGroupView } from '@/worker/contract';
import { ACTION_WORDS } from './actionWords';

/** Packs that are told of at once. */
const FEW = 20;

/** What the plan will do, or a deployment did: by pack and folder, each thing said once. */
export function StepGroups({ label, number }: { label: string; number?: number }) {
  const { engine, snapshot } = useEngine();
  const { roots } = useGame();
  const [groups, setGroups] = useState<StepGroupView[]>();
  const [all, setAll] = useState(false);
  const revision = snapshot?.revision;
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'step groups', number }).then(
      (found) => current && setGroups(found),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [engine, number, revision]);
  if (!groups) return null;
  return (
    <ul className="list-unstyled m-0 stackup" aria-label={label} style={{ gap: '0.5rem' }}>
      {(all ? groups : groups.slice(0, FEW)).map(({ layer, name, tag, files, sums, more }) => (
        <li key={layer} className="sheet">
          <div className="row-of mb-1">
            {tag && <Tag tag={tag} />}
            <strong>{name}</strong>
            <span className="small quiet">{many(files, 'file')}</span>
          </div>
          <ul className="list-unstyled m-0 group-sums">
            {sums.map((sum) => (
              <li key={`${sum.action} ${sum.at} ${sum.reason ?? ''}`}>
                <span className={`verb verb-${sum.action}`}>
                  {ACTION_WORDS[sum.action].verb} {sum.files > 1 && count(sum.files)}
                </span>
                <span className="path">
                  {sum.files > 1 ? 'in ' : ''}
                  {place(sum.at, roots)}
                </span>
                {sum.reason !== undefined && <span className="small quiet">{sum.reason}</span>}
              </li>
            ))}
            {more > 0 && <li className="small quiet">and {many(more, 'more line')}, file by file</li>}
          </ul>
        </li>
      ))}
      {!all && groups.length > FEW && (
        <li>
          <button type="button" className="plain link" onClick={() => setAll(true)}>
            Show all {count(groups.length)} packs
          </button>
        </li>
      )}
    </ul>
  );
}
