'use client';

import { ChevronDown, ChevronRight, FileText, Folder } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Path } from '@/ui/shared/Path';
import { Form } from '@/ui/shared/controls';
import { Search } from '@/ui/shared/Search';
import { count, many, place } from '@/ui/shared/format';
import { PagedRows } from '@/ui/shared/PagedRows';
import { Tag } from '@/ui/shared/Tag';
import type { OverlapRow, Standing } from '@/core';
import type { StackView } from './stackView';

const STANDINGS: { standing: Standing; word: string; says: string }[] = [
  { standing: 'on top', word: 'used', says: 'this pack’s file is the one in the game' },
  { standing: 'hidden', word: 'covered', says: 'another layer’s file lies over it' },
  { standing: 'identical', word: 'same', says: 'the very same content as the one that is used' },
  { standing: 'merged', word: 'merged', says: 'part of a merged file' },
];

interface Props {
  show(view: StackView): void;
  /** Open folders; undefined until they have been asked for. */
  open: string[] | undefined;
  setOpen(open: string[]): void;
}

/** Packs that overlap another one; the folders to open first are handed on. */
function useTaking(open: string[] | undefined, setOpen: (open: string[]) => void): string[] {
  const { engine, snapshot } = useEngine();
  const [taking, setTaking] = useState<string[]>([]);
  const revision = snapshot?.revision;
  useEffect(() => {
    if (!engine) return undefined;
    let current = true;
    void engine.ask({ ask: 'first overlaps' }).then(
      ({ folders, layers }) => {
        if (!current) return;
        setTaking(layers);
        if (!open) setOpen(folders);
      },
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [engine, open, setOpen, revision]);
  return taking;
}

/** A folder, to be opened, or a file, to be looked at. */
function Name(p: { row: OverlapRow; whole: boolean; onToggle(): void; onShow(): void }) {
  const { row, whole, onToggle, onShow } = p;
  const { roots } = useGame();
  // Found by a search it stands alone, with its whole place.
  const name = whole ? place(row.path, roots) : row.name;
  if (row.kind === 'file')
    return (
      <button type="button" className="twig ps-3" aria-label={name} onClick={onShow}>
        <FileText size={15} aria-hidden className="quiet flex-shrink-0" />
        <Path text={name} className="link" />
      </button>
    );
  return (
    <button type="button" className="twig" aria-expanded={row.open} onClick={onToggle}>
      {row.open ? <ChevronDown size={15} aria-hidden /> : <ChevronRight size={15} aria-hidden />}
      <Folder size={15} aria-hidden />
      <Path text={roots.find(({ id }) => id === row.path)?.title ?? row.name} />
      <span className="small quiet text-nowrap">
        {row.overlapping > 0 ? many(row.overlapping, 'overlap') : many(row.files, 'file')}
      </span>
    </button>
  );
}

/** The whole stack as one picture: folders down, packs across, and what became of each pack's files. */
export function OverlapPicture({ show, open, setOpen }: Props) {
  const game = useGame();
  const taking = useTaking(open, setOpen);
  const [search, setSearch] = useState('');
  const [all, setAll] = useState(false);
  // Of many packs those that overlap nothing would only push the others out of sight.
  const packs = game.packs.filter(({ on, layer }) => on && (all || taking.includes(layer)));
  const toggle = (path: string) =>
    setOpen(open?.includes(path) ? open.filter((one) => one !== path) : [...(open ?? []), path]);
  return (
    <>
      <div className="between">
        <Search
          label="Find a file or folder in the picture"
          hint="Find a file or folder"
          value={search}
          onChange={setSearch}
        />
        <Form.Check
          type="switch"
          id="all-files"
          label="Every file, the game’s own too"
          checked={all}
          onChange={() => setAll(!all)}
          className="small"
        />
      </div>
      <Legend />
      <div className="fill picture">
        <PagedRows<OverlapRow>
          label="Overlaps"
          empty={search ? 'Nothing of that name overlaps.' : 'No two packs want different things of one file.'}
          query={{ view: 'overlaps', open: open ?? [], search, all }}
          columns={`minmax(14rem, 1fr) repeat(${packs.length}, minmax(3.4rem, 5.5rem))`}
          heads={[
            'Folder of the game',
            ...packs.map((pack) => <Tag key={pack.layer} tag={pack.tag} name={pack.name} />),
          ]}
          cells={(row) => (
            <>
              <span role="cell" className="cut" style={{ paddingLeft: `${row.depth * 1.1}rem` }}>
                <Name
                  row={row}
                  whole={search !== ''}
                  onToggle={() => toggle(row.path)}
                  onShow={() => show({ kind: 'file', target: row.path })}
                />
              </span>
              {packs.map((pack) => (
                <Bar key={pack.layer} row={row} layer={pack.layer} name={pack.name} />
              ))}
            </>
          )}
        />
      </div>
    </>
  );
}

function Legend() {
  return (
    <ul className="legend" aria-label="What the bars mean">
      {STANDINGS.map(({ standing, word, says }) => (
        <li key={standing} title={says}>
          <i className={`bar bar-${standing.replace(' ', '-')}`} /> {word}
        </li>
      ))}
    </ul>
  );
}

/** How one pack's files in one folder stand, as shares of a bar. */
function Bar({ row, layer, name }: { row: OverlapRow; layer: string; name: string }) {
  const found = row.layers.find((one) => one.layer === layer)?.standings;
  if (!found) return <span role="cell" />;
  const parts = STANDINGS.filter(({ standing }) => found[standing] > 0);
  const total = parts.reduce((sum, { standing }) => sum + found[standing], 0);
  const words = parts.map(({ standing, word }) => `${count(found[standing])} ${word}`).join(', ');
  return (
    <span role="cell" className="bars" title={`${name}: ${words}`}>
      {parts.map(({ standing }) => (
        <i
          key={standing}
          className={`bar bar-${standing.replace(' ', '-')}`}
          style={{ flexGrow: Math.max(found[standing], total / 8) }}
        />
      ))}
      <span className="visually-hidden">{`${name}: ${words}`}</span>
      {row.kind === 'folder' && <small aria-hidden>{count(total)}</small>}
    </span>
  );
}
