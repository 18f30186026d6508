'use client';

import { useState, type ReactNode } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { oneOr, many } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { Tag } from '@/ui/shared/Tag';
import type { MergePreview } from '@/worker/contract';

/** The pack that it would become: its warnings, its folder, what is in more than one of them. */
function WhatItBecomes(p: {
  preview: MergePreview;
  folder: string;
  onFolder(folder: string): void;
  children: ReactNode;
}) {
  const { preview, folder, onFolder, children } = p;
  const different = preview.duplicates.filter(({ identical }) => !identical);
  return (
    <>
      {preview.warnings.map((warning) => (
        <Notice key={warning.says} level={warning.level} title={warning.says}>
          <p>{warning.next}</p>
        </Notice>
      ))}
      {preview.canShareFolder && (
        <Form.Group controlId="combine-folder" className="row-of small">
          <Form.Label className="m-0">One folder for all of them (leave empty to keep their own)</Form.Label>
          <Form.Control
            size="sm"
            value={folder}
            onChange={(event) => onFolder(event.target.value)}
            placeholder="harbour-merged"
            style={{ maxWidth: '14rem' }}
          />
        </Form.Group>
      )}
      <p className="m-0">
        <strong>{preview.name}</strong> will hold {many(preview.files, 'file')}.{' '}
        {different.length === 0
          ? 'No two of them differ about a file.'
          : `${many(different.length, 'file')} ${oneOr(different.length, 'is', 'are')} in more than one of them:`}
      </p>
      {different.length > 0 && (
        <ul className="small reasons duplicates" aria-label="Duplicates">
          {different.slice(0, 500).map(({ path, from }) => (
            <li key={path}>
              <span className="path">{path}</span> <span className="quiet">taken from “{from.at(-1)}”</span>
            </li>
          ))}
        </ul>
      )}
      <div>{children}</div>
    </>
  );
}

/** Makes one pack of several: chosen, looked over, done. */
export function CombinePacks({ onDone }: { onDone(): void }) {
  const game = useGame();
  const { act, busy } = useEngine();
  const [chosen, setChosen] = useState<string[]>([]);
  const [folder, setFolder] = useState('');
  const [preview, setPreview] = useState<MergePreview>();
  const container = folder.trim() === '' ? undefined : folder.trim();
  const choose = async (layers: string[]) => {
    setChosen(layers);
    setPreview(layers.length < 2 ? undefined : await act((engine) => engine.ask({ ask: 'preview merge', layers })));
  };
  const merge = async () => {
    const made = await act((engine) =>
      engine.change({ do: 'merge packs', layers: chosen, ...(container === undefined ? {} : { container }) }),
    );
    if (made) onDone();
  };
  return (
    <section className="sheet stackup scroll" aria-label="Merge packs">
      <h2>Make one pack of several</h2>
      <p className="small quiet m-0">
        For a base and its patch: where both have a file, the higher one’s is taken. The packs stay here, switched off,
        and the merged one can be taken apart again.
      </p>
      <div className="row-of">
        {[...game.packs].reverse().map((pack) => (
          <Form.Check
            key={pack.layer}
            type="checkbox"
            id={`combine-${pack.layer}`}
            checked={chosen.includes(pack.layer)}
            disabled={busy}
            onChange={() =>
              void choose(
                chosen.includes(pack.layer) ? chosen.filter((id) => id !== pack.layer) : [...chosen, pack.layer],
              )
            }
            label={
              <span className="row-of flex-nowrap">
                <Tag tag={pack.tag} /> {pack.name}
              </span>
            }
          />
        ))}
      </div>
      {preview && (
        <WhatItBecomes preview={preview} folder={folder} onFolder={setFolder}>
          <Button disabled={busy} onClick={() => void merge()}>
            Merge them
          </Button>
        </WhatItBecomes>
      )}
    </section>
  );
}
