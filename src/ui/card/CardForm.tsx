'use client';

import { Plus, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { GameCard } from '@/core';
import { useEngine } from '@/ui/engine';

/** The parts of a card that every game has, as a form. */
export function CardForm({ card, onChange }: { card: GameCard; onChange(card: GameCard): void }) {
  const { engine } = useEngine();
  const [files, setFiles] = useState<string[]>([]);
  useEffect(() => {
    void engine?.gameFiles().then(setFiles);
  }, [engine]);
  const setSetting = (at: number, change: Partial<GameCard['settings'][number]>) => onChange({ ...card, settings: card.settings.map((file, i) => (i === at ? { ...file, ...change } : file)) });
  return (
    <section className="sheet stackup" aria-label="Game card">
      <Form.Group controlId="card-title" className="row-of">
        <Form.Label className="m-0" style={{ width: '9rem' }}>
          Name of the game
        </Form.Label>
        <Form.Control size="sm" className="grow" maxLength={80} value={card.title} onChange={(event) => onChange({ ...card, title: event.target.value })} />
      </Form.Group>
      <div className="stackup" style={{ gap: '0.35rem' }}>
        <strong>Settings files</strong>
        <span className="small quiet">Packs never replace these; their values become edits.</span>
        {card.settings.map((file, i) => (
          <div className="row-of" key={i}>
            <Form.Control size="sm" className="path grow" list="card-files" aria-label={`Settings file ${i + 1}`} value={file.target} onChange={(event) => setSetting(i, { target: event.target.value })} />
            <Form.Control size="sm" style={{ maxWidth: '14rem' }} aria-label={`What settings file ${i + 1} is called`} value={file.title} onChange={(event) => setSetting(i, { title: event.target.value })} />
            <Button size="sm" variant="outline-secondary" aria-label={`Not a settings file: ${file.target}`} onClick={() => onChange({ ...card, settings: card.settings.filter((_, other) => other !== i) })}>
              <X size={15} aria-hidden />
            </Button>
          </div>
        ))}
        <Button size="sm" variant="outline-primary" className="align-self-start" onClick={() => onChange({ ...card, settings: [...card.settings, { target: `${card.roots[0]?.id ?? 'game'}/`, dialect: 'ini', title: 'Settings', keys: [] }] })}>
          <Plus size={15} aria-hidden /> Another settings file
        </Button>
      </div>
      <Form.Group controlId="card-log" className="row-of">
        <Form.Label className="m-0" style={{ width: '9rem' }}>
          Its log
        </Form.Label>
        <Form.Control
          size="sm"
          className="path grow"
          list="card-files"
          placeholder="none known"
          value={card.log?.target ?? ''}
          onChange={(event) => {
            const { log, ...rest } = card;
            onChange(event.target.value === '' ? rest : { ...rest, log: { rules: [], counts: [], ...log, target: event.target.value } });
          }}
        />
      </Form.Group>
      <datalist id="card-files">
        {files.map((file) => (
          <option key={file} value={file} />
        ))}
      </datalist>
    </section>
  );
}
