'use client';

import { useState } from 'react';
import { Table } from 'react-bootstrap';
import type { Need } from '@/core';
import { useEngine } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { many, oneOr, size } from '@/ui/shared/format';
import { Search } from '@/ui/shared/Search';
import type { StoredPack } from '@/worker/contract';
import { AT } from './storedWords';

const NEEDS: Record<Exclude<Need, object>, string> = {
  stack: 'in the stack',
  deployed: 'in the game',
  undo: 'a way back would bring it in again',
};
const said = (need: Need): string => (typeof need === 'string' ? NEEDS[need] : `set-up “${need.setUp}”`);

/** What needs a pack; that Undo does is told where nothing else does. */
const needsSaid = ({ needs, spare }: StoredPack): string =>
  needs
    .filter((need) => spare || need !== 'undo')
    .map(said)
    .join(', ') || 'nothing';

const meaning = (spare: number): string =>
  spare === 0
    ? 'Every one of them is needed. A pack that you take out stays until no way back leads to it.'
    : `${many(spare, 'pack is', 'packs are')} only kept so that Undo finds ${oneOr(spare, 'it', 'them')}. Letting go changes nothing in the game; Undo then leads back no further than to where ${oneOr(spare, 'it', 'they')} went.`;

/** Packs that are listed at once. */
const SHOWN = 50;

/** Every pack that is kept and what needs it; those that nothing needs can be let go. */
export function StoredPacks({ packs }: { packs: readonly StoredPack[] }) {
  const { act, busy } = useEngine();
  const [search, setSearch] = useState('');
  const [all, setAll] = useState(false);
  const spare = packs.filter((one) => one.spare);
  const letGo = (some: readonly StoredPack[]) =>
    void act((engine) => engine.change({ do: 'let packs go', ids: some.map(({ id }) => id) }));
  const words = search.trim().toLowerCase();
  const found = packs.filter(({ name, file }) => `${name} ${file}`.toLowerCase().includes(words));
  if (packs.length === 0) return null;
  return (
    <section className="sheet stackup" aria-label="Packs that are kept">
      <div className="row-of">
        <div className="grow">
          <h2>Packs that are kept</h2>
          <p className="m-0 quiet small">{meaning(spare.length)}</p>
        </div>
        {spare.length > 0 && (
          <Button disabled={busy} onClick={() => letGo(spare)}>
            Let {many(spare.length, 'pack')} go ({size(spare.reduce((sum, { bytes }) => sum + bytes, 0))})
          </Button>
        )}
        {packs.length > 8 && <Search label="Search in these packs" value={search} onChange={setSearch} />}
      </div>
      <Table size="sm" className="m-0 align-middle" aria-label="Packs that are kept">
        <thead>
          <tr>
            <th scope="col">Pack</th>
            <th scope="col">What needs it</th>
            <th scope="col">Where</th>
            <th scope="col" className="text-end">
              Room
            </th>
            <th scope="col">
              <span className="visually-hidden">Let it go</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {(all ? found : found.slice(0, SHOWN)).map((pack) => (
            <Row key={pack.id} pack={pack} onLetGo={() => letGo([pack])} />
          ))}
        </tbody>
      </Table>
      {!all && found.length > SHOWN && (
        <Button variant="link" size="sm" className="align-self-start p-0" onClick={() => setAll(true)}>
          Show all {found.length} packs
        </Button>
      )}
    </section>
  );
}

function Row({ pack, onLetGo }: { pack: StoredPack; onLetGo(): void }) {
  const { busy } = useEngine();
  return (
    <tr>
      <th scope="row" className="fw-normal">
        {pack.name} {pack.file !== pack.name && <span className="path small quiet">{pack.file}</span>}
      </th>
      <td className="small">{needsSaid(pack)}</td>
      <td className="small">{AT[pack.at].title}</td>
      <td className="text-end text-nowrap">{size(pack.bytes)}</td>
      <td className="text-end">
        {pack.spare && (
          <Button
            size="sm"
            variant="outline-secondary"
            disabled={busy}
            aria-label={`Let ${pack.name} go`}
            onClick={onLetGo}
          >
            Let go
          </Button>
        )}
      </td>
    </tr>
  );
}
