'use client';

import { useGame } from '@/ui/engine';
import { Path } from '@/ui/shared/Path';
import { place, size } from '@/ui/shared/format';
import { PagedRows } from '@/ui/shared/PagedRows';
import { Tag } from '@/ui/shared/Tag';
import type { RowsQuery, StepRow } from '@/worker/contract';
import { ACTION_WORDS } from './actionWords';

/** Steps of a plan, or of a deployment that was. */
export function StepRows({ label, query }: { label: string; query: RowsQuery }) {
  const { roots } = useGame();
  return (
    <PagedRows<StepRow>
      label={label}
      empty="No step fits this."
      query={query}
      columns="5.5rem 3rem minmax(0, 5fr) minmax(0, 5fr) 5rem"
      heads={['Step', 'Pack', 'File', 'Why', 'Size']}
      cells={(row) => (
        <>
          <span role="cell" className={`verb verb-${row.action}`}>
            {ACTION_WORDS[row.action].verb}
          </span>
          <span role="cell">{row.tag && <Tag tag={row.tag} />}</span>
          <span role="cell" className="cut">
            <Path text={place(row.target, roots)} />
          </span>
          <span role="cell" className="small quiet cut" title={row.reason}>
            {row.reason}
          </span>
          <span role="cell" className="small">
            {row.size > 0 ? size(row.size) : ''}
          </span>
        </>
      )}
    />
  );
}
