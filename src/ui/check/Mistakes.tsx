'use client';

import { useEffect, useState } from 'react';
import { z } from 'zod';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { useFollow } from '@/ui/shared/useFollow';

const mistakesSchema = z.array(
  z.object({ game: z.string(), file: z.string(), title: z.string(), goes: z.string(), cure: z.string() }),
);
type Mistake = z.infer<typeof mistakesSchema>[number];

/** The list of mistakes, for the demo games only. */
export function Mistakes() {
  const { id, demo } = useGame();
  const { act, busy, snapshot } = useEngine();
  const follow = useFollow();
  const [mistakes, setMistakes] = useState<Mistake[]>([]);
  useEffect(() => {
    if (!demo) return;
    // Without them the page only lacks a list of things to try.
    void fetch('/shelf/mistakes.json').then(
      async (response) => setMistakes(mistakesSchema.parse(await response.json())),
      () => undefined,
    );
  }, [demo]);
  if (!demo || mistakes.length === 0) return null;
  const take = async ({ game, file }: Mistake) => {
    const go = follow('/game/place');
    const done = await act(async (engine) => {
      if (game !== id) await engine.change({ do: 'choose game', id: game });
      return engine.change({ do: 'fetch from shelf', file });
    });
    if (done) go();
  };
  return (
    <details className="sheet">
      <summary>{mistakes.length} things that go wrong, to try on the demo games…</summary>
      <ol className="mt-2 mb-0 mistakes">
        {mistakes.map((one) => (
          <li key={one.title}>
            <div className="between">
              <span>
                <strong>{one.title}</strong>
                {one.game !== id && (
                  <span className="quiet"> in {snapshot?.games.find((game) => game.id === one.game)?.title}</span>
                )}
                <span className="d-block small">
                  {one.goes} <span className="quiet">{one.cure}</span>
                </span>
              </span>
              <Button
                size="sm"
                variant="outline-secondary"
                className="py-0"
                disabled={busy}
                aria-label={`Try: ${one.title}`}
                onClick={() => void take(one)}
              >
                Bring in the pack
              </Button>
            </div>
          </li>
        ))}
      </ol>
    </details>
  );
}
