'use client';

import { ChevronDown, ChevronRight, FileText, Folder } from 'lucide-react';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { Path } from '@/ui/shared/Path';
import { Button } from '@/ui/shared/controls';
import { Search } from '@/ui/shared/Search';
import type { Presence } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { count, many, moment, size } from '@/ui/shared/format';
import { Looking } from '@/ui/shared/Looking';
import { PagedRows } from '@/ui/shared/PagedRows';
import { Tag } from '@/ui/shared/Tag';
import { useAddress } from '@/ui/shared/useAddress';
import { useOpenFolders } from '@/ui/shared/useOpenFolders';
import type { PresentRow, PresentView } from '@/worker/contract';
import { FileNow } from './FileNow';

type Only = Presence | 'all' | 'touched';

const PRESENCE_WORDS: Record<Presence, { says: string; verb: string; filter: string }> = {
  own: { says: 'the game’s own', verb: 'quiet', filter: 'The game’s own' },
  brought: { says: 'new, from a pack', verb: 'verb verb-add', filter: 'New from packs' },
  'in place': { says: 'in place of the game’s', verb: 'verb verb-replace', filter: 'In place of the game’s' },
  edited: { says: 'settings, edited', verb: 'verb verb-edit', filter: 'Edited settings' },
  changed: { says: 'changed by another program', verb: 'verb verb-remove', filter: 'Changed by others' },
  gone: { says: 'gone: somebody deleted it', verb: 'verb verb-remove', filter: 'Gone' },
};
const KINDS = ['brought', 'in place', 'edited', 'changed', 'gone', 'own'] as const;

const TITLE = 'What is in the game now';
const HEADS = ['In the game’s folders', 'What it is', 'Put there by', 'Size', 'Written'] as const;

/** How many files of each kind there are, as it is now. */
function usePresent(): PresentView | undefined {
  const { engine, snapshot } = useEngine();
  const [view, setView] = useState<PresentView>();
  const revision = snapshot?.revision;
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'present files' }).then(
      (found) => current && setView(found),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [engine, revision]);
  return view;
}

/** Which files to look at: those that there are some of. */
function Filters({ view, only, onOnly }: { view: PresentView; only: Only; onOnly(only: Only): void }) {
  const { touched, all } = sums(view);
  const filters: { id: Only; says: string; files: number }[] = [
    { id: 'touched', says: 'Not the game’s own', files: touched },
    { id: 'all', says: 'Every file', files: all },
    ...KINDS.map((kind) => ({ id: kind, says: PRESENCE_WORDS[kind].filter, files: view.counts[kind] })),
  ];
  return (
    <div className="row-of grow" role="group" aria-label="Which files">
      {filters
        .filter(({ files, id }) => files > 0 || id === only)
        .map(({ id, says, files }) => (
          <Button
            key={id}
            size="sm"
            variant={id === only ? 'primary' : 'outline-secondary'}
            aria-pressed={id === only}
            onClick={() => onOnly(id)}
          >
            {says} ({count(files)})
          </Button>
        ))}
    </div>
  );
}

/** Files that are not as the game came, and all of them. */
function sums({ counts }: PresentView): { touched: number; all: number } {
  const touched = KINDS.reduce((sum, kind) => sum + (kind === 'own' ? 0 : counts[kind]), 0);
  return { touched, all: touched + counts.own - counts.gone };
}

/** What a file is, or how many of a folder are not the game's own. */
function WhatItIs({ row, only }: { row: PresentRow; only: Only }) {
  if (row.presence)
    return <span className={PRESENCE_WORDS[row.presence].verb}>{PRESENCE_WORDS[row.presence].says}</span>;
  if (only !== 'all' || row.touched === 0) return <span className="quiet">{many(row.files, 'file')}</span>;
  return (
    <span>
      {count(row.touched)} of {count(row.files)} not its own
    </span>
  );
}

