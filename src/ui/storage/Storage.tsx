'use client';

import dynamic from 'next/dynamic';
import { useEffect, useState } from 'react';
import { Table } from 'react-bootstrap';
import { useEngine } from '@/ui/engine';
import { Looking } from '@/ui/shared/Looking';
import { count, size } from '@/ui/shared/format';
import type { StorageView, StoredAt } from '@/worker/contract';
import { StoredPacks } from './StoredPacks';
import { AT, WHAT, type Words } from './storedWords';

const StorageChart = dynamic(() => import('./StorageChart'));

const TITLE = 'What takes how much room';

/** What takes how much room, where, and what can be let go. */
export function Storage() {
  const { engine, snapshot } = useEngine();
  const [view, setView] = useState<StorageView>();
  const revision = snapshot?.revision;
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'storage' }).then((found) => current && setView(found));
    return () => {
      current = false;
    };
  }, [engine, revision]);
  if (!view) return <Looking title={TITLE} says="Adding up what lies where…" />;
  return (
    <>
      <section className="sheet stackup">
        <div>
          <h1>{TITLE}</h1>
          <p className="m-0 quiet">
            {PLACES.filter((at) => view.parts.some((part) => part.at === at))
              .map((at) => `${size(bytesAt(view, at))} ${AT[at].title}`)
              .join(' · ')}
          </p>
        </div>
        <StorageChart parts={view.parts} />
        <Parts view={view} />
        <Rooms view={view} />
      </section>
      <StoredPacks packs={view.packs} />
    </>
  );
}

const PLACES = Object.keys(AT) as StoredAt[];
const bytesAt = ({ parts }: StorageView, at: StoredAt): number =>
  parts.filter((part) => part.at === at).reduce((sum, { bytes }) => sum + bytes, 0);

function Parts({ view }: { view: StorageView }) {
  return (
    <Table size="sm" className="m-0" aria-label="What lies where">
      <thead>
        <tr>
          <th scope="col">What</th>
          <th scope="col">Where</th>
          <th scope="col" className="text-end">
            Files
          </th>
          <th scope="col" className="text-end">
            Room
          </th>
        </tr>
      </thead>
      <tbody>
        {[...view.parts]
          .sort((a, b) => b.bytes - a.bytes)
          .map(({ what, at, files, bytes }) => {
            const { title, means }: Words = WHAT[what];
            return (
              <tr key={`${what} ${at}`}>
                <th scope="row" className="fw-normal">
                  {title} <span className="quiet small">{means}</span>
                </th>
                <td>
                  {AT[at].title}
                  {view.names[at] !== undefined && <span className="path small"> {view.names[at]}</span>}
                </td>
                <td className="text-end">{count(files)}</td>
                <td className="text-end text-nowrap">{size(bytes)}</td>
              </tr>
            );
          })}
      </tbody>
    </Table>
  );
}

/** What is left where. */
function Rooms({ view }: { view: StorageView }) {
  return (
    <ul className="m-0 ps-3 small">
      {view.rooms.map(({ at, left }) => (
        <li key={at}>
          {AT[at].left} {size(left)}. {AT[at].full}
        </li>
      ))}
      <li>
        The game’s own folders on your disk are not counted: a deployed pack takes the room of its files there, too.
      </li>
    </ul>
  );
}
