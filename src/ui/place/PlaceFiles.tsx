'use client';

import { useEffect, useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Form } from '@/ui/shared/controls';
import { count, many } from '@/ui/shared/format';
import { Path } from '@/ui/shared/Path';
import { PagedRows } from '@/ui/shared/PagedRows';
import { TreeName } from '@/ui/shared/TreeName';
import { useOpenFolders } from '@/ui/shared/useOpenFolders';
import type { PackView, PlaceRow } from '@/worker/contract';

const EFFECTS = {
  replaces: <span className="verb verb-replace">in place of the game’s</span>,
  new: <span className="verb verb-add">new</span>,
  inside: <span className="verb verb-replace">into the archive</span>,
  edits: <span className="verb verb-edit">its values are edited in</span>,
};

/** Folders that are open at first: those where more happens than that new files come. */
function useFirstPlaced({ layer, firstFolders }: PackView): readonly string[] {
  const { engine } = useEngine();
  const [first, setFirst] = useState<{ layer: string; folders: string[] }>();
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'first placed', layer }).then(
      (folders) => current && setFirst({ layer, folders }),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [engine, layer]);
  return first?.layer === layer ? first.folders : firstFolders;
}

/** Every file with its target; files and folders are left out and taken in here. */
export function PlaceFiles({ pack, search, show }: { pack: PackView; search: string; show(target: string): string }) {
  const { act, busy } = useEngine();
  const { open, toggle } = useOpenFolders(pack.layer, useFirstPlaced(pack));
  return (
    <PagedRows<PlaceRow>
      label="Where each file goes"
      empty="No file has this in its path."
      query={{ view: 'place', layer: pack.layer, open, search }}
      columns="2.2rem minmax(0, 5fr) minmax(0, 6fr) 11rem"
      heads={['In', 'In the pack', 'Goes to', 'Effect']}
      cells={(row) => {
        const all = row.kind === 'file' ? row.placed === 1 : row.placed === row.files;
        return (
          <>
            <span role="cell">
              <Form.Check
                aria-label={`Put in ${row.path}`}
                checked={row.placed > 0}
                ref={(box: HTMLInputElement | null) => {
                  if (box) box.indeterminate = row.placed > 0 && !all;
                }}
                disabled={busy}
                onChange={() =>
                  void act((engine) =>
                    engine.change({ do: 'take file', layer: pack.layer, path: row.path, takeIn: !all }),
                  )
                }
              />
            </span>
            <TreeName row={row} onToggle={toggle} />
            <span
              role="cell"
              className={`cut ${row.goesTo ? '' : 'quiet small'}`}
              title={row.goesTo ? undefined : row.leftOut}
            >
              {row.goesTo ? <Path text={show(row.goesTo)} /> : row.leftOut}
            </span>
            <span role="cell" className="small">
              {row.effect && EFFECTS[row.effect]}
              {row.kind === 'folder' && row.placed > 0 && (
                <span className="quiet">
                  {row.placed === row.files
                    ? many(row.files, 'file')
                    : `${count(row.placed)} of ${many(row.files, 'file')}`}
                </span>
              )}
            </span>
          </>
        );
      }}
    />
  );
}
