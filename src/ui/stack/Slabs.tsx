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
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { ArrowDown, ArrowUp, Combine, GripVertical } from 'lucide-react';
import { useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { oneOr, count, many, place } from '@/ui/shared/format';
import { useEscape } from '@/ui/shared/useEscape';
import { Tag } from '@/ui/shared/Tag';
import type { PackView } from '@/worker/contract';
import type { StackView } from './stackView';

/** Is a pack meant by what the player looks for: its name, its download, what is noted of it? */
const isMeant = ({ name, file, notes }: PackView, words: string): boolean =>
  [name, file, notes.origin, notes.version, notes.remember].join(' ').toLowerCase().includes(words);

interface SlabsProps {
  show(view: StackView): void;
  shown: StackView;
  /** Only packs with this in their names or notes are shown. */
  search: string;
}

/** The stack as it lies, the topmost layer first; packs change places by drag, by keyboard and by arrows. */
export function Slabs({ show, shown, search }: SlabsProps) {
  const game = useGame();
  const { act } = useEngine();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const top = [...game.packs].reverse();
  const ids = top.map(({ layer }) => layer);
  const words = search.trim().toLowerCase();
  const found = top.filter((pack) => isMeant(pack, words));
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    // Places are counted from the bottom, the list runs from the top.
    void act((engine) =>
      engine.change({
        do: 'move pack',
        layer: String(active.id),
        place: ids.length - 1 - ids.indexOf(String(over.id)),
      }),
    );
  };
  const nameOf = (id: string | number) => game.packs.find(({ layer }) => layer === id)?.name ?? '';
  const say = {
    onDragStart: ({ active }: { active: { id: string | number } }) =>
      `Picked up ${nameOf(active.id)}. Use the arrow keys, then Space to put it down or Escape to leave it.`,
    onDragOver: ({ active, over }: { active: { id: string | number }; over: { id: string | number } | null }) =>
      over && over.id !== active.id ? `${nameOf(active.id)} is at the place of ${nameOf(over.id)}.` : undefined,
    onDragEnd: ({ active }: { active: { id: string | number } }) => `${nameOf(active.id)} was put down.`,
    onDragCancel: ({ active }: { active: { id: string | number } }) => `${nameOf(active.id)} stays where it was.`,
  };
  return (
    <ol className="list-unstyled stackup m-0" aria-label="Stack, topmost first" style={{ gap: '0.35rem' }}>
      {game.settings.length > 0 && game.deployed.edits + game.switches.filter(({ edited }) => edited).length > 0 && (
        <li className="slab ground">
          <strong className="grow">Your settings</strong>
          <span className="quiet small">edits, above all packs</span>
        </li>
      )}
      {game.own.length > 0 && (
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
      )}
      {game.stack.merges.map((merge) => (
        <li className="slab" key={merge.id}>
          <Combine size={18} aria-hidden className="flex-shrink-0" />
          <button
            type="button"
            className="grow plain"
            aria-pressed={shown.kind === 'merge' && shown.id === merge.id}
            onClick={() => show({ kind: 'merge', id: merge.id })}
          >
            <strong>{merge.name}</strong>
            <span className="small quiet d-block">
              {merge.why
                ? 'stands aside now'
                : merge.open > 0
                  ? `${many(merge.open, 'place')} to decide`
                  : many(merge.sources.length, 'pack')}
              {merge.stale.length > 0 &&
                ` · ${many(merge.stale.length, 'decision')} no longer ${oneOr(merge.stale.length, 'fits', 'fit')}`}
            </span>
          </button>
        </li>
      ))}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={drop}
        accessibility={{ announcements: say, container: document.body }}
      >
        <SortableContext items={found.map(({ layer }) => layer)} strategy={verticalListSortingStrategy}>
          {found.map((pack) => (
            <Slab
              key={pack.layer}
              pack={pack}
              place={top.length - 1 - ids.indexOf(pack.layer)}
              first={pack.layer === ids[0]}
              last={pack.layer === ids.at(-1)}
              show={show}
              shown={shown}
            />
          ))}
        </SortableContext>
      </DndContext>
      {found.length === 0 && <li>No pack has this in its name or notes.</li>}
      <li className="slab ground">
        <strong className="grow">{game.title}, as it was</strong>
        <span className="quiet small">{many(game.deployed.originals, 'original')} kept</span>
      </li>
    </ol>
  );
}

