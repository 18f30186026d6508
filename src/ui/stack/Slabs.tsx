'use client';

import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { ChevronDown, ChevronRight, Combine } from 'lucide-react';
import { useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { oneOr, many, place } from '@/ui/shared/format';
import { packsMeant } from '@/ui/shared/packSearch';
import type { MergeView, PackView } from '@/worker/contract';
import { Slab } from './Slab';
import type { StackView } from './stackView';

interface SlabsProps {
  show(view: StackView): void;
  shown: StackView;
  /** Only packs with this in their names, notes or headings are shown. */
  search: string;
  /** Packs that are marked; undefined where none are being marked. */
  marked: string[] | undefined;
  onMark(marked: string[]): void;
}

const toggled = (all: readonly string[], one: string): string[] =>
  all.includes(one) ? all.filter((other) => other !== one) : [...all, one];

/** How many packs lie together under the heading of one. */
function lengthOfRun(packs: readonly PackView[], from: number): number {
  const end = packs.findIndex(({ notes }, i) => i > from && notes.heading !== packs[from]?.notes.heading);
  return (end < 0 ? packs.length : end) - from;
}

interface HeadingProps {
  heading: string;
  packs: number;
  open: boolean;
  onToggle(): void;
}

/** A heading of the player's own, over the packs that lie together under it. */
function Heading({ heading, packs, open, onToggle }: HeadingProps) {
  const Mark = open ? ChevronDown : ChevronRight;
  return (
    <li>
      <button type="button" className="twig stack-heading" aria-expanded={open} onClick={onToggle}>
        <Mark size={15} aria-hidden />
        <strong>{heading}</strong> <span className="small quiet">{many(packs, 'pack')}</span>
      </button>
    </li>
  );
}

/** The player's own files, to be dropped. */
function OwnFiles() {
  const game = useGame();
  const { act } = useEngine();
  if (game.own.length === 0) return null;
  return (
    <li className="slab">
      <details className="grow">
        <summary>
          <strong>Your own files</strong>{' '}
          <span className="quiet small">{many(game.own.length, 'file')}, above all packs</span>
        </summary>
        <ul className="list-unstyled m-0 mt-1 stackup" style={{ gap: '0.25rem' }}>
          {game.own.map(({ target }) => (
            <li key={target} className="row-of flex-nowrap">
              <span className="path small grow" style={{ overflowWrap: 'anywhere' }}>
                {place(target, game.roots)}
              </span>
              <Button
                size="sm"
                variant="outline-secondary"
                onClick={() => void act((engine) => engine.change({ do: 'drop own file', target }))}
              >
                Drop
              </Button>
            </li>
          ))}
        </ul>
      </details>
    </li>
  );
}

/** A file merged out of several packs'. */
function MergeSlab(p: { merge: MergeView; shown: boolean; onShow(): void }) {
  const { merge, shown, onShow } = p;
  const undecided = merge.open > 0 ? `${many(merge.open, 'place')} to decide` : many(merge.sources.length, 'pack');
  return (
    <li className="slab">
      <Combine size={18} aria-hidden className="flex-shrink-0" />
      <button type="button" className="grow plain" aria-pressed={shown} onClick={onShow}>
        <strong>{merge.name}</strong>
        <span className="small quiet d-block">
          {merge.why ? 'stands aside now' : undecided}
          {merge.stale.length > 0 &&
            ` · ${many(merge.stale.length, 'decision')} no longer ${oneOr(merge.stale.length, 'fits', 'fit')}`}
        </span>
      </button>
    </li>
  );
}

type Dragged = { active: { id: string | number }; over: { id: string | number } | null };

/** What is said aloud while a pack is moved. */
const saying = (nameOf: (id: string | number) => string) => ({
  onDragStart: ({ active }: Pick<Dragged, 'active'>) =>
    `Picked up ${nameOf(active.id)}. Use the arrow keys, then Space to put it down or Escape to leave it.`,
  onDragOver: ({ active, over }: Dragged) =>
    over && over.id !== active.id ? `${nameOf(active.id)} is at the place of ${nameOf(over.id)}.` : undefined,
  onDragEnd: ({ active }: Pick<Dragged, 'active'>) => `${nameOf(active.id)} was put down.`,
  onDragCancel: ({ active }: Pick<Dragged, 'active'>) => `${nameOf(active.id)} stays where it was.`,
});

/** The packs, each under its heading, to be moved. */
function PackSlabs({ top, found, show, shown, marked, onMark }: Omit<SlabsProps, 'search'> & PackSlabsProps) {
  const { act } = useEngine();
  const [folded, setFolded] = useState<string[]>([]);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = top.map(({ layer }) => layer);
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    // Places are counted from the bottom, the list runs from the top.
    void act((engine) =>
      engine.change({
        do: 'move packs',
        layers: [String(active.id)],
        place: ids.length - 1 - ids.indexOf(String(over.id)),
      }),
    );
  };
  const say = saying((id) => top.find(({ layer }) => layer === id)?.name ?? '');
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={drop}
      accessibility={{ announcements: say, container: document.body }}
    >
      <SortableContext items={found.map(({ layer }) => layer)} strategy={verticalListSortingStrategy}>
        {found.flatMap((pack, i) => {
          const { heading } = pack.notes;
          const isFolded = heading !== undefined && folded.includes(heading);
          return [
            heading !== undefined && heading !== found[i - 1]?.notes.heading && (
              <Heading
                key={`${heading} over ${pack.layer}`}
                heading={heading}
                packs={lengthOfRun(found, i)}
                open={!isFolded}
                onToggle={() => setFolded(toggled(folded, heading))}
              />
            ),
            !isFolded && (
              <Slab
                key={pack.layer}
                pack={pack}
                marked={marked?.includes(pack.layer)}
                onMark={() => onMark(toggled(marked ?? [], pack.layer))}
                place={top.length - 1 - ids.indexOf(pack.layer)}
                first={pack.layer === ids[0]}
                last={pack.layer === ids.at(-1)}
                show={show}
                shown={shown}
              />
            ),
          ];
        })}
      </SortableContext>
    </DndContext>
  );
}

interface PackSlabsProps {
  /** All packs, the topmost first. */
  top: readonly PackView[];
  /** Those that are shown. */
  found: readonly PackView[];
}

/** The stack as it lies, the topmost layer first; packs change places by drag, by keyboard and by arrows. */
export function Slabs({ show, shown, search, marked, onMark }: SlabsProps) {
  const game = useGame();
  const top = [...game.packs].reverse();
  const found = packsMeant(top, search);
  return (
    <ol className="list-unstyled stackup m-0" aria-label="Stack, topmost first" style={{ gap: '0.35rem' }}>
      {game.settings.length > 0 && game.deployed.edits + game.switches.filter(({ edited }) => edited).length > 0 && (
        <li className="slab ground">
          <strong className="grow">Your settings</strong>
          <span className="quiet small">edits, above all packs</span>
        </li>
      )}
      <OwnFiles />
      {game.stack.merges.map((merge) => (
        <MergeSlab
          key={merge.id}
          merge={merge}
          shown={shown.kind === 'merge' && shown.id === merge.id}
          onShow={() => show({ kind: 'merge', id: merge.id })}
        />
      ))}
      <PackSlabs top={top} found={found} show={show} shown={shown} marked={marked} onMark={onMark} />
      {found.length === 0 && <li>No pack has this in its name or notes.</li>}
      <li className="slab ground">
        <strong className="grow">{game.title}, as it was</strong>
        <span className="quiet small">{many(game.deployed.originals, 'original')} kept</span>
      </li>
    </ol>
  );
}