/** The cells of one row behind its name; beside an open file there is room for few. */
function Cells({ row, only, wide }: { row: PresentRow; only: Only; wide: boolean }) {
  return (
    <>
      <span role="cell" className="small cut">
        <WhatItIs row={row} only={only} />
      </span>
      {wide && (
        <span role="cell" className="small cut row-of flex-nowrap">
          {row.tag && <Tag tag={row.tag} />} {row.by !== undefined && <Path text={row.by} />}
        </span>
      )}
      <span role="cell" className="small quiet">
        {row.presence === 'gone' ? '' : size(row.size)}
      </span>
      {wide && (
        <span role="cell" className="small quiet cut">
          {row.modified === undefined ? '' : moment(row.modified)}
        </span>
      )}
    </>
  );
}

/** The game's folders as they are, and who put each file there. */
export function InGame() {
  const game = useGame();
  const view = usePresent();
  const [chosen, setOnly] = useState<Only>();
  const [search, setSearch] = useState('');
  const { at, open: openAt } = useAddress();
  const file = at('file');
  const setFile = (path: string | undefined) => openAt({ file: path });
  const touched = view ? sums(view).touched : 0;
  const only: Only = chosen ?? (touched > 0 ? 'touched' : 'all');
  const { open, toggle } = useOpenFolders(`${game.id} ${only}`, view?.first[only === 'all' ? 'all' : 'touched'] ?? []);
  if (!view) return <Looking title={TITLE} says="Looking at the folders…" />;
  const { all } = sums(view);
  const wide = file === undefined;
  return (
    <div className={`fill ${file === undefined ? 'stackup' : 'columns ingame-columns'}`}>
      <div className="stackup fill">
        <div>
          <h1>{TITLE}</h1>
          <p className="quiet m-0">
            {touched === 0
              ? `${many(all, 'file')}, all of them the game’s own or yours: no pack is in it.`
              : `${many(all, 'file')}. ${many(touched, 'of them is', 'of them are')} not as the game came: choose one to see what was there before.`}{' '}
            Only looking changes nothing.
          </p>
        </div>
        <div className="row-of">
          <Filters view={view} only={only} onOnly={setOnly} />
          <Search label="Find a file" value={search} onChange={setSearch} />
        </div>
        <div className="fill">
          <PagedRows<PresentRow>
            label="Files of the game"
            empty={search === '' ? 'There are none.' : 'No file has this in its path.'}
            query={{ view: 'present', only, open, search }}
            columns={wide ? 'minmax(0, 5fr) 13rem minmax(0, 2fr) 6rem 10rem' : 'minmax(0, 5fr) 12rem 6rem'}
            heads={wide ? HEADS : [HEADS[0], HEADS[1], HEADS[3]]}
            cells={(row) => (
              <>
                <Name
                  row={row}
                  chosen={row.path === file}
                  onToggle={toggle}
                  onChoose={setFile}
                  roots={game.roots}
                  searching={search.trim() !== ''}
                />
                <Cells row={row} only={only} wide={wide} />
              </>
            )}
          />
        </div>
        <p className="small quiet m-0">
          Everything that was ever done, and the way back: <Link href="/game/ledger">Ledger</Link>.
        </p>
      </div>
      {file !== undefined && <FileNow key={file} target={file} onClose={() => setFile(undefined)} />}
    </div>
  );
}

interface NameProps {
  row: PresentRow;
  chosen: boolean;
  onToggle(path: string): void;
  onChoose(path: string): void;
  roots: readonly { id: string; title: string }[];
  searching: boolean;
}

function Name({ row, chosen, onToggle, onChoose, roots, searching }: NameProps) {
  const shown =
    row.depth === 0 || searching
      ? row.name.replace(/^[^/]+/, (root) => roots.find(({ id }) => id === root)?.title ?? root)
      : row.name;
  const isFolder = row.kind === 'folder';
  return (
    <span role="cell" style={{ paddingLeft: `${row.depth * 1.1}rem` }} className="cut">
      <button
        type="button"
        className="twig"
        aria-label={shown}
        {...(isFolder ? { 'aria-expanded': row.open } : { 'aria-pressed': chosen })}
        onClick={() => (isFolder ? onToggle(row.path) : onChoose(row.path))}
      >
        {isFolder ? row.open ? <ChevronDown size={15} aria-hidden /> : <ChevronRight size={15} aria-hidden /> : null}
        {isFolder ? (
          <Folder size={15} aria-hidden />
        ) : (
          <FileText size={15} aria-hidden className="quiet flex-shrink-0" />
        )}
        <Path text={shown} />
      </button>
    </span>
  );
}