interface SlabProps {
  pack: PackView;
  place: number;
  first: boolean;
  last: boolean;
  show(view: StackView): void;
  shown: StackView;
}

function Slab({ pack, place, first, last, show, shown }: SlabProps) {
  const { act, busy } = useEngine();
  const [asking, setAsking] = useState(false);
  useEscape(asking ? () => setAsking(false) : undefined);
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: pack.layer,
    disabled: busy,
  });
  const { wins, loses } = pack.overlaps;
  const move = (to: number) => void act((engine) => engine.change({ do: 'move pack', layer: pack.layer, place: to }));
  return (
    <li
      ref={setNodeRef}
      className={`slab ${pack.on ? '' : 'off'} ${isDragging ? 'dragging' : ''}`}
      style={{ transform: transform ? `translate3d(0, ${transform.y}px, 0)` : undefined, transition }}
    >
      <button
        type="button"
        className="grip"
        {...attributes}
        {...listeners}
        aria-label={`Drag ${pack.name}`}
        aria-roledescription="pack that can be moved"
      >
        <GripVertical size={16} aria-hidden />
      </button>
      <Tag tag={pack.tag} />
      <button
        type="button"
        className="grow plain"
        aria-pressed={shown.kind === 'pack' && shown.layer === pack.layer}
        title="What it covers, and what covers it"
        onClick={() => show({ kind: 'pack', layer: pack.layer })}
      >
        <strong>{pack.name}</strong>
        <span className="small quiet d-block">
          {!pack.on
            ? 'left out of the next deployment'
            : pack.placement.confidence === 'ask'
              ? 'not placed yet'
              : many(pack.placement.placed, 'file')}
          {wins > 0 && ` · covers ${many(wins, 'file')} of packs below`}
          {loses > 0 && ` · ${many(loses, 'of its files lies', 'of its files lie')} under something above`}
          {pack.deployed > 0 && ` · ${count(pack.deployed)} in the game now`}
        </span>
      </button>
      {asking ? (
        <span className="row-of">
          <span className="small">
            {pack.mergedFrom.length > 0 ? 'Take it apart into its packs?' : 'Take it out? Undo brings it back.'}
          </span>
          <Button
            variant="danger"
            size="sm"
            disabled={busy}
            onClick={() =>
              void act<unknown>((engine) =>
                pack.mergedFrom.length > 0
                  ? engine.change({ do: 'take apart', layer: pack.layer })
                  : engine.change({ do: 'take out', layer: pack.layer }),
              )
            }
          >
            {pack.mergedFrom.length > 0 ? 'Take apart' : 'Take out'}
          </Button>
          <Button variant="outline-secondary" size="sm" onClick={() => setAsking(false)}>
            Keep
          </Button>
        </span>
      ) : (
        <span className="slab-tools">
          <Form.Check
            type="switch"
            id={`use-${pack.layer}`}
            aria-label={`Use ${pack.name}`}
            checked={pack.on}
            disabled={busy}
            onChange={() => void act((engine) => engine.change({ do: 'switch pack', layer: pack.layer, on: !pack.on }))}
          />
          <Button
            variant="outline-secondary"
            size="sm"
            disabled={busy || first}
            aria-label={`Move ${pack.name} up`}
            onClick={() => move(place + 1)}
          >
            <ArrowUp size={15} aria-hidden />
          </Button>
          <Button
            variant="outline-secondary"
            size="sm"
            disabled={busy || last}
            aria-label={`Move ${pack.name} down`}
            onClick={() => move(place - 1)}
          >
            <ArrowDown size={15} aria-hidden />
          </Button>
          <Button
            variant="outline-danger"
            size="sm"
            disabled={busy}
            aria-label={pack.mergedFrom.length > 0 ? `Take ${pack.name} apart` : `Take ${pack.name} out of the stack`}
            onClick={() => setAsking(true)}
          >
            {pack.mergedFrom.length > 0 ? 'Take apart' : 'Take out'}
          </Button>
        </span>
      )}
    </li>
  );
}
