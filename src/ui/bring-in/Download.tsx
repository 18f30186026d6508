'use client';

import { useEffect, useState } from 'react';
import { Button } from '@/ui/shared/controls';
import { Search } from '@/ui/shared/Search';
import { kindOf } from '@/core';
import { useEngine } from '@/ui/engine';
import { count, many, size } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { PagedRows } from '@/ui/shared/PagedRows';
import { Tag } from '@/ui/shared/Tag';
import { TreeName } from '@/ui/shared/TreeName';
import { useOpenFolders } from '@/ui/shared/useOpenFolders';
import type { PackView, PlaceRow } from '@/worker/contract';
import { Notes } from './Notes';
import { PlaySound } from './PlaySound';
import { Stated } from './Stated';
import { Thumbnails } from './Thumbnails';

const KIND_WORDS: Record<string, [one: string, more: string]> = {
  picture: ['picture', 'pictures'],
  texture: ['texture', 'textures'],
  sound: ['sound', 'sounds'],
  model: ['model', 'models'],
  text: ['text', 'texts'],
  settings: ['settings file', 'settings files'],
  archive: ['archive inside', 'archives inside'],
  program: ['program', 'programs'],
  other: ['other file', 'other files'],
};

/** Notices about a pack that are shown in full. */
const NOTICES = 5;

/** One row of the pack's tree: a folder with what it holds, or a file with what can be done with it here. */
function RowCells(p: { layer: string; row: PlaceRow; onToggle(path: string): void; onOpenInside(path: string): void }) {
  const { layer, row, onToggle, onOpenInside } = p;
  const kind = row.kind === 'folder' ? 'folder' : kindOf(row.path);
  return (
    <>
      <TreeName row={row} onToggle={onToggle} />
      <span role="cell" className="quiet small cut">
        {kind === 'folder' ? kind : (row.picture ?? KIND_WORDS[kind]?.[0])}
        {kind === 'sound' && <PlaySound layer={layer} path={row.path} />}
        {kind === 'archive' && (
          <Button
            variant="link"
            size="sm"
            className="py-0"
            onClick={() => onOpenInside(row.path)}
            aria-label={`Open ${row.name} as a pack of its own`}
          >
            Open it
          </Button>
        )}
      </span>
      <span role="cell" className="quiet small">
        {kind === 'folder' ? count(row.files) : ''}
      </span>
      <span role="cell" className="small">
        {size(row.size)}
      </span>
    </>
  );
}

/** What it is, and how much of what lies in it. */
function Inside({ pack }: { pack: PackView }) {
  return (
    <section className="sheet">
      <div className="row-of">
        <Tag tag={pack.tag} />
        <h1>{pack.name}</h1>
        <span className="quiet small path">
          {pack.file}, {size(pack.archiveSize)}
          {pack.format === 'folder' || pack.format === 'file' ? '' : ' packed'}
        </span>
      </div>
      <div className="figures mt-2">
        <div>
          <b>{count(pack.files)}</b>
          <span>files inside</span>
        </div>
        <div>
          <b>{size(pack.bytes)}</b>
          <span>unpacked</span>
        </div>
        {pack.kinds.slice(0, 5).map(({ kind, files, bytes }) => (
          <div key={kind}>
            <b>{count(files)}</b>
            <span>
              {KIND_WORDS[kind]?.[files === 1 ? 0 : 1]}, {size(bytes)}
            </span>
          </div>
        ))}
      </div>
    </section>
  );
}

/** What was found strange about the pack, the first few in full. */
function Notices({ notices }: { notices: PackView['notices'] }) {
  if (notices.length === 0) return null;
  return (
    <Notice
      level="note"
      title={
        notices.every(({ kind }) => kind === 'case-collision')
          ? `${many(notices.length, 'name')} in this pack fall together`
          : 'Something about this pack'
      }
    >
      {notices.slice(0, NOTICES).map(({ kind, path, says }) => (
        <p key={`${kind} ${path}`}>{says}</p>
      ))}
      {notices.length > NOTICES && <p>And {many(notices.length - NOTICES, 'more', 'more')}.</p>}
    </Notice>
  );
}

/** Its read-me beside its pictures, or one of them alone. */
function ReadMeAndPictures({ pack }: { pack: PackView }) {
  const { engine } = useEngine();
  const [readMe, setReadMe] = useState<string>();
  useEffect(() => {
    if (!engine || !pack.readMe) return;
    void engine
      .ask({ ask: 'text in pack', layer: pack.layer, path: pack.readMe })
      .then(setReadMe, () => setReadMe(undefined));
  }, [engine, pack.layer, pack.readMe]);
  const pictures = pack.pictures.length > 0;
  if (!readMe && !pictures) return null;
  return (
    <div
      style={{
        display: 'grid',
        gridTemplateColumns: readMe && pictures ? 'minmax(0, 1fr) minmax(0, 1fr)' : 'minmax(0, 1fr)',
        gap: '0.7rem',
      }}
    >
      {readMe && (
        <section className="sheet" aria-label="Read-me">
          <h2 className="mb-1">{pack.readMe?.split('/').at(-1)}</h2>
          <pre className="readme">{readMe}</pre>
        </section>
      )}
      {pictures && (
        <Thumbnails
          layer={pack.layer}
          paths={pack.pictures}
          total={pack.kinds.find(({ kind }) => kind === 'picture')?.files ?? 0}
        />
      )}
    </div>
  );
}

/** What is in a pack: sizes, kinds, pictures, read-me, tree. */
export function Download({ pack, onOpenInside }: { pack: PackView; onOpenInside(path: string): void }) {
  const [search, setSearch] = useState('');
  const { open, toggle } = useOpenFolders(pack.layer, pack.firstFolders);

  return (
    <>
      <Inside pack={pack} />
      <Stated pack={pack} />
      {/* What was undone or kept stands in its fields anew. */}
      <Notes key={JSON.stringify(pack.notes)} pack={pack} />
      <Notices notices={pack.notices} />
      <ReadMeAndPictures pack={pack} />
      <div className="between">
        <h2>All files</h2>
        <Search label="Search in this pack" value={search} onChange={setSearch} />
      </div>
      <div className="grow" style={{ minHeight: '12rem' }}>
        <PagedRows<PlaceRow>
          label="Files in the pack"
          empty={search === '' ? 'There is nothing in it.' : 'No file has this in its path.'}
          query={{ view: 'pack', layer: pack.layer, open, search }}
          columns="minmax(0, 1fr) 15rem 5rem 5rem"
          heads={['Name', 'Kind', 'Files', 'Size']}
          cells={(row) => <RowCells layer={pack.layer} row={row} onToggle={toggle} onOpenInside={onOpenInside} />}
        />
      </div>
    </>
  );
}
