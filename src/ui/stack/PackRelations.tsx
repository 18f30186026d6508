'use client';

import { useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Path } from '@/ui/shared/Path';
import { Button, Form } from '@/ui/shared/controls';
import { Search } from '@/ui/shared/Search';
import { place } from '@/ui/shared/format';
import { PagedRows } from '@/ui/shared/PagedRows';
import { saveFile } from '@/ui/shared/saveFile';
import { Tag } from '@/ui/shared/Tag';
import type { Relation } from '@/core';
import type { PackView, RelationRow } from '@/worker/contract';
import type { StackView } from './stackView';

const RELATIONS: { relation: Relation; title: string; empty: string }[] = [
  { relation: 'covers', title: 'What it covers', empty: 'It lies over no other pack’s file.' },
  { relation: 'covered', title: 'What covers it', empty: 'No other pack lies over one of its files.' },
  { relation: 'back', title: 'If it went', empty: 'None of its files is used now.' },
];

/** A rule about this pack and another one, whatever is moved. */
function AlwaysKeep({ layer, others }: { layer: string; others: readonly PackView[] }) {
  const { act, busy } = useEngine();
  const [other, setOther] = useState('');
  const rule = (above: boolean) =>
    void act((engine) => engine.change({ do: 'add rule', lower: above ? other : layer, upper: above ? layer : other }));
  return (
    <div className="row-of small">
      <Form.Label htmlFor="rule-other" className="m-0">
        Always keep
      </Form.Label>
      <Form.Select
        id="rule-other"
        size="sm"
        value={other}
        onChange={(event) => setOther(event.target.value)}
        style={{ width: 'auto', maxWidth: '15rem' }}
      >
        <option value="">choose a pack…</option>
        {others.map((one) => (
          <option key={one.layer} value={one.layer}>
            {one.name}
          </option>
        ))}
      </Form.Select>
      <Button size="sm" variant="outline-primary" disabled={busy || other === ''} onClick={() => rule(true)}>
        below this one
      </Button>
      <Button size="sm" variant="outline-primary" disabled={busy || other === ''} onClick={() => rule(false)}>
        above this one
      </Button>
    </div>
  );
}

/** Which of its files are listed. */
function WhichFiles({ relation, onRelation }: { relation: Relation; onRelation(relation: Relation): void }) {
  return (
    <div className="row-of" role="group" aria-label="Which of its files">
      {RELATIONS.map((one) => (
        <Button
          key={one.relation}
          size="sm"
          variant={relation === one.relation ? 'secondary' : 'outline-secondary'}
          aria-pressed={relation === one.relation}
          onClick={() => onRelation(one.relation)}
        >
          {one.title}
        </Button>
      ))}
    </div>
  );
}

/** One file: the other pack that has it, and which of both is used. */
function RelationCells({ row, onShow }: { row: RelationRow; onShow(): void }) {
  const { roots } = useGame();
  const where = place(row.target, roots);
  return (
    <>
      <span role="cell" className="cut">
        <button type="button" className="twig" aria-label={where} onClick={onShow}>
          <Path text={where} className="link" />
        </button>
      </span>
      <span role="cell">{row.tag && <Tag tag={row.tag} />}</span>
      <span role="cell" className="small quiet cut" title={row.says}>
        {row.says}
      </span>
    </>
  );
}

/** How one pack stands to the others, file by file. */
export function PackRelations({ layer, show }: { layer: string; show(view: StackView): void }) {
  const game = useGame();
  const { act, busy } = useEngine();
  const [relation, setRelation] = useState<Relation>('covers');
  const [search, setSearch] = useState('');
  const pack = game.packs.find((one) => one.layer === layer);
  if (!pack) return null;
  const others = game.packs.filter((one) => one !== pack);
  const save = async () => {
    const made = await act((engine) => engine.ask({ ask: 'pack as zip', layer }));
    if (made) saveFile(made.blob, made.name);
  };
  return (
    <>
      <div className="between">
        <h2 className="row-of">
          <Tag tag={pack.tag} /> {pack.name}
        </h2>
        <Button size="sm" variant="outline-secondary" disabled={busy} onClick={() => void save()}>
          Save it as a ZIP
        </Button>
      </div>
      {pack.mergedFrom.length > 0 && (
        <p className="small quiet m-0">
          Merged out of {pack.mergedFrom.map((name) => `“${name}”`).join(' and ')}. They are still in the stack,
          switched off.
        </p>
      )}
      {others.length > 0 && <AlwaysKeep layer={layer} others={others} />}
      <div className="between">
        <WhichFiles relation={relation} onRelation={setRelation} />
        <Search label="Find a file of this pack" hint="Find a file" value={search} onChange={setSearch} />
      </div>
      <div className="fill picture">
        <PagedRows<RelationRow>
          label={RELATIONS.find((one) => one.relation === relation)?.title ?? ''}
          empty={RELATIONS.find((one) => one.relation === relation)?.empty ?? ''}
          query={{ view: 'relations', layer, relation, search }}
          columns="minmax(0, 5fr) 5rem minmax(0, 4fr)"
          heads={['File', 'Other pack', 'How it stands']}
          cells={(row) => <RelationCells row={row} onShow={() => show({ kind: 'file', target: row.target })} />}
        />
      </div>
    </>
  );
}
