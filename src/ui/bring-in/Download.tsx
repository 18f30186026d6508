'use client';

import { useEffect, useState } from 'react';
import { Form } from 'react-bootstrap';
import { kindOf } from '@/core';
import { useEngine } from '@/ui/engine';
import { count, many, size } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { PagedRows } from '@/ui/shared/PagedRows';
import { Tag } from '@/ui/shared/Tag';
import { TreeName } from '@/ui/shared/TreeName';
import { useOpenFolders } from '@/ui/shared/useOpenFolders';
import type { PackView, PlaceRow } from '@/worker/api';
import { Thumbnails } from './Thumbnails';

const KIND_WORDS: Record<string, [one: string, more: string]> = {
  picture: ['picture', 'pictures'], texture: ['texture', 'textures'], sound: ['sound', 'sounds'], model: ['model', 'models'], text: ['text', 'texts'],
  settings: ['settings file', 'settings files'], archive: ['archive inside', 'archives inside'], program: ['program', 'programs'], other: ['other file', 'other files'],
};

/** What is in a pack: sizes, kinds, pictures, read-me, tree. */
export function Download({ pack }: { pack: PackView }) {
  const { engine } = useEngine();
  const [search, setSearch] = useState('');
  const [readMe, setReadMe] = useState<string>();
  const { open, toggle } = useOpenFolders(pack.layer, pack.firstFolders);
  useEffect(() => {
    if (!engine || !pack.readMe) return;
    void engine.readText(pack.layer, pack.readMe).then(setReadMe, () => setReadMe(undefined));
  }, [engine, pack.layer, pack.readMe]);
  const programs = pack.kinds.find(({ kind }) => kind === 'program');

  return (
    <>
      <section className="sheet">
        <div className="row-of">
          <Tag tag={pack.tag} />
          <h1>{pack.name}</h1>
          <span className="quiet small path">
            {pack.file}, {size(pack.archiveSize)} packed
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
      {programs && (
        <Notice level="note" title={`There ${programs.files === 1 ? 'is a program' : `are ${count(programs.files)} programs`} inside.`}>
          <p>The app never runs anything out of a pack.</p>
        </Notice>
      )}
      {pack.notices.length > 0 && (
        <Notice level="note" title={`${many(pack.notices.length, 'name')} in this pack fall together`}>
          <p>{pack.notices[0]?.says}</p>
        </Notice>
      )}
      {(readMe || pack.pictures.length > 0) && (
        <div style={{ display: 'grid', gridTemplateColumns: readMe && pack.pictures.length > 0 ? 'minmax(0, 1fr) minmax(0, 1fr)' : 'minmax(0, 1fr)', gap: '0.7rem' }}>
          {readMe && (
            <section className="sheet" aria-label="Read-me">
              <h2 className="mb-1">{pack.readMe?.split('/').at(-1)}</h2>
              <pre className="readme">{readMe}</pre>
            </section>
          )}
          {pack.pictures.length > 0 && <Thumbnails layer={pack.layer} paths={pack.pictures} total={pack.kinds.find(({ kind }) => kind === 'picture')?.files ?? 0} />}
        </div>
      )}
      <div className="between">
        <h2>All files</h2>
        <Form.Control size="sm" type="search" placeholder="Search in this pack" aria-label="Search in this pack" style={{ maxWidth: '18rem' }} value={search} onChange={(event) => setSearch(event.target.value)} />
      </div>
      <div className="grow" style={{ minHeight: '12rem' }}>
        <PagedRows<PlaceRow>
          label="Files in the pack"
          empty={search === '' ? 'There is nothing in it.' : 'No file has this in its path.'}
          query={{ view: 'pack', layer: pack.layer, open, search }}
          columns="minmax(0, 1fr) 7rem 7rem 6rem"
          heads={['Name', 'Kind', 'Files', 'Size']}
          cells={(row) => (
            <>
              <TreeName row={row} onToggle={toggle} />
              <span role="cell" className="quiet small">
                {row.kind === 'folder' ? 'folder' : KIND_WORDS[kindOf(row.path)]?.[0]}
              </span>
              <span role="cell" className="quiet small">
                {row.kind === 'folder' ? count(row.files) : ''}
              </span>
              <span role="cell" className="small">
                {size(row.size)}
              </span>
            </>
          )}
        />
      </div>
    </>
  );
}
