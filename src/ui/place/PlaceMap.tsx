'use client';

import {
  DndContext,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { Folder, FolderOutput, FolderPlus, Undo2 } from 'lucide-react';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Path } from '@/ui/shared/Path';
import { Button } from '@/ui/shared/controls';
import { Search } from '@/ui/shared/Search';
import { many } from '@/ui/shared/format';
import { holdsAll, nameKey, searchWords, type MapLink, type PlaceMap as PlaceLines } from '@/core';
import type { PackView } from '@/worker/contract';
import { MoveForm } from './MoveForm';

/** Folders of the game that are offered beside those in use. */
const OFFERED = 12;

interface Curve {
  key: string;
  d: string;
  kind: MapLink['as'] | 'moved';
}

/** The pack's folders on the left, the game's on the right, and what goes where drawn between them. */
export function PlaceMap({ pack, show }: { pack: PackView; show(target: string): string }) {
  const { engine, snapshot, act, busy } = useEngine();
  const [map, setMap] = useState<PlaceLines>();
  const [gameFolders, setGameFolders] = useState<string[]>([]);
  const [search, setSearch] = useState('');
  const [moving, setMoving] = useState<string>();
  const [curves, setCurves] = useState<Curve[]>([]);
  const field = useRef<HTMLDivElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const revision = snapshot?.revision;

  useEffect(() => {
    if (!engine) return undefined;
    let current = true;
    void Promise.all([
      engine.ask({ ask: 'place map', layer: pack.layer }),
      engine.ask({ ask: 'folders of game' }),
    ]).then(
      ([found, folders]) => {
        if (!current) return;
        setMap(found);
        setGameFolders(folders);
      },
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [engine, pack.layer, revision]);

  const goals = [...new Set<string>(map?.links.map(({ to }) => to) ?? [])].sort();
  // What goes in first; folders of which nothing does stand below, to be dragged in.
  const sources = [
    ...new Set([...(map?.links.map(({ from }) => from) ?? []), ...(map?.leftOut.map(({ from }) => from) ?? [])]),
  ];
  const words = searchWords(search);
  const others = gameFolders
    .filter((folder) => !goals.includes(folder) && holdsAll(nameKey(show(folder)), words))
    .slice(0, OFFERED);

  useLayoutEffect(() => {
    const draw = () => {
      const box = field.current?.getBoundingClientRect();
      if (!box || !map) return;
      const end = (side: 'from' | 'to', value: string) =>
        field.current?.querySelector(`[data-${side}="${CSS.escape(value)}"]`)?.getBoundingClientRect();
      setCurves(
        map.links.flatMap((link) => {
          const [a, b] = [end('from', link.from), end('to', link.to)];
          if (!a || !b) return [];
          const [x1, y1, x2, y2] = [
            a.right - box.left,
            a.top + a.height / 2 - box.top,
            b.left - box.left,
            b.top + b.height / 2 - box.top,
          ];
          const bend = Math.max(20, (x2 - x1) / 2);
          return [
            {
              key: `${link.from}\n${link.to}`,
              d: `M ${x1} ${y1} C ${x1 + bend} ${y1}, ${x2 - bend} ${y2}, ${x2} ${y2}`,
              kind: link.moved ? ('moved' as const) : link.as,
            },
          ];
        }),
      );
    };
    draw();
    const observer = new ResizeObserver(draw);
    if (field.current) observer.observe(field.current);
    return () => observer.disconnect();
  }, [map, search, others.length]);

  const move = (from: string, to: string | undefined) => {
    setMoving(undefined);
    void act((engine) => engine.change({ do: 'move in pack', layer: pack.layer, from, to }));
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over) move(String(active.id).slice('pack:'.length), String(over.id));
  };

  if (!map) return <p role="status">Looking at the folders…</p>;
  return (
    <DndContext sensors={sensors} onDragEnd={onDragEnd}>
      <div className="map" ref={field} aria-label="What goes where" role="group">
        <svg aria-hidden>
          {curves.map(({ key, d, kind }) => (
            <path key={key} d={d} className={`line-${kind}`} />
          ))}
        </svg>
        <div className="side">
          <h2>In the pack</h2>
          {sources.map((from) => {
            const links = map.links.filter((link) => link.from === from);
            const out = map.leftOut.find((one) => one.from === from)?.files ?? 0;
            const moved = pack.placement.moves.some((one) => one.from === from);
            return (
              <Source
                key={from}
                from={from}
                quiet={links.length === 0}
                disabled={busy || links.some(({ as }) => as === 'whole' || as === 'edits')}
              >
                <Path text={from === '' ? '(the whole pack)' : from} />
                <span className="small quiet text-nowrap">
                  {links.length > 0 &&
                    (links.some(({ as }) => as === 'whole')
                      ? 'stays zipped'
                      : many(
                          links.reduce((sum, { files }) => sum + files, 0),
                          'file',
                        ))}
                  {links.length > 0 && out > 0 && ', '}
                  {out > 0 && `${out} left out`}
                </span>
                {moved && (
                  <Button
                    variant="link"
                    size="sm"
                    className="p-0"
                    disabled={busy}
                    onClick={() => move(from, undefined)}
                    aria-label={`Put ${from} back where the app placed it`}
                    title="Back where the app placed it"
                  >
                    <Undo2 size={15} aria-hidden />
                  </Button>
                )}
                <Button
                  variant="link"
                  size="sm"
                  className="p-0"
                  disabled={busy}
                  onClick={() => setMoving(moving === from ? undefined : from)}
                  aria-label={`Put ${from === '' ? 'the whole pack' : from} elsewhere`}
                  title="Put it elsewhere"
                >
                  <FolderOutput size={15} aria-hidden />
                </Button>
              </Source>
            );
          })}
        </div>
        <div className="side">
          <h2>In the game</h2>
          {goals.map((to) => {
            const links = map.links.filter((link) => link.to === to);
            const isNew = !gameFolders.includes(to) && links.every(({ as }) => as === 'files');
            const replacing = links.reduce((sum, link) => sum + link.replacing, 0);
            return (
              <Goal key={to} to={to}>
                {isNew ? <FolderPlus size={15} aria-hidden /> : <Folder size={15} aria-hidden />}
                <Path text={show(to)} className="grow" />
                <span className="small text-nowrap">
                  {links.some(({ as }) => as === 'edits') ? (
                    <span className="verb verb-edit">values edited</span>
                  ) : links.some(({ as }) => as === 'inside') ? (
                    <span className="verb verb-replace">inside this archive</span>
                  ) : isNew ? (
                    <span className="verb verb-add">new folder</span>
                  ) : replacing > 0 ? (
                    <span className="verb verb-replace">{replacing} in place of its own</span>
                  ) : (
                    ''
                  )}
                </span>
              </Goal>
            );
          })}
          <Search label="Other folders of the game" value={search} onChange={setSearch} />
          {others.map((to) => (
            <Goal key={to} to={to} quiet>
              <Folder size={15} aria-hidden />
              <Path text={show(to)} />
            </Goal>
          ))}
        </div>
      </div>
      {moving !== undefined && (
        <MoveForm
          from={moving}
          folders={gameFolders}
          start={map.links.find(({ from }) => from === moving)?.to ?? gameFolders[0] ?? ''}
          onMove={(to) => move(moving, to)}
          onClose={() => setMoving(undefined)}
        />
      )}
    </DndContext>
  );
}

function Source({
  from,
  disabled,
  quiet,
  children,
}: {
  from: string;
  disabled: boolean;
  quiet: boolean;
  children: React.ReactNode;
}) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: `pack:${from}`, disabled });
  return (
    <div
      ref={setNodeRef}
      data-from={from}
      className={`node from ${quiet ? 'quiet' : ''} ${isDragging ? 'dragging' : ''}`}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 5 } : undefined}
      {...listeners}
      title="Drag it onto a folder of the game"
    >
      {children}
    </div>
  );
}

function Goal({ to, quiet = false, children }: { to: string; quiet?: boolean; children: React.ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: to });
  return (
    <div ref={setNodeRef} data-to={to} className={`node to ${quiet ? 'quiet' : ''} ${isOver ? 'over' : ''}`}>
      {children}
    </div>
  );
}
