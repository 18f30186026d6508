'use client';

import { useState } from 'react';
import { useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { NothingYet } from '@/ui/shared/NothingYet';
import { Search } from '@/ui/shared/Search';
import { useEscape } from '@/ui/shared/useEscape';
import { count, many, place } from '@/ui/shared/format';
import { useAddress } from '@/ui/shared/useAddress';
import { CombinePacks } from './CombinePacks';
import { FileSheet } from './FileSheet';
import { MarkedPacks } from './MarkedPacks';
import { MergeSheet } from './MergeSheet';
import { OverlapPicture } from './OverlapPicture';
import { PackRelations } from './PackRelations';
import { Rules } from './Rules';
import { Slabs } from './Slabs';
import { fromAddress, toAddress, type StackView } from './stackView';

/** Of so few packs none need be looked for. */
const FEW = 5;

/** The layers as they lie, and beside them what overlaps and how that is decided. */
export function Stack() {
  const game = useGame();
  const { at, open } = useAddress();
  const view = fromAddress(at);
  const show = (next: StackView) => open(toAddress(next));
  const [search, setSearch] = useState('');
  const [marked, setMarked] = useState<string[]>();
  const [openFolders, setOpenFolders] = useState<string[]>();
  const { order, picks, overlapping, changed } = game.stack;
  // What was shown may have been taken away meanwhile.
  const gone =
    (view.kind === 'pack' && !game.packs.some(({ layer }) => layer === view.layer)) ||
    (view.kind === 'merge' && !game.stack.merges.some(({ id }) => id === view.id));
  const shown: StackView = gone ? { kind: 'picture' } : view;
  const toPicture = () => show({ kind: 'picture' });
  useEscape(shown.kind === 'picture' ? undefined : toPicture);
  if (game.packs.length === 0) return <NothingYet what="Nothing lies over the game’s own files yet." />;
  return (
    <div className="columns stack-columns fill">
      <div className="stackup stack-order">
        <div>
          <h1>What lies over what</h1>
          <p className="quiet small m-0">
            Where two packs bring the same file, the higher one is used. Drag a pack, or use its arrows.
          </p>
        </div>
        {(game.packs.length > FEW || search !== '') && (
          <Search label="Find a pack by name or notes" value={search} onChange={setSearch} />
        )}
        {marked && <MarkedPacks marked={marked} onMark={setMarked} onDone={() => setMarked(undefined)} />}
        {!marked && game.packs.length > 1 && (
          <Button size="sm" variant="link" className="p-0 align-self-start" onClick={() => setMarked([])}>
            Mark several packs…
          </Button>
        )}
        <Slabs show={show} shown={shown} search={search} marked={marked} onMark={setMarked} />
      </div>
      <section className="stackup fill" aria-label="What overlaps">
        <div className="between">
          <div className="row-of" role="group" aria-label="Show">
            <Button
              size="sm"
              variant={shown.kind === 'picture' ? 'primary' : 'outline-secondary'}
              aria-pressed={shown.kind === 'picture'}
              onClick={toPicture}
            >
              Overlaps {overlapping > 0 && `(${count(overlapping)})`}
            </Button>
            <Button
              size="sm"
              variant={shown.kind === 'rules' ? 'primary' : 'outline-secondary'}
              aria-pressed={shown.kind === 'rules'}
              onClick={() => show({ kind: 'rules' })}
            >
              Rules {order.length + picks.length > 0 && `(${order.length + picks.length})`}
            </Button>
            <Button
              size="sm"
              variant={shown.kind === 'combine' ? 'primary' : 'outline-secondary'}
              aria-pressed={shown.kind === 'combine'}
              disabled={game.packs.length < 2}
              onClick={() => show({ kind: 'combine' })}
            >
              Merge packs…
            </Button>
          </div>
          {changed.total > 0 && (
            <details className="small quiet changed">
              <summary>The last change decided {many(changed.total, 'file')} anew.</summary>
              <ul className="sheet reasons">
                {changed.some.slice(0, 100).map(({ target, from, to }) => (
                  <li key={target}>
                    <button type="button" className="plain path link" onClick={() => show({ kind: 'file', target })}>
                      {place(target, game.roots)}
                    </button>
                    : {from ?? 'the game’s own'} → {to ?? 'the game’s own'}
                  </li>
                ))}
                {changed.total > 100 && <li>and {count(changed.total - 100)} more</li>}
              </ul>
            </details>
          )}
        </div>
        {shown.kind === 'picture' && <OverlapPicture show={show} open={openFolders} setOpen={setOpenFolders} />}
        {shown.kind === 'file' && <FileSheet key={shown.target} target={shown.target} show={show} />}
        {shown.kind === 'pack' && <PackRelations key={shown.layer} layer={shown.layer} show={show} />}
        {shown.kind === 'merge' && <MergeSheet key={shown.id} id={shown.id} show={show} />}
        {shown.kind === 'combine' && <CombinePacks onDone={toPicture} />}
        {shown.kind === 'rules' && <Rules />}
      </section>
    </div>
  );
}
