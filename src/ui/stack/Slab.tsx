'use client';

import { useSortable } from '@dnd-kit/sortable';
import { ArrowDown, ArrowUp, GripVertical } from 'lucide-react';
import { useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { count, many } from '@/ui/shared/format';
import { useEscape } from '@/ui/shared/useEscape';
import { Tag } from '@/ui/shared/Tag';
import type { PackView } from '@/worker/contract';
import type { StackView } from './stackView';

interface SlabProps {
  pack: PackView;
  /** Whether it is among those that are marked; undefined where none are being marked. */
  marked: boolean | undefined;
  onMark(): void;
  place: number;
  first: boolean;
  last: boolean;
  show(view: StackView): void;
  shown: StackView;
}

/** One pack as it lies in the stack. */
export function Slab({ pack, marked, onMark, place, first, last, show, shown }: SlabProps) {
  const { busy } = useEngine();
  const [asking, setAsking] = useState(false);
  useEscape(asking ? () => setAsking(false) : undefined);
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: pack.layer,
    disabled: busy,
  });
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
      {marked !== undefined && (
        <Form.Check id={`mark-${pack.layer}`} aria-label={`Mark ${pack.name}`} checked={marked} onChange={onMark} />
      )}
      <Tag tag={pack.tag} />
      <button
        type="button"
        className="grow plain"
        aria-pressed={shown.kind === 'pack' && shown.layer === pack.layer}
        title="What it covers, and what covers it"
        onClick={() => show({ kind: 'pack', layer: pack.layer })}
      >
        <strong>{pack.name}</strong>
        <Stands pack={pack} />
      </button>
      {asking ? (
        <TakeOut pack={pack} onKeep={() => setAsking(false)} />
      ) : (
        <Tools pack={pack} place={place} first={first} last={last} onTakeOut={() => setAsking(true)} />
      )}
    </li>
  );
}

/** In one line: whether it is used, and how its files stand to others'. */
function Stands({ pack }: { pack: PackView }) {
  const { wins, loses } = pack.overlaps;
  return (
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
  );
}

/** Asks before a pack is taken out, or taken apart into those that it was made of. */
function TakeOut({ pack, onKeep }: { pack: PackView; onKeep(): void }) {
  const { act, busy } = useEngine();
  return (
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
              : engine.change({ do: 'take out', layers: [pack.layer] }),
          )
        }
      >
        {pack.mergedFrom.length > 0 ? 'Take apart' : 'Take out'}
      </Button>
      <Button variant="outline-secondary" size="sm" onClick={onKeep}>
        Keep
      </Button>
    </span>
  );
}

interface ToolsProps {
  pack: PackView;
  place: number;
  first: boolean;
  last: boolean;
  onTakeOut(): void;
}

/** Used or not, one up, one down, out. */
function Tools({ pack, place, first, last, onTakeOut }: ToolsProps) {
  const { act, busy } = useEngine();
  const move = (to: number) =>
    void act((engine) => engine.change({ do: 'move packs', layers: [pack.layer], place: to }));
  return (
    <span className="slab-tools">
      <Form.Check
        type="switch"
        id={`use-${pack.layer}`}
        aria-label={`Use ${pack.name}`}
        checked={pack.on}
        disabled={busy}
        onChange={() => void act((engine) => engine.change({ do: 'switch packs', layers: [pack.layer], on: !pack.on }))}
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
        aria-label={`${pack.mergedFrom.length > 0 ? 'Take apart' : 'Take out'} ${pack.name}`}
        onClick={onTakeOut}
      >
        {pack.mergedFrom.length > 0 ? 'Take apart' : 'Take out'}
      </Button>
    </span>
  );
}
