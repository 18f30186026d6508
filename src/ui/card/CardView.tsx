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

/** The game's card, and what is being written of it as a form and as text. */
function useCard() {
  const { engine, act, snapshot } = useEngine();
  const game = useGame();
  const [card, setCard] = useState<GameCard>();
  const [json, setJson] = useState('');
  /** The card that the game has, as text. */
  const [held, setHeld] = useState('');
  const form = card ? JSON.stringify(card, null, 2) : '';
  const revision = snapshot?.revision;
  const clean = useRef(true);
  useEffect(() => {
    clean.current = form === held && json === held;
  });
  const show = (found: GameCard) => {
    const text = JSON.stringify(found, null, 2);
    setCard(found);
    setHeld(text);
    setJson(text);
  };

  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'card' }).then((found) => {
      // What is being written is not taken away by a new picture.
      if (!current || !clean.current) return;
      show(found);
    });
    return () => {
      current = false;
    };
  }, [engine, game.id, revision]);

  const take = async (value: unknown, file?: string) => {
    const done = await act(async (remote) => {
      // The game has this card then, and what is shown is the game's.
      clean.current = true;
      await remote.change({ do: 'set card', card: value, from: file });
      return remote.ask({ ask: 'card' });
    });
    if (done) show(done);
    return done !== undefined;
  };
  return { card, setCard, form, json, setJson, held, take };
}

/** Saves the card as a file, and takes one in. */
function OutAndIn({ card, onText }: { card: GameCard; onText(text: string, name: string): void }) {
  const { busy } = useEngine();
  const input = useRef<HTMLInputElement>(null);
  const save = () =>
    saveFile(new Blob([JSON.stringify(card, null, 2)], { type: 'application/json' }), `${card.id}.card.json`);
  return (
    <>
      <span className="row-of">
        <Button size="sm" variant="outline-primary" onClick={save}>
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
          void file?.text().then((text) => onText(text, file.name));
        }}
      />
    </>
  );
}

/** The whole card as text: saved as a file, taken from one, or written here. */
function CardFile(p: {
  card: GameCard;
  json: string;
  open: boolean;
  onText(json: string): void;
  onTake(value: unknown, file?: string): Promise<boolean>;
}) {
  const { card, json, open, onText, onTake } = p;
  const { busy } = useEngine();
  const [wrong, setWrong] = useState<string>();
  const takeText = async (text: string, file?: string) => {
    let value: unknown;
    setWrong(undefined);
    try {
      value = JSON.parse(text);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
      return;
    }
    await onTake(value, file);
  };
  return (
    <>
      {wrong && (
        <Notice level="wrong" title="This is not JSON.">
          <p>{wrong}</p>
        </Notice>
      )}
      <details className="sheet stackup" open={open || undefined}>
        <summary>As a file, to pass on or to take in</summary>
        <div className="between">
          <h2>The whole card as JSON</h2>
          <OutAndIn card={card} onText={(text, name) => void takeText(text, name)} />
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
          onChange={(event) => onText(event.target.value)}
        />
        <Button size="sm" className="align-self-start" disabled={busy} onClick={() => void takeText(json)}>
          Take this card
        </Button>
      </details>
    </>
  );
}

/** How the app believes the game works: for the player to confirm, change, save and share. */
export function CardView() {
  const game = useGame();
  const follow = useFollow();
  const { card, setCard, form, json, setJson, held, take } = useCard();
  const { offer: keptForm } = useDraft('game card, form', { text: form, clean: form === held }, (text) =>
    setCard(JSON.parse(text) as GameCard),
  );
  const { offer: keptJson } = useDraft('game card, JSON', { text: json, clean: json === held }, setJson);

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
      <CardFile card={card} json={json} open={json !== held} onText={setJson} onTake={take} />
    </>
  );
}
