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
import { useEffect, useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Path } from '@/ui/shared/Path';
import { Button } from '@/ui/shared/controls';
import { Search } from '@/ui/shared/Search';
import { many } from '@/ui/shared/format';
import { holdsAll, nameKey, searchWords, type MapLink, type PlaceMap as PlaceLines } from '@/core';
import type { PackView } from '@/worker/contract';
import { Curves, useCurves } from './curves';
import { MoveForm } from './MoveForm';

/** Folders of the game that are offered beside those in use. */
const OFFERED = 12;

/** The map of a pack, and the folders of the game beside it. */
function usePlaceMap(layer: string): { map: PlaceLines | undefined; gameFolders: string[] } {
  const { engine, snapshot } = useEngine();
  const [map, setMap] = useState<PlaceLines>();
  const [gameFolders, setGameFolders] = useState<string[]>([]);
  const revision = snapshot?.revision;

  useEffect(() => {
    if (!engine) return undefined;
    let current = true;
    void Promise.all([engine.ask({ ask: 'place map', layer }), engine.ask({ ask: 'folders of game' })]).then(
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
  }, [engine, layer, revision]);
  return { map, gameFolders };
}

/** What of one folder of the pack goes into the game, in words. */
function whatGoes(links: readonly MapLink[], out: number): string {
  const files = links.reduce((sum, one) => sum + one.files, 0);
  const goes = links.some(({ as }) => as === 'whole') ? 'stays zipped' : many(files, 'file');
  return [...(links.length > 0 ? [goes] : []), ...(out > 0 ? [`${out} left out`] : [])].join(', ');
}

/** One folder of the pack, to be dragged or put elsewhere by its button. */
function SourceRow(p: { from: string; map: PlaceLines; moved: boolean; onBack(): void; onElsewhere(): void }) {
  const { from, map, moved, onBack, onElsewhere } = p;
  const { busy } = useEngine();
  const links = map.links.filter((link) => link.from === from);
  const out = map.leftOut.find((one) => one.from === from)?.files ?? 0;
  return (
    <Source
      from={from}
      quiet={links.length === 0}
      disabled={busy || links.some(({ as }) => as === 'whole' || as === 'edits')}
    >
      <Path text={from === '' ? '(the whole pack)' : from} />
      <span className="small quiet text-nowrap">{whatGoes(links, out)}</span>
      {moved && (
        <Button
          variant="link"
          size="sm"
          className="p-0"
          disabled={busy}
          onClick={onBack}
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
        onClick={onElsewhere}
        aria-label={`Put ${from === '' ? 'the whole pack' : from} elsewhere`}
        title="Put it elsewhere"
      >
        <FolderOutput size={15} aria-hidden />
      </Button>
    </Source>
  );
}

/** What becomes of one folder of the game. */
function Becomes({ links, isNew }: { links: readonly MapLink[]; isNew: boolean }) {
  const replacing = links.reduce((sum, link) => sum + link.replacing, 0);
  if (links.some(({ as }) => as === 'edits')) return <span className="verb verb-edit">values edited</span>;
  if (links.some(({ as }) => as === 'inside')) return <span className="verb verb-replace">inside this archive</span>;
  if (isNew) return <span className="verb verb-add">new folder</span>;
  return replacing > 0 ? <span className="verb verb-replace">{replacing} in place of its own</span> : null;
}

/** Where the pack's files go, and other folders of the game to drag them to. */
function GameSide(p: {
  map: PlaceLines;
  goals: readonly string[];
  gameFolders: readonly string[];
  show(target: string): string;
  others: readonly string[];
  search: string;
  onSearch(search: string): void;
}) {
  const { map, goals, gameFolders, show, others, search, onSearch } = p;
  return (
    <div className="side">
      <h2>In the game</h2>
      {goals.map((to) => {
        const links = map.links.filter((link) => link.to === to);
        const isNew = !gameFolders.includes(to) && links.every(({ as }) => as === 'files');
        return (
          <Goal key={to} to={to}>
            {isNew ? <FolderPlus size={15} aria-hidden /> : <Folder size={15} aria-hidden />}
            <Path text={show(to)} className="grow" />
            <span className="small text-nowrap">
              <Becomes links={links} isNew={isNew} />
            </span>
          </Goal>
        );
      })}
      <Search label="Other folders of the game" value={search} onChange={onSearch} />
      {others.map((to) => (
        <Goal key={to} to={to} quiet>
          <Folder size={15} aria-hidden />
          <Path text={show(to)} />
        </Goal>
      ))}
    </div>
  );
}

/** The folders of the game that are used, and those of the pack: what goes in first, the rest to be dragged in. */
function sidesOf(map: PlaceLines | undefined): { goals: string[]; sources: string[] } {
  const { links = [], leftOut = [] } = map ?? {};
  return {
    goals: [...new Set<string>(links.map(({ to }) => to))].sort(),
    sources: [...new Set<string>([...links, ...leftOut].map(({ from }) => from))],
  };
}

/** The pack's folders on the left, the game's on the right, and what goes where drawn between them. */
export function PlaceMap({ pack, show }: { pack: PackView; show(target: string): string }) {
  const { act } = useEngine();
  const { map, gameFolders } = usePlaceMap(pack.layer);
  const [search, setSearch] = useState('');
  const [moving, setMoving] = useState<string>();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));

  const { goals, sources } = sidesOf(map);
  const words = searchWords(search);
  const others = gameFolders
    .filter((folder) => !goals.includes(folder) && holdsAll(nameKey(show(folder)), words))
    .slice(0, OFFERED);
  const { field, curves } = useCurves(map, `${search} ${others.length}`);
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
        <Curves curves={curves} />
        <div className="side">
          <h2>In the pack</h2>
          {sources.map((from) => (
            <SourceRow
              key={from}
              from={from}
              map={map}
              moved={pack.placement.moves.some((one) => one.from === from)}
              onBack={() => move(from, undefined)}
              onElsewhere={() => setMoving(moving === from ? undefined : from)}
            />
          ))}
        </div>
        <GameSide
          map={map}
          goals={goals}
          gameFolders={gameFolders}
          show={show}
          others={others}
          search={search}
          onSearch={setSearch}
        />
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
