'use client';

import { Download, Upload } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { GameCard } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { Looking } from '@/ui/shared/Looking';
import { Notice } from '@/ui/shared/Notice';
import { saveFile } from '@/ui/shared/saveFile';
import { useDraft } from '@/ui/shared/useDraft';
import { useMainAction } from '@/ui/shell/Strap';
import { useFollow } from '@/ui/shared/useFollow';
import { CardTitle } from './CardTitle';
import { Folders } from './Folders';
import { Statements } from './Statements';

/** How the app believes the game works: for the player to confirm, change, save and share. */
export function CardView() {
  const { engine, act, snapshot, busy } = useEngine();
  const game = useGame();
  const follow = useFollow();
  const input = useRef<HTMLInputElement>(null);
  const [card, setCard] = useState<GameCard>();
  const [json, setJson] = useState('');
  const [wrong, setWrong] = useState<string>();
  /** The card that the game has, as text. */
  const [held, setHeld] = useState('');
  const form = card ? JSON.stringify(card, null, 2) : '';
  const revision = snapshot?.revision;
  const clean = useRef(true);
  useEffect(() => {
    clean.current = form === held && json === held;
  });
  const { offer: keptForm } = useDraft('game card, form', form, form === held, (text) =>
    setCard(JSON.parse(text) as GameCard),
  );
  const { offer: keptJson } = useDraft('game card, JSON', json, json === held, setJson);

  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'card' }).then((found) => {
      if (!current) return;
      // What is being written is not taken away by a new picture.
      if (!clean.current) return;
      const text = JSON.stringify(found, null, 2);
      setCard(found);
      setHeld(text);
      setJson(text);
    });
    return () => {
      current = false;
    };
  }, [engine, game.id, revision]);

  const take = async (value: unknown, file?: string) => {
    setWrong(undefined);
    const done = await act(async (remote) => {
      // The game has this card then, and what is shown is the game's.
      clean.current = true;
      await remote.change({ do: 'set card', card: value, from: file });
      return remote.ask({ ask: 'card' });
    });
    if (!done) return false;
    const text = JSON.stringify(done, null, 2);
    setCard(done);
    setHeld(text);
    setJson(text);
    return true;
  };
  const takeText = async (text: string, file?: string) => {
    let value: unknown;
    try {
      value = JSON.parse(text);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
      return;
    }
    await take(value, file);
  };
  const confirm = async () => {
    const go = follow('/game/bring-in');
    if (card && (await take(card))) go();
  };
  useMainAction('Looks right', () => void confirm(), card !== undefined);

  if (!card) return <Looking title={`How ${game.title} works`} says="Looking at the game…" />;
  return (
    <>
      <div>
        <h1>How {game.title} works</h1>
        <p className="quiet m-0">
          The app places packs by this, and by the folders as they are. Nothing here changes a file of the game.
        </p>
      </div>
      <Folders card={card} />
      <Statements card={card} />
      {keptForm}
      <CardTitle card={card} onChange={setCard} />
      {keptJson}
      {wrong && (
        <Notice level="wrong" title="This is not JSON.">
          <p>{wrong}</p>
        </Notice>
      )}
      <details className="sheet stackup" open={json !== held || undefined}>
        <summary>As a file, to pass on or to take in</summary>
        <div className="between">
          <h2>The whole card as JSON</h2>
          <span className="row-of">
            <Button
              size="sm"
              variant="outline-primary"
              onClick={() =>
                saveFile(
                  new Blob([JSON.stringify(card, null, 2)], { type: 'application/json' }),
                  `${card.id}.card.json`,
                )
              }
            >
              <Download size={15} aria-hidden /> Export
            </Button>
            <Button size="sm" variant="outline-primary" disabled={busy} onClick={() => input.current?.click()}>
              <Upload size={15} aria-hidden /> Import
            </Button>
          </span>
          <input
            ref={input}
            type="file"
            hidden
            accept=".json,application/json"
            aria-label="Import a game card"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = '';
              void file?.text().then((text) => takeText(text, file.name));
            }}
          />
        </div>
        <p className="small quiet m-0">
          The same as the sentences above, for other programs and other players; nothing of you or your folders is in
          it. <a href="/game-card.schema.json">The schema</a> describes every part; editors that know JSON Schema help
          with it.
        </p>
        <Form.Control
          as="textarea"
          className="path"
          rows={14}
          spellCheck={false}
          aria-label="Game card as JSON"
          value={json}
          onChange={(event) => setJson(event.target.value)}
        />
        <Button size="sm" className="align-self-start" disabled={busy} onClick={() => void takeText(json)}>
          Take this card
        </Button>
      </details>
    </>
  );
}
