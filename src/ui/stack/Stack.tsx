'use client';

import { useState } from 'react';
import { useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { NothingYet } from '@/ui/shared/NothingYet';
import { Search } from '@/ui/shared/Search';
import { useEscape } from '@/ui/shared/useEscape';
import { count, many, place } from '@/ui/shared/format';
import { useAddress } from '@/ui/shared/useAddress';
import type { GameView } from '@/worker/contract';
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

/** What was shown may have been taken away meanwhile. */
function stillThere(view: StackView, { packs, stack }: GameView): StackView {
  const gone =
    (view.kind === 'pack' && !packs.some(({ layer }) => layer === view.layer)) ||
    (view.kind === 'merge' && !stack.merges.some(({ id }) => id === view.id));
  return gone ? { kind: 'picture' } : view;
}

type Showing = { shown: StackView; show(view: StackView): void };

/** What can stand beside the stack. */
function Tabs({ shown, show }: Showing) {
  const { packs, stack } = useGame();
  const { order, picks, overlapping } = stack;
  const tab = (kind: 'picture' | 'rules' | 'combine', says: string, disabled = false) => (
    <Button
      size="sm"
      variant={shown.kind === kind ? 'primary' : 'outline-secondary'}
      aria-pressed={shown.kind === kind}
      disabled={disabled}
      onClick={() => show({ kind })}
    >
      {says}
    </Button>
  );
  const rules = order.length + picks.length;
  return (
    <div className="row-of" role="group" aria-label="Show">
      {tab('picture', overlapping > 0 ? `Overlaps (${count(overlapping)})` : 'Overlaps')}
      {tab('rules', rules > 0 ? `Rules (${rules})` : 'Rules')}
      {tab('combine', 'Merge packs…', packs.length < 2)}
    </div>
  );
}

/** Files that the last change gave to another pack. */
function Changed({ show }: Pick<Showing, 'show'>) {
  const game = useGame();
  const { changed } = game.stack;
  if (changed.total === 0) return null;
  return (
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
  );
}

/** What stands beside the stack. */
function Beside({ shown, show }: Showing) {
  const [openFolders, setOpenFolders] = useState<string[]>();
  switch (shown.kind) {
    case 'picture':
      return <OverlapPicture show={show} open={openFolders} setOpen={setOpenFolders} />;
    case 'file':
      return <FileSheet key={shown.target} target={shown.target} show={show} />;
    case 'pack':
      return <PackRelations key={shown.layer} layer={shown.layer} show={show} />;
    case 'merge':
      return <MergeSheet key={shown.id} id={shown.id} show={show} />;
    case 'combine':
      return <CombinePacks onDone={() => show({ kind: 'picture' })} />;
    case 'rules':
      return <Rules />;
  }
}

/** The layers as they lie, and beside them what overlaps and how that is decided. */
export function Stack() {
  const game = useGame();
  const { at, open } = useAddress();
  const view = fromAddress(at);
  const show = (next: StackView) => open(toAddress(next));
  const [search, setSearch] = useState('');
  const [marked, setMarked] = useState<string[]>();
  const shown = stillThere(view, game);
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
          <Tabs shown={shown} show={show} />
          <Changed show={show} />
        </div>
        <Beside shown={shown} show={show} />
      </section>
    </div>
  );
}
