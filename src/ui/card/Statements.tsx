'use client';

import { useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import { canBeAnswered, type Statement } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { NothingYet } from '@/ui/shared/NothingYet';

const STANDING_WORDS: Record<Statement['standing'], string> = { found: 'found', confirmed: 'you agreed', refused: 'you said no' };

/** So many are shown at first: what was learnt and found most of. */
const SHOWN = 12;

/** What the app knows of a game by itself: each with why, and the player's word on it. */
export function Statements() {
  const { engine, act, busy } = useEngine();
  const { id: game, demo } = useGame();
  const [statements, setStatements] = useState<Statement[]>();
  const [all, setAll] = useState(false);
  useEffect(() => {
    void engine?.statements().then(setStatements);
  }, [engine, game, busy]);
  if (demo || !statements) return null;
  const order = [...statements].sort((a, b) => Number(b.about.what === 'place') - Number(a.about.what === 'place'));
  return (
    <section className="sheet" aria-label="What the app knows of this game">
      <h2>What the app knows of this game</h2>
      {statements.length === 0 && <NothingYet what="The app has found nothing in its folders yet." />}
      <ul className="statements">
        {order.slice(0, all ? undefined : SHOWN).map((statement) => {
          const { id, says, evidence, standing } = statement;
          return (
          <li key={id} className={standing === 'refused' ? 'refused' : undefined}>
            <div className="grow">
              {says} <span className="quiet small">{evidence.map((one) => one.says).join(' ')} ({STANDING_WORDS[standing]})</span>
            </div>
            {canBeAnswered(statement) && <Button
              size="sm" variant="outline-secondary" disabled={busy} aria-label={standing === 'refused' ? `It is so after all: ${says}` : `That is not so: ${says}`}
              onClick={() => void act((one) => one.setStanding(id, standing === 'refused' ? 'confirmed' : 'refused'))}
            >
              {standing === 'refused' ? 'It is so after all' : 'That is not so'}
            </Button>}
          </li>
          );
        })}
      </ul>
      {order.length > SHOWN && (
        <Button size="sm" variant="link" onClick={() => setAll(!all)}>
          {all ? 'Show fewer' : `Show all ${order.length}`}
        </Button>
      )}
    </section>
  );
}
