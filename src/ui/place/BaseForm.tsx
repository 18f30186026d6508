'use client';

import { useEffect, useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many } from '@/ui/shared/format';
import type { PackView } from '@/worker/contract';

interface BaseFormProps {
  pack: PackView;
  show(target: string): string;
  onChoose(strip: string, base: string): void;
}

/** The places that the app knows for it, each with its reason. */
function Choices({ pack, show, onChoose }: BaseFormProps) {
  const { busy } = useEngine();
  return (
    <div className="stackup" style={{ gap: '0.3rem' }}>
      {pack.placement.choices.map((choice) => (
        <div className="row-of" key={`${choice.strip} ${choice.base}`}>
          <Button
            size="sm"
            variant="outline-primary"
            disabled={busy}
            onClick={() => onChoose(choice.strip, choice.base)}
          >
            Into <span className="path">{show(choice.base)}</span>
          </Button>
          <span className="small quiet">
            {choice.strip !== '' && `Contents of “${choice.strip}”. `}
            {choice.matched > 0
              ? `${many(choice.matched, 'file falls', 'files fall')} into folders the game has. `
              : ''}
            {choice.reason}
          </span>
        </div>
      ))}
    </div>
  );
}

/** Choosing another place: one of the app's, or any folder of the pack into any folder of the game. */
export function BaseForm({ pack, show, onChoose }: BaseFormProps) {
  const { engine, busy } = useEngine();
  const { placement } = pack;
  const first = placement.parts[0] ?? placement.choices[0];
  const [strip, setStrip] = useState(placement.parts[0]?.from ?? placement.choices[0]?.strip ?? '');
  const [base, setBase] = useState<string>(show(first && 'to' in first ? first.to : (first?.base ?? '')));
  const [folders, setFolders] = useState<{ pack: string[]; game: string[] }>({ pack: [], game: [] });
  useEffect(() => {
    if (!engine) return;
    void Promise.all([
      engine.ask({ ask: 'folders of pack', layer: pack.layer }),
      engine.ask({ ask: 'folders of game' }),
    ]).then(([ofPack, ofGame]) => setFolders({ pack: ofPack.slice(0, 500), game: ofGame.slice(0, 2000) }));
  }, [engine, pack.layer]);
  return (
    <div className="stackup">
      {placement.choices.length > 0 && <Choices pack={pack} show={show} onChoose={onChoose} />}
      <Form
        className="row-of align-items-end"
        onSubmit={(event) => {
          event.preventDefault();
          onChoose(strip, base);
        }}
      >
        <Form.Group controlId="strip" className="grow">
          <Form.Label className="small mb-1">Take the contents of this folder of the pack</Form.Label>
          <Form.Select value={strip} onChange={(event) => setStrip(event.target.value)} className="path">
            {(folders.pack.includes(strip) ? folders.pack : [strip, ...folders.pack]).map((folder) => (
              <option key={folder} value={folder}>
                {folder === '' ? '(the whole pack)' : folder}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="base" className="grow">
          <Form.Label className="small mb-1">and put them into this folder of the game</Form.Label>
          <Form.Control
            className="path"
            list="game-folders"
            value={base}
            onChange={(event) => setBase(event.target.value)}
          />
          <datalist id="game-folders">
            {folders.game.map((folder) => (
              <option key={folder} value={show(folder)} />
            ))}
          </datalist>
        </Form.Group>
        <Button type="submit" disabled={busy}>
          Place it there
        </Button>
      </Form>
    </div>
  );
}
