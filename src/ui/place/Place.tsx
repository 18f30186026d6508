'use client';

import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useChosenPack, useEngine, useGame } from '@/ui/engine';
import { count, many, place } from '@/ui/shared/format';
import { NothingYet } from '@/ui/shared/NothingYet';
import { Notice } from '@/ui/shared/Notice';
import { PackPicker } from '@/ui/shared/PackPicker';
import { PagedRows } from '@/ui/shared/PagedRows';
import { Tag } from '@/ui/shared/Tag';
import { TreeName } from '@/ui/shared/TreeName';
import { useOpenFolders } from '@/ui/shared/useOpenFolders';
import { useMainAction } from '@/ui/shell/Strap';
import type { PackView, PlaceRow } from '@/worker/api';
import { BaseForm } from './BaseForm';

/** Where each file of a pack goes, and why. */
export function Place() {
  const { pack } = useChosenPack();
  if (!pack) return <NothingYet what="There is no pack to place yet." />;
  return (
    <>
      <PackPicker />
      <Placement pack={pack} key={pack.layer} />
    </>
  );
}

function Placement({ pack }: { pack: PackView }) {
  const { act, busy } = useEngine();
  const { roots, guide } = useGame();
  const { placement } = pack;
  const unsure = placement.confidence === 'ask';
  const [changing, setChanging] = useState(false);
  const [search, setSearch] = useState('');
  const { open, toggle } = useOpenFolders(pack.layer, pack.firstFolders);
  const setBase = async (strip: string, base: string) => {
    await act((engine) => engine.setBase(pack.layer, strip, base));
    setChanging(false);
  };
  useMainAction(guide.step === 'place' && unsure ? 'Use the first place' : undefined, () => {
    const [first] = placement.choices;
    if (first) void setBase(first.strip, first.base);
  });
  const show = (target: string) => place(target, roots);

  return (
    <>
      <section className="sheet stackup">
        <div className="row-of">
          <Tag tag={pack.tag} />
          <h1>
            {unsure ? 'Where does it belong?' : (
              <>
                Goes into <span className="path">{show(placement.base)}</span>
              </>
            )}
          </h1>
          {!unsure && (
            <Button variant="outline-primary" size="sm" className="ms-auto" aria-expanded={changing} onClick={() => setChanging(!changing)}>
              Change the place
            </Button>
          )}
        </div>
        <p className="m-0">
          <strong>{unsure ? 'The app is not sure. ' : placement.confidence === 'chosen' ? 'Your choice. ' : placement.confidence === 'sure' ? 'Sure: ' : 'Likely: '}</strong>
          {placement.reason}
          {placement.strip !== '' && (
            <>
              {' '}
              The wrapper <span className="path">{placement.strip}/</span> is taken off.
            </>
          )}
        </p>
        {!unsure && (
          <div className="figures">
            <div>
              <b>{count(placement.placed)}</b>
              <span>go into the game</span>
            </div>
            <div>
              <b>{count(placement.fresh)}</b>
              <span>new to the game</span>
            </div>
            <div>
              <b>{count(placement.replacing)}</b>
              <span>in place of its own</span>
            </div>
            <div>
              <b>{count(placement.leftOut)}</b>
              <span>left out</span>
            </div>
          </div>
        )}
        {(changing || unsure) && <BaseForm pack={pack} show={show} onChoose={(strip, base) => void setBase(strip, base)} />}
      </section>
      {placement.placed === 0 && !unsure && (
        <Notice level="wrong" title="Not one file of this pack goes into the game this way.">
          <p>Choose another place, or take files in below.</p>
        </Notice>
      )}
      <div className="between">
        <h2>File by file</h2>
        <span className="quiet small grow">Untick what should stay out. Folders open with a click.</span>
        <Form.Control size="sm" type="search" placeholder="Search in this pack" aria-label="Search in this pack" style={{ maxWidth: '18rem' }} value={search} onChange={(event) => setSearch(event.target.value)} />
      </div>
      <div className="fill">
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
                    onChange={() => void act((engine) => engine.decide(pack.layer, row.path, !all))}
                  />
                </span>
                <TreeName row={row} onToggle={toggle} />
                <span role="cell" className={`cut ${row.goesTo ? 'path' : 'quiet small'}`} title={row.goesTo ? show(row.goesTo) : row.leftOut}>
                  {row.goesTo ? show(row.goesTo) : row.leftOut}
                </span>
                <span role="cell" className="small">
                  {row.effect === 'replaces' && <span className="verb verb-replace">in place of the game’s</span>}
                  {row.effect === 'new' && <span className="verb verb-add">new</span>}
                  {row.kind === 'folder' && row.placed > 0 && <span className="quiet">{row.placed === row.files ? many(row.files, 'file') : `${count(row.placed)} of ${many(row.files, 'file')}`}</span>}
                </span>
              </>
            );
          }}
        />
      </div>
    </>
  );
}
